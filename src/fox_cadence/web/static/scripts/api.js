// Requests to the server. Every failure becomes a Refusal with words for the editor.

/** @typedef {import("./types.d.ts").ProjectJson|import("./types.d.ts").Changes} Answer */
/** @typedef {import("./types.d.ts").Job} Job */

/** Which state of the project this page has: answers tell only what has changed since. */
let known = "";

/** @param {string} version '' to be told the whole again */
export function know(version) {
  known = version;
}

/** A request the server did not carry out. `state` and `clash` are there after a clash with another window. */
export class Refusal extends Error {
  /** @param {string} message @param {number} status @param {Answer|null} state @param {any} [clash] both versions */
  constructor(message, status, state, clash = null) {
    super(message);
    this.status = status;
    this.state = state;
    this.clash = clash;
  }
}

const BROKEN_OFF = "The answer broke off. Is Fox Cadence still running in the terminal?";

/**
 * @param {string} path
 * @param {RequestInit} [options]
 * @returns {Promise<any>}
 */
async function ask(path, options = {}) {
  let answer;
  try {
    answer = await fetch(path, { ...options, headers: { ...options.headers, "x-known-version": known } });
  } catch {
    throw new Refusal("Fox Cadence does not answer. Is it still running in the terminal?", 0, null);
  }
  const data = await answer.json().catch(() => {
    // an answer that breaks off says "OK" too: what it was to tell is not there, and must not be taken for it
    if (answer.ok) throw new Refusal(BROKEN_OFF, 0, null);
    return {};
  });
  if (!answer.ok)
    throw new Refusal(
      data.detail ?? `It was refused (${answer.status}).`,
      answer.status,
      data.state ?? null,
      data.clash ?? null,
    );
  return data;
}

/** @param {string} path */
export const get = (path) => ask(path);

/** @param {string} path @param {object} [body] */
export const post = (path, body) =>
  ask(path, {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body ?? {}),
  });

/** @param {string} path @param {object} body */
export const put = (path, body) =>
  ask(path, {
    method: "PUT",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body),
  });

/** @param {string} path @param {FormData} form */
export const postForm = (path, form) => ask(path, { method: "POST", body: form });

/** @param {string} path */
export const remove = (path) => ask(path, { method: "DELETE" });

/** The file that was chosen in a field, as a form of its own; the field is ready for the next. @param {Event} event
 * @returns {{file: File, form: FormData}|null} null where none was chosen */
export function chosenFile(event) {
  const field = /** @type {HTMLInputElement} */ (event.target);
  const file = field.files?.[0];
  if (!file) return null;
  const form = new FormData();
  form.append("file", file, file.name);
  field.value = "";
  return { file, form };
}

/** A file's bytes; with a body it is asked for by POST. @param {string} path @param {object} [body] @returns {Promise<ArrayBuffer>} */
export async function bytes(path, body) {
  let answer;
  const options = body && {
    method: "POST",
    headers: { "content-type": "application/json" },
    body: JSON.stringify(body),
  };
  try {
    answer = await fetch(path, options);
  } catch {
    throw new Refusal("Fox Cadence does not answer. Is it still running in the terminal?", 0, null);
  }
  if (!answer.ok) {
    const data = await answer.json().catch(() => ({}));
    throw new Refusal(data.detail ?? `It could not be fetched (${answer.status}).`, answer.status, null);
  }
  return answer.arrayBuffer().catch(() => {
    throw new Refusal(BROKEN_OFF, 0, null);
  });
}

/**
 * Wait for a job, telling how far it is.
 *
 * @param {Job} job
 * @param {(job: Job) => void} onChange
 * @returns {Promise<Job>}
 */
export async function follow(job, onChange) {
  let now = job;
  while (now.state === "waiting" || now.state === "running") {
    onChange(now);
    await new Promise((resolve) => setTimeout(resolve, 120));
    now = await get(`/api/jobs/${job.id}`);
  }
  onChange(now);
  return now;
}
