// Made by scripts/page_types.py from the shapes in web/answers: change those, not this.

/** `x` and `y` as shares of the upright picture, `turns` to the right, `amount` over the whole movement, of which the shot shows the part from `begins` to `ends`. */
export interface FramingJson {
  fit: string;
  x: number;
  y: number;
  zoom: number;
  turns: number;
  mirror: boolean;
  movement: string;
  amount: number;
  to_x: number;
  to_y: number;
  to_zoom: number;
  soft: boolean;
  begins: number;
  ends: number;
  colour: string;
}

/** As core/adjustment.py has it; `look` is empty, the id of a shipped look or the hash of a clip that is one. */
export interface AdjustmentJson {
  exposure: number;
  contrast: number;
  warmth: number;
  tint: number;
  saturation: number;
  sharpness: number;
  vignette: number;
  look: string;
  look_share: number;
}

/** A picture over a shot, as core/overlay.py has it; `outline` is an SVG path of width 1 around 0, 0 that is filled by the even-odd rule. */
export interface LaidJson {
  id: string;
  picture: string;
  title: string;
  outline: string;
  whole_frame: boolean;
  x: number;
  y: number;
  size: number;
  turn: number;
  colour: string;
  opacity: number;
  begins: number;
  ends: number;
}

/** Something on the shelf. `looks` are small pictures of it at moments, in order; `clip` is null for what is still to be drawn, `seconds` 0 for a still. */
export interface ShelfItemJson {
  id: string;
  title: string;
  words: string;
  kind: string;
  seconds: number;
  shape: string;
  source: string;
  licence: string;
  commercial: boolean;
  clip: string | null;
  sound: boolean;
  kept: boolean;
  used: boolean;
  looks: string[];
}

/** What answers to what is looked for; `line_words` are words of the chosen line that may be looked up, `left_out` how many the piece may not use. */
export interface ShelfJson {
  items: ShelfItemJson[];
  line_words: string[];
  left_out: number;
}

/** A shot of a plan: the frames [start, end) of the piece, the item it shows, and others that would do. */
export interface ShotChoiceJson {
  start: number;
  end: number;
  item: string;
  words: string;
  others: string[];
}

export interface StretchPlanJson {
  name: string;
  first_shot_id: string;
  last_shot_id: string;
  shots: ShotChoiceJson[];
  cost: number;
}

/** What would fill a stretch or several, and the items that are named. */
export interface FillJson {
  plans: StretchPlanJson[];
  items: Record<string, ShelfItemJson>;
}

/** Lines of a part of the piece by what they want: `open_ids` are those unvoiced or stale, in order. `failed` are open lines whose last try failed; `recorded` are lines that play a recorded take; `spoken_before` are recorded ones whose words have changed since, which a voice takes over only where it is asked to. */
export interface Coverage {
  name: string;
  lines: number;
  unvoiced: number;
  stale: number;
  failed: number;
  recorded: number;
  seconds_open: number;
  open_ids: string[];
  missing_ids: string[];
  stale_ids: string[];
  spoken_before: string[];
}

export interface HeadingJson {
  id: string;
  text: string;
}

/** `length` and `transition` in frames: the next shot begins `transition` frames before this one ends. `clip_s` is how long its video is, 0 for stills and colours. */
export interface ShotRow {
  id: string;
  name: string;
  clip: string | null;
  still: boolean;
  colour: string;
  source_in_s: number;
  source_in_frames: number;
  repeats_s: number;
  speed_percent: number;
  framing: FramingJson;
  adjustment: AdjustmentJson;
  laid: LaidJson[];
  clip_s: number;
  length: number;
  transition: number;
  transition_kind: string;
  transition_colour: string;
  locked: boolean;
  shortest: number;
  longest: number;
  own_limits: boolean;
  handle: number | null;
  on_beat: boolean;
  give_way: string | null;
  headings: HeadingJson[];
  sound: boolean;
  sound_gain_db: number;
  bed_points: [number, number][];
}

/** `lit`: from which frame on which word is lit. */
export interface CaptionRow {
  id: string;
  shot: string;
  line: string | null;
  in_frame: number;
  out_frame: number;
  text: string;
  locked: boolean;
  pinned: boolean;
  too_fast: boolean;
  rate_cps: number;
  drawn: boolean;
  missing: string[];
  lit: ([number, number | null])[];
}

