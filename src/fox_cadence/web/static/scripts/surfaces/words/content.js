// The words a line says with their direction, as the script page shows them in the text.

/** @typedef {import("../../types.d.ts").Line} Line */
/** @typedef {import("./script_text.js").Content} Content */

/** Null where a line says what it shows, and nothing is marked. @type {WeakMap<Line, Content|null>} */
const kept = new WeakMap();

/** @param {Line} line @param {boolean} shown @returns {Content|null} */
export function saidContent(line, shown) {
  const known = kept.get(line);
  if (known !== undefined) return known;
  const plain = !line.own_words && shown && !line.marks.length && !line.pauses.length;
  const made = plain ? null : marked(line);
  kept.set(line, made);
  return made;
}

/** @param {Line} line @returns {Content} */
function marked(line) {
  const words = line.said_words;
  const looks = words.map((_, index) =>
    line.marks
      .filter((mark) => mark.first_word <= index && index < mark.end_word)
      .map((mark) => (mark.kind === "emphasis" ? `weight-${mark.level}` : `has-${mark.kind}`))
      .join(" "),
  );
  const titles = words.map((_, index) => {
    const said = line.marks.find(
      (mark) => mark.kind === "pronunciation" && mark.first_word <= index && index < mark.end_word,
    );
    return said ? `said ${said.ipa ? `/${said.ipa}/` : said.spelled}` : "";
  });
  const after = words.map((_, index) => {
    const pause = line.pauses.find((item) => item.after === index);
    const breath = line.marks.some((mark) => mark.kind === "breath" && mark.after_word === index);
    return `${pause ? `${pause.seconds.toFixed(2)} s` : ""}${breath ? " breath" : ""}`.trim();
  });
  return { text: line.said, words, looks, titles, after };
}
