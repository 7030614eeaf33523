"""Neural voices as an engine: a worker process for each family, so that who uses one loads one."""

import threading

from cachetools import LRUCache

from fox_cadence.voices.engine import Abilities, Outline, Speech, Utterance, checked_text
from fox_cadence.voices.worker_link import WorkerLink, phoneme_pairs

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

    Args:
        name: what it is called in messages.
        unit_s, directed: as in `Abilities`.
        foresees: it knows a line's lengths at a fraction of what its sound costs.
    """

    def __init__(self, name: str, unit_s: float = 0.0, directed: bool = False, foresees: bool = True) -> None:
        self._worker = WorkerLink("fox_cadence.voices.neural_worker", name, _LIMIT_S)
        self._abilities = Abilities(directed, 0.4, 2.5, unit_s, directed)
        self._foresees = foresees
        self._said: LRUCache[Utterance, Speech] = LRUCache(_KEPT_SAMPLES, getsizeof=_samples)
        self._lock = threading.Lock()

    def abilities(self) -> Abilities:
        return self._abilities

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
        return self._worker.speech(self._asked(utterance))

    def foresee(self, utterance: Utterance) -> Outline | None:
        if not self._foresees:
            return None
        header, _ = self._worker.ask({**self._asked(utterance), "outline": True})
        return Outline(
            rate_hz=int(header["rate"]),
            runs=tuple((int(start), int(end)) for start, end in header["runs"]),
            onsets=tuple((int(at), int(sample)) for at, sample in header["words"]),
            phonemes=phoneme_pairs(header),
        )

    def _asked(self, utterance: Utterance) -> dict[str, object]:
        touches = [[each.start, each.end, each.pace, each.semitones] for each in utterance.touches]
        return {
            "text": checked_text(utterance.text), "voice": utterance.voice, "pace": utterance.pace,
            "sounds": [list(part) for part in utterance.sounds], "semitones": utterance.semitones,
            "spread": utterance.spread, "touches": touches,
        }  # fmt: skip

    def close(self) -> None:
        self._worker.close()
