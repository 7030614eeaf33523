"""Styles, asked and measured: what each does to the length, the pitch and its spread of a voice."""

import numpy as np

from fox_cadence.core.delivery import STYLES, Delivery, Manner, manner_of
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.voices.catalogue import sample_text, voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.pitch_track import pitches_hz
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice

VOICES = ("en-maren", "en-finch", "es-alba", "ja-akane", "wren", "orla")


def rows() -> list[str]:
    """A table: for each style what it asks for, and what each voice does: length, semitones, spread."""
    engines = Engines()
    voices = [voice for voice in (voice_by_id(each) for each in VOICES) if voice is not None]
    found = [
        "| style | asks for | " + " | ".join(voice.name for voice in voices) + " |",
        "| --- " * (2 + len(voices)) + "|",
    ]
    try:
        plain = {voice.id: _heard(engines, voice, manner_of(Delivery())) for voice in voices}
        for style in STYLES[1:]:
            manner = manner_of(Delivery(style=style.id))
            asked = f"×{1 / manner.pace:.2f}, {manner.pitch_semitones:+.1f} st, ×{manner.pitch_range:.2f}"
            cells = []
            for voice in voices:
                length, pitch, spread = _heard(engines, voice, manner)
                before = plain[voice.id]
                cells.append(
                    f"×{length / before[0]:.2f}, {12 * np.log2(pitch / before[1]):+.1f} st, "
                    f"×{spread / before[2]:.2f}"
                )
            found.append(f"| {style.name} | {asked} | " + " | ".join(cells) + " |")
    finally:
        engines.close()
    return found


def _heard(engines: Engines, voice: Voice, manner: Manner) -> tuple[float, float, float]:
    """Samples from the first sound to the last, median pitch (Hz), its spread (semitones, middle 80 %)."""
    request = VoicingRequest(
        text=sample_text(voice),
        voice_id=voice.id,
        pace=manner.pace,
        pitch_semitones=manner.pitch_semitones,
        pitch_range=manner.pitch_range if voice.has_range else 1.0,
    )
    take, sound = make_take(engines.of(voice), voice, request)
    pitches = np.array(pitches_hz(sound[take.onset_sample : take.end_sample]))
    heights = 12 * np.log2(pitches)
    spread = float(np.quantile(heights, 0.9) - np.quantile(heights, 0.1))
    return float(take.end_sample - take.onset_sample), float(np.median(pitches)), spread
