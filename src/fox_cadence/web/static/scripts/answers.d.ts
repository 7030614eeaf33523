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

/** A bed, all times in seconds. `length_s` is None where it goes to the end of the piece, the ends of its part and of its loop where they are that of its clip. `levels` are [second of the bed, decibels]. Where it was cut by bars, `cut_s` is how long that lasts and `cut_for_s` for which length it was found. */
export interface BedJson {
  id: string;
  clip_hash: string;
  gain_db: number;
  duck_db: number;
  duck_in_ms: number;
  duck_out_ms: number;
  fade_in_s: number;
  fade_out_s: number;
  start_s: number;
  length_s: number | null;
  source_in_s: number;
  source_out_s: number | null;
  loop_in_s: number | null;
  loop_out_s: number | null;
  levels: [number, number][];
  cut_s: number | null;
  cut_for_s: number | null;
}

/** A spot effect: from which second of the piece it is heard, and what it is held to. */
export interface EffectJson {
  id: string;
  clip_hash: string;
  start_s: number;
  held: string;
  shot: string;
  line: string | null;
  word: number;
  title: string | null;
  offset_s: number;
  gain_db: number;
  fade_in_s: number;
  fade_out_s: number;
}

export interface MixSettingsJson {
  aim_lufs: number;
  peak_db: number;
  speech_db: number;
  bed_db: number;
  own_db: number;
  effects_db: number;
  muted: string[];
  solo: string[];
}

export interface CureOfMixJson {
  text: string;
  edits: Record<string, any>[];
}

/** Something in the mix that should be looked at, from a second of the piece on. */
export interface MixWarningJson {
  text: string;
  at_s: number;
  cures: CureOfMixJson[];
}

/** The music of a bed as it is heard in the piece: its beats and the beginnings of its bars in seconds of the piece, tempo and certainty, and its runs: second of the piece, second of its clip, how long. */
export interface BedBeatsJson {
  bed: string;
  tempo_bpm: number;
  metre: number;
  certainty: number;
  beats: number[];
  bars: number[];
  runs: [number, number, number][];
  duck: [number, number][];
}

/** How the mix of a revision stands. `short_term` is the loudness of three seconds at each tenth of a second (LUFS), `over_db` how far speech stands over the rest, `understood` ESTOI. */
export interface SoundJson {
  revision: number;
  lufs: number;
  peak_db: number;
  short_term: number[];
  over_db: number | null;
  understood: number | null;
  lines_over: Record<string, number | null>;
  warnings: MixWarningJson[];
  beds: BedBeatsJson[];
}

/** A sound of the shelf; `clip` is None for what is still to be played. */
export interface SoundItemJson {
  id: string;
  title: string;
  words: string;
  kind: string;
  seconds: number;
  bpm: number;
  source: string;
  licence: string;
  commercial: boolean;
  clip: string | null;
  kept: boolean;
  used: boolean;
}

export interface SoundShelfJson {
  items: SoundItemJson[];
  left_out: number;
}

export interface GroundJson {
  kind: "none" | "plate" | "strips" | "blocks" | "band" | "bar" | "ticket" | "rules" | "corners" | "box" | "disc";
  colour: string;
  opacity: number;
  reach: number;
  round: number;
}

export interface EdgeJson {
  kind: "none" | "contour" | "shadow" | "glow" | "copy";
  colour: string;
  width: number;
}

export interface MovementJson {
  kind: "none" | "fade" | "rise" | "sink" | "slide" | "type" | "unroll" | "grow" | "tilt" | "settle";
  seconds: number;
  by: "all" | "line" | "word";
}

export interface PlaceJson {
  x: number;
  y: number;
  hold: "top" | "middle" | "bottom";
  clear: boolean;
}

/** A style as core/lettering/style.py has it. */
export interface CaptionStyleJson {
  id: string;
  name: string;
  family: string;
  weight: number;
  size: number;
  first_line: number;
  line_height: number;
  letter_spacing: number;
  case: "as written" | "upper" | "lower";
  align: "start" | "middle" | "end";
  width: number;
  most_lines: number;
  ink: string;
  lit: string;
  ground: GroundJson;
  edge: EdgeJson;
  place: PlaceJson;
  comes: MovementJson;
  goes: MovementJson;
  spoken: "none" | "lit" | "swell" | "underline" | "fill" | "box";
  for_titles: boolean;
}

