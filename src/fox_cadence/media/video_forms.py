"""What kinds of video files can be written, and how: codecs, their options, and the streams of a file."""

import contextlib
import os
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cache
from pathlib import Path
from typing import Any

from fox_cadence.core.docket.rows import Codec, Quality
from fox_cadence.core.ticks import SAMPLE_RATE_HZ

ENCODER_THREADS = 3
SOUND_BIT_RATE = 192_000
ATTACHED_PICTURE = 0x0400
"""The disposition of a stream whose one picture stands for the file."""
_AAC = {"aac_coder": "fast"}
"""In half the time of the other coder, and at this bit rate with less noise up to 11 kHz
(docs/benchmarks.md)."""
_QUICKEST_AAC = _AAC | {"aac_tns": "0", "aac_is": "0", "aac_ms": "0", "aac_pns": "0"}
_MOST_RATE, _BUFFER = 1.5, 2.0
"""How far a second may go over the bits it should take, and over how many seconds that is seen."""

_ENCODERS: Mapping[Codec, str] = {
    "h264": "libx264",
    "h265": "libx265",
    "vp9": "libvpx-vp9",
    "av1": "libsvtav1",
}
_QUALITIES: Mapping[Codec, Mapping[Quality, str]] = {
    "h264": {"small": "26", "good": "19", "best": "15"},
    "h265": {"small": "30", "good": "23", "best": "19"},
    "vp9": {"small": "44", "good": "33", "best": "25"},
    "av1": {"small": "44", "good": "32", "best": "24"},
}
"""Constant rate factors, on the scale of each encoder; those of different encoders were not measured against
each other."""
_OPTIONS: Mapping[Codec, Mapping[str, str]] = {
    "h264": {"preset": "veryfast"},
    "h265": {"preset": "veryfast", "x265-params": "log-level=error"},
    "vp9": {"deadline": "realtime", "cpu-used": "8", "row-mt": "1"},
    "av1": {"preset": "9"},
}


@dataclass(frozen=True, slots=True)
class Mark:
    """A chapter of a file, in seconds."""

    title: str
    start_s: float
    end_s: float


@dataclass(frozen=True, slots=True)
class TrackCue:
    """Words in the track of captions of a file, in milliseconds."""

    text: str
    start_ms: int
    end_ms: int


@dataclass(frozen=True, slots=True)
class VideoForm:
    """How a video is written. `kbps` goes before the quality; a `look` is made fast rather than small.

    Of the piece the frames [first, last) are written; what else has a time here counts from the first of
    them. `cues` stand in the file as a track. `poster` is the frame whose picture stands for the file. The
    number of `threads` is told to the encoder, whose bytes depend on it.
    """

    container: str = "mp4"
    codec: Codec = "h264"
    quality: Quality = "good"
    kbps: int | None = None
    look: bool = False
    first: int = 0
    last: int | None = None
    poster: int | None = None
    cues: tuple[TrackCue, ...] = ()
    language: str = ""
    chapters: tuple[Mark, ...] = ()
    tags: Mapping[str, str] = field(default_factory=dict)
    threads: int = ENCODER_THREADS


def video_options(form: VideoForm) -> dict[str, str]:
    """What the encoder is told."""
    if form.look:
        return {"preset": "ultrafast", "crf": "26"}
    options = dict(_OPTIONS[form.codec])
    if form.codec == "h264" and _has_avx512():
        # with what x264 has for AVX-512 one of 300 encodes of the same pictures came out otherwise; none of
        # 2,300 with what it has for AVX2, which is as quick (docs/benchmarks.md)
        options["x264-params"] = "asm=AVX2"
    if form.kbps is None:
        return options | {"crf": _QUALITIES[form.codec][form.quality]}
    if form.codec in ("h264", "h265"):
        most = str(round(form.kbps * _MOST_RATE * 1000))
        options |= {"maxrate": most, "bufsize": str(round(form.kbps * _BUFFER * 1000))}
    return options


@cache
def _has_avx512() -> bool:
    try:
        return " avx512" in Path("/proc/cpuinfo").read_text()
    except OSError:
        return False


def opened(target: str, form: VideoForm) -> Any:
    """A file to write to, whose index comes first where it can; without the random numbers that WebM has by
    itself, so that the same video is the same file."""
    import av

    options = {"movflags": "+faststart"} if form.container == "mp4" else {"fflags": "+bitexact"}
    output = av.open(target, "w", format=form.container, options=options)
    output.metadata.update(form.tags)
    set_chapters(output, form.chapters)
    return output


