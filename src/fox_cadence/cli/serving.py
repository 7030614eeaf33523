"""Serving the application, with the samples or without, and the password for a network."""

import argparse
import getpass
import logging
import socket
import sys
import tempfile

import uvicorn

from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, answer
from fox_cadence.demo.samples import ensure_samples
from fox_cadence.errors import InputError
from fox_cadence.web.app import Listening, create_app
from fox_cadence.web.guard import LOOPBACK

HOST, PORT = "127.0.0.1", 8345
_PATIENCE_S = 3
"""How long a stop waits for answers under way: a page with a half-read video would hold the server for ever.
"""


def add_commands(command: Command) -> None:
    """Add `demo`, `serve` and `password`."""
    for name, run in (("demo", _demo), ("serve", _serve)):
        made = command(name, run)
        made.add_argument("--port", type=int, default=PORT, help=f"port (default {PORT}; 0 takes a free one)")
        made.add_argument(
            "--host", default=HOST, help="address to listen on; on a network it needs a password"
        )
        made.add_argument("--name", nargs="*", default=[], help="names other machines call this one by")
        if name == "demo":
            made.add_argument(
                "--no-serve", action="store_true", help="only bring the samples in, and prepare their clips"
            )
    command("password", _password)


def _demo(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        project = ensure_samples(workspace, options.terminal)
        if options.no_serve:
            workspace.preparing.prepare_all(workspace.library.clips(), options.terminal)
            answer(options, {"project": project}, f"Sample project: {project}")
            return 0
    return _serve(options, f"/projects/{project}")


def _serve(options: argparse.Namespace, path: str = "/") -> int:
    options.terminal.step("")  # it goes on until somebody stops it
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
