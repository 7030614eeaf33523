"""Scores: a piece of music as layers over bars of chords, and how it is played."""

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from fox_cadence.core.ticks import SAMPLE_RATE_HZ as RATE
from fox_cadence.played.instruments import INSTRUMENTS
from fox_cadence.played.parts import Stereo, in_a_room

_MAJOR, _MINOR, _DORIAN = (0, 2, 4, 5, 7, 9, 11), (0, 2, 3, 5, 7, 8, 10), (0, 2, 3, 5, 7, 9, 10)
SCALES = {"major": _MAJOR, "minor": _MINOR, "dorian": _DORIAN}
_ENDING_BARS = 2


@dataclass(frozen=True, slots=True)
class Layer:
    """What an instrument plays in each bar of the sections it is in.

    `steps` is a bar in equal steps, one character each: `.` nothing, `x` a stroke, `1` to `9` a step of the
    scale from the chord's root (of a chord instrument: `x` the whole chord). `hold` is how many steps a note
    lasts. In `melody` a walk over the scale is drawn by chance instead, and comes back after four bars.
    """

    instrument: str
    steps: str
    sections: str
    level: float = 1.0
    octave: int = 0
    hold: float = 1.0
    pan: float = 0.0
    chord: bool = False
    melody: bool = False


@dataclass(frozen=True, slots=True)
class Piece:
    """A piece of music. `form` has a letter for each four bars, `chords` the roots of a section's bars as
    steps of the scale from 1. After the form comes an ending: the first chord, once, ringing out."""

    id: str
    title: str
    words: str
    bpm: float
    key: int
    scale: str
    metre: int
    form: str
    chords: tuple[int, ...]
    layers: tuple[Layer, ...]
    room: float = 0.22
    swing: float = 0.0
    seed: int = 1

    @property
    def bar_s(self) -> float:
        return self.metre * 60 / self.bpm

    @property
    def bars(self) -> int:
        """All of them, the ending among them."""
        return 4 * len(self.form) + _ENDING_BARS

    @property
    def seconds(self) -> float:
        return self.bars * self.bar_s

    def beats_s(self) -> list[float]:
        """When its beats are, up to the last hit."""
        count = (self.bars - _ENDING_BARS) * self.metre + 1
        return [beat * 60 / self.bpm for beat in range(count)]

    def bars_s(self) -> list[float]:
        """When its bars begin, up to the last hit."""
        return [bar * self.bar_s for bar in range(self.bars - _ENDING_BARS + 1)]


@dataclass(frozen=True, slots=True)
class Note:
    at_s: float
    seconds: float
    midi: int
    level: float
    layer: Layer


def notes(piece: Piece) -> Iterator[Note]:
    """All notes of a piece."""
    scale = SCALES[piece.scale]
    for number, layer in enumerate(piece.layers):
        walk = _walk(piece, number)
        for bar in range(4 * len(piece.form)):
            if piece.form[bar // 4] not in layer.sections:
                continue
            root = piece.chords[bar % len(piece.chords)] - 1
            yield from _bar(piece, layer, bar, root, scale, walk)
    end = (piece.bars - _ENDING_BARS) * piece.bar_s
    for layer in piece.layers:
        if layer.steps[0] != "." or layer.chord:
            roots = (0, 2, 4) if layer.chord else (0,)
            for step in roots:
                yield Note(
                    end,
                    piece.bar_s,
                    _midi(piece, scale, piece.chords[0] - 1 + step, layer.octave),
                    layer.level,
                    layer,
                )


def _walk(piece: Piece, number: int) -> list[int]:
    """Steps of a melody for four bars: a walk that stays within an octave."""
    chance = np.random.default_rng(piece.seed * 31 + number)
    made, here = [], 4
    for _ in range(96):
        here = int(np.clip(here + chance.choice((-2, -1, -1, 0, 1, 1, 2)), 0, 8))
        made.append(here)
    return made


def _bar(
    piece: Piece, layer: Layer, bar: int, root: int, scale: tuple[int, ...], walk: list[int]
) -> Iterator[Note]:
    step_s = piece.bar_s / len(layer.steps)
    for step, sign in enumerate(layer.steps):
        if sign == ".":
            continue
        late = piece.swing * step_s if step % 2 and len(layer.steps) > piece.metre else 0.0
        at = bar * piece.bar_s + step * step_s + late
        accent = 1.0 if step == 0 else 0.86
        if layer.melody:
            degrees = [walk[(bar % 4) * len(layer.steps) + step]] if bar % 8 < 6 or step == 0 else []
        elif layer.chord:
            degrees = [root, root + 2, root + 4]
        else:
            degrees = [root + (int(sign) - 1 if sign.isdigit() else 0)]
        for degree in degrees:
            midi = _midi(piece, scale, degree, layer.octave)
            yield Note(at, step_s * layer.hold * 0.95, midi, layer.level * accent, layer)


def _midi(piece: Piece, scale: tuple[int, ...], degree: int, octave: int) -> int:
    return piece.key + scale[degree % 7] + 12 * (degree // 7 + octave)


def play(piece: Piece) -> Stereo:
    """Play a piece: stereo float64, its loudest sample 0.7."""
    made = np.zeros((round(piece.seconds * RATE), 2))
    known: dict[tuple[str, int, int], np.ndarray] = {}
    for note in notes(piece):
        key = note.layer.instrument, note.midi, round(note.seconds * 1000)
        if key not in known:
            hertz = 440 * 2 ** ((note.midi - 69) / 12)
            known[key] = INSTRUMENTS[note.layer.instrument](hertz, note.seconds)
        sound = known[key]
        start = round(note.at_s * RATE)
        end = min(len(made), start + len(sound))
        turn = (note.layer.pan + 1) * np.pi / 4
        sides = np.array([np.cos(turn), np.sin(turn)]) * note.level
        made[start:end] += sound[: end - start, np.newaxis] * sides
    made = in_a_room(made, 1.4, piece.room)
    fade = np.clip((len(made) - np.arange(len(made))) / (0.4 * RATE), 0, 1)
    made *= fade[:, np.newaxis]
    return np.asarray(made * (0.7 / max(1e-9, float(np.abs(made).max()))))
