"""The routes, without a browser: refusals, security, and what must never become markup."""

from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.project import Project
from fox_cadence.web.app import create_app
from tests.builders import simple_project

ADDRESS = "http://127.0.0.1:8345"


@pytest.fixture
def client(workspace: Workspace) -> Iterator[TestClient]:
    with TestClient(create_app(workspace), base_url=ADDRESS) as made:
        yield made


def made(workspace: Workspace, project: Project | None = None) -> str:
    project_id = workspace.projects.create(
        project or simple_project(["One pool.", "Another."]), "Project made"
    )
    return f"/api/projects/{project_id}"


@pytest.mark.parametrize(
    ("headers", "refused"),
    [
        ({"host": "rebound.example"}, True),
        ({"origin": "https://elsewhere.example"}, True),
        ({"origin": "null"}, True),
        ({"sec-fetch-site": "cross-site"}, True),
        ({"origin": ADDRESS}, False),
        ({"host": "localhost:8345", "origin": "http://localhost:8345"}, False),
        ({}, False),
    ],
)
def test_only_pages_of_ours_may_change_anything(
    client: TestClient, workspace: Workspace, headers: dict[str, str], refused: bool
) -> None:
    answer = client.post(f"{made(workspace)}/undo", headers=headers)
    assert (answer.status_code == 403) is refused


def test_every_answer_carries_the_policy(client: TestClient) -> None:
    for path in ("/", "/new", "/static/dist/app.css", "/nowhere", "/api/projects/none/timeline"):
        policy = client.get(path).headers["content-security-policy"]
        assert "script-src 'self'" in policy
        assert "unsafe" not in policy


def test_names_and_words_never_become_markup(client: TestClient, workspace: Workspace) -> None:
    evil = "</script><script>alert(1)</script><b>"
    project = simple_project([evil], name=evil)
    project_id = made(workspace, project).rsplit("/", 1)[1]
    listed, page = client.get("/").text, client.get(f"/projects/{project_id}").text
    for text, written in ((listed, "\\u003cscript>alert"), (page, "&lt;script&gt;alert")):
        assert "<script>alert" not in text
        assert written in text


def test_an_edit_answers_with_the_new_timeline_and_a_clash_with_both(
    client: TestClient, workspace: Workspace
) -> None:
    base = made(workspace)
    edit = {"kind": "caption_text", "caption_id": "c1", "text": "One deep pool."}
    answer = client.post(f"{base}/edits", json={"based_on": 1, "edit": edit}).json()
    assert answer["revision"] == 2
    assert answer["captions"][0]["text"] == "One deep pool."
    late = client.post(f"{base}/edits", json={"based_on": 1, "edit": {**edit, "text": "Late."}})
    assert late.status_code == 409
    assert late.json()["state"]["captions"][0]["text"] == "One deep pool."
    assert "another window" in late.json()["detail"]


@pytest.mark.parametrize(
    ("edit", "status", "words"),
    [
        ({"kind": "shot_length", "shot_id": "s1", "length_frames": 0}, 422, "at least one frame"),
        ({"kind": "caption_text", "caption_id": "c9", "text": "x"}, 404, "c9"),
        ({"kind": "caption_times", "caption_id": "c1", "in_frame": 9, "out_frame": 3}, 422, "go out after"),
        ({"kind": "house", "fastest_pace": 9}, 422, "fastest pace: it may be at most 2"),
        ({"kind": "settings", "fastest_pace": 1.2}, 422, "fastest pace: this can’t be changed"),
        ({"kind": "role", "role_id": "r1", "name": ""}, 422, "name: it must not be empty"),
        (
            {"kind": "pause", "line_id": "l1", "after_word": "two"},
            422,
            "after word: it must be a whole number",
        ),
        ({"kind": "lock", "what": "shot", "id": "s1"}, 422, "locked: it is missing"),
        ({"kind": "nonsense"}, 422, "nonsense"),
        ({}, 422, "kind"),
    ],
)
def test_a_refused_edit_says_why(
    client: TestClient, workspace: Workspace, edit: dict[str, object], status: int, words: str
) -> None:
    base = made(workspace)
    answer = client.post(f"{base}/edits", json={"based_on": 1, "edit": edit})
    assert answer.status_code == status
    assert words in answer.json()["detail"]
    assert workspace.head(base.rsplit("/", 1)[1]).revision == 1


@pytest.mark.parametrize(
    "path",
    [
        "/api/projects/none/timeline",
        "/api/jobs/none",
        "/api/voices/none/sample.wav",
        f"/media/clips/{'0' * 64}/pack",
        f"/media/takes/{'0' * 64}/peaks",
    ],
)
def test_what_is_not_there_is_404_in_words(client: TestClient, path: str) -> None:
    answer = client.get(path)
    assert answer.status_code == 404
    assert answer.json()["detail"]


@pytest.mark.parametrize("name", ["..%2f..%2ffox-cadence.sqlite", "%2e%2e/fox-cadence.sqlite", "absent.mp4"])
def test_downloads_give_out_exported_files_only(client: TestClient, workspace: Workspace, name: str) -> None:
    assert client.get(f"{made(workspace)}/exports/{name}").status_code == 404


def test_a_line_is_heard_without_changing_the_project(client: TestClient, workspace: Workspace) -> None:
    base = made(workspace)
    answer = client.get(f"{base}/lines/l1/sound.wav")
    assert answer.content.startswith(b"RIFF")
    assert workspace.head(base.rsplit("/", 1)[1]).revision == 1


@pytest.mark.parametrize(
    ("form", "words"),
    [
        ({"name": " "}, "give the project a name"),
        ({"name": "x", "size": "big"}, "not a size"),
        ({"name": "x", "size": "33x33"}, "from 64 to 4096"),
        ({"name": "x", "fps": "31"}, "frame rate"),
    ],
)
def test_a_project_that_cannot_be_is_refused_at_once(
    client: TestClient, form: dict[str, str], words: str
) -> None:
    answer = client.post("/api/projects", data=form)
    assert answer.status_code == 422
    assert words in answer.json()["detail"]
