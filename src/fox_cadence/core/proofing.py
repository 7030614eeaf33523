"""The rules that words on the screen keep, each with its limit, and changes that cure what breaks one.

A cure is only offered when it was tried: the rule holds with it, and none is broken that held before.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Literal, TypeAlias

from fox_cadence.core.edits.base import EditValue
from fox_cadence.core.edits.captions import SetCaptionTimes
from fox_cadence.core.edits.lettering import BreakLines, PlaceWords, SetCaptionStyle
from fox_cadence.core.edits.titles import SetTitle
from fox_cadence.core.fit.captions import characters_read
from fox_cadence.core.house import HouseLimits
from fox_cadence.core.lettering.drawing import CaptionDrawing
from fox_cadence.core.lettering.grounds import Box
from fox_cadence.core.lettering.placing import INTEREST_REACH, SAFE_ACROSS, SAFE_DOWN, overlap
from fox_cadence.core.lettering.style import CaptionStyle, Edge, Ground
from fox_cadence.core.standing import ShownWords
from fox_cadence.core.ticks import TICKS_PER_SECOND, FrameRate

RuleName = Literal[
    "rate", "lines", "characters", "shortest", "gap", "contrast", "safe area", "covers", "alone", "signs"
]
_SHORT_WORD = 0.3
"""A last line that is one word and shorter than this share of the longest line is a word left alone."""
_NEAR = 0.6
"""Pixels that rounding may move a box."""


@dataclass(frozen=True, slots=True)
class Fault:
    """A rule that is broken: in words, with what was found against the limit."""

    rule: RuleName
    text: str
    value: float
    limit: float


@dataclass(frozen=True, slots=True)
class Proof:
    """Words as they stand on the screen, with all that the rules look at. `next_in` is the first frame of the
    caption after it, `free_until` the frame until which nothing else needs the screen."""

    words: ShownWords
    drawing: CaptionDrawing
    shift: tuple[float, float]
    interest: tuple[tuple[float, float], ...]
    next_in: int | None
    free_until: int

    @property
    def room(self) -> Box:
        """The room its words take, in pixels of the frame."""
        x, y, wide, high = self.drawing.block
        return x + self.shift[0], y + self.shift[1], wide, high


@dataclass(frozen=True, slots=True)
class Cure:
    """A change that cures a fault: in words, and the edit that makes it."""

    text: str
    edit: EditValue


Contrast: TypeAlias = Callable[[Proof], float | None]
"""The contrast of words against what is behind them (WCAG 2.2, 1 to 21); None where that can't be said."""
Redraw: TypeAlias = Callable[[ShownWords], Proof]
"""Words drawn and placed anew."""


def faults(proof: Proof, house: HouseLimits, rate: FrameRate, contrast: Contrast) -> tuple[Fault, ...]:
    """The rules that words break, in the order in which they are told."""
    words, drawing = proof.words, proof.drawing
    found: list[Fault] = []
    frame_s = rate.frame_ticks / TICKS_PER_SECOND
    frames = words.out_frame - words.in_frame
    shown_s = frames * frame_s
    signs = characters_read(words.text)
    if (frames + 1) * frame_s * house.reading_rate_cps < signs - 1e-6:
        cps = signs / max(shown_s, frame_s)
        text = f"{cps:.0f} characters a second, {house.reading_rate_cps:.0f} can be read"
        found.append(Fault("rate", text, round(cps, 1), house.reading_rate_cps))
    if not words.is_title:
        found += _lines(drawing, house)
        shortest_s = house.shortest_caption_ticks / TICKS_PER_SECOND
        if shown_s < shortest_s - frame_s:
            text = f"shown {shown_s:.2f} s, {shortest_s:.2f} at least"
            found.append(Fault("shortest", text, round(shown_s, 3), shortest_s))
        gap_s = ((proof.next_in or 0) - words.out_frame) * frame_s
        least_s = house.caption_gap_ticks / TICKS_PER_SECOND
        if proof.next_in is not None and 0 < gap_s < least_s - 1e-6:
            text = f"the next follows after {gap_s:.2f} s: a flicker"
            found.append(Fault("gap", text, round(gap_s, 3), least_s))
    ratio = contrast(proof)
    if ratio is not None and ratio < house.least_contrast - 0.05:
        text = f"contrast {ratio:.1f}, {house.least_contrast:.1f} wanted"
        found.append(Fault("contrast", text, round(ratio, 2), house.least_contrast))
    outside = _outside(proof)
    if outside:
        share = max(abs(outside[0]) / drawing.width, abs(outside[1]) / drawing.height)
        found.append(Fault("safe area", f"{share:.0%} outside the safe area", round(share, 3), 0.0))
    if any(overlap(proof.room, box) for box in _interests(proof)):
        found.append(Fault("covers", "hides what matters in the picture", 1.0, 0.0))
    if drawing.missing:
        found.append(
            Fault("signs", f"can't draw {' '.join(drawing.missing)}", float(len(drawing.missing)), 0.0)
        )
    return tuple(found)


