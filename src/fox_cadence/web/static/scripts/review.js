// The page of a review link: the transcript follows the video, notes stand in it at their moments.

import { clock, localDay } from "./format.js";
import { element } from "./svg.js";
import { setUpTheme } from "./theme.js";

/** @typedef {{id: string, at_s: number, author: string, text: string, answer: string, done: boolean}} Note */

const ASKED_MS = 10_000;

setUpTheme();
const root = document.getElementById("review");
if (root) show(root);

/** @param {HTMLElement} root */
function show(root) {
  const find = (/** @type {string} */ id) => /** @type {any} */ (document.getElementById(id));
  const path = root.dataset.path ?? "";
  /** @type {HTMLVideoElement} */
  const video = find("watch");
  const said = find("said");
  /** @type {HTMLTextAreaElement} */
  const text = find("note-text");
  /** @type {HTMLInputElement} */
  const author = find("note-author");
  let moment_s = 0;

  for (const button of root.querySelectorAll("li > [data-seek]"))
    button.textContent = clock(Number(/** @type {HTMLElement} */ (button).dataset.seek));
  for (const time of document.querySelectorAll("time")) time.textContent = localDay(time.dateTime); // else it is that of UTC
  author.value = localStorage.getItem("fox-review-name") ?? "";

  const take = () => {
    moment_s = video.currentTime;
    find("moment").textContent = clock(moment_s);
  };
  root.addEventListener("click", (event) => {
    const target = /** @type {HTMLElement} */ (event.target);
    const button = /** @type {HTMLElement|null} */ (target.closest("[data-seek]"));
    if (!button) return;
    video.currentTime = Number(button.dataset.seek);
  });
  for (const happened of ["timeupdate", "seeked"])
    video.addEventListener(happened, () => {
      if (!text.value) take(); // a note that is being written keeps its moment
      mark(said, video.currentTime);
    });
  text.addEventListener("focus", () => video.pause());
  find("moment-now").addEventListener("click", take);

  find("leave").addEventListener("submit", async (/** @type {Event} */ event) => {
    event.preventDefault();
    localStorage.setItem("fox-review-name", author.value);
    const body = JSON.stringify({ at_s: moment_s, author: author.value, text: text.value });
    const headers = { "content-type": "application/json" };
    const answer = await ask(`${path}/notes`, { method: "POST", headers, body });
    if (!answer) return;
    text.value = "";
    take();
    find("left").textContent = "Your note is left.";
    lay(said, answer);
  });

  /** @param {string} address @param {RequestInit} [options] @returns {Promise<Note[]|null>} */
  async function ask(address, options) {
    const wrong = find("not-left");
    try {
      const answer = await fetch(address, options);
      const data = await answer.json().catch(() => ({}));
      wrong.hidden = answer.ok;
      if (answer.ok) return data;
      wrong.textContent = data.detail ?? `It was refused (${answer.status}).`;
    } catch {
      wrong.hidden = false;
      wrong.textContent = "There is no answer. Your words are still here; try again.";
    }
    find("left").textContent = "";
    return null;
  }

  const refresh = async () => {
    const notes = await ask(`${path}/notes`);
    if (notes) lay(said, notes);
  };
  refresh();
  setInterval(() => document.visibilityState === "visible" && refresh(), ASKED_MS);
}

/** Show which line is heard. @param {HTMLElement} said @param {number} at_s */
function mark(said, at_s) {
  for (const item of /** @type {NodeListOf<HTMLElement>} */ (said.querySelectorAll("[data-until]"))) {
    const heard = Number(item.dataset.at) <= at_s && at_s < Number(item.dataset.until);
    if (heard && !item.classList.contains("heard")) item.scrollIntoView({ block: "nearest" });
    item.classList.toggle("heard", heard);
  }
}

/** Put the notes where they belong among what is said. @param {HTMLElement} said @param {Note[]} notes */
function lay(said, notes) {
  const key = JSON.stringify(notes);
  if (said.dataset.laid === key) return;
  said.dataset.laid = key;
  for (const old of said.querySelectorAll(".review-note")) old.remove();
  for (const note of notes) {
    const later = [.../** @type {NodeListOf<HTMLElement>} */ (said.querySelectorAll("li"))];
    const next = later.find((item) => Number(item.dataset.at) > note.at_s);
    said.insertBefore(drawn(note), next ?? null);
  }
}

/** @param {Note} note */
function drawn(note) {
  const item = element("li", note.done ? "review-note review-done" : "review-note");
  item.dataset.at = String(note.at_s);
  const go = element("button", "mono", clock(note.at_s));
  go.dataset.seek = String(note.at_s);
  const words = element("p");
  words.append(element("b", "", note.author), " ", note.text);
  if (note.done) words.append(" ", element("span", "soft", "done"));
  if (note.answer) words.append(element("span", "review-answer", note.answer));
  item.append(go, words);
  return item;
}