def set_chapters(output: Any, chapters: Sequence[Mark]) -> None:
    """Give a file that was just opened its chapters."""
    if chapters:
        output.set_chapters([_chapter(number, each) for number, each in enumerate(chapters, 1)])


def _chapter(number: int, mark: Mark) -> dict[str, Any]:
    return {
        "id": number,
        "start": round(mark.start_s * 1000),
        "end": round(mark.end_s * 1000),
        "time_base": Fraction(1, 1000),
        "metadata": {"title": mark.title},
    }


def video_stream(output: Any, form: VideoForm, size: tuple[int, int], rate: Fraction) -> Any:
    """The stream of the pictures: 4:2:0, BT.709, limited range."""
    os.environ.setdefault("SVT_LOG", "1")  # it tells of its settings otherwise, wherever it is used
    stream = output.add_stream(_ENCODERS[form.codec], rate=rate)
    stream.width, stream.height = size
    stream.pix_fmt = "yuv420p"
    stream.time_base = 1 / rate
    context = stream.codec_context
    context.time_base = 1 / rate
    context.gop_size = 2 * round(float(rate))
    # BT.709, limited range (ITU-T H.273: 1, 1, 1 and range 1)
    context.color_primaries, context.color_trc, context.colorspace, context.color_range = 1, 1, 1, 1
    if form.codec == "h264":
        # PyAV asks for slices otherwise, which share one frame among the cores and leave them waiting for one
        # another
        context.thread_type, context.thread_count = "FRAME", form.threads
    else:
        context.thread_count = form.threads
    if form.codec == "h265":
        context.codec_tag = "hvc1"  # what players ask for that know nothing of the other one
    context.bit_rate = (form.kbps or 0) * 1000
    stream.options = video_options(form)
    if form.codec == "av1":
        context.open()
        _be_ordinary()
    return stream


def _be_ordinary() -> None:
    """Take real-time priority from the threads of this process.

    Where it may (as root, so in most containers), SVT-AV1 gives it to the thread that opens it and to its
    own: everything else on the machine waits then, and each process begun later has it too.
    """
    for thread in os.listdir("/proc/self/task"):
        with contextlib.suppress(ProcessLookupError, PermissionError):
            if os.sched_getscheduler(int(thread)) == os.SCHED_FIFO:
                os.sched_setscheduler(int(thread), os.SCHED_OTHER, os.sched_param(0))


def sound_stream(output: Any, form: VideoForm) -> tuple[Any, int]:
    """The stream of the sound, and how many samples its frames have."""
    codec, samples = ("libopus", 960) if form.container == "webm" else ("aac", 1024)
    stream = output.add_stream(codec, rate=SAMPLE_RATE_HZ)
    stream.layout = "stereo"
    stream.bit_rate = SOUND_BIT_RATE
    if codec == "aac":
        stream.options = _QUICKEST_AAC if form.look else _AAC
    return stream, samples


class CaptionTrack:
    """The captions in a track of the file, written as the pictures go on."""

    def __init__(self, output: Any, form: VideoForm) -> None:
        self._output, self._form = output, form
        self._stream: Any = None
        self._next = 0
        if form.cues:
            name = "webvtt" if form.container == "webm" else "mov_text"
            self._stream = output.add_mux_stream(name)
            self._stream.time_base = Fraction(1, 1000)
            if form.language:
                self._stream.metadata["language"] = form.language

    def write_until(self, ms: float) -> None:
        """Write the cues that begin before a moment."""
        import av

        while self._next < len(self._form.cues) and self._form.cues[self._next].start_ms < ms:
            cue = self._form.cues[self._next]
            words = cue.text.encode()
            # each sample of a timed text says how long it is (3GPP TS 26.245)
            data = words if self._form.container == "webm" else len(words).to_bytes(2, "big") + words
            packet = av.Packet(data)
            packet.stream = self._stream
            packet.time_base = Fraction(1, 1000)
            packet.pts = packet.dts = cue.start_ms
            packet.duration = max(1, cue.end_ms - cue.start_ms)
            self._output.mux(packet)
            self._next += 1


def poster_stream(output: Any, size: tuple[int, int]) -> Any:
    """A stream for the picture that stands for the file."""
    stream = output.add_stream("mjpeg", rate=1)
    stream.width, stream.height = size
    stream.pix_fmt = "yuvj420p"
    stream.disposition = ATTACHED_PICTURE
    return stream
