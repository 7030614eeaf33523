"""Commands about versions: the same piece in another language."""

import argparse
from pathlib import Path

from fox_cadence.actions.versions import make_version, put_file, words_to_translate
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, answer
from fox_cadence.errors import InputError
from fox_cadence.formats.translation import WRITERS
from fox_cadence.store.library import write_safely
from fox_cadence.web.answers.versions import versions_json


def add_commands(command: Command) -> None:
    """Add `version` and `versions`."""
    version = command("version", _version)
    version.add_argument("project", metavar="PROJECT")
    version.add_argument("--language", metavar="TAG", help="begin one in this language, such as es or pt-BR")
    version.add_argument(
        "--words", type=Path, metavar="FILE", help="CSV or DOCX with two columns, XLIFF, SRT, WebVTT or text"
    )
    version.add_argument(
        "--to-translate", type=Path, metavar="FILE", help="write the words for a translator: CSV, DOCX or XLF"
    )
    version.add_argument("--name", default="", metavar="NAME", help="name of the version")
    version.add_argument(
        "--cuts", choices=("own", "first"), default="own", help="its own, or held as in the first"
    )
    version.add_argument(
        "--shown",
        choices=("own", "first"),
        default="own",
        help="words on the screen: its own, or left as in the first, so that only what is said changes",
    )
    versions = command("versions", _versions)
    versions.add_argument("project", metavar="PROJECT")


def _version(options: argparse.Namespace) -> int:
    if options.to_translate is not None:
        return _to_translate(options)
    words = None
    if options.words is not None:
        try:
            words = (options.words.name, options.words.read_bytes())
        except OSError as error:
            raise InputError(error.strerror or "it can't be read", str(options.words)) from error
    with Workspace(options.data) as workspace:
        if options.language is not None:
            made = make_version(
                workspace,
                options.project,
                options.language,
                words,
                options.name,
                options.cuts,
                options.shown,
            )
            version, placed, without, remarks = made.project_id, made.placed, made.without, made.remarks
        elif words is not None:
            matched = put_file(workspace, options.project, *words)
            version, placed, without = options.project, len(matched.words), matched.without
            remarks = matched.remarks
        else:
            raise InputError("give a language to begin a version, or words for one there is", "--language")
    data = {"project": version, "placed": placed, "without": without, "remarks": list(remarks)}
    rows = [f"Project {version}: {placed} with words, {without} without", *(f"  {each}" for each in remarks)]
    answer(options, data, "\n".join(rows))
    return 0


def _to_translate(options: argparse.Namespace) -> int:
    kind = options.to_translate.suffix.lower().removeprefix(".").replace("xliff", "xlf")
    if kind not in WRITERS:
        raise InputError("it can be written as .csv, .docx or .xlf", str(options.to_translate))
    with Workspace(options.data) as workspace:
        made = words_to_translate(workspace, options.project, kind, options.language or "")
    write_safely(options.to_translate, made)
    answer(options, {"file": str(options.to_translate)}, f"{options.to_translate}: words to translate")
    return 0


def _versions(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        found = versions_json(workspace, options.project)
    rows = [
        f"{each['id']:<14} {each['language']:<12} {each['seconds']:7.2f} s  "
        f"{each['done']} of {each['total']} translated, {each['fits']}  {each['name']}"
        for each in found["versions"]
    ]
    answer(options, found, "\n".join(rows))
    return 0
