"""Media files for tests, made on the spot."""

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import skia
from av.stream import Disposition

from fox_cadence.media.audio import wav_bytes

BITS = 8


def frame_number(luma: np.ndarray) -> int:
    """The number that a frame of `video` carries."""
    height, width = luma.shape
    row = luma[height // 8 : height * 3 // 8]
    return sum(
        int(row[:, bit * width // BITS + 4 : (bit + 1) * width // BITS - 4].mean() > 120) << bit
        for bit in range(BITS)
    )


def video(
    path: Path, seconds: float = 2.0, rate: Fraction = Fraction(30), size: tuple[int, int] = (160, 120),
    seed: int = 0,
    tone_hz: float | None = None, codec: str = "libx264",
) -> Path:  # fmt: skip
    """Frames of one hue that carry their number as light and dark stripes, with a tone if asked."""
    count = round(seconds * rate)
    with av.open(str(path), "w") as output:
        stream = output.add_stream(codec, rate=rate)
        stream.width, stream.height, stream.pix_fmt = *size, "yuv420p"
        if tone_hz is not None:
            audio = output.add_stream("aac" if codec == "libx264" else "libopus", rate=48000)
            audio.layout = "stereo"
            t = np.arange(round(seconds * 48000)) / 48000
            tone = np.repeat((0.2 * np.sin(2 * np.pi * tone_hz * t))[np.newaxis], 2, 0).astype(np.float32)
            for start in range(0, tone.shape[1], 960):
                block = np.ascontiguousarray(tone[:, start : start + 960])
                if codec != "libx264":
                    block = np.ascontiguousarray(block.T.reshape(1, -1))
                frame = av.AudioFrame.from_ndarray(
                    block, format="fltp" if codec == "libx264" else "flt", layout="stereo"
                )
                frame.sample_rate, frame.pts, frame.time_base = 48000, start, Fraction(1, 48000)
                output.mux(audio.encode(frame))
            output.mux(audio.encode(None))
        for number in range(count):
            picture = np.zeros((size[1], size[0], 3), np.uint8)
            picture[..., seed % 3] = 60 + (seed * 53) % 120
            for bit in range(BITS):
                stripe = slice(bit * size[0] // BITS, (bit + 1) * size[0] // BITS)
                picture[: size[1] // 2, stripe] = 230 if number >> bit & 1 else 20
            frame = av.VideoFrame.from_ndarray(picture, format="rgb24")
            frame.pts, frame.time_base = number, 1 / rate
            output.mux(stream.encode(frame))
        output.mux(stream.encode(None))
    return path


def still(
    path: Path, size: tuple[int, int] = (200, 300), colour: tuple[int, int, int] = (200, 90, 40)
) -> Path:
    pixels = np.full((size[1], size[0], 4), 255, np.uint8)
    pixels[..., :3] = colour
    image = skia.Image.fromarray(pixels, colorType=skia.kRGBA_8888_ColorType)
    image.save(str(path), skia.kPNG if path.suffix == ".png" else skia.kJPEG)
    return path


def chirp(samples: int, channels: int = 1) -> np.ndarray:
    """A rising tone of 48 kHz that sounds for 0.7 s and rests for 0.5 s by turns, each time at another
    level."""
    t = np.arange(samples) / 48_000
    level = 0.1 + 0.08 * np.floor(t / 1.2 % 3)
    made = (level * (t % 1.2 < 0.7) * np.sin(2 * np.pi * (200 * t + 40 * t * t))).astype(np.float32)
    return made if channels == 1 else np.repeat(made[:, np.newaxis], channels, axis=1)


def with_cover(path: Path, seconds: float = 3.0, picture: bool = False) -> Path:
    """Music that carries a picture of its cover as a stream; with `picture` a film whose first stream is a
    poster."""
    count = round(seconds * 48_000)
    with av.open(str(path), "w") as output:
        cover = output.add_stream("png", rate=1)
        cover.width, cover.height, cover.pix_fmt = 64, 64, "rgb24"
        cover.disposition = Disposition.attached_pic
        film = None
        if picture:
            film = output.add_stream("libx264", rate=30)
            film.width, film.height, film.pix_fmt = 160, 120, "yuv420p"
        audio = output.add_stream("libmp3lame" if path.suffix == ".mp3" else "aac", rate=48_000)
        audio.layout = "stereo"
        frame = av.VideoFrame.from_ndarray(np.full((64, 64, 3), 90, np.uint8), format="rgb24")
        frame.pts, frame.time_base = 0, Fraction(1)
        output.mux(cover.encode(frame))
        output.mux(cover.encode(None))
        for number in range(round(seconds * 30)) if film else ():
            shown = av.VideoFrame.from_ndarray(np.full((120, 160, 3), number, np.uint8), format="rgb24")
            shown.pts, shown.time_base = number, Fraction(1, 30)
            assert film is not None
            output.mux(film.encode(shown))
        if film:
            output.mux(film.encode(None))
        sound = chirp(count, 2).T
        for start in range(0, count, 1024):
            block = np.ascontiguousarray(sound[:, start : start + 1024])
            heard = av.AudioFrame.from_ndarray(block, format="fltp", layout="stereo")
            heard.sample_rate, heard.pts, heard.time_base = 48_000, start, Fraction(1, 48_000)
            output.mux(audio.encode(heard))
        output.mux(audio.encode(None))
    return path


def tone(path: Path, seconds: float = 3.0, hertz: float = 220) -> Path:
    t = np.arange(round(seconds * 48000)) / 48000
    path.write_bytes(wav_bytes((0.3 * np.sin(2 * np.pi * hertz * t)).astype(np.float32)))
    return path


def odd_sound(path: Path, sound: np.ndarray, rate: int, codec: str = "pcm_s24le") -> Path:
    """A file of a sound as it is, shape (channels, samples), at a rate and with a codec of one's own
    choice."""
    layout = {1: "mono", 2: "stereo", 6: "5.1"}[len(sound)]
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=rate, layout=layout)
        frame = av.AudioFrame.from_ndarray(
            np.ascontiguousarray(sound, np.float32), format="fltp", layout=layout
        )
        frame.sample_rate = rate
        resampler = av.AudioResampler(format=stream.codec_context.format, layout=layout, rate=rate)
        for part in (*resampler.resample(frame), *resampler.resample(None)):
            container.mux(stream.encode(part))
        container.mux(stream.encode(None))
    return path
