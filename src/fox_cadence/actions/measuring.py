"""Measuring a finished video against its project: the proof that speech, captions and cuts are in sync."""

import itertools
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

from fox_cadence.actions.making_video import frames_of, in_frame, screen
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import VideoRow
from fox_cadence.core.docket.sizes import loop_step
from fox_cadence.core.outside import HEARD_TICKS, outside_of
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.timeline import LineSpan, Timeline
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.measure import Findings, SoughtSpeech, cuts_inside, find_all
from fox_cadence.media.measure_loops import find_in_loop
from fox_cadence.media.sight import SoughtCaption

SPEECH_TOLERANCE_MS = 20.0
CAPTION_TOLERANCE_FRAMES = 1
_CERTAIN_MATCH = 0.35


@dataclass(frozen=True, slots=True)
class Difference:
    """One thing looked for: planned and found, in frames or in milliseconds; found is None when it wasn't.

    `number` is that of the shot, caption or line it is about, from 1.
    """

    what: str
    unit: str
    planned: float
    found: float | None
    number: int = 0

    @property
    def off(self) -> float | None:
        return None if self.found is None else self.found - self.planned


@dataclass(frozen=True)
class Report:
    """All differences, by kind. A transition has no frame of its own to be found at: how many there are is
    only said, and so are the edges of captions that lie within one that is no dissolve.

    `outside` names what lies past the end of the piece: nobody promised that it would be in the video.
    `cuts_inside` were found where a shot's own clip cuts: the footage has them, the plan does not, and
    nothing is wrong with them. `unplanned_cuts` are in neither. `sums` are those of stems against their mix.
    """

    planned_frames: int
    frames: int
    cuts: tuple[Difference, ...]
    transitions: int
    hidden_edges: int
    outside: tuple[str, ...]
    cuts_inside: tuple[int, ...]
    unplanned_cuts: tuple[int, ...]
    captions: tuple[Difference, ...]
    speech: tuple[Difference, ...]
    sums: tuple[Difference, ...] = ()

    @property
    def in_sync(self) -> bool:
        return (
            self.frames == self.planned_frames
            and not self.unplanned_cuts
            and all(item.off == 0 for item in (*self.cuts, *self.sums))
            and all(
                item.off is not None and abs(item.off) <= CAPTION_TOLERANCE_FRAMES for item in self.captions
            )
            and all(item.off is not None and abs(item.off) <= SPEECH_TOLERANCE_MS for item in self.speech)
        )

    def as_json(self) -> dict[str, Any]:
        def rows(items: tuple[Difference, ...]) -> list[dict[str, Any]]:
            return [
                {"what": i.what, "number": i.number, "unit": i.unit, "planned": i.planned, "found": i.found,
                 "off": i.off}
                for i in items
            ]  # fmt: skip

        return {
            "in_sync": self.in_sync,
            "frames": self.frames,
            "planned_frames": self.planned_frames,
            "cuts": rows(self.cuts),
            "transitions": self.transitions,
            "hidden_edges": self.hidden_edges,
            "outside": list(self.outside),
            "cuts_inside": list(self.cuts_inside),
            "unplanned_cuts": list(self.unplanned_cuts),
            "captions": rows(self.captions),
            "speech": rows(self.speech),
            "sums": rows(self.sums),
            "worst": {
                "cut_frames": _worst(self.cuts),
                "caption_frames": _worst(self.captions),
                "speech_ms": _worst(self.speech),
            },
        }

    def as_text(self) -> str:
        lines = [f"{self.frames} frames, {self.planned_frames} planned"]
        kinds = (("cuts", self.cuts), ("captions", self.captions), ("speech", self.speech))
        for title, items in (*kinds, *([("stems", self.sums)] if self.sums else [])):
            worst = _worst(items)
            missing = sum(item.found is None for item in items)
            unit = items[0].unit if items else ""
            lines.append(
                f"{title}: {len(items)} looked for, {missing} not found, worst {worst} {unit}".rstrip()
            )
            lines += [f"  {item.what}: {'not found' if item.off is None else f'{item.off:+.1f} {item.unit}'}"
                      for item in items if item.off is None or item.off]  # fmt: skip
        if self.transitions:
            lines.append(f"transitions: {self.transitions}, not looked for")
        if self.hidden_edges:
            lines.append(f"edges of captions within a transition: {self.hidden_edges}, not looked for")
        lines += [f"not looked for: {text}" for text in self.outside]
        if self.cuts_inside:
            lines.append(
                f"cuts of the footage itself, inside shots, at frames {', '.join(map(str, self.cuts_inside))}"
            )
        if self.unplanned_cuts:
            lines.append(f"cuts that nobody planned, at frames {', '.join(map(str, self.unplanned_cuts))}")
        lines.append("in sync" if self.in_sync else "not in sync")
        return "\n".join(lines)


