"""Finds for itself, in a finished video, where the picture cuts, where captions stand and where speech begins
and ends.

Runs in the isolated process. It reads only the video file, the sounds and the caption drawings it is asked to
find.
"""

from dataclasses import dataclass
from pathlib import Path
from typing import Any

import av
import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.lettering.drawing import CaptionDrawing
from fox_cadence.core.lettering.motion import at_rest
from fox_cadence.core.screen import Screen
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.errors import InputError
from fox_cadence.media.audio import read_wav
from fox_cadence.media.caption_plates import prepare
from fox_cadence.media.isolated import Progress
from fox_cadence.media.picture import open_media, picture_of
from fox_cadence.media.render import shot_pictures

_SMALL = (96, 96)
_SIGNS = ((4.0, 0.3), (1.5, 0.12))
"""For luma and for chroma: the least change at a cut, and what is added to the usual change before comparing.
"""

_CUT_RATIO = 6.0
_PROBE_S = 0.6
_SEARCH_S = 3.0
_CAPTION_PRESENT = 0.6

Gray = NDArray[np.float32]


@dataclass(frozen=True)
class SoughtSpeech:
    """A sound to look for: the speech of a take (file, first and last sample of speech) near a second of the
    piece."""

    line_id: str
    sound: Path
    onset_sample: int
    end_sample: int
    near_s: float


@dataclass(frozen=True)
class SoughtCaption:
    """A drawing to look for."""

    caption_id: str
    drawing: CaptionDrawing
    shift: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True)
class FoundSpeech:
    """Where speech was found (seconds), and how well it matched, 0 to 1."""

    line_id: str
    start_s: float
    end_s: float
    match: float


@dataclass(frozen=True)
class Findings:
    """Everything found. `captions` maps an id to its runs of frames [in, out) on the screen."""

    frames: int
    width: int
    height: int
    rate: float
    audio_start_s: float
    cuts: tuple[int, ...]
    captions: dict[str, tuple[tuple[int, int], ...]]
    speech: tuple[FoundSpeech, ...]


def find_all(
    video: Path, speech: list[SoughtSpeech], captions: list[SoughtCaption], progress: Progress
) -> Findings:
    """Decode a video and look for cuts, captions and speech."""
    with open_media(video) as container:
        stream = picture_of(container)
        if stream is None:
            raise InputError("it has no picture", video.name)
        total = max(1, stream.frames)
        masks = {item.caption_id: _Mask(item) for item in captions}
        scores: dict[str, list[float]] = {item.caption_id: [] for item in captions}
        changes: list[tuple[float, float]] = [(0.0, 0.0)]
        before: tuple[Gray, Gray] | None = None
        count = 0
        for frame in container.decode(stream):
            luma, *chroma = _planes(frame)
            for caption_id, mask in masks.items():
                scores[caption_id].append(mask.presence(luma))
            small = (_small(luma), np.concatenate([_small(plane) for plane in chroma]))
            if before is not None:
                changes.append((_change(small[0], before[0]), _change(small[1], before[1])))
            before = small
            count += 1
            if count % 10 == 0:
                progress(min(count, total), total)
        found = {caption_id: _runs(values) for caption_id, values in scores.items()}
        size = (stream.width, stream.height, float(stream.average_rate or 0))
    heard, starts_at = _sound(video)
    return Findings(
        frames=count,
        width=size[0],
        height=size[1],
        rate=size[2],
        audio_start_s=starts_at,
        cuts=_cuts(changes),
        captions=found,
        speech=tuple(_find_speech(heard, item) for item in speech),
    )


def speech_inside(
    file: Path, speech: list[SoughtSpeech], progress: Progress
) -> tuple[float, tuple[FoundSpeech, ...]]:
    """Decode a sound file and look for speech; how many seconds it lasts, and what was found."""
    heard, _ = _sound(file)
    found = []
    for number, item in enumerate(speech):
        progress(number, len(speech))
        found.append(_find_speech(heard, item))
    return len(heard) / SAMPLE_RATE_HZ, tuple(found)


