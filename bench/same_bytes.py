"""The same pictures coded again and again, with other things in memory each time: how often other bytes come
of it, with and without what x264 has for AVX-512."""

import hashlib
import random
import time
from collections import Counter

import av
import numpy as np

from fox_cadence.core.lettering.drawing import letter
from fox_cadence.core.lettering.motion import Moments
from fox_cadence.core.lettering.styles import STYLES
from fox_cadence.core.screen import Screen, ScreenCaption, ScreenShot
from fox_cadence.core.ticks import FRAME_RATES
from fox_cadence.media.fonts import faces_for
from fox_cadence.media.render import painted_frames
from fox_cadence.media.video_forms import VideoForm, video_options, video_stream

ENCODES = 2000
SIZE = (320, 240)
FIRST, LAST = 31, 45
_SEED = 4
WAYS = {
    "all the processor has": "",
    "the same, without mbtree": "mbtree=0",
    "without AVX-512": "asm=AVX2",
}


def frames() -> list[av.VideoFrame]:
    """A few frames of a caption on a plain shot."""
    drawing = letter("Tide", STYLES[0], faces_for(STYLES[0], "en"), *SIZE)
    caption = ScreenCaption("Tide", drawing, 20, 70, Moments(((20, 0),), (70, 0), ()))
    shot = ScreenShot(None, "#c0b0a0", 0, 0, 90)
    return list(painted_frames(Screen(*SIZE, FRAME_RATES["29.97"], (shot,), (caption,)), {}, FIRST, LAST))


def coded(pictures: list[av.VideoFrame], params: str) -> str:
    """The hash of what the encoder makes of some frames."""
    form, rate, found = VideoForm(threads=1), FRAME_RATES["29.97"].fraction, hashlib.sha256()
    with av.open("none", "w", format="null") as output:
        stream = video_stream(output, form, SIZE, rate)
        stream.options = video_options(form) | {"x264-params": params}
        for number, frame in enumerate(pictures):
            frame.pts, frame.time_base = number, 1 / rate
            for packet in stream.encode(frame):
                found.update(bytes(packet))
        for packet in stream.encode(None):
            found.update(bytes(packet))
    return found.hexdigest()


def rows() -> list[str]:
    pictures, dice = frames(), random.Random(_SEED)
    made: dict[str, Counter[str]] = {way: Counter() for way in WAYS}
    spent = dict.fromkeys(WAYS, 0.0)
    held: list[np.ndarray] = []
    for _ in range(ENCODES):
        for way, params in WAYS.items():
            # what is held and let go leaves memory behind that has something in it
            held += [
                np.frombuffer(dice.randbytes(dice.randint(100, 600_000)), np.uint8).copy()
                for _ in range(dice.randint(0, 30))
            ]
            dice.shuffle(held)
            del held[40:]
            began = time.perf_counter()
            made[way][coded(pictures, params)] += 1
            spent[way] += time.perf_counter() - began
    table = ["| x264 with | encodes | otherwise than most | ms each |", "| --- | --- | --- | --- |"]
    for way, hashes in made.items():
        otherwise = ENCODES - hashes.most_common(1)[0][1]
        table.append(f"| {way} | {ENCODES} | {otherwise} | {spent[way] / ENCODES * 1000:.1f} |")
    return table
