"""The docket: sizes of frames, names of files, chapters, and what can't be asked for."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import TypeAdapter, ValidationError

from fox_cadence.core.docket import CaptionsRow, Docket, Row, SoundRow, Stretch, VideoRow
from fox_cadence.core.docket.chapters import chapters_of
from fox_cadence.core.docket.contents import plan_of, stems_of
from fox_cadence.core.docket.names import file_stem, pattern_fault
from fox_cadence.core.docket.shipped import PLAIN, usual
from fox_cadence.core.docket.sizes import sound_bytes, video_bytes, video_kbps_for
from fox_cadence.core.mix import plan_mix
from fox_cadence.core.project import SceneText
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project

SIDES = st.integers(32, 2000).map(lambda side: side * 2)
SAID = {"piece": "tide", "size": "1080×1920", "revision": "r4", "language": "en"}


@given(SIDES, SIDES, st.sampled_from(["portrait", "square", "landscape"]), st.integers(32, 1080))
def test_every_shape_has_even_sides_and_its_own_orientation(
    width: int, height: int, shape: str, half: int
) -> None:
    row = VideoRow.model_validate({"name": "v", "shape": shape, "short_side": 2 * half})
    wide, high = row.size(width, height)
    assert wide % 2 == high % 2 == 0
    assert min(wide, high) == 2 * half
    assert (wide > high, wide == high, wide < high)[("landscape", "square", "portrait").index(shape)]


@given(SIDES, SIDES)
def test_as_the_piece_is_the_piece_and_a_look_is_small_and_alike(width: int, height: int) -> None:
    assert VideoRow(name="v").size(width, height) == (width, height)
    wide, high = VideoRow(name="v", look=True).size(width, height)
    assert max(wide, high) <= max(480, 2)
    assert abs(wide * height - high * width) <= max(width, height) * 2


def test_the_shapes_of_a_usual_piece() -> None:
    sizes = {row.name: row.size(1080, 1920) for row in PLAIN.rows if isinstance(row, VideoRow)}
    assert sizes["portrait"] == (1080, 1920)
    assert sizes["square"] == (1080, 1080)
    assert sizes["landscape"] == (1920, 1080)
    assert sizes["look"] == (270, 480)
    assert VideoRow(name="v", shape="landscape").size(1080, 1350) == (1920, 1080)


@pytest.mark.parametrize(
    "wrong",
    [
        {"kind": "video", "name": "Not a name"},
        {"kind": "video", "name": "v", "shape": "other", "width": 0, "height": 100},
        {"kind": "video", "name": "v", "short_side": 271},
        {"kind": "video", "name": "v", "file": "mp4", "codec": "vp9"},
        {"kind": "video", "name": "v", "file": "gif", "captions": "track"},
        {"kind": "video", "name": "v", "most_mb": 0},
        {"kind": "sound", "name": "s", "file": "flac", "bits": 32},
        {"kind": "sound", "name": "s", "of": []},
        {"kind": "captions", "name": "c", "files": []},
        {"kind": "something", "name": "x"},
    ],
)
def test_rows_that_cannot_be_made_are_refused(wrong: dict[str, object]) -> None:
    with pytest.raises(ValidationError):
        TypeAdapter(Row).validate_python(wrong)


def test_no_two_rows_have_one_name() -> None:
    with pytest.raises(ValidationError, match="two rows are called v"):
        Docket(rows=(VideoRow(name="v"), SoundRow(name="v")))


def test_what_is_usually_wanted() -> None:
    assert [row.name for row in PLAIN.chosen] == ["video", "sound", "captions"]
    assert [row.name for row in usual(False, False, True, look=True).chosen] == ["look", "captions"]


def test_names_follow_the_pattern_and_files_are_told_apart() -> None:
    def named(pattern: str, name: str, extra: str = "") -> str:
        return file_stem(pattern, VideoRow(name=name), SAID, extra)

    assert named("{piece}-{row}", "video") == "tide"
    assert named("{piece}-{row}", "square") == "tide-square"
    assert named("{row}_{piece}_{revision}", "square", "old") == "square-old_tide_r4"
    assert named("{piece} {size}/../{language}", "square") == "tide-1080×1920-..-en"
    assert "/" not in named("/{piece}/{row}", "square")
    assert len(named("{piece}" * 60, "square").encode()) <= 180


@pytest.mark.parametrize(
    ("pattern", "said"),
    [("{piece}-{row}", ""), ("all", "called alike"), ("{piece}{date}", "{date} is nothing")],
)
def test_what_is_wrong_with_a_pattern_is_said(pattern: str, said: str) -> None:
    fault = pattern_fault(pattern)
    assert said in fault if said else fault == ""


def test_headings_are_chapters_and_what_comes_before_them_is_one() -> None:
    project = simple_project(["The sea leaves.", "It comes back.", "And goes."], 3.0)
    assert chapters_of(build_timeline(project, {})) == ()
    headings = (
        SceneText(id="h1", shot_id=project.shots[1].id, text="The pools"),
        SceneText(id="h2", shot_id=project.shots[2].id, text="Night"),
    )
    titled = project.changed(scene_texts=(*project.scene_texts, *headings))
    timeline = build_timeline(titled, {})
    starts = [span.start_frame for span in timeline.shots]
    found = chapters_of(timeline)
    assert [each.title for each in found] == [project.name, "The pools", "Night"]
    assert [each.start_frame for each in found] == [0, *starts[1:]]
    assert found[-1].end_frame == timeline.total_frames
    part = chapters_of(timeline, starts[1] + 5, starts[2] + 9)
    assert [(each.title, each.start_frame, each.end_frame) for each in part] == [
        ("The pools", 0, starts[2] - starts[1] - 5),
        ("Night", starts[2] - starts[1] - 5, starts[2] - starts[1] + 4),
    ]


def test_stems_are_what_sounds_and_a_plan_is_cut_to_what_is_asked_for() -> None:
    project = simple_project(["The sea leaves."], 3.0)
    timeline = build_timeline(project, {})
    plan = plan_mix(timeline)
    assert stems_of(plan, timeline) == ()  # nothing is voiced yet
    assert plan_of(plan, "mix", {}) is plan
    assert plan_of(plan, "bed", {}).speech == ()


@given(st.integers(0, 500), st.integers(1, 500), st.integers(1, 400))
def test_a_part_lies_within_the_piece(start: int, length: int, total: int) -> None:
    first, last = Stretch(from_frame=start, to_frame=start + length).within(total)
    assert 0 <= first <= last <= total
    assert Stretch().within(total) == (0, total)


def test_sizes_are_told_before_anything_is_made() -> None:
    assert sound_bytes(SoundRow(name="s", bits=24), 2.0, 1) == 2 * 48_000 * 2 * 3
    assert sound_bytes(SoundRow(name="s", file="mp3", kbps=128), 10.0, 2) == 320_000
    small, good, best = (
        video_bytes(VideoRow.model_validate({"name": "v", "quality": q}), (1080, 1920), 900, 30)
        for q in ("small", "good", "best")
    )
    assert small < good < best
    assert video_bytes(VideoRow(name="v", most_mb=8), (1080, 1920), 900, 30) == 8_000_000
    seconds = 40.0
    kbps = video_kbps_for(8, seconds, 192)
    assert (kbps + 192) * seconds / 8 < 8_000
    assert video_kbps_for(0.5, seconds, 192) < 0


def test_a_captions_row_has_what_it_was_given() -> None:
    assert CaptionsRow(name="c").files == ("srt", "vtt")
