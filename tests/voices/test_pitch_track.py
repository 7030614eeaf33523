"""The pitch that is heard in a sound."""

import numpy as np
import pytest

from fox_cadence.voices.pitch_track import HOP_S, pitch_track, pitches_hz


def buzz(hz: np.ndarray) -> np.ndarray:
    """A sound like a voice's, of many overtones, at a pitch for each sample."""
    phase = 2 * np.pi * np.cumsum(hz) / 48_000
    overtones = np.stack([np.sin(n * phase) / n for n in range(1, 12)])
    return np.asarray(0.1 * overtones.sum(axis=0), np.float32)


@pytest.mark.parametrize("hz", [72.0, 110.0, 187.0, 260.0, 401.0])
def test_a_steady_pitch_is_found_within_a_hundredth(hz: float) -> None:
    found = pitches_hz(buzz(np.full(24_000, hz)))
    assert len(found) > 15
    assert np.median(found) == pytest.approx(hz, rel=0.01)
    assert np.max(np.abs(np.array(found) / hz - 1)) < 0.03


def test_a_glide_is_followed_and_silence_and_noise_have_none() -> None:
    rising = np.linspace(120, 240, 48_000)
    track = pitch_track(buzz(rising))
    at = np.arange(len(track)) * HOP_S + 0.02
    assert np.max(np.abs(track / np.interp(at, np.arange(48_000) / 48_000, rising) - 1)[2:-2]) < 0.06
    assert not pitch_track(np.zeros(24_000, np.float32)).any()
    noise = np.random.default_rng(1).normal(0, 0.1, 24_000).astype(np.float32)
    assert np.mean(pitch_track(noise) > 0) < 0.1
    assert len(pitch_track(np.zeros(100, np.float32))) == 0
