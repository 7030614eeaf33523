"""Taking times: the best of several rounds, because other work on the machine only ever adds."""

import gc
import time
from collections.abc import Callable, Sequence
from typing import TypeVar

T = TypeVar("T")


def best_of(rounds: int, work: Callable[[], T]) -> tuple[float, T]:
    """Seconds of the fastest round, and what the work gave."""
    fastest = float("inf")
    answer = work()
    for _ in range(rounds):
        gc.collect()
        began = time.perf_counter()
        answer = work()
        fastest = min(fastest, time.perf_counter() - began)
    return fastest, answer


def best_of_each(rounds: int, works: Sequence[Callable[[], object]]) -> list[float]:
    """Seconds of the fastest round of each work, a round of all of them at a time: what slows one slows
    all."""
    fastest = [float("inf")] * len(works)
    for _ in range(rounds):
        gc.collect()
        for number, work in enumerate(works):
            began = time.perf_counter()
            work()
            fastest[number] = min(fastest[number], time.perf_counter() - began)
    return fastest


def quantile(values: list[float], share: float) -> float:
    ordered = sorted(values)
    return ordered[min(len(ordered) - 1, int(share * len(ordered)))]
