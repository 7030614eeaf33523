"""The pages: what they list is what there is."""

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import SetHouse
from fox_cadence.core.states import LineState
from fox_cadence.web import pages
from fox_cadence.web.app import create_app
from tests.builders import simple_project

SCRIPTS = Path(pages.__file__).parent / "static" / "scripts"
SHOWN_AS = {
    " ": "Space",
    "ArrowLeft": "←",
    "ArrowRight": "→",
    "ArrowUp": "↑",
    "ArrowDown": "↓",
    "Escape": "Esc",
    "-": "−",
}


@pytest.fixture
def client(workspace: Workspace) -> Iterator[TestClient]:
    with TestClient(create_app(workspace), base_url="http://127.0.0.1:8345") as made:
        yield made


def test_the_list_of_keys_has_every_key_and_no_other() -> None:
    script = (SCRIPTS / "piece" / "keys.js").read_text()
    table = script[script.index("const table = {") : script.index("this.t.passes.forEach")]
    bound = {key or bare for key, bare in re.findall(r'^ {6}(?:"([^"]+)"|(\w+)): ', table, re.MULTILINE)}
    listed = [word for keys, _ in pages.KEYS for word in keys.split() if word not in {"to", "Ctrl"}]
    for key in bound:
        shown = SHOWN_AS.get(key, key.upper() if len(key) == 1 else key)
        assert shown in listed, f"{key} is bound, but not in the list"
    single = {keys.lower() for keys, _ in pages.KEYS if len(keys) == 1 and keys.isalpha()}
    assert single == {key for key in bound if len(key) == 1 and key.isalpha()}


def test_every_house_limit_can_be_changed_and_within_the_same_bounds() -> None:
    shown = {name: (least, most) for _, fields in pages.HOUSE_FIELDS for name, _, _, least, most in fields}
    numbers = {
        name
        for name, field in SetHouse.model_fields.items()
        if "float" in str(field.annotation) or "int" in str(field.annotation)
    }
    assert set(shown) == numbers
    for name, bounds in shown.items():
        for value in bounds:
            SetHouse.model_validate({name: value})


def test_every_state_is_explained() -> None:
    assert {name for name, _ in pages.STATE_WORDS} == {state.value for state in LineState}


def test_pages_open_with_and_without_projects(client: TestClient, workspace: Workspace) -> None:
    assert "/new" in client.get("/").text
    project_id = workspace.projects.create(simple_project(["One."], name="Foam and stone"), "Project made")
    assert "Foam and stone" in client.get("/").text
    page = client.get(f"/projects/{project_id}")
    assert page.status_code == 200
    assert "Foam and stone" in page.text
    new = client.get("/new").text
    for size, _ in pages.SIZES:
        assert f'value="{size}"' in new


@pytest.mark.parametrize("path", ["/projects/none", "/nowhere"])
def test_a_page_that_is_not_there_says_so_without_a_traceback(client: TestClient, path: str) -> None:
    answer = client.get(path)
    assert answer.status_code == 404
    assert "<html" in answer.text
    assert "Traceback" not in answer.text


def test_every_script_and_font_a_page_asks_for_is_shipped(client: TestClient, workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project(["One."]), "Project made")
    for page in ("/", "/new", f"/projects/{project_id}"):
        text = client.get(page).text
        for path in re.findall(r'(?:src|href)="(/(?:static|fonts)/[^"]+)"', text):
            assert client.get(path).status_code == 200, path
        assert not re.findall(r'(?:src|href)="https?://', text)
    for script in SCRIPTS.rglob("*.js"):
        for wanted in re.findall(r'from "(\.[^"]+)"', script.read_text()):
            assert (script.parent / wanted).resolve().is_file(), f"{script.name} asks for {wanted}"


def test_no_variable_of_a_list_hides_a_part_of_the_page() -> None:
    """In a list, a method that is called finds the list's variable before the page's own part of that
    name."""
    web = Path(pages.__file__).parent
    scripts = [*(web / "static" / "scripts" / "piece").glob("*.js"), web / "static" / "scripts" / "piece.js"]
    member = re.compile(r"^  (?:async |get )?(\w+)\s*[(:,]", re.MULTILINE)
    parts = [script.read_text().partition("= part({")[2] for script in scripts]
    members = {name for part in parts for name in member.findall(part)}
    assert {"take", "shown", "run", "kept"} <= members
    loops = re.compile(r'x-for="\(?(\w+)(?:, \w+\))? in')
    hidden = {
        f"{name} in {template.name}"
        for template in (web / "templates").rglob("*.html")
        for name in loops.findall(template.read_text())
        if name in members
    }
    assert hidden == set()
