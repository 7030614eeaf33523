"""Edits of what the whole piece is: frame, rate, language, bed, and shots added to it."""

import itertools
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.edits import AddShot, EditError, SetFrame, SetLanguage, SetRate, SetSettings
from fox_cadence.core.project import Project
from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import FRAME_RATES, FrameRate, seconds_to_ticks, ticks_to_seconds
from fox_cadence.core.timeline import Timeline, shot_spans
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project, timelines

WAVE = Clip(hash="a" * 64, name="wave.mp4", kind="video", length_ticks=seconds_to_ticks(2.5), has_sound=True)
STILL = Clip(hash="b" * 64, name="rock.png", kind="still")
MUSIC = Clip(hash="c" * 64, name="bed.mp3", kind="sound", length_ticks=seconds_to_ticks(60), has_sound=True)


def piece(**change: Any) -> Project:
    return simple_project(
        ["one two", "three"], clips={clip.hash: clip for clip in (WAVE, STILL, MUSIC)}, **change
    )


@given(timelines(), st.sampled_from(sorted(FRAME_RATES)))
def test_another_rate_leaves_every_time_where_it_was_to_the_nearest_frame(
    timeline: Timeline, name: str
) -> None:
    project = timeline.project
    made, label = SetRate(rate=name).apply(project)
    rate = made.rate
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    after = build_timeline(made, takes)
    short = any(project.rate.ticks(shot.length_frames) < 2 * rate.frame_ticks for shot in project.shots)
    half = rate.frame_ticks // 2 + 1
    for old, new in zip(timeline.shots, after.shots, strict=True):
        moved = abs(project.rate.ticks(old.start_frame) - rate.ticks(new.start_frame))
        assert moved <= half or short
        assert new.shot.length_frames >= 1
        if old.shot.wanted_frames == old.shot.length_frames:
            assert new.shot.wanted_frames == new.shot.length_frames
    for caption, other in zip(timeline.captions, after.captions, strict=True):
        assert other.out_frame > other.in_frame
        assert abs(project.rate.ticks(caption.in_frame) - rate.ticks(other.in_frame)) <= half
    for line, other_line in zip(project.lines, made.lines, strict=True):
        if line.placement is None or other_line.placement is None:
            continue
        starts = [
            each.rate.ticks(next(s.start_frame for s in shot_spans(each) if s.shot.id == line.first_shot_id))
            for each in (project, made)
        ]
        assert starts[0] + line.placement.offset_ticks == starts[1] + other_line.placement.offset_ticks
    assert label.startswith(rate.label)


def test_by_how_much_another_rate_moved_things_is_said() -> None:
    project = simple_project(["one", "two"], 4.0, FrameRate(numerator=30))
    shots = tuple(shot.changed(length_frames=101, wanted_frames=101) for shot in project.shots)
    _, label = SetRate(rate="25").apply(project.changed(shots=shots))
    # 101 and 202 frames of 30 are 84.17 and 168.33 of 25: a sixth and a third of a frame off
    assert label == "25 frames a second, cuts and captions moved by at most 13 ms"
    same, label = SetRate(rate="30").apply(project)
    assert (same.shots, label) == (project.shots, "30 frames a second, nothing moved")
    with pytest.raises(EditError, match="31"):
        SetRate(rate="31").apply(project)


def test_a_rate_and_back_is_nearly_the_same_piece() -> None:
    project = piece()
    there, _ = SetRate(rate="60").apply(project)
    back, _ = SetRate(rate="30").apply(there)
    assert back == project


def test_a_frame_of_odd_sides_is_made_even_and_said() -> None:
    made, label = SetFrame(width=1081, height=1351).apply(piece())
    assert (made.width, made.height, label) == (1080, 1350, "Frame 1080 × 1350, made even")
    assert SetFrame(width=1920, height=1080).apply(piece())[1] == "Frame 1920 × 1080"


def test_only_languages_that_exist_are_taken() -> None:
    assert SetLanguage(language="pt-BR").apply(piece())[0].language == "pt-BR"
    for tag in ("xx", "english", "e", "en_US", "../en"):
        with pytest.raises(EditError, match="no language"):
            SetLanguage(language=tag).apply(piece())


def test_shots_are_added_after_one_or_at_the_end_and_words_stay_with_theirs() -> None:
    project = piece()
    made, label = AddShot(after_shot_id="s1", clip_hash=WAVE.hash).apply(project)
    assert [shot.id for shot in made.shots] == ["s1", "s3", "s2"]
    assert (made.shots[1].length_frames, made.shots[1].name, label) == (75, "wave", "Shot 2 added, wave")
    assert made.lines == project.lines
    made, _ = AddShot(clip_hash=STILL.hash, seconds=2).apply(made)
    assert (made.shots[-1].id, made.shots[-1].length_frames) == ("s4", 60)
    plain, _ = AddShot(colour="#aa0000").apply(made)
    assert (plain.shots[-1].clip_hash, plain.shots[-1].colour, plain.shots[-1].length_frames) == (
        None,
        "#aa0000",
        120,
    )
    with pytest.raises(EditError, match="no picture"):
        AddShot(clip_hash=MUSIC.hash).apply(project)
    with pytest.raises(EditError, match="no longer in the project"):
        AddShot(after_shot_id="s99").apply(project)


def test_a_dissolve_into_a_shot_that_is_too_short_for_it_becomes_a_plain_cut() -> None:
    project = piece()
    dissolving = project.shots[0].changed(transition_frames=40)
    project = project.changed(shots=(dissolving, project.shots[1]))
    made, _ = AddShot(after_shot_id="s1", seconds=1).apply(project)
    assert [shot.transition_frames for shot in made.shots] == [0, 0, 0]
    long, _ = AddShot(after_shot_id="s1", seconds=4).apply(project)
    assert long.shots[0].transition_frames == 40
    spans = shot_spans(long)
    assert all(one.end_frame >= other.start_frame for one, other in itertools.pairwise(spans))


def test_each_is_a_step_of_its_own() -> None:
    labels = [
        edit.apply(piece())[1]
        for edit in (
            SetSettings(name="Foam"),
            SetSettings(past_clip_end="repeat"),
            SetSettings(commercial=True),
            SetSettings(longest_s=30),
        )
    ]
    assert len(set(labels)) == 4
    assert ticks_to_seconds(SetSettings(longest_s=30).apply(piece())[0].longest_ticks or 0) == 30
