"""Runs a function of ours in a process of its own, with limits, progress and a way to stop it.

Whatever reads or writes media with libav runs here: when a decoder dies on a hostile file, its job says so
and the application lives on. The process is a copy of one that this module is when run as a program
(media/forker.py); call and answers are pickles over two pipes. It has no network and can open only the files
and folders among its arguments (media/confinement.py). What comes back from it is data of ours, but a decoder
that was taken over could send anything: the answer is unpickled with our classes only.
"""

import importlib
import io
import os
import pickle
import resource
import select
import signal
import socket
import struct
import sys
import tempfile
import time
from collections.abc import Callable, Iterable
from contextlib import suppress
from dataclasses import fields, is_dataclass
from enum import Enum
from pathlib import Path
from typing import IO, Any, Protocol

from pydantic import BaseModel

from fox_cadence.errors import CancelledError, FoxError, InputError, MediaError
from fox_cadence.media.confinement import confine, end_with_parent, leave_network
from fox_cadence.media.forker import Child, Ended, Forker, serve

MEMORY_LIMIT_BYTES = 6 << 30
CPU_LIMIT_S = 3600
SILENCE_LIMIT_S = 900
"""How long a process may go without a word about its progress. Measuring the sound of half an hour takes a
minute."""
_POLL_S = 0.1
_FORKER = Forker("fox_cadence.media.isolated")
ENDED: list[Callable[[Ended], None]] = []
"""Told how each process ended and what it took, for whoever measures."""


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
    silence_limit_s: float = SILENCE_LIMIT_S,
) -> Any:
    """Call `function(*arguments, progress)` in a new process and return what it returns.

    The function must stand at the top of a module; arguments and answer must pickle.

    Raises:
        FoxError: whatever the function raised of ours.
        MediaError: the process died, hung, or raised something else.
        CancelledError: `cancelled` said so; the process is gone.
    """
    with tempfile.TemporaryDirectory(prefix="fox-", ignore_cleanup_errors=True) as own:
        call = pickle.dumps((function.__module__, function.__qualname__, own, arguments))
        child = _FORKER.start(function.__module__)
        try:
            # if it died at once, there is nobody to read the call, and no answer says so
            with suppress(BrokenPipeError), os.fdopen(child.call, "wb") as told:
                told.write(call)
            with os.fdopen(child.answers, "rb", buffering=0) as answers:
                return _answer(child, answers, progress, cancelled, silence_limit_s)
        finally:
            ended = child.end()
            if ended is not None:
                for listener in ENDED:
                    listener(ended)


def _answer(
    child: Child,
    answers: IO[bytes],
    progress: Progress,
    cancelled: Callable[[], bool],
    silence_limit_s: float,
) -> Any:
    heard = time.monotonic()
    while True:
        if cancelled():
            raise CancelledError("Stopped.")
        ready, _, _ = select.select([answers], [], [], _POLL_S)
        if not ready:
            if time.monotonic() - heard > silence_limit_s:
                raise MediaError(
                    f"The media process did not go on for {silence_limit_s:.0f} s and was stopped."
                )
            continue
        heard = time.monotonic()
        message = _receive(answers)
        if message is None:
            raise MediaError(f"The media process stopped without an answer ({_cause(child.exit_code())}).")
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
    return _Answers(io.BytesIO(body)).load() if body else None


class _Answers(pickle.Unpickler):
    """Takes only values: numbers, texts, arrays, and those classes of ours that do nothing when they are
    made."""

    def find_class(self, module: str, name: str) -> Any:
        if (module, name) in _VALUES or (module.startswith("numpy") and name in _ARRAYS):
            return super().find_class(module, name)
        found = (
            getattr(importlib.import_module(module), name, None)
            if module.startswith("fox_cadence.")
            else None
        )
        if isinstance(found, type) and (
            issubclass(found, (BaseModel, FoxError, Enum)) or is_dataclass(found)
        ):
            return found
        raise MediaError(f"The media process answered with something unforeseen ({module}.{name}).")


_VALUES = {
    ("pathlib", "PosixPath"),
    ("pathlib", "PurePosixPath"),
    ("fractions", "Fraction"),
    ("builtins", "set"),
}
_ARRAYS = {"_reconstruct", "ndarray", "dtype", "scalar", "_frombuffer"}


def _exactly(pipe: IO[bytes], count: int) -> bytes | None:
    data = bytearray()
    while len(data) < count:
        block = pipe.read(count - len(data))
        if not block:
            return None
        data += block
    return bytes(data)


def _cause(exit_code: int | None) -> str:
    if exit_code is None:
        return "for a reason nobody knows"
    return f"signal {signal.Signals(-exit_code).name}" if exit_code < 0 else f"exit code {exit_code}"


def carry_out(call: int, answers: int) -> None:
    """The process of a task: limits and walls first, then the call from one pipe; answers go to the other."""
    end_with_parent()
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CPU, (CPU_LIMIT_S, CPU_LIMIT_S))
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY_LIMIT_BYTES, MEMORY_LIMIT_BYTES))
    leave_network()
    with os.fdopen(answers, "wb") as told:

        def send(kind: str, value: Any) -> None:
            body = pickle.dumps((kind, value))
            told.write(struct.pack("<I", len(body)) + body)
            told.flush()

        try:
            with os.fdopen(call, "rb") as asked:
                module, name, own, arguments = pickle.load(asked)
            function = getattr(importlib.import_module(module), name)
            tempfile.tempdir = own
            readable, writable = _paths(arguments)
            confine(readable, [*writable, Path(own)])
            send("answer", function(*arguments, lambda done, total: send("progress", (done, total))))
        except InputError as error:
            send("error", InputError(str(error)))
        except FoxError as error:
            send("error", error)
        except Exception as error:
            send("error", MediaError(f"{type(error).__name__}: {error}"))


def _paths(value: Any) -> tuple[list[Path], list[Path]]:
    """The files to read and the folders to write in that stand among some arguments.

    A path that is not there yet is a file to be written: its folder is.
    """
    if isinstance(value, Path):
        if value.is_file():
            return [value], []
        return [], [value if value.is_dir() else value.parent]
    if is_dataclass(value) and not isinstance(value, type):
        inside: Iterable[Any] = [getattr(value, field.name) for field in fields(value)]
    else:
        inside = (
            value.values() if isinstance(value, dict) else value if isinstance(value, (list, tuple)) else ()
        )
    found = [_paths(each) for each in inside]
    return [path for readable, _ in found for path in readable], [
        path for _, writable in found for path in writable
    ]


_SHARED = ("av", "PIL.ImageFilter", "uharfbuzz")
"""Loaded before the first fork: most tasks need them, and modules of ours only load them where they do."""

if __name__ == "__main__":
    for library in _SHARED:
        importlib.import_module(library)
    with socket.socket(fileno=int(sys.argv[1])) as control:
        serve(control, carry_out)
