"""Work done ahead in a thread: what decodes, scales and looks up colours lets go of the interpreter, so that
one core makes pictures while another encodes."""

import queue
import threading
from collections.abc import Generator, Iterator
from typing import TypeVar

T = TypeVar("T")

_END = object()


def made_ahead(items: Iterator[T], most: int = 2) -> Generator[T]:
    """The items of an iterator, made in a thread up to so many ahead. What it raises is raised here, in its
    place; when the reader stops, it is not asked for more."""
    ready: queue.Queue[object] = queue.Queue(most)
    stopped = threading.Event()

    def put(item: object) -> bool:
        while not stopped.is_set():
            try:
                ready.put(item, timeout=0.1)
                return True
            except queue.Full:
                continue
        return False

    def work() -> None:
        try:
            for item in items:
                if not put(item):
                    return
            put(_END)
        except BaseException as error:  # it is the reader's to deal with
            put(_Failed(error))

    thread = threading.Thread(target=work, name="ahead", daemon=True)
    thread.start()
    try:
        while True:
            item = ready.get()
            if item is _END:
                return
            if isinstance(item, _Failed):
                raise item.error
            yield item  # type: ignore[misc] # it is what the iterator gave
    finally:
        stopped.set()
        thread.join()


class _Failed:
    def __init__(self, error: BaseException) -> None:
        self.error = error
