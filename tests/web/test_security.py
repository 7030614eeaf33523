"""One test for each promise about security: foreign pages, sizes, markup, passwords, names, archives."""

import time
from collections.abc import Iterator
from typing import Any

import pytest
from fastapi.testclient import TestClient

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.lettering.styles import STYLES
from fox_cadence.errors import InputError
from fox_cadence.web import access, guard, rates
from fox_cadence.web.app import Listening, create_app
from tests.builders import simple_project

ADDRESS = "http://127.0.0.1:8345"
PASSWORD = "low water at nine"


@pytest.fixture
def client(workspace: Workspace) -> Iterator[TestClient]:
    with TestClient(create_app(workspace), base_url=ADDRESS) as made:
        yield made


@pytest.fixture
def guarded(workspace: Workspace) -> Iterator[TestClient]:
    """The application listening on a network, its password set."""
    workspace.access.set_password(PASSWORD)
    app = create_app(workspace, Listening(network=True, names=frozenset({"studio.example"})))
    with TestClient(app, base_url=ADDRESS, follow_redirects=False) as made:
        yield made


def sign_in(client: TestClient, password: str, **more: Any) -> Any:
    return client.post("/sign-in", data={"password": password}, **more)


def routes(client: TestClient) -> list[tuple[str, str]]:
    """Method and path of every route there is."""
    paths = client.app.openapi()["paths"]  # type: ignore[attr-defined]
    return [(method.upper(), path) for path, methods in paths.items() for method in methods]


@pytest.mark.parametrize(
    ("host", "served"),
    [("127.0.0.1", True), ("[::1]:8345", True), ("192.168.1.7:8345", True), ("studio.example", True),
     ("rebound.example", False), ("studio.example.evil.example", False), ("", False), ("[::1", False)],
)  # fmt: skip
def test_on_a_network_only_addresses_and_the_names_it_was_given_are_served(
    guarded: TestClient, host: str, served: bool
) -> None:
    assert (guarded.get("/sign-in", headers={"host": host}).status_code == 200) is served


def test_on_loopback_an_address_of_the_network_is_not_served(client: TestClient) -> None:
    assert client.get("/", headers={"host": "192.168.1.7:8345"}).status_code == 403


@pytest.mark.parametrize(
    "path", ["/api/projects/x/timeline", "/media/clips/x/pack", "/api/projects/x/mix.wav"]
)
@pytest.mark.parametrize("site", ["cross-site", "same-site"])
def test_another_site_can_not_even_read(client: TestClient, path: str, site: str) -> None:
    assert client.get(path, headers={"sec-fetch-site": site}).status_code == 403
    # a link to us may be followed
    assert client.get("/", headers={"sec-fetch-site": site}).status_code == 200


def test_every_route_that_changes_something_refuses_a_page_of_another_site(client: TestClient) -> None:
    changing = [(method, path) for method, path in routes(client) if method != "GET"]
    assert len(changing) > 30
    for method, path in changing:
        answer = client.request(method, path, headers={"origin": "https://elsewhere.example"})
        assert answer.status_code == 403, path


def test_no_get_changes_a_project(client: TestClient, workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project(["One pool."]), "Made")
    reading = [path for method, path in routes(client) if method == "GET"]
    assert len(reading) > 20
    for path in reading:
        path = path.replace("{project_id}", project_id).replace("{line_id}", "l1").replace("{shot_id}", "s1")
        client.get(path.replace("{number}", "1").replace("{caption_id}", "c1"))
    assert workspace.head(project_id).revision == 1
    assert len(workspace.projects.list()) == 1


