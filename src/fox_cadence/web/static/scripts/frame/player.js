// Plays the piece. The clock is the audio clock; the picture follows it.

import { bytes } from "../api.js";

/** @typedef {import("../types.js").Timeline} Timeline */

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
    /** @type {{revision: number, buffer: AudioBuffer}|null} */
    this.mix = null;
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

  /** The full mix of the project as it stands, fetched once for each revision. @param {Timeline} timeline */
  async #mix(timeline) {
    if (this.mix?.revision === timeline.revision) return this.mix.buffer;
    const data = await bytes(`/api/projects/${timeline.project}/mix.wav?revision=${timeline.revision}`);
    const buffer = await this.#context().decodeAudioData(data);
    this.mix = { revision: timeline.revision, buffer };
    return buffer;
  }

  /** Get the sound of a revision before it is asked for. @param {Timeline} timeline */
  prepare(timeline) {
    this.#mix(timeline).catch(() => {});
  }

  /** Play from a second to another. @param {Timeline} timeline @param {number} start @param {number} end @param {boolean} loop */
  async play(timeline, start, end, loop = false) {
    const mine = this.#begin();
    const context = this.#context();
    const [buffer] = await Promise.all([this.#mix(timeline), context.resume()]);
    if (mine !== this.generation) return;
    this.range = { start, end: Math.min(end, buffer.duration), loop };
    this.#start(buffer, start, loop ? "shot" : "piece");
    this.#tick(mine);
  }

  /** Play one line alone. @param {Timeline} timeline @param {string} lineId */
  async playLine(timeline, lineId) {
    await this.playSound(`/api/projects/${timeline.project}/lines/${lineId}/sound.wav`, "line");
  }

  /** Play a sound by itself. @param {string} path @param {string} what */
  async playSound(path, what) {
    const mine = this.#begin();
    const context = this.#context();
    const [data] = await Promise.all([bytes(path), context.resume()]);
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
