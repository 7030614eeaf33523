"""Processes for tasks are copies of one that has loaded what they need: quick to start, without a way back,
gone when the application is."""

import os
import signal
import stat
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from pathlib import Path

import pytest

from fox_cadence.errors import CancelledError, MediaError
from fox_cadence.media.forker import Ended
from fox_cadence.media.isolated import ENDED, run_isolated

_PATIENCE_S = 20


def _parent(progress: object) -> int:
    return os.getppid()


def _waits(file: Path, progress: object) -> str:
    """Writes who it is to a file and who forked it, and waits until that file is gone."""
    file.write_text(f"{os.getpid()} {os.getppid()}")
    while file.exists():
        time.sleep(0.02)
    return "done"


def _sockets(progress: object) -> int:
    found = 0
    for each in range(3, 1024):
        with suppress(OSError):
            found += stat.S_ISSOCK(os.fstat(each).st_mode)
    return found


def _works(progress: object) -> None:
    held = bytearray(os.urandom(1 << 20)) * 64
    until = time.process_time() + 0.2
    while time.process_time() < until:
        held[0] ^= 1


def begun(file: Path) -> tuple[int, int]:
    """The process that waits for a file and the one that forked it, once it has begun."""
    until = time.monotonic() + _PATIENCE_S
    while time.monotonic() < until:
        with suppress(OSError, ValueError):
            pid, forker = (int(part) for part in file.read_text().split())
            return pid, forker
        time.sleep(0.02)
    raise AssertionError("nobody began")


def gone(pid: int) -> bool:
    """Whether a process ends in good time."""
    until = time.monotonic() + _PATIENCE_S
    while time.monotonic() < until:
        try:
            state = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()[0]
        except OSError:
            return True
        if state == "Z":
            return True
        time.sleep(0.02)
    return False


def test_all_tasks_are_copies_of_one_process_that_is_not_the_application() -> None:
    first, second = run_isolated(_parent), run_isolated(_parent)
    assert first == second != os.getpid()


def test_a_copy_has_no_way_back_to_who_forked_it() -> None:
    assert run_isolated(_sockets) == 0


def test_what_a_task_took_is_known_when_it_has_ended() -> None:
    told: list[Ended] = []
    ENDED.append(told.append)
    try:
        run_isolated(_works)
    finally:
        ENDED.remove(told.append)
    assert len(told) == 1
    assert told[0].cpu_s > 0.2
    assert told[0].peak_kib > 64 << 10


def test_one_that_is_stopped_ends_alone(tmp_path: Path) -> None:
    stopped, other = tmp_path / "stopped", tmp_path / "other"
    stop: list[bool] = []
    with ThreadPoolExecutor(2) as pool:
        first = pool.submit(run_isolated, _waits, stopped, cancelled=lambda: bool(stop))
        second = pool.submit(run_isolated, _waits, other)
        pid, _ = begun(stopped)
        begun(other)
        stop.append(True)
        with pytest.raises(CancelledError):
            first.result(_PATIENCE_S)
        assert gone(pid)
        other.unlink()
        assert second.result(_PATIENCE_S) == "done"


def test_when_the_one_that_forks_is_killed_its_task_says_so_and_the_next_gets_another(tmp_path: Path) -> None:
    file = tmp_path / "waits"
    with ThreadPoolExecutor(1) as pool:
        task = pool.submit(run_isolated, _waits, file)
        pid, forker = begun(file)
        os.kill(forker, signal.SIGKILL)
        with pytest.raises(MediaError, match="without an answer"):
            task.result(_PATIENCE_S)
    assert gone(pid)
    assert run_isolated(_parent) != forker


def test_nothing_is_left_of_an_application_that_was_killed(tmp_path: Path) -> None:
    file = tmp_path / "waits"
    program = (
        "from pathlib import Path; from fox_cadence.media.isolated import run_isolated; "
        f"from tests.media.test_forker import _waits; run_isolated(_waits, Path({str(file)!r}))"
    )
    application = subprocess.Popen([sys.executable, "-c", program])
    pid, forker = begun(file)
    application.kill()
    application.wait()
    assert gone(pid)
    assert gone(forker)