def cuts_inside(
    screen: Screen, shots: list[int], clip_files: dict[str, Path], progress: Progress
) -> tuple[int, ...]:
    """Frames of the piece at which the clips of some shots cut by themselves, found as in the video but in
    the clips.

    Args:
        screen: the pictures as they were planned, without captions.
        shots: the numbers of the shots to look into, from 0.
        clip_files: where the original of each clip lies, by hash.
    """
    found: list[int] = []
    for done, number in enumerate(shots):
        shot = screen.shots[number]
        changes: list[tuple[float, float]] = []
        before: tuple[Gray, Gray] | None = None
        for luma, *chroma in shot_pictures(screen, shot, clip_files):
            small = (_small(luma), np.concatenate([_small(plane) for plane in chroma]))
            changes.append(
                (_change(small[0], before[0]), _change(small[1], before[1]))
                if before is not None
                else (0.0, 0.0)
            )
            before = small
        found += [shot.start_frame + frame for frame in _cuts(changes)]
        progress(done + 1, len(shots))
    return tuple(found)


def _planes(frame: av.VideoFrame) -> list[NDArray[np.uint8]]:
    """Y, U and V of a frame of 4:2:0."""
    picture = frame if frame.format.name == "yuv420p" else frame.reformat(format="yuv420p")
    return [
        np.frombuffer(plane, np.uint8).reshape(-1, plane.line_size)[: plane.height, : plane.width]
        for plane in picture.planes
    ]