def _lines(drawing: CaptionDrawing, house: HouseLimits) -> Iterator[Fault]:
    count = len(drawing.lines)
    if count > house.caption_lines:
        yield Fault("lines", f"{count} lines, {house.caption_lines} at most", count, house.caption_lines)
    longest = max((len(line) for line in drawing.lines), default=0)
    most = house.caption_line_characters
    if longest > most:
        yield Fault("characters", f"{longest} characters in a line, {most} at most", longest, most)
    last = [word for word in drawing.words if word.line == count - 1]
    if count > 1 and len(last) == 1 and last[0].box[2] < _SHORT_WORD * drawing.block[2]:
        yield Fault("alone", f"“{last[0].text}” stands alone", 1, 0)


def _outside(proof: Proof) -> tuple[float, float] | None:
    """By how much words would have to be moved into the safe area; None where they are in it, or are larger
    than it."""
    x, y, wide, high = proof.room
    width, height = proof.drawing.width, proof.drawing.height
    moves: list[float] = []
    for start, size, whole, margin in (
        (x, wide, width, SAFE_ACROSS * width),
        (y, high, height, SAFE_DOWN * height),
    ):
        least, most = margin, whole - margin
        move = max(least - start, 0.0) - max(start + size - most, 0.0)
        moves.append(move if abs(move) > _NEAR else 0.0)
    return (moves[0], moves[1]) if any(moves) else None


def _interests(proof: Proof) -> list[Box]:
    width, height = proof.drawing.width, proof.drawing.height
    reach = INTEREST_REACH * min(width, height)
    return [(x * width - reach, y * height - reach, 2 * reach, 2 * reach) for x, y in proof.interest]


def cures(
    fault: Fault, proof: Proof, house: HouseLimits, rate: FrameRate, contrast: Contrast, redraw: Redraw
) -> list[Cure]:
    """Changes of these words alone that cure a fault, at most one of each kind."""
    before = {each.rule for each in faults(proof, house, rate, contrast)}
    found: list[Cure] = []
    kinds: set[str] = set()
    for kind, text, words, edit in _tries(fault, proof):
        if kind in kinds:
            continue
        made = redraw(words)
        left = {each.rule for each in faults(made, house, rate, contrast)}
        if fault.rule not in left and left <= before:
            kinds.add(kind)
            found.append(Cure(text(made), edit))
    return found


_Try: TypeAlias = tuple[str, Callable[[Proof], str], ShownWords, EditValue]


