"""Caption times that follow the words: in with the first word, out after the last, on whole frames."""

import itertools
from collections.abc import Mapping
from dataclasses import dataclass

from fox_cadence.core.project import Caption, Project
from fox_cadence.core.ticks import seconds_to_ticks


@dataclass(frozen=True, slots=True)
class SpokenCaption:
    """A caption with the first and last moment of its words, in ticks of the piece; None when nothing is said."""

    caption: Caption
    words_ticks: tuple[int, int] | None


def caption_frames(
    project: Project,
    spoken: tuple[SpokenCaption, ...],
    before: Mapping[str, tuple[int, int]],
    after: Mapping[str, tuple[int, int]],
) -> dict[str, tuple[int, int]]:
    """In and out frame of every caption (out exclusive), captions given in the order of time.

    `before` and `after` hold start and end frame of each shot before and after the fit. Locked captions keep their
    times to the frame; a caption nobody speaks keeps its times inside its shot; the others follow their words.
    """
    rate, house = project.rate, project.house
    least = rate.frames_ceil(house.shortest_caption_ticks)
    snap = rate.frames_floor(house.caption_snap_ticks)
    cuts = sorted({frame for span in after.values() for frame in span})
    times: list[tuple[int, int]] = []
    for item in spoken:
        caption = item.caption
        if caption.locked:
            at = before[caption.shot_id][0]
            times.append((at + caption.in_frames, at + caption.out_frames))
        elif item.words_ticks is None:
            times.append(_kept_in_shot(caption, after[caption.shot_id]))
        else:
            first, last = item.words_ticks
            start = rate.frames_floor(max(0, first - house.caption_lead_ticks))
            end = rate.frames_ceil(last + house.caption_linger_ticks)
            start = _snapped_in(start, cuts, snap, rate.frames_floor(first))
            end = _snapped_out(end, cuts, snap, rate.frames_ceil(last))
            readable = rate.frames_ceil(reading_ticks(caption.text, house.reading_rate_cps))
            times.append((start, max(end, start + least, start + readable)))
    return _without_clashes(spoken, times, cuts[-1] if cuts else 0)


def reading_ticks(text: str, rate_cps: float) -> int:
    """The time a text needs to be read, in ticks."""
    return seconds_to_ticks(len(" ".join(text.split())) / rate_cps)


def _kept_in_shot(caption: Caption, span: tuple[int, int]) -> tuple[int, int]:
    start = min(span[0] + caption.in_frames, span[1] - 1)
    return start, max(start + 1, min(span[0] + caption.out_frames, span[1]))


def _snapped_in(frame: int, cuts: list[int], snap: int, first_word: int) -> int:
    """Go to a near cut, but never to one after the first word has begun."""
    near = [cut for cut in cuts if abs(cut - frame) <= snap and cut <= first_word]
    return min(near, key=lambda cut: abs(cut - frame)) if near else frame


def _snapped_out(frame: int, cuts: list[int], snap: int, last_word: int) -> int:
    """Go to a near cut, but never to one before the last word has ended."""
    near = [cut for cut in cuts if abs(cut - frame) <= snap and cut >= last_word]
    return min(near, key=lambda cut: abs(cut - frame)) if near else frame


def _without_clashes(
    spoken: tuple[SpokenCaption, ...], times: list[tuple[int, int]], end_of_piece: int
) -> dict[str, tuple[int, int]]:
    """One caption at a time, a gap of none or at least two frames between neighbours, none past the end.

    A caption whose words spill wholly past the end of the piece keeps its times there: it can't be shown, and its line
    says so.
    """
    locked = [item.caption.locked for item in spoken]
    settled = [
        (start, end if fixed or start >= end_of_piece - 1 else min(end, end_of_piece))
        for fixed, (start, end) in zip(locked, times, strict=True)
    ]
    order = sorted(range(len(times)), key=lambda index: settled[index])
    for here, following in itertools.pairwise(order):
        start, end = settled[here]
        next_start, next_end = settled[following]
        if not locked[following] and next_start <= start:
            next_start = start + 1
        if end > next_start or end == next_start - 1:
            if not locked[here]:
                settled[here] = (start, max(start + 1, next_start))
            elif not locked[following]:
                next_start = end
        settled[following] = (next_start, max(next_start + 1, next_end))
    return {item.caption.id: time for item, time in zip(spoken, settled, strict=True)}
