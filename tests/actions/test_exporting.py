"""Exports: what is in the files is measured, what is not is said, and one product's trouble is that
product's."""

from pathlib import Path

import numpy as np
import pyloudnorm
import pytest

from fox_cadence.actions.bring_in import MediaFile, NewProject, new_project
from fox_cadence.actions.exporting import export, export_notes
from fox_cadence.actions.making_words import caption_cues
from fox_cadence.actions.script_import import Choices, Source
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket.shipped import usual
from fox_cadence.core.edits import SetFrame, SetShotLength, apply_all
from fox_cadence.core.ticks import FrameRate, seconds_to_ticks, ticks_to_seconds
from fox_cadence.core.timeline_builder import build_timeline
from fox_cadence.errors import InputError
from fox_cadence.media.audio import METER, read_wav
from fox_cadence.media.fonts import faces_of
from fox_cadence.media.ingest import read_sound
from tests.builders import simple_project
from tests.media import files

SMALL = NewProject("Foam", 64, 80, FrameRate(numerator=25))
WORDS = Source("w.txt", b"The foam comes in.\nAnd out again, slowly.\n")


def loudness(sound: np.ndarray) -> float:
    return float(pyloudnorm.Meter(48_000).integrated_loudness(sound.astype(np.float64)))


def test_finished_files_are_as_loud_as_they_should_be_and_the_docket_says_so(
    workspace: Workspace, tmp_path: Path
) -> None:
    media = [MediaFile(files.video(tmp_path / "a.mp4", 7.3, tone_hz=300), "a.mp4")]
    made = new_project(workspace, SMALL, media, WORDS)
    voice_lines(workspace, made.project_id)
    exported = export(workspace, made.project_id, tmp_path / "out", usual(look=True))
    heard = {file.path.name: file.loudness for file in exported.files if file.loudness}
    assert sorted(heard) == ["foam-mix.wav", "foam-narration.wav", "foam.mp4"]
    look = read_sound(tmp_path / "out" / "foam-look.mp4")  # is not listened to, as it has to be quick
    assert look is not None
    assert loudness(look) == pytest.approx(-14, abs=0.3)
    for name, said in heard.items():
        path = tmp_path / "out" / name
        sound = read_wav(path) if path.suffix == ".wav" else read_sound(path)
        assert sound is not None
        assert said.integrated_lufs == pytest.approx(loudness(sound), abs=0.2)
        if name != "foam-narration.wav":
            assert said.integrated_lufs == pytest.approx(-14, abs=0.3)
    assert exported.failed == ()


def test_one_product_that_fails_is_named_and_the_others_are_made(
    workspace: Workspace, tmp_path: Path
) -> None:
    clip = files.video(tmp_path / "a.mp4", 4.0)
    made = new_project(workspace, SMALL, [MediaFile(clip, "a.mp4")], WORDS)
    kept = next(iter(workspace.head(made.project_id).project.clips))
    workspace.library.original(kept).unlink()
    exported = export(workspace, made.project_id, tmp_path / "out", usual(look=True))
    assert [(each.product, "has vanished" in each.reason) for each in exported.failed] == [("video", True)]
    suffixes = sorted(path.name for path in exported.paths)
    assert suffixes == [
        "foam-look.mp4", "foam-mix.wav", "foam-narration.wav", "foam-notes.txt", "foam.srt", "foam.vtt",
    ]  # fmt: skip


@pytest.mark.parametrize("size", [(1080, 1350), (1920, 1080), (66, 74)])
def test_a_quick_look_is_made_of_every_frame_shape(
    workspace: Workspace, tmp_path: Path, size: tuple[int, int]
) -> None:
    clip = files.video(tmp_path / "a.mp4", 0.4)
    made = new_project(workspace, SMALL, [MediaFile(clip, "a.mp4")], None)
    head = workspace.head(made.project_id)
    reshaped, label = apply_all(head.project, [SetFrame(width=size[0], height=size[1])])
    workspace.projects.commit(made.project_id, head.revision, reshaped, label)
    exported = export(workspace, made.project_id, tmp_path / "out", usual(False, False, False, True))
    assert exported.failed == ()
    assert (tmp_path / "out" / "foam-look.mp4").stat().st_size > 0


def test_what_nobody_will_hear_or_see_is_said_beside_the_files(workspace: Workspace, tmp_path: Path) -> None:
    srt = b"1\n00:00:00,000 --> 00:00:02,000\nThe tide.\n\n2\n"
    srt += b"00:00:02,500 --> 00:00:05,000\n\xf0\x90\x8d\x90 goes out.\n"
    made = new_project(
        workspace, SMALL, [MediaFile(files.still(tmp_path / "a.png"), "a.png")], Source("w.srt", srt)
    )
    assert any("can draw 𐍐" in remark.message for remark in made.remarks)
    head = workspace.head(made.project_id)
    shorter, label = apply_all(head.project, [SetShotLength(shot_id="s1", length_frames=75)])
    workspace.projects.commit(made.project_id, head.revision, shorter, label)
    exported = export(workspace, made.project_id, tmp_path / "out", usual(video=False))
    notes = (tmp_path / "out" / "foam-notes.txt").read_text()
    assert "caption 2 goes on 2.00 s after the piece, so that part is not in the files" in notes
    assert "caption 2 has signs that no typeface here can draw: 𐍐" in notes
    assert "lines 1, 2 had no voice yet" in notes
    assert [f"- {note}" for note in exported.notes] == notes.splitlines()
    ends = [
        ticks_to_seconds(cue.end_ticks or 0)
        for cue in caption_cues(workspace.timeline(shorter), workspace.faces_of(shorter))
    ]
    assert ends == [2.0, 3.0]

    workspace.projects.undo(made.project_id)
    voice_lines(workspace, made.project_id)
    export(workspace, made.project_id, tmp_path / "out", usual(video=False))
    assert "after the piece" not in (tmp_path / "out" / "foam-notes.txt").read_text()


