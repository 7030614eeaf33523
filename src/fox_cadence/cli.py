"""The same actions from a terminal.

Exit codes: 0 done, 1 could not be done (or a part of it: `--json` and the text say which), 2 wrong use,
3 measured, and the video is not as it was planned.
"""

import argparse
import getpass
import json
import logging
import socket
import sys
import tempfile
from dataclasses import asdict
from pathlib import Path
from typing import Any

import argcomplete

from fox_cadence import (
    cli_actions,
    cli_batch,
    cli_export,
    cli_lettering,
    cli_picture,
    cli_sound,
    cli_versions,
    cli_voices,
)
from fox_cadence.actions.bring_in import MadeProject, MediaFile, NewProject, new_project, parse_size
from fox_cadence.actions.bundling import bring_in_bundle, write_bundle
from fox_cadence.actions.fitting import accept, fit
from fox_cadence.actions.script_import import Choices, Source
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace, default_data_folder
from fox_cadence.cli_answers import Terminal, answer
from fox_cadence.cli_picture import new_from_timeline
from fox_cadence.core.edits import EditError, SetRole
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.ticks import frame_rate, ticks_to_seconds
from fox_cadence.errors import FoxError, InputError
from fox_cadence.formats.decoding import ENCODINGS
from fox_cadence.store.storage_errors import describe
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.web.answers.proposal import proposal_in_the_piece

HOST, PORT = "127.0.0.1", 8345
_PATIENCE_S = 3
"""How long a stop waits for answers under way: a page with a half-read video would hold the server for ever.
"""


def main(arguments: list[str] | None = None) -> int:
    """Run a command; its exit code."""
    parser = _parser()
    argcomplete.autocomplete(parser)
    options = parser.parse_args(arguments)
    try:
        return int(options.run(options) or 0)
    except (FoxError, EditError, OSError) as error:
        text = describe(error) if isinstance(error, OSError) else str(error)
        print(json.dumps({"error": text}) if options.json else f"fox-cadence: {text}", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 1


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="fox-cadence", description="Times narration to picture.")
    commands = parser.add_subparsers(required=True, metavar="COMMAND")

    def command(name: str, run: Any, text: str) -> argparse.ArgumentParser:
        made = commands.add_parser(name, help=text, description=text)
        made.add_argument(
            "--data", type=Path, default=default_data_folder(), metavar="DIR", help="data folder"
        )
        made.add_argument("--json", action="store_true", help="answer in JSON, for scripts")
        made.set_defaults(run=run)
        return made

    for name, run, text in (
        ("demo", _demo, "make the sample project if it is not there, and serve"),
        ("serve", _serve, "serve the application on this machine"),
    ):
        made = command(name, run, text)
        made.add_argument("--port", type=int, default=PORT, help=f"port (default {PORT}; 0 takes a free one)")
        made.add_argument(
            "--host", default=HOST, help="address to listen on; on a network it needs a password"
        )
        made.add_argument("--name", nargs="*", default=[], help="names other machines call this one by")
        if name == "demo":
            made.add_argument("--no-serve", action="store_true", help="only make the sample project")
    command(
        "password", _password, "set the password for listening on a network; read from the terminal or stdin"
    )
    command("list", _list, "list the projects")
    new = command("new", _new, "make a project from files")
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
    voice = command("voice", _voice, "voice all lines that have no voice or are out of date")
    voice.add_argument("project", metavar="PROJECT")
    voice.add_argument(
        "--voice", metavar="ID", help="voice for every role, as `fox-cadence voices` lists them"
    )
    cli_voices.add_commands(command)
    cli_versions.add_commands(command)
    cli_picture.add_commands(command)
    cli_lettering.add_commands(command)
    cli_sound.add_commands(command)
    fitting = command("fit", _fit, "propose times; --accept keeps them")
    fitting.add_argument("project", metavar="PROJECT")
    fitting.add_argument("--accept", action="store_true", help="make the takes and keep the proposal")
    packing = command("pack", _pack, "write a project with all it needs into one file")
    packing.add_argument("project", metavar="PROJECT")
    packing.add_argument("--out", type=Path, required=True, metavar="DIR")
    unpacking = command("unpack", _unpack, "make a project of such a file")
    unpacking.add_argument("file", type=Path, metavar="FILE")
    cli_export.add_commands(command)
    cli_batch.add_commands(command)
    cli_actions.add_commands(command)
    return parser


def _demo(options: argparse.Namespace) -> int:
    # they draw with a library no other command needs
    from fox_cadence.demo.marrow_bay import ensure_demo
    from fox_cadence.demo.night_post import ensure_night_post

    with Workspace(options.data) as workspace:
        if not options.json:
            print(
                "Preparing the sample projects: their clips are drawn the first time, a minute or two.",
                flush=True,
            )
        project = ensure_demo(workspace, Terminal(options.json))
        ensure_night_post(workspace, Terminal(options.json))
    if options.no_serve:
        answer(options, {"project": project}, f"Sample project: {project}")
        return 0
    return _serve(options, f"/projects/{project}")


