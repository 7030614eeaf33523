"""Starts a process of ours in milliseconds: one loads what tasks need, and each task gets a copy of it.

A new Python takes a second or two to load what decodes and paints. So one process loads the modules in which
tasks stand, and does nothing else; for each task it forks. It sees no argument and no file of a task: the
copy reads these, from a pipe. What is asked of it comes over a socket without a name, and the copy lets go of
that before it begins, so that a decoder that was taken over has no way back to it. It ends, and its copies
with it, when the application does, however that ended.
"""

import atexit
import gc
import importlib
import os
import select
import signal
import socket
import struct
import subprocess
import sys
import threading
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from typing import NoReturn

_ASKED = struct.Struct("<i124s")
"""What is asked: a process to kill, or 0 and the module that a new one needs."""
_BEGUN = struct.Struct("<i")
_ENDED = struct.Struct("<idq")
_AT_END_S = 5
_GIVES_BACK = {"MALLOC_MMAP_THRESHOLD_": "4000000"}
"""Large frames go back to the system as soon as they are let go of (mallopt(3)): a tenth less memory where
planes are larger than this, a sixth more CPU there."""


@dataclass(frozen=True, slots=True)
class Ended:
    """How a process ended: its exit code (below 0: the signal), and what it took."""

    exit_code: int
    cpu_s: float
    peak_kib: int


class Child:
    """A process that was forked for a task. Its arguments are written to `call`, its answers come from
    `answers`; whoever started it closes these two."""

    def __init__(self, forker: "Forker", call: int, answers: int, status: int) -> None:
        self.call, self.answers = call, answers
        self._forker, self._status = forker, status

    def end(self) -> Ended | None:
        """Have it killed if it is still there, and wait until it is gone; None where nobody knows how."""
        try:
            begun = _exactly(self._status, _BEGUN.size)
            if begun is None:
                return None
            self._forker.kill(*_BEGUN.unpack(begun))
            return self._ended()
        finally:
            os.close(self._status)

    def exit_code(self) -> int | None:
        """Wait for its own end; None where nobody knows how it ended."""
        begun = _exactly(self._status, _BEGUN.size)
        ended = self._ended() if begun else None
        return ended.exit_code if ended else None

    def _ended(self) -> Ended | None:
        data = _exactly(self._status, _ENDED.size)
        return Ended(*_ENDED.unpack(data)) if data else None


class Forker:
    """The application's side.

    Args:
        program: the module to run, whose main calls `serve` with the socket its first argument numbers.
    """

    def __init__(self, program: str) -> None:
        self._program = program
        self._lock = threading.Lock()
        self._process: subprocess.Popen[bytes] | None = None
        self._control: socket.socket | None = None
        self._owner = 0
        atexit.register(self.close)

    def start(self, module: str) -> Child:
        """A process that has loaded a module.

        Raises:
            OSError: none could be started.
        """
        (call_read, call), (answers, answers_write), (status, status_write) = os.pipe(), os.pipe(), os.pipe()
        theirs = [call_read, answers_write, status_write]
        try:
            self._ask(module, theirs)
        except OSError:
            for each in (call, answers, status):
                os.close(each)
            raise
        finally:
            for each in theirs:
                os.close(each)
        return Child(self, call, answers, status)

    def kill(self, pid: int) -> None:
        """End a process of ours, if it is still there."""
        with self._lock, suppress(OSError):  # if the one that forked it died, it went with it
            if self._control is not None:
                self._control.sendall(_ASKED.pack(pid, b""))

    def close(self) -> None:
        """End it and all that came of it."""
        with self._lock:
            self._let_go()

    def _ask(self, module: str, handles: list[int]) -> None:
        message = _ASKED.pack(0, module.encode())
        with self._lock:
            try:
                socket.send_fds(self._connected(), [message], handles)
            except OSError:  # it died
                self._let_go()
                socket.send_fds(self._connected(), [message], handles)

    def _connected(self) -> socket.socket:
        if self._control is None or self._owner != os.getpid():
            ours, its = socket.socketpair(socket.AF_UNIX, socket.SOCK_STREAM)
            with its:
                self._process = subprocess.Popen(
                    [sys.executable, "-m", self._program, str(its.fileno())],
                    stdin=subprocess.DEVNULL,
                    pass_fds=(its.fileno(),),
                    env={**os.environ, **_GIVES_BACK, "PYTHONPATH": os.pathsep.join(filter(None, sys.path))},
                )
            self._control, self._owner = ours, os.getpid()
        return self._control

    def _let_go(self) -> None:
        if self._control is not None:
            self._control.close()
            self._control = None
        if self._process is not None and self._owner == os.getpid():
            try:
                self._process.wait(_AT_END_S)
            except subprocess.TimeoutExpired:
                self._process.kill()
                self._process.wait()
        self._process = None


def serve(control: socket.socket, carry_out: Callable[[int, int], None]) -> None:
    """The process that forks: until the other end of its socket is closed.

    Args:
        carry_out: what a copy does, with the pipe its arguments come from and that its answers go to.
    """
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # who asked for a task ends it
    woken, wake = os.pipe()
    os.set_blocking(wake, False)
    signal.signal(signal.SIGCHLD, lambda *_: None)
    signal.set_wakeup_fd(wake, warn_on_full_buffer=False)
    running: dict[int, int] = {}
    while True:
        ready, _, _ = select.select([control.fileno(), woken], [], [])
        if woken in ready:
            os.read(woken, 4096)
            _reap(running)
        if control.fileno() not in ready:
            continue
        message, handles, _, _ = socket.recv_fds(control, _ASKED.size, 3)
        if len(message) < _ASKED.size:
            break
        pid, module = _ASKED.unpack(message)
        if pid:
            if pid in running:  # its number can't have gone to another, as it was not waited for
                os.kill(pid, signal.SIGKILL)
            continue
        call, answers, status = handles
        with suppress(Exception):  # the copy tries again, and says what is wrong
            importlib.import_module(module.rstrip(b"\0").decode())
        gc.freeze()  # what is shared stays so for longer
        pid = os.fork()
        if pid == 0:
            _as_copy(carry_out, call, answers, [control.detach(), woken, wake, status, *running.values()])
        os.write(status, _BEGUN.pack(pid))
        running[pid] = status
        for each in (call, answers):
            os.close(each)
    for pid in running:
        os.kill(pid, signal.SIGKILL)


def _as_copy(carry_out: Callable[[int, int], None], call: int, answers: int, others: list[int]) -> NoReturn:
    """Let go of what is not for a copy, do what it is for, and nothing after it."""
    code = 1
    try:
        signal.set_wakeup_fd(-1)
        signal.signal(signal.SIGCHLD, signal.SIG_DFL)
        for each in others:
            os.close(each)
        carry_out(call, answers)
        code = 0
    finally:
        with suppress(OSError, ValueError):
            sys.stdout.flush()
            sys.stderr.flush()
        os._exit(code)


def _reap(running: dict[int, int]) -> None:
    """Say how those ended that did."""
    for pid, status in list(running.items()):
        done, how, took = os.wait4(pid, os.WNOHANG)
        if not done:
            continue
        del running[pid]
        code, cpu_s = os.waitstatus_to_exitcode(how), took.ru_utime + took.ru_stime
        with suppress(OSError):  # nobody may want to know
            os.write(status, _ENDED.pack(code, cpu_s, took.ru_maxrss))
        os.close(status)


def _exactly(pipe: int, count: int) -> bytes | None:
    data = bytearray()
    while len(data) < count:
        block = os.read(pipe, count - len(data))
        if not block:
            return None
        data += block
    return bytes(data)
