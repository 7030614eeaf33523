"""Writes the list of operations into docs/api.md; a test finds one that has changed its name."""

import tempfile
from pathlib import Path

from fox_cadence.actions.workspace import Workspace
from fox_cadence.web.app import create_app
from fox_cadence.web.interface import operations

PAGE = Path(__file__).resolve().parent.parent / "docs" / "api.md"
HEAD = "## The operations\n\n"


def listed() -> str:
    """A row for each operation: its name, method and path."""
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder)) as workspace:
        found = sorted(operations(create_app(workspace).openapi()), key=lambda each: str(each["name"]))
    rows = [
        f"| {each['name']} | {each['method']} | `{each['path']}` |"
        for each in found
        if each["path"].startswith(("/api/", "/media/"))
    ]
    return "\n".join(["| name | method | path |", "| --- | --- | --- |", *rows]) + "\n"


def main() -> None:
    """Rewrite the list."""
    text = PAGE.read_text()
    PAGE.write_text(text[: text.index(HEAD) + len(HEAD)] + listed())


if __name__ == "__main__":
    main()
