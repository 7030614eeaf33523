from fractions import Fraction
from pathlib import Path

import numpy as np
import pytest

from fox_cadence.actions.bring_in import MediaFile, NewProject, bring_in_clip, new_project
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import TICKS_PER_SECOND, FrameRate
from fox_cadence.errors import InputError, MediaError
from fox_cadence.media.ingest import read_sound
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.proxies import read_frame, read_header
from tests.media import files


def bring(workspace: Workspace, path: Path) -> Clip:
    return bring_in_clip(workspace, MediaFile(path, path.name))


@pytest.mark.parametrize("rate", [Fraction(24), Fraction(25), Fraction(30000, 1001), Fraction(50)])
def test_a_video_is_known_by_its_content_with_exact_frame_times(
    workspace: Workspace, tmp_path: Path, rate: Fraction
) -> None:
    clip = bring(workspace, files.video(tmp_path / "a.mp4", 1.0, rate))
    assert clip.kind == "video"
    assert (clip.width, clip.height, clip.has_sound) == (160, 120, False)
    header = read_header(workspace.library.clip_file(clip.hash, "proxy.pack"))
    frame = TICKS_PER_SECOND / rate
    if rate <= 30:
        assert header.ticks == tuple(int(n * frame) for n in range(len(header.ticks)))
    assert clip.length_ticks == pytest.approx(round(rate) * frame, abs=2)
    assert header.index_at(header.ticks[3]) == 3
    assert header.index_at(header.ticks[3] - 1) == 2
    assert read_frame(workspace.library.clip_file(clip.hash, "proxy.pack"), header, 2).startswith(b"\xff\xd8")


def test_kinds_are_told_by_content_not_by_name(workspace: Workspace, tmp_path: Path) -> None:
    assert bring(workspace, files.still(tmp_path / "a.png")).kind == "still"
    assert bring(workspace, files.still(tmp_path / "b.jpg")).kind == "still"
    sound = bring(workspace, files.tone(tmp_path / "c.wav"))
    assert (sound.kind, sound.has_sound, sound.length_ticks) == ("sound", True, 3 * TICKS_PER_SECOND)
    webm = bring(workspace, files.video(tmp_path / "d.webm", 1.0, tone_hz=330, codec="libvpx"))
    assert (webm.kind, webm.has_sound) == ("video", True)
    disguised = tmp_path / "e.png"
    disguised.write_bytes((tmp_path / "a.png").read_bytes() + b"")
    assert bring(workspace, disguised).hash == bring(workspace, tmp_path / "a.png").hash


def test_the_same_file_is_read_once(workspace: Workspace, tmp_path: Path) -> None:
    path = files.video(tmp_path / "a.mp4", 0.5)
    first = bring(workspace, path)
    copy = tmp_path / "copy.mp4"
    copy.write_bytes(path.read_bytes())
    assert bring(workspace, copy) == first.changed(name="copy.mp4")
    assert len(list((workspace.folder / "clips").iterdir())) == 1


@pytest.mark.parametrize(("name", "picture", "kind"), [("a.mp3", False, "sound"), ("b.mp4", True, "video")])
def test_a_cover_is_no_picture(
    workspace: Workspace, tmp_path: Path, name: str, picture: bool, kind: str
) -> None:
    """Music with a cover stays music, and a film with a poster shows the film."""
    clip = bring(workspace, files.with_cover(tmp_path / name, 2.0, picture))
    assert (clip.kind, clip.has_sound) == (kind, True)
    assert clip.length_ticks == pytest.approx(2 * TICKS_PER_SECOND, rel=0.05)
    if picture:
        assert (clip.width, clip.height) == (160, 120)
        assert len(read_header(workspace.library.clip_file(clip.hash, "proxy.pack")).ticks) == 60


@pytest.mark.parametrize(("name", "codec"), [("a.mp3", "libmp3lame"), ("a.opus", "libopus")])
def test_sound_alone_begins_where_it_begins(tmp_path: Path, name: str, codec: str) -> None:
    """What an encoder puts before the sound, and a decoder leaves out, is no silence of the sound."""
    click = np.zeros((2, 48_000), np.float32)
    click[:, 24_000:24_040] = 0.9
    sound = read_sound(files.odd_sound(tmp_path / name, click, 48_000, codec))
    assert sound is not None
    assert (len(sound), np.flatnonzero(np.abs(sound[:, 0]) > 0.4)[0]) == (48_000, 24_000)


def test_music_with_a_cover_becomes_the_bed(workspace: Workspace, tmp_path: Path) -> None:
    media = [files.still(tmp_path / "a.png"), files.with_cover(tmp_path / "bed.mp3")]
    wanted = NewProject("x", 64, 64, FrameRate(numerator=25))
    made = new_project(workspace, wanted, [MediaFile(path, path.name) for path in media], None)
    project = workspace.head(made.project_id).project
    assert len(project.shots) == 1
    assert project.clips[project.beds[0].clip_hash].name == "bed.mp3"


HOSTILE = {
    "text.mp4": b"this is no video at all\n" * 20,
    "empty.mp4": b"",
    "list.m3u8": b"#EXTM3U\n#EXT-X-TARGETDURATION:1\n#EXTINF:1,\n/etc/passwd\n#EXT-X-ENDLIST\n",
    "concat.mp4": b"ffconcat version 1.0\nfile /etc/passwd\n",
    "picture.svg": b"<svg xmlns='http://www.w3.org/2000/svg'><image href='file:///etc/passwd'/></svg>",
    "noise.webm": bytes(range(256)) * 40,
}


@pytest.mark.parametrize("name", HOSTILE)
def test_what_is_no_media_is_refused_by_name_and_leaves_nothing_behind(
    workspace: Workspace, tmp_path: Path, name: str
) -> None:
    path = tmp_path / name
    path.write_bytes(HOSTILE[name])
    with pytest.raises(InputError) as refused:
        bring(workspace, path)
    assert str(refused.value).startswith(f"{name}: ")
    assert list((workspace.folder / "clips").iterdir()) == []


def test_a_truncated_video_is_refused_or_taken_as_far_as_it_goes(
    workspace: Workspace, tmp_path: Path
) -> None:
    path = files.video(tmp_path / "a.mp4", 2.0)
    path.write_bytes(path.read_bytes()[: path.stat().st_size // 2])
    with pytest.raises(InputError, match=r"a\.mp4"):
        bring(workspace, path)


def _dies(progress: object) -> None:
    import ctypes

    ctypes.string_at(0)


def test_a_process_that_dies_says_so_and_we_live_on() -> None:
    with pytest.raises(MediaError, match="SIGSEGV"):
        run_isolated(_dies)
