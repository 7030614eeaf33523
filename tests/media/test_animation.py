"""Moving pictures in files of stills come in as videos that last as long as they say."""

from pathlib import Path

import av
import pytest
from PIL import Image

from fox_cadence.actions.bring_in import MediaFile, bring_in_clip
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.errors import InputError
from fox_cadence.media.animation import is_moving_still
from fox_cadence.media.picture import open_media, timed_frames

TEN = [Image.new("RGBA", (41, 61), (n * 20, 60, 30, 255)) for n in range(10)]


def red_of(frame: av.VideoFrame) -> int:
    """Of the middle, by the frame's own matrix."""
    shown = frame.reformat(format="rgb24", src_colorspace="ITU709" if frame.format.name != "bgra" else None)
    return int(shown.to_ndarray()[30, 20, 0])


def moving(path: Path) -> Path:
    TEN[0].save(path, save_all=True, append_images=TEN[1:], duration=100)
    return path


@pytest.mark.parametrize("name", ["a.webp", "a.png", "a.gif"])
def test_it_moves_as_long_and_as_often_as_it_says(workspace: Workspace, tmp_path: Path, name: str) -> None:
    clip = bring_in_clip(workspace, MediaFile(moving(tmp_path / name), name))
    assert (clip.kind, clip.name, clip.width, clip.height) == ("video", name, 41, 61)
    assert ticks_to_seconds(clip.length_ticks) == pytest.approx(1.0, abs=0.03)
    with open_media(workspace.library.original(clip.hash)) as container:
        shades = [round(red_of(timed.frame) / 20) for timed in timed_frames(container)]
    assert sorted(set(shades)) == list(range(10))
    assert is_moving_still(tmp_path / name) == (name != "a.gif")  # which is read as it is


@pytest.mark.parametrize("name", ["a.webp", "a.png"])
def test_each_picture_stands_as_long_as_it_says(workspace: Workspace, tmp_path: Path, name: str) -> None:
    TEN[1].save(tmp_path / name, save_all=True, append_images=[TEN[5], TEN[9]], duration=[200, 500, 300])
    clip = bring_in_clip(workspace, MediaFile(tmp_path / name, name))
    with open_media(workspace.library.original(clip.hash)) as container:
        begins = [round(ticks_to_seconds(timed.ticks), 2) for timed in timed_frames(container)]
    assert begins == [0, 0.2, 0.7, 0.98]  # and once more, as the last one is left


@pytest.mark.parametrize(
    ("name", "size"), [("one.gif", (40, 60)), ("still.webp", (40, 60)), ("dot.png", (1, 1))]
)
def test_a_single_picture_is_a_still(
    workspace: Workspace, tmp_path: Path, name: str, size: tuple[int, int]
) -> None:
    path = tmp_path / name
    Image.new("RGB", size, (200, 30, 30)).save(path)
    clip = bring_in_clip(workspace, MediaFile(path, name))
    assert (clip.kind, clip.width, clip.height, clip.remarks) == ("still", *size, ())


def test_a_moving_picture_that_breaks_off_is_refused_with_its_name(
    workspace: Workspace, tmp_path: Path
) -> None:
    whole = moving(tmp_path / "a.webp").read_bytes()
    (tmp_path / "cut.webp").write_bytes(whole[:60])
    with pytest.raises(InputError, match=r"cut\.webp"):
        bring_in_clip(workspace, MediaFile(tmp_path / "cut.webp", "cut.webp"))
    (tmp_path / "photo.heic").write_bytes(b"\0\0\0\x24ftypheic" + bytes(2000))
    with pytest.raises(InputError, match=r"photo\.heic: this is not"):
        bring_in_clip(workspace, MediaFile(tmp_path / "photo.heic", "photo.heic"))
