// Plays the piece. The clock is the audio clock; the picture follows it.

import { bytes } from "../api.js";

const KEPT_MIXES = 3;
/** A longer piece is fetched and played stretch by stretch. */
const LONG_S = 300;
const STRETCH_S = 120;
/** What is heard at once of a mix that is not there yet, and for how long it is waited for. */
const [FIRST_S, SOON_MS] = [6, 40];
/** A mix takes the server a second: not one for each of several changes that come one after the other. */
const REST_MS = 600;

/** Where the sound of a piece comes from, and how long it is. @typedef {{path: string, seconds: number}} Sound */

export class Player {
  /**
   * @param {(seconds: number) => void} onMove called while playing and when the place changes
   * @param {(playing: string) => void} onState "" when still, "piece", "shot" or "line"
   */
  constructor(onMove, onState) {
    this.onMove = onMove;
    this.onState = onState;
    /** @type {AudioContext|null} */
    this.context = null;
    /** @type {AudioBufferSourceNode|null} */
    this.source = null;
    /** The newest mixes by where they come from. @type {Map<string, Promise<AudioBuffer>>} */
    this.mixes = new Map();
    this.at = 0;
    this.began = 0;
    this.range = { start: 0, end: 0, loop: false };
    this.playing = "";
    this.generation = 0;
    /** @type {ReturnType<typeof setTimeout>|undefined} */
    this.preparing = undefined;
    /** The second of the piece at which the buffer begins. */
    this.origin = 0;
    /** @type {(() => Promise<void>)|null} */
    this.next = null;
    /** What is played follows another part: then there was time to make the whole. */
    this.continues = false;
  }

  #context() {
    this.context ??= new AudioContext({ sampleRate: 48000 });
    return this.context;
  }

  /** A full mix, fetched once. @param {string} path @returns {Promise<AudioBuffer>} */
  #mix(path) {
    let mix = this.mixes.get(path);
    if (!mix) {
      mix = bytes(path).then((data) => this.#context().decodeAudioData(data));
      mix.catch(() => this.mixes.delete(path));
      this.mixes.set(path, mix);
      for (const old of this.mixes.keys()) {
        if (this.mixes.size <= KEPT_MIXES) break;
        this.mixes.delete(old);
      }
    }
    return mix;
  }

  /** Get a mix before it is asked for, once changes rest for a moment and unless it is long. @param {Sound} sound */
  prepare(sound) {
    clearTimeout(this.preparing);
    if (sound.seconds <= LONG_S)
      this.preparing = setTimeout(() => this.#mix(sound.path).catch(() => {}), REST_MS);
  }

  /** Play a mix from a second to another. @param {Sound} sound @param {number} start @param {number} end @param {boolean} loop */
  async play(sound, start, end, loop = false) {
    const mine = this.#begin();
    const context = this.#context();
    const long = sound.seconds > LONG_S;
    const whole = !long && (loop || (await this.#isThere(sound.path)));
    if (mine !== this.generation) return;
    // a mix that is not there yet is begun with a part of its own: the whole is made meanwhile
    const until = whole ? end : Math.min(end, start + (long && this.continues ? STRETCH_S : FIRST_S));
    const part = `${sound.path}&start=${start}&end=${until}${this.continues ? "" : "&at_once=true"}`;
    const path = whole ? sound.path : part;
    const [buffer] = await Promise.all([this.#mix(path), context.resume()]);
    if (mine !== this.generation) return;
    if (!whole && !long) this.#mix(sound.path).catch(() => {});
    this.origin = whole ? 0 : start;
    this.range = { start, end: Math.min(until, this.origin + buffer.duration), loop };
    this.next = until < end && !loop ? () => this.#goOn(sound, until, end) : null;
    this.#start(buffer, start, loop ? "shot" : "piece");
    this.#tick(mine);
  }

  /** What follows a part. @param {Sound} sound @param {number} start @param {number} end */
  async #goOn(sound, start, end) {
    this.continues = true;
    try {
      await this.play(sound, start, end);
    } finally {
      this.continues = false;
    }
  }

  /** Whether a mix has come already. @param {string} path */
  async #isThere(path) {
    const mix = this.mixes.get(path);
    if (!mix) return false;
    const soon = new Promise((done) => setTimeout(() => done(false), SOON_MS));
    return Promise.race([mix.then(() => true).catch(() => false), soon]);
  }

  /** Play a sound by itself; with a body it is asked for by POST. @param {string} path @param {string} what @param {object} [body] */
  async playSound(path, what, body) {
    const mine = this.#begin();
    const context = this.#context();
    const [data] = await Promise.all([bytes(path, body), context.resume()]);
    const buffer = await context.decodeAudioData(data);
    if (mine !== this.generation) return;
    this.origin = 0;
    this.next = null;
    this.#start(buffer, 0, what);
  }

  #begin() {
    this.stop();
    return ++this.generation;
  }

  /** @param {AudioBuffer} buffer @param {number} offset @param {string} what */
  #start(buffer, offset, what) {
    const context = this.#context();
    const source = context.createBufferSource();
    source.buffer = buffer;
    source.connect(context.destination);
    if (what === "shot") {
      source.loop = true;
      source.loopStart = this.range.start - this.origin;
      source.loopEnd = this.range.end - this.origin;
    }
    source.onended = () => {
      if (this.source === source) this.#ended();
    };
    this.began = context.currentTime;
    this.at = offset;
    source.start(0, offset - this.origin);
    this.source = source;
    this.playing = what;
    this.onState(what);
  }

  /** Where the sound now heard lies in the piece. */
  position() {
    const context = this.#context();
    const delay = context.outputLatency || context.baseLatency || 0;
    const passed = Math.max(0, context.currentTime - this.began - delay);
    const { start, end, loop } = this.range;
    return loop && end > start
      ? start + ((this.at - start + passed) % (end - start))
      : Math.min(this.at + passed, end);
  }

  /** @param {number} mine */
  #tick(mine) {
    if (mine !== this.generation || !this.source) return;
    const now = this.position();
    this.onMove(now);
    if (!this.range.loop && now >= this.range.end) return this.#ended();
    requestAnimationFrame(() => this.#tick(mine));
  }

  /** A stretch has ended: the next one follows, or there is silence. */
  #ended() {
    const next = this.next;
    this.stop();
    next?.().catch(() => {});
  }

  stop() {
    this.next = null;
    this.generation++;
    const source = this.source;
    this.source = null;
    if (source) {
      source.onended = null;
      source.stop();
    }
    if (this.playing) {
      this.playing = "";
      this.onState("");
    }
  }
}