def test_a_piece_with_nothing_to_say_about_has_no_notes() -> None:
    project = simple_project(["Tide."], 3.0)
    assert export_notes(build_timeline(project, {}), faces_of("en")) == ("line 1 had no voice yet",)


def test_takes_that_an_older_meter_measured_are_measured_again(workspace: Workspace, tmp_path: Path) -> None:
    made = new_project(workspace, SMALL, [MediaFile(files.still(tmp_path / "a.png"), "a.png")], WORDS)
    voice_lines(workspace, made.project_id)
    take_id = workspace.head(made.project_id).project.lines[0].take_id or ""
    take = workspace.library.takes([take_id])[take_id]
    old = take.changed(loudness_lufs=-3.0, meter=1)
    with workspace.database.write() as db:
        db.execute("UPDATE take SET document = ? WHERE id = ?", (old.model_dump_json(), take_id))
    workspace.library.forget()
    again = workspace.library.takes([take_id])[take_id]
    assert (again.loudness_lufs, again.meter) == (take.loudness_lufs, METER)
    workspace.library.forget()
    assert workspace.library.take_by_key(take.key) == again


def test_a_clip_that_an_older_meter_measured_plays_as_loud_as_it_is(
    workspace: Workspace, tmp_path: Path
) -> None:
    media = [MediaFile(files.video(tmp_path / "a.mp4", 2.3, tone_hz=300), "a.mp4")]
    made = new_project(workspace, SMALL, media, None)
    clips = workspace.head(made.project_id).project.clips
    clip = next(iter(clips.values()))
    old = clip.changed(loudness_lufs=-60.0, meter=1)
    with workspace.database.write() as db:
        db.execute("UPDATE clip SET document = ?", (old.model_dump_json(),))
    assert workspace.library.measured({clip.hash: old}) == {clip.hash: clip}


def test_a_project_is_made_of_words_alone_a_shot_for_each_section(workspace: Workspace) -> None:
    script = "# Low tide\n\nThe sea leaves twice a day.\n\nIt comes back.\n\n"
    script += "# The pools\n\nLIMPET: Home is a groove.\n"
    made = new_project(workspace, SMALL, [], Source("s.md", script.encode()))
    project = workspace.head(made.project_id).project
    assert [(shot.name, shot.clip_hash) for shot in project.shots] == [
        ("Low tide", None),
        ("The pools", None),
    ]
    assert len({shot.colour for shot in project.shots}) == 2
    assert [line.first_shot_id for line in project.lines] == ["s1", "s1", "s2"]
    assert [text.text for text in project.scene_texts] == ["Low tide", "The pools"]
    empty = new_project(workspace, SMALL, [], None)
    assert workspace.head(empty.project_id).project.shots == ()


def test_plain_colours_last_as_long_as_their_words_and_no_picture_is_spoken_of(workspace: Workspace) -> None:
    script = "The heron waits at the edge and does not move at all.\n" * 4
    made = new_project(workspace, SMALL, [], Source("s.txt", script.encode()))
    project = workspace.head(made.project_id).project
    assert project.shots[0].length_frames > project.rate.frames_ceil(seconds_to_ticks(8))
    assert made.remarks == ()


def test_what_captions_offer_is_said_and_done_only_when_chosen(workspace: Workspace) -> None:
    text = "\n".join(
        f"{n}\n00:00:0{n},000 --> 00:00:0{n},900\n{words}\n"
        for n, words in enumerate(["MAN: The tide is out.", "[waves]", "♪ Out ♪", "WOMAN: (SIGHS) Again."], 1)
    )
    plain = new_project(workspace, SMALL, [], Source("a.srt", text.encode()))
    project = workspace.head(plain.project_id).project
    assert [role.name for role in project.roles] == ["narrator"]
    assert [caption.text for caption in project.captions][1] == "[waves]"
    assert [line.said for line in project.lines] == [None, "Out", "WOMAN: Again."]
    told = {remark.place: remark.message for remark in plain.remarks}
    assert "man, woman stand before captions" in told["names"]
    assert "in 3 captions brackets and music signs are shown and not said" in told["descriptions"]

    chosen = new_project(workspace, SMALL, [], Source("a.srt", text.encode(), None, "", Choices(True, True)))
    project = workspace.head(chosen.project_id).project
    assert [role.name for role in project.roles] == ["narrator", "man", "woman"]
    assert [caption.text for caption in project.captions] == [
        "The tide is out.", "[waves]", "♪ Out ♪", "(SIGHS) Again.",
    ]  # fmt: skip
    assert [line.said for line in project.lines] == [None] * 4


def test_odd_sizes_are_made_even_and_every_file_that_is_no_use_is_named(
    workspace: Workspace, tmp_path: Path
) -> None:
    still = MediaFile(files.still(tmp_path / "a.png"), "a.png")
    made = new_project(workspace, NewProject("x", 65, 81, FrameRate(numerator=25)), [still], None)
    project = workspace.head(made.project_id).project
    assert (project.width, project.height) == (64, 80)
    assert [remark.message for remark in made.remarks] == [
        "65 × 81 was made 64 × 80: video needs even numbers"
    ]
    bad = [tmp_path / name for name in ("one.mp4", "two.mov")]
    for path in bad:
        path.write_text("no film")
    with pytest.raises(InputError, match=r"one\.mp4: .*; two\.mov: "):
        new_project(workspace, SMALL, [MediaFile(path, path.name) for path in bad], None)
