"""Commands about words on the screen."""

import argparse
from typing import Any

from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.proofing import ProofSheet, Proved
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli.answers import Command, answer
from fox_cadence.core.edits import SetCaptionStyle
from fox_cadence.core.lettered import OWN, missing_signs
from fox_cadence.core.lettering.styles import STYLES
from fox_cadence.errors import InputError
from fox_cadence.media.fonts import FAMILIES


def add_commands(command: Command) -> None:
    """Add `letter` and `fonts`."""
    letter = command("letter", _letter)
    letter.add_argument("project", metavar="PROJECT")
    letter.add_argument("--style", metavar="ID", help=f"one of {', '.join(style.id for style in STYLES)}")
    letter.add_argument("--check", action="store_true", help="end with 1 where a rule is broken")
    command("fonts", _fonts)


def _letter(options: argparse.Namespace) -> int:
    with Workspace(options.data) as workspace:
        head = workspace.head(options.project)
        if options.style is not None:
            kept = head.project.lettering.kept
            style = next((each for each in (*STYLES, *kept) if options.style in (each.id, each.name)), None)
            if style is None:
                raise InputError(f"there is no style {options.style!r}", "--style")
            make_edits(workspace, options.project, head, [SetCaptionStyle(style=style)])
            head = workspace.head(options.project)
        sheet = ProofSheet(workspace, workspace.timeline(head.project))
        missing = missing_signs(head.project, workspace.faces_of(head.project))
        rows = [(sheet.prove(words), missing.get(words.id, ())) for words in sheet.words]
    broken = sum(bool(proved.faults) for proved, _ in rows)
    said = {
        "style": head.project.lettering.style.id,
        "broken": broken,
        "words": [_row(proved, signs) for proved, signs in rows],
    }
    lines = [
        f"{proved.words.id:<6} {' / '.join(proved.lines)}"
        + "".join(f"\n       {fault.text}" for fault in proved.faults)
        for proved, _ in rows
    ]
    lines.append(f"{broken} of {len(rows)} to look at")
    answer(options, said, "\n".join(lines))
    return 1 if options.check and broken else 0


def _row(proved: Proved, signs: tuple[str, ...]) -> dict[str, Any]:
    words = proved.words
    return {
        "id": words.id,
        "kind": "title" if words.is_title else "caption",
        "text": words.text,
        "lines": list(proved.lines),
        "style": words.style.id,
        "in_frame": words.in_frame,
        "out_frame": words.out_frame,
        "contrast": None if proved.contrast is None else round(proved.contrast, 2),
        "faults": [
            {"rule": fault.rule, "text": fault.text, "value": fault.value, "limit": fault.limit}
            for fault in proved.faults
        ],
        "missing_signs": list(signs),
    }


def _fonts(options: argparse.Namespace) -> None:
    found: list[dict[str, Any]] = [
        {"id": each.id, "name": each.name, "kind": each.kind, "weights": sorted(each.files), "own": False}
        for each in FAMILIES
    ]
    with Workspace(options.data) as workspace:
        found += [
            {
                "id": f"{OWN}{key}",
                "name": font.name,
                "kind": "your own",
                "weights": [font.weight],
                "own": True,
            }
            for key, font in workspace.own_fonts.kept().items()
        ]
    text = "\n".join(
        f"{each['name']:<22} {each['kind']:<22} {', '.join(map(str, each['weights']))}" for each in found
    )
    answer(options, found, text)
