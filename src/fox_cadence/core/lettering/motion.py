"""How words come in, go out, and are shown as they are spoken: pure functions of the frame.

A movement is a row of poses, from nothing to rest, between which is drawn in a straight line. The page and
the export take their poses from the same rows, so that neither reckons a movement of its own.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cache

from fox_cadence.core.lettering.drawing import CaptionDrawing, Unit
from fox_cadence.core.lettering.style import CaptionStyle, MovementKind
from fox_cadence.core.ticks import FrameRate

STEPS = 32
"""Poses in a row less one."""
_QUIET_S = 0.12
"""In which a ground comes in whose words come one by one."""
_MOST_OF_CAPTION, _MOST_GOING = 0.5, 0.34
"""The part of a caption's time its movements may take."""
_RISE_EM, _SLIDE_EM, _SETTLE_EM = 0.6, 1.4, 0.5
_SMALL, _TILT = 0.6, -9.0
_SWELL = 0.12
_SPREAD = 0.6
"""Where nobody says a caption whose words come one by one, they come in this part of its time."""


@dataclass(frozen=True, slots=True)
class Pose:
    """Where something stands while it moves: shifted (units of the font's size), scaled and turned (degrees)
    about its middle, seen through, and which share of it from its beginning is seen."""

    dx: float = 0.0
    dy: float = 0.0
    scale: float = 1.0
    turn: float = 0.0
    alpha: float = 1.0
    seen: float = 1.0


REST = Pose()
HIDDEN = Pose(alpha=0.0)


def only_fades(pose: Pose) -> bool:
    """Whether a pose is that at rest but for how far it is seen through."""
    return replace(pose, alpha=1.0) == REST


@cache
def coming(kind: MovementKind, backwards: bool) -> tuple[Pose, ...]:
    """The poses of coming in, the last one at rest; none for what is there at once."""
    return (
        () if kind == "none" else tuple(_pose(kind, step / STEPS, 1, backwards) for step in range(STEPS + 1))
    )


@cache
def going(kind: MovementKind, backwards: bool) -> tuple[Pose, ...]:
    """The poses of going out, the first one at rest: on in the direction of coming in."""
    if kind == "none":
        return ()
    return tuple(_pose(kind, 1 - step / STEPS, -1, backwards) for step in range(STEPS + 1))


def _pose(kind: MovementKind, share: float, way: int, backwards: bool) -> Pose:
    """A movement at a share of its time; `way` is 1 coming in and -1 going out."""
    left = (1 - share) ** 3  # quick first, then gently to rest
    shown = min(1.0, 2 * share)
    if share >= 1:
        return REST
    if kind == "fade":
        return Pose(alpha=share)
    if kind == "rise":
        return Pose(dy=way * _RISE_EM * left, alpha=shown)
    if kind == "sink":
        return Pose(dy=-way * _RISE_EM * left, alpha=shown)
    if kind == "slide":
        return Pose(dx=-way * (-1 if backwards else 1) * _SLIDE_EM * left, alpha=shown)
    if kind == "type":
        return Pose(seen=share)
    if kind == "unroll":
        return Pose(seen=1 - left)
    if kind == "grow":
        return Pose(scale=_SMALL + (1 - _SMALL) * (1 - left), alpha=shown)
    if kind == "tilt":
        return Pose(turn=_TILT * left, scale=1 - 0.15 * left, alpha=shown)
    bounce = math.cos(2.5 * math.pi * share) * (1 - share) ** 2
    return Pose(dy=-_SETTLE_EM * bounce, alpha=min(1.0, 3 * share))


@cache
def swelling() -> tuple[Pose, ...]:
    """The poses of a word that swells while it is spoken."""
    return tuple(
        Pose(scale=1 + _SWELL * math.sin(math.pi * min(1.0, 1.6 * step / STEPS)))
        if step * 1.6 < STEPS
        else REST
        for step in range(STEPS + 1)
    )


def pose_at(row: Sequence[Pose], share: float) -> Pose:
    """The pose at a share of a row's time, between two of its poses in a straight line."""
    if not row:
        return REST
    if share >= 1:
        return row[-1]
    at = max(0.0, share) * (len(row) - 1)
    before = int(at)
    one, two, part = row[before], row[before + 1], at - before
    return Pose(
        one.dx + (two.dx - one.dx) * part,
        one.dy + (two.dy - one.dy) * part,
        one.scale + (two.scale - one.scale) * part,
        one.turn + (two.turn - one.turn) * part,
        one.alpha + (two.alpha - one.alpha) * part,
        one.seen + (two.seen - one.seen) * part,
    )


