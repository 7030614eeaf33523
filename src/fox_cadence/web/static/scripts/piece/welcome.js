// The first visit: three steps to try on the sample, each ticked when it is done.

import { part } from "./compose.js";

const SEEN = "fox-cadence-welcomed";

export const welcome = part({
  welcomed: localStorage.getItem(SEEN) === "yes",
  heardOnce: false,

  /** @returns {boolean} */
  get welcomeShown() {
    return this.loaded && !this.welcomed && this.$root.dataset.sample === "yes";
  },

  /** @returns {Array<{text: string, key: string, done: boolean, go: string}>} */
  get firstSteps() {
    const spilling = this.spillingText;
    return [
      { text: "Play the piece", key: "Space", done: this.heardOnce, go: "play" },
      {
        text: spilling ? `Make ${spilling} fit: choose a remedy on the right` : "Make every line fit",
        key: "",
        done: this.loaded && !spilling,
        go: "fit",
      },
      { text: "Make the video, and have it proven", key: "7", done: this.docket !== null, go: "export" },
    ];
  },

  /** @param {string} go */
  goToStep(go) {
    if (go === "play") return this.toggle();
    if (go === "export") return this.setPass("export");
    this.setPass("fit");
    this.setDesk("line");
    this.chooseState("spills");
  },

  closeWelcome() {
    this.welcomed = true;
    localStorage.setItem(SEEN, "yes");
  },
});
