"""Finished sound and caption files measured against the piece they were made of, as videos are
(actions/measuring.py)."""

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path

from fox_cadence.actions.making_video import frames_of
from fox_cadence.actions.measuring import Difference, Report, compare, sought
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import SoundRow, StemsRow
from fox_cadence.core.outside import HEARD_TICKS
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import InputError
from fox_cadence.formats import read_words, ttml
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.measure import Findings, FoundSpeech, speech_inside
from fox_cadence.media.summing import samples_apart

_LENGTH_TOLERANCE_S = 0.06
"""Codecs pad their last block: of MP3 and AAC by less than this."""
PROVEN = (".srt", ".vtt", ".ttml")
"""Caption files that are read again."""


def _at(workspace: Workspace, project_id: str, revision: int) -> Timeline:
    return workspace.timeline(workspace.projects.at(project_id, revision))


def measure_sound(
    workspace: Workspace,
    file: Path,
    project_id: str,
    revision: int,
    row: SoundRow,
    of: str,
    watcher: Watcher | None = None,
    needed: bool = True,
) -> Report:
    """Look for the speech of a sound file.

    Args:
        of: what is in it, of those the row names.
        needed: it proves nothing where nothing is said in it.

    Raises:
        InputError: nothing is said in it, and that is needed.
    """
    watch = watcher or Unwatched()
    timeline = _at(workspace, project_id, revision)
    rate = timeline.project.rate
    first, last = frames_of(row.part, timeline)
    begins, ends = rate.ticks(first), rate.ticks(last)
    kind, _, which = of.partition(":")
    spans = [
        span
        for span in timeline.lines
        if begins <= span.start_ticks
        and span.end_ticks <= ends + HEARD_TICKS
        and (kind in ("mix", "speech") or (kind == "role" and span.line.role_id == which)
             or (kind == "line" and span.line.id == which))
        and timeline.project.mix.heard("speech", span.line.role_id)
    ]  # fmt: skip
    looked_for = sought(workspace, spans, begins)
    if not looked_for and needed:
        raise InputError("nothing is said in it that could be looked for", file.name)
    found: tuple[float, tuple[FoundSpeech, ...]] = workspace.hands.run(
        speech_inside,
        file,
        looked_for,
        progress=lambda done, total: watch.report(done, total, "Listening for lines"),
        cancelled=lambda: watch.cancelled,
    )
    seconds, heard = found
    planned_s = float((last - first) / rate.fraction)
    frames = (
        last - first if abs(seconds - planned_s) <= _LENGTH_TOLERANCE_S else round(seconds * rate.fraction)
    )
    begins_s = ticks_to_seconds(begins)
    there = Findings(
        frames, 0, 0, float(rate.fraction), 0.0, (), {},
        tuple(replace(each, start_s=each.start_s + begins_s, end_s=each.end_s + begins_s) for each in heard),
    )  # fmt: skip
    report = compare(timeline, there, frames=(first, last))
    return replace(report, cuts=(), transitions=0)


def measure_stems(
    workspace: Workspace,
    mixed: Path,
    stems: Sequence[Path],
    project_id: str,
    revision: int,
    row: StemsRow,
    watcher: Watcher | None = None,
) -> Report:
    """Sum stems and lay them beside the mix that was written with them, and look for the speech of that.

    Raises:
        InputError: a file is not there any more, or can't be read.
    """
    for file in (mixed, *stems):
        if not file.is_file():
            raise InputError("it is not there any more, so the stems can't be summed", file.name)
    watch = watcher or Unwatched()
    whole = SoundRow(name=row.name, part=row.part)
    report = measure_sound(workspace, mixed, project_id, revision, whole, "mix", watcher, needed=False)
    apart: int = workspace.hands.run(
        samples_apart,
        mixed,
        list(stems),
        progress=lambda done, total: watch.report(done, total, "Summing the stems"),
        cancelled=lambda: watch.cancelled,
    )
    named = f"sum of {len(stems)} stems against the mix"
    return replace(report, sums=(Difference(named, "samples", 0, apart),))


def measure_captions(workspace: Workspace, file: Path, project_id: str, revision: int) -> Report:
    """Read a caption file again, and lay it beside the captions of the piece. Its frames are those up to the
    end of the last caption.

    Raises:
        InputError: it can't be read, or has no times.
    """
    if file.suffix not in PROVEN:
        raise InputError(f"only {', '.join(PROVEN)} are read again here", file.name)
    timeline = _at(workspace, project_id, revision)
    rate, end = timeline.project.rate, timeline.total_frames
    data = file.read_bytes()
    read = ttml.read(data) if file.suffix == ".ttml" else read_words(file.name, data).cues
    spans = sorted(
        (span for span in timeline.captions if span.in_frame < end),
        key=lambda span: (span.in_frame, span.out_frame),
    )
    numbers = {span.caption.id: number for number, span in enumerate(timeline.captions, 1)}
    found: list[Difference] = []
    left = list(read)
    for span in spans:
        words = span.caption.text.split()
        cue = next((each for each in left if each.text.split() == words), None)
        if cue is not None:
            left.remove(cue)
        number = numbers[span.caption.id]
        for edge, frame, ticks in (
            ("in", span.in_frame, cue.start_ticks if cue else None),
            ("out", min(span.out_frame, end), cue.end_ticks if cue else None),
        ):
            at = None if ticks is None else rate.frames_nearest(ticks)
            found.append(Difference(f"caption {number} {edge}", "frames", frame, at, number))
    found += [
        Difference(f"no caption of the piece: {' '.join(each.text.split())}", "frames", 0, None)
        for each in left
    ]
    ends = [item for item in found if item.what.endswith(" out")]
    return Report(
        planned_frames=round(max((item.planned for item in ends), default=0)),
        frames=round(max((item.found or 0 for item in ends), default=0)),
        cuts=(),
        transitions=0,
        hidden_edges=0,
        outside=(),
        cuts_inside=(),
        unplanned_cuts=(),
        captions=tuple(found),
        speech=(),
    )
