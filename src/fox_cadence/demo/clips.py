"""Makes the clips and the bed of the sample project: scenes painted and encoded, music and sea played by
formula."""

from fractions import Fraction
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.demo.scenes import SCENES
from fox_cadence.drawn.files import write_video
from fox_cadence.media.audio import Sound, wav_bytes
from fox_cadence.media.isolated import Progress

RATE_FPS = 30
WITH_SEA = {"bay", "rocks", "tide"}


def draw_clip(scene: str, seconds: float, width: int, height: int, target: Path, progress: Progress) -> None:
    """Paint a scene into an MP4 file at 30 frames a second."""
    sound = sea(seconds) if scene in WITH_SEA else None
    write_video(SCENES[scene], seconds, (width, height), Fraction(RATE_FPS), target, progress, sound)


def sea(seconds: float) -> Sound:
    """Waves: noise without its highs that swells and falls."""
    count = round(seconds * SAMPLE_RATE_HZ)
    noise = np.random.default_rng(4).standard_normal((count, 2))
    spectrum = np.fft.rfft(noise, axis=0)
    hertz = np.fft.rfftfreq(count, 1 / SAMPLE_RATE_HZ)[:, np.newaxis]
    soft = np.fft.irfft(spectrum / (1 + (hertz / 500) ** 1.5), n=count, axis=0)
    t = np.arange(count)[:, np.newaxis] / SAMPLE_RATE_HZ
    swell = 0.35 + 0.65 * (0.5 - 0.5 * np.cos(2 * np.pi * t / 3.4 + np.array([[0.0, 0.5]]))) ** 2
    return np.asarray(0.25 * soft * swell / np.abs(soft).max(), dtype=np.float32)


_CHORDS = ((45, 52, 57, 60), (41, 48, 53, 60), (48, 55, 60, 64), (43, 50, 55, 59))
_BAR_S = 4.0


def bed_music() -> Sound:
    """Sixteen seconds that loop: a soft pad of four chords and a few plucked notes."""
    count = round(_BAR_S * len(_CHORDS) * SAMPLE_RATE_HZ)
    made = np.zeros((count, 2))
    chance = np.random.default_rng(9)
    for bar, chord in enumerate(_CHORDS):
        for note in chord:
            _ring(
                made, bar * _BAR_S - 0.4, _BAR_S + 1.2, note, 0.05, attack=0.9, pan=0.5 + 0.3 * (note % 3 - 1)
            )
        for beat in range(8):
            note = chord[int(chance.integers(len(chord)))] + 12 * int(chance.integers(1, 3))
            if chance.random() < 0.62:
                _ring(
                    made,
                    (bar + beat / 8) * _BAR_S,
                    1.4,
                    note,
                    0.045,
                    attack=0.008,
                    pan=float(chance.random()),
                )
    return np.asarray(made / np.abs(made).max() * 0.6, dtype=np.float32)


def _ring(
    target: NDArray[np.float64],
    at_s: float,
    length_s: float,
    note: int,
    level: float,
    *,
    attack: float,
    pan: float,
) -> None:
    """Add a note (MIDI number) that wraps around the end, so that the loop has no seam."""
    t = np.arange(round(length_s * SAMPLE_RATE_HZ)) / SAMPLE_RATE_HZ
    hertz = 440 * 2 ** ((note - 69) / 12)
    tone = sum(np.sin(2 * np.pi * hertz * k * t) / k**2.2 for k in (1, 2, 3, 4))
    shape = np.minimum(1, t / attack) * np.minimum(1, (length_s - t) / 0.5) * np.exp(-t / (length_s * 0.6))
    sound = level * tone * shape
    places = (round(at_s * SAMPLE_RATE_HZ) + np.arange(len(t))) % len(target)
    np.add.at(target[:, 0], places, sound * (1 - pan))
    np.add.at(target[:, 1], places, sound * pan)


def write_bed(target: Path) -> None:
    target.write_bytes(wav_bytes(bed_music()))
