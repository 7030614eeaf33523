"""How soon it is there: commands, the server, the samples of a first start, and what an idle server has
loaded.

The rows can also be taken of an older state: `PYTHONPATH=OLD/src python -m bench starting`.
"""

import http.client
import json
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from urllib.parse import urlsplit

ROUNDS = 5
BARE = "import fastapi, uvicorn, jinja2, pydantic"
"""What every application of this kind loads."""


def rows() -> list[str]:
    found = ["| what | ours, s | against | theirs, s | ratio |", "| --- | --- | --- | --- | --- |"]
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder) / "data"
        first = _least(1, lambda: _served("demo", data))
        again = _least(ROUNDS, lambda: _served("demo", data))
        listed = _least(ROUNDS, lambda: _run("-m", "fox_cadence.cli", "list", "--data", str(data)))
    bare = _least(ROUNDS, lambda: _run("-c", BARE))
    empty = _least(ROUNDS, lambda: _run("-c", "import json, sqlite3, argparse"))
    found.append(_row("`demo`, the first time, to its page", first, "loading FastAPI and uvicorn", bare))
    found.append(_row("`demo`, again, to its page", again, "loading FastAPI and uvicorn", bare))
    found.append(_row("`list`", listed, "Python with json, sqlite3, argparse", empty))
    return [*found, "", _loaded()]


def _row(what: str, ours: float, against: str, theirs: float) -> str:
    return f"| {what} | {ours:.2f} | {against} | {theirs:.2f} | {ours / theirs:.1f} |"


def _least(rounds: int, measure: Callable[[], float]) -> float:
    return min(measure() for _ in range(rounds))


def _run(*command: str) -> float:
    began = time.perf_counter()
    subprocess.run([sys.executable, *command], check=True, stdout=subprocess.DEVNULL)
    return time.perf_counter() - began


def _served(command: str, data: Path) -> float:
    """From the command to the whole of the page it names."""
    began = time.perf_counter()
    words = [sys.executable, "-m", "fox_cadence.cli", command, "--data", str(data), "--port", "0", "--json"]
    process = subprocess.Popen(words, stdout=subprocess.PIPE, env={**os.environ, "PYTHONWARNINGS": "error"})
    try:
        assert process.stdout is not None
        address = urlsplit(json.loads(process.stdout.readline())["address"])
        connection = http.client.HTTPConnection(address.netloc, timeout=60)
        connection.request("GET", address.path)
        answer = connection.getresponse()
        answer.read()
        assert answer.status == 200
        return time.perf_counter() - began
    finally:
        process.terminate()
        process.wait()


def _loaded() -> str:
    code = (
        "import sys, fox_cadence.cli.serving; own = [m for m in sys.modules if m.startswith('fox_cadence')];"
        "print(len(sys.modules), len(own))"
    )
    found = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True).stdout
    every, own = found.split()
    return f"A server has loaded {every} modules when it listens, {own} of them ours."
