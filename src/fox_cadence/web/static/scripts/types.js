/**
 * What the server sends: see web/views.py. Times ending in _s are seconds, frames are whole.
 *
 * @typedef {{id: string, name: string, clip: string|null, still: boolean, colour: string, source_in_s: number, repeats_s: number,
 *   source_in_frames: number, start: number, end: number, locked: boolean, shortest: number, longest: number,
 *   own_limits: boolean, handle: number|null, transition: number, on_beat: boolean, give_way: string|null,
 *   headings: Array<{id: string, text: string}>, sound: boolean, sound_gain_db: number}} Shot
 * @typedef {{x: number, y: number, width: number, height: number, radius: number, colour: string, opacity: number}} Plate
 * @typedef {{width: number, height: number, plate: Plate|null, words: string[], fill: string, lit: string,
 *   stroke: string|null, stroke_width: number, missing: string[]}} Drawing
 * @typedef {{id: string, shot: string, line: string|null, in: number, out: number, text: string, locked: boolean,
 *   pinned: boolean, too_fast: boolean, drawn: boolean, missing: string[], lit: Array<[number, number|null]>}} Caption
 * @typedef {{kind: string, label: string, seconds: number}} Step
 * @typedef {{speech: Step[], room: Step[], length_s: number}} Sum
 * @typedef {{after: number, start_s: number, end_s: number, written: boolean}} Rest
 * @typedef {{id: string, role: string, said: string, said_words: string[], own_words: boolean, scene_text: boolean, captions: string[],
 *   first_shot: string, last_shot: string, state: string, locked: boolean, lane: number, may_overlap: boolean,
 *   give_way: string|null, j_cut_s: number|null, l_cut_s: number|null, fitted: boolean, start_s: number, end_s: number,
 *   window_start_s: number, window_end_s: number, natural_s: number, pace: number, pause_s: number, early_s: number,
 *   late_s: number, spill_s: number, idle_s: number, words: Array<[number, number, string]>, rests: Rest[],
 *   pauses: Array<{after: number, seconds: number}>, syncs: Array<{word: number, shot: string, frames: number}>,
 *   take: {hash: string, at_s: number, text: string, recorded: boolean}|null, sum: Sum, marks: any[],
 *   own_voice: string|null, own_delivery: any, unable: string, failed: string}} Line
 * @typedef {{id: string, name: string, voice_id: string, pace: number, pitch_semitones: number, gain_db: number,
 *   colour: number, style: string, pitch_range: number, unable: string}} Role
 * @typedef {{name: string, open: string, text: string}} Pass
 * @typedef {{project: string, revision: number, changed_at: string, undo: string|null, redo: string|null, name: string,
 *   width: number, height: number, rate: {numerator: number, denominator: number, label: string},
 *   total_frames: number, longest_s: number|null, length_fixed: boolean, give_way: string, beats: number[],
 *   house: Record<string, any>, sync: Record<string, number>, amount: Record<string, any>,
 *   style: string, styles: Array<{id: string, name: string}>, passes: Pass[], states: Record<string, number>,
 *   shots: Shot[], captions: Caption[], lines: Line[], roles: Role[],
 *   bed: {clip_hash: string, gain_db: number, duck_db: number, points: Array<[number, number]>}|null,
 *   clips: Record<string, {name: string, kind: string, length_s: number, sound: boolean, remarks: string[]}>, lexicon: any[],
 *   deliveries: Array<{name: string, delivery: any}>, shortlist: string[], commercial: boolean, keep_in_step: boolean,
 *   character_budget: number|null, language: string, past_clip_end: string, coverage: any, missing: Array<{hash: string, name: string}>, slow_voices: Record<string, number>}} Timeline
 * @typedef {{id: string, text: string, state: string, start_s: number, end_s: number, pace: number, pause_s: number,
 *   window_start_s: number, window_end_s: number, early_s: number, late_s: number, spill_s: number, idle_s: number,
 *   sum: Sum, wants_remedy: boolean}} LinePlan
 * @typedef {{id: string, start_frame: number, end_frame: number, locked: boolean, change_frames: number}} ShotPlan
 * @typedef {{kind: string, id: string, text: string, seconds: number}} Change
 * @typedef {{revision: number, status: string, reason: string, conflict: string[], outside: string[], let_go: string[],
 *   let_go_edits: object[], cost: number, total_frames: number, lines: LinePlan[], shots: ShotPlan[],
 *   captions: Array<{id: string, in_frame: number, out_frame: number, text: string, why: string}>,
 *   changes: Change[]}} Proposal
 * @typedef {{id: string, kind: string, state: string, done: number, total: number, note: string,
 *   result: Record<string, any>}} Job
 * @typedef {{id: string, name: string, language: string, region: string, gender: string, age: string,
 *   character: string, natural: boolean, engine: string, licence: string, uses: string, commercial: boolean,
 *   has_range: boolean, language_name: string, missing: string}} Voice
 */
export {};
