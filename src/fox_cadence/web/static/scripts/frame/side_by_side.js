// Sounds that run side by side, of which one is heard: going over to another one keeps the place.

import { bytes } from "../api.js";

const SWITCH_S = 0.012;
const REST_S = 0.5;

export class SideBySide {
  constructor() {
    /** @type {Array<{gain: GainNode, source: AudioBufferSourceNode}>} */
    this.voices = [];
  }

  /** Play all of them again and again, and hear one. @param {string[]} paths @param {number} heard */
  async play(paths, heard) {
    this.stop();
    const context = new AudioContext({ sampleRate: 48000 });
    const buffers = await Promise.all(paths.map(async (path) => context.decodeAudioData(await bytes(path))));
    await context.resume();
    const begin = context.currentTime + 0.05;
    const longest = Math.max(...buffers.map((each) => each.length)) + context.sampleRate * REST_S;
    this.voices = buffers.map((buffer, place) => {
      const source = context.createBufferSource();
      const gain = context.createGain();
      source.buffer = context.createBuffer(1, longest, context.sampleRate); // all go round together
      source.buffer.copyToChannel(buffer.getChannelData(0), 0);
      source.loop = true;
      gain.gain.value = place === heard ? 1 : 0;
      source.connect(gain).connect(context.destination);
      source.start(begin);
      return { gain, source };
    });
  }

  /** @param {number} heard */
  hear(heard) {
    for (const [place, { gain }] of this.voices.entries())
      gain.gain.setTargetAtTime(place === heard ? 1 : 0, gain.context.currentTime, SWITCH_S);
  }

  stop() {
    for (const { source } of this.voices) source.stop();
    this.voices = [];
  }
}
