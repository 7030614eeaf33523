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

from fox_cadence.core.scientific import part
from fox_cadence.core.screen import Screen
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.errors import InputError
from fox_cadence.media.audio import read_wav
from fox_cadence.media.isolated import Progress
from fox_cadence.media.picture import open_media, picture_of
from fox_cadence.media.render import shot_pictures
from fox_cadence.media.sight import Gray, Sight, SoughtCaption, planes_seen

_PROBE_S = 0.6
_SEARCH_S = 3.0


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
        sight = Sight(captions)
        for frame in container.decode(stream):
            sight.see(planes_seen(frame))
            if sight.frames % 10 == 0:
                progress(min(sight.frames, total), total)
        size = (stream.width, stream.height, float(stream.average_rate or 0))
    heard, starts_at = _sound(video)
    return Findings(
        frames=sight.frames,
        width=size[0],
        height=size[1],
        rate=size[2],
        audio_start_s=starts_at,
        cuts=sight.cuts,
        captions=sight.captions,
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
        sight = Sight()
        for planes in shot_pictures(screen, shot, clip_files):
            sight.see(planes)
        found += [shot.start_frame + frame for frame in sight.cuts]
        progress(done + 1, len(shots))
    return tuple(found)


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
    butter = part("scipy.signal").butter
    fftconvolve = part("scipy.signal").fftconvolve
    sosfilt = part("scipy.signal").sosfilt

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
