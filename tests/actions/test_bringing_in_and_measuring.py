"""Files become a project; a finished video is compared with it."""

import io
from fractions import Fraction
from pathlib import Path

import av
import docx
import numpy as np
import pytest

from fox_cadence.actions.bring_in import MediaFile, NewProject, bring_in_clip, check_new_project, new_project
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.exporting import export
from fox_cadence.actions.measuring import compare, measure_video
from fox_cadence.actions.script_import import Source
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket.shipped import usual
from fox_cadence.core.edits import Applied, DeleteHeading, SetShotLength, SetTransition, SetWindow
from fox_cadence.core.project import said_text
from fox_cadence.core.ticks import FrameRate, seconds_to_ticks
from fox_cadence.errors import CancelledError, InputError
from fox_cadence.media.measure import Findings, FoundSpeech
from tests.builders import simple_project, voiced
from tests.media import files

RATE = FrameRate(numerator=30)
SMALL = NewProject("Foam", 128, 160, RATE)


def given(folder: Path) -> list[MediaFile]:
    made = [
        files.video(folder / "one.mp4", 2.0, size=(128, 160), seed=1),
        files.still(folder / "two.png"),
        files.tone(folder / "bed.wav", 2.0),
    ]
    return [MediaFile(path, path.name) for path in made]


def test_pictures_become_shots_words_lines_and_sound_the_bed(workspace: Workspace, tmp_path: Path) -> None:
    words = Source("words.txt", b"The foam comes in.\nThe foam goes out.\n")
    made = new_project(workspace, SMALL, given(tmp_path), words)
    assert made.remarks == ()
    project = workspace.head(made.project_id).project
    assert [(shot.name, shot.length_frames) for shot in project.shots] == [("one", 60), ("two", 120)]
    assert [said_text(project, line) for line in project.lines] == [
        "The foam comes in.",
        "The foam goes out.",
    ]
    assert project.clips[project.beds[0].clip_hash].kind == "sound"
    assert workspace.head(made.project_id).undo_label is None or project.name == "Foam"


def test_a_script_with_names_gets_a_voice_for_each_and_keeps_its_headings(
    workspace: Workspace, tmp_path: Path
) -> None:
    script = docx.Document()
    script.add_heading("The pools", 1)
    for text in (
        "What it forgets, it keeps.",
        "LIMPET: Home is a groove.",
        "CRAB: I watch.",
        "LIMPET: And I stay.",
    ):
        script.add_paragraph(text)
    out = io.BytesIO()
    script.save(out)
    made = new_project(workspace, SMALL, given(tmp_path), Source("script.docx", out.getvalue()))
    assert made.remarks == ()
    project = workspace.head(made.project_id).project
    assert [role.name for role in project.roles] == ["narrator", "limpet", "crab"]
    assert len({role.voice_id for role in project.roles}) == len({role.colour for role in project.roles}) == 3
    assert [project.role(line.role_id).name for line in project.lines] == [
        "narrator",
        "limpet",
        "crab",
        "limpet",
    ]
    assert [text.text for text in project.scene_texts] == ["The pools"]
    make_edits(
        workspace, made.project_id, workspace.head(made.project_id), [DeleteHeading(scene_text_id="t1")]
    )
    assert workspace.head(made.project_id).project.scene_texts == ()
    with pytest.raises(InputError, match=r"script\.docx: it is no DOCX"):
        new_project(workspace, SMALL, given(tmp_path), Source("script.docx", b"PK no"))


def test_what_cannot_be_used_is_remarked_and_the_rest_is_taken(workspace: Workspace, tmp_path: Path) -> None:
    text = tmp_path / "not.mp4"
    text.write_text("this is no film")
    empty = tmp_path / "empty.png"
    empty.touch()
    media = [
        *given(tmp_path),
        MediaFile(text, "not.mp4"),
        MediaFile(empty, "empty.png"),
        MediaFile(tmp_path / "gone.mp4", "gone.mp4"),
    ]
    words = Source(
        "late.srt",
        b"1\n00:00:01,000 --> 00:00:02,000\nIn time.\n\n"
        b"2\nno times\nLost.\n\n3\n00:09:00,000 --> 00:09:01,000\nLate.\n",
    )
    made = new_project(workspace, SMALL, media, words)
    remarks = {remark.place: remark.message for remark in made.remarks}
    assert {"not.mp4", "empty.png", "gone.mp4"} <= set(remarks)
    assert "empty" in remarks["empty.png"]
    assert "no such file" in remarks["gone.mp4"]
    assert any(place.startswith("late.srt") for place in remarks)
    assert any("after the picture" in message for message in remarks.values())
    project = workspace.head(made.project_id).project
    assert [said_text(project, line) for line in project.lines] == ["In time.", "Late."]


