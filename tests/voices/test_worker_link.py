"""An engine's process that fails in every way there is: the application says so and goes on."""

import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor

import pytest

from fox_cadence.errors import EngineError
from fox_cadence.voices.worker_link import WorkerLink


@pytest.fixture
def link() -> Iterator[WorkerLink]:
    made = WorkerLink("tests.voices.odd_worker", "the odd one", 1.0)
    yield made
    made.close()


def said(link: WorkerLink, text: str) -> bytes:
    return link.ask({"do": "answer", "say": text})[1]


def test_one_process_answers_one_request_after_the_other(link: WorkerLink) -> None:
    first, sound = link.ask({"do": "answer", "say": "low water"})
    again, _ = link.ask({"do": "answer", "say": ""})
    assert sound == b"low water"
    assert first["pid"] == again["pid"]


def test_a_refusal_is_passed_on_and_the_process_stays(link: WorkerLink) -> None:
    before, _ = link.ask({"do": "answer", "say": ""})
    with pytest.raises(EngineError, match=r"^not that$"):
        link.ask({"do": "refuse"})
    after, _ = link.ask({"do": "answer", "say": ""})
    assert before["pid"] == after["pid"]


@pytest.mark.parametrize("failure", ["die", "garble", "promise"])
def test_a_process_that_fails_twice_ends_the_line_and_not_the_next(link: WorkerLink, failure: str) -> None:
    with pytest.raises(EngineError, match="the odd one stopped twice"):
        link.ask({"do": failure})
    assert said(link, "still here") == b"still here"


def test_a_process_that_hangs_is_stopped_within_its_limit(link: WorkerLink) -> None:
    with pytest.raises(EngineError, match="did not answer within 1 s"):
        link.ask({"do": "hang"})
    assert said(link, "still here") == b"still here"


def test_threads_take_turns_and_each_gets_its_own_answer(link: WorkerLink) -> None:
    texts = [f"line {number}" * number for number in range(24)]
    with ThreadPoolExecutor(6) as pool:
        assert list(pool.map(lambda text: said(link, text), texts)) == [text.encode() for text in texts]


def test_a_closed_link_has_no_process_left(link: WorkerLink) -> None:
    said(link, "anything")
    process = link._workers[0]._process
    assert process is not None
    link.close()
    assert process.poll() is not None


def test_who_waits_for_an_answer_when_the_link_is_closed_is_told_at_once() -> None:
    link = WorkerLink("tests.voices.odd_worker", "the odd one", 50.0)
    said(link, "anything")
    with ThreadPoolExecutor(1) as pool:
        waiting = pool.submit(link.ask, {"do": "hang"})
        time.sleep(0.2)  # it has begun to wait by now
        link.close()
        with pytest.raises(EngineError, match="the odd one is not running any more"):
            waiting.result(timeout=20)
    with pytest.raises(EngineError, match="not running"):
        said(link, "still here")
