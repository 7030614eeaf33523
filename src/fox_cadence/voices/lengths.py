"""Estimates of how long voices will take: phonemes from the engine, models that learn from every take."""

import logging
import threading
import time
from functools import lru_cache
from typing import Protocol

from cachetools import LRUCache

from fox_cadence.core.length_model import LETTERS, Estimate, KnownSpeech, rests_of
from fox_cadence.core.phoneme_model import VoiceModel, features
from fox_cadence.core.takes import Take, VoicingRequest
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.words import words_of
from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.known_lengths import KnownLengths
from fox_cadence.voices.voice import Voice

_log = logging.getLogger(__name__)
_SAVED_EVERY_S = 5.0
_KEPT_TEXTS = 5000


class Phonemizer(Protocol):
    """Turns texts into phonemes, a string of IPA for each clause."""

    def phonemes(self, texts: list[str], voice: str) -> list[list[str]]: ...


class ModelStore(Protocol):
    """Keeps the models of voices."""

    def voice_model(self, voice_id: str) -> VoiceModel | None:
        """What was learnt of a voice, None where nothing was."""
        ...

    def keep_voice_model(self, voice_id: str, model: VoiceModel) -> None:
        """Keep it in place of what was known."""
        ...


@lru_cache(maxsize=_KEPT_TEXTS)
def plain_request(text: str, voice_id: str, pace: float) -> VoicingRequest:
    """A text said by a voice without any direction."""
    return VoicingRequest(text=text, voice_id=voice_id, pace=pace, pitch_semitones=0.0)


class SpokenLengths:
    """An estimator (core.length_model) over phonemes, for lines that have not been foreseen. Counted texts
    are kept, so that estimating again is quick."""

    def __init__(
        self, phonemizer: Phonemizer, store: ModelStore, foreseen: KnownLengths | None = None
    ) -> None:
        self._phonemizer, self._store, self.foreseen = phonemizer, store, foreseen
        self._counted: LRUCache[tuple[str, str], tuple[float, ...]] = LRUCache(_KEPT_TEXTS)
        self._models: dict[str, VoiceModel] = {}
        self._unsaved: set[str] = set()
        self._saved_at = 0.0
        self._lock = threading.Lock()  # takes are made, and learnt from, two at a time

    def estimate(self, text: str, voice_id: str, pace: float) -> Estimate:
        """What is known of the plain reading; else by phonemes, by letters where there are no phonemes to be
        had."""
        known = self.known(plain_request(text, voice_id, pace))
        if known is not None:
            return known.estimate()
        voice = voice_by_id(voice_id)
        if voice is None or not words_of(text):
            return LETTERS.estimate(text, voice_id, pace)
        try:
            counted = self._features(text, voice)
        except EngineError as error:
            _log.warning("no phonemes, so the length is judged by letters: %s", error)
            return LETTERS.estimate(text, voice_id, pace)
        model = self.model(voice)
        pauses = {
            word: seconds_to_ticks(model.pause_s(sign) / pace)
            for word, sign in rests_of(text).items()
            if sign in ".!?…"  # clause pauses are too short to be told from speech
        }
        whole = seconds_to_ticks(model.seconds(counted) / pace)
        voiced = max(whole - sum(pauses.values()), seconds_to_ticks(0.1))
        return Estimate(voiced, pauses, model.error)

    def known(self, request: VoicingRequest) -> KnownSpeech | None:
        return None if self.foreseen is None else self.foreseen.find(request)

    def version(self, voice_id: str) -> object:
        """The model of the voice: another object once something was learnt."""
        voice = voice_by_id(voice_id)
        return None if voice is None else self.model(voice)

    def prepare(self, texts: list[str], voice_id: str) -> None:
        """Count many texts of a voice in one go; what can't be counted is left to `estimate`."""
        voice = voice_by_id(voice_id)
        if voice is None:
            return
        new = [text for text in dict.fromkeys(texts) if (text, voice.phonemes_by) not in self._counted]
        try:
            found = self._phonemizer.phonemes(new, voice.phonemes_by) if new else []
        except EngineError:
            return
        for text, clauses in zip(new, found, strict=True):
            self._keep(text, voice, features(clauses, text))

    def learn(self, take: Take) -> None:
        """Take a natural take into the model of its voice; one that was directed or given a length teaches
        nothing."""
        voice = voice_by_id(take.voice_id)
        asked = take.request
        directed = asked is not None and (asked.touches or asked.pronunciations or asked.pauses != 1)
        if voice is None or directed or any(pause.written for pause in take.pauses) or take.stretch:
            return
        seconds = (take.end_sample - take.onset_sample) / 48_000 * take.pace
        try:
            counted = self._features(take.text, voice)
        except EngineError:
            return
        with self._lock:
            self._models[voice.id] = self.model(voice).learnt(counted, seconds)
            self._unsaved.add(voice.id)
            if time.monotonic() - self._saved_at > _SAVED_EVERY_S:
                self._save()

    def save(self) -> None:
        """Keep what was learnt since the last time. What a crash loses of it is learnt again from the next
        takes."""
        with self._lock:
            self._save()

    def _save(self) -> None:
        for voice_id in self._unsaved:
            self._store.keep_voice_model(voice_id, self._models[voice_id])
        self._unsaved.clear()
        self._saved_at = time.monotonic()

    def model(self, voice: Voice) -> VoiceModel:
        """What is known of a voice: learnt here, or as it came with the application."""
        if voice.id not in self._models:
            known = self._store.voice_model(voice.id)
            self._models[voice.id] = known or VoiceModel(voice_id=voice.id, language=voice.language)
        return self._models[voice.id]

    def _features(self, text: str, voice: Voice) -> tuple[float, ...]:
        with self._lock:
            known = self._counted.get((text, voice.phonemes_by))
        if known is None:
            known = features(self._phonemizer.phonemes([text], voice.phonemes_by)[0], text)
            self._keep(text, voice, known)
        return known

    def _keep(self, text: str, voice: Voice, counted: tuple[float, ...]) -> None:
        with self._lock:
            self._counted[(text, voice.phonemes_by)] = counted
