"""Everything the page can do, from a terminal."""

import argparse
import difflib
import json
import time
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, Any

from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, Terminal, answer
from fox_cadence.errors import CancelledError, FoxError, InputError, NotFoundError

if TYPE_CHECKING:  # the web takes a second to load; commands that need none of it don't wait for it
    from fastapi import FastAPI

    from fox_cadence.web.in_process import Answered

_ASKED_S = 0.2


def add_commands(command: Command) -> None:
    """Add `do` and `actions`."""
    doing = command("do", _do)
    doing.add_argument("action", metavar="ACTION", help="as `fox-cadence actions` lists them")
    doing.add_argument(
        "fields",
        nargs="*",
        metavar="FIELD=VALUE",
        help="a value in JSON, or plain text; a file is FIELD=@PATH",
    )
    doing.add_argument("--body", metavar="JSON", help="all of what is sent, as JSON or as @PATH")
    doing.add_argument("--out", type=Path, metavar="FILE", help="where an answer goes that is a file")
    listing = command("actions", _actions)
    listing.add_argument("word", nargs="?", default="", metavar="WORD", help="only those it stands in")


def _app_and_actions(workspace: Workspace) -> "tuple[FastAPI, list[dict[str, Any]]]":
    from fox_cadence.web.app import create_app
    from fox_cadence.web.interface import operations

    app = create_app(workspace)
    return app, list(operations(app.openapi()))


def _do(options: argparse.Namespace) -> int:
    from fox_cadence.web.in_process import call

    with Workspace(options.data) as workspace:
        app, actions = _app_and_actions(workspace)
        known = {each["name"]: each for each in actions}
        operation = known.get(options.action)
        if operation is None:
            near = difflib.get_close_matches(options.action, known, 3)
            hint = f" Is it {' or '.join(near)}?" if near else " `fox-cadence actions` lists them."
            raise NotFoundError(f"There is no action {options.action}.{hint}")
        body = _value(options.body) if options.body is not None else None
        given = _fields(options.fields, operation)
        found = call(app, operation, given, body)
        if found.status >= 400:
            told = found.value or {}
            raise FoxError(told.get("detail") or f"It was refused ({found.status}).")
        found = _awaited(workspace, found, options.terminal)
    return _tell(options, found)


def _fields(written: list[str], operation: dict[str, Any]) -> dict[str, Any]:
    """Raises InputError."""
    types = {field["name"]: field["type"] for field in operation["fields"]}
    given: dict[str, Any] = {}
    for each in written:
        name, is_one, text = each.partition("=")
        if not is_one:
            raise InputError("write it as FIELD=VALUE", each)
        value: Any
        if types.get(name, "").endswith("file") and text.startswith("@"):
            value = Path(text[1:])
            if not value.is_file():
                raise InputError("there is no such file", text[1:])
        else:
            value = text if types.get(name) == "string" else _value(text)
        if types.get(name, "").startswith("list of") and not isinstance(value, list):
            value = [*given.get(name, []), value]
        given[name] = value
    return given


def _value(text: str) -> Any:
    """JSON where it is JSON, a file's JSON with @, else the text itself."""
    if text.startswith("@"):
        try:
            return json.loads(Path(text[1:]).read_text())
        except OSError as error:
            raise InputError(error.strerror or "it can't be read", text[1:]) from error
        except ValueError as error:
            raise InputError(f"it is no JSON ({error})", text[1:]) from error
    try:
        return json.loads(text)
    except ValueError:
        return text


def _awaited(workspace: Workspace, found: "Answered", terminal: Terminal) -> "Answered":
    """An answer that is a job, once the job has ended. Raises FoxError when it failed."""
    told = found.value
    if not isinstance(told, dict) or not {"id", "kind", "state", "result"} <= told.keys():
        return found
    job = workspace.jobs.get(told["id"])
    try:
        while job.state in ("waiting", "running"):
            terminal.report(job.done, job.total, job.note)
            time.sleep(_ASKED_S)
            job = workspace.jobs.get(job.id)
    except KeyboardInterrupt:
        workspace.jobs.cancel(job.id)
        raise
    if job.state == "cancelled":
        raise CancelledError(job.note)
    if job.state != "done":
        raise FoxError(job.note)
    return replace(found, body=json.dumps(job.result).encode())


def _tell(options: argparse.Namespace, found: "Answered") -> int:
    if options.out is not None:
        options.out.write_bytes(found.body)
        answer(options, {"file": str(options.out), "bytes": len(found.body)}, str(options.out))
    elif found.kind.endswith("json"):
        answer(options, found.value, json.dumps(found.value, ensure_ascii=False, indent=2))
    elif found.kind.startswith("text/"):
        text = found.body.decode("utf-8", "replace")
        answer(options, {"text": text}, text)
    elif found.body:
        raise InputError(f"the answer is a file ({found.kind}); say where it goes", "--out")
    return 0


def _actions(options: argparse.Namespace) -> None:
    with Workspace(options.data) as workspace:
        _, actions = _app_and_actions(workspace)
        found = [each for each in actions if options.word in each["name"]]
    lines: list[str] = []
    for each in found:
        lines.append(f"{each['name']}  {' '.join(each['text'].split())}")
        for field in each["fields"]:
            needed = ", needed" if field["needed"] else ""
            lines.append(f"    {field['name']}: {field['type']}{needed}")
    answer(options, {"actions": found}, "\n".join(lines) or "there is none of that name")
