"""The products of a docket, opened again by readers that had no part in making them."""

import csv
import io
import re
from pathlib import Path
from typing import Any

import av
import docx
import mutagen
import numpy as np
import pytest
import webvtt
from lxml import etree
from PIL import Image

from fox_cadence.actions.bring_in import MediaFile, NewProject, new_project
from fox_cadence.actions.docket import docket_of, keep_for_all, kept_docket, rows_named
from fox_cadence.actions.export_jobs import export_rows
from fox_cadence.actions.exporting import Exported, export
from fox_cadence.actions.making_video import screen
from fox_cadence.actions.measuring import measure_video
from fox_cadence.actions.script_import import Source
from fox_cadence.actions.versions import make_version
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import (
    CaptionsRow,
    CuesRow,
    Docket,
    InterchangeRow,
    ScriptRow,
    SoundRow,
    StemsRow,
    Stretch,
    VideoRow,
)
from fox_cadence.core.edits import SetFraming, apply_all
from fox_cadence.core.framing import Framing
from fox_cadence.core.ticks import FrameRate
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.jobs.runner import Unwatched
from fox_cadence.media.isolated import no_progress
from fox_cadence.media.loops import render_loop
from tests.formats.ttml_schema import faults
from tests.media import files

SCRIPT = b"""# Low tide

The sea leaves twice a day.

# The pools

LIMPET: Home is a groove.
"""


@pytest.fixture
def piece(workspace: Workspace) -> str:
    """A small voiced piece of two headings and two voices; its id."""
    wanted = NewProject("Tide", 128, 224, FrameRate(numerator=25))
    made = new_project(workspace, wanted, [], Source("s.md", SCRIPT))
    voice_lines(workspace, made.project_id)
    return made.project_id


def made_of(workspace: Workspace, piece: str, folder: Path, *rows: Any, pattern: str = "{row}") -> Exported:
    docket = Docket(rows=tuple(row.changed(wanted=True) for row in rows), pattern=pattern)
    return export(workspace, piece, folder, docket)


def frames(workspace: Workspace, piece: str) -> int:
    return workspace.timeline(workspace.head(piece).project).total_frames


@pytest.mark.parametrize(
    ("file", "codec", "reads_as", "sound"),
    [
        ("mp4", "h264", "h264", "aac"),
        ("mp4", "h265", "hevc", "aac"),
        ("mp4", "av1", "libdav1d", "aac"),
        ("webm", "vp9", "vp9", "opus"),
        ("webm", "av1", "libdav1d", "opus"),
    ],
)
def test_every_kind_of_video_has_its_frames_sound_chapters_and_captions(
    workspace: Workspace, piece: str, tmp_path: Path, file: Any, codec: Any, reads_as: str, sound: str
) -> None:
    row = VideoRow(name="v", file=file, codec=codec, captions="track", shape="square", poster_frame=3)
    made = made_of(workspace, piece, tmp_path, row)
    assert made.failed == ()
    total = frames(workspace, piece)
    with av.open(str(tmp_path / f"v.{file}")) as opened:
        video = opened.streams.video[0]
        assert video.codec_context.name == reads_as
        assert (video.width, video.height) == (128, 128)
        assert opened.streams.audio[0].codec_context.name == sound
        assert [each["metadata"]["title"] for each in opened.chapters()] == ["Low tide", "The pools"]
        assert opened.metadata["title"] == "Tide"
        words = [bytes(packet) for packet in opened.demux(opened.streams.subtitles[0]) if packet.size > 2]
        assert any(b"sea leaves" in each.replace(b"\n", b" ") for each in words) == bool(
            workspace.head(piece).project.captions
        )
        opened.seek(0)
        assert sum(1 for _ in opened.decode(video=0)) == total
        posters = [each for each in opened.streams.video if int(each.disposition) & 0x0400]
        assert len(posters) == (1 if file == "mp4" else 0)
    seconds = made.files[0].seconds
    assert seconds == pytest.approx(total / 25, abs=0.03)


