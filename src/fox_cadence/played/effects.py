"""The shipped spot effects, and how one is played."""

from collections.abc import Mapping

import numpy as np

from fox_cadence.played.effect import Effect
from fox_cadence.played.nature import NATURE
from fox_cadence.played.parts import Mono
from fox_cadence.played.things import THINGS

EFFECTS: Mapping[str, Effect] = {each.id: each for each in (*THINGS, *NATURE)}


def play_effect(effect: Effect) -> Mono:
    """The sound of an effect, mono float64; its loudest sample 0.8, its ends without a step."""
    made = np.array(effect.make(), dtype=np.float64)
    edge = min(96, len(made) // 2)
    made[:edge] *= np.linspace(0, 1, edge)
    made[-edge:] *= np.linspace(1, 0, edge)
    return np.asarray(made * (0.8 / max(1e-9, float(np.abs(made).max()))))
