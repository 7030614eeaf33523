"""Taking in a media file: what it is, its proxy, its sound. Runs in the isolated process."""

import json
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np

from fox_cadence.core.project import Clip
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, TICKS_PER_SECOND, samples_to_ticks
from fox_cadence.errors import InputError
from fox_cadence.media.audio import Sound, measure_loudness, peaks, wav_bytes
from fox_cadence.media.isolated import Progress
from fox_cadence.media.picture import STILL_FORMATS, check_size, open_media, timed_frames
from fox_cadence.media.proxies import MOST_RATE, PackWriter

LONGEST_CLIP_S = 30 * 60
PROXY, SOUND, PEAKS = "proxy.pack", "sound.wav", "peaks.json"


def ingest(path: Path, content_hash: str, name: str, folder: Path, progress: Progress) -> Clip:
    """Read a media file and write its proxy and its sound into `folder`.

    Raises:
        InputError: it can't be used; says why.
    """
    with open_media(path) as container:
        kind = _kind(container)
        if kind != "sound":
            stream = container.streams.video[0]
            check_size(stream.width, stream.height)
        length_s = float(container.duration or 0) / av.time_base
        if length_s > LONGEST_CLIP_S:
            raise InputError(f"it lasts {length_s / 60:.0f} minutes; a clip may last {LONGEST_CLIP_S // 60}")
    try:
        width, height, picture_ticks = (0, 0, 0) if kind == "sound" else _picture(path, kind, folder, progress)
        sound = None if kind == "still" else read_sound(path)
    except av.error.FFmpegError as error:
        raise InputError(f"the file is damaged and could not be read to its end ({error.strerror})") from error
    loudness = -70.0
    if sound is not None:
        loudness = measure_loudness(sound).integrated_lufs
        (folder / SOUND).write_bytes(wav_bytes(sound))
        (folder / PEAKS).write_text(json.dumps(peaks(sound)))
    length = samples_to_ticks(len(sound)) if kind == "sound" and sound is not None else picture_ticks
    if kind != "still" and length <= 0:
        raise InputError("it has no length")
    return Clip(
        hash=content_hash,
        name=name,
        kind=kind,
        width=width,
        height=height,
        length_ticks=length,
        has_sound=sound is not None,
        loudness_lufs=round(loudness, 2),
    )


def _kind(container: Any) -> Any:
    if container.streams.video and not _is_cover_picture(container):
        names = set(container.format.name.split(","))
        if names & STILL_FORMATS or (container.streams.video[0].frames == 1 and not container.streams.audio):
            return "still"
        return "video"
    if container.streams.audio:
        return "sound"
    raise InputError("it has neither picture nor sound")


def _is_cover_picture(container: Any) -> bool:
    """Music files carry their cover as a video stream of one picture."""
    stream = container.streams.video[0]
    return bool(container.streams.audio) and "attached_pic" in str(getattr(stream, "disposition", "")).lower()


def _picture(path: Path, kind: str, folder: Path, progress: Progress) -> tuple[int, int, int]:
    writer: PackWriter | None = None
    width = height = 0
    last = last_kept = -TICKS_PER_SECOND
    step = TICKS_PER_SECOND // 25
    with open_media(path) as container:
        total = max(1, int(float(container.duration or 0) / av.time_base * 1000))
        rate = container.streams.video[0].average_rate
        if rate:
            step = int(TICKS_PER_SECOND / Fraction(rate))
        for timed in timed_frames(container):
            if writer is None:
                width, height = timed.frame.width, timed.frame.height
                check_size(width, height)
                writer = PackWriter(width, height)
            if timed.ticks <= last:
                continue
            last = timed.ticks
            if last - last_kept >= TICKS_PER_SECOND // MOST_RATE:
                writer.add(last, timed.frame)
                last_kept = last
                progress(min(total, last * 1000 // TICKS_PER_SECOND), total)
            if kind == "still":
                break
    if writer is None:
        raise InputError("it has no picture that could be read")
    writer.write(folder / PROXY)
    return width, height, 0 if kind == "still" else last + step


def read_sound(path: Path, channels: int = 2) -> Sound | None:
    """All sound of a file at 48 kHz, a column a channel; silence stands where it begins later than its picture."""
    with open_media(path) as container:
        if not container.streams.audio:
            return None
        stream = container.streams.audio[0]
        origin = 0.0
        if container.streams.video and container.streams.video[0].start_time is not None:
            video = container.streams.video[0]
            origin = float(video.start_time * video.time_base)
        resampler = av.AudioResampler(format="flt", layout="stereo" if channels == 2 else "mono", rate=SAMPLE_RATE_HZ)
        parts: list[Sound] = []
        begins: float | None = None
        for frame in container.decode(stream):
            if begins is None:
                begins = float(frame.time or 0.0)
            frame.pts = None
            parts += [made.to_ndarray().reshape(-1, channels) for made in resampler.resample(frame)]
        parts += [made.to_ndarray().reshape(-1, channels) for made in resampler.resample(None)]
    if not parts:
        return None
    sound = np.concatenate(parts).astype(np.float32)
    late = round(((begins or 0.0) - origin) * SAMPLE_RATE_HZ)
    return np.pad(sound, ((late, 0), (0, 0))) if late > 0 else sound[-late:]
