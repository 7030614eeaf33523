"""Cuts found in made footage whose changes are known."""

from collections.abc import Iterator
from pathlib import Path

import numpy as np
import pytest

from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.errors import InputError
from fox_cadence.media import cut_finding
from fox_cadence.media.cut_finding import Change, as_json, changes, changes_in, find_cuts
from fox_cadence.media.isolated import no_progress
from tests.media import files
from tests.media.joins import MOTIONS, Made, film, joined, scene, small


def hits(found: list[Change], made: list[Made]) -> int:
    """How many of the changes that were made are among those found."""
    return sum(
        any(
            each.kind == change.kind
            and change.first - 1 <= each.frame <= change.last + (1 if change.kind == "cut" else 3)
            for each in found
        )
        for change in made
    )


@pytest.mark.parametrize("seed", range(5))
def test_hard_cuts_are_found_on_their_frame_and_nothing_else(seed: int) -> None:
    rng = np.random.default_rng(seed)
    pieces = [scene(rng, 30 + 7 * number, "pan") for number in range(5)]
    found = changes(small(np.concatenate(pieces)))
    ends = np.cumsum([len(piece) for piece in pieces])[:-1]
    assert [change.frame for change in found if change.kind == "cut"] == ends.tolist()
    assert all(0.5 < change.certainty <= 1 for change in found)


@pytest.mark.parametrize("motion", sorted(set(MOTIONS)))
def test_a_scene_that_moves_has_no_cut(motion: str) -> None:
    for seed in range(3):
        assert changes(small(scene(np.random.default_rng(seed), 90, motion))) == []


def test_most_soft_changes_are_found_with_the_frames_they_take() -> None:
    made_in_all, found_in_all = 0, 0
    for seed in range(300, 306):
        footage, made = joined(np.random.default_rng(seed), ["dissolve", "fade", "cut", "dissolve"])
        made_in_all += len(made)
        found_in_all += hits(changes(small(footage)), made)
    assert found_in_all >= 0.85 * made_in_all


def test_a_long_video_has_the_same_changes_looked_at_piece_by_piece(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(cut_finding, "_CHUNK", 150)
    footage, _ = joined(
        np.random.default_rng(7), ["cut", "dissolve", "fade", "cut", "cut", "dissolve", "cut"]
    )
    pictures = small(footage)

    def one_by_one() -> Iterator[np.ndarray]:
        yield from pictures

    assert list(changes_in(one_by_one())) == changes(pictures)


def test_the_cuts_of_a_file_have_its_times(tmp_path: Path) -> None:
    rng = np.random.default_rng(3)
    footage = np.concatenate([scene(rng, 40, "still"), scene(rng, 50, "pan"), scene(rng, 30, "still")])
    path = film(tmp_path / "three.mp4", footage, 25)
    found = find_cuts(path, no_progress)
    assert [(cut.change.frame, cut.change.kind) for cut in found] == [(40, "cut"), (90, "cut")]
    assert [cut.ticks for cut in found] == [40 * TICKS_PER_SECOND // 25, 90 * TICKS_PER_SECOND // 25]
    assert as_json(found)[0] | {"certainty": 0} == {
        "frame": 40, "time_s": 1.6, "kind": "cut", "certainty": 0, "first": 40, "last": 40,
    }  # fmt: skip


def test_what_has_no_moving_picture_is_refused_in_words(tmp_path: Path) -> None:
    with pytest.raises(InputError, match="single picture"):
        find_cuts(files.still(tmp_path / "rock.png"), no_progress)
    with pytest.raises(InputError, match="no picture"):
        find_cuts(files.tone(tmp_path / "sea.wav"), no_progress)
