"""The list of projects. It opens the database and nothing else, so that it answers at once."""

import argparse
from contextlib import closing
from dataclasses import asdict

from fox_cadence.cli.answers import Command, answer
from fox_cadence.store.database import DATABASE, Database
from fox_cadence.store.project_list import list_projects


def add_commands(command: Command) -> None:
    """Add `list`."""
    command("list", _list)


def _list(options: argparse.Namespace) -> None:
    with closing(Database(options.data / DATABASE)) as database:
        found = list_projects(database)
    rows = [
        f"{item.project_id:<14} {item.seconds:7.2f} s {item.lines:4d} lines  {item.name}" for item in found
    ]
    answer(options, {"projects": [asdict(item) for item in found]}, "\n".join(rows) or "No project yet.")
