"""Why a fit is what it is: the rules that bind, from the solver's dual values, named by object, largest
first.

A dual value is what the cost would fall by if the rule gave way by a second (Boyd and Vandenberghe, Convex
Optimization, 5.6.2): it says how hard a rule presses, not by how much it is missed.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from fox_cadence.core.fit.captions import needed_frames
from fox_cadence.core.fit.plan import Basis, Proposal
from fox_cadence.core.fit.problem import Ints
from fox_cadence.core.fit.rows import Rule
from fox_cadence.core.fit.statement import shown_captions
from fox_cadence.core.marks import sync_points
from fox_cadence.core.numbers import counted
from fox_cadence.core.shot_limits import clip_frames, frames_before, overlap_frames
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.timeline import Timeline

_LEAST_SHARE = 0.02
_LEAST_PRESS = 0.01
"""What a second would save less than this of, nobody hears: a line of a second at ×1.10 costs 0.2."""


@dataclass(frozen=True, slots=True)
class Reason:
    """A rule in words; `press` is what a second of it would save, in units of the cost."""

    text: str
    press: float


class Reasons:
    """Reads reasons off the basis of a proposal."""

    def __init__(self, timeline: Timeline, basis: Basis) -> None:
        self._timeline, self._basis = timeline, basis
        self._project = timeline.project
        self._press: dict[Rule, dict[int, float]] = {}
        for rule in Rule:
            rows, objects = basis.program.rows(rule)
            values = basis.solution.duals[rows]
            self._press[rule] = {
                int(each): float(value)
                for each, value in zip(objects, values, strict=True)
                if abs(value) > _LEAST_PRESS
            }
        self._captions = shown_captions(timeline)

    def of_line(self, position: int) -> tuple[Reason, ...]:
        """What binds a line."""
        return _largest([*self._line_rules(position), *self._line_captions(position)])

    def of_shot(self, position: int) -> tuple[Reason, ...]:
        """What binds a shot: its own limit, and who asks it to change."""
        found = list(self._shot_limit(position))
        lines = self._basis.problem.lines
        for line, press in self._press[Rule.END].items():
            if lines.first[line] <= position < lines.until[line] and press > 0:
                found.append(Reason(f"line {line + 1} asks it to be longer", press))
        for pair, press in self._press[Rule.ORDER].items():
            a, b = (int(each) for each in lines.pairs[pair])
            if lines.first[a] <= position < lines.first[b]:
                found.append(Reason(f"line {b + 1} may not begin before line {a + 1} has ended", abs(press)))
        found += self._piece()
        return _largest(found)

    # rules of lines

    def _line_rules(self, position: int) -> Iterator[Reason]:
        problem, project = self._basis.problem, self._project
        line = self._timeline.lines[position].line
        shots = project.shot_index()
        first, last = shots[line.first_shot_id] + 1, shots[line.last_shot_id] + 1
        house = project.house
        yield from self._pair_rules(position)
        start, end = self._press[Rule.START].get(position, 0.0), self._press[Rule.END].get(position, 0.0)
        if line.locked:
            yield Reason("the line is locked", abs(start) + abs(end) + 1)
            return
        if start < 0:
            yield Reason(
                f"shot {first} begins, and {ticks_to_seconds(house.lead_ticks):.2f} s of lead", -start
            )
        if end > 0:
            yield Reason(f"shot {last} ends, less {ticks_to_seconds(house.tail_ticks):.2f} s of tail", end)
            for shot in range(first - 1, last):
                yield from self._shot_limit(shot)
            yield from self._piece()
        if self._press[Rule.EARLY].get(position, 0.0) > 0:
            yield Reason("the longest J-cut", self._press[Rule.EARLY][position])
        if self._press[Rule.LATE].get(position, 0.0) > 0:
            yield Reason("the longest L-cut", self._press[Rule.LATE][position])
        spans = range(int(problem.lines.first_span[position]), int(problem.lines.first_span[position + 1]))
        for span in spans:
            yield from self._span_rules(span)
        for sync in np.flatnonzero(np.isin(problem.syncs.span, np.array(spans))):
            yield from self._sync_rule(position, int(sync), spans.start)

    def _span_rules(self, span: int) -> Iterator[Reason]:
        house = self._project.house
        pace, pauses = self._press[Rule.PACE].get(span, 0.0), self._press[Rule.PAUSES].get(span, 0.0)
        if pace and not self._basis.problem.spans.adapts[span]:
            yield Reason("voice leads here, so its pace stays", abs(pace))
        elif pace < 0:
            yield Reason(f"the fastest pace of the house, ×{house.fastest_pace:.2f}", -pace)
        elif pace > 0:
            yield Reason(f"the slowest pace of the house, ×{house.slowest_pace:.2f}", pace)
        if pauses < 0:
            yield Reason(f"the shortest pause, {ticks_to_seconds(house.shortest_pause_ticks):.2f} s", -pauses)

    def _pair_rules(self, position: int) -> Iterator[Reason]:
        pairs: Ints = self._basis.problem.lines.pairs
        for pair, press in self._press[Rule.ORDER].items():
            a, b = (int(each) for each in pairs[pair])
            if b == position:
                yield Reason(f"line {a + 1} speaks until then", abs(press))
            elif a == position:
                yield Reason(f"line {b + 1} follows", abs(press))

    def _sync_rule(self, position: int, sync: int, first_span: int) -> Iterator[Reason]:
        press = abs(self._press[Rule.SYNC].get(sync, 0.0))
        span = self._timeline.lines[position]
        word = span.speech.spans[int(self._basis.problem.syncs.span[sync]) - first_span].first_word
        point = next((each for each in sync_points(span.line.marks) if each.word == word), None)
        if press and point is not None:
            shot = self._project.shot_index()[point.shot_id] + 1
            where = f"the cut to shot {shot}" if point.frames == 0 else f"frame {point.frames} of shot {shot}"
            yield Reason(f"“{span.words[word].text.strip('.,;:!?…')}” is held to {where}", press)

    def _line_captions(self, position: int) -> Iterator[Reason]:
        line = self._timeline.lines[position].line
        numbers = {caption.id: number for number, caption in enumerate(self._project.captions, 1)}
        for place, span in enumerate(self._captions):
            if span.line_id != line.id:
                continue
            number = numbers[span.caption.id]
            read = abs(self._press[Rule.READ].get(place, 0.0))
            if read:
                yield Reason(f"caption {number} must stay until it can be read", read)
            cover = abs(self._press[Rule.COVER_IN].get(place, 0.0)) + abs(
                self._press[Rule.COVER_OUT].get(place, 0.0)
            )
            if span.caption.id == line.caption_ids[-1]:
                cover += abs(self._press[Rule.LED_END].get(position, 0.0))
            if cover:
                what = (
                    "is locked"
                    if span.caption.locked
                    else "is pinned"
                    if span.caption.pinned
                    else "has a neighbour that leads"
                )
                yield Reason(f"caption {number} {what}", cover)

    # rules of shots and of the piece

    def _shot_limit(self, position: int) -> Iterator[Reason]:
        press = self._press[Rule.SHOT_LENGTH].get(position, 0.0)
        if not press:
            return
        project = self._project
        shot, number = project.shots[position], position + 1
        if shot.locked:
            yield Reason(f"shot {number} is locked", abs(press))
        elif (shot.give_way or project.give_way) == "picture":
            yield Reason(f"picture leads, so shot {number} keeps its length", abs(press))
        elif press > 0:
            yield Reason(self._longest(position), press)
        elif project.shots[position].shortest_frames is not None:
            yield Reason(f"shot {number} may not be shorter than {shot.shortest_frames} frames", -press)
        else:
            yield Reason(f"shot {number} may shrink by {project.house.shot_stretch:.0%} at most", -press)

    def _longest(self, position: int) -> str:
        project = self._project
        shot, number = project.shots[position], position + 1
        available = clip_frames(project, shot)
        stretched = int(shot.wanted_frames * (1 + project.house.shot_stretch))
        limit = shot.longest_frames if shot.longest_frames is not None else stretched
        if available is not None and available <= limit:
            return f"the clip of shot {number} has no more frames"
        if shot.longest_frames is not None:
            return f"shot {number} may not be longer than {shot.longest_frames} frames"
        return f"shot {number} may stretch by {project.house.shot_stretch:.0%} at most"

    def _piece(self) -> Iterator[Reason]:
        project = self._project
        total = abs(self._press[Rule.TOTAL].get(0, 0.0))
        if total and project.longest_ticks is not None:
            verb = "must last" if project.length_fixed else "may last"
            yield Reason(f"the piece {verb} {ticks_to_seconds(project.longest_ticks):.2f} s", total)
        anchors = self._basis.problem.shots.anchors
        for anchor, press in self._press[Rule.ANCHOR_BOUND].items():
            shot = int(anchors[anchor])
            what = "is held on its beat" if project.shots[shot].on_beat else "may not move"
            yield Reason(f"the cut to shot {shot + 1} {what}", abs(press))


def _largest(found: list[Reason]) -> tuple[Reason, ...]:
    """Each text once, the largest first; what presses less than a fiftieth of the hardest is left out."""
    by_text: dict[str, float] = {}
    for reason in found:
        by_text[reason.text] = max(by_text.get(reason.text, 0.0), reason.press)
    hardest = max(by_text.values(), default=0.0)
    kept = [Reason(text, press) for text, press in by_text.items() if press >= hardest * _LEAST_SHARE]
    return tuple(sorted(kept, key=lambda reason: -reason.press))


@dataclass(frozen=True, slots=True)
class ShotUse:
    """Who uses the time of a shot. Frames, but `spoken` holds line positions with ticks of speech inside the
    shot.

    `could_give`: by how many frames it could be shorter before speech in it would have to change.
    """

    spoken: tuple[tuple[int, int], ...]
    idle_ticks: int
    handle_before: int
    handle_after: int | None
    could_give: int


def shot_use(timeline: Timeline, position: int, shortest_frames: int) -> ShotUse:
    """How the time of a shot is used as it stands."""
    project, rate = timeline.project, timeline.project.rate
    span = timeline.shots[position]
    start, end = rate.ticks(span.start_frame), rate.ticks(span.end_frame)
    spoken: list[tuple[int, int]] = []
    busy: list[tuple[int, int]] = []
    for number, line in enumerate(timeline.lines):
        inside = min(end, line.end_ticks) - max(start, line.start_ticks)
        if inside > 0:
            spoken.append((number, inside))
            busy.append((max(start, line.start_ticks), min(end, line.end_ticks)))
    idle = (end - start) - _covered(busy)
    last_busy = max((stop for _, stop in busy), default=start + project.house.lead_ticks)
    free_at_end = max(0, end - project.house.tail_ticks - last_busy) if busy else max(0, idle)
    length = span.end_frame - span.start_frame
    available = clip_frames(project, span.shot)
    least = max(shortest_frames, overlap_frames(project)[position] + 1)
    return ShotUse(
        tuple(spoken),
        idle,
        frames_before(project, span.shot),
        None if available is None else max(0, available - length),
        max(0, min(length - least, rate.frames_floor(free_at_end))),
    )


def _covered(ranges: list[tuple[int, int]]) -> int:
    total, reach = 0, -1
    for start, end in sorted(ranges):
        total += max(0, end - max(start, reach))
        reach = max(reach, end)
    return total


def caption_reason(timeline: Timeline, proposal: Proposal, position: int, words_end_ticks: int | None) -> str:
    """Why a caption is shown as long as it is, '' where it simply follows its words."""
    project, rate = timeline.project, timeline.project.rate
    caption = project.captions[position]
    _, start, end = proposal.captions[position]
    if caption.locked:
        return "locked to its frames"
    if caption.pinned:
        return "pinned: its words follow it"
    if words_end_ticks is None:
        return "nobody says it, so it keeps its place in its shot"
    follow = rate.frames_ceil(words_end_ticks + project.house.caption_linger_ticks)
    frames = end - follow
    if frames == 0:
        return ""
    if frames > 0 and end - start == needed_frames(project, caption.text):
        return f"stays {counted(frames, 'frame')} longer to be readable"
    cuts = _cuts(proposal.shot_frames, overlap_frames(project))
    if end in cuts:
        way = "later" if frames > 0 else "earlier"
        where = (
            f"the cut to shot {cuts.index(end) + 1}" if cuts.index(end) < len(project.shots) else "the end"
        )
        return f"goes out with {where}, {counted(abs(frames), 'frame')} {way}"
    if frames < 0:
        return (
            f"goes out {-frames} {'frame' if frames == -1 else 'frames'} sooner, because the next one comes"
        )
    return f"stays {counted(frames, 'frame')} longer"


@lru_cache(maxsize=16)
def _cuts(frames: tuple[int, ...], overlaps: tuple[int, ...]) -> list[int]:
    cuts, at = [0], 0
    for length, overlap in zip(frames, overlaps, strict=True):
        at += length - overlap
        cuts.append(at)
    return cuts