export interface StepJson {
  kind: string;
  label: string;
  seconds: number;
}

export interface SumJson {
  speech: StepJson[];
  room: StepJson[];
  length_s: number;
}

export interface RestJson {
  after: number;
  start_s: number;
  end_s: number;
  written: boolean;
}

export interface PauseJson {
  after: number;
  seconds: number;
}

export interface SyncJson {
  word: number;
  shot: string;
  frames: number;
}

export interface LineTakeJson {
  hash: string;
  at_s: number;
  text: string;
  recorded: boolean;
}

/** How a line stands: as it is, or as a fit would have it. */
export interface LinePlace {
  id: string;
  state: string;
  start_s: number;
  end_s: number;
  window_start_s: number;
  window_end_s: number;
  pace: number;
  late_s: number;
  spill_s: number;
  idle_s: number;
  wants_remedy: boolean;
}

export interface LineRow {
  id: string;
  state: string;
  start_s: number;
  end_s: number;
  window_start_s: number;
  window_end_s: number;
  pace: number;
  late_s: number;
  spill_s: number;
  idle_s: number;
  wants_remedy: boolean;
  role: string;
  said: string;
  said_words: string[];
  own_words: boolean;
  scene_text: boolean;
  captions: string[];
  first_shot: string;
  last_shot: string;
  locked: boolean;
  lane: number;
  may_overlap: boolean;
  give_way: string | null;
  j_cut_s: number | null;
  l_cut_s: number | null;
  natural_s: number;
  known: boolean;
  draft: string;
  room_s: number;
  words: [number, number, string][];
  rests: RestJson[];
  pauses: PauseJson[];
  syncs: SyncJson[];
  marks: Record<string, any>[];
  own_voice: string | null;
  own_delivery: Record<string, any> | null;
  unable: string;
  failed: string;
  take: LineTakeJson | null;
  sum: SumJson;
}

export interface RoleRow {
  id: string;
  name: string;
  voice_id: string;
  pace: number;
  pitch_semitones: number;
  pitch_range: number;
  gain_db: number;
  colour: number;
  style: string;
  unable: string;
}

export interface RateJson {
  numerator: number;
  denominator: number;
  label: string;
}

export interface PassJson {
  name: "picture" | "words" | "cast" | "fit" | "lettering" | "sound" | "export";
  open: string;
  text: string;
}

export interface SyncStandingJson {
  worst_spill_s: number;
  worst_caption_frames: number;
  slowest: number;
  fastest: number;
  idle_s: number;
}

export interface AmountJson {
  said_characters: number;
  words: number;
  speech_s: number;
  left_s: number | null;
  words_left: number | null;
}

export interface ClipJson {
  name: string;
  kind: string;
  length_s: number;
  sound: boolean;
  remarks: string[];
}

export interface BedJson {
  clip_hash: string;
  gain_db: number;
  duck_db: number;
}

export interface LexiconEntryJson {
  id: string;
  language: string;
  written: string;
  ipa: string | null;
  spelled: string | null;
}

export interface CoveragesJson {
  whole: Coverage;
  sections: Coverage[];
  roles: Coverage[];
}

export interface MissingClipJson {
  hash: string;
  name: string;
}

export interface StyleJson {
  id: string;
  name: string;
}

export interface SavedDeliveryJson {
  name: string;
  delivery: Record<string, any>;
}

/** All that the page shows of a project. `version` names this state of it; see `ChangesJson`. */
export interface ProjectJson {
  version: string;
  project: string;
  revision: number;
  changed_at: string;
  undo: string | null;
  redo: string | null;
  name: string;
  width: number;
  height: number;
  rate: RateJson;
  total_frames: number;
  longest_s: number | null;
  length_fixed: boolean;
  give_way: string;
  past_clip_end: string;
  language: string;
  beats: number[];
  house: Record<string, number>;
  sync: SyncStandingJson;
  amount: AmountJson;
  style: string;
  styles: StyleJson[];
  passes: PassJson[];
  states: Record<string, number>;
  shots: ShotRow[];
  captions: CaptionRow[];
  lines: LineRow[];
  roles: RoleRow[];
  bed: BedJson | null;
  clips: Record<string, ClipJson>;
  missing: MissingClipJson[];
  lexicon: LexiconEntryJson[];
  deliveries: SavedDeliveryJson[];
  shortlist: string[];
  foreseeing: number;
  slow_voices: Record<string, number>;
  commercial: boolean;
  keep_in_step: boolean;
  character_budget: number | null;
  coverage: CoveragesJson;
}

