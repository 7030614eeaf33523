"""Caption times that follow the words: in with the first word, out after the last, on whole frames."""

import itertools
from bisect import bisect_left, bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from fox_cadence.core.project import Caption, Project
from fox_cadence.core.ticks import seconds_to_ticks
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
    return seconds_to_ticks(characters_read(text) / rate_cps)


@lru_cache(maxsize=100_000)
def characters_read(text: str) -> int:
    """Characters of a text as it is shown: a row of spaces counts as one."""
    return len(" ".join(text.split()))


def needed_frames(project: Project, text: str) -> int:
    """How long a caption must be shown at least: the shortest caption of the house, or the time to read
    it."""
    house = project.house
    return _needed(project.rate.frame_ticks, house.shortest_caption_ticks, house.reading_rate_cps, text)


@lru_cache(maxsize=100_000)
def _needed(frame_ticks: int, shortest_ticks: int, rate_cps: float, text: str) -> int:
    return -(-max(shortest_ticks, reading_ticks(text, rate_cps)) // frame_ticks)


def caption_frames(
    project: Project,
    spoken: Sequence[SpokenCaption],
    before: Mapping[str, ShotSpan],
    after: Mapping[str, ShotSpan],
) -> dict[str, tuple[int, int]]:
    """In and out frame of every caption (out exclusive).

    `before` and `after` are the shots before and after the fit. A locked caption keeps its frames in the
    piece, a pinned one those in its shot; one that nobody says keeps its place inside its shot; the others
    follow their words.
    """
    writer = _Writer(project, after)
    found: dict[str, tuple[int, int]] = {}
    lanes: dict[int, list[tuple[int, int, int, _Shown]]] = {}
    for item in spoken:
        caption, shown = item.caption, writer.shown(item)
        if caption.locked:
            at = before[caption.shot_id].start_frame
            times = (at + caption.in_frames, at + caption.out_frames)
        elif caption.pinned:
            at = after[caption.shot_id].start_frame
            times = (at + caption.in_frames, at + caption.out_frames)
        elif item.words_ticks is None:
            times = _kept_in_shot(caption, after[caption.shot_id])
        else:
            times = writer.wanted(shown, *item.words_ticks)
        start, end = times
        # of two that come in the same frame, first the one whose words are said first
        begins = item.words_ticks[0] if item.words_ticks and not shown.given else project.rate.ticks(start)
        lanes.setdefault(item.lane, []).append((start, begins, end, shown))
    for own in lanes.values():
        own.sort(key=lambda entry: entry[:3])
        times_now = [(start, end) for start, _, end, _ in own]
        found.update(writer.one_at_a_time([shown for *_, shown in own], times_now))
    return found


def _kept_in_shot(caption: Caption, span: ShotSpan) -> tuple[int, int]:
    start = min(span.start_frame + caption.in_frames, span.end_frame - 1)
    return start, max(start + 1, min(span.start_frame + caption.out_frames, span.end_frame))


@dataclass(frozen=True, slots=True)
class _Shown:
    """A caption in frames. `given`: it has its times already.

    `first` is the latest in frame that still shows the first word as it begins, `last` the earliest out frame
    after the last word, `needed` how long it must be shown to be read.
    """

    id: str
    given: bool
    first: int
    last: int
    needed: int


class _Writer:
    """Knows the house's rules in frames."""

    def __init__(self, project: Project, shots: Mapping[str, ShotSpan]) -> None:
        self._project, self._frame = project, project.rate.frame_ticks
        self._lead, self._linger = project.house.caption_lead_ticks, project.house.caption_linger_ticks
        self._cuts = sorted(
            {frame for span in shots.values() for frame in (span.start_frame, span.end_frame)}
        )
        self._end = self._cuts[-1] if self._cuts else 0
        self._snap = project.rate.frames_floor(project.house.caption_snap_ticks)

    def shown(self, item: SpokenCaption) -> _Shown:
        caption, (first, last) = item.caption, item.words_ticks or (0, 0)
        given = caption.leads or item.words_ticks is None
        needed = needed_frames(self._project, caption.text)
        return _Shown(caption.id, given, first // self._frame, -(-last // self._frame), needed)

    def wanted(self, shown: _Shown, first_ticks: int, last_ticks: int) -> tuple[int, int]:
        """The times of a caption for itself: lead, linger, readable, edges on cuts that are near."""
        start = max(0, first_ticks - self._lead) // self._frame
        start = self._near(start, start - self._snap, min(start + self._snap, shown.first))
        readable = start + shown.needed
        end = max(-(-(last_ticks + self._linger) // self._frame), readable)
        return start, self._near(end, max(end - self._snap, shown.last, readable), end + self._snap)

    def _near(self, frame: int, earliest: int, latest: int) -> int:
        """Go to the nearest cut between two frames, within which words are shown and can be read; else
        stay."""
        first = bisect_left(self._cuts, earliest)
        near = self._cuts[first : bisect_right(self._cuts, latest, first)]
        return min(near, key=lambda cut: abs(cut - frame)) if near else frame

    def one_at_a_time(
        self, items: Sequence[_Shown], times: list[tuple[int, int]]
    ) -> dict[str, tuple[int, int]]:
        """Neighbours never overlap and leave no gap or at least two frames; each as readable as its room
        allows.

        Where two would overlap, the first ends as the second comes; the second waits for the end of the first
        one's words and for it to be read, as long as that costs no caption from it on any of its own words.
        """
        latest = _latest_starts(items)
        settled: list[tuple[int, int]] = []
        for item, late, (wanted, end) in zip(items, latest, times, strict=True):
            start = wanted if item.given else max(0, min(wanted, late))
            settled.append((start, min(end, max(self._end, start + 1))))
        for here, following in itertools.pairwise(range(len(items))):
            (start, end), (next_start, next_end) = settled[here], settled[following]
            shown, coming = items[here], items[following]
            if end > next_start and not coming.given:
                least = end if shown.given else max(shown.last, start + shown.needed)
                next_start = max(next_start, min(least, end, latest[following]))
            if not shown.given and (end > next_start or end == next_start - 1):
                end = max(start + 1, next_start)
            if not coming.given:
                next_start = end if next_start == end + 1 else max(next_start, end)
                next_end = max(next_end, min(next_start + coming.needed, max(self._end, next_start + 1)))
            settled[here], settled[following] = (start, end), (next_start, next_end)
        _earlier_to_be_read(items, settled)
        return {item.id: time for item, time in zip(items, settled, strict=True)}


def _latest_starts(items: Sequence[_Shown]) -> list[int]:
    """The latest in frame of each caption that costs neither it nor those after it the begin of a word: where
    the words of two begin within one frame, the first is there a frame earlier."""
    latest = [item.first for item in items]
    for following in range(len(items) - 1, 0, -1):
        here = following - 1
        if not items[following].given:
            latest[here] = min(latest[here], latest[following] - 1)
    return latest


def _earlier_to_be_read(items: Sequence[_Shown], settled: list[tuple[int, int]]) -> None:
    """Where there is free time before a caption that can't be read, it comes earlier."""
    free_from = 0
    for position, item in enumerate(items):
        start, end = settled[position]
        if not item.given:
            wanted = max(end - item.needed, free_from)
            if wanted < start:
                start = free_from if wanted == free_from + 1 else wanted
                settled[position] = (start, end)
        free_from = end
