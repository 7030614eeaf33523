"""Cleaning: noise goes, words stay where they are, and what was clean stays as it was."""

import numpy as np
import pytest

from fox_cadence.core.sound.cleaning import Cleaning
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound
from fox_cadence.media.cleaning import cleaned
from tests.media.test_throat import spoken


def noisy(ratio_db: float, seed: int = 1) -> tuple[Sound, Sound]:
    """A voice, and the same with noise so many decibels under it."""
    speech = np.concatenate([spoken(), spoken()])
    noise = np.random.default_rng(seed).normal(0, 1, len(speech))
    noise *= np.sqrt(np.mean(speech**2)) * 10 ** (-ratio_db / 20)
    return speech, (speech + noise).astype(np.float32)


def quiet_db(sound: Sound) -> float:
    """The level of the tenth of a second before the first vowel."""
    return 10 * float(np.log10(np.mean(sound[3_000:8_000].astype(float) ** 2) + 1e-12))


def test_noise_goes_down_by_no_more_than_asked() -> None:
    _, sound = noisy(15)
    before = quiet_db(sound)
    downs = [before - quiet_db(cleaned(sound, Cleaning(noise_db=most))) for most in (6.0, 12.0, 60.0)]
    assert downs[0] == pytest.approx(6, abs=1.5)
    assert downs[1] == pytest.approx(12, abs=2.5)
    assert downs[2] > 18


def test_words_stay_where_they_were_and_the_length_is_the_same() -> None:
    speech, sound = noisy(20)
    for cleaning in (Cleaning(noise_db=60), Cleaning(noise_db=0, room_db=12)):
        made = cleaned(sound, cleaning)
        assert len(made) == len(sound)
        assert np.array_equal(made, cleaned(sound, cleaning))
        lags = range(-200, 201)
        score = [float(np.dot(speech[300:-300], made[300 + lag : len(made) - 300 + lag])) for lag in lags]
        assert lags[int(np.argmax(score))] == 0


def test_nothing_asked_is_nothing_done() -> None:
    _, sound = noisy(10)
    assert np.array_equal(cleaned(sound, Cleaning(noise_db=0)), sound)


@pytest.mark.parametrize(
    "sound", [np.zeros(0, np.float32), np.zeros(100, np.float32), np.zeros(96_000, np.float32)]
)
def test_what_is_silent_or_short_stays(sound: Sound) -> None:
    made = cleaned(sound, Cleaning(noise_db=60, room_db=60, even=True))
    assert made.shape == sound.shape
    assert np.all(np.abs(made) < 1e-3)


def test_soft_words_come_nearer_to_loud_ones() -> None:
    loud = spoken()
    sound = np.concatenate([loud, loud * 0.25])
    made = cleaned(sound, Cleaning(noise_db=0, even=True))

    def level(part: Sound) -> float:
        return 10 * float(np.log10(np.mean(part.astype(float) ** 2)))

    middle = len(loud)
    before = level(sound[:middle]) - level(sound[middle:])
    after = level(made[:middle]) - level(made[middle:])
    assert before == pytest.approx(12.04, abs=0.1)
    assert after < before - 4
    assert np.abs(made).max() <= 0.981


def test_a_long_recording_is_cleaned_part_by_part_as_well(monkeypatch: pytest.MonkeyPatch) -> None:
    """Parts of two seconds, each begun a second earlier, sound as the whole does to 15 dB and better."""
    _, sound = noisy(15)
    whole = cleaned(sound, Cleaning(noise_db=60))
    monkeypatch.setattr("fox_cadence.media.cleaning._PART_S", 1.2)
    monkeypatch.setattr("fox_cadence.media.cleaning._WARM_S", 1.0)
    monkeypatch.setattr("fox_cadence.media.cleaning._PART_REACH_S", 0.3)
    told: list[tuple[int, int]] = []
    parts = cleaned(sound, Cleaning(noise_db=60), lambda done, total: told.append((done, total)))
    assert len(told) > 2
    assert told[-1] == (len(sound), len(sound))
    assert [done for done, _ in told] == sorted(done for done, _ in told)
    difference = np.mean((parts - whole) ** 2) / np.mean(whole**2)
    assert 10 * np.log10(difference) < -15
    assert len(sound) > 2 * SAMPLE_RATE_HZ
