"""Treatments: each stage does what it says, none moves a word, all leave the voice as loud as it was."""

import numpy as np
import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from fox_cadence.core.treatment import (
    SHIPPED,
    Bell,
    Compressor,
    DeEsser,
    Gate,
    HighPass,
    Pitch,
    Room,
    Shelf,
    Stage,
    Treatment,
    Warmth,
)
from fox_cadence.media.audio import measure_loudness
from fox_cadence.media.treating import RESPONSE_HZ, Mono, response, response_db, treat

RATE = 48_000
ONSETS = [9_600 + 14_400 * n for n in range(8)]


def words(seed: int = 3, level: float = 0.2) -> Mono:
    """Bursts like a voice after silences: harmonics of 150 Hz with noise, each of a quarter second."""
    chance = np.random.default_rng(seed)
    sound = np.zeros(ONSETS[-1] + 24_000)
    at = np.arange(12_000) / RATE
    for onset in ONSETS:
        burst = sum(np.sin(2 * np.pi * 150 * k * at + chance.uniform(0, 6)) / k for k in range(1, 30))
        burst = burst / 3 + 0.1 * chance.standard_normal(len(at))
        sound[onset : onset + 12_000] = burst * np.hanning(24_000)[12_000:] * level
    return sound.astype(np.float32)


def treated(sound: Mono, *stages: Stage) -> Mono:
    return treat(sound, Treatment(stages=stages)).sound


def lags(one: Mono, other: Mono) -> list[int]:
    """By how many samples each word came to lie later: where it matches best within 100 samples."""
    found = []
    for onset in ONSETS:
        part = one[onset - 200 : onset + 3_800]
        scores = [
            float(np.dot(part, other[onset - 200 + lag : onset + 3_800 + lag])) for lag in range(-100, 101)
        ]
        found.append(int(np.argmax(scores)) - 100)
    return found


EVERY: list[Stage] = [
    HighPass(hertz=100), Bell(hertz=1_000, gain_db=6), Bell(hertz=3_000, gain_db=-9, octaves=2),
    Shelf(gain_db=6), Shelf(side="low", hertz=200, gain_db=-6), Compressor(ratio=6, threshold_db=-10),
    DeEsser(threshold_db=-30), Gate(), Warmth(drive_db=12), Room(seconds=0.6, share=0.2),
]  # fmt: skip


@pytest.mark.parametrize("stage", EVERY, ids=lambda stage: f"{stage.kind}")
def test_no_stage_moves_a_word_by_a_sample(stage: Stage) -> None:
    sound = words()
    made = treated(sound, stage)
    assert len(made) >= len(sound)
    assert lags(sound, made) == [0] * len(ONSETS)


@pytest.mark.parametrize("treatment", SHIPPED, ids=lambda each: each.name)
def test_those_that_ship_keep_words_in_place_and_the_voice_as_loud(treatment: Treatment) -> None:
    sound = words()
    made = treat(sound, treatment)
    again = treat(sound.copy(), treatment)
    assert np.array_equal(made.sound, again.sound)
    if not any(isinstance(stage, Pitch) for stage in treatment.stages):  # test_throat.py looks at those
        assert max(map(abs, lags(sound, made.sound))) <= 2  # bent or cut to a band it matches elsewhere best
    before, after = (measure_loudness(each, true_peak=False).integrated_lufs for each in (sound, made.sound))
    assert after == pytest.approx(before, abs=0.3)
    assert len(made.effects) == len(treatment.stages)
    assert np.abs(made.sound).max() <= 0.981


def test_at_least_eight_ship_and_each_changes_what_is_heard() -> None:
    assert len({each.name for each in SHIPPED}) == len(SHIPPED) >= 8
    sound = words()
    made = [treat(sound, each).sound[: len(sound)] for each in SHIPPED]
    for number, one in enumerate(made):
        for other in [sound, *made[:number]]:
            assert np.abs(one - other).max() > 0.01