def _serve(options: argparse.Namespace, path: str = "/") -> int:
    # a second at every start, for what only a server needs
    import uvicorn

    from fox_cadence.web.app import Listening, create_app
    from fox_cadence.web.guard import LOOPBACK

    logging.basicConfig(level=logging.WARNING)
    workspace = Workspace(options.data)
    network = options.host not in LOOPBACK
    if network and not workspace.access.is_set():
        raise InputError("listening on a network needs a password first: fox-cadence password", "--host")
    workspace.hold()
    tempfile.tempdir = str(workspace.scratch)  # where forms with files wait while they come in
    family = socket.AF_INET6 if ":" in options.host else socket.AF_INET
    # Named as TCP, or asyncio leaves small packets to wait for one another, 40 ms for each answer.
    listener = socket.socket(family, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((options.host, options.port))
        listener.listen()  # whoever reads the address may call at once, and waits until we answer
    except OSError as error:
        why = f"port {options.port} is taken or can't be had ({error.strerror})"
        raise InputError(f"{why}; choose another with --port") from error
    shown = f"[{options.host}]" if ":" in options.host else options.host
    address = f"http://{shown}:{listener.getsockname()[1]}{path}"
    config = uvicorn.Config(
        create_app(workspace, Listening(network, frozenset(options.name))),
        log_level="warning",
        server_header=False,
        timeout_graceful_shutdown=_PATIENCE_S,
    )
    server = uvicorn.Server(config)
    answer(options, {"address": address}, f"Fox Cadence is at {address} (Ctrl+C stops it)")
    server.run(sockets=[listener])
    return 0


def _password(options: argparse.Namespace) -> None:
    if sys.stdin.isatty():
        given = getpass.getpass("New password: ")
        if getpass.getpass("Once more: ") != given:
            raise InputError("the two were not the same; nothing was changed", "password")
    else:
        given = sys.stdin.readline().rstrip("\n")
    with Workspace(options.data) as workspace:
        workspace.access.set_password(given)
    answer(options, {"set": True}, "The password is set. All who had signed in must do so again.")


def _list(options: argparse.Namespace) -> None:
    with Workspace(options.data) as workspace:
        found = workspace.projects.list()
    rows = [
        f"{item.project_id:<14} {item.seconds:7.2f} s {item.lines:4d} lines  {item.name}" for item in found
    ]
    answer(options, {"projects": [asdict(item) for item in found]}, "\n".join(rows) or "No project yet.")


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
            made = new_project(workspace, wanted, files, words, Terminal(options.json))
    answer(options, *_made(made))


def _voice(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        edits = _voice_for_all(workspace, options.project, options.voice) if options.voice else []
        result = voice_lines(workspace, options.project, watcher=Terminal(options.json), edits=edits)
    text = [f"{result.made} made, {result.kept} kept, {len(result.failed)} failed"]
    text += [f"  {failure.text!r}: {failure.reason}" for failure in result.failed]
    answer(options, asdict(result), "\n".join(text))
    return 1 if result.failed else 0


def _voice_for_all(workspace: Workspace, project_id: str, voice_id: str) -> list[SetRole]:
    if voice_by_id(voice_id) is None:
        raise InputError(f"there is no voice {voice_id!r}; `fox-cadence voices` lists them", "--voice")
    return [SetRole(role_id=role.id, voice_id=voice_id) for role in workspace.head(project_id).project.roles]


def _fit(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        fitted = fit(workspace, options.project)
        data = proposal_in_the_piece(fitted)
        if fitted.proposal.status is not Status.SOLVED:
            answer(options, data, data["reason"])
            return 1
        if options.accept:
            done = accept(workspace, fitted, Terminal(options.json))
            data["accepted_revision"] = done.revision
            data["rounds"] = done.rounds
            data["results"] = [
                {
                    "id": line.line_id,
                    "planned_end_s": ticks_to_seconds(line.planned_end_ticks),
                    "end_s": ticks_to_seconds(line.end_ticks),
                    "stretch": line.stretch,
                    "rounds": line.rounds,
                }
                for line in done.lines
            ]
            worst = max((abs(line.off_ticks) for line in done.lines), default=0)
            data["worst_miss_ms"] = ticks_to_seconds(worst) * 1000
    rows = [
        f"{line['state']:<8} {line['start_s']:7.2f} to {line['end_s']:7.2f}  ×{line['pace']:.3f}  "
        f"{line['text'][:60]}"
        for line in data["lines"]
    ]
    if data["outside"]:
        rows.append(data["reason"])
    answer(options, data, "\n".join(rows))
    return 0


def _pack(options: argparse.Namespace) -> None:
    with Workspace(options.data) as workspace:
        file = write_bundle(workspace, options.project, options.out, Terminal(options.json))
    answer(options, {"file": str(file)}, str(file))


def _unpack(options: argparse.Namespace) -> None:
    if not options.file.is_file():
        raise InputError("there is no such file", str(options.file))
    with Workspace(options.data) as workspace:
        made = bring_in_bundle(workspace, options.file, options.file.name, Terminal(options.json))
    answer(options, *_made(made))


def _made(made: MadeProject) -> tuple[dict[str, Any], str]:
    """A new project with its remarks, for scripts and for people."""
    lines = [
        f"Project {made.project_id}",
        *(f"  {remark.place}: {remark.message}" for remark in made.remarks),
    ]
    return made.as_json(), "\n".join(lines)


if __name__ == "__main__":
    sys.exit(main())
