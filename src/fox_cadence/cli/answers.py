"""What a command says: its answer for people or in JSON for scripts, and on stderr how far it is."""

import argparse
import json
import sys
import threading
import time
from collections.abc import Callable
from typing import Any

Command = Callable[[str, Callable[[argparse.Namespace], Any]], argparse.ArgumentParser]
"""Gives a command what it runs; its parser, for its options."""

_PATIENCE_S = 2.0
"""A command that takes longer says what it is at."""
_TICK_S = 0.5


def answer(options: argparse.Namespace, data: Any, text: str) -> None:
    """Print an answer."""
    options.terminal.clear()
    print(json.dumps(data, ensure_ascii=False) if options.json else text, flush=True)


class Terminal:
    """How far a command is, on stderr: on a terminal one line that is written over, in a file a line a step,
    for scripts nothing.

    A step begins with `step`, or with the first `report` that has its note. One that can't say how far it
    is is named when it has lasted two seconds; on a terminal with how long it lasts.
    """

    cancelled = False

    def __init__(self, quiet: bool, step: str = "") -> None:
        self._live = sys.stderr.isatty()
        self._quiet = quiet and not self._live
        self._lock = threading.Lock()
        self._step, self._begun, self._told = step, time.monotonic(), ""
        self._counted = False
        self._width = 0
        self._ended = threading.Event()
        self._watch = threading.Thread(target=self._wait, daemon=True)

    def __enter__(self) -> "Terminal":
        if not self._quiet:
            self._watch.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._ended.set()
        self.clear()

    def step(self, name: str) -> None:
        """Begin a step that can't say how far it is."""
        with self._lock:
            self._step, self._begun, self._counted = name, time.monotonic(), False

    def report(self, done: int, total: int, note: str = "") -> None:
        """So much of a step is done; without a total nobody knows of how much."""
        if self._quiet:
            return
        with self._lock:
            if note and note != self._step:
                self._step, self._begun = note, time.monotonic()
            self._counted = bool(total)
            if self._live:
                self._write(f"{self._step} {done} of {total}" if total else self._step)
            else:
                self._name_step()

    def clear(self) -> None:
        """Take the line away, for what is printed next."""
        with self._lock:
            if self._live and self._width:
                print(f"\r{'':<{self._width}}\r", end="", file=sys.stderr, flush=True)
                self._width = 0

    def _wait(self) -> None:
        while not self._ended.wait(_TICK_S):
            with self._lock:
                lasted = time.monotonic() - self._begun
                if self._counted or lasted < _PATIENCE_S or not self._step:
                    continue
                if self._live:
                    self._write(f"{self._step}, {lasted:.0f} s")
                else:
                    self._name_step()

    def _name_step(self) -> None:
        if self._step != self._told:
            print(self._step, file=sys.stderr, flush=True)
            self._told = self._step

    def _write(self, text: str) -> None:
        print(f"\r{text:<{self._width}}", end="", file=sys.stderr, flush=True)
        self._width = len(text)
