// Plays the piece. The clock is the audio clock; the picture follows it.

import { bytes } from "../api.js";

const KEPT_MIXES = 3;

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

  /** Get a mix before it is asked for. @param {string} path */
  prepare(path) {
    this.#mix(path).catch(() => {});
  }

  /** Play a mix from a second to another. @param {string} path @param {number} start @param {number} end @param {boolean} loop */
  async play(path, start, end, loop = false) {
    const mine = this.#begin();
    const context = this.#context();
    const [buffer] = await Promise.all([this.#mix(path), context.resume()]);
    if (mine !== this.generation) return;
    this.range = { start, end: Math.min(end, buffer.duration), loop };
    this.#start(buffer, start, loop ? "shot" : "piece");
    this.#tick(mine);
  }

  /** Play a sound by itself; with a body it is asked for by POST. @param {string} path @param {string} what @param {object} [body] */
  async playSound(path, what, body) {
    const mine = this.#begin();
    const context = this.#context();
    const [data] = await Promise.all([bytes(path, body), context.resume()]);
    const buffer = await context.decodeAudioData(data);
    if (mine !== this.generation) return;
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
      source.loopStart = this.range.start;
      source.loopEnd = this.range.end;
    }
    source.onended = () => {
      if (this.source === source) this.stop();
    };
    this.began = context.currentTime;
    this.at = offset;
    source.start(0, offset);
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
    return loop && end > start ? start + ((this.at - start + passed) % (end - start)) : Math.min(this.at + passed, end);
  }

  /** @param {number} mine */
  #tick(mine) {
    if (mine !== this.generation || !this.source) return;
    const now = this.position();
    this.onMove(now);
    if (!this.range.loop && now >= this.range.end) {
      this.stop();
      return;
    }
    requestAnimationFrame(() => this.#tick(mine));
  }

  stop() {
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
