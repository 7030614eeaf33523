// The piece as this page knows it: what the server has told, kept up to date by what has changed, every time of it put in
// its place in the piece. Rows come with times that count from the start of their shot (web/answers/shapes.py).

/** @typedef {import("./types.d.ts").ProjectJson} ProjectJson */
/** @typedef {import("./types.d.ts").Changes} Changes */
/** @typedef {import("./types.d.ts").ThenJson} ThenJson */
/** @typedef {import("./types.d.ts").Timeline} Timeline */
/** @typedef {import("./types.d.ts").Shot} Shot */
/** @typedef {import("./types.d.ts").Caption} Caption */
/** @typedef {import("./types.d.ts").Line} Line */
/** @typedef {{id: string}} Row */

/** States that are kept: an answer may tell what differs from one before the newest. */
const MOST_KEPT = 8;

/**
 * A state with what has changed since: the one function that takes in changes (web/answers/delta.py finds them).
 *
 * @param {ProjectJson} old @param {Changes} changes @returns {ProjectJson}
 */
export function applied(old, changes) {
  const made = /** @type {Record<string, any>} */ ({ ...old, ...changes.values, version: changes.version });
  for (const [name, change] of Object.entries(changes.tables)) {
    /** @type {Row[]} */
    const before = made[name];
    const rows = new Map(before.map((row) => [row.id, row]));
    for (const row of /** @type {Row[]} */ (change.rows)) rows.set(row.id, row);
    const order = change.order ?? before.map((row) => row.id);
    made[name] = order.map((id) => rows.get(id));
  }
  return /** @type {ProjectJson} */ (made);
}

/** The states of a project that the server has told. */
export class Told {
  constructor() {
    /** @type {Map<string, ProjectJson>} */
    this.states = new Map();
  }

  /** The state an answer tells; null where it tells what differs from one that is not at hand. @param {ProjectJson|Changes} answer */
  read(answer) {
    const since = "since" in answer ? this.states.get(answer.since) : null;
    if (since === undefined) return null;
    const told = since
      ? applied(since, /** @type {Changes} */ (answer))
      : /** @type {ProjectJson} */ (answer);
    this.states.set(told.version, told);
    for (const old of this.states.keys()) {
      if (this.states.size <= MOST_KEPT) break;
      this.states.delete(old);
    }
    return told;
  }
}

/** Whether a state was told after another: versions are counted while the server runs. @param {string} version @param {string} than */
export function newer(version, than) {
  const [[run, number], [otherRun, other]] = [version.split("-"), than.split("-")];
  return run !== otherRun || Number(number) > Number(other);
}

/** What was made of a row last, and for which place: most rows stay where they are. @type {WeakMap<object, {at: number, made: any}>} */
const kept = new WeakMap();

/** @template {object} R @template M @param {R} row @param {number} at @param {() => M} make @returns {M} */
function placedRow(row, at, make) {
  const known = kept.get(row);
  if (known?.at === at) return known.made;
  const made = make();
  kept.set(row, { at, made });
  return made;
}

/**
 * Where in its clip a shot is, so long after it has begun: as the export has it (core/screen.py).
 *
 * @param {{source_in_s: number, speed_percent: number, repeats_s: number}} shot @param {number} into seconds
 */
export function clipSeconds(shot, into) {
  const turn = shot.repeats_s ? (Math.max(0, into) + 1e-9) % shot.repeats_s : Math.max(0, into);
  return shot.source_in_s + (turn * shot.speed_percent) / 100;
}

/** A state with all its times counted from the start of the piece. @param {ProjectJson} told @returns {Timeline} */
export function placed(told) {
  const second = told.rate.denominator / told.rate.numerator;
  /** @type {Map<string, number>} */
  const starts = new Map();
  let at = 0;
  const shots = told.shots.map((row) => {
    const start = at;
    starts.set(row.id, start);
    at += row.length - row.transition;
    return placedRow(row, start, () => /** @type {Shot} */ ({ ...row, start, end: start + row.length }));
  });
  const captions = told.captions.map((row) => {
    const start = starts.get(row.shot) ?? 0;
    return placedRow(row, start, () => captionAt(row, start));
  });
  const total = shots.at(-1)?.end ?? 0;
  const titles = told.titles.map((row) => {
    const start = starts.get(row.shot) ?? 0;
    return placedRow(row, start, () => ({
      ...row,
      in: Math.max(0, row.in_frame + start),
      out: row.out_frame + start,
    }));
  });
  const lines = told.lines.map((row) => {
    const start = (starts.get(row.first_shot) ?? 0) * second;
    return placedRow(row, start, () => lineAt(row, start));
  });
  const duck = told.shots.flatMap((row) => {
    const start = (starts.get(row.id) ?? 0) * second;
    return row.bed_points.map(([s, db]) => /** @type {[number, number]} */ ([s + start, db]));
  });
  return { ...told, shots, captions, titles, lines, duck, total_frames: total };
}

/** @param {import("./answers.d.ts").CaptionRow} row @param {number} start @returns {Caption} */
function captionAt(row, start) {
  const spoken = row.spoken.map(
    ([begins, ends]) => /** @type {[number, number]} */ ([begins + start, ends + start]),
  );
  return { ...row, in: row.in_frame + start, out: row.out_frame + start, spoken };
}

/** @param {import("./answers.d.ts").LineRow} row @param {number} start @returns {Line} */
function lineAt(row, start) {
  return {
    ...row,
    start_s: row.start_s + start,
    end_s: row.end_s + start,
    window_start_s: row.window_start_s + start,
    window_end_s: row.window_end_s + start,
    words: row.words.map(
      ([from, until, text]) => /** @type {[number, number, string]} */ ([from + start, until + start, text]),
    ),
    rests: row.rests.map((rest) => ({ ...rest, start_s: rest.start_s + start, end_s: rest.end_s + start })),
    take: row.take && { ...row.take, at_s: row.take.at_s + start },
  };
}

/** The piece as a proposal would have it. @param {ProjectJson} told @param {ThenJson} then @returns {Timeline} */
export function proposed(told, then) {
  /** @template {Row} R @param {R[]} rows @param {Array<Row & Record<string, any>>} changes @returns {R[]} */
  const changed = (rows, changes) => {
    if (!changes.length) return rows;
    const known = new Map(changes.map((each) => [each.id, each]));
    return rows.map((row) => {
      const change = known.get(row.id);
      return change
        ? { ...row, ...Object.fromEntries(Object.entries(change).filter(([, value]) => value !== null)) }
        : row;
    });
  };
  return placed({
    ...told,
    shots: changed(told.shots, then.shots),
    captions: changed(told.captions, then.captions),
    lines: changed(told.lines, then.lines),
  });
}