def test_without_a_picture_nothing_is_made(workspace: Workspace, tmp_path: Path) -> None:
    bed = files.tone(tmp_path / "bed.wav")
    for media in ([MediaFile(bed, "bed.wav")], [MediaFile(tmp_path / "gone.mp4", "gone.mp4")]):
        with pytest.raises(InputError, match="none of the files has a picture"):
            new_project(workspace, SMALL, media, None)
    assert workspace.projects.list() == []


def test_each_language_begins_with_a_voice_that_speaks_it(workspace: Workspace, tmp_path: Path) -> None:
    picture = [MediaFile(files.still(tmp_path / "a.png"), "a.png")]
    for language in ("es", "fr", "de", "en"):
        made = new_project(
            workspace, NewProject("x", 128, 160, RATE, language), picture, Source("w.txt", b"Uno.\n")
        )
        project = workspace.head(made.project_id).project
        assert project.language == language
        result = voice_lines(workspace, made.project_id)
        assert (result.made, result.failed) == (1, ())


@pytest.mark.parametrize(
    ("wanted", "words"),
    [
        (NewProject("  ", 128, 160, RATE), "give the project a name"),
        (NewProject("x" * 201, 128, 160, RATE), "201 characters"),
        (NewProject("x", 128, 62, RATE), "height: 62 is not a number from 64 to 4096"),
        (NewProject("x", 128, 4098, RATE), "height: 4098 is not a number from 64 to 4096"),
        (NewProject("x", 128, 160, RATE, "xx"), "language: there is no language 'xx'"),
        (NewProject("x", 128, 160, RATE, "english"), "there is no language 'english'"),
    ],
)
def test_what_a_project_cannot_be_is_said(wanted: NewProject, words: str) -> None:
    with pytest.raises(InputError, match=words):
        check_new_project(wanted)


def test_a_name_of_any_script_stays_as_it_is_but_for_control_characters(
    workspace: Workspace, tmp_path: Path
) -> None:
    picture = [MediaFile(files.still(tmp_path / "a.png"), "../../a.png")]
    persian = "می\u200cخواهم"  # the joiner is a part of the word
    for name, kept in {
        "潮だまり": "",
        "../../etc/passwd": "",
        "a\x07b\n": "a b",
        "🦀" * 200: "",
        persian: "",
    }.items():
        made = new_project(workspace, NewProject(name, 128, 160, RATE), picture, None)
        assert workspace.head(made.project_id).project.name == (kept or name)
        assert "/" not in made.project_id
        assert "." not in made.project_id


class _Stopped:
    cancelled = True

    def report(self, done: int, total: int, note: str = "") -> None:
        return


def test_bringing_in_can_be_stopped_and_leaves_nothing(workspace: Workspace, tmp_path: Path) -> None:
    path = files.video(tmp_path / "long.mp4", 4.0)
    with pytest.raises(CancelledError):
        bring_in_clip(workspace, MediaFile(path, "long.mp4"), _Stopped())
    clip = bring_in_clip(workspace, MediaFile(path, "long.mp4"))
    assert clip.length_ticks == seconds_to_ticks(4)
    assert bring_in_clip(workspace, MediaFile(path, "other name.mp4")).hash == clip.hash


def test_a_video_with_a_dissolve_is_in_sync_and_another_timeline_is_not(
    workspace: Workspace, tmp_path: Path
) -> None:
    words = Source("words.txt", b"The foam comes in.\nThe foam goes out again.\nStone.\n")
    media = [
        MediaFile(files.video(tmp_path / f"{n}.mp4", 3.0, size=(128, 160), seed=n), f"{n}.mp4")
        for n in range(3)
    ]
    made = new_project(workspace, SMALL, media, words)
    voice_lines(workspace, made.project_id)
    make_edits(
        workspace, made.project_id, workspace.head(made.project_id), [SetTransition(shot_id="s1", frames=8)]
    )
    export(workspace, made.project_id, tmp_path / "out", usual(video=True, sound=False, captions=False))
    video = tmp_path / "out" / "foam.mp4"
    report = measure_video(workspace, video, made.project_id)
    assert report.in_sync, report.as_text()
    assert report.transitions == 1
    assert len(report.cuts) == 1
    assert "transitions: 1, not looked for" in report.as_text()
    assert report.as_json()["worst"]["cut_frames"] == 0

    shorter = SetShotLength(shot_id="s2", length_frames=80)
    make_edits(workspace, made.project_id, workspace.head(made.project_id), [shorter])
    report = measure_video(workspace, video, made.project_id)
    assert not report.in_sync
    assert report.frames != report.planned_frames
    assert [item.off for item in report.cuts] == [10]
    assert "not in sync" in report.as_text()