def _tries(fault: Fault, proof: Proof) -> Iterator[_Try]:
    """Changes that may cure a fault, the gentlest first: kind, name, the words with it, the edit."""
    words, style = proof.words, proof.words.style
    if fault.rule in ("rate", "shortest", "gap"):
        until = proof.next_in if fault.rule == "gap" and proof.next_in else proof.free_until
        if until > words.out_frame:
            yield _longer(words, until)
    if fault.rule in ("lines", "characters", "alone"):
        if style.width < 0.9:
            yield _styled(words, "wider", style.changed(width=0.9), lambda made: f"wider: {_shape(made)}")
        for share in (0.92, 0.84, 0.76, 0.68):
            smaller = style.changed(size=style.size * share)
            yield _styled(words, "smaller", smaller, lambda made: f"smaller: {_shape(made)}")
    if fault.rule == "alone" and not words.is_title:
        count = len(proof.drawing.words)
        for lines in (2, 3):
            if count >= 2 * lines:
                breaks = tuple(round(count * n / lines) for n in range(1, lines))
                edit = BreakLines(caption_id=words.id, breaks=breaks)
                yield (
                    "breaks",
                    lambda made: f"other breaks: {_shape(made)}",
                    replace(words, breaks=breaks),
                    edit,
                )
    if fault.rule == "contrast":
        plate = Ground(kind="plate") if style.ground.kind == "none" else style.ground.changed(opacity=1.0)
        name = "a plate" if style.ground.kind == "none" else "a ground one can't see through"
        yield _styled(words, "ground", style.changed(ground=plate), lambda made: name)
        for ink, dark in (("#ffffff", "#101513"), ("#101513", "#ffffff")):
            edged = style.changed(ink=ink, edge=Edge(kind="contour", colour=dark))
            yield _styled(words, "contour", edged, lambda made: "a contour")
            if style.ink != ink:
                yield _styled(words, "ink", style.changed(ink=ink), lambda made: "another ink")
    if fault.rule == "safe area" and (move := _outside(proof)):
        yield _moved(proof, *move)
    if fault.rule == "covers":
        yield from _clear(proof)


def _shape(proof: Proof) -> str:
    lines = proof.drawing.lines
    longest = max(len(line) for line in lines)
    return f"{len(lines)} {'line' if len(lines) == 1 else 'lines'} of {longest}"


def _styled(words: ShownWords, kind: str, style: CaptionStyle, text: Callable[[Proof], str]) -> _Try:
    edit: EditValue
    if words.is_title:
        edit = SetTitle(title_id=words.id, style=style)
    else:
        edit = SetCaptionStyle(scope="caption", id=words.id, style=style)
    return kind, text, replace(words, style=style), edit


def _longer(words: ShownWords, until: int) -> _Try:
    made = replace(words, out_frame=until)
    edit: EditValue
    if words.is_title:
        edit = SetTitle(title_id=words.id, out_frame=until)
    else:
        edit = SetCaptionTimes(caption_id=words.id, in_frame=words.in_frame, out_frame=until)
    frames = until - words.out_frame
    return "longer", lambda proof: f"{frames} frames longer", made, edit


def _moved(proof: Proof, dx: float, dy: float) -> _Try:
    words = proof.words
    from_place = words.place or words.style.place
    width, height = proof.drawing.width, proof.drawing.height
    # the words may stand elsewhere than they were wanted, because others were in the way
    base = (0.0, 0.0) if words.place is not None or from_place.clear else proof.shift
    backwards = proof.drawing.backwards and words.style.align != "middle"
    place = from_place.changed(
        x=_share(from_place.x + (-1 if backwards else 1) * (dx + base[0]) / width),
        y=_share(from_place.y + (dy + base[1]) / height),
    )
    parts = [
        f"{way} by {abs(move):.0%}"
        for move, way in (
            (dx / width, "to the right" if dx > 0 else "to the left"),
            (dy / height, "down" if dy > 0 else "up"),
        )
        if abs(move) >= 0.005
    ]
    text = ", ".join(parts) or "moved a little"
    return "place", lambda made: text, replace(words, place=place), PlaceWords(ids=(words.id,), place=place)


def _clear(proof: Proof) -> Iterator[_Try]:
    """Up or down past what matters, the nearer way first."""
    _, y, _, high = proof.room
    boxes = _interests(proof)
    apart = 0.012 * proof.drawing.height
    up = min(box[1] for box in boxes) - apart - high - y
    down = max(box[1] + box[3] for box in boxes) + apart - y
    for dy in sorted((up, down), key=abs):
        yield _moved(proof, 0.0, dy)


def _share(value: float) -> float:
    return min(1.0, max(0.0, round(value, 4)))
