"""Parts of scipy, and the solver: loaded when they are first needed, a tenth of a second each at a start.

One thread loads at a time. The parts import one another in circles, and two threads that come in by different
parts at once would find one that is half made.
"""

import threading
from importlib import import_module
from typing import Any

_lock = threading.RLock()
_loaded: dict[str, Any] = {}


def part(name: str) -> Any:
    """A module such as `scipy.sparse`, by its whole name."""
    found = _loaded.get(name)
    if found is None:
        with _lock:
            found = _loaded[name] = import_module(name)
    return found
