"""Who carries tasks out on this machine: answers, errors in their words, and an end to what is stopped."""

import threading
import time
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

import pytest

from fox_cadence.errors import CancelledError, InputError, MediaError
from fox_cadence.jobs.hands import LocalHands, done_with
from fox_cadence.media.ingest import heard_of_file
from fox_cadence.media.isolated import Progress
from fox_cadence.voices.engines import Engines
from tests.media import files


def counting(steps: int, pause_s: float, progress: Progress) -> int:
    """A task that says how far it is."""
    for step in range(steps):
        progress(step, steps)
        time.sleep(pause_s)
    return steps


def refusing(progress: Progress) -> None:
    raise InputError("there is no water", "pool 3")


def dying(progress: Progress) -> None:
    raise SystemExit(7)


@pytest.fixture
def hands() -> Iterator[LocalHands]:
    engines = Engines()
    with ThreadPoolExecutor(1) as makers:
        made = LocalHands(engines, makers, 2)
        yield made
        made.close()
    engines.close()


def test_a_task_answers_and_says_how_far_it_is(hands: LocalHands, tmp_path: Path) -> None:
    told: list[tuple[int, int]] = []
    assert hands.run(counting, 3, 0.0, progress=lambda done, total: told.append((done, total))) == 3
    assert told == [(0, 3), (1, 3), (2, 3)]
    heard = hands.run(heard_of_file, files.tone(tmp_path / "a.wav"))
    assert heard[1] > 0


def test_what_a_task_raises_is_raised_in_its_own_words(hands: LocalHands) -> None:
    with pytest.raises(InputError, match="pool 3: there is no water"):
        hands.run(refusing)
    with pytest.raises(MediaError, match="stopped without an answer"):
        hands.run(dying)


def test_two_tasks_are_done_at_once_and_no_third(hands: LocalHands) -> None:
    began = time.monotonic()
    tasks = [hands.submit(counting, 10, 0.1) for _ in range(3)]
    assert [task.result() for task in tasks[:2]] == [10, 10]
    assert not tasks[2].done()
    assert tasks[2].result() == 10
    assert time.monotonic() - began > 2


def test_a_stop_ends_what_is_running_and_what_waits(hands: LocalHands) -> None:
    stop = threading.Event()
    tasks = [hands.submit(counting, 10_000, 0.1, cancelled=stop.is_set) for _ in range(4)]
    threading.Timer(0.5, stop.set).start()
    with pytest.raises(CancelledError):
        done_with(tasks, lambda _: None, stop.is_set)
    assert isinstance(tasks[0].exception(), CancelledError)
    assert tasks[3].cancelled()


def test_of_several_tasks_the_first_that_fails_ends_those_that_wait() -> None:
    failed, waiting, done = Future[int](), Future[int](), Future[int]()
    done.set_result(4)
    failed.set_exception(MediaError("no picture"))
    told: list[int] = []
    with pytest.raises(MediaError, match="no picture"):
        done_with([failed, waiting, done], told.append)
    assert waiting.cancelled()
