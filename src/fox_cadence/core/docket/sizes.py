"""About how many bytes a file will have, before it is made."""

from collections.abc import Mapping
from fractions import Fraction

from fox_cadence.core.docket.rows import Codec, Quality, SoundFile, SoundRow, StemsRow, VideoRow
from fox_cadence.core.ticks import SAMPLE_RATE_HZ

SOUND_KBPS: Mapping[SoundFile, int] = {"mp3": 192, "m4a": 160, "opus": 128}
VIDEO_SOUND_KBPS = 192
_BITS_A_PIXEL: Mapping[Codec, float] = {"h264": 0.040, "h265": 0.027, "vp9": 0.030, "av1": 0.020}
"""Bits for each pixel of each frame at good quality, a guess: the drawn sample takes 0.016 of H.264, and
grain and movement take more. Once a row was made, its own bits are taken."""
_LOOK_BITS_A_PIXEL = 0.085
_QUALITY: Mapping[Quality, float] = {"small": 0.45, "good": 1.0, "best": 1.9}
_LOOP_BITS_A_PIXEL = {"gif": 0.7, "webp": 0.25}
_FLAC = 0.55
LOOP_RATE = 15
"""Frames a second a loop has at most."""


def video_bytes(row: VideoRow, size: tuple[int, int], frames: int, rate: float) -> int:
    """About how large a video will be."""
    seconds = frames / rate
    pixels = size[0] * size[1]
    if row.most_mb is not None:
        return round(row.most_mb * 1_000_000)
    if row.coded is None:
        each = min(rate, LOOP_RATE) * seconds
        return round(pixels * each * _LOOP_BITS_A_PIXEL[row.file] / 8)
    sound = VIDEO_SOUND_KBPS * 1000 * seconds / 8
    if row.kbps is not None:
        return round(row.kbps * 1000 * seconds / 8 + sound)
    bits = _LOOK_BITS_A_PIXEL if row.look else _BITS_A_PIXEL[row.coded] * _QUALITY[row.quality]
    return round(pixels * frames * bits / 8 + sound)


def loop_step(rate: Fraction) -> int:
    """Every how manieth frame of a piece is a picture of its loop."""
    return max(1, -(-rate.numerator // (rate.denominator * LOOP_RATE)))


def video_kbps_for(most_mb: float, seconds: float, sound_kbps: int) -> int:
    """The bits a second the picture may have in a file of a size; 0 or less where there is no room for
    any."""
    room = most_mb * 8_000 * 0.97  # the container takes its part
    return int(room / max(seconds, 0.01) - sound_kbps)


def sound_bytes(row: SoundRow | StemsRow, seconds: float, files: int) -> int:
    """About how large the files of a row are together; of WAV to the byte but for their headers."""
    samples = round(seconds * SAMPLE_RATE_HZ)
    if isinstance(row, StemsRow):
        return samples * 2 * row.bits // 8 * files
    if row.file == "wav":
        return samples * row.channels * row.bits // 8 * files
    if row.file == "flac":
        return round(samples * row.channels * row.bits / 8 * _FLAC) * files
    return round(seconds * (row.kbps or SOUND_KBPS[row.file]) * 1000 / 8) * files