def test_a_request_that_is_too_large_is_refused_before_it_is_read(
    client: TestClient, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(guard, "MOST_BYTES", 1 << 20)
    answer = client.post("/api/projects/x/edits", content=b"x" * (2 << 20))
    assert answer.status_code == 413
    assert "MiB" in answer.json()["detail"]

    def drops() -> Iterator[bytes]:  # without a length beforehand
        for _ in range(40):
            yield b"x" * (1 << 16)

    assert client.post("/api/projects/x/edits", content=drops()).status_code == 413
    monkeypatch.setattr(guard, "MOST_UPLOAD_BYTES", 1 << 20)
    files = {"file": ("a.wav", b"x" * (2 << 20))}
    assert client.post("/api/bundles", files=files).status_code == 413


def test_the_policy_allows_no_script_of_a_page(client: TestClient, workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project(["One."]), "Made")
    for path in ("/", "/new", "/kept", f"/projects/{project_id}", "/sign-in", "/nowhere"):
        answer = client.get(path)
        policy = dict(
            part.strip().split(" ", 1) for part in answer.headers["content-security-policy"].split(";")
        )
        assert policy["default-src"] == "'none'"
        assert policy["script-src"] == policy["style-src"] == "'self'"
        assert policy["frame-ancestors"] == policy["base-uri"] == "'none'"
        assert answer.headers["x-content-type-options"] == "nosniff"
        for script in answer.text.split("<script")[1:]:
            assert (
                'src="/static/' in script.split(">")[0] or 'type="application/json"' in script.split(">")[0]
            )
        assert " style=" not in answer.text
        assert " onclick=" not in answer.text


EVIL = "</script><img src=x onerror=alert(1)>\"'><svg onload=alert(1)>"


def test_words_and_names_become_markup_nowhere(client: TestClient, workspace: Workspace) -> None:
    project = simple_project([EVIL], name=EVIL)
    project_id = workspace.projects.create(project, EVIL)
    gone = workspace.projects.create(project, "Made")
    workspace.projects.delete(gone)
    for path in ("/", "/kept", f"/projects/{project_id}"):
        text = client.get(path).text
        assert "<img src=x" not in text
        assert "<svg onload" not in text
    for path in (f"/api/projects/{project_id}/timeline", f"/api/projects/{project_id}/revisions"):
        assert client.get(path).headers["content-type"] == "application/json"
    drawn = client.post(
        f"/api/projects/{project_id}/drawings",
        json={"styles": {"k": STYLES[0].model_dump()}, "words": [{"text": EVIL, "style": "k"}]},
    )
    assert drawn.headers["content-type"] == "application/json"
    wrong = client.get(f"/projects/{EVIL}")
    assert "<img src=x" not in wrong.text


def test_without_the_password_nothing_is_shown(guarded: TestClient, workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project(["One."], name="Foam"), "Made")
    for path in ("/", "/new", "/kept", f"/projects/{project_id}"):
        answer = guarded.get(path)
        assert (answer.status_code, answer.headers["location"]) == (303, "/sign-in")
    for path in (f"/api/projects/{project_id}/timeline", f"/media/clips/{'a' * 64}/pack"):
        answer = guarded.get(path)
        assert answer.status_code == 401
        assert "sign in" in answer.json()["detail"]
    assert guarded.get("/static/dist/app.css").status_code == 200
    forged = {"cookie": f"{access.COOKIE}=guessed"}
    assert guarded.get("/", headers=forged).status_code == 303


def test_who_gives_the_password_is_let_in_until_they_sign_out_or_it_changes(
    guarded: TestClient, workspace: Workspace
) -> None:
    answer = sign_in(guarded, PASSWORD)
    assert answer.status_code == 303
    cookie = answer.headers["set-cookie"].lower()
    assert "httponly" in cookie
    assert "samesite=strict" in cookie
    assert guarded.get("/").status_code == 200
    with workspace.database.read() as db:
        kept = [
            tuple(row) for table in ("password", "session") for row in db.execute(f"SELECT * FROM {table}")
        ]
    assert "argon2id" in str(kept)
    assert PASSWORD not in str(kept)
    assert guarded.cookies[access.COOKIE] not in str(kept)  # what a thief of the file would need
    token = guarded.cookies[access.COOKIE]
    guarded.post("/sign-out")
    assert guarded.get("/", headers={"cookie": f"{access.COOKIE}={token}"}).status_code == 303
    sign_in(guarded, PASSWORD)
    assert guarded.get("/").status_code == 200
    workspace.access.set_password("another one altogether")
    assert guarded.get("/").status_code == 303


def test_passwords_can_not_be_tried_out(guarded: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    for _ in range(access.TRIES):
        assert sign_in(guarded, "a guess").status_code == 403
    answer = sign_in(guarded, PASSWORD)
    assert answer.status_code == 429
    assert "Try again in" in answer.text
    monkeypatch.setattr(rates, "monotonic", lambda: time.monotonic() + access.WITHIN_S)
    assert sign_in(guarded, PASSWORD).status_code == 303


def test_a_password_too_short_is_refused_and_without_one_no_network_is_served(workspace: Workspace) -> None:
    with pytest.raises(InputError, match="10 characters"):
        workspace.access.set_password("short")
    assert not workspace.access.is_set()
    assert workspace.access.sign_in("short") is None


@pytest.mark.parametrize(
    "name", ["../../x.mp4", "..\\..\\x.mp4", "a\nb.mp4", "x" * 400 + ".mp4", "\u202egpj.exe.mp4"]
)
def test_the_name_of_an_upload_is_never_a_path_and_keeps_its_ending(
    client: TestClient, workspace: Workspace, name: str
) -> None:
    answer = client.post(
        "/api/projects", data={"name": "x", "size": "64x64"}, files={"files": (name, b"no video at all")}
    )
    job = answer.json()
    for _ in range(400):
        if job["state"] not in ("waiting", "running"):
            break
        job = client.get(f"/api/jobs/{job['id']}").json()
    assert job["state"] == "failed"
    assert ".mp4: this is not a video" in job["note"]
    assert "/" not in job["note"].split(".mp4: this is")[0].rsplit("(", 1)[1]
    assert [path.name for path in workspace.folder.parent.iterdir()] == [workspace.folder.name]
    assert list(workspace.scratch.iterdir()) == []


def test_what_the_framework_refuses_is_said_in_a_message_too(client: TestClient) -> None:
    answer = client.post("/api/projects", content=b"no form", headers={"content-type": "multipart/form-data"})
    assert answer.status_code == 400
    assert answer.json()["detail"]
    assert client.delete("/api/bundles").json()["detail"] == "Method Not Allowed"
