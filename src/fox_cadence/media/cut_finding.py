"""Finds where the picture of a video changes: hard cuts, dissolves and fades, each with its certainty.

Works on small pictures, 64 by 36. Two things are measured between pictures: d, the mean absolute difference
of their values, and h, half the L1 distance of their histograms (8 x 4 x 4 in YUV), averaged over the
quarters of the picture; together s = sqrt(d / 40 * h). A cut stands out among its neighbours in s. A dissolve
is a stretch whose pictures lie on the straight line from the one before it to the one after it. A fade goes
through pictures of one colour. How much of each is found: docs/benchmarks.md.
"""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Literal, TypeAlias

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.errors import InputError
from fox_cadence.media.isolated import Progress
from fox_cadence.media.picture import TimedFrame, open_media, picture_of, timed_frames

WIDE, HIGH = 64, 36
Pictures: TypeAlias = NDArray[np.uint8]
"""Shape (frames, 3, HIGH, WIDE): Y, U and V."""

Kind: TypeAlias = Literal["cut", "dissolve", "fade"]

_LEAST, _OF_NEAR, _NEAR = 0.16, 2.6, 12
_OF_USUAL, _OVER_USUAL = 3.5, 0.12
_FLASH_FRAMES, _FLASH_SHARE = 4, 0.45
_SWING, _SWUNG, _AS_MUCH, _OTHERS = 16, 6, 0.65, 3
_LEAST_RISE, _MOST_AT_ONCE = 8.0, 0.6
_FLAT, _LONGEST_FADE, _SHORTEST_FADE = 9.0, 30, 3
_LENGTHS = (6, 10, 16, 24)
_RESIDUAL, _STEP, _LEAST_CHANGE, _LEAST_HISTOGRAM = 0.30, 2.2, 14.0, 0.30
_RISES, _MOST_OFF = -0.03, 0.40
_MIXED_CONTRAST, _PLAIN_CONTRAST = 0.92, 30.0

_CHUNK, _OVERLAP = 1500, 80


@dataclass(frozen=True, slots=True)
class Change:
    """The picture changes for another: `frame` is the first of the new shot, `first` to `last` are those in
    which it changes (all the same for a cut). `certainty` is above 0.5 and at most 1."""

    kind: Kind
    frame: int
    first: int
    last: int
    certainty: float


@dataclass(frozen=True, slots=True)
class FoundCut:
    """A change, and its time from the first frame of the file in ticks."""

    change: Change
    ticks: int


def find_cuts(path: Path, progress: Progress) -> list[FoundCut]:
    """All changes of a file, in the order of time. Runs in the isolated process.

    Raises:
        InputError: the file has no moving picture.
    """
    times: list[int] = []
    with open_media(path) as container:
        stream = picture_of(container)
        if stream is None:
            raise InputError("there is no picture in it to look for cuts in")
        stream.codec_context.options = {"skip_loop_filter": "all"}  # a fifth of the time; nothing is shown
        expected = stream.frames or 0
        found = list(changes_in(_small(timed_frames(container), times, expected, progress)))
    if len(times) < 2:
        raise InputError("it is a single picture; there are no cuts in it")
    return [FoundCut(change, times[change.frame]) for change in found]


def _small(
    frames: Iterable[TimedFrame], times: list[int], expected: int, progress: Progress
) -> Iterator[Pictures]:
    import av

    reformatter = av.video.reformatter.VideoReformatter()
    for timed in frames:
        made = reformatter.reformat(
            timed.frame, width=WIDE, height=HIGH, format="yuv444p", interpolation="AREA"
        )
        times.append(timed.ticks)
        if len(times) % 50 == 0:
            progress(len(times), max(expected, len(times)))
        yield np.stack(
            [np.frombuffer(plane, np.uint8).reshape(HIGH, plane.line_size)[:, :WIDE] for plane in made.planes]
        )


def changes_in(pictures: Iterable[Pictures]) -> Iterator[Change]:
    """The changes among small pictures, each of shape (3, HIGH, WIDE); a long video is looked at piece by
    piece, so that it needs no more memory than a short one."""
    kept: list[Pictures] = []
    begins = 0
    done = 0
    for picture in pictures:
        kept.append(picture)
        if len(kept) < _CHUNK + _OVERLAP:
            continue
        until = begins + _CHUNK + _OVERLAP // 2
        for change in changes(np.stack(kept)):
            if done <= change.frame + begins < until:
                yield _later(change, begins)
        done = until
        kept, begins = kept[_CHUNK:], begins + _CHUNK
    if len(kept) > 1:
        for change in changes(np.stack(kept)):
            if change.frame + begins >= done:
                yield _later(change, begins)