/** `style` is that of the captions where nothing else is said; `styles` are those in use, by the keys that rows have, as they are seen: calm ones where `calm` is asked for. */
export interface LetteringJson {
  style: CaptionStyleJson;
  kept: CaptionStyleJson[];
  calm: boolean;
  styles: Record<string, CaptionStyleJson>;
}

/** A title; frames from the start of its shot. `own_style` is its style as it was chosen, `style` the key of that it is seen in, `shift` how far it is moved from the place of its style (pixels). */
export interface TitleRow {
  id: string;
  shot: string;
  in_frame: number;
  out_frame: number;
  text: string;
  drawn: boolean;
  missing: string[];
  style: string;
  own_style: CaptionStyleJson;
  place: PlaceJson | null;
  shift: [number, number];
}

/** A shape behind the words; `width` of its line, 0 where it is filled. */
export interface MarkJson {
  d: string;
  colour: string;
  opacity: number;
  width: number;
  unit: number;
}

/** A line around every word; filled instead where `width` is 0. */
export interface EdgeLineJson {
  colour: string;
  opacity: number;
  width: number;
  dx: number;
  dy: number;
}

export interface EmojiShapeJson {
  d: string;
  colour: string;
  opacity: number;
  even_odd: boolean;
}

/** `spoken` is what is drawn behind or under it while it is spoken, `line` its number. */
export interface DrawnWordJson {
  text: string;
  line: number;
  d: string;
  pictures: EmojiShapeJson[];
  box: [number, number, number, number];
  backwards: boolean;
  unit: number;
  spoken: string;
}

export interface UnitJson {
  box: [number, number, number, number];
  edges: number[];
  backwards: boolean;
}

/** A caption drawing for SVG, at rest, in pixels of the frame. `block` is the room of its words, `of` the numbers of the words that are drawn: a word that no line holds stands in parts. */
export interface DrawingJson {
  width: number;
  height: number;
  block: [number, number, number, number];
  marks: MarkJson[];
  edges: EdgeLineJson[];
  words: DrawnWordJson[];
  units: UnitJson[];
  ink: string;
  lit: string;
  spoken_as: "none" | "lit" | "swell" | "underline" | "fill" | "box";
  comes: "none" | "fade" | "rise" | "sink" | "slide" | "type" | "unroll" | "grow" | "tilt" | "settle";
  goes: "none" | "fade" | "rise" | "sink" | "slide" | "type" | "unroll" | "grow" | "tilt" | "settle";
  em: number;
  backwards: boolean;
  of: number[];
}

/** When its parts move, in frames from its in frame: of each unit the first frame and how many it comes in, and the first frame of going out and how many that takes. */
export interface MomentsJson {
  comes: [number, number][];
  goes: [number, number];
}

/** What was asked for of one caption; a drawing only where the page has none. */
export interface DrawnJson {
  drawing?: DrawingJson;
  moments: MomentsJson;
}

/** Rows of poses by kind of movement, for texts that run to the right and to the left. */
export interface MovementsJson {
  coming: Record<string, [number, number, number, number, number, number][]>;
  coming_back: Record<string, [number, number, number, number, number, number][]>;
  going: Record<string, [number, number, number, number, number, number][]>;
  going_back: Record<string, [number, number, number, number, number, number][]>;
  swelling: [number, number, number, number, number, number][];
}

/** A family of typefaces; `own` is a file of the user's. */
export interface FamilyJson {
  id: string;
  name: string;
  kind: string;
  weights: number[];
  own: boolean;
}

export interface NamedPlaceJson {
  name: string;
  y: number;
  hold: "top" | "middle" | "bottom";
}

/** What there is to choose from; `mine` are the styles the user keeps for all projects. */
export interface ShippedJson {
  captions: CaptionStyleJson[];
  titles: CaptionStyleJson[];
  mine: CaptionStyleJson[];
  families: FamilyJson[];
  places: NamedPlaceJson[];
}

/** A change that was tried and found to cure a fault without another: in words, and as an edit. */
export interface CureJson {
  text: string;
  edit: Record<string, any>;
}

/** A rule that words on the screen break: what was found against its limit, in words. */
export interface FaultJson {
  rule: "rate" | "lines" | "characters" | "shortest" | "gap" | "contrast" | "safe area" | "covers" | "alone" | "signs";
  text: string;
  value: number;
  limit: number;
}

