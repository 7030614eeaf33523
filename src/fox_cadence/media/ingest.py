"""Taking in a media file: what it is, its proxy, its sound. Runs in the isolated process."""

import json
from fractions import Fraction
from pathlib import Path
from typing import Any

import numpy as np

from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, TICKS_PER_SECOND, samples_to_ticks
from fox_cadence.errors import InputError
from fox_cadence.media.audio import METER, Loudness, Sound, measure_loudness, peaks, wav_bytes
from fox_cadence.media.cube import read_cube
from fox_cadence.media.hdr import NAMES, is_hdr
from fox_cadence.media.isolated import Progress
from fox_cadence.media.picture import STILL_FORMATS, check_size, open_media, picture_of, timed_frames
from fox_cadence.media.proxies import MOST_RATE, PackWriter

LONGEST_CLIP_S = 30 * 60
_MISSING_S = 0.5
_VARIES = 1.25
"""Containers round times to a millisecond, which is a thirtieth of a frame at 30 a second; this is well
beyond it."""
_LEAST_SIDE = 200
"""Of a picture in pixels, for a face in it to be worth looking for."""

LOOK_SUFFIX = ".cube"
PROXY, SOUND, PEAKS = "proxy.pack", "sound.wav", "peaks.json"


def ingest(path: Path, content_hash: str, name: str, folder: Path, faces: bool, progress: Progress) -> Clip:
    """Read a media file and write its proxy and its sound into `folder`.

    Args:
        faces: look for what matters in its picture.

    Raises:
        InputError: it can't be used; says why.
    """
    import av

    if path.suffix == LOOK_SUFFIX:
        read_cube(path.read_bytes())
        return Clip(hash=content_hash, name=name, kind="look")
    remarks: list[str] = []
    with open_media(path) as container:
        kind = _kind(container)
        if kind != "sound":
            stream = picture_of(container)
            check_size(stream.width, stream.height)
        stated_s = float(container.duration or 0) / av.time_base
        check_length(stated_s)
    width, height, picture_ticks = (
        (0, 0, 0) if kind == "sound" else _picture(path, kind, folder, progress, remarks)
    )
    sound = None if kind == "still" else read_sound(path, remarks=remarks)
    loudness = -70.0
    if sound is not None:
        loudness = measure_loudness(sound, true_peak=False).integrated_lufs
        (folder / SOUND).write_bytes(wav_bytes(sound))
        (folder / PEAKS).write_text(json.dumps(peaks(sound)))
    length = samples_to_ticks(len(sound)) if kind == "sound" and sound is not None else picture_ticks
    if kind != "still" and length <= 0:
        raise InputError("it has no length")
    if kind != "still" and stated_s - length / TICKS_PER_SECOND > _MISSING_S:
        remarks.append(
            f"it ends after {length / TICKS_PER_SECOND:.1f} s though it says {stated_s:.1f}; the rest is "
            "missing"
        )
    return Clip(
        hash=content_hash,
        name=name,
        kind=kind,
        width=width,
        height=height,
        length_ticks=length,
        has_sound=sound is not None,
        loudness_lufs=round(loudness, 2),
        meter=METER,
        remarks=tuple(remarks),
        interest=_interest(path) if faces and min(width, height) >= _LEAST_SIDE else None,
    )


def _interest(path: Path) -> tuple[float, float] | None:
    from fox_cadence.media.interest import point_of_interest  # with a model that sounds have no use for

    return point_of_interest(path)


def check_length(seconds: float) -> None:
    """Raises InputError for a clip that is too long."""
    if seconds > LONGEST_CLIP_S:
        raise InputError(
            f"it lasts {seconds / 60:.0f} minutes; a clip may last {LONGEST_CLIP_S // 60}. Cut out the part "
            "you need"
        )


def _kind(container: Any) -> Any:
    picture = picture_of(container)
    if picture is not None:
        names = set(container.format.name.split(","))
        if names & STILL_FORMATS or (picture.frames == 1 and not container.streams.audio):
            return "still"
        return "video"
    if container.streams.audio:
        return "sound"
    raise InputError("it has neither picture nor sound")


