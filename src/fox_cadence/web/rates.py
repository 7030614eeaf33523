"""How often something may be done: so many times within a while, counted in memory."""

from collections import defaultdict, deque
from time import monotonic


class Rate:
    """At most `most` times within `within_s` seconds, for each key by itself."""

    def __init__(self, most: int, within_s: float) -> None:
        self._most, self._within_s = most, within_s
        self._times: dict[str, deque[float]] = defaultdict(deque)

    def wait_s(self, key: str) -> float:
        """How long to wait before the next time; 0 when it need not."""
        since = monotonic() - self._within_s
        for known in list(self._times):
            while self._times[known] and self._times[known][0] < since:
                self._times[known].popleft()
            if not self._times[known]:
                del self._times[known]
        own = self._times.get(key, deque())
        return own[-self._most] - since if len(own) >= self._most else 0.0

    def count(self, key: str) -> None:
        """It was done."""
        self._times[key].append(monotonic())
