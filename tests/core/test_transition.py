"""How one shot becomes the next: from all of the one to all of the other, and never back."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.edits import EditError, SetTransition
from fox_cadence.core.shot_limits import least_frames
from fox_cadence.core.transition import SOFT_EDGE, dip_shares, edge_share, moved_by
from tests.builders import simple_project

SHARES = st.floats(0, 1)


@given(st.lists(SHARES, min_size=2, max_size=6), st.integers(2, 2160).map(lambda side: side // 2 * 2))
def test_what_comes_in_comes_in_all_the_way_on_pairs_of_pixels(shares: list[float], size: int) -> None:
    moved = [moved_by(share, size) for share in sorted(shares)]
    assert moved == sorted(moved)
    assert all(by % 2 == 0 for by in moved)
    assert (moved_by(0, size), moved_by(1, size)) == (0, size)


@given(SHARES, SHARES, st.sampled_from([1.0, 0.5]))
def test_an_edge_passes_every_place_once(place: float, share: float, reach: float) -> None:
    there = place * reach
    assert edge_share(there, 0, reach) == 0
    assert edge_share(there, 1, reach) == pytest.approx(1)
    assert edge_share(there, share, reach) <= edge_share(there, min(1, share + 0.01), reach)
    assert edge_share(there, share, reach) >= edge_share(there + SOFT_EDGE / 3, share, reach)


@given(SHARES)
def test_a_dip_shows_one_shot_at_a_time(share: float) -> None:
    before, after = dip_shares(share)
    assert min(before, after) == 0
    assert 0 <= before + after <= 1


def test_a_transition_is_set_at_one_cut_or_at_all_that_have_the_frames() -> None:
    project = simple_project(["One.", "Two.", "Three.", "Four."])
    short = project.shots[2].changed(length_frames=20, wanted_frames=20)
    project = project.changed(shots=(*project.shots[:2], short, project.shots[3]))
    one, label = SetTransition(shot_id="s1", frames=15, how="wipe").apply(project)
    assert (one.shots[0].transition_frames, one.shots[0].transition_kind) == (15, "wipe")
    assert label == "Shot 1 becomes the next in 15 frames, wipe"
    with pytest.raises(EditError, match=r"Shot 3 has 20 frames; its transitions .* need 31\. Fewer frames"):
        SetTransition(shot_id="s3", frames=30, how="push").apply(project)
    every, label = SetTransition(shot_id=None, frames=15, how="dip", colour="#ffffff").apply(project)
    assert [shot.transition_frames for shot in every.shots] == [15, 15, 0, 0]
    assert label == "Every cut: dip in 15 frames; 1 left as they are, too short for it"
    assert all(shot.length_frames >= least_frames(every, place) for place, shot in enumerate(every.shots))
