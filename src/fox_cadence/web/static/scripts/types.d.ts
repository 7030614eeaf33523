// The types the scripts share: what the server sends (answers.d.ts), and the piece as timeline.js puts it together.

import type { CaptionRow, LineRow, ProjectJson, ProposalJson, ShotRow, TitleRow } from "./answers.d.ts";

export type {
  ChangeJson as Change,
  ChangesJson as Changes,
  DrawingJson as Drawing,
  JobJson as Job,
} from "./answers.d.ts";
export type {
  Coverage,
  LexiconEntryJson as LexiconEntry,
  PassJson as Pass,
  RoleRow as Role,
} from "./answers.d.ts";
export type {
  ProjectJson,
  ProposalJson,
  RestJson as Rest,
  StepJson as Step,
  SumJson as Sum,
} from "./answers.d.ts";
export type { SyncJson as Sync, ThenJson, VoiceJson as Voice } from "./answers.d.ts";

/** A shot in the piece: the frames [start, end) it is on the screen. */
export type Shot = ShotRow & { start: number; end: number };

/** A caption in the piece: the frames [in, out) it is on the screen; `spoken` in frames of the piece. */
export type Caption = CaptionRow & { in: number; out: number; why?: string };

/** A title in the piece: the frames [in, out) it is on the screen. */
export type Title = TitleRow & { in: number; out: number };

/** Words on the screen, whatever they are. */
export type OnScreen = Caption | Title;

/** A line in the piece: all its times are of the piece. */
export type Line = LineRow;

/** All that is known of a project, every time of it counted from the start of the piece. */
export type Timeline = Omit<ProjectJson, "shots" | "captions" | "titles" | "lines"> & {
  shots: Shot[];
  captions: Caption[];
  titles: Title[];
  lines: Line[];
  /** Between which points the first bed ducks: seconds and decibels. */
  duck: [number, number][];
  total_frames: number;
};

/** A proposal with the piece as it would be. */
export type Proposal = ProposalJson & { t: Timeline };

/** How a voice says something. */
export type Delivery = {
  style: string;
  pace: number;
  pitch_semitones: number;
  pitch_range: number;
  gain_db: number;
};

/** A mark over words; what it has besides depends on its kind. */
export type Mark = {
  kind: string;
  first_word: number;
  end_word: number;
  after_word: number;
  [field: string]: any;
};

/** A take as the desk shows it. */
export type Take = {
  id: string;
  hash: string;
  text: string;
  voice: string;
  recorded: boolean;
  pace: number;
  seconds: number;
  words: [number, number, string][];
};

/** A take a line keeps. */
export type KeptTake = Take & {
  name: string;
  made_at: string;
  chosen: boolean;
  style: string;
  marks: number;
  over_s: number;
  changes: { kind: string; before: string; after: string }[];
};

/** A way a line was said in. */
export type Way = {
  place: number;
  variant: { voice_id?: string | null; delivery?: Delivery | null; text?: string | null };
  take: Take | null;
  reason: string;
};

/** What would cure a line. */
export type Remedy = {
  kind: string;
  label: string;
  gain_s: number;
  text: string | null;
  estimated: boolean;
  effects: string[];
  state: string;
  pace: number;
  edits: object[];
};
