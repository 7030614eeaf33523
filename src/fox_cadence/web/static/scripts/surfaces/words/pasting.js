// Pasting into the script page.

/** @typedef {import("./script_text.js").ScriptText} ScriptText */

/** Characters before the caret stay, those after it go on: [before, after]. @param {ScriptText} field @returns {[string, string]} */
export function cutAt(field) {
  const [from, to] = field.range() ?? [field.text.length, field.text.length];
  return [field.text.slice(0, from), field.text.slice(to)];
}

/**
 * Several paragraphs come where the caret is: the first goes on with what stands before it, the last with what stands
 * after.
 *
 * @param {import("./typing.js").Typing} typing @param {ScriptText} field @param {string[]} paragraphs
 */
export async function pasteParagraphs(typing, field, paragraphs) {
  const { script, tells } = typing;
  const [before, after] = cutAt(field);
  const { kind, line, shot } = field.dataset;
  const first = `${before}${paragraphs[0]}`;
  const last = `${paragraphs.at(-1)}${after}`;
  const all = [first, ...paragraphs.slice(1, -1), last];
  if (kind === "draft") {
    const draft = script.draft;
    if (!draft) return;
    const made = await tells.typeParagraphs({
      paragraphs: all,
      after_line_id: draft.after,
      shot_id: draft.shot,
      shown: draft.shown,
    });
    if (!made.length) return;
    script.write(null);
    script.focusLine(made[made.length - 1], Infinity);
    return;
  }
  const found = script.lineOf(line ?? "");
  if (kind === "heading" || !found) {
    await typing.keep(field);
    await tells.typeParagraphs({
      paragraphs,
      after_line_id: script.lineBefore(field),
      shot_id: shot ?? null,
    });
    return;
  }
  const typed = typing.editOf(field, first);
  const made = await tells.typeParagraphs({
    paragraphs: all.slice(1),
    after_line_id: found.id,
    shown: found.captions.length > 0 || kind === "unshown",
    before: typed ? [typed] : [],
  });
  if (made.length) script.focusLine(made[made.length - 1], paragraphs[paragraphs.length - 1].length);
}
