"""Made footage for finding cuts: scenes that move, joined by cuts, dissolves and fades that are known."""

from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
from numpy.typing import NDArray

Frames = NDArray[np.float32]
"""RGB from 0 to 255, shape (frames, height, width, 3)."""

HIGH, WIDE = 72, 128


@dataclass(frozen=True, slots=True)
class Made:
    """A change that was made: its kind, and the first and the last frame that show it."""

    kind: str
    first: int
    last: int


def smooth(rng: np.random.Generator, high: int, wide: int, size: int) -> NDArray[np.float32]:
    """A picture of soft patches `size` pixels wide, of colours of its own."""
    rough = rng.uniform(0, 255, (high // size + 2, wide // size + 2, 3))
    tone = rng.uniform(30, 225, 3)
    rough = 0.55 * rough + 0.45 * tone
    rows, columns = np.arange(high) / size, np.arange(wide) / size
    row, column = rows.astype(int), columns.astype(int)
    down, across = (rows - row)[:, None, None], (columns - column)[None, :, None]
    top = rough[row][:, column] * (1 - across) + rough[row][:, column + 1] * across
    low = rough[row + 1][:, column] * (1 - across) + rough[row + 1][:, column + 1] * across
    return np.asarray(top * (1 - down) + low * down, np.float32)


def scene(rng: np.random.Generator, frames: int, motion: str) -> Frames:
    """A scene with grain: `still`, `pan` (a slow one), `whip` (a fast one in its middle), `zoom`, `shake`,
    `boxes` (things that appear) or `flash`."""
    size = int(rng.choice([10, 16, 24]))
    ground = smooth(rng, HIGH * 3, WIDE * 5, size)
    at_x: NDArray[Any] = np.zeros(frames)
    at_y: NDArray[Any] = np.zeros(frames)
    scale: NDArray[Any] = np.ones(frames)
    time = np.arange(frames)
    if motion == "pan":
        at_x = time * rng.uniform(0.3, 1.5)
    elif motion == "whip":
        middle = frames // 2
        at_x = np.clip(time - middle, 0, 7) * WIDE * 0.22
    elif motion == "zoom":
        scale = 1 + 0.6 * time / frames
    elif motion == "shake":
        at_x, at_y = rng.uniform(-6, 6, frames), rng.uniform(-4, 4, frames)
    made = np.empty((frames, HIGH, WIDE, 3), np.float32)
    for number in range(frames):
        x, y = 20 + at_x[number] % (WIDE * 3.5), 20 + at_y[number]
        wide, high = WIDE / scale[number], HIGH / scale[number]
        columns = np.clip(x + np.arange(WIDE) * wide / WIDE, 0, WIDE * 5 - 1).astype(int)
        rows = np.clip(y + np.arange(HIGH) * high / HIGH, 0, HIGH * 3 - 1).astype(int)
        made[number] = ground[rows][:, columns]
    if motion == "boxes":
        for begins in range(8, frames, 14):
            x, y = int(rng.integers(0, WIDE - 34)), int(rng.integers(0, HIGH - 22))
            made[begins : begins + 10, y : y + 22, x : x + 34] = rng.uniform(0, 255, 3)
    if motion == "flash":
        made[frames // 2 : frames // 2 + 2] = made[frames // 2 : frames // 2 + 2] * 0.15 + 255 * 0.85
    made += rng.normal(0, 2.5, made.shape).astype(np.float32)
    return np.clip(made, 0, 255)


MOTIONS = ("still", "pan", "pan", "zoom", "shake", "boxes", "flash", "whip")


def joined(rng: np.random.Generator, kinds: list[str]) -> tuple[Frames, list[Made]]:
    """Scenes one after the other with such changes between them."""
    made = scene(rng, int(rng.integers(34, 70)), str(rng.choice(MOTIONS)))
    changes: list[Made] = []
    for kind in kinds:
        following = scene(rng, int(rng.integers(46, 80)), str(rng.choice(MOTIONS)))
        if kind == "cut":
            changes.append(Made(kind, len(made), len(made)))
            made = np.concatenate([made, following])
        elif kind == "dissolve":
            count = int(rng.integers(8, 22))
            share = ((np.arange(count) + 1) / (count + 1))[:, None, None, None]
            mixed = made[-count:] * (1 - share) + following[:count] * share
            changes.append(Made(kind, len(made) - count, len(made) - 1))
            made = np.concatenate([made[:-count], mixed, following[count:]]).astype(np.float32)
        else:
            count = int(rng.integers(8, 16))
            away = np.linspace(1, 0, count)[:, None, None, None]
            colour = float(rng.choice([0, 0, 255]))
            out = made[-count:] * away + colour * (1 - away)
            back = following[:count] * away[::-1] + colour * (1 - away[::-1])
            changes.append(Made(kind, len(made) - count, len(made) + count - 1))
            made = np.concatenate([made[:-count], out, back, following[count:]]).astype(np.float32)
    return made, changes


def small(frames: Frames) -> NDArray[np.uint8]:
    """As the finder sees them: 64 by 36, Y, U and V (BT.601, full range)."""
    half = frames.reshape(len(frames), HIGH // 2, 2, WIDE // 2, 2, 3).mean(axis=(2, 4))
    red, green, blue = half[..., 0], half[..., 1], half[..., 2]
    y = 0.299 * red + 0.587 * green + 0.114 * blue
    planes = [y, 128 + (blue - y) * 0.564, 128 + (red - y) * 0.713]
    return np.asarray(np.clip(np.rint(np.stack(planes, axis=1)), 0, 255), np.uint8)


def film(path: Path, frames: Frames, rate: int, enlarged: int = 1) -> Path:
    """The footage as a file, each pixel `enlarged` to a square."""
    with av.open(str(path), "w") as output:
        stream = output.add_stream("libx264", rate=rate, options={"crf": "20", "preset": "veryfast"})
        stream.width, stream.height, stream.pix_fmt = WIDE * enlarged, HIGH * enlarged, "yuv420p"
        for number, picture in enumerate(frames.astype(np.uint8)):
            wide = picture.repeat(enlarged, axis=0).repeat(enlarged, axis=1)
            frame = av.VideoFrame.from_ndarray(wide, format="rgb24")
            frame.pts, frame.time_base = number, Fraction(1, rate)
            output.mux(stream.encode(frame))
        output.mux(stream.encode(None))
    return path
