"""What a command says: for people, or in JSON for scripts."""

import argparse
import json
import sys
from collections.abc import Callable
from typing import Any

Command = Callable[[str, Any, str], argparse.ArgumentParser]
"""Adds a command: its name, what it runs, and what it does in words."""


def answer(options: argparse.Namespace, data: Any, text: str) -> None:
    """Print an answer."""
    print(json.dumps(data, ensure_ascii=False) if options.json else text, flush=True)


class Terminal:
    """Progress as one line that is written over, or nothing for scripts."""

    cancelled = False

    def __init__(self, quiet: bool) -> None:
        self._quiet = quiet or not sys.stderr.isatty()
        self._last = ""

    def report(self, done: int, total: int, note: str = "") -> None:
        if self._quiet:
            return
        text = f"{note} {done} of {total}" if total else note
        print(f"\r{text:<{len(self._last)}}", end="", file=sys.stderr, flush=True)
        self._last = text
        if total and done >= total:
            print(file=sys.stderr)
