// Numbers as the editor reads them.

/** Seconds as 0:22.90. @param {number} seconds */
export function clock(seconds) {
  const hundredths = Math.round(Math.max(0, seconds) * 100);
  const minutes = Math.floor(hundredths / 6000);
  const rest = (hundredths % 6000) / 100;
  return `${minutes}:${rest.toFixed(2).padStart(5, "0")}`;
}

/** Seconds and frames as 0:22:27. @param {number} frame @param {{numerator: number, denominator: number}} rate */
export function timecode(frame, rate) {
  const base = Math.ceil(rate.numerator / rate.denominator);
  const seconds = Math.floor(frame / base);
  const two = (/** @type {number} */ n) => String(n).padStart(2, "0");
  return `${Math.floor(seconds / 60)}:${two(seconds % 60)}:${two(frame % base)}`;
}

/** The day of a moment (ISO 8601) as it is here: 2027-03-01. @param {string} moment */
export const localDay = (moment) => {
  const here = new Date(moment);
  const two = (/** @type {number} */ n) => String(n).padStart(2, "0");
  return `${here.getFullYear()}-${two(here.getMonth() + 1)}-${two(here.getDate())}`;
};

/** A signed number of seconds: +0.40 s. @param {number} value */
export function signed(value) {
  return `${value < 0 ? "−" : "+"}${Math.abs(value).toFixed(2)} s`;
}

const TICKS_PER_SECOND = 705600000;

/** Seconds of a clip as the ticks it is asked for by. @param {number} s */
export const ticks = (s) => Math.round(s * TICKS_PER_SECOND);

/** @param {number} value */
export const seconds = (value) => `${value.toFixed(2)} s`;

/** @param {number} value */
export const pace = (value) => `×${value.toFixed(2)}`;

/** @param {number} count */
export function size(count) {
  if (count < 1000) return `${count} bytes`;
  return count < 1e6 ? `${(count / 1e3).toFixed(0)} kB` : `${(count / 1e6).toFixed(1)} MB`;
}

/** "1 line", "3 lines". @param {number} count @param {string} one @param {string} [many] */
export const counted = (count, one, many) => `${count} ${count === 1 ? one : (many ?? `${one}s`)}`;