@dataclass(frozen=True, slots=True)
class Moments:
    """When what moves, in frames of the piece: for each unit its first frame and how many frames it comes in,
    the first frame of going out and how many that takes, and the frames [begin, end) each word is spoken in;
    no words where nobody could say which is spoken."""

    comes: tuple[tuple[int, int], ...]
    goes: tuple[int, int]
    spoken: tuple[tuple[int, int], ...]

    def coming_share(self, unit: int, frame: int) -> float:
        """How far a unit has come in, above 0 from its first frame on; 0 before, 1 at rest."""
        first, frames = self.comes[unit]
        if frame < first:
            return 0.0
        return min(1.0, (frame - first + 1) / (frames + 1))

    def going_share(self, frame: int) -> float:
        """How far the whole has gone out, 0 to below 1."""
        first, frames = self.goes
        return 0.0 if frame < first or not frames else (frame - first + 1) / (frames + 1)

    def word_at(self, frame: int) -> int | None:
        """The word that is spoken last at a frame: a word stays until the next one begins."""
        found: int | None = None
        for word, (begins, _) in enumerate(self.spoken):
            if begins > frame:
                break
            found = word
        return found

    def spoken_share(self, word: int, frame: int) -> float:
        """How much of a word has been spoken at a frame, 0 to 1."""
        begins, ends = self.spoken[word]
        return min(1.0, max(0.0, (frame - begins + 1) / max(1, ends - begins)))


@dataclass(frozen=True, slots=True)
class Shown:
    """How a drawing is shown in a frame: the pose of each unit and of the whole, the word that is spoken, how
    it is swollen, and which share of it is underlined or filled in. With `words` no others are drawn,
    and with `marks` only what stands behind these units."""

    units: tuple[Pose, ...]
    whole: Pose
    word: int | None = None
    swell: Pose = REST
    part: float = 1.0
    words: tuple[int, ...] | None = None
    marks: tuple[int, ...] | None = None


def divided(drawing: CaptionDrawing, shown: Shown) -> tuple[Shown, Shown] | None:
    """How the words that stand and those that move are shown, each without the others; None where all of them
    move. Only a few words of a caption move in most of its frames. Neither fades with the whole: that is
    seen through at once."""
    if not only_fades(shown.whole):
        return None
    moving = {n for n, pose in enumerate(shown.units) if pose not in (REST, HIDDEN)}
    words = {n for n, unit in enumerate(drawing.word_units) if unit in moving}
    if shown.word is not None and (shown.swell != REST or shown.part < 1):
        words.add(shown.word)
    if len(words) == len(drawing.words):
        return None
    still = tuple(n for n in range(len(drawing.words)) if n not in words)
    stands = tuple(HIDDEN if n in moving else pose for n, pose in enumerate(shown.units))
    behind = tuple(n for n, pose in enumerate(shown.units) if n not in moving and pose.alpha)
    return (
        replace(shown, units=stands, whole=REST, swell=REST, part=1.0, words=still, marks=behind),
        replace(shown, whole=REST, words=tuple(sorted(words)), marks=tuple(sorted(moving))),
    )


def changed_parts(drawing: CaptionDrawing, one: Shown, other: Shown) -> tuple[list[int], list[int]]:
    """The words and the marks of a drawing (by their numbers) that look otherwise in one state than in
    another."""
    words = [
        number
        for number in range(len(drawing.words))
        if _word_look(drawing, one, number) != _word_look(drawing, other, number)
    ]
    marks = [
        number
        for number, mark in enumerate(drawing.marks)
        if _mark_look(one, mark.unit) != _mark_look(other, mark.unit)
    ]
    return words, marks


def _word_look(drawing: CaptionDrawing, shown: Shown, number: int) -> tuple[object, ...]:
    pose = shown.units[drawing.word_units[number]]
    if not pose.alpha or (shown.words is not None and number not in shown.words):
        return ()
    now = drawing.of_same_word(number, shown.word)
    said = shown.word is not None and number < shown.word
    return (shown.whole, pose, now, said, *((shown.swell, shown.part) if now else ()))


def _mark_look(shown: Shown, unit: int) -> tuple[object, ...]:
    hidden = not shown.units[unit].alpha or (shown.marks is not None and unit not in shown.marks)
    return () if hidden else (shown.whole, shown.units[unit])


def at_rest(drawing: CaptionDrawing, word: int | None = None) -> Shown:
    """A drawing with all its words there, one of them as it is shown once it has been spoken."""
    return Shown((REST,) * len(drawing.units), REST, word if drawing.spoken != "none" else None)