def test_a_part_is_as_the_whole_has_it_there(workspace: Workspace, tmp_path: Path) -> None:
    clips = [MediaFile(files.video(tmp_path / f"{n}.mp4", 2.0, seed=n), f"{n}.mp4") for n in (1, 2, 3)]
    wanted = NewProject("Tide", 64, 112, FrameRate(numerator=25))
    made = new_project(workspace, wanted, clips, Source("w.txt", b"The foam comes in.\nAnd out again.\n"))
    voice_lines(workspace, made.project_id)
    whole, part = VideoRow(name="whole"), VideoRow(name="part", part=Stretch(from_frame=60, to_frame=110))
    exported = made_of(workspace, made.project_id, tmp_path / "out", whole, part)
    assert exported.failed == ()
    pictures = {}
    for name in ("whole", "part"):
        with av.open(str(tmp_path / "out" / f"{name}.mp4")) as opened:
            pictures[name] = [frame.to_ndarray(format="gray") for frame in opened.decode(video=0)]
    assert len(pictures["part"]) == 50
    for number, picture in enumerate(pictures["part"]):
        same = pictures["whole"][60 + number].astype(int)
        assert np.abs(picture - same).mean() < 3
    report = measure_video(workspace, tmp_path / "out" / "part.mp4", made.project_id, row=part)
    assert report.planned_frames == report.frames == 50
    assert all(item.off == 0 for item in report.cuts)
    with pytest.raises(InputError, match="64 × 112"):
        measure_video(
            workspace, tmp_path / "out" / "part.mp4", made.project_id, row=part.changed(shape="square")
        )


def test_a_video_stays_under_a_size_and_an_impossible_one_is_said(
    workspace: Workspace, piece: str, tmp_path: Path
) -> None:
    most = 0.3
    fits = VideoRow(name="fits", most_mb=most)
    made = made_of(workspace, piece, tmp_path, fits, VideoRow(name="never", most_mb=0.01))
    assert (tmp_path / "fits.mp4").stat().st_size <= most * 1_000_000
    assert [each.product for each in made.failed] == ["never"]
    assert re.search(r"0.01 MB are too few for .* it takes 0\.\d MB at least", made.failed[0].reason)


def test_loops_have_their_pictures_and_last_as_long(workspace: Workspace, piece: str, tmp_path: Path) -> None:
    part = Stretch(from_frame=0, to_frame=25)
    rows = [VideoRow(name=kind, file=kind, part=part) for kind in ("gif", "webp")]
    made = made_of(workspace, piece, tmp_path, *rows)
    assert made.failed == ()
    for kind in ("gif", "webp"):
        with Image.open(tmp_path / f"{kind}.{kind}") as opened:
            count = getattr(opened, "n_frames", 1)
            assert opened.size == (128, 224)
            assert opened.info["loop"] == 0
            length = 0
            for number in range(count):
                opened.seek(number)
                opened.load()
                length += opened.info["duration"]
            assert length == pytest.approx(1000, abs=90)


def test_a_loop_that_is_too_long_says_so_before_it_is_made(
    workspace: Workspace, piece: str, tmp_path: Path
) -> None:
    shown = screen(workspace, workspace.timeline(workspace.head(piece).project))
    with pytest.raises(InputError, match=r"a loop may last 60 s, and this is 61\.0 s"):
        render_loop(shown, {}, tmp_path / "x.gif", "gif", (0, 61 * 25), "good", no_progress)
    assert not (tmp_path / "x.gif").exists()


def test_stems_sum_to_the_mix_sample_for_sample(workspace: Workspace, piece: str, tmp_path: Path) -> None:
    for bits in (16, 24):
        made_of(workspace, piece, tmp_path, StemsRow(name=f"s{bits}", bits=bits))
        found = {path.stem: samples(path) for path in tmp_path.glob(f"s{bits}-*.wav")}
        mix = found.pop(f"s{bits}-mix")
        assert sorted(found) == [f"s{bits}-speech-limpet", f"s{bits}-speech-narrator"]
        assert np.array_equal(sum(found.values()), mix)
        assert all(np.any(each) for each in found.values())


