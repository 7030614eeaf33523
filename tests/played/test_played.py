"""The shipped sounds: the same each time, never too loud, all different, and found by words."""

import numpy as np
import pytest

from fox_cadence.played.beds import PIECES
from fox_cadence.played.catalogue import BED, EFFECT, played
from fox_cadence.played.effects import EFFECTS, play_effect
from fox_cadence.played.score import Piece, notes, play


def test_there_are_a_dozen_beds_of_many_moods_and_lengths_and_forty_effects() -> None:
    assert len(PIECES) >= 12
    assert len(EFFECTS) >= 40
    assert len({piece.title for piece in PIECES}) == len(PIECES)
    assert len({piece.bpm for piece in PIECES}) >= 8
    assert {piece.metre for piece in PIECES} == {3, 4}
    assert {piece.scale for piece in PIECES} == {"major", "minor", "dorian"}
    lengths = sorted(piece.seconds for piece in PIECES)
    assert lengths[0] < 40
    assert lengths[-1] > 90
    assert set(played()) == {f"{BED}{p.id}" for p in PIECES} | {f"{EFFECT}{e}" for e in EFFECTS}


@pytest.mark.parametrize("effect", EFFECTS.values(), ids=list(EFFECTS))
def test_an_effect_is_the_same_each_time_and_begins_and_ends_without_a_step(effect) -> None:  # type: ignore[no-untyped-def]
    sound = play_effect(effect)
    assert np.array_equal(sound, play_effect(effect))
    assert np.abs(sound).max() == pytest.approx(0.8)
    assert sound[0] == sound[-1] == 0
    assert np.sqrt(np.mean(sound**2)) > 0.01
    assert 0.02 < len(sound) / 48_000 < 8


def test_effects_sound_different() -> None:
    """No two have nearly the same spectrum and the same length."""
    seen: list[tuple[str, np.ndarray]] = []
    for effect in EFFECTS.values():
        power = np.abs(np.fft.rfft(play_effect(effect), 1 << 18)) ** 2
        bands = np.add.reduceat(power, np.geomspace(50, len(power) - 2, 40).astype(int))
        shape = np.concatenate([np.log10(bands / bands.sum() + 1e-8), [len(play_effect(effect)) / 24_000]])
        for other, theirs in seen:
            assert np.linalg.norm(shape - theirs) > 0.5, f"{effect.id} is like {other}"
        seen.append((effect.id, shape))


def test_a_bed_ends_on_its_first_chord_with_nothing_after_it() -> None:
    for piece in PIECES:
        last = max(note.at_s for note in notes(piece))
        assert last == pytest.approx(piece.bars_s()[-1])
        assert piece.seconds - last > 1.5
        assert len(piece.beats_s()) == (piece.bars - 2) * piece.metre + 1


@pytest.fixture(scope="module")
def short() -> Piece:
    return next(piece for piece in PIECES if piece.id == "paper-boats")


def test_a_bed_is_the_same_each_time_and_never_too_loud(short: Piece) -> None:
    made = play(short)
    assert np.array_equal(made, play(short))
    assert np.abs(made).max() == pytest.approx(0.7)
    assert len(made) == round(short.seconds * 48_000)
    assert np.abs(made[-48:]).max() < 0.001
    assert np.sqrt(np.mean((made[:, 0] - made[:, 1]) ** 2)) > 0.001  # its sides differ