/** What was found of words on the screen. */
export interface ProofJson {
  faults: FaultJson[];
  contrast: number | null;
}

/** A figure as core/figures/figure.py has it. */
export interface FigureRow {
  id: string;
  role: string;
  character: "juniper" | "tobit" | "rusk" | "skerry" | "limpet" | "bell";
  x: number;
  y: number;
  size: number;
  facing: "left" | "ahead" | "right";
  shown: "always" | "speaking";
  colours: Record<string, string>;
}

/** A part of a character: commands of a path, its coordinates at rest, and for numbers of a pose how far each of them moves when that is 100. */
export interface FigurePartJson {
  commands: string;
  base: number[];
  moves: [number, number[]][];
  colour: string;
}

/** What a figure does in the frames from `first` on: poses of nine numbers in hundredths one after the other. `drawing` is the key of what it looks like. */
export interface ActedJson {
  id: string;
  drawing: string;
  first: number;
  poses: number[];
}

/** Figures of some frames, and the drawings the page has not had. */
export interface ActingJson {
  figures: ActedJson[];
  drawings: Record<string, FigurePartJson[]>;
}

export interface ColourSlotJson {
  name: string;
  label: string;
  colour: string;
}

export interface PortraitPathJson {
  d: string;
  colour: string;
}

/** A character to choose, with its picture in a box of 800 by 1000. */
export interface CharacterJson {
  id: "juniper" | "tobit" | "rusk" | "skerry" | "limpet" | "bell";
  name: string;
  described: string;
  colours: ColourSlotJson[];
  portrait: PortraitPathJson[];
}

/** A treatment as core/treatment.py has it: each stage with its kind and its numbers. */
export interface TreatmentJson {
  name: string;
  stages: Record<string, any>[];
}

export interface SettingJson {
  field: string;
  label: string;
  unit: string;
  least: number;
  most: number;
  step: number;
}

export interface StageKindJson {
  kind: string;
  name: string;
  described: string;
  settings: SettingJson[];
  made: Record<string, any>;
}

/** What there is to choose from; `made` is a stage of the kind as it comes. */
export interface TreatmentsJson {
  shipped: TreatmentJson[];
  mine: TreatmentJson[];
  kinds: StageKindJson[];
}

export interface EffectJson {
  most_db: number | null;
  mean_db: number | null;
}

/** What a treatment does to a line: by stage, and by third octave before and after (dBFS). */
export interface MeasuredJson {
  effects: EffectJson[];
  bands_hz: number[];
  before: number[];
  after: number[];
  response_hz: number[];
  response_db: number[];
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
  sound_muted: boolean;
  sound_ducked: boolean;
  sound_fade_in_s: number;
  sound_fade_out_s: number;
  bed_points: [number, number][];
}

/** `spoken`: the frames [begin, end) in which each word that is drawn is spoken; none where nobody could say which word it is. `style` is a key of the styles of the lettering, `shift` how far it is moved from the place of its style (pixels), `breaks` the words before which the editor began a line. */
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
  spoken: [number, number][];
  style: string;
  own_style: CaptionStyleJson | null;
  place: PlaceJson | null;
  breaks: number[];
  shift: [number, number];
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
  id: string;
  recorded: boolean;
  cleaned_from: string | null;
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
  own_treatment: TreatmentJson | null;
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
  pan: number;
  colour: number;
  style: string;
  caption_style: CaptionStyleJson | null;
  treatment: TreatmentJson | null;
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
  lettering: LetteringJson;
  titles: TitleRow[];
  figures: FigureRow[];
  passes: PassJson[];
  states: Record<string, number>;
  shots: ShotRow[];
  captions: CaptionRow[];
  lines: LineRow[];
  roles: RoleRow[];
  beds: BedJson[];
  effects: EffectJson[];
  mix: MixSettingsJson;
  clips: Record<string, ClipJson>;
  missing: MissingClipJson[];
  lexicon: LexiconEntryJson[];
  deliveries: SavedDeliveryJson[];
  treatments: TreatmentJson[];
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
  kind: "line" | "heading" | "title";
  role: string;
  cells: CellJson[];
}

/** All versions of a piece. */
export interface VersionsJson {
  versions: VersionJson[];
  units: UnitJson[];
}
