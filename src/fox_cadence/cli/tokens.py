"""Tokens for scripts elsewhere, and what completes commands in a shell."""

import argparse
import sys
from contextlib import closing
from dataclasses import asdict

from fox_cadence.cli.answers import Command, answer
from fox_cadence.errors import InputError
from fox_cadence.store.database import DATABASE, Database
from fox_cadence.store.tokens import Tokens

_SHELLS = ("bash", "zsh", "fish", "tcsh", "powershell")


def add_commands(command: Command) -> None:
    """Add `token`, `tokens` and `completion`."""
    token = command("token", _token)
    token.add_argument("name", metavar="NAME", help="what it is for")
    token.add_argument("--days", type=int, metavar="N", help="how long it holds (default: until revoked)")
    token.add_argument("--revoke", action="store_true", help="revoke it instead")
    command("tokens", _tokens)
    completion = command("completion", _completion)
    completion.add_argument("shell", choices=_SHELLS, metavar="SHELL", help=", ".join(_SHELLS))


def _token(options: argparse.Namespace) -> None:
    with closing(Database(options.data / DATABASE)) as database:
        tokens = Tokens(database)
        if options.revoke:
            tokens.revoke(options.name)
            answer(options, {"revoked": options.name}, f"{options.name} is revoked.")
            return
        if options.days is not None and options.days < 1:
            raise InputError("it must be 1 at least", "--days")
        token = tokens.make(options.name, options.days)
    print("This is told only once; send it as: Authorization: Bearer TOKEN", file=sys.stderr)
    answer(options, {"name": options.name, "token": token}, token)


def _tokens(options: argparse.Namespace) -> None:
    with closing(Database(options.data / DATABASE)) as database:
        found = Tokens(database).all()
    rows = []
    for each in found:
        ends = f"until {each.until[:10]}" if each.until else "until revoked"
        used = f"used {each.used_at[:10]}" if each.used_at else "never used"
        rows.append(f"{each.name}  made {each.made_at[:10]}, {ends}, {used}")
    answer(options, {"tokens": [asdict(each) for each in found]}, "\n".join(rows) or "there are none")


def _completion(options: argparse.Namespace) -> None:
    import argcomplete  # for this alone

    code = argcomplete.shellcode(["fox-cadence"], shell=options.shell)
    answer(options, {"code": code}, code)
