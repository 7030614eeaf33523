"""Sound files: WAV of 16, 24 and 32 bits, FLAC, MP3, M4A and Opus, with chapters, tags and a cover.

What a codec of libav is needed for runs in the isolated process.
"""

import io
import struct
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path
from typing import IO, TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.docket.rows import SoundFile
from fox_cadence.core.docket.sizes import SOUND_KBPS
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound
from fox_cadence.media.isolated import Progress, no_progress
from fox_cadence.media.video_forms import ATTACHED_PICTURE, Mark, set_chapters

if TYPE_CHECKING:
    import av

_CODECS: Mapping[str, tuple[str, str, str]] = {
    "flac": ("flac", "flac", "s16"),
    "mp3": ("mp3", "libmp3lame", "fltp"),
    "m4a": ("mp4", "aac", "fltp"),
    "opus": ("ogg", "libopus", "flt"),
}
"""The container, the codec and the samples it takes."""
_FRAME_SAMPLES: Mapping[str, int] = {"flac": 4608, "mp3": 1152, "m4a": 1024, "opus": 960}
_REPORT_EVERY = 500
_PCM, _FLOAT = 1, 3
"""The format codes of WAVE (RFC 2361)."""


@dataclass(frozen=True, slots=True)
class SoundForm:
    """How a sound file is written; `cover` is a JPEG that stands for it."""

    file: SoundFile
    channels: int = 2
    bits: int = 16
    kbps: int | None = None
    chapters: tuple[Mark, ...] = ()
    tags: Mapping[str, str] = field(default_factory=dict)
    cover: Path | None = None


def whole_numbers(sound: Sound, bits: int) -> NDArray[np.int32]:
    """Samples as whole numbers of so many bits."""
    most = 2 ** (bits - 1) - 1
    whole = np.rint(np.clip(sound.astype(np.float64), -1, 1) * most)
    return np.asarray(whole, dtype=np.int32)


