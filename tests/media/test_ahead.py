"""What is made ahead comes in its order, fails in its place, and stops with its reader."""

import threading
from collections.abc import Iterator

import pytest

from fox_cadence.media.ahead import made_ahead


def test_the_order_is_kept_and_no_more_is_made_than_asked() -> None:
    made: list[int] = []

    def numbers() -> Iterator[int]:
        for number in range(100):
            made.append(number)
            yield number

    reader = made_ahead(numbers(), most=3)
    assert [next(reader) for _ in range(10)] == list(range(10))
    assert len(made) <= 10 + 3 + 2
    reader.close()
    assert len(made) < 100
    assert not [thread for thread in threading.enumerate() if thread.name == "ahead"]


def test_an_error_comes_after_what_was_made_before_it() -> None:
    def broken() -> Iterator[int]:
        yield 1
        yield 2
        raise KeyError("no more")

    reader = made_ahead(broken())
    assert [next(reader), next(reader)] == [1, 2]
    with pytest.raises(KeyError, match="no more"):
        next(reader)
    assert list(made_ahead(iter(()))) == []
