"""Commands that make projects, and put them into files."""

import argparse
from pathlib import Path
from typing import Any

from fox_cadence.actions.bring_in import MadeProject, MediaFile, NewProject, new_project, parse_size
from fox_cadence.actions.bundling import bring_in_bundle, write_bundle
from fox_cadence.actions.script_import import Choices, Source
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, answer
from fox_cadence.cli.picture import new_from_timeline
from fox_cadence.core.ticks import frame_rate
from fox_cadence.errors import InputError
from fox_cadence.formats.decoding import ENCODINGS


def add_commands(command: Command) -> None:
    """Add `new`, `pack` and `unpack`."""
    new = command("new", _new)
    new.add_argument("name", metavar="NAME")
    new.add_argument(
        "--picture",
        nargs="+",
        type=Path,
        metavar="FILE",
        help="videos and stills in order (without: plain colours)",
    )
    new.add_argument(
        "--words", type=Path, metavar="FILE", help="text, Markdown, DOCX, CSV, SSML, SRT, WebVTT or SBV"
    )
    new.add_argument(
        "--encoding", metavar="NAME", help=f"of a text file: {', '.join(ENCODINGS)} (default: guessed)"
    )
    new.add_argument("--names", action="store_true", help="MAN: before a caption is who says it")
    new.add_argument(
        "--descriptions", action="store_true", help="say what stands in brackets in captions too"
    )
    new.add_argument("--bed", type=Path, metavar="FILE", help="music under the narration")
    new.add_argument("--size", default="1080x1920", help="frame size (default 1080x1920)")
    new.add_argument("--fps", default="30", help="frames a second (default 30)")
    new.add_argument("--language", default="en", help="language of the words, such as en or pt")
    new.add_argument("--like", default="", metavar="PROJECT", help="begin with the cast and ways of another")
    new.add_argument(
        "--timeline", type=Path, metavar="FILE", help="shots and words from an .otio or .edl file"
    )
    new.add_argument("--media", nargs="+", type=Path, metavar="DIR", help="where its media is found by name")
    new.add_argument("--find-cuts", action="store_true", help="a shot for each that is found in the videos")
    packing = command("pack", _pack)
    packing.add_argument("project", metavar="PROJECT")
    packing.add_argument("--out", type=Path, required=True, metavar="DIR")
    unpacking = command("unpack", _unpack)
    unpacking.add_argument("file", type=Path, metavar="FILE")


def _new(options: argparse.Namespace) -> None:
    try:
        rate = frame_rate(options.fps)
    except ValueError as error:
        raise InputError(str(error), "--fps") from error
    width, height = parse_size(options.size)
    if not options.picture and options.words is None:
        raise InputError("give a picture or words to begin with", "--picture, --words")
    files = [
        MediaFile(path, path.name)
        for path in (*(options.picture or []), *([options.bed] if options.bed else []))
    ]
    words = None
    if options.words is not None:
        try:
            choices = Choices(options.names, options.descriptions)
            words = Source(
                options.words.name, options.words.read_bytes(), None, options.encoding or "", choices
            )
        except OSError as error:
            raise InputError(error.strerror or "it can't be read", str(options.words)) from error
    with Workspace(options.data) as workspace:
        wanted = NewProject(
            options.name, width, height, rate, options.language, options.like, options.find_cuts
        )
        if options.timeline is not None:
            made = new_from_timeline(workspace, wanted, options)
        else:
            made = new_project(workspace, wanted, files, words, options.terminal)
    answer(options, *_made(made))


def _pack(options: argparse.Namespace) -> None:
    with Workspace(options.data) as workspace:
        file = write_bundle(workspace, options.project, options.out, options.terminal)
    answer(options, {"file": str(file)}, str(file))


def _unpack(options: argparse.Namespace) -> None:
    if not options.file.is_file():
        raise InputError("there is no such file", str(options.file))
    with Workspace(options.data) as workspace:
        made = bring_in_bundle(workspace, options.file, options.file.name, options.terminal)
    answer(options, *_made(made))


def _made(made: MadeProject) -> tuple[dict[str, Any], str]:
    """A new project with its remarks, for scripts and for people."""
    lines = [
        f"Project {made.project_id}",
        *(f"  {remark.place}: {remark.message}" for remark in made.remarks),
    ]
    return made.as_json(), "\n".join(lines)