def _later(change: Change, by: int) -> Change:
    return Change(change.kind, change.frame + by, change.first + by, change.last + by, change.certainty)


def changes(pictures: Pictures) -> list[Change]:
    """The changes within a stretch of small pictures, all of them looked at together."""
    if len(pictures) < 2:
        return []
    look = _Look(pictures)
    fades = _fades(look)
    cuts = [cut for cut in _cuts(look) if not any(_within(cut, fade) for fade in fades)]
    dissolves = [
        each
        for each in _dissolves(look, [cut.frame for cut in cuts])
        if not any(_meet(each, fade) for fade in fades)
    ]
    cuts = [cut for cut in cuts if not any(_within(cut, each) for each in dissolves)]
    return sorted([*cuts, *fades, *dissolves], key=lambda change: change.frame)


def _within(cut: Change, other: Change) -> bool:
    return other.first <= cut.frame <= other.last + 1


def _meet(one: Change, other: Change) -> bool:
    return one.first <= other.last + 1 and other.first <= one.last + 1


class _Look:
    """What is measured of pictures: values as numbers, histograms by quarter, differences from picture to
    picture."""

    def __init__(self, pictures: Pictures) -> None:
        self.count = len(pictures)
        self.values = pictures.reshape(self.count, -1).astype(np.float32)
        self.histograms = _histograms(pictures)
        self.contrast = pictures.reshape(self.count, 3, -1).var(axis=2).sum(axis=1)
        self.spread = pictures.reshape(self.count, 3, -1).std(axis=2).sum(axis=1)
        self.scores = np.zeros(self.count)
        self.scores[1:] = [self.score(at - 1, at) for at in range(1, self.count)]

    def difference(self, one: int, other: int) -> float:
        return float(np.abs(self.values[one] - self.values[other]).mean())

    def histogram(self, one: int, other: int) -> float:
        return float(np.abs(self.histograms[one] - self.histograms[other]).sum(axis=1).mean() / 2)

    def score(self, one: int, other: int) -> float:
        return float(np.sqrt(self.difference(one, other) / 40 * self.histogram(one, other)))


def _histograms(pictures: Pictures) -> NDArray[np.float32]:
    """Shape (frames, 4 quarters, 128): shares of the pixels of a quarter."""
    count = len(pictures)
    y, u, v = (pictures[:, plane].astype(np.int64) for plane in range(3))
    bins = (y >> 5) * 16 + (u >> 6) * 4 + (v >> 6)
    rows, columns = np.indices((HIGH, WIDE))
    quarter = (rows >= HIGH // 2) * 2 + (columns >= WIDE // 2)
    index = bins + quarter * 128 + np.arange(count)[:, None, None] * 512
    counted = np.bincount(index.ravel(), minlength=count * 512).reshape(count, 4, 128)
    return np.asarray(counted / (HIGH * WIDE / 4), dtype=np.float32)


def _cuts(look: _Look) -> list[Change]:
    found: list[Change] = []
    for at in np.flatnonzero(look.scores >= _LEAST).tolist():
        score = look.scores[at]
        around = np.concatenate([look.scores[max(1, at - _NEAR) : at], look.scores[at + 1 : at + 1 + _NEAR]])
        near = float(np.sort(around)[-3:].mean()) if len(around) else 0.0
        usual = float(np.median(around)) if len(around) else 0.0
        margin = max(
            score / max(_LEAST, _OF_NEAR * near), score / max(_LEAST, _OF_USUAL * usual + _OVER_USUAL)
        )
        if margin >= 1 and not _flash(look, at) and not _swung(look, at):
            found.append(Change("cut", at, at, at, _certainty(margin)))
    return [
        cut
        for cut in found
        if not any(
            other is not cut and abs(other.frame - cut.frame) <= 2 and other.certainty > cut.certainty
            for other in found
        )
    ]


def _flash(look: _Look, at: int) -> bool:
    """Whether the picture from before comes back at once, or has only just gone: one bright moment."""
    least = _FLASH_SHARE * look.scores[at]
    for by in range(1, _FLASH_FRAMES + 1):
        if at + by < look.count and look.score(at - 1, at + by) < least:
            return True
        if at - 1 - by >= 0 and look.score(at - 1 - by, at) < least:
            return True
    return False


def _swung(look: _Look, at: int) -> bool:
    """Whether the camera is swung round: several pictures near by change as much, and soon after (or before)
    it is quiet again."""
    score = look.scores[at]
    after = look.scores[at + 1 : at + 1 + _SWING]
    before = look.scores[max(1, at - _SWING) : at][::-1]
    for side in (after, before):
        near, later = side[:_SWUNG], side[_SWING - _SWUNG :]
        if int((near >= _AS_MUCH * score).sum()) >= _OTHERS and len(later) and later.max() < score / 2:
            return True
    return False


def _gradual(spread: NDArray[np.float64]) -> bool:
    """Whether pictures come out of one colour (or, the other way round, go into it) over several frames."""
    if len(spread) <= _SHORTEST_FADE:
        return False
    steps = np.diff(spread)
    rise = float(spread[-1] - spread[0])
    return rise >= _LEAST_RISE and float(steps.max()) <= _MOST_AT_ONCE * rise


def _fades(look: _Look) -> list[Change]:
    """Runs of pictures of one colour with pictures before and after, and what leads to them and away."""
    flat = look.spread < _FLAT
    edges = np.flatnonzero(np.diff(np.concatenate([[0], flat.astype(np.int8), [0]])))
    found: list[Change] = []
    for start, end in zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True):
        if start == 0 or end == look.count:
            continue
        first, last = start, end - 1
        while first > 0 and start - first < _LONGEST_FADE and look.spread[first - 1] > look.spread[first]:
            first -= 1
        while (
            last + 1 < look.count and last - end < _LONGEST_FADE and look.spread[last + 1] > look.spread[last]
        ):
            last += 1
        grown = max(start - first, last - end + 1)
        if _gradual(look.spread[first : start + 1][::-1]) or _gradual(look.spread[end - 1 : last + 1]):
            found.append(Change("fade", end, first, last, _certainty(grown / _SHORTEST_FADE)))
    return found


