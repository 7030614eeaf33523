// What a surface is: the large left part of a pass (surfaces.js has them all in one table).

import type { State } from "../piece/state.d.ts";
import type { Proposal, Timeline } from "../types.d.ts";

/** What a surface is given to show: the piece, and what is chosen in it. It changes nothing of this. */
export type View = {
  t: Timeline;
  proposal: Proposal | null;
  line: string;
  shot: string;
  caption: string;
  /** The chosen title; '' where a caption is chosen. */
  title: string;
  /** What was found wrong of words on the screen, by id, as far as it is known. */
  proved: Map<string, { of: string; proof: import("../answers.d.ts").ProofJson }>;
  /** Changes of picture found in the clip of the chosen shot, in frames from its start. */
  marks: Array<{ at: number; certainty: number; on: boolean }>;
  /** How the mix stands, as far as it is known. */
  sound: import("../answers.d.ts").SoundJson | null;
  /** The chosen bed and the chosen effect. */
  bed: string;
  effect: string;
  /** Notes of reviews with the frame each belongs to, in the order of the film; the one that is open. */
  notes: Array<import("../piece/reviewing.js").ReviewNote & { frame: number }>;
  noteOpen: string;
  /** Pixels a second, where time runs down the surface. */
  scale: number;
};

/** What a surface tells the page and asks of it. */
export type Tells = Pick<
  State,
  // what is chosen, and the moment
  | "choose"
  | "chooseShot"
  | "chooseCaption"
  | "chooseTitle"
  | "chooseBed"
  | "chooseEffect"
  | "hearColumn"
  | "seek"
  | "pick"
  | "setPass"
  | "zoom"
  // changes
  | "edit"
  | "edits"
  | "typeParagraphs"
  | "pictureEdit"
  | "placeClip"
  | "placeColour"
  | "bringIn"
  | "layItem"
  | "openFill"
  | "hearClip"
  | "step"
  | "attempt"
  | "follow"
  | "dropped"
  | "givenBack"
  | "typeCaption"
  // hearing, and the marks of chosen words
  | "hearLine"
  | "hearPicked"
  | "hearVoice"
  | "weighNext"
  | "pauseAfterPicked"
  | "toWordsDesk"
  | "wordsDropped"
  | "recast"
  | "shortlist"
  | "voiceName"
  | "linesOf"
  | "setCastDesk"
  | "compareBy"
  // exports
  | "makeExport"
  | "exportLines"
  | "learnDocket"
  | "chooseRow"
  | "changeRow"
  | "showAllRows"
  | "prove"
  | "setProveAfter"
  // reviews
  | "openNote"
  | "showNote"
  | "answerNote"
  | "markNote"
  | "makeReview"
  | "copyReview"
  | "revokeReview"
  | "learnReviewLog"
  // words for the editor
  | "tell"
  | "failed"
  | "announce"
> & {
  readonly project: string;
  readonly busy: boolean;
  readonly orders: State["orders"];
  readonly rowName: string;
  readonly allRows: boolean;
  readonly reviews: State["reviews"];
  readonly reviewLog: State["reviewLog"];
  readonly job: State["job"];
  readonly timeLeft: string;
  readonly proveAfter: boolean;
  readonly madeCount: number;
  readonly voices: State["voices"];
  readonly castRole: State["castRole"];
  readonly voicesShown: State["voicesShown"];
  castRoleId: string;
};

export interface Surface {
  /** Draw this. Called after every change, only while the surface is shown. */
  show(view: View): void;
  /** The moment that is shown or heard, in seconds of the piece. */
  setPlayhead(s: number): void;
  /** Keep a stretch of the piece, in seconds, on the screen. */
  follow(from_s: number, until_s?: number): void;
  /** Take the keyboard to what is chosen, where the surface can. */
  focus?(): void;
  /** Called before another surface is shown. */
  leave?(): void;
}

/** Makes a surface inside an element of the page. */
export type Make = (holder: HTMLElement, tells: Tells) => Surface;
