"""Runs a function of ours in a process of its own, with limits, progress and a way to stop it.

Whatever reads or writes media with libav runs here: when a decoder dies on a hostile file, its job says so and the
application lives on.
"""

import multiprocessing
import resource
import signal
from collections.abc import Callable
from multiprocessing.connection import Connection
from typing import Any, Protocol

from fox_cadence.errors import CancelledError, FoxError, InputError, MediaError

MEMORY_LIMIT_BYTES = 6 << 30
CPU_LIMIT_S = 3600
_POLL_S = 0.1


class Progress(Protocol):
    """Told how far a piece of work is. May raise CancelledError to stop it."""

    def __call__(self, done: int, total: int) -> None: ...


def no_progress(done: int, total: int) -> None:
    """For work nobody watches."""


def run_isolated(
    function: Callable[..., Any],
    *arguments: Any,
    progress: Progress = no_progress,
    cancelled: Callable[[], bool] = lambda: False,
) -> Any:
    """Call `function(*arguments, progress)` in a new process and return what it returns (it must pickle).

    Raises:
        FoxError: whatever the function raised of ours.
        MediaError: the process died, or raised something else.
        CancelledError: `cancelled` said so; the process is gone.
    """
    context = multiprocessing.get_context("spawn")
    ours, theirs = context.Pipe(duplex=False)
    process = context.Process(target=_child, args=(theirs, function, arguments), daemon=True)
    process.start()
    theirs.close()
    try:
        return _answer(process, ours, progress, cancelled)
    finally:
        if process.is_alive():
            process.kill()
        process.join()
        ours.close()


def _answer(process: Any, pipe: Connection, progress: Progress, cancelled: Callable[[], bool]) -> Any:
    while True:
        if cancelled():
            raise CancelledError("Stopped.")
        if not pipe.poll(_POLL_S):
            continue
        try:
            kind, value = pipe.recv()
        except EOFError:
            process.join()
            raise MediaError(f"The media process stopped without an answer ({_cause(process.exitcode)}).") from None
        if kind == "progress":
            progress(*value)
        elif kind == "error":
            raise value
        else:
            return value


def _cause(exit_code: int | None) -> str:
    if exit_code is not None and exit_code < 0:
        return f"signal {signal.Signals(-exit_code).name}"
    return f"exit code {exit_code}"


def _child(pipe: Connection, function: Callable[..., Any], arguments: tuple[Any, ...]) -> None:
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CPU, (CPU_LIMIT_S, CPU_LIMIT_S))
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_LIMIT_BYTES, MEMORY_LIMIT_BYTES))

    def progress(done: int, total: int) -> None:
        pipe.send(("progress", (done, total)))

    try:
        pipe.send(("answer", function(*arguments, progress)))
    except InputError as error:
        pipe.send(("error", InputError(str(error))))
    except FoxError as error:
        pipe.send(("error", error))
    except Exception as error:
        pipe.send(("error", MediaError(f"{type(error).__name__}: {error}")))
    pipe.close()
