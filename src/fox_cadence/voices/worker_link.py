"""The line to the processes that hold an engine: asks one, reads its answer, and starts it again when it has
died."""

import json
import queue
import resource
import subprocess
import sys
import threading
from typing import IO, Any

import numpy as np

from fox_cadence.errors import EngineError
from fox_cadence.voices.engine import Speech

MEMORY_LIMIT_BYTES = 8 << 30
"""Address space of an engine: a neural voice takes under 1 GiB of it, the rest is what its threads set aside.
"""


WORKERS = 2
"""Processes of one engine, as many as this kind of machine has cores."""


class WorkerLink:
    """Worker processes of one engine, each started when it is first needed. Safe to call from several
    threads.

    A request is a JSON line; an answer is a JSON line whose `bytes` say how much sound follows it. A worker
    that does not answer within `limit_s` is stopped.
    """

    def __init__(self, module: str, name: str, limit_s: float, workers: int = WORKERS) -> None:
        self._workers = [_Worker(module, name, limit_s) for _ in range(workers)]
        self._idle: queue.LifoQueue[_Worker] = queue.LifoQueue()  # the one that was used last is warm
        for worker in reversed(self._workers):
            self._idle.put(worker)

    def ask(self, request: dict[str, object]) -> tuple[dict[str, Any], bytes]:
        """The header of the answer and its sound.

        Raises:
            EngineError: the worker died twice over this request, hung, or answered that it can't.
        """
        worker = self._idle.get()
        try:
            header, sound = worker.ask(request)
        finally:
            self._idle.put(worker)
        if "error" in header:
            raise EngineError(str(header["error"]))
        return header, sound

    def speech(self, request: dict[str, object]) -> Speech:
        """An answer that is speech: mono sound of 16 bit, `rate`, `words` and `phonemes` in its header.

        Raises:
            EngineError: as `ask`.
        """
        header, sound = self.ask(request)
        return Speech(
            samples=(np.frombuffer(sound, dtype="<i2") / 32768).astype(np.float32),
            rate_hz=int(header["rate"]),
            onsets=tuple((int(at), int(sample)) for at, sample in header["words"]),
            phonemes=phoneme_pairs(header),
        )

    def close(self) -> None:
        for worker in self._workers:
            worker.close()


def phoneme_pairs(header: dict[str, Any]) -> tuple[tuple[str, int], ...]:
    """The phonemes of an answer with the sample at which each begins."""
    return tuple((str(ipa), int(sample)) for ipa, sample in header["phonemes"])


class _Worker:
    """One process, which answers one request after the other."""

    def __init__(self, module: str, name: str, limit_s: float) -> None:
        self._module, self._name, self._limit_s = module, name, limit_s
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._closed = False

    def ask(self, request: dict[str, object]) -> tuple[dict[str, Any], bytes]:
        with self._lock:
            return self._ask(request)

    def close(self) -> None:
        """End it, also in the middle of an answer: who waits for that gets an EngineError at once."""
        self._closed = True
        process = self._process
        if process is not None:
            process.kill()
        with self._lock:
            self._stop()

    def _ask(self, request: dict[str, object]) -> tuple[dict[str, Any], bytes]:
        try:
            return self._exchange(request)
        except (OSError, ValueError, EOFError):
            self._stop()  # a worker that died is started again, once
        try:
            return self._exchange(request)
        except (OSError, ValueError, EOFError) as error:
            self._stop()
            raise EngineError(f"{self._name} stopped twice while it spoke this line.") from error

    def _exchange(self, request: dict[str, object]) -> tuple[dict[str, Any], bytes]:
        process = self._running()
        stdin, stdout = _pipes(process)
        late = threading.Event()

        def give_up() -> None:
            late.set()
            process.kill()

        timer = threading.Timer(self._limit_s, give_up)
        timer.start()
        try:
            stdin.write(json.dumps(request).encode() + b"\n")
            stdin.flush()
            line = stdout.readline()
            if not line:
                raise EOFError
            header: dict[str, Any] = json.loads(line)
            count = int(header.get("bytes", 0))
            sound = stdout.read(count)
            if len(sound) != count:
                raise EOFError
            return header, sound
        except (OSError, ValueError, EOFError):
            if not late.is_set():
                raise
            self._stop()
            raise EngineError(f"{self._name} did not answer within {self._limit_s:.0f} s.") from None
        finally:
            timer.cancel()

    def _running(self) -> subprocess.Popen[bytes]:
        if self._closed:
            raise EngineError(f"{self._name} is not running any more.")
        if self._process is None or self._process.poll() is not None:
            self._stop()
            self._process = subprocess.Popen(
                [sys.executable, "-m", self._module],
                stdin=subprocess.PIPE,
                stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL,
            )
            if hasattr(resource, "prlimit"):  # Linux; elsewhere an engine is only limited in time
                resource.prlimit(
                    self._process.pid, resource.RLIMIT_AS, (MEMORY_LIMIT_BYTES, MEMORY_LIMIT_BYTES)
                )
        return self._process

    def _stop(self) -> None:
        if self._process is not None:
            self._process.kill()
            self._process.wait()
            for pipe in (self._process.stdin, self._process.stdout):
                if pipe is not None:
                    pipe.close()
            self._process = None


def _pipes(process: subprocess.Popen[bytes]) -> tuple[IO[bytes], IO[bytes]]:
    if process.stdin is None or process.stdout is None:
        raise OSError("the worker has no pipes")
    return process.stdin, process.stdout