def _small(plane: NDArray[np.uint8]) -> Gray:
    """The upper half of the picture in few pixels: captions stand in the lower part and must not look like
    cuts."""
    upper = plane[: plane.shape[0] * 55 // 100]
    rows = np.linspace(0, upper.shape[0] - 1, _SMALL[1]).astype(int)
    columns = np.linspace(0, upper.shape[1] - 1, _SMALL[0]).astype(int)
    return np.asarray(upper[np.ix_(rows, columns)], dtype=np.float32)


def _change(now: Gray, before: Gray) -> float:
    return float(np.mean(np.abs(now - before)))


def _cuts(changes: list[tuple[float, float]]) -> tuple[int, ...]:
    """Frames that differ from the one before far more than their neighbours do from theirs, in light or in
    colour."""
    found: set[int] = set()
    for values, (least, added) in zip(np.array(changes).T, _SIGNS, strict=True):
        for frame in range(1, len(values)):
            around = np.concatenate([values[max(1, frame - 12) : frame], values[frame + 1 : frame + 13]])
            usual = float(np.median(around)) if len(around) else 0.0
            if values[frame] > least and values[frame] > _CUT_RATIO * (usual + added):
                found.add(frame)
    return tuple(sorted(found))


class _Mask:
    """What a caption's ink looks like against its surroundings, to tell whether it is there."""

    def __init__(self, sought: SoughtCaption) -> None:
        drawing = sought.drawing
        painted = prepare(drawing, at_rest(drawing), sought.shift)
        self._box = painted.x, painted.y, drawing.box[2], drawing.box[3]
        through = painted.luma_through[::2, ::2].astype(np.float32) / 256
        self._weight = 1 - through
        self._weight /= max(1e-6, float(self._weight.sum()))
        ink = (painted.luma + 128 * painted.luma_through).astype(np.float32)[::2, ::2] / 256
        self._pattern = ink - float(np.sum(self._weight * ink))
        self._norm = float(np.sqrt(np.sum(self._weight * self._pattern**2))) or 1.0

    def presence(self, luma: NDArray[np.uint8]) -> float:
        """Correlation of the picture with the caption where its ink and plate cover the picture, -1 to 1."""
        x, y, width, height = self._box
        seen = luma[y : y + height, x : x + width][::2, ::2].astype(np.float32)
        if seen.shape != self._pattern.shape:
            return 0.0
        seen = seen - float(np.sum(self._weight * seen))
        norm = float(np.sqrt(np.sum(self._weight * seen**2))) or 1.0
        return float(np.sum(self._weight * seen * self._pattern)) / (norm * self._norm)


def _runs(scores: list[float]) -> tuple[tuple[int, int], ...]:
    present = np.array([score > _CAPTION_PRESENT for score in scores], dtype=np.int8)
    edges = np.flatnonzero(np.diff(np.concatenate([[0], present, [0]])))
    return tuple((int(a), int(b)) for a, b in zip(edges[::2], edges[1::2], strict=True))


def _sound(video: Path) -> tuple[Gray, float]:
    """The sound of a file, mono, laid on the clock of its picture where it has one; and where it begins
    (seconds)."""
    with open_media(video) as container:
        if not container.streams.audio:
            return np.zeros(0, np.float32), 0.0
        picture = picture_of(container)
        zero = None if picture is None else float((picture.start_time or 0) * picture.time_base)
        resampler = av.AudioResampler(format="flt", layout="mono", rate=SAMPLE_RATE_HZ)
        parts: list[Any] = []
        starts: float | None = None
        for frame in container.decode(audio=0):
            if starts is None:
                # sound alone begins where it begins: what its decoder has left out before is heard by nobody
                starts = 0.0 if zero is None else float(frame.time or 0) - zero
            frame.pts = None
            parts += [made.to_ndarray()[0] for made in resampler.resample(frame)]
    if not parts:
        return np.zeros(0, np.float32), 0.0
    sound = np.concatenate(parts).astype(np.float32)
    late = round((starts or 0.0) * SAMPLE_RATE_HZ)
    laid = np.pad(sound, (late, 0)) if late > 0 else sound[-late:]
    return laid.astype(np.float32), starts or 0.0


def _find_speech(heard: Gray, sought: SoughtSpeech) -> FoundSpeech:
    """Where the first and the last part of a take are heard: the place where they match the sound best."""
    take = read_wav(sought.sound)
    speech = take[sought.onset_sample : sought.end_sample]
    probe = min(len(speech), round(_PROBE_S * SAMPLE_RATE_HZ))
    start, first = _best_place(heard, speech[:probe], sought.near_s)
    end_near = sought.near_s + (len(speech) - probe) / SAMPLE_RATE_HZ
    end, last = _best_place(heard, speech[len(speech) - probe :], end_near)
    return FoundSpeech(
        sought.line_id, start / SAMPLE_RATE_HZ, (end + probe) / SAMPLE_RATE_HZ, min(first, last)
    )


def _best_place(heard: Gray, probe: Gray, near_s: float) -> tuple[int, float]:
    """Sample at which a probe matches best within some seconds, and its normalised correlation there.

    Below 300 Hz music is loudest and speech says little, so that band is left out of both.
    """
    from scipy.signal import butter, fftconvolve, sosfilt  # half a second to load; only this process needs it

    low = max(0, round((near_s - _SEARCH_S) * SAMPLE_RATE_HZ))
    high = min(len(heard), round((near_s + _SEARCH_S) * SAMPLE_RATE_HZ) + len(probe))
    if high - low <= len(probe) or len(probe) == 0:
        return low, 0.0
    highpass = butter(4, 300, "highpass", fs=SAMPLE_RATE_HZ, output="sos")
    field = sosfilt(highpass, heard[low:high])
    wanted = sosfilt(highpass, probe)
    score = fftconvolve(field, wanted[::-1], mode="valid")
    energy = fftconvolve(field**2, np.ones(len(wanted)), mode="valid")
    level = score / np.sqrt(np.maximum(energy, 1e-9) * max(1e-9, float(np.sum(wanted**2))))
    best = int(np.argmax(level))
    return low + best, float(level[best])
