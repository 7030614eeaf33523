"""How lines will be said, known before their sound: asked of the engines in the background, and kept."""

import logging
import threading
import time
from collections.abc import Callable, Iterable
from concurrent.futures import Executor, wait
from typing import Protocol

from cachetools import LRUCache

from fox_cadence.core.kept import Kept
from fox_cadence.core.length_model import KnownSpeech
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.ticks import samples_to_ticks
from fox_cadence.errors import EngineError, StorageError
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engine import Engine
from fox_cadence.voices.reading import Reading
from fox_cadence.voices.takes import foresee_take
from fox_cadence.voices.voice import Voice

_log = logging.getLogger(__name__)
_MOST_KEPT = 20_000
_MOST_WAITING = 2_000
_SAVED_TOGETHER = 20

EngineOf = Callable[[Voice], Engine]


class KnownStore(Protocol):
    """Keeps what is known of requests, by their keys."""

    def find(self, key: str) -> KnownSpeech | None:
        """What was kept of a request, None where nothing was."""
        ...

    def keep(self, found: dict[str, KnownSpeech]) -> None:
        """Keep what is known of requests."""
        ...


class KnownLengths:
    """Foresees requests, the newest first, on a thread of its own once `begin` was called. Safe to use from
    several threads."""

    def __init__(self, engine_of: EngineOf, store: KnownStore) -> None:
        self._engine_of, self._store = engine_of, store
        self._found: LRUCache[str, KnownSpeech | None] = LRUCache(_MOST_KEPT)
        self._looked: LRUCache[str, bool] = LRUCache(_MOST_KEPT)
        self._keys: Kept[VoicingRequest, tuple[str, VoicingRequest]] = Kept()
        self._waiting: dict[str, VoicingRequest] = {}
        self._unsaved: dict[str, KnownSpeech] = {}
        self._lock = threading.Condition()
        self._thread: threading.Thread | None = None
        self._closed = False

    def find(self, request: VoicingRequest) -> KnownSpeech | None:
        """What is known of a request now, kept from earlier or foreseen since."""
        key, _ = self._key(request)
        with self._lock:
            if key in self._found or key in self._looked:
                return self._found.get(key)
            self._looked[key] = True
        try:
            kept = self._store.find(key)
        except StorageError as error:
            _log.info("not looked up: %s", error)
            return None
        if kept is not None:
            with self._lock:
                self._found[key] = kept
        return kept

    def want(self, requests: Iterable[VoicingRequest]) -> None:
        """Let requests be foreseen soon; does nothing before `begin`."""
        if self._thread is None:
            return
        keyed = [self._key(request) for request in requests]
        with self._lock:
            for key, request in keyed:
                if key not in self._found:
                    self._waiting.pop(key, None)
                    self._waiting[key] = request
            while len(self._waiting) > _MOST_WAITING:
                del self._waiting[next(iter(self._waiting))]
            self._lock.notify()

    def waiting(self, requests: Iterable[VoicingRequest]) -> int:
        """How many of some requests are still to be foreseen."""
        if self._thread is None:
            return 0
        keys = {self._key(request)[0] for request in requests}
        with self._lock:
            return len(keys & self._waiting.keys())

    def settle(
        self, requests: Iterable[VoicingRequest], makers: Executor, within_s: float | None = None
    ) -> None:
        """Foresee requests now, as many as are ready within a time; the others go on in the background."""
        wanted = dict(self._key(request) for request in requests)
        with self._lock:
            wanted = {key: each for key, each in wanted.items() if key not in self._found}
        running = [makers.submit(self._foresee, key, each) for key, each in wanted.items()]
        _, late = wait(running, timeout=within_s)
        for future in late:
            future.cancel()
        self._save()

    def begin(self) -> None:
        """Start to foresee what is wanted."""
        with self._lock:
            if self._thread is None:
                self._thread = threading.Thread(target=self._run, name="foreseeing", daemon=True)
                self._thread.start()

    def close(self) -> None:
        """Stop, and keep what was found."""
        with self._lock:
            self._closed = True
            self._waiting.clear()
            self._lock.notify_all()
        if self._thread is not None:
            self._thread.join(timeout=10)
        self._save()

    def _run(self) -> None:
        while True:
            with self._lock:
                idle = not self._waiting
            if idle:
                self._save()
            with self._lock:
                while not self._waiting and not self._closed:
                    self._lock.wait()
                if self._closed:
                    return
                key = next(reversed(self._waiting))
                request = self._waiting[key]
            self._foresee(key, request)
            with self._lock:
                self._waiting.pop(key, None)
                full = len(self._unsaved) >= _SAVED_TOGETHER
            if full:
                self._save()

    def _foresee(self, key: str, request: VoicingRequest) -> None:
        try:
            found = self._store.find(key) or self._asked(key, request)
        except (EngineError, StorageError) as error:
            _log.info("not foreseen: %s", error)
            found = None
        except Exception:
            _log.exception("a line could not be foreseen")
            found = None
        with self._lock:
            self._found[key] = found

    def _asked(self, key: str, request: VoicingRequest) -> KnownSpeech | None:
        voice = voice_by_id(request.voice_id)
        if voice is None or self._closed:
            return None
        began = time.monotonic()
        found = known_speech(foresee_take(self._engine_of(voice), voice, request))
        _log.debug("foreseen in %.0f ms", 1000 * (time.monotonic() - began))
        with self._lock:
            self._unsaved[key] = found
        return found

    def _save(self) -> None:
        with self._lock:
            new, self._unsaved = self._unsaved, {}
        if not new:
            return
        try:
            self._store.keep(new)
        except StorageError as error:  # they are found again when they are wanted
            _log.warning("what is known of lines was not kept: %s", error)

    def _key(self, request: VoicingRequest) -> tuple[str, VoicingRequest]:
        """The key of a request without what does not change how it is read, and that request."""
        known = self._keys.get(request)
        if known is None:
            plain = request.changed(written=(), targets=(), breaths=())
            known = self._keys.keep(request, (), (plain.key, plain))
        return known


def known_speech(reading: Reading) -> KnownSpeech:
    """A reading as times from its first sound."""

    def ticks(sample: int) -> int:
        return samples_to_ticks(sample - reading.onset)

    return KnownSpeech(
        tuple((ticks(start), ticks(end)) for start, end in reading.words),
        tuple((ticks(rest.start), ticks(rest.end)) for rest in reading.rests if rest.end > rest.start),
        ticks(reading.end),
    )