def footage(path: Path, cut: int, count: int = 90) -> Path:
    """A clip that cuts by itself at a frame: another tone of grey, with a little grain."""
    rng = np.random.default_rng(1)
    with av.open(str(path), "w") as output:
        stream = output.add_stream("libx264", rate=30)
        stream.width, stream.height, stream.pix_fmt = 128, 160, "yuv420p"
        for number in range(count):
            grey = np.full((160, 128, 3), 60 if number < cut else 190, np.uint8) + rng.integers(
                0, 4, (160, 128, 1)
            )
            frame = av.VideoFrame.from_ndarray(grey.astype(np.uint8), format="rgb24")
            frame.pts, frame.time_base = number, Fraction(1, 30)
            output.mux(stream.encode(frame))
        output.mux(stream.encode(None))
    return path


def test_cuts_of_the_footage_itself_are_listed_apart_and_cuts_of_nobody_are_not(
    workspace: Workspace, tmp_path: Path
) -> None:
    media = [
        MediaFile(footage(tmp_path / "a.mp4", 40), "a.mp4"),
        MediaFile(footage(tmp_path / "b.mp4", 70), "b.mp4"),
    ]
    made = new_project(workspace, SMALL, media, None)
    export(workspace, made.project_id, tmp_path / "out", usual(sound=False, captions=False))
    report = measure_video(workspace, tmp_path / "out" / "foam.mp4", made.project_id)
    assert report.in_sync, report.as_text()
    assert (report.cuts_inside, report.unplanned_cuts) == ((40, 160), ())
    assert "cuts of the footage itself, inside shots, at frames 40, 160" in report.as_text()

    # the same video against a piece that shows another part of the clip: its cut is nobody's then
    edits: list[Applied] = [
        SetWindow(shot_id="s1", source_in_frames=30, length_frames=60),
    ]
    make_edits(workspace, made.project_id, workspace.head(made.project_id), edits)
    report = measure_video(workspace, tmp_path / "out" / "foam.mp4", made.project_id)
    assert not report.in_sync
    assert (report.cuts_inside, report.unplanned_cuts) == ((), (90, 160))


def test_a_video_that_is_not_there_or_of_another_size_is_refused(
    workspace: Workspace, tmp_path: Path
) -> None:
    project_id = workspace.projects.create(simple_project(["One."]), "Project made")
    with pytest.raises(InputError, match="no such file"):
        measure_video(workspace, tmp_path / "gone.mp4", project_id)
    other = files.video(tmp_path / "other.mp4", 0.5)
    with pytest.raises(InputError, match="160 × 120"):
        measure_video(workspace, other, project_id)


def test_what_was_not_found_is_said_and_what_nobody_planned_too() -> None:
    timeline = voiced(simple_project(["one", "two"], 2.0), [1.0, 1.0])
    found = Findings(
        frames=120, width=1080, height=1920, rate=30, audio_start_s=0, cuts=(60, 90),
        captions={"c1": ((0, 58),), "c2": ()},
        speech=(FoundSpeech("l1", 0.105, 1.1, 0.9), FoundSpeech("l2", 2.1, 3.1, 0.1)),
    )  # fmt: skip
    report = compare(timeline, found)
    assert report.unplanned_cuts == (90,)
    assert not report.in_sync
    offs = {item.what: item.off for item in (*report.captions, *report.speech)}
    assert offs["caption 1 out"] == -2
    assert offs["caption 2 in"] is offs["line 2 begins"] is None
    assert offs["line 1 begins"] == pytest.approx(5, abs=1e-6)
    assert "cuts that nobody planned, at frames 90" in report.as_text()
    assert "caption 2 in: not found" in report.as_text()
