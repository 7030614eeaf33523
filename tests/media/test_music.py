"""Beats, bars and tempo; music cut and repeated by whole bars."""

import numpy as np
import pytest

from fox_cadence.core.sound.bar_cut import cut_by_bars, loop_of, unlikeness
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound
from fox_cadence.media.beats import Beats, find_beats
from fox_cadence.media.music import cut_to_length, loop_region
from fox_cadence.played.beds import PIECES
from fox_cadence.played.score import Piece, play

_PLAYED: dict[str, Sound] = {}
_FOUND: dict[str, Beats] = {}


def music(piece: Piece) -> tuple[Sound, Beats]:
    if piece.id not in _PLAYED:
        _PLAYED[piece.id] = play(piece).astype(np.float32)
        _FOUND[piece.id] = find_beats(_PLAYED[piece.id])
    return _PLAYED[piece.id], _FOUND[piece.id]


def score(found: list[float], true: list[float], within_s: float = 0.07) -> float:
    """F-measure: each true beat is met by at most one that was found."""
    left = list(found)
    met = 0
    for beat in true:
        near = [each for each in left if abs(each - beat) <= within_s]
        if near:
            left.remove(near[0])
            met += 1
    return 2 * met / (len(found) + len(true)) if found or true else 0.0


def piece(name: str) -> Piece:
    return next(each for each in PIECES if each.id == name)


@pytest.mark.parametrize("name", ["small-wheels", "harbour-waltz", "paper-boats", "night-shift"])
def test_the_beats_of_a_piece_are_found(name: str) -> None:
    """Quick, in three, slow, and with a swing."""
    made = piece(name)
    _, found = music(made)
    end = made.beats_s()[-1] + 0.07
    assert score([each for each in found.beats_s if each <= end], made.beats_s()) > 0.95
    assert found.metre == made.metre
    assert found.tempo_bpm == pytest.approx(made.bpm, rel=0.01)
    assert found.certainty > 0.6


def drifting(seconds: float = 40.0) -> tuple[Sound, list[float]]:
    """Strokes that get quicker, from 96 to 114 a minute."""
    sound = np.zeros(round(seconds * SAMPLE_RATE_HZ), np.float32)
    ring = (np.sin(np.arange(9_600) * 0.02) * np.exp(-np.arange(9_600) / 1_800)).astype(np.float32)
    hiss = np.random.default_rng(1).normal(0, 0.3, 1_200).astype(np.float32) * np.exp(-np.arange(1_200) / 200)
    beats: list[float] = []
    at, number = 0.5, 0
    while at < seconds - 0.5:
        start = round(at * SAMPLE_RATE_HZ)
        sound[start : start + 9_600] += ring[: len(sound) - start] * (1.0 if number % 4 == 0 else 0.6)
        sound[start : start + 1_200] += hiss.astype(np.float32)
        beats.append(at)
        at += 60 / (96 + 18 * at / seconds)
        number += 1
    return sound, beats


def test_beats_that_drift_are_followed() -> None:
    sound, beats = drifting()
    found = find_beats(sound)
    assert score(list(found.beats_s), beats) > 0.85


@pytest.mark.parametrize(
    "sound",
    [
        np.zeros(0, np.float32),
        np.zeros(SAMPLE_RATE_HZ * 20, np.float32),
        np.ones(SAMPLE_RATE_HZ, np.float32) * 0.1,
        np.full((SAMPLE_RATE_HZ * 8, 2), 1e-6, np.float32),
    ],
)
def test_what_is_silent_or_short_has_no_beats(sound: Sound) -> None:
    assert find_beats(sound) == Beats()


def test_noise_is_no_more_than_a_guess() -> None:
    noise = np.random.default_rng(3).normal(0, 0.1, SAMPLE_RATE_HZ * 15).astype(np.float32)
    assert find_beats(noise).certainty < 0.5


@pytest.mark.parametrize("seconds", [20.0, 38.9, 75.0])
@pytest.mark.parametrize("name", ["harbour-waltz", "paper-boats"])
def test_music_is_cut_to_a_length_and_ends_on_its_ending(name: str, seconds: float) -> None:
    made = piece(name)
    sound, beats = music(made)
    cut = cut_to_length(sound, beats, seconds)
    lengths = [each.end_sample - each.start_sample for each in cut.stretches]
    assert sum(lengths) / SAMPLE_RATE_HZ == pytest.approx(seconds, abs=0.002)
    last = cut.stretches[-1]
    hit = made.bars_s()[-1]
    assert last.start_sample / SAMPLE_RATE_HZ - 0.02 < hit < last.end_sample / SAMPLE_RATE_HZ
    heard = (sum(lengths[:-1]) + hit * SAMPLE_RATE_HZ - last.start_sample) / SAMPLE_RATE_HZ
    assert heard == pytest.approx(cut.hit_s, abs=0.08)
    assert seconds - heard >= 1.0  # it rings out
    bars = [bar * SAMPLE_RATE_HZ for bar in beats.bars_s]
    for before, after in zip(cut.stretches, cut.stretches[1:], strict=False):  # each seam lies before bars
        assert min(abs(before.end_sample - bar) for bar in bars) < 480
        assert min(abs(after.start_sample - bar) for bar in bars) < 480


def test_the_beat_goes_on_over_a_seam() -> None:
    made = piece("harbour-waltz")
    sound, beats = music(made)
    cut = cut_to_length(sound, beats, 75.0)
    assert cut.jumps >= 1
    places: list[float] = []
    at = 0.0
    for stretch in cut.stretches:
        start, end = stretch.start_sample / SAMPLE_RATE_HZ, stretch.end_sample / SAMPLE_RATE_HZ
        places += [at + beat - start for beat in made.beats_s() if start <= beat < end]
        at += end - start
    assert np.allclose(np.diff(places), 60 / made.bpm, atol=0.004)


def test_a_loop_is_found_that_begins_and_ends_on_bars() -> None:
    sound, beats = music(piece("harbour-waltz"))
    found = loop_region(sound, beats)
    assert found is not None
    first, end = found
    assert end - first > 4 * 1.8
    assert min(abs(first - bar) for bar in beats.bars_s) < 0.01
    assert (end - first) / piece("harbour-waltz").bar_s == pytest.approx(
        round((end - first) / 1.875), abs=0.02
    )


def test_bars_that_are_alike_are_jumped_between_and_few_bars_are_refused() -> None:
    """Bars 1 and 5, 2 and 6 and so on are the same: jumps between them cost least."""
    features = np.array([[float(n % 4 == k) for k in range(4)] for n in range(12)]) * 5
    unlike = unlikeness(features)
    starts = [2.0 * n for n in range(13)]
    cut = cut_by_bars(starts, unlike, 40.0)
    assert len(cut.bars) == 20
    for place in cut.jumps[:-1]:
        assert (cut.bars[place] - cut.bars[place - 1]) % 4 == 1
    assert cut.hit_s == pytest.approx(40.0)
    assert cut_by_bars(starts, unlike, 24.0).jumps == ()
    with pytest.raises(ValueError, match="too few"):
        cut_by_bars([0.0, 1.0], unlike[:1, :1], 10)
    with pytest.raises(ValueError, match="too few"):
        cut_to_length(np.zeros(SAMPLE_RATE_HZ, np.float32), Beats(), 10)
    loop = loop_of(starts, unlike)
    assert loop is not None
    assert (loop[1] - loop[0]) % 4 == 0
