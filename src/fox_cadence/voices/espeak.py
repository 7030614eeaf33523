"""espeak-ng as an engine: says what its worker process is to be asked."""

import numpy as np

from fox_cadence.voices.engine import LONGEST_TEXT, Abilities, Speech, Utterance, checked_text
from fox_cadence.voices.worker_link import WorkerLink

NATURAL_WPM = 175
SLOWEST_WPM, FASTEST_WPM = 80, 450
_LIMIT_S = 60.0
"""The worker gives up a line after 30 s by itself."""


class EspeakEngine:
    """Speaks through a worker process."""

    def __init__(self) -> None:
        self._worker = WorkerLink("fox_cadence.voices.espeak_worker", "espeak-ng", _LIMIT_S)

    def abilities(self) -> Abilities:
        return Abilities(pitch=True, pace_min=SLOWEST_WPM / NATURAL_WPM, pace_max=FASTEST_WPM / NATURAL_WPM)

    def say(self, utterance: Utterance) -> Speech:
        return self._worker.speech(
            {
                "text": checked_text(utterance.text),
                "voice": utterance.voice,
                "wpm": int(np.clip(round(NATURAL_WPM * utterance.pace), SLOWEST_WPM, FASTEST_WPM)),
                "pitch": int(np.clip(utterance.pitch, 0, 99)),
                "range": int(np.clip(utterance.liveliness, 0, 99)),
            }
        )

    def phonemes(self, texts: list[str], voice: str) -> list[list[str]]:
        """The phonemes of texts, a string of IPA for each clause, single phonemes joined by `_`.

        Of a text that is too long to say only the beginning is looked at: it must not cost the others their estimate.

        Raises:
            EngineError: the engine died, hung, or does not have the voice.
        """
        header, _ = self._worker.ask({"texts": [checked_text(text[:LONGEST_TEXT]) for text in texts], "voice": voice})
        return [[str(clause) for clause in clauses] for clauses in header["phonemes"]]

    def close(self) -> None:
        self._worker.close()
