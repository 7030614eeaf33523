"""Silent loops: GIF with the palette of its own pictures, animated WebP. Runs in the isolated process."""

import tempfile
from collections.abc import Iterator
from fractions import Fraction
from pathlib import Path
from typing import IO, Literal

import av
import numpy as np

from fox_cadence.core.docket.rows import Quality
from fox_cadence.core.docket.sizes import loop_step
from fox_cadence.core.screen import Screen
from fox_cadence.errors import InputError
from fox_cadence.media.isolated import Progress
from fox_cadence.media.render import painted_frames

LONGEST_S = 60.0
_HUNDREDTHS = 100
"""A GIF counts its time in hundredths of a second."""
_WEBP_QUALITY = {"small": "45", "good": "70", "best": "90"}
_DITHER = {"small": "none", "good": "bayer", "best": "sierra2_4a"}


def render_loop(
    screen: Screen,
    clip_files: dict[str, Path],
    target: Path,
    kind: Literal["gif", "webp"],
    frames: tuple[int, int],
    quality: Quality,
    progress: Progress,
) -> None:
    """Write the frames [first, last) of a piece as a loop of at most 15 pictures a second.

    Raises:
        InputError: it would last more than a minute.
    """
    first, last = frames
    rate = screen.rate.fraction
    if (last - first) / rate > LONGEST_S:
        raise InputError(
            f"a loop may last {LONGEST_S:.0f} s, and this is {float((last - first) / rate):.1f} s; choose a "
            "part of the piece"
        )
    every = loop_step(rate)
    pictures = _pictures(screen, clip_files, first, last, every, progress)
    if kind == "webp":
        _write_webp(target, pictures, screen, every / rate, _WEBP_QUALITY[quality])
    else:
        _write_gif(target, pictures, screen, every / rate, _DITHER[quality])
    progress(last - first, last - first)


def _pictures(
    screen: Screen, clip_files: dict[str, Path], first: int, last: int, every: int, progress: Progress
) -> Iterator[av.VideoFrame]:
    """Every so manieth frame, in RGB."""
    turned = av.video.reformatter.VideoReformatter()
    for number, frame in enumerate(painted_frames(screen, clip_files, first, last)):
        if number % every == 0:
            yield turned.reformat(
                frame, format="rgb24", src_colorspace="ITU709", src_color_range="MPEG", dst_color_range="JPEG"
            )
            progress(number, last - first)


def _write_webp(
    target: Path, pictures: Iterator[av.VideoFrame], screen: Screen, step_s: Fraction, quality: str
) -> None:
    with av.open(str(target), "w", format="webp", options={"loop": "0"}) as output:
        stream = output.add_stream("libwebp_anim", rate=1 / step_s)
        stream.width, stream.height, stream.pix_fmt = screen.width, screen.height, "bgra"
        stream.options = {"quality": quality}
        for number, picture in enumerate(pictures):
            frame = picture.reformat(format="bgra")
            frame.pts, frame.time_base = number, step_s
            output.mux(stream.encode(frame))
        output.mux(stream.encode(None))


def _write_gif(
    target: Path, pictures: Iterator[av.VideoFrame], screen: Screen, step_s: Fraction, dither: str
) -> None:
    """In two turns: the colours of all pictures are known before the first is written."""
    with tempfile.TemporaryFile() as kept, av.open(str(target), "w", format="gif") as output:
        palette = _palette(_kept(pictures, kept), screen)
        stream = output.add_stream("gif", rate=1 / step_s)
        stream.width, stream.height, stream.pix_fmt = screen.width, screen.height, "pal8"
        stream.time_base = stream.codec_context.time_base = Fraction(1, _HUNDREDTHS)
        graph, shape = av.filter.Graph(), {"width": screen.width, "height": screen.height}
        source = graph.add_buffer(**shape, format="rgb24", time_base=Fraction(1, _HUNDREDTHS))
        colours = graph.add_buffer(width=16, height=16, format="bgra", time_base=Fraction(1, _HUNDREDTHS))
        use = graph.add("paletteuse", f"dither={dither}:diff_mode=rectangle")
        sink = graph.add("buffersink")
        source.link_to(use, 0, 0)
        colours.link_to(use, 0, 1)
        use.link_to(sink)
        graph.configure()
        palette.pts = 0
        colours.push(palette)
        colours.push(None)
        for number, picture in enumerate(_read_again(kept, screen)):
            picture.pts = round(number * step_s * _HUNDREDTHS)
            picture.time_base = Fraction(1, _HUNDREDTHS)
            source.push(picture)
            for made in _pulled(sink):
                output.mux(stream.encode(made))
        source.push(None)
        for made in _pulled(sink):
            output.mux(stream.encode(made))
        output.mux(stream.encode(None))


def _kept(pictures: Iterator[av.VideoFrame], file: IO[bytes]) -> Iterator[av.VideoFrame]:
    for picture in pictures:
        file.write(picture.to_ndarray().tobytes())
        yield picture


def _read_again(file: IO[bytes], screen: Screen) -> Iterator[av.VideoFrame]:
    file.seek(0)
    size = screen.width * screen.height * 3
    while data := file.read(size):
        pixels = np.frombuffer(data, np.uint8).reshape(screen.height, screen.width, 3)
        yield av.VideoFrame.from_ndarray(pixels, format="rgb24")


def _palette(pictures: Iterator[av.VideoFrame], screen: Screen) -> av.VideoFrame:
    graph = av.filter.Graph()
    source = graph.add_buffer(
        width=screen.width, height=screen.height, format="rgb24", time_base=Fraction(1, _HUNDREDTHS)
    )
    made, sink = graph.add("palettegen", "stats_mode=full"), graph.add("buffersink")
    source.link_to(made)
    made.link_to(sink)
    graph.configure()
    for number, picture in enumerate(pictures):
        picture.pts, picture.time_base = number, Fraction(1, _HUNDREDTHS)
        source.push(picture)
    source.push(None)
    (palette,) = _pulled(sink)
    return palette


def _pulled(sink: "av.filter.context.FilterContext") -> Iterator[av.VideoFrame]:
    while True:
        try:
            yield sink.pull()
        except (av.error.BlockingIOError, av.error.EOFError):
            return
