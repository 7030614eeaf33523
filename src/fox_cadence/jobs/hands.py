"""Who carries out what is heavy: this machine, or many.

A task is a function at the top of a module with plain values and files as arguments; its answer is a plain
value. So it can be done anywhere, and what comes of it does not depend on where. `LocalHands` have tasks done
in processes of this machine, `ClusterHands` (cluster.py) by the workers of a cluster.
"""

from collections.abc import Callable, Iterable
from concurrent.futures import FIRST_COMPLETED, Executor, Future, ThreadPoolExecutor, wait
from typing import Any, Protocol, TypeVar

from fox_cadence.core.takes import VoicingRequest
from fox_cadence.errors import CancelledError
from fox_cadence.media.isolated import Progress, no_progress, run_isolated
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.making import MadeTake, make
from fox_cadence.voices.voice import Voice
from fox_cadence.voices.worker_link import WORKERS

T = TypeVar("T")
_POLL_S = 0.2


class Run(Protocol):
    """Has a task done and waits for its answer, as media/isolated.py's `run_isolated` does."""

    def __call__(
        self,
        function: Callable[..., Any],
        *arguments: Any,
        progress: Progress = no_progress,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Any: ...


class Hands(Protocol):
    """Whoever carries tasks out. `at_once` is how many of them it can do at a time, `voices_at_once` how many
    takes."""

    @property
    def at_once(self) -> int: ...

    @property
    def voices_at_once(self) -> int: ...

    def submit(
        self,
        function: Callable[..., Any],
        *arguments: Any,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Future[Any]:
        """Have a task done: `function(*arguments, progress)`. Raises what `run_isolated` raises, from the
        future."""
        ...

    def run(
        self,
        function: Callable[..., Any],
        *arguments: Any,
        progress: Progress = no_progress,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Any:
        """Have a task done and wait for it."""
        ...

    def voice(self, voice: Voice, request: VoicingRequest) -> Future[MadeTake]:
        """Have a take made. Raises EngineError from the future."""
        ...

    def close(self) -> None: ...


class LocalHands:
    """Tasks in processes of this machine, some at a time; takes by its engines.

    Args:
        makers: makes takes; the caller closes it.
    """

    def __init__(self, engines: Engines, makers: Executor, at_once: int) -> None:
        self._engines, self._makers = engines, makers
        self._pool = ThreadPoolExecutor(at_once, thread_name_prefix="hand")
        self.at_once = at_once
        self.voices_at_once = WORKERS

    def submit(
        self,
        function: Callable[..., Any],
        *arguments: Any,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Future[Any]:
        return self._pool.submit(run_isolated, function, *arguments, cancelled=cancelled)

    def run(
        self,
        function: Callable[..., Any],
        *arguments: Any,
        progress: Progress = no_progress,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Any:
        task = self._pool.submit(run_isolated, function, *arguments, progress=progress, cancelled=cancelled)
        return task.result()

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
