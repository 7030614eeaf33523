"""The list of words is true: passes, states, keys and commands as the application has them."""

from pathlib import Path

import pytest

from fox_cadence.cli import COMMANDS
from fox_cadence.core.pass_status import PASSES
from fox_cadence.web import pages

DOC = (Path(__file__).resolve().parents[2] / "docs" / "words.md").read_text()


def table(heading: str) -> dict[str, str]:
    """The rows of the first table after a heading."""
    after = DOC[DOC.index(heading) :].splitlines()
    first = next(n for n, line in enumerate(after) if line.startswith("|"))
    rows = []
    for line in after[first + 2 :]:
        if not line.startswith("|"):
            break
        rows.append([cell.strip() for cell in line.strip("|").split("|")])
    return {row[0]: row[1] for row in rows}


def commands() -> dict[str, str]:
    return {name: text for group in COMMANDS.values() for name, text in group.items()}


@pytest.mark.parametrize(
    ("heading", "there"),
    [
        ("## How a line stands", dict(pages.STATE_WORDS)),
        ("## Keys", dict(pages.KEYS)),
        ("While the script is typed", dict(pages.SCRIPT_KEYS)),
        ("## Commands", commands()),
    ],
)
def test_what_the_list_says_is_what_the_application_says(heading: str, there: dict[str, str]) -> None:
    assert table(heading) == there


def test_every_pass_is_listed_in_the_order_of_the_work_and_has_a_surface() -> None:
    assert list(table("## Passes")) == list(PASSES)
    surfaces = (Path(pages.__file__).parent / "static/scripts/surfaces/surfaces.js").read_text()
    rows = surfaces[surfaces.index("SURFACES = {") : surfaces.index("};")]
    assert [line.split(":")[0].strip() for line in rows.splitlines()[1:] if ":" in line] == list(PASSES)
