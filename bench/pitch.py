"""Asked and measured: by how many semitones a voice goes up or down when it is told to."""

import numpy as np

from bench.clock import quantile
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.espeak import EspeakEngine
from fox_cadence.voices.pitch_track import pitches_hz
from fox_cadence.voices.speech_shape import Mono
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice

HEARD = ("orla", "pell", "wade", "ines")
ASKED = (-4, -2, 2, 4)
TEXT = "All along the low shore the rain will run on until morning."


def rows() -> list[str]:
    """A table: for each voice the semitones measured for those asked."""
    engine = EspeakEngine()
    found = [
        "| voice | its own pitch | " + " | ".join(f"{asked:+d} semitones" for asked in ASKED) + " |",
        "| --- " * (2 + len(ASKED)) + "|",
    ]
    try:
        for voice in (voice_by_id(voice_id) for voice_id in HEARD):
            if voice is None:
                continue
            usual = _pitch_hz(engine, voice, 0)
            up = [12 * np.log2(_pitch_hz(engine, voice, asked) / usual) for asked in ASKED]
            found.append(
                f"| {voice.name} | {usual:.0f} Hz | " + " | ".join(f"{each:+.1f}" for each in up) + " |"
            )
    finally:
        engine.close()
    return found


def _pitch_hz(engine: EspeakEngine, voice: Voice, semitones: int) -> float:
    request = VoicingRequest(text=TEXT, voice_id=voice.id, pace=1.0, pitch_semitones=semitones)
    take, sound = make_take(engine, voice, request)
    return median_pitch_hz(sound[take.onset_sample : take.end_sample])


def median_pitch_hz(sound: Mono) -> float:
    """The median of the pitches of a sound."""
    return quantile(pitches_hz(sound), 0.5)