def samples(path: Path) -> np.ndarray:
    """Whole numbers, of 24 bits in the upper part of 32."""
    with av.open(str(path)) as opened:
        blocks = [frame.to_ndarray() for frame in opened.decode(audio=0)]
    return np.concatenate(blocks, axis=1).astype(np.int64)


def test_sound_files_hold_what_was_asked_for(workspace: Workspace, piece: str, tmp_path: Path) -> None:
    limpet = next(r.id for r in workspace.head(piece).project.roles if r.name == "limpet")
    rows = [
        SoundRow(name="deep", bits=32),
        SoundRow(name="one", file="flac", bits=24, channels=1, of=(f"role:{limpet}",)),
        SoundRow(name="mp3", file="mp3", chapters=True),
        SoundRow(name="m4a", file="m4a", chapters=True),
        SoundRow(name="opus", file="opus", kbps=64),
        SoundRow(name="gone", of=("line:nobody",)),
        SoundRow(name="none", of=("bed",)),
    ]
    made = made_of(workspace, piece, tmp_path, *rows)
    assert {each.product: each.reason for each in made.failed} == {
        "gone": "line:nobody: there is no such role or line any more",
        "none": "beds: nothing of it is heard in the piece",
    }
    seconds = frames(workspace, piece) / 25
    with av.open(str(tmp_path / "deep-mix.wav")) as opened:
        assert opened.streams.audio[0].codec_context.name == "pcm_f32le"
    flac = mutagen.File(tmp_path / "one-limpet.flac")
    assert (flac.info.bits_per_sample, flac.info.channels) == (24, 1)
    for name in ("mp3.mp3", "m4a.m4a", "opus.opus"):
        opened = mutagen.File(tmp_path / name)
        assert opened.info.length == pytest.approx(seconds, abs=0.06), name
    for each in made.files:
        assert each.seconds == pytest.approx(seconds, abs=0.001), each.path.name
    tags = mutagen.File(tmp_path / "mp3.mp3").tags
    assert [str(tag.sub_frames["TIT2"]) for tag in tags.getall("CHAP")] == ["Low tide", "The pools"]
    assert str(tags["TIT2"]) == "Tide"
    assert [each.title for each in mutagen.File(tmp_path / "m4a.m4a").chapters] == ["Low tide", "The pools"]


def test_words_are_read_again_as_they_were_written(workspace: Workspace, tmp_path: Path) -> None:
    srt = b"1\n00:00:00,000 --> 00:00:02,000\nThe tide goes & comes.\n\n"
    srt += b"2\n00:00:02,400 --> 00:00:04,000\nTwice.\n"
    still = MediaFile(files.still(tmp_path / "a.png"), "a.png")
    wanted = NewProject("Tide", 128, 224, FrameRate(numerator=25))
    piece = new_project(workspace, wanted, [still], Source("w.srt", srt)).project_id
    spanish = b"1\n00:00:00,000 --> 00:00:02,000\nLa marea.\n\n2\n00:00:02,400 --> 00:00:04,000\nDos veces.\n"
    make_version(workspace, piece, "es", ("w.srt", spanish))
    rows = [
        CaptionsRow(name="captions", files=("srt", "vtt", "ttml", "txt"), versions=True),
        CuesRow(name="cues"),
        ScriptRow(name="script"),
    ]
    made = made_of(workspace, piece, tmp_path / "out", *rows, pattern="{piece}-{row}")
    assert made.failed == ()
    out = tmp_path / "out"
    for name, first in (("tide", "The tide goes & comes."), ("tide-es", "La marea.")):
        for read in (webvtt.from_srt(str(out / f"{name}.srt")), webvtt.read(str(out / f"{name}.vtt"))):
            assert " ".join(read[0].text.replace("&amp;", "&").split()) == first
            assert read[1].start == "00:00:02.400"
        assert faults((out / f"{name}.ttml").read_bytes()) == []
        root = etree.parse(out / f"{name}.ttml").getroot()
        space = {"t": "http://www.w3.org/ns/ttml"}
        cues = root.findall(".//t:p", space)
        assert " ".join("".join(part + " " for part in cues[0].itertext()).split()) == first
        assert [cue.get("begin") for cue in cues] == ["00:00:00.000", "00:00:02.400"]
        assert (out / f"{name}.txt").read_text().splitlines()[0] == first
    assert root.get("{http://www.w3.org/XML/1998/namespace}lang") == "es"
    table = list(csv.DictReader(io.StringIO((out / "tide-cues.csv").read_text("utf-8-sig"))))
    assert [row["text"] for row in table if row["kind"] == "caption"] == [
        "The tide goes & comes.",
        "Twice.",
    ]
    assert {row["voiced"] for row in table if row["kind"] == "line"} == {"no"}
    paragraphs = [each.text for each in docx.Document(str(out / "tide-script.docx")).paragraphs]
    assert paragraphs == ["The tide goes & comes.", "Twice."]


