"""What our own code can play: the beds and the effects, in one list, and a file of each."""

import wave
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Literal

import numpy as np

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import to_pcm16
from fox_cadence.played.beds import PIECES
from fox_cadence.played.effect import Effect
from fox_cadence.played.effects import EFFECTS, play_effect
from fox_cadence.played.score import play

LICENCE = "CC0 1.0, made by our own code"
"""Nobody has any right in them: use them for whatever you like."""
BED, EFFECT = "bed-", "effect-"


@dataclass(frozen=True, slots=True)
class Played:
    """A sound of the shelf; a bed has a tempo."""

    id: str
    title: str
    words: str
    kind: Literal["bed", "effect"]
    seconds: float
    bpm: float = 0.0


def _seconds(effect: Effect) -> float:
    return round(len(play_effect(effect)) / SAMPLE_RATE_HZ, 2)


@cache
def played() -> Mapping[str, Played]:
    """Every sound our own code plays, by its id: the beds, then the effects."""
    beds = [Played(f"{BED}{p.id}", p.title, p.words, "bed", round(p.seconds, 2), p.bpm) for p in PIECES]
    effects = [Played(f"{EFFECT}{e.id}", e.title, e.words, "effect", _seconds(e)) for e in EFFECTS.values()]
    return {each.id: each for each in (*beds, *effects)}


def play_to_file(item_id: str, target: Path) -> None:
    """Play a sound of the shelf into a WAV file: 48 kHz, 16 bit.

    Raises:
        KeyError: there is none of that id.
    """
    if item_id.startswith(BED):
        piece = next((p for p in PIECES if f"{BED}{p.id}" == item_id), None)
        if piece is None:
            raise KeyError(item_id)
        sound = play(piece)
    else:
        sound = play_effect(EFFECTS[item_id.removeprefix(EFFECT)])
    with wave.open(str(target), "wb") as file:
        file.setnchannels(1 if sound.ndim == 1 else 2)
        file.setsampwidth(2)
        file.setframerate(SAMPLE_RATE_HZ)
        file.writeframes(to_pcm16(sound.astype(np.float32)))
