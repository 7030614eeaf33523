import numpy as np
import pyloudnorm
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import (
    as_stereo,
    at_speed,
    measure_loudness,
    read_wav,
    resample,
    wav_bytes,
)
from tests.media import files


def sine(seconds: float, hertz: float = 997, level: float = 1.0, rate: int = 48000) -> np.ndarray:
    return (level * np.sin(2 * np.pi * hertz * np.arange(round(seconds * rate)) / rate)).astype(np.float32)


def test_a_full_scale_sine_measures_as_the_standard_says() -> None:
    """EBU Tech 3341: a 997 Hz sine at 0 dBFS in one channel is -3.01 LUFS."""
    measured = measure_loudness(sine(5))
    assert measured.integrated_lufs == pytest.approx(-3.01, abs=0.1)
    assert measured.true_peak_db == pytest.approx(0, abs=0.1)


def speech_like(samples: int, channels: int) -> np.ndarray:
    """A chirp that comes and goes, with pauses below the gate: what an ungated level gets most wrong."""
    return files.chirp(samples, channels)


@pytest.mark.parametrize("channels", [1, 2])
@pytest.mark.parametrize(
    "samples", [19_200, 19_201, 24_000, 239_999, 240_000, 240_001, 479_999, 480_000, 480_001, 484_799]
)
def test_loudness_is_the_same_for_every_length_and_that_of_an_independent_meter(
    samples: int, channels: int
) -> None:
    """The meter reports each 4,800 samples; a length between two reports must not change what it says."""
    sound = speech_like(samples, channels)
    ours = measure_loudness(sound).integrated_lufs
    theirs = pyloudnorm.Meter(48_000).integrated_loudness(sound.astype(np.float64))
    assert ours == pytest.approx(theirs, abs=0.1)


@given(st.integers(19_200, 300_000))
def test_sounds_of_any_length_measure_as_an_independent_meter_has_them(samples: int) -> None:
    sound = speech_like(samples, 1)
    # the other meter rounds to the nearest block; the standard leaves it out
    whole = sound[: samples // 4800 * 4800]
    theirs = pyloudnorm.Meter(48_000).integrated_loudness(whole.astype(np.float64))
    assert measure_loudness(sound, true_peak=False).integrated_lufs == pytest.approx(theirs, abs=0.1)


@pytest.mark.parametrize("seconds", [0.02, 0.2, 0.39])
def test_sounds_shorter_than_a_gating_block_are_as_loud_as_if_they_went_on(seconds: float) -> None:
    assert measure_loudness(sine(seconds, 1000)).integrated_lufs == pytest.approx(-3.0, abs=0.3)


def test_short_sounds_and_silence_have_a_level_too() -> None:
    assert measure_loudness(sine(0.2, level=0.1)).integrated_lufs == pytest.approx(-23.7, abs=1)
    assert measure_loudness(np.zeros(48000, np.float32)).integrated_lufs == -70


@pytest.mark.parametrize("rate", [8000, 22050, 44100, 96000])
def test_resampling_keeps_length_and_pitch(rate: int) -> None:
    made = resample(sine(1.0, 440, rate=rate), rate)
    assert len(made) == 48000
    spectrum = np.abs(np.fft.rfft(made))
    assert np.argmax(spectrum) == pytest.approx(440, abs=1)


def test_wav_files_keep_their_samples(tmp_path) -> None:  # type: ignore[no-untyped-def]
    sound = np.round(sine(0.1) * 32767).astype(np.float32) / np.float32(32767)
    path = tmp_path / "x.wav"
    path.write_bytes(wav_bytes(sound))
    assert np.allclose(read_wav(path), sound, atol=1e-7)


@pytest.mark.parametrize("speed", [0.25, 0.5, 0.8, 1.5, 2.0, 4.0])
def test_sound_at_another_speed_keeps_its_pitch(speed: float) -> None:
    seconds = 3.0
    time = np.arange(round(seconds * SAMPLE_RATE_HZ)) / SAMPLE_RATE_HZ
    tone = as_stereo((0.3 * np.sin(2 * np.pi * 440 * time)).astype(np.float32))
    made = at_speed(tone, speed)
    assert len(made) == pytest.approx(len(tone) / speed, rel=0.06)
    middle = made[len(made) // 4 : 3 * len(made) // 4, 0]
    spectrum = np.abs(np.fft.rfft(middle * np.hanning(len(middle))))
    assert np.argmax(spectrum) * SAMPLE_RATE_HZ / len(middle) == pytest.approx(440, abs=6)
