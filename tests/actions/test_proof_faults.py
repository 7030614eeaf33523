"""The proof finds what is wrong in a file: faults are put into one on purpose."""

import json
from collections.abc import Callable
from dataclasses import replace
from pathlib import Path
from typing import Literal

import numpy as np
import pytest

from fox_cadence.actions.bring_in import MediaFile, NewProject, new_project
from fox_cadence.actions.export_jobs import export_folder, export_rows
from fox_cadence.actions.exporting import export
from fox_cadence.actions.making_video import screen
from fox_cadence.actions.measuring import Report, measure_video
from fox_cadence.actions.measuring_rows import measure_captions, measure_sound, measure_stems
from fox_cadence.actions.mixing import mix
from fox_cadence.actions.script_import import Source
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import CaptionsRow, Docket, SoundRow, StemsRow, Stretch, VideoRow
from fox_cadence.core.screen import Screen
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Unwatched
from fox_cadence.media.audio import wav_bytes
from fox_cadence.media.isolated import no_progress
from fox_cadence.media.loops import render_loop
from fox_cadence.media.render import render
from fox_cadence.media.video_forms import VideoForm
from tests.media import files

Seen = Callable[[Screen], Screen]


@pytest.fixture
def piece(workspace: Workspace, tmp_path: Path) -> str:
    media = [
        MediaFile(files.video(tmp_path / f"{n}.mp4", 3.0, size=(128, 160), seed=n), f"{n}.mp4")
        for n in range(3)
    ]
    wanted = NewProject("Foam", 128, 160, FrameRate(numerator=25))
    words = Source("w.txt", b"The foam comes in.\nThe foam goes out again.\nStone.\n")
    made = new_project(workspace, wanted, media, words)
    voice_lines(workspace, made.project_id)
    return made.project_id


def proven(
    workspace: Workspace, piece: str, folder: Path, seen: Seen = lambda shown: shown, late_s: float = 0.0
) -> Report:
    """The report of a video made of what a screen was turned into, its sound so much later."""
    timeline = workspace.timeline(workspace.head(piece).project)
    mixed = mix(workspace, timeline)
    sound = mixed.read(0, mixed.total_samples)
    late = round(late_s * 48_000)
    wav, video = folder / "mix.wav", folder / "foam.mp4"
    wav.write_bytes(wav_bytes(np.pad(sound, ((late, 0), (0, 0)))[: len(sound)]))
    clips = {each: workspace.library.original(each) for each in clip_hashes(timeline)}
    render(seen(screen(workspace, timeline)), clips, wav, video, VideoForm(), no_progress)
    return measure_video(workspace, video, piece)


def second_shot_late(frames: int) -> Seen:
    def late(shown: Screen) -> Screen:
        first, second, third = shown.shots
        return replace(
            shown,
            shots=(
                replace(first, end_frame=first.end_frame + frames),
                replace(second, start_frame=second.start_frame + frames),
                third,
            ),
        )

    return late


def clip_hashes(timeline: Timeline) -> list[str]:
    return [span.shot.clip_hash for span in timeline.shots if span.shot.clip_hash]


def test_what_is_as_it_was_planned_is_in_sync(workspace: Workspace, piece: str, tmp_path: Path) -> None:
    report = proven(workspace, piece, tmp_path)
    assert report.in_sync, report.as_text()


def test_a_cut_two_frames_late_is_found(workspace: Workspace, piece: str, tmp_path: Path) -> None:
    report = proven(workspace, piece, tmp_path, second_shot_late(2))
    assert not report.in_sync
    assert [item.off for item in report.cuts] == [2, 0]


def test_sound_40_ms_late_is_found(workspace: Workspace, piece: str, tmp_path: Path) -> None:
    report = proven(workspace, piece, tmp_path, late_s=0.04)
    assert not report.in_sync
    begins = [item.off for item in report.speech if item.what.endswith("begins")]
    assert len(begins) == 3
    assert all(off == pytest.approx(40, abs=2) for off in begins)


def test_a_caption_that_is_missing_is_found(workspace: Workspace, piece: str, tmp_path: Path) -> None:
    def without(shown: Screen) -> Screen:
        return replace(shown, captions=shown.captions[1:])

    report = proven(workspace, piece, tmp_path, without)
    assert not report.in_sync
    assert [item.found is None for item in report.captions[:2]] == [True, True]
    assert all(item.off is not None and abs(item.off) <= 1 for item in report.captions[2:])


def test_sound_files_and_captions_are_looked_into_too(
    workspace: Workspace, piece: str, tmp_path: Path
) -> None:
    rows = (
        SoundRow(name="sound", file="mp3", wanted=True),
        CaptionsRow(name="captions", files=("srt", "ttml"), wanted=True),
    )
    export(workspace, piece, tmp_path / "out", Docket(rows=rows, pattern="{row}"))
    sound = tmp_path / "out" / "sound.mp3"
    revision = workspace.head(piece).revision
    report = measure_sound(workspace, sound, piece, revision, rows[0], "mix")
    assert report.in_sync, report.as_text()
    assert len(report.speech) == 6
    with pytest.raises(InputError, match="nothing is said in it"):
        measure_sound(workspace, sound, piece, revision, rows[0], "bed")
    for kind, point in (("srt", ","), ("ttml", ".")):
        captions = tmp_path / "out" / f"captions.{kind}"
        report = measure_captions(workspace, captions, piece, revision)
        assert report.in_sync, report.as_text()
        assert len(report.captions) == 6
        text = captions.read_text()
        late = text.replace(f"00:00:00{point}000", f"00:00:00{point}080")
        captions.write_text(late.replace("Stone.", "Stones."))
        report = measure_captions(workspace, captions, piece, revision)
        assert not report.in_sync
        assert [item.off for item in report.captions] == [2, 0, 0, 0, None, None, None]
        assert report.captions[-1].what == "no caption of the piece: Stones."