def measure_video(
    workspace: Workspace,
    video: Path,
    project_id: str,
    watcher: Watcher | None = None,
    revision: int | None = None,
    row: VideoRow | None = None,
) -> Report:
    """Look into a finished video and compare with the project as it stands, or as it was at a revision.

    Args:
        row: of the docket, which it was made by; without one it is the whole piece in its own frame, with
            the captions drawn in.

    Raises:
        InputError: the video can't be read, or has another frame size.
    """
    row = row or VideoRow(name="video")
    watch = watcher or Unwatched()
    if not video.is_file():
        raise InputError("there is no such file", str(video))
    shown = workspace.head(project_id).project
    if revision is not None:
        shown = workspace.projects.at(project_id, revision)
    size = row.size(shown.width, shown.height)
    timeline = in_frame(workspace.timeline(shown), size)
    first, last = frames_of(row.part, timeline)
    begins_s = ticks_to_seconds(shown.rate.ticks(first))
    spans = [
        span
        for span in timeline.lines
        if shown.rate.ticks(first) <= span.start_ticks
        and span.end_ticks <= shown.rate.ticks(last) + HEARD_TICKS
    ]
    speech = sought(workspace, spans, shown.rate.ticks(first))
    lettered = screen(workspace, timeline).captions if row.captions == "drawn" else ()
    captions = [SoughtCaption(each.caption_id, each.drawing, each.shift) for each in lettered]

    def told(done: int, total: int) -> None:
        watch.report(done, total, "Looking at frames")

    def stopped() -> bool:
        return watch.cancelled

    found: Findings
    rate, step, run = shown.rate.fraction, 1, workspace.hands.run
    if row.loop:
        step = loop_step(rate)
        found = run(find_in_loop, video, captions, rate, step, progress=told, cancelled=stopped)
    else:
        found = run(find_all, video, speech, captions, progress=told, cancelled=stopped)
    if (found.width, found.height) != size:
        raise InputError(
            f"the video is {found.width} × {found.height}, the project {size[0]} × {size[1]}", str(video)
        )
    found = _in_piece(found, first, begins_s)
    footage = _cuts_of_the_footage(workspace, timeline, found, step, watch)
    moving = {each.caption_id: each.moving_frames for each in lettered}
    return compare(timeline, found, footage, moving, (first, last), step)


def sought(workspace: Workspace, spans: Sequence[LineSpan], begins_ticks: int) -> list[SoughtSpeech]:
    """What is looked for of some lines in a file that begins so far into the piece."""
    return [
        SoughtSpeech(
            span.line.id,
            workspace.library.take_sound(span.take.sound_hash),
            span.take.onset_sample,
            span.take.end_sample,
            ticks_to_seconds(span.start_ticks - begins_ticks),
        )
        for span in spans
        if span.take is not None
    ]


def _in_piece(found: Findings, first: int, begins_s: float) -> Findings:
    """What was found in a part of a piece, at the times it has in the whole."""
    return replace(
        found,
        cuts=tuple(cut + first for cut in found.cuts),
        captions={
            each: tuple((start + first, end + first) for start, end in runs)
            for each, runs in found.captions.items()
        },
        speech=tuple(
            replace(each, start_s=each.start_s + begins_s, end_s=each.end_s + begins_s)
            for each in found.speech
        ),
    )


def _cuts_of_the_footage(
    workspace: Workspace, timeline: Timeline, found: Findings, step: int, watch: Watcher
) -> tuple[int, ...]:
    """Where the clips of shots cut by themselves; looked for only in shots in which cuts were found."""
    inside = {
        number
        for number, span in enumerate(timeline.shots)
        for cut in found.cuts
        if span.shot.clip_hash and span.start_frame + step <= cut < span.end_frame
    }
    if not inside:
        return ()
    shown = replace(screen(workspace, timeline), captions=())
    files = {each: workspace.library.original(each) for n in inside for each in timeline.shots[n].shot.media}
    own: tuple[int, ...] = workspace.hands.run(
        cuts_inside,
        shown,
        sorted(inside),
        files,
        progress=lambda done, total: watch.report(done, total, "Looking at the footage"),
        cancelled=lambda: watch.cancelled,
    )
    return own


