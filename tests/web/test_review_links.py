"""One test for each promise of a review link: whom it opens for, until when, and that nothing else can be
reached through it."""

import re
import time
from collections.abc import Iterator
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from fox_cadence.actions.export_jobs import export_folder
from fox_cadence.actions.reviewing import drop_ended
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import apply_all
from fox_cadence.core.edits.shots import DeleteShot
from fox_cadence.store import reviews as review_store
from fox_cadence.web import rates
from fox_cadence.web.app import Listening, create_app
from tests.builders import simple_project

ADDRESS = "http://127.0.0.1:8345"
PASSWORD = "low water at nine"
VIDEO = b"\x00\x00\x00\x18ftypmp42" + bytes(range(256)) * 8


@pytest.fixture
def studio(workspace: Workspace) -> Iterator[TestClient]:
    """The editor's browser, signed in, on an application that listens on a network."""
    workspace.access.set_password(PASSWORD)
    app = create_app(workspace, Listening(network=True))
    with TestClient(app, base_url=ADDRESS, follow_redirects=False) as client:
        client.post("/sign-in", data={"password": PASSWORD})
        yield client


@pytest.fixture
def visitor(studio: TestClient) -> TestClient:
    """Another browser, which knows no password."""
    return TestClient(studio.app, base_url=ADDRESS, follow_redirects=False)


@pytest.fixture
def project(workspace: Workspace) -> str:
    """A project a video was made of: what is in the file is nothing these tests look at."""
    made = simple_project(["One pool.", "Two <b>crabs</b>.", "Three."], name="Foam <i>line</i>")
    project_id = workspace.projects.create(made, "Made")
    for name in ("foam.mp4", "other.mp4"):
        path = export_folder(workspace, project_id) / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(VIDEO)
    files = [
        {"name": "foam.mp4", "product": "video", "bytes": len(VIDEO), "revision": 1},
        {"name": "foam.wav", "product": "sound", "bytes": 4, "revision": 1},
    ]
    workspace.results.keep_docket(project_id, "export", {"files": files, "revision": 1})
    return project_id


def link(studio: TestClient, project: str, **wish: Any) -> dict[str, Any]:
    answer = studio.post(f"/api/projects/{project}/reviews", json={"file": "foam.mp4", **wish})
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def note(client: TestClient, path: str, **more: Any) -> Any:
    said = {"at_s": 5.0, "author": "Rosa", "text": "The crab is cut off.", **more}
    return client.post(f"{path}/notes", json=said)


def test_somebody_without_a_password_sees_the_video_its_words_and_nothing_in_markup(
    studio: TestClient, visitor: TestClient, project: str
) -> None:
    path = link(studio, project)["path"]
    page = visitor.get(path)
    assert page.status_code == 200
    assert "Two &lt;b&gt;crabs&lt;/b&gt;." in page.text
    assert "<i>line" not in page.text
    assert visitor.get(f"{path}/video").content == VIDEO
    part = visitor.get(f"{path}/video", headers={"range": "bytes=4-11"})
    assert (part.status_code, part.content) == (206, VIDEO[4:12])
    captions = visitor.get(f"{path}/captions.vtt")
    assert captions.text.startswith("WEBVTT")
    assert captions.headers["content-type"].startswith("text/vtt")


def test_no_other_page_project_or_file_can_be_reached_from_it(
    studio: TestClient, visitor: TestClient, project: str
) -> None:
    made = link(studio, project, password="clam beds")
    visitor.post(f"{made['path']}/open", data={"password": "clam beds"})
    page = visitor.get(made["path"]).text
    assert visitor.get(made["path"]).status_code == 200
    targets = set(re.findall(r'(?:href|src|action)="([^"]+)"', page))
    assert targets
    assert all(each.startswith((made["path"], "/static/")) for each in targets), targets
    assert project not in page
    schema = studio.app.openapi()["paths"]  # type: ignore[attr-defined]
    for route, methods in schema.items():
        for method in methods:
            if route.startswith(("/review/", "/sign-in")):
                continue
            real = re.sub(r"\{project_id\}", project, route)
            answer = visitor.request(method.upper(), re.sub(r"\{\w+\}", made["id"], real))
            assert answer.status_code in (303, 401), (method, route, answer.status_code)
    for escape in ("/../video", "/%2e%2e/foam.wav", "/other.mp4", "/video/../../..", "/log", "/answer"):
        assert visitor.get(made["path"] + escape).status_code in (303, 401, 404), escape


def test_it_opens_until_its_time(
    studio: TestClient, visitor: TestClient, project: str, workspace: Workspace
) -> None:
    soon = (datetime.now(UTC) + timedelta(hours=1)).isoformat()
    made = link(studio, project, until=soon)
    assert visitor.get(made["path"]).status_code == 200
    with workspace.database.write() as db:
        passed = (datetime.now(UTC) - timedelta(seconds=1)).isoformat(timespec="milliseconds")
        db.execute("UPDATE review_link SET until = ?", (passed,))
    for part in ("", "/video", "/captions.vtt", "/notes"):
        assert visitor.get(made["path"] + part).status_code == 410, part
    assert note(visitor, made["path"]).status_code == 410
    assert "has ended" in visitor.get(made["path"]).text
    assert studio.get(f"/api/projects/{project}/reviews").json()["links"][0]["standing"] == "over"
    kept = workspace.folder / "reviews" / made["id"]
    assert kept.is_dir()
    drop_ended(workspace)
    assert not kept.exists()


