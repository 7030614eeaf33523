"""Media as it is found: every kind that can't be used is refused in words, every odd one is taken and said
so."""

import socket
import struct
import zlib
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from fox_cadence.actions.bring_in import MediaFile, NewProject, bring_in_clip, new_project
from fox_cadence.actions.exporting import export
from fox_cadence.actions.making_video import screen
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket.shipped import usual
from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import TICKS_PER_SECOND, FrameRate
from fox_cadence.errors import CancelledError, InputError, MediaError
from fox_cadence.media.confinement import landlock_version
from fox_cadence.media.hdr import PQ, WHITE_NITS, nits_to_pq, to_709
from fox_cadence.media.ingest import PROXY, read_sound
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.proxies import read_frame, read_header
from tests.media import files

Make = Callable[[Path], object]


def frames(
    path: Path, times: list[int], size: tuple[int, int] = (64, 48), codec: str = "libx264",
    pix_fmt: str = "yuv420p",
    transfer: int = 1, luma: int = 100,
) -> Path:  # fmt: skip
    """A video of plain frames at these milliseconds."""
    with av.open(str(path), "w") as output:
        stream = output.add_stream(codec, rate=30)
        stream.width, stream.height, stream.pix_fmt = *size, pix_fmt
        stream.time_base = stream.codec_context.time_base = Fraction(1, 1000)
        context = stream.codec_context
        if transfer != 1:
            context.color_primaries, context.color_trc, context.colorspace, context.color_range = (
                9,
                transfer,
                9,
                1,
            )
        for number, time in enumerate(times):
            frame = av.VideoFrame(*size, pix_fmt)
            for place, plane in enumerate(frame.planes):
                deep = "10" in pix_fmt
                value = (luma + number) if place == 0 else (512 if deep else 128)
                kind = np.uint16 if deep else np.uint8
                plane.update(np.full(plane.buffer_size // kind().itemsize, value, kind).tobytes())
            frame.pts, frame.time_base = time, Fraction(1, 1000)
            output.mux(stream.encode(frame))
        output.mux(stream.encode(None))
    return path


def sound_only(path: Path) -> None:
    with av.open(str(path), "w") as output:
        stream = output.add_stream("aac", rate=48000)
        frame = av.AudioFrame.from_ndarray(np.full((1, 48000), 0.1, np.float32), format="fltp", layout="mono")
        frame.sample_rate = 48000
        output.mux(stream.encode(frame))
        output.mux(stream.encode(None))


def png(path: Path, width: int, height: int, rows: bytes = b"") -> None:
    """A PNG that says it is so large, with whatever stands in for its rows."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    data = zlib.compress(rows or b"\0" * 1000)
    path.write_bytes(b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", data) + chunk(b"IEND", b""))


def cut_short(path: Path) -> None:
    files.video(path, 1.0)
    path.write_bytes(path.read_bytes()[:-400])


REFUSED: dict[str, tuple[str, Make, str]] = {
    "empty": ("a.mp4", lambda path: path.write_bytes(b""), "the file is empty"),
    "text": (
        "a.mp4",
        lambda path: path.write_bytes(b"once upon a tide\n" * 50),
        "not a video, still or sound",
    ),
    "its index is cut off": ("a.mp4", cut_short, "not a video, still or sound"),
    "a still that unpacks to 10 GB": (
        "a.png",
        lambda path: png(path, 60_000, 60_000),
        "too large to be read",
    ),
    "a still without its rows": ("a.png", lambda path: png(path, 300, 300), "no picture that could be read"),
    "a still of one line": (
        "a.jpg",
        lambda path: path.write_bytes(b"\xff\xd8\xff\xe0"),
        r"picture|can be read",
    ),
    "four hours": ("a.mp4", lambda path: frames(path, [0, 4 * 3_600_000]), "240 minutes; a clip may last 30"),
}


@pytest.mark.parametrize("case", REFUSED)
def test_what_can_not_be_used_is_refused_with_its_name_and_a_cure(
    workspace: Workspace, tmp_path: Path, case: str
) -> None:
    name, make, said = REFUSED[case]
    path = tmp_path / name
    make(path)
    with pytest.raises(InputError, match=said) as refused:
        bring_in_clip(workspace, MediaFile(path, name))
    assert str(refused.value).startswith(f"{name}: ")
    assert list((workspace.folder / "clips").iterdir()) == []


def brought(workspace: Workspace, path: Path) -> Clip:
    return bring_in_clip(workspace, MediaFile(path, path.name))


def pixel(workspace: Workspace, clip: Clip, x: float, y: float) -> np.ndarray:
    """The colour of the first small frame at a place from 0 to 1."""
    pack = workspace.library.clip_file(clip.hash, PROXY)
    jpeg = read_frame(pack, read_header(pack), 0)
    decoder = av.CodecContext.create("mjpeg", "r")
    picture = decoder.decode(av.Packet(jpeg))[0].to_ndarray(format="rgb24")
    return np.asarray(picture[int(y * (picture.shape[0] - 1)), int(x * (picture.shape[1] - 1))], int)


def test_each_frame_of_a_varying_rate_keeps_its_own_time(workspace: Workspace, tmp_path: Path) -> None:
    times = [0, 33, 67, 167, 400, 433, 1000, 1033]
    clip = brought(workspace, frames(tmp_path / "a.mkv", times))
    header = read_header(workspace.library.clip_file(clip.hash, PROXY))
    assert [round(ticks / TICKS_PER_SECOND * 1000) for ticks in header.ticks] == times
    assert any("frame rate varies (2 to 30" in remark for remark in clip.remarks)
    steady = brought(workspace, frames(tmp_path / "b.mkv", [round(n * 1000 / 30) for n in range(20)]))
    assert steady.remarks == ()


@pytest.mark.parametrize(
    ("size", "pix_fmt"), [((63, 47), "yuv444p"), ((64, 48), "yuv422p10le"), ((2, 400), "yuv420p")]
)
def test_odd_sizes_and_ten_bits_come_in_and_go_out(
    workspace: Workspace, tmp_path: Path, size: tuple[int, int], pix_fmt: str
) -> None:
    path = frames(
        tmp_path / "a.mkv", [0, 40, 80], size, pix_fmt=pix_fmt, luma=400 if "10" in pix_fmt else 100
    )
    clip = brought(workspace, path)
    assert (clip.width, clip.height) == size
    made = new_project(
        workspace, NewProject("x", 64, 64, FrameRate(numerator=25)), [MediaFile(path, "a.mkv")], None
    )
    timeline = workspace.timeline(workspace.head(made.project_id).project)

    files_made = export(
        workspace, made.project_id, tmp_path / "out", usual(sound=False, captions=False)
    ).paths
    with av.open(str(files_made[0])) as opened:
        assert (
            sum(1 for _ in opened.decode(video=0))
            == timeline.total_frames
            == screen(workspace, timeline).total_frames
        )


def test_high_dynamic_range_is_brought_to_ours_and_said(workspace: Workspace, tmp_path: Path) -> None:
    for nits in (20.0, 100.0, WHITE_NITS):
        code = float(nits_to_pq(np.array(nits)))
        clip = brought(
            workspace,
            frames(
                tmp_path / f"{nits}.mkv", [0, 40], (64, 64), pix_fmt="yuv420p10le", transfer=PQ,
                luma=round(64 + 876 * code),
            ),
        )  # fmt: skip
        wanted = float(to_709(np.full(3, code), PQ)[0]) * 255
        assert pixel(workspace, clip, 0.5, 0.5) == pytest.approx([wanted] * 3, abs=5)
        assert clip.remarks == ("its high dynamic range (PQ) was brought to BT.709",)


def test_the_roll_off_keeps_the_dark_and_ends_at_white() -> None:
    nits = np.array([0.5, 5, 40, WHITE_NITS, 600, 1000])
    shown = to_709(np.repeat(nits_to_pq(nits)[:, np.newaxis], 3, 1), PQ)[:, 0]
    plain = np.minimum(nits / WHITE_NITS, 1) ** (1 / 2.4)
    assert shown[:3] == pytest.approx(plain[:3], rel=0.01)
    assert np.all(np.diff(shown) > 0)
    assert shown[-1] == pytest.approx(1, abs=0.001)


def rotated(path: Path) -> None:
    """An upright matrix in the track header becomes a quarter turn (ISO 14496-12, 8.3.2)."""
    files.video(path, 0.4, size=(160, 120))
    data = path.read_bytes()
    upright = struct.pack(">9i", 1 << 16, 0, 0, 0, 1 << 16, 0, 0, 0, 1 << 30)
    quarter = struct.pack(">9i", 0, 1 << 16, 0, -(1 << 16), 0, 0, 0, 0, 1 << 30)
    at = data.index(upright, data.index(b"tkhd"))
    path.write_bytes(data[:at] + quarter + data[at + 36 :])


def test_rotation_in_the_file_is_followed(workspace: Workspace, tmp_path: Path) -> None:
    path = tmp_path / "a.mp4"
    rotated(path)
    clip = brought(workspace, path)
    assert (clip.width, clip.height) == (120, 160)


def exif_turned(path: Path) -> None:
    """A JPEG, left half light, whose EXIF says: turn it a quarter to the right (orientation 6)."""
    made = files.still(path.with_name("plain.jpg"), size=(120, 80), colour=(250, 250, 250)).read_bytes()
    tiff = b"MM\0\x2a\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0\x06\0\0\0\0\0\0"
    exif = b"Exif\0\0" + tiff
    path.write_bytes(made[:2] + b"\xff\xe1" + struct.pack(">H", len(exif) + 2) + exif + made[2:])


def test_a_photograph_is_shown_the_way_it_was_held(workspace: Workspace, tmp_path: Path) -> None:
    path = tmp_path / "a.jpg"
    exif_turned(path)
    clip = brought(workspace, path)
    assert (clip.kind, clip.width, clip.height) == ("still", 80, 120)


@pytest.mark.parametrize(
    ("name", "codec", "pix_fmt", "kind"),
    [
        ("a.webp", "libwebp", "yuv420p", "still"),
        ("a.gif", "gif", "rgb8", "video"),
        ("a.png", "png", "rgb24", "still"),
    ],
)
def test_pictures_of_the_web(
    workspace: Workspace, tmp_path: Path, name: str, codec: str, pix_fmt: str, kind: str
) -> None:
    path = tmp_path / name
    with av.open(str(path), "w") as output:
        stream = output.add_stream(codec, rate=10)
        stream.width, stream.height, stream.pix_fmt = 64, 48, pix_fmt
        for number in range(4 if kind == "video" else 1):
            frame = av.VideoFrame.from_ndarray(np.full((48, 64, 3), 40 * number, np.uint8), format="rgb24")
            frame.pts = number
            output.mux(stream.encode(frame.reformat(format=pix_fmt)))
        output.mux(stream.encode(None))
    clip = brought(workspace, path)
    assert (clip.kind, clip.width) == (kind, 64)
    assert clip.length_ticks == (round(0.4 * TICKS_PER_SECOND) if kind == "video" else 0)


@pytest.mark.parametrize(
    ("rate", "layout", "remark"),
    [
        (8000, "mono", ""),
        (22050, "stereo", ""),
        (192_000, "mono", ""),
        (48_000, "5.1", "its 6 channels were mixed"),
    ],
)
def test_sound_of_every_rate_and_layout(tmp_path: Path, rate: int, layout: str, remark: str) -> None:
    path = tmp_path / "a.flac"
    channels = {"mono": 1, "stereo": 2, "5.1": 6}[layout]
    with av.open(str(path), "w") as output:
        stream = output.add_stream("flac", rate=rate)
        stream.layout = layout
        tone = (0.25 * np.sin(np.arange(rate) * 2 * np.pi * 300 / rate) * 32767).astype(np.int16)
        frame = av.AudioFrame.from_ndarray(np.repeat(tone, channels)[np.newaxis], format="s16", layout=layout)
        frame.sample_rate = rate
        output.mux(stream.encode(frame))
        output.mux(stream.encode(None))
    told: list[str] = []
    sound = read_sound(path, remarks=told)
    assert sound is not None
    assert sound.shape == (pytest.approx(48_000, abs=2), 2)
    assert 0.15 < float(np.abs(sound).max()) < 1.0
    assert [remark in text for text in told] == [True] * bool(remark)


def test_what_is_left_of_a_damaged_video_is_taken_and_said(workspace: Workspace, tmp_path: Path) -> None:
    path = frames(tmp_path / "a.mkv", list(range(0, 4000, 40)), (320, 240))
    data = path.read_bytes()
    path.write_bytes(data[: len(data) * 2 // 3])
    clip = brought(workspace, path)
    assert 0.2 < clip.length_ticks / TICKS_PER_SECOND < 3.9
    assert any("though it says 4.0; the rest is missing" in remark for remark in clip.remarks)


def test_everything_that_was_done_to_the_files_is_said_when_a_project_is_made(
    workspace: Workspace, tmp_path: Path
) -> None:
    sound_only(tmp_path / "talk.mp4")
    files.tone(tmp_path / "b.wav")
    files.video(tmp_path / "c.mp4", 0.5)
    (tmp_path / "d.mp4").write_bytes(b"")
    given = [MediaFile(tmp_path / name, name) for name in ("talk.mp4", "b.wav", "c.mp4", "d.mp4")]
    made = new_project(workspace, NewProject("x\n\0y\u202e", 64, 64, FrameRate(numerator=25)), given, None)
    said = {(remark.place, remark.message.split(",")[0]) for remark in made.remarks}
    assert said == {
        ("talk.mp4", "it has sound but no picture"),
        ("b.wav", "another file is the bed; this one is at hand under Sound"),
        ("d.mp4", "the file is empty"),
    }
    assert workspace.head(made.project_id).project.name == "x y"


# the process that reads them


def _opens(path: Path, other: str, progress: object) -> tuple[str, str]:
    path.read_bytes()
    found: list[str] = []
    for attempt in (
        lambda: Path(other).read_bytes(),
        lambda: socket.create_connection(("127.0.0.1", 9), timeout=1),
    ):
        try:
            attempt()
            found.append("done")
        except OSError as error:
            found.append(type(error).__name__)
    return found[0], found[1]


@pytest.mark.skipif(landlock_version() < 4, reason="this kernel has no walls for processes of its users")
def test_the_process_that_reads_media_can_open_only_its_file_and_has_no_network(tmp_path: Path) -> None:
    given, other = tmp_path / "given", tmp_path / "other"
    for path in (given, other):
        path.write_bytes(b"x")
    with socket.create_server(("127.0.0.1", 0)):
        assert run_isolated(_opens, given, str(other)) in [
            ("PermissionError", "PermissionError"),
            ("PermissionError", "OSError"),
        ]


def _hangs(progress: object) -> None:
    import time

    time.sleep(60)


def test_a_process_that_hangs_is_stopped_and_said(tmp_path: Path) -> None:
    with pytest.raises(MediaError, match="did not go on for 1 s"):
        run_isolated(_hangs, silence_limit_s=1)
    with pytest.raises(CancelledError):
        run_isolated(_hangs, cancelled=lambda: True)


class _Trap:
    def __reduce__(self) -> tuple[object, tuple[str]]:
        import os

        return os.system, ("touch /tmp/fox-was-here",)


def _answers_with_a_trap(progress: object) -> object:
    return _Trap()


def test_an_answer_that_would_run_something_is_not_taken(tmp_path: Path) -> None:
    with pytest.raises(MediaError, match="unforeseen"):
        run_isolated(_answers_with_a_trap)
    assert not Path("/tmp/fox-was-here").exists()


def _eats(progress: object) -> int:
    return len(bytearray(8 << 30))


def test_a_process_that_eats_memory_is_ended() -> None:
    with pytest.raises(MediaError, match="MemoryError"):
        run_isolated(_eats)
