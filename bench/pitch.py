"""Asked and measured: by how many semitones a voice goes up or down when it is told to."""

import numpy as np

from bench.clock import quantile
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.voices.catalogue import Voice, voice_by_id
from fox_cadence.voices.espeak import EspeakEngine
from fox_cadence.voices.speech_shape import Mono
from fox_cadence.voices.takes import make_take

HEARD = ("orla", "pell", "wade", "ines")
ASKED = (-4, -2, 2, 4)
TEXT = "All along the low shore the rain will run on until morning."
_LOW_HZ, _HIGH_HZ = 60, 420
_FRAME = SAMPLE_RATE_HZ * 40 // 1000
_VOICED = 0.6


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


def pitches_hz(sound: Mono) -> list[float]:
    """For frames of 40 ms the lag at which each is most like itself, where it is so at all, as Hz."""
    shortest, longest = SAMPLE_RATE_HZ // _HIGH_HZ, SAMPLE_RATE_HZ // _LOW_HZ
    found: list[float] = []
    for start in range(0, len(sound) - _FRAME - longest, _FRAME // 2):
        frame = sound[start : start + _FRAME].astype(np.float64)
        power = float(np.dot(frame, frame))
        if power < 1e-3:
            continue
        later = [
            sound[start + lag : start + lag + _FRAME].astype(np.float64) for lag in range(shortest, longest)
        ]
        alike = np.array([np.dot(frame, each) / np.sqrt(power * np.dot(each, each) + 1e-9) for each in later])
        near = np.flatnonzero(alike > max(_VOICED, float(alike.max()) - 0.05))
        if len(near):  # the first lag that is as good as the best: later ones are its multiples
            first = int(near[0])
            while first + 1 < len(alike) and alike[first + 1] > alike[first]:
                first += 1
            found.append(SAMPLE_RATE_HZ / (first + shortest))
    return found