def _dissolves(look: _Look, cuts: list[int]) -> list[Change]:
    windows: list[tuple[float, int, int]] = []
    for length in _LENGTHS:
        for first in range(1, look.count - length):
            before, after = first - 1, first + length
            if any(before < cut <= after for cut in cuts):
                continue
            margin = _blends(look, before, after)
            if margin >= 1:
                windows.append((margin, first, after - 1))
    found: list[Change] = []
    for margin, first, last in sorted(windows, key=lambda each: -each[0]):
        if not any(first <= each.last + 2 and each.first <= last + 2 for each in found):
            found.append(Change("dissolve", (first + last + 1) // 2, first, last, _certainty(margin)))
    return found


def _blends(look: _Look, before: int, after: int) -> float:
    """By how much the pictures between two are more than enough a blend of them; under 1 they are none."""
    start, change = look.values[before], look.values[after] - look.values[before]
    size = float(np.abs(change).mean())
    if size < _LEAST_CHANGE:
        return 0.0
    histogram = look.histogram(before, after)
    if histogram < _LEAST_HISTOGRAM:
        return 0.0
    between = look.values[before + 1 : after] - start
    shares = between @ change / float(change @ change)
    steps = np.diff(np.concatenate([[0.0], shares, [1.0]]))
    if steps.min() < _RISES or steps.max() > _STEP / len(steps):
        return 0.0
    half = before + 1 + int(np.argmin(np.abs(shares - 0.5)))
    expected = float(look.contrast[before] + look.contrast[after]) / 2
    if expected > _PLAIN_CONTRAST and look.contrast[half] > _MIXED_CONTRAST * expected:
        return 0.0  # two pictures in one have half the contrast of each; one that moves keeps its own
    off = np.abs(between - shares[:, None] * change).mean(axis=1) / size
    if float(off.max()) > _MOST_OFF:
        return 0.0
    return min(_RESIDUAL / max(float(off.mean()), 1e-6), size / _LEAST_CHANGE, histogram / _LEAST_HISTOGRAM)


def _certainty(margin: float) -> float:
    """0.5 where something is just enough, towards 1 where it is many times that."""
    return round(1 - 0.5 / max(1.0, float(margin)), 3)


def as_json(cuts: list[FoundCut]) -> list[dict[str, object]]:
    """Cuts as the terminal and the page are told them."""
    return [
        {
            "frame": cut.change.frame,
            "time_s": round(cut.ticks / TICKS_PER_SECOND, 6),
            "kind": cut.change.kind,
            "certainty": cut.change.certainty,
            "first": cut.change.first,
            "last": cut.change.last,
        }
        for cut in cuts
    ]
