// Clips whose small frames and sound are still being made on the server: posters stand for them, and the bar says how far it is.

import { get } from "../api.js";
import { setWaiting } from "../frame/clip_pictures.js";
import { counted } from "../format.js";
import { part } from "./compose.js";
import { page } from "./page.js";

const ASKED_MS = 500;

export const preparing = part({
  /** How many clips are ready, of how many; the same when all are. */
  prepared: [0, 0],

  /** Before anything is drawn: which clips the page came without. */
  beginPreparing() {
    setWaiting((this.$root.dataset.waiting ?? "").split(" ").filter(Boolean));
  },

  async followPreparing() {
    let left = (this.$root.dataset.waiting ?? "") !== "";
    while (left) {
      try {
        const { waiting, clips } = await get(`/api/projects/${this.project}/preparing`);
        this.prepared = [clips - waiting.length, clips];
        left = waiting.length > 0;
        const ready = setWaiting(waiting);
        if (ready.length) {
          page.stage.clipsReady(ready);
          this.redraw();
        }
      } catch {
        // the server is gone for a moment: others say so
      }
      if (left) await new Promise((done) => setTimeout(done, ASKED_MS));
    }
  },

  /** @returns {boolean} */
  get arePrepared() {
    return this.prepared[0] === this.prepared[1];
  },

  /** @returns {string} */
  get preparingText() {
    const [ready, all] = this.prepared;
    return `Preparing clips: ${ready} of ${counted(all, "clip")} ready`;
  },
});
