"""A video file being written: pictures come to it coded, and the sound and captions of their time go beside
them."""

from collections.abc import Iterable, Iterator
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING, Any

import numpy as np

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound, read_wav
from fox_cadence.media.video_forms import (
    CaptionTrack,
    VideoForm,
    poster_stream,
    sound_stream,
    video_stream,
)

if TYPE_CHECKING:
    import av


class VideoFile:
    """The streams of an opened file, written in step.

    Args:
        sound_file: WAV of the mix, 48 kHz stereo, as long as the frames that are written.
    """

    def __init__(
        self, output: Any, form: VideoForm, size: tuple[int, int], rate: Fraction, sound_file: Path
    ) -> None:
        self._output, self._rate = output, rate
        self.video = video_stream(output, form, size, rate)
        audio, samples = sound_stream(output, form)
        self._track = CaptionTrack(output, form)
        self._poster = poster_stream(output, size) if form.poster is not None else None
        self._sound = _sound_packets(audio, read_wav(sound_file), samples)
        self._pending = next(self._sound, None)

    def stand_for(self, picture: bytes) -> None:
        """Put a picture (JPEG) into the file that is shown where the video is not played."""
        import av

        if self._poster is None:
            return
        packet = av.Packet(picture)
        packet.stream = self._poster
        packet.pts = packet.dts = 0
        packet.time_base = Fraction(1, 1)
        packet.is_keyframe = True
        self._output.mux(packet)

    def write(self, packets: Iterable[Any], frames: int) -> None:
        """Write coded pictures, and what is heard and read until so many frames have passed."""
        self._output.mux(packets)
        shown_s = frames / self._rate
        while self._pending is not None and self._pending[0] <= shown_s:
            self._output.mux(self._pending[1])
            self._pending = next(self._sound, None)
        self._track.write_until(float(shown_s * 1000))

    def end(self, packets: Iterable[Any]) -> None:
        """Write the last pictures, and the rest."""
        self._output.mux(packets)
        while self._pending is not None:
            self._output.mux(self._pending[1])
            self._pending = next(self._sound, None)
        self._track.write_until(float("inf"))


def poster_picture(frame: "av.VideoFrame") -> bytes:
    """A frame as JPEG."""
    import av

    coder: Any = av.CodecContext.create("mjpeg", "w")
    coder.width, coder.height, coder.pix_fmt = frame.width, frame.height, "yuvj420p"
    coder.time_base = Fraction(1, 1)
    picture = frame.reformat(format="yuvj420p")
    picture.pts, picture.time_base = 0, Fraction(1, 1)
    return b"".join(bytes(packet) for packet in (*coder.encode(picture), *coder.encode(None)))


def _sound_packets(stream: Any, sound: Sound, size: int) -> Iterator[tuple[Fraction, Any]]:
    """Encoded sound with the second at which each block of so many samples begins."""
    import av

    for start in range(0, len(sound), size):
        block = np.ascontiguousarray(sound[start : start + size].T.astype(np.float32))
        frame = av.AudioFrame.from_ndarray(block, format="fltp", layout="stereo")
        frame.sample_rate = SAMPLE_RATE_HZ
        frame.pts = start
        frame.time_base = Fraction(1, SAMPLE_RATE_HZ)
        for packet in stream.encode(frame):
            yield Fraction(start, SAMPLE_RATE_HZ), packet
    for packet in stream.encode(None):
        yield Fraction(len(sound), SAMPLE_RATE_HZ), packet
