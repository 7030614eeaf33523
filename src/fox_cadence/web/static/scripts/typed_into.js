// The field that something is typed into and not kept yet. An answer that comes meanwhile puts the value there that
// was known before: what was typed comes back, and is told when the field is left, because the browser takes a value
// that was put there for one that nobody typed.

/** @type {{field: HTMLInputElement|HTMLTextAreaElement, value: string, restored: boolean}|null} */
let typed = null;

document.addEventListener("input", ({ target }) => {
  if (target instanceof HTMLInputElement || target instanceof HTMLTextAreaElement)
    typed = { field: target, value: target.value, restored: typed?.field === target && typed.restored };
});
document.addEventListener(
  "change",
  () => {
    if (typed && typed.field.value !== typed.value) typed.field.value = typed.value;
    typed = null;
  },
  true, // before anybody reads the field
);
document.addEventListener("focusout", leave);
document.addEventListener("keydown", ({ key }) => {
  if (key === "Enter" && typed?.field instanceof HTMLInputElement) leave();
});

function leave() {
  const left = typed;
  typed = null;
  if (!left || (!left.restored && left.field.value === left.value)) return; // the browser tells it
  left.field.value = left.value;
  left.field.dispatchEvent(new Event("change", { bubbles: true }));
}

/** After the fields have been filled anew. */
export function keepTyped() {
  if (!typed || typed.field.value === typed.value) return;
  typed.field.value = typed.value;
  typed.restored = true;
}
