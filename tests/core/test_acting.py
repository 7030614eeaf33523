"""What figures do in the frames of a piece."""

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from fox_cadence.core.acting import acted
from fox_cadence.core.figures.drawing import Pose
from fox_cadence.core.figures.figure import Figure
from fox_cadence.core.figures.mouth import LEAD_S
from fox_cadence.core.project import Role
from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.core.timeline import Timeline
from tests.builders import simple_project, take_of
from tests.core.figures.speaking import sounding, spoken

FIGURE = Figure(id="g1", role_id="r1", character="rusk")


def piece(figure: Figure = FIGURE, sounds: str = "mamamamamama", calm: bool = False) -> Timeline:
    project = simple_project(["tide pool rests", "a crab slowly"], figures=(figure,))
    project = project.changed(lettering=project.lettering.changed(calm=calm))
    takes = [sounding(take_of(project, line, 2.0), sounds) for line in project.lines]
    return spoken(project, takes)


def jaws(timeline: Timeline) -> np.ndarray:
    return np.array([pose.jaw for pose in acted(timeline)[0].poses])


def test_a_mouth_is_shut_in_the_frame_in_which_its_lips_meet() -> None:
    timeline = piece()
    jaw, rate = jaws(timeline), timeline.project.rate
    for span in timeline.lines:
        assert span.take is not None
        step = (span.end_ticks - span.start_ticks) / 12
        for n in range(0, 12, 2):
            meets_s = (span.start_ticks + (n + 0.5) * step) / TICKS_PER_SECOND - LEAD_S
            frame = int(meets_s * TICKS_PER_SECOND // rate.frame_ticks)
            near = jaw[frame - 3 : frame + 4]
            assert near[2:5].min() < 15  # within one frame
            assert near[2:5].min() <= near.min() + 3
    assert jaw.max() > 70


def test_where_nobody_speaks_the_mouth_is_at_rest() -> None:
    timeline = piece()
    jaw, ticks = jaws(timeline), timeline.project.rate.frame_ticks
    near = 0.3 * TICKS_PER_SECOND
    for frame, open_ in enumerate(jaw):
        at = (frame + 0.5) * ticks
        if not any(span.start_ticks - near <= at <= span.end_ticks + near for span in timeline.lines):
            assert open_ <= 2


@settings(max_examples=25)
@given(st.integers(0, 239), st.integers(0, 239))
def test_any_part_of_a_piece_is_acted_as_in_the_whole(first: int, end: int) -> None:
    timeline = piece()
    whole, part = acted(timeline)[0], acted(timeline, frames=(first, end))[0]
    for frame in range(-2, timeline.total_frames + 2):
        inside = first <= frame < end
        assert part.pose_at(frame) == (whole.pose_at(frame) if inside else None)


def test_one_that_comes_to_speak_is_seen_around_its_lines_alone() -> None:
    timeline = piece(FIGURE.changed(shown="speaking"))
    made = acted(timeline)[0]
    ticks = timeline.project.rate.frame_ticks
    for span in timeline.lines:
        for at in (span.start_ticks, span.end_ticks - 1):
            assert made.pose_at(at // ticks) is not None
    assert made.pose_at(timeline.total_frames - 1) is None


def test_a_figure_without_lines_or_takes_only_blinks() -> None:
    project = simple_project(["tide pool rests"], figures=(FIGURE,))
    poses = acted(spoken(project, []))[0].poses
    assert {pose._replace(blink=0, nod=0, look=0) for pose in poses} == {Pose()}
    other = project.changed(
        roles=(*project.roles, Role(id="r2", name="crab", voice_id="orla")),
        figures=(FIGURE.changed(role_id="r2"),),
    )
    takes = [sounding(take_of(other, line, 2.0), "mama") for line in other.lines]
    assert not jaws(spoken(other, takes)).any()


def test_calm_pieces_neither_nod_nor_look_about() -> None:
    lively = acted(piece())[0].poses
    assert any(pose.nod for pose in lively)
    calm = acted(piece(calm=True))[0].poses
    assert not any(pose.nod or pose.look for pose in calm)
    assert [pose.jaw for pose in calm] == [pose.jaw for pose in lively]
