"""Commands that make files of a project, and look into them."""

import argparse
from dataclasses import asdict
from pathlib import Path

from fox_cadence.actions.docket import docket_of, kept_docket, rows_named
from fox_cadence.actions.export_jobs import file_json
from fox_cadence.actions.exporting import export
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, answer
from fox_cadence.core.docket.shipped import PLAIN
from fox_cadence.errors import InputError

NOT_AS_PLANNED = 3
_USUAL = ("captions", "sound", "video")


def add_commands(command: Command) -> None:
    """Add `export`, `dockets` and `measure`."""
    exporting = command("export", _export)
    exporting.add_argument("project", metavar="PROJECT")
    exporting.add_argument("--out", type=Path, required=True, metavar="DIR")
    for part in _USUAL:
        exporting.add_argument(
            f"--{part}", action="store_true", help=f"write the {part} (all when nothing is named)"
        )
    exporting.add_argument(
        "--look", action="store_true", help="write a small video, made fast (only when named)"
    )
    exporting.add_argument(
        "--product",
        nargs="+",
        action="extend",
        default=[],
        metavar="NAME",
        help=f"rows of the docket by their names: {', '.join(row.name for row in PLAIN.rows)}",
    )
    exporting.add_argument(
        "--docket", metavar="NAME", help="make what a docket wants that is kept for all projects"
    )
    command("dockets", _dockets)
    measuring = command("measure", _measure)
    measuring.add_argument("video", type=Path, metavar="VIDEO")
    measuring.add_argument("--against", required=True, metavar="PROJECT")


def _export(options: argparse.Namespace) -> int:
    named = [part for part in (*_USUAL, "look") if getattr(options, part)] + options.product
    with Workspace(options.data) as workspace:
        if options.docket:
            docket = kept_docket(workspace, options.docket)
            if named:
                docket = rows_named(docket, named)
            elif not docket.chosen:
                raise InputError("nothing is wanted in it", f"docket {docket.name}")
        else:
            docket = rows_named(docket_of(workspace, options.project), named or _USUAL)
        made = export(workspace, options.project, options.out, docket, options.terminal)
    data = {
        "files": [str(file) for file in made.paths],
        "made": [file_json(file) for file in made.files],
        "failed": [asdict(each) for each in made.failed],
        "notes": list(made.notes),
    }
    rows = [
        f"{file.path}  {file.loudness.integrated_lufs:.1f} LUFS, peak {file.loudness.true_peak_db:.1f} dBTP"
        if file.loudness
        else str(file.path)
        for file in made.files
    ]
    rows += [f"{each.product} could not be made: {each.reason}" for each in made.failed]
    rows += [f"note: {note}" for note in made.notes]
    answer(options, data, "\n".join(rows))
    return 1 if made.failed else 0


def _dockets(options: argparse.Namespace) -> None:
    with Workspace(options.data) as workspace:
        kept = workspace.dockets.all()
    data = {"dockets": [{"name": each.name, "wants": [row.name for row in each.chosen]} for each in kept]}
    rows = [f"{each.name}  {', '.join(row.name for row in each.chosen)}" for each in kept]
    answer(options, data, "\n".join(rows) or "none are kept")


def _measure(options: argparse.Namespace) -> int:
    from fox_cadence.actions.measuring import measure_video  # with all that looks at pictures

    with Workspace(options.data) as workspace:
        report = measure_video(workspace, options.video, options.against, options.terminal)
    answer(options, report.as_json(), report.as_text())
    return 0 if report.in_sync else NOT_AS_PLANNED