/** Rows of one table that are new or changed, and the ids of all its rows where their order has changed. */
export interface TableChange {
  rows: Record<string, any>[];
  order: string[] | null;
}

/** How the state `version` differs from the state `since`: whole values, and rows of the tables. */
export interface ChangesJson {
  version: string;
  since: string;
  values: Record<string, any>;
  tables: Record<string, TableChange>;
}

export interface JobJson {
  id: string;
  kind: string;
  state: "waiting" | "running" | "done" | "failed" | "cancelled";
  done: number;
  total: number;
  note: string;
  result: Record<string, any>;
}

export interface VoiceJson {
  id: string;
  name: string;
  language: string;
  language_name: string;
  region: string;
  gender: string | null;
  age: string | null;
  character: string;
  uses: string;
  natural: boolean;
  engine: string;
  has_range: boolean;
  licence: string;
  commercial: boolean;
  blend: boolean;
  pitch_hz: number | null;
  spread_st: number | null;
  letters_s: number | null;
  lufs: number | null;
  shape: number[];
  missing: string;
}

export interface PlateJson {
  x: number;
  y: number;
  width: number;
  height: number;
  radius: number;
  colour: string;
  opacity: number;
}

/** A caption drawing for SVG: the plate, the outlines of each word, and how they are inked. */
export interface DrawingJson {
  width: number;
  height: number;
  plate: PlateJson | null;
  words: string[];
  fill: string;
  lit: string;
  stroke: string | null;
  stroke_width: number;
  missing: string[];
}

/** A thing that a fit would change; `kind` is that of the thing. */
export interface ChangeJson {
  kind: string;
  id: string;
  text: string;
  seconds: number;
}

export interface MissJson {
  rule: string;
  object: string;
  amount: number;
  unit: string;
}

export interface KeepJson {
  line_ids: string[];
  shot_ids: string[];
}

/** A line as a fit would have it, with the sum that explains it where it is asked for. */
export interface LineThen {
  id: string;
  state: string;
  start_s: number;
  end_s: number;
  window_start_s: number;
  window_end_s: number;
  pace: number;
  late_s: number;
  spill_s: number;
  idle_s: number;
  wants_remedy: boolean;
  sum: SumJson | null;
}

export interface ShotThen {
  id: string;
  length: number;
}

export interface CaptionThen {
  id: string;
  in_frame: number;
  out_frame: number;
  why?: string;
}

/** What would be other rows of the tables, with the same names and counted from the same shots as theirs. */
export interface ThenJson {
  shots: ShotThen[];
  captions: CaptionThen[];
  lines: LineThen[];
}

/** What a fit would make of revision `revision`. `key` names it, to accept just this; '' for a trial. */
export interface ProposalJson {
  key: string;
  revision: number;
  status: "solved" | "infeasible" | "stopped";
  reason: string;
  conflict: string[];
  outside: string[];
  let_go: string[];
  let_go_edits: Record<string, any>[];
  then: ThenJson;
  changes: ChangeJson[];
  misses: MissJson[];
}

/** A version, or the first, as a row of the table of all. */
export interface VersionJson {
  id: string;
  name: string;
  language: string;
  tag: string;
  voices: string[];
  seconds: number;
  open: string;
  fits: string;
  done: number;
  total: number;
  out_of_date: number;
  cuts: string;
  cuts_moved_s: number;
  behind: boolean;
  foreseeing: number;
}

/** A unit in one version. `how` says how its line stands: its length and what gave way. */
export interface CellJson {
  text: string;
  unit: string;
  before: string;
  seconds: number | null;
  state: string;
  how: string;
  known: boolean;
}

/** A unit of the piece with its cells, the first's before the versions'. */
export interface UnitJson {
  id: string;
  kind: string;
  role: string;
  cells: CellJson[];
}

/** All versions of a piece. */
export interface VersionsJson {
  versions: VersionJson[];
  units: UnitJson[];
}