def test_a_time_that_has_passed_is_refused(studio: TestClient, project: str) -> None:
    asked = {"file": "foam.mp4", "until": "2020-01-01T00:00:00Z"}
    answer = studio.post(f"/api/projects/{project}/reviews", json=asked)
    assert answer.status_code == 422
    assert "passed" in answer.json()["detail"]


def test_a_revoked_link_opens_for_nobody_also_not_for_who_is_in(
    studio: TestClient, visitor: TestClient, project: str, workspace: Workspace
) -> None:
    made = link(studio, project, password="clam beds")
    visitor.post(f"{made['path']}/open", data={"password": "clam beds"})
    assert note(visitor, made["path"]).status_code == 200
    assert studio.delete(f"/api/projects/{project}/reviews/{made['id']}").status_code == 200
    for part in ("", "/video", "/notes"):
        assert visitor.get(made["path"] + part).status_code == 410, part
    assert visitor.post(f"{made['path']}/open", data={"password": "clam beds"}).status_code == 410
    assert not (workspace.folder / "reviews" / made["id"]).exists()
    assert len(studio.get(f"/api/projects/{project}/reviews").json()["notes"]) == 1  # what was said stays


def test_once_is_one_browser_and_only_a_press_opens_it(
    studio: TestClient, visitor: TestClient, project: str
) -> None:
    path = link(studio, project, once=True)["path"]
    other = TestClient(studio.app, base_url=ADDRESS, follow_redirects=False)
    assert other.get(path).status_code == 401  # what looks at addresses in messages opens nothing
    assert other.get(f"{path}/video").status_code == 401
    assert visitor.post(f"{path}/open").status_code == 303
    assert visitor.get(path).status_code == 200
    assert visitor.get(f"{path}/video").status_code == 200
    for part in ("", "/video", "/notes"):
        assert other.get(path + part).status_code == 410
    assert other.post(f"{path}/open").status_code == 410
    assert visitor.get(path).status_code == 200


def test_a_password_is_asked_for_and_few_tries_are_given(
    studio: TestClient, visitor: TestClient, project: str
) -> None:
    path = link(studio, project, password="clam beds")["path"]
    assert visitor.get(path).status_code == 401
    assert "Two" not in visitor.get(path).text
    assert visitor.get(f"{path}/video").status_code == 401
    for _ in range(5):
        assert visitor.post(f"{path}/open", data={"password": "mussel beds"}).status_code == 403
    waits = visitor.post(f"{path}/open", data={"password": "clam beds"})
    assert waits.status_code == 429
    assert visitor.get(f"{path}/video").status_code == 401


def test_what_lets_one_browser_in_opens_no_other_link(
    studio: TestClient, visitor: TestClient, project: str
) -> None:
    first, second = (link(studio, project, password=word)["path"] for word in ("clam beds", "kelp beds"))
    opened = visitor.post(f"{first}/open", data={"password": "clam beds"})
    cookie = opened.headers["set-cookie"]
    assert "HttpOnly" in cookie
    assert f"Path={first}" in cookie
    token = cookie.split("=", 1)[1].split(";")[0]
    assert visitor.get(first).status_code == 200
    assert visitor.get(second, headers={"cookie": f"fox_review={token}"}).status_code == 401


def test_the_password_is_kept_hashed(studio: TestClient, project: str, workspace: Workspace) -> None:
    link(studio, project, password="clam beds")
    with workspace.database.read() as db:
        row = db.execute("SELECT password_hash FROM review_link").fetchone()
    assert row["password_hash"].startswith("$argon2id$")


def test_addresses_that_open_nothing_can_not_be_tried_for_long(visitor: TestClient) -> None:
    answers = [visitor.get(f"/review/{number:032d}").status_code for number in range(25)]
    assert answers[0] == 404
    assert answers[-1] == 429


