"""Another throat: as high as asked, every word where it was, the same each time."""

import numpy as np
import pytest

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.treatment import Pitch
from fox_cadence.media.audio import Sound
from fox_cadence.media.throat import with_throat


@pytest.mark.parametrize("semitones", [-5.0, 4.0])
def test_another_throat_is_as_high_as_asked_and_keeps_every_word(semitones: float) -> None:
    """The pitch moves by what was asked for, loudness and onsets stay: the envelope lies where it lay."""
    sound = spoken()
    stage = Pitch(semitones=semitones, size=0.9)
    made = with_throat(sound, stage)
    assert len(made) == len(sound)
    assert np.array_equal(made, with_throat(sound, stage))
    asked = 2 ** (semitones / 12)
    assert pitch_of(made) / pitch_of(sound) == pytest.approx(asked, rel=0.03)
    was, now = envelope(sound), envelope(made)
    lags = range(-30, 31)
    best = max(lags, key=lambda lag: float(np.corrcoef(was[40:-40], np.roll(now, -lag)[40:-40])[0, 1]))
    assert abs(best) <= 3  # milliseconds: of three bare vowels; words of voices are in test_sound.py


def test_a_throat_as_it_is_changes_nothing_and_so_does_it_to_what_has_no_pitch() -> None:
    sound = spoken()
    assert np.array_equal(with_throat(sound, Pitch()), sound)
    noise = np.random.default_rng(1).normal(0, 0.1, 24_000).astype(np.float32)
    assert np.array_equal(with_throat(noise, Pitch(semitones=5, size=0.8)), noise)
    short = sound[:100]
    assert np.array_equal(with_throat(short, Pitch(semitones=5)), short)


def spoken() -> Sound:
    """Three vowels of a falling pitch, with silence between them."""
    time = np.arange(round(0.45 * SAMPLE_RATE_HZ)) / SAMPLE_RATE_HZ
    parts = [np.zeros(9_600)]
    for hertz in (150, 140, 130):
        phase = 2 * np.pi * hertz * (time - 0.06 * time**2)
        tone = sum(np.sin(k * phase) / (1 + ((k * hertz - 700) / 500) ** 2) for k in range(1, 30))
        parts += [tone * np.hanning(len(time)) ** 0.3 * 0.1, np.zeros(7_200)]
    return np.concatenate(parts).astype(np.float32)


def pitch_of(sound: Sound) -> float:
    import parselmouth

    hertz = parselmouth.Sound(sound.astype(float), SAMPLE_RATE_HZ).to_pitch().selected_array["frequency"]
    return float(np.median(hertz[hertz > 0]))


def envelope(sound: Sound) -> Sound:
    """The level of each millisecond, of 12 around it."""
    power = np.convolve(sound.astype(float) ** 2, np.full(576, 1 / 576), mode="same")
    return np.sqrt(power[::48]).astype(np.float32)
