"""Sound files other than WAV. Runs in the isolated process."""

import io

import av
import numpy as np

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound
from fox_cadence.media.isolated import Progress

_CODECS = {"flac": ("flac", "flac", "s16"), "mp3": ("mp3", "libmp3lame", "s16p")}
_MP3_BITS = 192_000
_BLOCK = 4608


def encode_all(sounds: list[Sound], kind: str, progress: Progress) -> list[bytes]:
    """Several sounds in one process: starting one takes longer than encoding a line."""
    return [encode(sound, kind) for sound in sounds]


def encode(sound: Sound, kind: str) -> bytes:
    """Mono or stereo sound as FLAC or MP3."""
    container_format, codec, sample_format = _CODECS[kind]
    layout = "mono" if sound.ndim == 1 else "stereo"
    out = io.BytesIO()
    with av.open(out, "w", format=container_format) as container:
        stream = container.add_stream(codec, rate=SAMPLE_RATE_HZ, layout=layout)
        stream.format = sample_format
        if kind == "mp3":
            stream.bit_rate = _MP3_BITS
        resampler = av.AudioResampler(format=sample_format, layout=layout, rate=SAMPLE_RATE_HZ, frame_size=0)
        whole = np.rint(np.clip(sound, -1, 1) * 32767).astype(np.int16).reshape(len(sound), -1)
        for start in range(0, len(whole), _BLOCK):
            block = np.ascontiguousarray(whole[start : start + _BLOCK]).reshape(1, -1)
            frame = av.AudioFrame.from_ndarray(block, format="s16", layout=layout)
            frame.sample_rate = SAMPLE_RATE_HZ
            frame.pts = start
            for made in resampler.resample(frame):
                container.mux(stream.encode(made))
        container.mux(stream.encode(None))
    return out.getvalue()
