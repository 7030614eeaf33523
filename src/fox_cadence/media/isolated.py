"""Runs a function of ours in a process of its own, with limits, progress and a way to stop it.

Whatever reads or writes media with libav runs here: when a decoder dies on a hostile file, its job says so and the
application lives on. The child is this module run as a program; call and answers are pickles over two pipes, both of
whose ends are ours.
"""

import importlib
import os
import pickle
import resource
import select
import signal
import struct
import subprocess
import sys
from collections.abc import Callable
from typing import IO, Any, Protocol

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
    """Call `function(*arguments, progress)` in a new process and return what it returns.

    The function must stand at the top of a module; arguments and answer must pickle.

    Raises:
        FoxError: whatever the function raised of ours.
        MediaError: the process died, or raised something else.
        CancelledError: `cancelled` said so; the process is gone.
    """
    reader, writer = os.pipe()
    process = subprocess.Popen(
        [sys.executable, "-m", "fox_cadence.media.isolated", str(writer)],
        stdin=subprocess.PIPE,
        pass_fds=(writer,),
        env={**os.environ, "PYTHONPATH": os.pathsep.join(path for path in sys.path if path)},
    )
    os.close(writer)
    try:
        assert process.stdin is not None
        call = pickle.dumps((function.__module__, function.__qualname__, arguments))
        try:
            process.stdin.write(call)
            process.stdin.close()
        except BrokenPipeError:
            pass  # it died at once; the answer below says so
        with os.fdopen(reader, "rb", buffering=0) as answers:
            return _answer(process, answers, progress, cancelled)
    finally:
        process.kill()
        process.wait()


def _answer(
    process: "subprocess.Popen[bytes]", answers: IO[bytes], progress: Progress, cancelled: Callable[[], bool]
) -> Any:
    while True:
        if cancelled():
            raise CancelledError("Stopped.")
        ready, _, _ = select.select([answers], [], [], _POLL_S)
        if not ready:
            continue
        message = _receive(answers)
        if message is None:
            raise MediaError(f"The media process stopped without an answer ({_cause(process.wait())}).")
        kind, value = message
        if kind == "progress":
            progress(*value)
        elif kind == "error":
            raise value
        else:
            return value


def _receive(pipe: IO[bytes]) -> tuple[str, Any] | None:
    head = _exactly(pipe, 4)
    body = _exactly(pipe, struct.unpack("<I", head)[0]) if head else None
    return pickle.loads(body) if body else None


def _exactly(pipe: IO[bytes], count: int) -> bytes | None:
    data = bytearray()
    while len(data) < count:
        block = pipe.read(count - len(data))
        if not block:
            return None
        data += block
    return bytes(data)


def _cause(exit_code: int) -> str:
    return f"signal {signal.Signals(-exit_code).name}" if exit_code < 0 else f"exit code {exit_code}"


def main() -> None:
    """The child: limits first, then the call that comes in on stdin; answers go to the pipe of that number."""
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CPU, (CPU_LIMIT_S, CPU_LIMIT_S))
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_LIMIT_BYTES, MEMORY_LIMIT_BYTES))
    answers = os.fdopen(int(sys.argv[1]), "wb")

    def send(kind: str, value: Any) -> None:
        body = pickle.dumps((kind, value))
        answers.write(struct.pack("<I", len(body)) + body)
        answers.flush()

    try:
        module, name, arguments = pickle.load(sys.stdin.buffer)
        function = getattr(importlib.import_module(module), name)
        send("answer", function(*arguments, lambda done, total: send("progress", (done, total))))
    except InputError as error:
        send("error", InputError(str(error)))
    except FoxError as error:
        send("error", error)
    except Exception as error:
        send("error", MediaError(f"{type(error).__name__}: {error}"))
    answers.close()


if __name__ == "__main__":
    main()