class WavWriter:
    """Writes a WAV file block by block; at its end the sizes are filled in."""

    def __init__(self, file: IO[bytes], bits: int, channels: int) -> None:
        self._file, self._bits, self._channels, self._bytes = file, bits, channels, 0
        self._head()

    def write(self, block: Sound) -> None:
        """Samples from -1 to 1, shape (count,) or (count, channels)."""
        if self._bits == 32:
            self._put(np.ascontiguousarray(block, dtype="<f4").tobytes())
        else:
            self.write_whole(whole_numbers(block, self._bits))

    def write_whole(self, block: NDArray[np.int32]) -> None:
        """Samples as whole numbers."""
        if self._bits == 16:
            self._put(np.ascontiguousarray(block, dtype="<i2").tobytes())
        else:
            four = np.ascontiguousarray(block, dtype="<i4").reshape(-1, 1).view(np.uint8)
            self._put(np.ascontiguousarray(four[:, :3]).tobytes())

    def end(self) -> None:
        self._file.seek(0)
        self._head()

    def _put(self, data: bytes) -> None:
        self._file.write(data)
        self._bytes += len(data)

    def _head(self) -> None:
        each = self._channels * self._bits // 8
        code = _FLOAT if self._bits == 32 else _PCM
        shape = struct.pack(
            "<HHIIHH", code, self._channels, SAMPLE_RATE_HZ, SAMPLE_RATE_HZ * each, each, self._bits
        )
        fact = b"" if code == _PCM else b"fact" + struct.pack("<II", 4, self._bytes // each)
        size = 4 + 8 + len(shape) + len(fact) + 8 + self._bytes
        self._file.write(b"RIFF" + struct.pack("<I", size) + b"WAVE")
        self._file.write(b"fmt " + struct.pack("<I", len(shape)) + shape + fact)
        self._file.write(b"data" + struct.pack("<I", self._bytes))


def write_wav_blocks(path: Path, blocks: Iterator[Sound], bits: int, channels: int) -> None:
    """A WAV file of stereo blocks, in mono where it has one channel."""
    with path.open("wb") as file:
        made = WavWriter(file, bits, channels)
        for block in blocks:
            made.write(block.mean(axis=1, dtype=np.float32) if channels == 1 else block)
        made.end()


def encode_file(source: Path, target: Path, form: SoundForm, progress: Progress) -> None:
    """Samples as a sound file.

    Args:
        source: 48 kHz, float32, little-endian, the channels after each other.
    """
    samples = np.memmap(source, dtype="<f4", mode="r") if source.stat().st_size else np.zeros(0, np.float32)
    with target.open("wb") as file:
        _encode(np.asarray(samples).reshape(-1, form.channels), file, form, progress)


def encode_all(sounds: list[Sound], kind: SoundFile, progress: Progress) -> list[bytes]:
    """Several mono sounds in one process: starting one takes longer than encoding a line."""
    made = []
    for number, sound in enumerate(sounds):
        out = io.BytesIO()
        _encode(sound.reshape(-1, 1), out, SoundForm(kind, channels=1), no_progress)
        made.append(out.getvalue())
        progress(number + 1, len(sounds))
    return made


def _encode(sound: Sound, file: IO[bytes], form: SoundForm, progress: Progress) -> None:
    import av

    container_format, codec, sample_format = _CODECS[form.file]
    deep = form.file == "flac" and form.bits == 24
    layout = "mono" if form.channels == 1 else "stereo"
    options = {"movflags": "+faststart", "brand": "M4A "} if form.file == "m4a" else {"fflags": "+bitexact"}
    with av.open(file, "w", format=container_format, options=options) as output:
        output.metadata.update(form.tags)
        set_chapters(output, form.chapters)
        stream = output.add_stream(codec, rate=SAMPLE_RATE_HZ, layout=layout)
        stream.format = "s32" if deep else sample_format
        if deep:
            stream.codec_context.options = {"bits_per_raw_sample": "24"}
        if form.file in SOUND_KBPS:
            stream.bit_rate = (form.kbps or SOUND_KBPS[form.file]) * 1000
        put_cover = _cover_of(output, form)
        size = _FRAME_SAMPLES[form.file]
        for start in range(0, len(sound), size):
            frame = _frame(sound[start : start + size], stream.format.name, layout)
            frame.pts = start
            output.mux(stream.encode(frame))
            if start == 0 and put_cover is not None:
                put_cover()
            if start % (size * _REPORT_EVERY) == 0:
                progress(start, len(sound))
        output.mux(stream.encode(None))


def _frame(block: Sound, sample_format: str, layout: str) -> "av.AudioFrame":
    import av

    shaped = block.reshape(len(block), -1)
    if sample_format in ("s16", "s32"):
        deep = sample_format == "s32"
        whole = whole_numbers(shaped, 24 if deep else 16)
        data: Any = (whole << 8 if deep else whole.astype(np.int16)).reshape(1, -1)
    else:
        floats = shaped.astype(np.float32)
        data = floats.T if sample_format == "fltp" else floats.reshape(1, -1)
    frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(data), format=sample_format, layout=layout)
    frame.sample_rate = SAMPLE_RATE_HZ
    frame.time_base = Fraction(1, SAMPLE_RATE_HZ)
    return frame


def _cover_of(output: Any, form: SoundForm) -> Callable[[], None] | None:
    """What puts the cover into the file, once its sound has begun; None where it has none."""
    import av

    if form.cover is None or form.file not in ("m4a", "mp3"):
        return None
    with av.open(str(form.cover)) as source:
        picture = next(source.decode(video=0)).reformat(format="yuvj420p")
    stream = output.add_stream("mjpeg", rate=1)
    stream.width, stream.height, stream.pix_fmt = picture.width, picture.height, "yuvj420p"
    stream.disposition = ATTACHED_PICTURE

    def put() -> None:
        picture.pts, picture.time_base = 0, Fraction(1, 1)
        output.mux(stream.encode(picture))
        output.mux(stream.encode(None))

    return put