def test_notes_are_limited_in_number_and_size(
    studio: TestClient, visitor: TestClient, project: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    path = link(studio, project)["path"]
    for wrong in ({"text": "  "}, {"text": "x" * 2001}, {"author": "\n"}, {"at_s": -1}, {"at_s": "now"}):
        answer = note(visitor, path, **wrong)
        assert answer.status_code == 422, wrong
        assert answer.json()["detail"]
    monkeypatch.setattr(rates, "monotonic", lambda: time.monotonic() + 61)
    assert [note(visitor, path).status_code for _ in range(11)] == [200] * 10 + [429]
    monkeypatch.setattr(rates, "monotonic", lambda: time.monotonic() + 122)
    monkeypatch.setattr(review_store, "MOST_NOTES", 10)
    assert "the most it can take" in note(visitor, path).json()["detail"]
    assert len(visitor.get(f"{path}/notes").json()) == 10


def test_another_site_can_leave_no_note(studio: TestClient, visitor: TestClient, project: str) -> None:
    path = link(studio, project)["path"]
    headers = {"origin": "https://elsewhere.example"}
    said = {"at_s": 1, "author": "Rosa", "text": "Hello"}
    assert visitor.post(f"{path}/notes", json=said, headers=headers).status_code == 403


def test_the_address_is_told_to_no_other_page_and_kept_in_no_cache(
    studio: TestClient, visitor: TestClient, project: str
) -> None:
    path = link(studio, project)["path"]
    for part in ("", "/video", "/captions.vtt", "/notes"):
        headers = visitor.get(path + part).headers
        assert headers.get_list("referrer-policy") == ["same-origin"], part
        assert "no-store" in headers["cache-control"]
        assert headers["x-robots-tag"] == "noindex"


def test_a_log_tells_what_happened(studio: TestClient, visitor: TestClient, project: str) -> None:
    made = link(studio, project, password="clam beds")
    visitor.post(f"{made['path']}/open", data={"password": "wrong"})
    visitor.post(f"{made['path']}/open", data={"password": "clam beds"})
    visitor.get(made["path"])
    note(visitor, made["path"])
    studio.delete(f"/api/projects/{project}/reviews/{made['id']}")
    visitor.get(made["path"])
    entries = studio.get(f"/api/projects/{project}/reviews/{made['id']}/log").json()
    assert [each["what"] for each in reversed(entries)] == [
        "made", "a wrong password was given", "the page was opened", "a note was left by Rosa", "revoked",
        "the page was asked for in vain",
    ]  # fmt: skip
    assert entries[2]["address"] == "testclient"


def test_notes_come_back_with_their_place_and_are_answered(
    studio: TestClient, visitor: TestClient, project: str, workspace: Workspace
) -> None:
    made = link(studio, project)
    note(visitor, made["path"], at_s=5.0)
    note(visitor, made["path"], at_s=900.0, author="Ola", text="End\u202e here")
    reviews = f"/api/projects/{project}/reviews"
    first, last = studio.get(reviews).json()["notes"]
    assert first["frame"] == 150
    assert (last["frame"], last["text"]) == (359, "End here")
    # the piece changes: the note goes with its shot, and with it away
    head = workspace.head(project)
    without, _ = apply_all(head.project, [DeleteShot(shot_id="s1")])
    workspace.projects.commit(project, head.revision, without, "Remove")
    assert studio.get(reviews).json()["notes"][0]["frame"] == 30
    answered = studio.put(f"{reviews}/notes/{first['id']}/answer", json={"text": "It is wider now."})
    assert answered.json()["notes"][0]["answer"] == "It is wider now."
    studio.put(f"{reviews}/notes/{first['id']}/done", json={"done": True})
    seen = visitor.get(f"{made['path']}/notes").json()[0]
    assert (seen["answer"], seen["done"]) == ("It is wider now.", True)


def test_notes_of_one_project_are_not_those_of_another(
    studio: TestClient, visitor: TestClient, project: str, workspace: Workspace
) -> None:
    made = link(studio, project)
    note(visitor, made["path"])
    note_id = studio.get(f"/api/projects/{project}/reviews").json()["notes"][0]["id"]
    other = workspace.projects.create(simple_project(["One."]), "Made")
    base = f"/api/projects/{other}/reviews"
    assert studio.put(f"{base}/notes/{note_id}/answer", json={"text": "x"}).status_code == 404
    assert studio.delete(f"{base}/{made['id']}").status_code == 404
    assert studio.get(f"{base}/{made['id']}/log").status_code == 404


@pytest.mark.parametrize("name", ["foam.wav", "other.mp4", "../foam.mp4", "gone.mp4", ""])
def test_only_a_video_that_was_made_can_be_shown(studio: TestClient, project: str, name: str) -> None:
    assert studio.post(f"/api/projects/{project}/reviews", json={"file": name}).status_code == 404


def test_a_page_keeps_its_video_when_the_next_one_is_made(
    studio: TestClient, visitor: TestClient, project: str, workspace: Workspace, tmp_path: Path
) -> None:
    path = link(studio, project)["path"]
    (tmp_path / "next").write_bytes(b"another cut")
    (tmp_path / "next").rename(export_folder(workspace, project) / "foam.mp4")
    assert visitor.get(f"{path}/video").content == VIDEO


def test_a_deleted_project_shows_nothing(
    studio: TestClient, visitor: TestClient, project: str, workspace: Workspace
) -> None:
    path = link(studio, project)["path"]
    workspace.projects.delete(project)
    assert visitor.get(path).status_code == 410
    workspace.projects.delete_for_good(project)
    assert visitor.get(path).status_code == 404
    assert workspace.cleaning.sweep(0) > 0
    assert not list((workspace.folder / "reviews").iterdir())