def _picture(
    path: Path, kind: str, folder: Path, progress: Progress, remarks: list[str]
) -> tuple[int, int, int]:
    import av

    writer: PackWriter | None = None
    width = height = 0
    last = last_kept = -TICKS_PER_SECOND
    step = TICKS_PER_SECOND // 25
    shortest, longest = LONGEST_CLIP_S * TICKS_PER_SECOND, 0
    damaged: list[bool] = []
    with open_media(path) as container:
        stream = picture_of(container)
        total = max(1, int(float(container.duration or 0) / av.time_base * 1000))
        if stream.average_rate:
            step = int(TICKS_PER_SECOND / Fraction(stream.average_rate))
        for timed in timed_frames(container, damaged=lambda: damaged.append(True)):
            if writer is None:
                width, height = timed.frame.width, timed.frame.height
                check_size(width, height)
                writer = PackWriter(width, height)
            if timed.ticks <= last:
                continue
            if last >= 0:
                shortest, longest = min(shortest, timed.ticks - last), max(longest, timed.ticks - last)
            last = timed.ticks
            check_length(last / TICKS_PER_SECOND)
            if last - last_kept >= TICKS_PER_SECOND // MOST_RATE:
                writer.add(last, timed.frame)
                last_kept = last
                progress(min(total, last * 1000 // TICKS_PER_SECOND), total)
            if kind == "still":
                break
        transfer = int(stream.codec_context.color_trc or 0)
    if writer is None:
        raise InputError("it has no picture that could be read")
    if is_hdr(transfer):
        remarks.append(f"its high dynamic range ({NAMES[transfer]}) was brought to BT.709")
    if longest > shortest * _VARIES:
        rates = (TICKS_PER_SECOND / longest, TICKS_PER_SECOND / shortest)
        remarks.append(
            f"its frame rate varies ({rates[0]:.0f} to {rates[1]:.0f} a second); each frame keeps its own "
            "time"
        )
    if damaged:
        remarks.append(
            f"it is damaged after {max(0, last) / TICKS_PER_SECOND:.1f} s and was taken up to there"
        )
    writer.write(folder / PROXY)
    return width, height, 0 if kind == "still" else last + step


def read_sound(path: Path, channels: int = 2, remarks: list[str] | None = None) -> Sound | None:
    """All sound of a file at 48 kHz, a column a channel; silence stands where it begins later than its
    picture.

    What had to be done to it is added to `remarks`.
    """
    import av

    told = remarks if remarks is not None else []
    with open_media(path) as container:
        if not container.streams.audio:
            return None
        stream = container.streams.audio[0]
        video, origin = picture_of(container), 0.0
        if video is not None and video.start_time is not None:
            origin = float(video.start_time * video.time_base)
        resampler = av.AudioResampler(
            format="flt", layout="stereo" if channels == 2 else "mono", rate=SAMPLE_RATE_HZ
        )
        parts: list[Sound] = []
        begins: float | None = None
        if stream.channels > channels and channels == 2:
            told.append(f"its {stream.channels} channels were mixed to two")
        samples = 0
        try:
            for frame in container.decode(stream):
                if begins is None:
                    begins = float(frame.time or 0.0)
                frame.pts = None
                parts += [made.to_ndarray().reshape(-1, channels) for made in resampler.resample(frame)]
                samples += frame.samples
                check_length(samples / max(1, frame.sample_rate))
        except av.error.FFmpegError:
            told.append(
                f"its sound is damaged after {samples / max(1, stream.rate or 1):.1f} s and was taken up to "
                "there"
            )
        parts += [made.to_ndarray().reshape(-1, channels) for made in resampler.resample(None)]
    if not parts:
        return None
    sound = np.concatenate(parts).astype(np.float32)
    # sound alone begins where it begins: what its decoder leaves out before is heard by nobody
    late = round(((begins or 0.0) - origin) * SAMPLE_RATE_HZ) if video is not None else 0
    return np.pad(sound, ((late, 0), (0, 0))) if late > 0 else sound[-late:]


def heard_of_file(path: Path, progress: Progress) -> tuple[Loudness, float] | None:
    """Loudness and true peak of a finished file's sound as it is decoded, and how many seconds it lasts; None
    where it has none."""
    sound = read_sound(path)
    return None if sound is None else (measure_loudness(sound), len(sound) / SAMPLE_RATE_HZ)


def loudness_of_file(path: Path, progress: Progress) -> Loudness | None:
    """Loudness and true peak of a finished file's sound as it is decoded; None where it has none."""
    sound = read_sound(path)
    return None if sound is None else measure_loudness(sound)
