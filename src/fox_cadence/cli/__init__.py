"""The same actions from a terminal. Each module has the commands of one subject, and is only loaded for them.

Exit codes: 0 done, 1 could not be done (or a part of it: `--json` and the text say which), 2 wrong use,
3 measured, and the video is not as it was planned.
"""

import argparse
import gc
import json
import os
import sys
from collections.abc import Callable, Collection, Sequence
from importlib import import_module
from pathlib import Path
from typing import Any

from fox_cadence.cli.answers import Terminal
from fox_cadence.errors import EditError, FoxError
from fox_cadence.store.database import default_data_folder
from fox_cadence.store.storage_errors import describe

COMMANDS: dict[str, dict[str, str]] = {
    "serving": {
        "demo": "make the sample projects if they are not there, and serve",
        "serve": "serve the application on this machine",
        "password": "set the password for listening on a network; read from the terminal or stdin",
    },
    "listing": {"list": "list the projects"},
    "projects": {
        "new": "make a project from files",
        "pack": "write a project with all it needs into one file",
        "unpack": "make a project of such a file",
    },
    "voices": {
        "voice": "voice all lines that have no voice or are out of date",
        "voices": "list the voices of this machine",
        "audition": "say a text in a voice, into a file",
        "lengths": "how long each line lasts or will last; nothing is voiced",
    },
    "versions": {
        "version": "begin a version of a piece in another language, or give it words",
        "versions": "list the versions of a piece with their standing",
    },
    "picture": {
        "cuts": "find the cuts, dissolves and fades in a finished video",
        "frame": "give a piece another shape of frame, and tell which shots to look at",
        "interchange": "write the timeline for other tools, as OTIO and EDL",
        "shelf": "find clips and stills on the shelf by words",
        "fill": "lay pictures from the shelf under a section or the whole piece",
    },
    "lettering": {
        "letter": "give captions a style, and look at them by the rules",
        "fonts": "list the typefaces words can be set in",
    },
    "sound": {
        "treat": "treat the voice in a sound file",
        "treatments": "list the treatments that ship",
        "clean": "take noise and the room out of a recording",
        "beats": "find the beats, bars and tempo of music",
        "beds": "list the beds that ship",
        "effects": "list the spot effects that ship",
        "mix": "mix the sound of a project into a WAV file",
    },
    "fitting": {"fit": "propose times; --accept keeps them"},
    "export": {
        "export": "make the files of a docket",
        "dockets": "list the dockets that are kept for all projects",
        "measure": "find cuts, speech and captions in a finished video and compare",
    },
    "batch": {"batch": "make the files of several projects by one docket"},
    "actions": {
        "do": "do what the page does: one of the actions, by its name",
        "actions": "list the actions of the page, with their fields",
    },
    "tokens": {
        "token": "make a token for a script on a network",
        "tokens": "list the tokens of scripts",
        "completion": "print what completes commands in a shell",
    },
}
"""By the module that has them: commands and what they do. A module adds the options of its commands, and
what they run, in `add_commands`."""


def main(arguments: Sequence[str] | None = None) -> int:
    """Run a command; its exit code."""
    given = sys.argv[1:] if arguments is None else list(arguments)
    if "_ARGCOMPLETE" in os.environ:
        _complete()
    options = parser(given).parse_args(given)
    terminal = Terminal(options.json, options.command)
    options.terminal = terminal
    try:
        with terminal:
            return int(options.run(options) or 0)
    except (FoxError, EditError, OSError) as error:
        text = describe(error) if isinstance(error, OSError) else str(error)
        print(json.dumps({"error": text}) if options.json else f"fox-cadence: {text}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 1


def parser(words: Collection[str]) -> argparse.ArgumentParser:
    """The parser of the command line. Every command is in it; only those that are among the words have their
    options."""
    made = argparse.ArgumentParser(prog="fox-cadence", description="Times narration to picture.")
    commands = made.add_subparsers(required=True, metavar="COMMAND", dest="command")
    parsers = {
        name: commands.add_parser(name, help=text, description=text)
        for group in COMMANDS.values()
        for name, text in group.items()
    }

    def command(name: str, run: Callable[[argparse.Namespace], Any]) -> argparse.ArgumentParser:
        found = parsers[name]
        found.add_argument(
            "--data", type=Path, default=default_data_folder(), metavar="DIR", help="data folder"
        )
        found.add_argument("--json", action="store_true", help="answer in JSON, for scripts")
        found.set_defaults(run=run)
        return found

    gc.disable()  # modules stay: looking through them for what can go takes a tenth of the time to load them
    for module, group in COMMANDS.items():
        if not group.keys().isdisjoint(words):
            import_module(f"fox_cadence.cli.{module}").add_commands(command)
    gc.freeze()
    gc.enable()
    return made


def _complete() -> None:
    import argcomplete  # only a shell that completes a word needs it

    argcomplete.autocomplete(parser(os.environ.get("COMP_LINE", "").split()))
