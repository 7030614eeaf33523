"""A video put together from segments is the one that was made in one go."""

import os
from dataclasses import replace
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import pytest

from fox_cadence.core.docket.rows import Codec
from fox_cadence.core.screen import ScreenShot
from fox_cadence.core.ticks import FRAME_RATES
from fox_cadence.media.audio import wav_bytes
from fox_cadence.media.isolated import no_progress
from fox_cadence.media.joining import SEGMENT_THREADS, finish, join
from fox_cadence.media.render import render
from fox_cadence.media.segments import render_segment
from fox_cadence.media.video_forms import Mark, TrackCue, VideoForm
from tests.media import files
from tests.media.test_render import SIZE, caption, screen

FRAMES = 90
BORDERS = [(0, 31), (31, 62), (62, 90)]


def made(
    tmp_path: Path, form: VideoForm, borders: list[tuple[int, int]], order: list[int]
) -> tuple[Path, Path]:
    """The video in one go, and from segments made in an order."""
    clip = files.video(tmp_path / "clip.mp4", 4.0, Fraction(30), SIZE)
    shots = [ScreenShot("c", "#0", 0, 0, 31), ScreenShot(None, "#c0b0a0", 0, 31, FRAMES)]
    shown = screen(FRAME_RATES["29.97"], shots, (caption("Tide", 20, 70),))
    samples = round((borders[-1][1] - borders[0][0]) * 48000 * 1001 / 30000)
    wav = tmp_path / "s.wav"
    tone = np.sin(np.arange(samples * 2).reshape(-1, 2) / 50) / 4
    wav.write_bytes(wav_bytes(tone.astype(np.float32)))
    whole, joined = (tmp_path / f"{name}.{form.container}" for name in ("whole", "joined"))
    render(shown, {"c": clip}, wav, whole, form, no_progress)
    parts = [render_segment(shown, {"c": clip}, form, borders[n], no_progress) for n in order]
    join(SIZE, shown.rate.fraction, parts, wav, joined, form, no_progress)
    whole_again = finish(SIZE, shown.rate.fraction, parts, wav, form, no_progress)
    assert whole_again.data == joined.read_bytes()
    assert whole_again.seconds == pytest.approx(samples / 48000, abs=0.05)
    return whole, joined


@pytest.mark.parametrize(
    ("container", "codec"),
    [("mp4", "h264"), ("mp4", "h265"), ("mp4", "av1"), ("webm", "vp9"), ("webm", "av1")],
)
def test_segments_make_the_same_film_as_one_go(container: str, codec: Codec, tmp_path: Path) -> None:
    form = VideoForm(container=container, codec=codec, quality="best", threads=SEGMENT_THREADS)
    whole, joined = made(tmp_path, form, BORDERS, [2, 0, 1])
    seen = []
    for path in (whole, joined):
        with av.open(str(path)) as file:
            frames = list(file.decode(video=0))
            assert [round(frame.time * 30000 / 1001) for frame in frames] == list(range(FRAMES))
            seen.append([frame.to_ndarray(format="gray").astype(np.int16) for frame in frames])
        with av.open(str(path)) as file:
            samples = sum(frame.samples for frame in file.decode(audio=0))
            assert abs(samples - FRAMES * 48000 * 1001 / 30000) < 3000
    off = [float(np.abs(a - b).mean()) for a, b in zip(*seen, strict=True)]
    assert max(off) < 2.0  # of 255: coded twice, and not alike to the bit
    with av.open(str(joined)) as file:
        keys = {
            round(p.pts * p.time_base * 30000 / 1001) for p in file.demux(video=0) if p.is_keyframe and p.size
        }
    assert {0, 31, 62} <= keys


def test_the_bytes_do_not_depend_on_the_order_in_which_segments_were_made(tmp_path: Path) -> None:
    form = VideoForm(
        threads=SEGMENT_THREADS,
        poster=40,
        cues=(TrackCue("Tide", 600, 2300),),
        language="eng",
        chapters=(Mark("One", 0, 1), Mark("Two", 1, 3)),
        tags={"title": "Foam"},
    )
    (tmp_path / "a").mkdir()
    (tmp_path / "b").mkdir()
    whole, first = made(tmp_path / "a", form, BORDERS, [0, 1, 2])
    _, second = made(tmp_path / "b", form, BORDERS, [1, 2, 0])
    assert first.read_bytes() == second.read_bytes()
    told = []
    for path in (whole, first):
        with av.open(str(path)) as file:
            (poster,) = [s for s in file.streams.video if s.disposition & 0x400]
            picture = next(iter(file.decode(poster))).to_ndarray(format="gray")
            told.append((file.metadata["title"], len(file.streams.subtitles), file.chapters(), picture))
    assert told[0][:3] == told[1][:3]
    assert np.abs(told[0][3].astype(int) - told[1][3]).max() == 0


def test_a_part_of_a_piece_is_made_from_segments_too(tmp_path: Path) -> None:
    form = VideoForm(threads=SEGMENT_THREADS, first=31, last=90)
    whole, joined = made(tmp_path, replace(form, poster=3), [(31, 62), (62, 90)], [1, 0])
    for path in (whole, joined):
        with av.open(str(path)) as file:
            assert sum(1 for _ in file.decode(video=0)) == 59


def test_no_encoder_keeps_the_rest_of_the_machine_waiting(tmp_path: Path) -> None:
    """Real-time priority, which every process begun later would have too."""
    made(tmp_path, VideoForm(codec="av1", threads=SEGMENT_THREADS), BORDERS, [0, 1, 2])
    threads = [int(thread) for thread in os.listdir("/proc/self/task")]
    assert {os.sched_getscheduler(thread) for thread in threads} == {os.SCHED_OTHER}