def compare(
    timeline: Timeline,
    found: Findings,
    footage: tuple[int, ...] = (),
    moving: Mapping[str, tuple[int, int]] | None = None,
    frames: tuple[int, int] | None = None,
    step: int = 1,
) -> Report:
    """Planned beside found.

    Args:
        footage: frames of the piece at which the shots' own clips cut.
        moving: in how many frames captions come in and go out, by id: their edges are found somewhere within
            these, which counts as on their frame.
        frames: of the piece that the video shows, [first, last); all of them without.
        step: how many frames of the piece a picture of the video stands for: what happens within these is
            seen in the next picture, and is on its frame then.
    """
    first, last = frames or (0, timeline.total_frames)
    joints = [
        (number, (before, after))
        for number, (before, after) in enumerate(itertools.pairwise(timeline.shots), 2)
        if first < after.start_frame < last
    ]
    hard = [
        (number, after.start_frame)
        for number, (before, after) in joints
        if before.end_frame <= after.start_frame
    ]
    nearest = [_nearest(cut, found.cuts) for _, cut in hard]
    cuts = tuple(
        Difference(f"cut to shot {number}", "frames", cut, _on_frame(cut, seen, (0, step - 1)), number)
        for (number, cut), seen in zip(hard, nearest, strict=True)
    )
    matched = set(nearest)
    becoming: dict[int, str] = {
        frame: before.shot.transition_kind
        for _, (before, after) in joints
        for frame in range(after.start_frame, before.end_frame + step)
        if before.end_frame > after.start_frame
    }
    others = [cut for cut in found.cuts if cut not in matched and cut not in becoming]
    own = {frame + near for frame in footage for near in range(-1, step + 1)}
    captions: list[Difference] = []
    hidden = 0
    for number, span in enumerate(timeline.captions, 1):
        runs = found.captions.get(span.caption.id)
        if runs is None or span.in_frame >= last or span.out_frame <= first:
            continue
        out = min(span.out_frame, last)
        near = [run for run in runs if _overlap(run, (span.in_frame, out)) > 0]  # others only look alike
        run = max(near, key=lambda item: _overlap(item, (span.in_frame, out)), default=None)
        for edge, frame, at in (("in", max(first, span.in_frame), 0), ("out", out, 1)):
            if becoming.get(frame, "dissolve") != "dissolve":
                hidden += 1  # the picture behind it moves away or goes out: there is no edge to be told
                continue
            late = (moving or {}).get(span.caption.id, (0, 0))[at] * (1 if at == 0 else -1)
            edge_found = _on_frame(frame, run[at] if run else None, (min(0, late), max(0, late) + step - 1))
            captions.append(Difference(f"caption {number} {edge}", "frames", frame, edge_found, number))
    heard = {item.line_id: item for item in found.speech}
    speech: list[Difference] = []
    for number, line in enumerate(timeline.lines, 1):
        item = heard.get(line.line.id)
        if item is None:
            continue
        sure = item.match >= _CERTAIN_MATCH
        if line.end_ticks - timeline.total_ticks > HEARD_TICKS:
            continue  # its end can't be there: `outside` says so
        for edge, ticks, seconds in (
            ("begins", line.start_ticks, item.start_s),
            ("ends", line.end_ticks, item.end_s),
        ):
            planned = ticks_to_seconds(ticks) * 1000
            speech.append(
                Difference(f"line {number} {edge}", "ms", planned, seconds * 1000 if sure else None, number)
            )
    return Report(
        planned_frames=-(-(last - first) // step) * step,
        frames=found.frames,
        cuts=cuts,
        transitions=len(joints) - len(hard),
        hidden_edges=hidden,
        outside=tuple(each.text for each in outside_of(timeline)),
        cuts_inside=tuple(cut for cut in others if cut in own),
        unplanned_cuts=tuple(cut for cut in others if cut not in own),
        captions=tuple(captions),
        speech=tuple(speech),
    )


def _nearest(frame: int, cuts: tuple[int, ...]) -> int | None:
    near = [cut for cut in cuts if abs(cut - frame) <= 30]
    return min(near, key=lambda cut: abs(cut - frame)) if near else None


def _on_frame(planned: int, found: int | None, within: tuple[int, int]) -> int | None:
    """What was found no further from a frame than it can be seen is on that frame."""
    return planned if found is not None and within[0] <= found - planned <= within[1] else found


def _overlap(a: tuple[int, int], b: tuple[int, int]) -> int:
    return min(a[1], b[1]) - max(a[0], b[0])


def _worst(items: tuple[Difference, ...]) -> float | None:
    offs = [abs(item.off) for item in items if item.off is not None]
    return round(max(offs), 2) if offs else None
