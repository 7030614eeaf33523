"""Commands about pictures."""

import argparse
from pathlib import Path

from fox_cadence.actions.cutting import cuts_of_file
from fox_cadence.cli_answers import Command, Terminal, answer
from fox_cadence.errors import InputError
from fox_cadence.media.cut_finding import as_json


def add_commands(command: Command) -> None:
    """Add `cuts`."""
    cuts = command("cuts", _cuts, "find the cuts, dissolves and fades in a finished video")
    cuts.add_argument("file", type=Path, metavar="FILE")


def _cuts(options: argparse.Namespace) -> int:
    if not options.file.is_file():
        raise InputError("there is no such file", str(options.file))
    try:
        found = cuts_of_file(options.file.resolve(), Terminal(options.json))
    except InputError as error:
        raise InputError(str(error), str(options.file)) from error
    rows = [
        f"{cut['frame']:>7}  {cut['time_s']:>9.3f} s  {cut['kind']:<8}  {cut['certainty']:.2f}"
        for cut in as_json(found)
    ]
    answer(options, {"cuts": as_json(found)}, "\n".join(rows) or "no cuts were found")
    return 0
