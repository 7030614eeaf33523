import pytest

from fox_cadence.core.project import Project
from fox_cadence.core.shot import Clip
from fox_cadence.core.shot_limits import repeats_after_ticks
from fox_cadence.core.ticks import seconds_to_ticks
from tests.builders import simple_project

CLIP = "a" * 64


def piece(kind: str = "video", past: str = "repeat", length_s: float = 3.0, source_s: float = 0.0) -> Project:
    """A shot of four seconds on a clip."""
    clip = Clip(hash=CLIP, name="x", kind=kind, length_ticks=seconds_to_ticks(length_s))
    project = simple_project(["one"], 4.0, clips={CLIP: clip}, past_clip_end=past)
    shot = project.shots[0].changed(clip_hash=CLIP, source_in_ticks=seconds_to_ticks(source_s))
    return project.changed(shots=(shot,))


@pytest.mark.parametrize(
    ("made", "seconds"),
    [
        (piece(), 3.0),
        (piece(source_s=1.0), 2.0),
        (piece(length_s=3.99), 3.99),
        (piece(length_s=4.0), 0),  # it lasts just as long as the shot
        (piece(length_s=5.0), 0),
        (piece(length_s=5.0, source_s=2.0), 3.0),
        (piece(source_s=3.0), 0),  # nothing of it is left to be shown again
        (piece(source_s=3.5), 0),
        (piece(past="hold"), 0),
        (piece(kind="still"), 0),
    ],
)
def test_a_clip_begins_again_where_it_is_over_before_its_shot(made: Project, seconds: float) -> None:
    assert repeats_after_ticks(made, made.shots[0]) == seconds_to_ticks(seconds)


def test_a_colour_and_a_clip_that_is_not_there_never_begin_again() -> None:
    project = simple_project(["one"], 4.0, past_clip_end="repeat")
    assert repeats_after_ticks(project, project.shots[0]) == 0
    assert repeats_after_ticks(project, project.shots[0].changed(clip_hash="b" * 64)) == 0
