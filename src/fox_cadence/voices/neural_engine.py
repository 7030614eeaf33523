"""Neural voices as an engine: a worker process for each family, so that who uses one loads one."""

from fox_cadence.voices.engine import Abilities, Speech, Utterance, checked_text
from fox_cadence.voices.worker_link import WorkerLink

_LIMIT_S = 120.0


class NeuralEngine:
    """Speaks through a worker process that loads a voice when it is first asked for it (about two
    seconds)."""

    def __init__(self, name: str) -> None:
        self._worker = WorkerLink("fox_cadence.voices.neural_worker", name, _LIMIT_S)

    def abilities(self) -> Abilities:
        return Abilities(pitch=False, pace_min=0.4, pace_max=2.5)

    def say(self, utterance: Utterance) -> Speech:
        text = checked_text(utterance.text)
        sounds = [list(part) for part in utterance.sounds]
        return self._worker.speech(
            {"text": text, "voice": utterance.voice, "pace": utterance.pace, "sounds": sounds}
        )

    def close(self) -> None:
        self._worker.close()
