"""Neural voices as an engine: a worker process for each family, so that who uses one loads one."""

import threading

from cachetools import LRUCache

from fox_cadence.voices.engine import Abilities, Speech, Utterance, checked_text
from fox_cadence.voices.worker_link import WorkerLink

_LIMIT_S = 120.0
_KEPT_SAMPLES = 24_000 * 600
"""Ten minutes of speech, 58 MB."""


def _samples(speech: Speech) -> int:
    return max(1, len(speech.samples))


class NeuralEngine:
    """Speaks through a worker process that loads a voice when it is first asked for it (about two
    seconds).

    What was said last is kept: a take that is made at another pace begins with the line as it was said
    before, and the same utterance always sounds the same.
    """

    def __init__(self, name: str, unit_s: float = 0.0) -> None:
        self._worker = WorkerLink("fox_cadence.voices.neural_worker", name, _LIMIT_S)
        self._unit_s = unit_s
        self._said: LRUCache[Utterance, Speech] = LRUCache(_KEPT_SAMPLES, getsizeof=_samples)
        self._lock = threading.Lock()

    def abilities(self) -> Abilities:
        return Abilities(pitch=False, pace_min=0.4, pace_max=2.5, unit_s=self._unit_s)

    def say(self, utterance: Utterance) -> Speech:
        with self._lock:
            known = self._said.get(utterance)
        if known is not None:
            return known
        speech = self._speak(utterance)
        speech.samples.flags.writeable = False  # it is kept, and given out again
        with self._lock:
            if _samples(speech) <= _KEPT_SAMPLES:
                self._said[utterance] = speech
        return speech

    def _speak(self, utterance: Utterance) -> Speech:
        text = checked_text(utterance.text)
        sounds = [list(part) for part in utterance.sounds]
        return self._worker.speech(
            {"text": text, "voice": utterance.voice, "pace": utterance.pace, "sounds": sounds}
        )

    def close(self) -> None:
        self._worker.close()
