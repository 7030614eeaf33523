"""Caption times that follow the words: in with the first word, out after the last, on whole frames."""

import itertools
from bisect import bisect_left, bisect_right
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from fox_cadence.core.project import Caption, Project
from fox_cadence.core.ticks import FrameRate, seconds_to_ticks
from fox_cadence.core.timeline import ShotSpan


@dataclass(frozen=True, slots=True)
class SpokenCaption:
    """A caption with the begin and the end of its words, in ticks of the piece; None when nobody says it.

    Captions of different lanes may be shown together.
    """

    caption: Caption
    words_ticks: tuple[int, int] | None
    lane: int = 0


def reading_ticks(text: str, rate_cps: float) -> int:
    """The time a text needs to be read, in ticks."""
    return seconds_to_ticks(len(" ".join(text.split())) / rate_cps)


def needed_frames(project: Project, text: str) -> int:
    """How long a caption must be shown at least: the shortest caption of the house, or the time to read it."""
    house = project.house
    return _needed(project.rate, house.shortest_caption_ticks, house.reading_rate_cps, text)


@lru_cache(maxsize=100_000)
def _needed(rate: FrameRate, shortest_ticks: int, rate_cps: float, text: str) -> int:
    return rate.frames_ceil(max(shortest_ticks, reading_ticks(text, rate_cps)))


def caption_frames(
    project: Project,
    spoken: Sequence[SpokenCaption],
    before: Mapping[str, ShotSpan],
    after: Mapping[str, ShotSpan],
) -> dict[str, tuple[int, int]]:
    """In and out frame of every caption (out exclusive).

    `before` and `after` are the shots before and after the fit. A locked caption keeps its frames in the piece, a
    pinned one those in its shot; one that nobody says keeps its place inside its shot; the others follow their words.
    """
    writer = _Writer(project, after)
    found: dict[str, tuple[int, int]] = {}
    for item in spoken:
        caption = item.caption
        if caption.locked:
            at = before[caption.shot_id].start_frame
            found[caption.id] = (at + caption.in_frames, at + caption.out_frames)
        elif caption.pinned:
            at = after[caption.shot_id].start_frame
            found[caption.id] = (at + caption.in_frames, at + caption.out_frames)
        elif item.words_ticks is None:
            found[caption.id] = _kept_in_shot(caption, after[caption.shot_id])
    for lane in sorted({item.lane for item in spoken}):
        own = [item for item in spoken if item.lane == lane]
        given = [(found[item.caption.id], item) for item in own if item.caption.id in found]
        free = [(writer.wanted(item), item) for item in own if item.caption.id not in found]
        order = sorted([*given, *free], key=lambda pair: pair[0])
        found.update(writer.one_at_a_time([item for _, item in order], [times for times, _ in order]))
    return found


def _kept_in_shot(caption: Caption, span: ShotSpan) -> tuple[int, int]:
    start = min(span.start_frame + caption.in_frames, span.end_frame - 1)
    return start, max(start + 1, min(span.start_frame + caption.out_frames, span.end_frame))


class _Writer:
    """Knows the house's rules in frames."""

    def __init__(self, project: Project, shots: Mapping[str, ShotSpan]) -> None:
        self.project, self.rate = project, project.rate
        self._cuts = sorted({frame for span in shots.values() for frame in (span.start_frame, span.end_frame)})
        self._end = self._cuts[-1] if self._cuts else 0
        self._snap = self.rate.frames_floor(project.house.caption_snap_ticks)

    def wanted(self, item: SpokenCaption) -> tuple[int, int]:
        """The times of a caption for itself: lead, linger, readable, edges on cuts that are near."""
        assert item.words_ticks is not None
        first, last = item.words_ticks
        house = self.project.house
        start = self.rate.frames_floor(max(0, first - house.caption_lead_ticks))
        start = self._near(start, lambda cut: cut <= self._first_frame(item))
        end = self.rate.frames_ceil(last + house.caption_linger_ticks)
        end = max(end, start + needed_frames(self.project, item.caption.text))
        return start, self._near(end, lambda cut: cut >= max(self._last_frame(item), start + 1))

    def _near(self, frame: int, allowed: Callable[[int], bool]) -> int:
        """Go to a near cut, but never to one that would leave words uncovered."""
        first = bisect_left(self._cuts, frame - self._snap)
        end = bisect_right(self._cuts, frame + self._snap)
        near = [cut for cut in self._cuts[first:end] if allowed(cut)]
        return min(near, key=lambda cut: abs(cut - frame)) if near else frame

    def _first_frame(self, item: SpokenCaption) -> int:
        """The latest in frame that still shows the first word as it begins."""
        return self.rate.frames_floor(item.words_ticks[0]) if item.words_ticks else 0

    def _last_frame(self, item: SpokenCaption) -> int:
        """The earliest out frame after the last word."""
        return self.rate.frames_ceil(item.words_ticks[1]) if item.words_ticks else 0

    def one_at_a_time(self, items: Sequence[SpokenCaption], times: list[tuple[int, int]]) -> dict[str, tuple[int, int]]:
        """Neighbours never overlap and leave no gap or at least two frames; each as readable as its room allows.

        Where two would overlap, the first ends as the second comes; the second waits for the end of the first one's
        words and for it to be read, as long as that costs it none of its own words.
        """
        settled = [(start, min(end, max(self._end, start + 1))) for start, end in times]
        given = [item.caption.leads or item.words_ticks is None for item in items]
        for here, following in itertools.pairwise(range(len(items))):
            start, end = settled[here]
            next_start, next_end = settled[following]
            if end > next_start and not given[following]:
                least = end if given[here] else max(self._last_frame(items[here]), self._read_by(items[here], start))
                latest = self._first_frame(items[following])
                next_start = max(next_start, min(least, end, latest))
            if not given[here] and (end > next_start or end == next_start - 1):
                end = max(start + 1, next_start)
            if not given[following]:
                next_start = end if next_start == end + 1 else max(next_start, end)
                next_end = max(
                    next_end, min(self._read_by(items[following], next_start), max(self._end, next_start + 1))
                )
            settled[here] = (start, end)
            settled[following] = (next_start, next_end)
        self._earlier_to_be_read(items, settled, given)
        return {item.caption.id: time for item, time in zip(items, settled, strict=True)}

    def _read_by(self, item: SpokenCaption, start: int) -> int:
        return start + needed_frames(self.project, item.caption.text)

    def _earlier_to_be_read(
        self, items: Sequence[SpokenCaption], settled: list[tuple[int, int]], given: Sequence[bool]
    ) -> None:
        """Where there is free time before a caption that can't be read, it comes earlier."""
        free_from = 0
        for position, item in enumerate(items):
            start, end = settled[position]
            if not given[position]:
                wanted = max(end - needed_frames(self.project, item.caption.text), free_from)
                if wanted < start:
                    start = free_from if wanted == free_from + 1 else wanted
                    settled[position] = (start, end)
            free_from = end
