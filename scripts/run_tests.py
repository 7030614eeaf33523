"""Runs the tests: `python -m scripts.run_tests [--all] [NAME...]` (`make test`, `make test ONLY=NAME`).

With names only the folders and files of `tests` that have one of them in their path. First what runs beside
other tests, two at a time; then, alone, what hears or plays in real time. The page's scripts that need no
page are tested by Node's own runner.
"""

import argparse
import os
import subprocess
import sys
import time
from pathlib import Path

TESTS = Path("tests")
KILLS = "50"
"""In `make test-all`: how often the server is killed."""
NOTHING_CHOSEN = 5
"""pytest ends with it where none of its tests was chosen."""


def main() -> int:
    parser = argparse.ArgumentParser()
    parser.add_argument("--all", action="store_true", help="also what is long")
    parser.add_argument("names", nargs="*")
    options = parser.parse_args()
    files = chosen(options.names)
    if not files:
        print(f"no folder or file of tests has {' or '.join(options.names)} in its name", file=sys.stderr)
        return 2
    if options.all:
        os.environ.setdefault("FOX_KILLS", KILLS)
    began = time.monotonic()
    scripts = [str(file) for file in files if file.suffix == ".js"]
    python = [str(file) for file in files if file.suffix == ".py"] if options.names else [str(TESTS)]
    marks = "" if options.all else " and not long"
    runs = [["node", "--test", "--test-reporter=dot", *scripts]] if scripts else []
    if python:
        plain = [sys.executable, "-m", "pytest"]
        runs.append([*plain, "-n", "2", "--dist", "worksteal", "-m", f"not alone{marks}", *python])
        runs.append([*plain, "-m", f"alone{marks}", *python])
    failed = [run for run in runs if subprocess.run(run).returncode not in (0, NOTHING_CHOSEN)]
    print(f"{time.monotonic() - began:.0f} s{', FAILED' if failed else ''}")
    return 1 if failed else 0


def chosen(names: list[str]) -> list[Path]:
    """The files of tests that have one of the names in their path; all without names."""
    found = [*TESTS.rglob("test_*.py"), *TESTS.rglob("*.test.js")]
    return sorted(file for file in found if not names or any(name in str(file) for name in names))


if __name__ == "__main__":
    sys.exit(main())
