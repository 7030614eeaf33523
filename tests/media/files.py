"""Media files for tests, made on the spot."""

from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import skia

from fox_cadence.media.audio import wav_bytes

BITS = 8


def frame_number(luma: np.ndarray) -> int:
    """The number that a frame of `video` carries."""
    height, width = luma.shape
    row = luma[height // 8 : height * 3 // 8]
    return sum(
        int(row[:, bit * width // BITS + 4 : (bit + 1) * width // BITS - 4].mean() > 120) << bit for bit in range(BITS)
    )


def video(
    path: Path, seconds: float = 2.0, rate: Fraction = Fraction(30), size: tuple[int, int] = (160, 120), seed: int = 0,
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


def still(path: Path, size: tuple[int, int] = (200, 300), colour: tuple[int, int, int] = (200, 90, 40)) -> Path:
    pixels = np.full((size[1], size[0], 4), 255, np.uint8)
    pixels[..., :3] = colour
    image = skia.Image.fromarray(pixels, colorType=skia.kRGBA_8888_ColorType)
    image.save(str(path), skia.kPNG if path.suffix == ".png" else skia.kJPEG)
    return path


def tone(path: Path, seconds: float = 3.0, hertz: float = 220) -> Path:
    t = np.arange(round(seconds * 48000)) / 48000
    path.write_bytes(wav_bytes((0.3 * np.sin(2 * np.pi * hertz * t)).astype(np.float32)))
    return path
