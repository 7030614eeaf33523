"""Commands about pictures and the frame."""

import argparse
from pathlib import Path

from fox_cadence.actions.bring_in import parse_size
from fox_cadence.actions.cutting import cuts_of_file
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli_answers import Command, Terminal, answer
from fox_cadence.core.edits import SetFrame
from fox_cadence.core.frame_change import seen_share, worth_a_look
from fox_cadence.errors import InputError
from fox_cadence.media.cut_finding import as_json


def add_commands(command: Command) -> None:
    """Add `cuts` and `frame`."""
    cuts = command("cuts", _cuts, "find the cuts, dissolves and fades in a finished video")
    cuts.add_argument("file", type=Path, metavar="FILE")
    frame = command("frame", _frame, "give a piece another shape of frame, and tell which shots to look at")
    frame.add_argument("project", metavar="PROJECT")
    frame.add_argument("--shape", required=True, metavar="WIDTHxHEIGHT")


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


def _frame(options: argparse.Namespace) -> int:
    width, height = parse_size(options.shape)
    with Workspace(options.data) as workspace:
        head = workspace.head(options.project)
        make_edits(workspace, options.project, head, [SetFrame(width=width, height=height)])
        made = workspace.head(options.project).project
    looks = [
        {
            "shot": place + 1,
            "name": made.shots[place].name,
            "seen": round(seen_share(made, made.shots[place]), 3),
        }
        for place in worth_a_look(head.project, made)
    ]
    rows = [
        f"  shot {each['shot']}, {each['name']}: {each['seen']:.0%} of its picture is seen" for each in looks
    ]
    said = {"width": made.width, "height": made.height, "worth_a_look": looks}
    answer(options, said, "\n".join([f"{made.width} × {made.height}", *rows]))
    return 0
