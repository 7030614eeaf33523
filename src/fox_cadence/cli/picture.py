"""Commands about pictures and the frame."""

import argparse
from pathlib import Path

from pydantic import ValidationError

from fox_cadence.actions.bring_in import MadeProject, NewProject, parse_size
from fox_cadence.actions.cutting import cuts_of_file
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.filling import accept_fill, fit_and_voice, plan_fill
from fox_cadence.actions.interchange import media_in, project_from_timeline, write_interchange
from fox_cadence.actions.shelf import found, on_shelf
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, answer
from fox_cadence.core.edits import SetFrame
from fox_cadence.core.fill import FillWish
from fox_cadence.core.frame_change import seen_share, worth_a_look
from fox_cadence.core.shelf import Wish
from fox_cadence.errors import InputError
from fox_cadence.media.cut_finding import as_json


def add_commands(command: Command) -> None:
    """Add `cuts`, `frame`, `shelf`, `fill` and `interchange`."""
    cuts = command("cuts", _cuts)
    cuts.add_argument("file", type=Path, metavar="FILE")
    frame = command("frame", _frame)
    frame.add_argument("project", metavar="PROJECT")
    frame.add_argument("--shape", required=True, metavar="WIDTHxHEIGHT")
    inter = command("interchange", _interchange)
    inter.add_argument("project", metavar="PROJECT")
    inter.add_argument("--out", type=Path, required=True, metavar="DIR")
    shelf = command("shelf", _shelf)
    shelf.add_argument("words", nargs="*", metavar="WORDS")
    shelf.add_argument("--project", metavar="PROJECT", help="with the clips of this piece")
    fill = command("fill", _fill)
    fill.add_argument("project", metavar="PROJECT")
    fill.add_argument("--section", type=int, metavar="N", help="only this one, counted from 1")
    fill.add_argument("--seconds", nargs=2, type=float, default=(5.0, 7.0), metavar=("LEAST", "MOST"))
    fill.add_argument("--shots", nargs=2, type=int, default=(3, 4), metavar=("FEWEST", "MOST"))
    fill.add_argument("--on-beats", action="store_true", help="cuts on beats, not at the ends of phrases")
    fill.add_argument("--finish", action="store_true", help="then fit and voice the piece")


def _cuts(options: argparse.Namespace) -> int:
    if not options.file.is_file():
        raise InputError("there is no such file", str(options.file))
    try:
        found = cuts_of_file(options.file.resolve(), options.terminal)
    except InputError as error:
        raise InputError(str(error), str(options.file)) from error
    rows = [
        f"{cut['frame']:>7}  {cut['time_s']:>9.3f} s  {cut['kind']:<8}  {cut['certainty']:.2f}"
        for cut in as_json(found)
    ]
    answer(options, {"cuts": as_json(found)}, "\n".join(rows) or "no cuts were found")
    return 0


def new_from_timeline(workspace: Workspace, wanted: NewProject, options: argparse.Namespace) -> MadeProject:
    """`new --timeline FILE --media DIR`. Raises InputError."""
    if options.words is not None or options.picture:
        raise InputError(
            "a timeline brings its own shots and words; leave --picture and --words out", "--timeline"
        )
    try:
        data = options.timeline.read_bytes()
    except OSError as error:
        raise InputError(error.strerror or "it can't be read", str(options.timeline)) from error
    media = media_in(options.media or [])
    return project_from_timeline(workspace, wanted, data, options.timeline.name, media, options.terminal)


def _interchange(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        made = write_interchange(workspace, options.project, options.out)
    said = {"files": [str(file) for file in made.files], "left_out": list(made.left_out)}
    rows = [*said["files"], *(f"  not in it: {each}" for each in made.left_out)]
    answer(options, said, "\n".join(rows))
    return 0


def _shelf(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        project = workspace.head(options.project).project if options.project else None
        items = found(on_shelf(workspace, project), Wish(words=" ".join(options.words)))
    rows = [
        f"{item.id:<16.16}  {item.title:<26.26}  {item.kind:<10}  "
        f"{f'{item.seconds:.1f} s' if item.seconds else '':>7}  {item.source:<8}  {item.licence}"
        for item in items
    ]
    said = [item.model_dump(exclude={"clip_hash"}) for item in items]
    answer(options, {"items": said}, "\n".join(rows) or "nothing on the shelf answers to that")
    return 0


def _fill(options: argparse.Namespace) -> int:
    try:
        wish = FillWish(
            shortest_s=options.seconds[0], longest_s=options.seconds[1], fewest=options.shots[0],
            most=options.shots[1], on_beats=options.on_beats,
        )  # fmt: skip
    except ValidationError as error:
        raise InputError(error.errors(include_url=False)[0]["msg"], "fill") from error
    with Workspace(options.data) as workspace:
        plans = plan_fill(workspace, options.project, wish, options.section)
        watcher = options.terminal
        accept_fill(workspace, options.project, plans, watcher)
        if options.finish:
            fit_and_voice(workspace, options.project, watcher)
        rate = workspace.head(options.project).project.rate
    rows: list[str] = []
    for plan in plans:
        rows += [plan.name or "The whole piece"]
        rows += [
            f"  {rate.seconds(shot.start):7.2f} s  {rate.seconds(shot.end - shot.start):5.2f} s  "
            f"{shot.item:<16}  {shot.words}"
            for shot in plan.shots
        ]
    answer(options, {"sections": [plan.model_dump() for plan in plans]}, "\n".join(rows))
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
