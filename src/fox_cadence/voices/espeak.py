"""espeak-ng as an engine: says what its worker process is to be asked."""

from dataclasses import replace

import numpy as np

from fox_cadence.errors import EngineError
from fox_cadence.voices.engine import LONGEST_TEXT, Abilities, Outline, Speech, Utterance, checked_text
from fox_cadence.voices.ipa_signs import ESPEAK_LETTERS, UnsoundedError, letters_of
from fox_cadence.voices.worker_link import WorkerLink

NATURAL_WPM = 175
SLOWEST_WPM, FASTEST_WPM = 80, 450
_LIMIT_S = 60.0
"""The worker gives up a line after 30 s by itself."""


class EspeakEngine:
    """Speaks through a worker process."""

    def __init__(self) -> None:
        self._worker = WorkerLink("fox_cadence.voices.espeak_worker", "espeak-ng", _LIMIT_S)

        self._letters: dict[str, dict[str, str]] = {}

    def abilities(self) -> Abilities:
        return Abilities(pitch=True, pace_min=SLOWEST_WPM / NATURAL_WPM, pace_max=FASTEST_WPM / NATURAL_WPM)

    def say(self, utterance: Utterance) -> Speech:
        text, places = self._marked(utterance) if utterance.sounds else (checked_text(utterance.text), None)
        speech = self._worker.speech(
            {
                "text": text,
                "voice": utterance.voice,
                "wpm": int(np.clip(round(NATURAL_WPM * utterance.pace), SLOWEST_WPM, FASTEST_WPM)),
                "pitch": int(np.clip(utterance.pitch, 0, 99)),
                "range": int(np.clip(utterance.liveliness, 0, 99)),
                "marked": places is not None,
            }
        )
        if places is None:
            return speech
        onsets = tuple((places[min(at, len(places) - 1)], sample) for at, sample in speech.onsets)
        return replace(speech, onsets=onsets)

    def foresee(self, utterance: Utterance) -> Outline | None:
        return None  # its sound is as quick as anything it could tell beforehand

    def _marked(self, utterance: Utterance) -> tuple[str, list[int]]:
        """The text with its pronunciations in the library's letters, and for each character the one it came
        from."""
        text = checked_text(utterance.text).replace("[[", "((")  # the editor's own brackets are no phonemes
        known = self._known_letters(utterance.voice)
        made, places, at = "", list[int](), 0
        for start, end, ipa in sorted(utterance.sounds):
            try:
                said = f"[[{letters_of(ipa, known)}]]"
            except UnsoundedError as error:
                raise EngineError(
                    f"This voice has no sound for “{error.sign}” in /{ipa}/. Spell the word as it sounds "
                    "instead."
                ) from error
            made += text[at:start] + said
            places += [*range(at, start), *[start] * len(said)]
            at = end
        return made + text[at:], [*places, *range(at, len(text) + 1)]

    def _known_letters(self, voice: str) -> dict[str, str]:
        """The library's letters by the sound they have in a voice, asked for once."""
        language = voice.partition("+")[0]
        if language not in self._letters:
            header, _ = self._worker.ask({"letters": list(ESPEAK_LETTERS), "voice": language})
            known: dict[str, str] = {}
            for letter, ipa in zip(ESPEAK_LETTERS, header["ipa"], strict=True):
                if ipa:
                    known.setdefault(str(ipa), letter)
            self._letters[language] = known
        return self._letters[language]

    def phonemes(self, texts: list[str], voice: str) -> list[list[str]]:
        """The phonemes of texts, a string of IPA for each clause, single phonemes joined by `_`.

        Of a text that is too long to say only the beginning is looked at: it must not cost the others their
        estimate.

        Raises:
            EngineError: the engine died, hung, or does not have the voice.
        """
        header, _ = self._worker.ask(
            {"texts": [checked_text(text[:LONGEST_TEXT]) for text in texts], "voice": voice}
        )
        return [[str(clause) for clause in clauses] for clauses in header["phonemes"]]

    def close(self) -> None:
        self._worker.close()