def shown_at(drawing: CaptionDrawing, when: Moments, frame: int) -> Shown:
    """How a drawing is shown in a frame of the piece."""
    row = coming(drawing.comes, drawing.backwards)
    units = []
    for number, unit in enumerate(drawing.units):
        share = when.coming_share(number, frame)
        if share <= 0:
            units.append(HIDDEN)
            continue
        # what belongs to the block has nothing of its own to type or to lift where its words come one by one
        own = row if len(drawing.units) == 1 or number else coming("fade" if row else "none", False)
        pose = pose_at(own, share)
        units.append(_stepped(pose, unit) if unit.edges else pose)
    whole = pose_at(going(drawing.goes, drawing.backwards), when.going_share(frame))
    word = when.word_at(frame) if drawing.spoken != "none" else None
    if word is None:
        return Shown(tuple(units), whole)
    share = when.spoken_share(word, frame)
    swell = pose_at(swelling(), share) if drawing.spoken == "swell" else REST
    return Shown(tuple(units), whole, word, swell, share if drawing.spoken in ("fill", "underline") else 1.0)


def _stepped(pose: Pose, unit: Unit) -> Pose:
    """What is typed ends after a sign."""
    if pose.seen >= 1:
        return pose
    seen = max((edge for edge in unit.edges if edge <= pose.seen + 1e-9), default=0.0)
    return replace(pose, seen=seen)


def moments(
    drawing: CaptionDrawing,
    style: CaptionStyle,
    spoken: Sequence[tuple[int, int]],
    in_frame: int,
    out_frame: int,
    rate: FrameRate,
) -> Moments:
    """When the parts of a caption come in and go out.

    Args:
        spoken: the frames in which its words are spoken, one for each; none where that is not known.
    """
    shown = max(1, out_frame - in_frame)
    fps = float(rate.fraction)
    known = [
        (min(max(begins, in_frame), out_frame), min(max(ends, begins + 1), out_frame))
        for begins, ends in spoken
    ]
    words = max(drawing.of, default=-1) + 1
    known = [known[word] for word in drawing.of] if len(known) == words else []
    goes = 0
    if style.goes.kind != "none":
        goes = min(round(style.goes.seconds * fps), int(shown * _MOST_GOING))
    comes = 0
    if style.comes.kind != "none":
        comes = min(max(1, round(style.comes.seconds * fps)), max(1, int(shown * _MOST_OF_CAPTION)))
    units = _units_come(drawing, style, known, in_frame, shown, comes, fps)
    return Moments(tuple(units), (out_frame - goes, goes), tuple(known))


def _units_come(
    drawing: CaptionDrawing,
    style: CaptionStyle,
    spoken: Sequence[tuple[int, int]],
    in_frame: int,
    shown: int,
    comes: int,
    fps: float,
) -> list[tuple[int, int]]:
    if len(drawing.units) == 1 or not comes:
        return [(in_frame, comes)] * len(drawing.units)
    quiet = (in_frame, min(comes, round(_QUIET_S * fps)))
    if style.comes.kind == "type" and style.comes.by == "all":
        return [quiet, *_typed(drawing, range(len(drawing.words)), in_frame, comes)]
    firsts = _first_words(drawing)
    starts = _starts(drawing, spoken, in_frame, shown)
    if style.comes.kind == "type":  # lines or words, each typed from the moment it is spoken
        found: list[tuple[int, int]] = [quiet]
        if style.comes.by == "word":
            return [*found, *((starts[word], comes) for word in range(len(drawing.words)))]
        for line, first in enumerate(firsts):
            words = [n for n, word in enumerate(drawing.words) if word.line == line]
            found += _typed(drawing, words, in_frame if line == 0 else starts[first], comes)
        return found
    own = firsts if style.comes.by == "line" else list(range(len(drawing.words)))
    return [quiet, *((in_frame if n == 0 else starts[word], comes) for n, word in enumerate(own))]


def _first_words(drawing: CaptionDrawing) -> list[int]:
    """The first word of each line."""
    found: dict[int, int] = {}
    for number, word in enumerate(drawing.words):
        found.setdefault(word.line, number)
    return list(found.values())


def _starts(
    drawing: CaptionDrawing, spoken: Sequence[tuple[int, int]], in_frame: int, shown: int
) -> list[int]:
    """When each word begins: as it is spoken, else one after the other by their letters."""
    if spoken:
        return [begins for begins, _ in spoken]
    letters = [max(1, len(word.text)) for word in drawing.words]
    total, found, passed = sum(letters), [], 0
    for count in letters:
        found.append(in_frame + int(shown * _SPREAD * passed / total))
        passed += count
    return found


def _typed(drawing: CaptionDrawing, words: Sequence[int], begins: int, frames: int) -> list[tuple[int, int]]:
    """Words typed one after the other within some frames, each as long as it has signs."""
    signs = [max(1, len(drawing.words[word].edges)) for word in words]
    total, found, passed = sum(signs), [], 0
    for count in signs:
        first = begins + frames * passed // total
        passed += count
        found.append((first, max(0, begins + frames * passed // total - first - 1)))
    return found