@pytest.mark.parametrize(
    ("stage", "hertz", "decibels"),
    [
        (HighPass(hertz=100), 100, -3.01), (HighPass(hertz=100), 50, -24.1), (HighPass(hertz=100), 800, 0.0),
        (Bell(hertz=1_000, gain_db=6), 1_000, 6.0), (Bell(hertz=1_000, gain_db=-6), 1_000, -6.0),
        (Bell(hertz=1_000, gain_db=6), 8_000, 0.1), (Shelf(hertz=5_000, gain_db=6), 20_000, 6.0),
        (Shelf(hertz=5_000, gain_db=6), 300, 0.0), (Shelf(side="low", hertz=200, gain_db=-9), 30, -9.0),
    ],
)  # fmt: skip
def test_equalisers_change_frequencies_by_what_is_said(
    stage: HighPass | Bell | Shelf, hertz: float, decibels: float
) -> None:
    factor = float(response((stage,), np.array([hertz]))[0])
    assert 20 * np.log10(factor) == pytest.approx(decibels, abs=0.4)


def test_a_tone_through_an_equaliser_is_changed_by_its_response() -> None:
    at = np.arange(RATE * 2) / RATE
    for hertz in (60, 200, 1_000, 4_000, 12_000):
        tone = (0.2 * np.sin(2 * np.pi * hertz * at)).astype(np.float32)
        stage = Bell(hertz=1_000, gain_db=9, octaves=1.5)
        other = (0.2 * np.sin(2 * np.pi * 15_000 * at)).astype(np.float32)  # holds the loudness where it is
        made = treated(tone + other, stage)
        middle = slice(RATE // 2, RATE)
        strength = [
            abs(np.dot(each[middle], np.exp(2j * np.pi * f * at[middle])))
            for each, f in ((made, hertz), (made, 15_000))
        ]
        wanted = response((stage,), np.array([hertz, 15_000.0]))
        assert 20 * np.log10(strength[0] / strength[1]) == pytest.approx(
            20 * np.log10(wanted[0] / wanted[1]), abs=0.15
        )


def test_a_compressor_brings_loud_and_soft_nearer_by_its_ratio_and_tells_by_how_much() -> None:
    chance = np.random.default_rng(1)
    noise = chance.standard_normal(RATE * 4).astype(np.float32) * 0.05
    noise[RATE * 2 :] *= 4  # 12 dB
    made = treat(noise, Treatment(stages=(Compressor(threshold_db=-40, ratio=4),)))
    soft, loud = (
        20 * np.log10(np.sqrt(np.mean(made.sound[a * RATE // 2 : b * RATE // 2] ** 2)))
        for a, b in ((1, 3), (5, 7))
    )
    assert loud - soft == pytest.approx(12.04 / 4, abs=0.3)
    (effect,) = made.effects
    assert effect.most_db is not None
    assert effect.mean_db is not None
    assert effect.most_db >= effect.mean_db > 10


def test_a_gate_turns_down_the_room_and_not_the_words() -> None:
    sound = words() + np.random.default_rng(2).normal(0, 0.0006, len(words())).astype(np.float32)
    made = treated(sound, Gate(threshold_db=-25, most_db=20, release_ms=60))
    quiet = slice(ONSETS[0] + 13_000, ONSETS[1] - 600)
    loud = slice(ONSETS[1], ONSETS[1] + 3_000)
    turned = [float(np.sqrt(np.mean(made[part] ** 2) / np.mean(sound[part] ** 2))) for part in (quiet, loud)]
    assert 20 * np.log10(turned[0] / turned[1]) < -8


def test_a_de_esser_turns_down_what_is_sharp_and_nothing_else() -> None:
    at = np.arange(RATE * 2) / RATE
    voice = 0.2 * np.sin(2 * np.pi * 300 * at)
    sharp = 0.15 * np.sin(2 * np.pi * 7_500 * at) * ((at % 0.5) > 0.35)
    sound = (voice + sharp).astype(np.float32)
    made = treated(sound, DeEsser(threshold_db=-20, most_db=12))

    def strength(each: Mono, hertz: float) -> float:
        return float(abs(np.dot(each[: len(at)], np.exp(2j * np.pi * hertz * at))))

    low = strength(made, 300) / strength(sound, 300)
    high = strength(made, 7_500) / strength(sound, 7_500)
    assert 20 * np.log10(high / low) < -6


def test_warmth_adds_harmonics_and_folds_nothing_back() -> None:
    at = np.arange(RATE * 2) / RATE
    sound = (0.3 * np.sin(2 * np.pi * 5_000 * at)).astype(np.float32)
    made = treated(sound, Warmth(drive_db=14))
    spectrum = np.abs(np.fft.rfft(made[: len(at)] * np.hanning(len(at))))
    hertz = np.fft.rfftfreq(len(at), 1 / RATE)
    peak = spectrum.max()

    def level(around: float) -> float:
        return float(20 * np.log10(spectrum[np.abs(hertz - around) < 30].max() / peak))

    assert level(15_000) > -40
    assert level(13_000) < -75  # the seventh harmonic, folded back, would lie here


def test_a_room_rings_as_long_as_it_says() -> None:
    click = np.zeros(RATE, np.float32)
    click[4_800:4_848] = 0.5
    for seconds in (0.4, 1.2):
        stage = Room(seconds=seconds, share=0.5)
        made = treat(np.concatenate([words(), click]), Treatment(stages=(stage,))).sound
        tail = made[len(words()) + 4_848 + 1_000 :].astype(np.float64) ** 2
        decay = 10 * np.log10(np.cumsum(tail[::-1])[::-1] / tail.sum())
        drop = np.argmax(decay < -5), np.argmax(decay < -25)
        assert (drop[1] - drop[0]) / RATE * 3 == pytest.approx(seconds, rel=0.35)


@pytest.mark.parametrize(
    "sound",
    [
        np.zeros(0, np.float32), np.zeros(RATE, np.float32), np.full(10, 0.1, np.float32),
        np.ones(RATE, np.float32), np.array([np.float32(1e-9)] * RATE),
    ],
    ids=["nothing", "silence", "ten samples", "full scale", "nearly nothing"],
)  # fmt: skip
def test_sound_that_is_hardly_one_comes_out_whole(sound: Mono) -> None:
    for treatment in SHIPPED:
        made = treat(sound, treatment).sound
        assert len(made) >= len(sound)
        assert np.all(np.isfinite(made))
        assert np.abs(made).max(initial=0.0) <= 1


stages = st.one_of(
    st.builds(HighPass, hertz=st.floats(20, 500)),
    st.builds(Bell, hertz=st.floats(60, 12_000), gain_db=st.floats(-18, 18), octaves=st.floats(0.2, 4)),
    st.builds(
        Shelf, side=st.sampled_from(["low", "high"]), hertz=st.floats(60, 12_000), gain_db=st.floats(-18, 18)
    ),
    st.builds(Compressor, threshold_db=st.floats(-30, 10), ratio=st.floats(1, 20)),
    st.builds(Gate, threshold_db=st.floats(-50, -5), most_db=st.floats(0, 40)),
)


@settings(max_examples=15, deadline=None)
@example([Compressor(threshold_db=-22), Gate(threshold_db=-5, most_db=20)])
@example([Gate(threshold_db=-5, most_db=40), Gate(threshold_db=-5, most_db=40)])
@given(st.lists(stages, max_size=4))
def test_whatever_the_stages_the_voice_stays_as_loud_and_whole(chosen: list[Stage]) -> None:
    sound = words()
    made = treated(sound, *chosen)
    assert len(made) >= len(sound)
    assert np.all(np.isfinite(made))
    before, after = (measure_loudness(each, true_peak=False).integrated_lufs for each in (sound, made))
    assert after <= before + 0.3
    assert after == pytest.approx(before, abs=0.5) or np.abs(made).max() > 0.97


def test_the_response_of_equalisers_is_the_product_of_theirs() -> None:
    both = Treatment(stages=(HighPass(hertz=100), Bell(hertz=1_000, gain_db=6), Warmth()))
    curve = dict(zip(RESPONSE_HZ, response_db(both), strict=True))
    near = min(curve, key=lambda hertz: abs(hertz - 1_000))
    assert curve[near] == pytest.approx(6, abs=0.1)
    low = min(curve, key=lambda hertz: abs(hertz - 100))
    assert curve[low] == pytest.approx(-3, abs=0.3)
