"""The HTTP interface as scripts meet it: described, without server errors, problems in one form, tokens."""

import json
import os
import re
import subprocess
import sys
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import Executor, Future
from pathlib import Path
from typing import Any

import av
import httpx2
import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, Phase, given, settings
from schemathesis.core.result import Ok

from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli import main
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import JobRunner
from fox_cadence.web.app import Listening, create_app
from fox_cadence.web.interface import ADDRESS
from fox_cadence.web.problems import KINDS
from scripts.interface_list import HEAD, PAGE, listed
from tests.browser.application import served
from tests.builders import simple_project

HERE = "http://127.0.0.1:8345"
PROJECT = "tide"
THERE = {"project_id": PROJECT, "line_id": "l1", "shot_id": "s1", "caption_id": "c1", "role_id": "r1"}
"""What addresses name that is there; of everything else there is nothing."""


class NobodyWorks(Executor):
    """Takes jobs and does none of them: what the answers of routes are is asked here, not what jobs do."""

    def submit(self, *_: Any, **__: Any) -> Future[Any]:
        return Future()


@pytest.fixture(scope="module")
def client(tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    """An application with one project, whose jobs are never done."""
    workspace = Workspace(tmp_path_factory.mktemp("interface") / "data")
    workspace.jobs = JobRunner(workspace.job_store, NobodyWorks())
    workspace.projects.create(simple_project(["One pool.", "Two crabs are here."]), "Made", PROJECT)
    with TestClient(create_app(workspace), base_url=HERE, raise_server_exceptions=False) as made:
        yield made


@pytest.mark.parametrize("examples", [2, pytest.param(12, marks=pytest.mark.long)])
def test_no_request_whatever_is_in_it_is_a_server_error(client: TestClient, examples: int) -> None:
    """Two requests an operation find what is wrong with one that was just written; what is rarer is looked
    for in `make test-all`."""
    asked: Counter[int] = Counter()
    failed: list[str] = []
    for result in schemathesis.openapi.from_dict(client.get(ADDRESS).json()).get_all_operations():
        assert isinstance(result, Ok)
        operation = result.ok()

        @given(case=operation.as_strategy())
        @settings(
            max_examples=examples,
            database=None,
            derandomize=True,
            deadline=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        def ask(case: Any) -> None:
            case.path_parameters = {n: THERE.get(n, v) for n, v in (case.path_parameters or {}).items()}
            sent = case.as_transport_kwargs(base_url=HERE)
            kept = {
                name: sent[name] for name in ("params", "json", "data", "files") if sent.get(name) is not None
            }
            if isinstance(kept.get("data"), (bytes, str)):
                kept["content"] = kept.pop("data")
            kind = {n: v for n, v in sent["headers"].items() if n.lower() == "content-type"}
            try:
                answer = client.request(sent["method"], sent["url"], headers=kind, **kept)
            except (httpx2.InvalidURL, UnicodeError):
                return  # nothing that can be sent
            asked[answer.status_code // 100] += 1
            if answer.status_code >= 500 and answer.status_code != 502:  # 502: what an engine can't say
                failed.append(f"{sent['method']} {sent['url']} {kept}: {answer.status_code} {answer.text}")
            elif answer.status_code >= 400 and sent["url"].startswith(f"{HERE}/api/"):
                assert answer.headers["content-type"] == "application/problem+json", answer.text
                assert answer.json()["type"].removeprefix("/api#") in KINDS
                assert answer.json()["detail"]

        ask()
    assert not failed, "\n".join(failed[:20])
    assert asked[2] > 15 * examples
    assert asked[4] > 15 * examples


def test_the_description_is_openapi_and_its_page_brings_its_own_assets(client: TestClient) -> None:
    schema = client.get(ADDRESS).json()
    assert schema["openapi"].startswith("3.1.")
    names = [each["operationId"] for methods in schema["paths"].values() for each in methods.values()]
    assert len(names) == len(set(names))
    page = client.get("/api")
    for path in re.findall(r'(?:src|href)="([^"#]+)"', page.text):
        assert path.startswith("/"), path
        assert client.get(path).status_code == 200, path
    for kind in KINDS:
        assert f'id="{kind}"' in page.text
    assert "exports-begin" in page.text


def test_names_of_operations_stay() -> None:
    text = PAGE.read_text()
    assert text[text.index(HEAD) + len(HEAD) :] == listed(), "python -m scripts.interface_list"


@pytest.mark.parametrize(
    ("method", "path", "status", "kind"),
    [
        ("GET", "/api/projects/gone/timeline", 404, "not-found"),
        ("GET", "/api/nowhere", 404, "not-found"),
        ("POST", "/api/projects/tide/edits", 422, "invalid"),
        ("PATCH", "/api/projects/tide/edits", 405, "not-allowed"),
    ],
)
def test_errors_are_problem_details(
    client: TestClient, method: str, path: str, status: int, kind: str
) -> None:
    answer = client.request(method, path)
    assert answer.status_code == status
    assert answer.headers["content-type"] == "application/problem+json"
    told = answer.json()
    assert (told["type"], told["status"]) == (f"/api#{kind}", status)
    assert told["title"]
    assert told["detail"]


# tokens


@pytest.fixture
def guarded(workspace: Workspace) -> Iterator[TestClient]:
    workspace.access.set_password("low water at nine")
    app = create_app(workspace, Listening(network=True))
    with TestClient(app, base_url=HERE, follow_redirects=False) as made:
        yield made


def bearer(token: str) -> dict[str, str]:
    return {"authorization": f"Bearer {token}"}


def test_a_script_comes_in_by_its_token_until_it_is_revoked(
    guarded: TestClient, workspace: Workspace
) -> None:
    token = workspace.tokens.make("Nightly")
    assert guarded.get("/api/dockets-of-nobody", headers=bearer(token)).status_code == 404
    assert guarded.get(ADDRESS, headers=bearer(token)).status_code == 200
    assert guarded.get(ADDRESS).status_code == 401
    assert guarded.get(ADDRESS, headers=bearer(token + "x")).status_code == 401
    with workspace.database.read() as db:
        assert token not in str([tuple(row) for row in db.execute("SELECT * FROM script_token")])
    assert workspace.tokens.all()[0].used_at
    workspace.tokens.revoke("nightly")
    assert guarded.get(ADDRESS, headers=bearer(token)).status_code == 401


def test_a_token_ends_and_wrong_ones_can_not_be_tried_for_long(
    guarded: TestClient, workspace: Workspace
) -> None:
    token = workspace.tokens.make("Short", days=1)
    assert guarded.get(ADDRESS, headers=bearer(token)).status_code == 200
    with workspace.database.write() as db:
        db.execute("UPDATE script_token SET until = '2026-01-01T00:00:00.000+00:00'")
    answers = [guarded.get(ADDRESS, headers=bearer(token)).status_code for _ in range(22)]
    assert answers[0] == 401
    assert answers[-1] == 429
    with pytest.raises(InputError):
        workspace.tokens.make("short")


# from a terminal


def run(capsys: pytest.CaptureFixture[str], data: Path, *words: str, code: int = 0) -> Any:
    assert main([*words, "--data", str(data), "--json"]) == code
    out, err = capsys.readouterr()
    return json.loads(out.splitlines()[-1] if out else err.splitlines()[-1])


def test_a_terminal_does_what_the_page_does(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    data = tmp_path / "data"
    words = tmp_path / "words.txt"
    words.write_text("The lamp goes out.\nSomebody laughs.\n")
    made = run(
        capsys, data, "do", "projects-create", "name=Lamp", "size=128x72", f"files=@{words}",
    )  # fmt: skip
    project = made["project"]
    shown = run(capsys, data, "do", "editing-timeline", f"project_id={project}")
    assert [line["said"] for line in shown["lines"]] == ["The lamp goes out.", "Somebody laughs."]
    body = json.dumps({"based_on": shown["revision"], "edits": [{"kind": "settings", "name": "The lamp"}]})
    run(capsys, data, "do", "editing-edit", f"project_id={project}", "--body", body)
    assert run(capsys, data, "list")["projects"][0]["name"] == "The lamp"
    done = run(capsys, data, "do", "exports-begin", f"project_id={project}", 'rows=["cues"]')
    assert [file["name"] for file in done["files"]] == ["the-lamp-cues.csv", "the-lamp-notes.txt"]
    out = tmp_path / "x.csv"
    ask = ("do", "exports-download", f"project_id={project}", "name=the-lamp-cues.csv")
    run(capsys, data, *ask, "--out", str(out))
    assert "The lamp goes out" in out.read_text()


@pytest.mark.parametrize(
    ("words", "said"),
    [
        (("do", "exports-begun"), "Is it exports-begin"),
        (("do", "exports-begin"), "project_id: it is missing"),
        (("do", "exports-begin", "project_id=gone"), "no project gone"),
        (("do", "exports-begin", "project=gone"), "has no field project"),
        (("do", "exports-begin", "gone"), "write it as FIELD=VALUE"),
        (("do", "editing-edit", "project_id=a", "--body", "@/nowhere.json"), "No such file"),
        (("token", "A", "--revoke"), "no token called A"),
        (("token", "A", "--days", "0"), "it must be 1 at least"),
    ],
)
def test_wrong_words_in_a_terminal_are_answered(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], words: tuple[str, ...], said: str
) -> None:
    assert said in run(capsys, tmp_path / "data", *words, code=1)["error"]


def test_a_shell_completes_the_commands(tmp_path: Path) -> None:
    env = {
        **os.environ, "_ARGCOMPLETE": "1", "_ARGCOMPLETE_STDOUT_FILENAME": str(tmp_path / "found"),
        "COMP_LINE": "fox-cadence exp", "COMP_POINT": "15", "_ARGCOMPLETE_SUPPRESS_SPACE": "1",
    }  # fmt: skip
    subprocess.run([sys.executable, "-m", "fox_cadence.cli"], env=env, check=False, timeout=60)
    assert (tmp_path / "found").read_text() == "export"


def test_the_example_of_the_docs_makes_an_mp4_from_nothing(tmp_path: Path) -> None:
    code = PAGE.read_text().split("```python\n")[1].split("```")[0]
    with served(tmp_path / "data") as address:
        ran = subprocess.run(
            [sys.executable, "-c", code, address], cwd=tmp_path, capture_output=True, text=True, timeout=300
        )
    assert ran.returncode == 0, ran.stderr
    assert ran.stdout.splitlines()[-1].startswith("the-lamp.mp4")
    with av.open(str(tmp_path / "the-lamp.mp4")) as opened:
        assert opened.streams.video[0].width == 360
        assert opened.streams.audio