def test_stems_are_summed_against_their_mix(workspace: Workspace, piece: str, tmp_path: Path) -> None:
    row = StemsRow(name="stems", wanted=True)
    made = export(workspace, piece, tmp_path / "out", Docket(rows=(row,), pattern="{row}"))
    mixed, *stems = (each.path for each in made.files)
    assert len(stems) >= 1
    revision = workspace.head(piece).revision
    report = measure_stems(workspace, mixed, stems, piece, revision, row)
    assert report.in_sync, report.as_text()
    assert len(report.speech) == 6
    data = bytearray(stems[0].read_bytes())
    data[-3] ^= 1  # the least bit of the last sample of one channel
    stems[0].write_bytes(data)
    report = measure_stems(workspace, mixed, stems, piece, revision, row)
    assert not report.in_sync
    assert "+1.0 samples" in report.as_text()
    stems[0].write_bytes(data[: -6 * 480])
    assert not measure_stems(workspace, mixed, stems, piece, revision, row).in_sync
    stems[0].unlink()
    with pytest.raises(InputError, match="can't be summed"):
        measure_stems(workspace, mixed, stems, piece, revision, row)


def test_stems_without_speech_are_summed_all_the_same(workspace: Workspace, tmp_path: Path) -> None:
    wanted = NewProject("Swell", 128, 160, FrameRate(numerator=25))
    media = [MediaFile(files.video(tmp_path / "a.mp4", 3.0, size=(128, 160)), "a.mp4")]
    media.append(MediaFile(files.tone(tmp_path / "bed.wav"), "bed.wav"))
    project_id = new_project(workspace, wanted, media, None).project_id
    row = StemsRow(name="stems", wanted=True, bits=16)
    export_rows(
        workspace, project_id, {"docket": Docket(rows=(row,)).model_dump(), "prove": True}, Unwatched()
    )
    proof = workspace.results.docket(project_id, "proofs")["stems"]
    assert proof["in_sync"]
    assert (proof["speech"], [each["found"] for each in proof["sums"]]) == ([], [0])


@pytest.mark.parametrize("kind", ["gif", "webp"])
def test_a_loop_is_read_again_and_what_is_wrong_in_it_is_found(
    workspace: Workspace, piece: str, tmp_path: Path, kind: Literal["gif", "webp"]
) -> None:
    row = VideoRow(name="loop", file=kind, part=Stretch(from_frame=9))

    def report(seen: Seen = lambda shown: shown, frames: int = 0) -> Report:
        timeline = workspace.timeline(workspace.head(piece).project)
        clips = {each: workspace.library.original(each) for each in clip_hashes(timeline)}
        last = frames or timeline.total_frames
        loop, shown = tmp_path / f"loop.{kind}", seen(screen(workspace, timeline))
        render_loop(shown, clips, loop, kind, (9, last), "good", no_progress)
        return measure_video(workspace, loop, piece, row=row)

    right = report()
    assert right.in_sync, right.as_text()
    assert (len(right.cuts), len(right.captions), right.speech) == (2, 6, ())
    late = report(second_shot_late(4))
    assert [item.off for item in late.cuts][1] == 0
    assert late.cuts[0].off == 4
    assert not late.in_sync
    assert not report(frames=60).in_sync
    missing = report(lambda shown: replace(shown, captions=shown.captions[1:]))
    assert [item.found is None for item in missing.captions[:2]] == [True, True]
    (tmp_path / f"loop.{kind}").write_bytes(b"GIF89a, and then nothing")
    with pytest.raises(InputError, match="no loop that can be read"):
        measure_video(workspace, tmp_path / f"loop.{kind}", piece, row=row)


def test_a_quick_look_and_a_loop_are_proven_when_that_is_asked_for(workspace: Workspace, piece: str) -> None:
    rows = (VideoRow(name="look", look=True, wanted=True), VideoRow(name="gif", file="gif", wanted=True))
    export_rows(workspace, piece, {"docket": Docket(rows=rows).model_dump(), "prove": True}, Unwatched())
    proofs = workspace.results.docket(piece, "proofs")
    assert {name: proof["in_sync"] for name, proof in proofs.items()} == {"look": True, "gif": True}
    assert len(proofs["look"]["speech"]) == 6


def test_every_proof_has_reports_of_its_own(workspace: Workspace, piece: str) -> None:
    """A loop and captions have the name of the piece, and so would what is found in them."""
    rows = (VideoRow(name="gif", file="gif", wanted=True), CaptionsRow(name="captions", wanted=True))
    export_rows(workspace, piece, {"docket": Docket(rows=rows).model_dump(), "prove": True}, Unwatched())
    proofs = workspace.results.docket(piece, "proofs")
    folder = export_folder(workspace, piece)
    names = {name: proof["reports"] for name, proof in proofs.items()}
    assert {name: len(each) for name, each in names.items()} == {"gif": 2, "captions": 4}
    made = [file["name"] for file in workspace.results.docket(piece, "export")["files"]]
    data = [folder / each for all_of_row in names.values() for each in all_of_row[1::2]]
    assert sorted(json.loads(each.read_text())["name"] for each in data) == sorted(made)
    assert f"<h1>{proofs['gif']['name']}</h1>" in (folder / names["gif"][0]).read_text()
    again = Docket(rows=rows[1:]).model_dump()
    export_rows(workspace, piece, {"docket": again, "prove": False}, Unwatched())
    assert not any((folder / each).exists() for each in names["captions"])  # made again, and not proven
    assert all((folder / each).is_file() for each in names["gif"])
