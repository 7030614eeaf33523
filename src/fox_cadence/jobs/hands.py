"""Who carries out what is heavy: this machine, or many.

A task is a function at the top of a module with plain values and files as arguments; its answer is a plain
value. So it can be done anywhere, and what comes of it does not depend on where. `LocalHands` have tasks done
in processes of this machine, `ClusterHands` (cluster.py) by the workers of a cluster.
"""

from abc import ABC, abstractmethod
from collections.abc import Callable, Iterable
from concurrent.futures import FIRST_COMPLETED, Executor, Future, ThreadPoolExecutor, wait
from typing import Any, TypeVar

from fox_cadence.core.takes import VoicingRequest
from fox_cadence.errors import CancelledError
from fox_cadence.media.isolated import Progress, no_progress, run_isolated
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.making import MadeTake, make
from fox_cadence.voices.voice import Voice
from fox_cadence.voices.worker_link import WORKERS

T = TypeVar("T")
_POLL_S = 0.2


class Hands(ABC):
    """Whoever carries tasks out. `at_once` is how many of them it can do at a time, `voices_at_once` how many
    takes."""

    @property
    @abstractmethod
    def at_once(self) -> int: ...

    @property
    @abstractmethod
    def voices_at_once(self) -> int: ...

    @abstractmethod
    def submit(
        self,
        function: Callable[..., Any],
        *arguments: Any,
        progress: Progress = no_progress,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Future[Any]:
        """Have a task done: `function(*arguments, progress)`. Raises what `run_isolated` raises, from the
        future. Who is far away may not be heard while it is at it."""

    @abstractmethod
    def voice(self, voice: Voice, request: VoicingRequest) -> Future[MadeTake]:
        """Have a take made. Raises EngineError from the future."""

    @abstractmethod
    def close(self) -> None: ...

    def run(
        self,
        function: Callable[..., Any],
        *arguments: Any,
        progress: Progress = no_progress,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Any:
        """Have a task done and wait for it, in the place of `run_isolated`."""
        answers: list[Any] = []
        task = self.submit(function, *arguments, progress=progress, cancelled=cancelled)
        done_with([task], answers.append, cancelled)
        return answers[0]


class LocalHands(Hands):
    """Tasks in processes of this machine, some at a time; takes by its engines.

    Args:
        makers: makes takes; the caller closes it.
    """

    def __init__(self, engines: Engines, makers: Executor, at_once: int) -> None:
        self._engines, self._makers = engines, makers
        self._pool = ThreadPoolExecutor(at_once, thread_name_prefix="hand")
        self._at_once = at_once

    @property
    def at_once(self) -> int:
        return self._at_once

    @property
    def voices_at_once(self) -> int:
        return WORKERS

    def submit(
        self,
        function: Callable[..., Any],
        *arguments: Any,
        progress: Progress = no_progress,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Future[Any]:
        return self._pool.submit(run_isolated, function, *arguments, progress=progress, cancelled=cancelled)

    def voice(self, voice: Voice, request: VoicingRequest) -> Future[MadeTake]:
        return self._makers.submit(make, self._engines, voice, request)

    def close(self) -> None:
        self._pool.shutdown(cancel_futures=True)


def done_with(
    tasks: Iterable[Future[T]], told: Callable[[T], None], cancelled: Callable[[], bool] = lambda: False
) -> None:
    """Wait for tasks, telling of each answer as it comes. One that fails ends the others.

    Raises:
        CancelledError: it was stopped.
        FoxError: of the first that failed.
    """
    waiting = set(tasks)
    try:
        while waiting:
            if cancelled():
                raise CancelledError("Stopped.")
            ready, waiting = wait(waiting, _POLL_S, FIRST_COMPLETED)
            for task in ready:
                told(task.result())
    finally:
        for task in waiting:
            task.cancel()
