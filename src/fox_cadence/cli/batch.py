"""Commands that make files of several projects."""

import argparse
from contextlib import ExitStack
from pathlib import Path

from fox_cadence.actions.batch import items_of, run_batch, table_json
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, answer
from fox_cadence.core.batch import Batch, Outcome, read_batch
from fox_cadence.errors import InputError
from fox_cadence.jobs.hands import Hands

NOT_AS_PLANNED = 3


def add_commands(command: Command) -> None:
    """Add `batch`."""
    batch = command("batch", _batch)
    batch.add_argument("file", type=Path, metavar="DOCKET.toml", help="what is made of which projects")
    batch.add_argument("--again", action="store_true", help="make what is there already again")
    batch.add_argument(
        "--scheduler", default="", metavar="ADDRESS", help="a Dask scheduler, such as tcp://HOST:8786"
    )
    batch.add_argument(
        "--here", default="", metavar="ADDRESS", help="the address its workers reach this machine at"
    )


def _batch(options: argparse.Namespace) -> int:
    batch = _read(options.file)
    with Workspace(options.data) as workspace, ExitStack() as stack:
        items = items_of(workspace, batch, options.file.parent)
        if options.scheduler:
            _use(workspace, options.scheduler, options.here, stack)
        rows = run_batch(workspace, batch, items, options.terminal, again=options.again)
    answer(options, table_json(rows), "\n".join(_text(row) for row in rows))
    if any(row.state == "failed" for row in rows):
        return 1
    return NOT_AS_PLANNED if any(row.in_sync is False for row in rows) else 0


def _read(path: Path) -> Batch:
    """Raises InputError."""
    try:
        return read_batch(path.read_text())
    except OSError as error:
        raise InputError(error.strerror or "it can't be read", str(path)) from error
    except ValueError as error:
        raise InputError(str(error), str(path)) from error


def _use(workspace: Workspace, scheduler: str, here: str, stack: ExitStack) -> None:
    """Have what is heavy done by a cluster. Raises InputError."""
    from fox_cadence.jobs.cluster import ClusterHands  # with the libraries of the cluster

    local: Hands = workspace.hands
    hands = ClusterHands(scheduler, workspace.engines, workspace.makers, here)
    stack.callback(hands.close)
    stack.callback(setattr, workspace, "hands", local)
    workspace.hands = hands


def _text(row: Outcome) -> str:
    proof = {True: ", in sync", False: ", NOT in sync", None: ""}[row.in_sync]
    files = ", ".join(str(file["path"]) for file in row.files)
    what = row.reason or files
    return f"{row.state + proof:<20} {row.piece} ({row.language})  {row.product}  {what}"
