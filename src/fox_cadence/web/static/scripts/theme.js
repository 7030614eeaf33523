// Day and night: the same tokens, other values. Kept for this browser.

/** Follow what was chosen last, else what the system asks for; `[data-theme-switch]` changes it. */
export function setUpTheme() {
  const root = document.documentElement;
  const night =
    localStorage.getItem("theme") ?? (matchMedia("(prefers-color-scheme: dark)").matches ? "night" : "day");
  root.dataset.theme = night;
  document.addEventListener("click", (event) => {
    const target = event.target instanceof Element ? event.target.closest("[data-theme-switch]") : null;
    if (!target) return;
    root.dataset.theme = root.dataset.theme === "night" ? "day" : "night";
    localStorage.setItem("theme", root.dataset.theme);
  });
}
