"""What a command says: for people, or in JSON for scripts."""

import argparse
import json
from collections.abc import Callable
from typing import Any

Command = Callable[[str, Any, str], argparse.ArgumentParser]
"""Adds a command: its name, what it runs, and what it does in words."""


def answer(options: argparse.Namespace, data: Any, text: str) -> None:
    """Print an answer."""
    print(json.dumps(data, ensure_ascii=False) if options.json else text, flush=True)