def test_rows_are_asked_for_by_name_and_dockets_kept_without_parts(workspace: Workspace, piece: str) -> None:
    docket = docket_of(workspace, piece)
    assert [row.name for row in rows_named(docket, ["gif", "stems"]).chosen] == ["gif", "stems"]
    with pytest.raises(InputError, match="there is no product film"):
        rows_named(docket, ["film"])
    lean = Docket(rows=(SoundRow(name="mine", of=("role:r1",), part=Stretch(from_frame=3)),))
    keep_for_all(workspace, "  Radio  ", lean)
    kept = kept_docket(workspace, "radio")
    assert kept.rows[0] == SoundRow(name="mine")
    assert [row.name for row in rows_named(kept, ["gif"]).chosen] == ["gif"]
    with pytest.raises(NotFoundError):
        kept_docket(workspace, "nothing")


def test_names_that_are_taken_or_cannot_be_made(workspace: Workspace, piece: str, tmp_path: Path) -> None:
    rows = (CuesRow(name="one", wanted=True), CuesRow(name="two", wanted=True))
    made = export(workspace, piece, tmp_path, Docket(rows=rows, pattern="{piece}"))
    assert sorted(path.name for path in made.paths) == ["tide-2.csv", "tide.csv"]
    with pytest.raises(InputError, match="nothing that can stand in a name"):
        export(workspace, piece, tmp_path, Docket(rows=rows, pattern="{piece}{colour}"))
    (tmp_path / "folder.csv").mkdir()
    taken = Docket(rows=(CuesRow(name="folder", wanted=True),), pattern="{row}")
    with pytest.raises(InputError, match="Choose another folder"):
        export(workspace, piece, tmp_path, taken)
    assert (tmp_path / "folder.csv").is_dir()


def test_what_a_timeline_cannot_carry_is_noted(workspace: Workspace, tmp_path: Path) -> None:
    clip = MediaFile(files.video(tmp_path / "a.mp4", 2.0), "a.mp4")
    wanted = NewProject("Tide", 128, 224, FrameRate(numerator=25))
    piece = new_project(workspace, wanted, [clip], Source("w.txt", b"The foam comes in.\n")).project_id
    head = workspace.head(piece)
    framed, label = apply_all(head.project, [SetFraming(shot_id="s1", framing=Framing(zoom=2))])
    workspace.projects.commit(piece, head.revision, framed, label)
    made = made_of(workspace, piece, tmp_path / "out", InterchangeRow(name="interchange"))
    assert any(note.startswith("not in the timeline: OTIO: how shots are framed") for note in made.notes)
    assert "how shots are framed" in (tmp_path / "out" / "tide-notes.txt").read_text()


def test_an_export_that_an_earlier_version_left_going_goes_on(workspace: Workspace, piece: str) -> None:
    asked = {"video": False, "sound": False, "captions": True, "look": False, "prove": False}
    made = export_rows(workspace, piece, asked, Unwatched())
    assert [file["name"] for file in made["files"]] == ["tide.srt", "tide.vtt"]
