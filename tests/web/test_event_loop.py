"""No request holds up the others: what waits for a disk, a database or an engine does so off the event
loop."""

import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from blockbuster import BlockBuster
from fastapi import FastAPI
from fastapi.testclient import TestClient

from tests.media import files
from tests.web.application import BAY, on_a_copy


@pytest.fixture
def client(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    """Anything of ours that blocks on the event loop raises."""
    with on_a_copy(demo_master, tmp_path_factory) as made:
        watch = BlockBuster(scanned_modules=["fox_cadence"])
        watch.activate()
        yield made
        watch.deactivate()


def settled(client: TestClient, job: dict[str, Any]) -> dict[str, Any]:
    while job["state"] in {"waiting", "running"}:
        time.sleep(0.02)
        job = client.get(f"/api/jobs/{job['id']}").json()
    return job


PLS = b"""<?xml version="1.0"?><lexicon version="1.0" xmlns="http://www.w3.org/2005/01/pronunciation-lexicon"
 alphabet="ipa" xml:lang="en"><lexeme><grapheme>Marrow</grapheme><alias>marro</alias></lexeme></lexicon>"""


def test_no_request_blocks_the_event_loop(client: TestClient, tmp_path: Path) -> None:
    pictures = files.still(tmp_path / "rock.png").read_bytes()
    now = client.get(f"{BAY}/timeline").json()
    line, shot = now["lines"][0]["id"], now["shots"][0]["id"]
    pages = ["/", "/new", "/kept", "/projects/marrow-bay"]
    pages += [
        f"{BAY}/{path}"
        for path in ("lexicon", "lexicon.pls", "revisions", "script.ssml", "exports", "mix.wav", "job")
    ]
    pages += [f"{BAY}/lines/{line}/{path}" for path in ("takes", "sound.wav", "why", "remedies", "told")]
    for path in [*pages, f"{BAY}/shots/{shot}/why"]:
        assert client.get(path).status_code == 200, path
    edit = {"kind": "caption_text", "caption_id": "c1", "text": "The tide goes out."}
    edited = client.post(f"{BAY}/edits", json={"based_on": now["revision"], "edit": edit})
    assert edited.status_code == 200, edited.text
    posts: list[tuple[str, dict[str, Any]]] = [
        ("lexicon", {"files": {"file": ("a.pls", PLS)}}),
        ("words/plan", {"data": {"pasted": "One.\n\nTwo.", "kind": ".txt"}}),
        ("words", {"data": {"pasted": "One.\n\nTwo.", "kind": ".txt", "how": "anew", "based_on": "3"}}),
        ("fit", {}),
        ("undo", {}),
        ("estimate", {"json": {"line_id": line, "text": "Other words."}}),
        ("find", {"json": {"text": "tide"}}),
        ("drawings", {"json": {"styles": {}, "words": []}}),
        ("proofs", {"json": {"ids": ["c1"]}}),
    ]
    for path, body in posts:
        answer = client.post(f"{BAY}/{path}", **body)
        assert answer.status_code in (200, 409), (path, answer.text)
    assert client.post("/api/words/overview", data={"pasted": "One."}).status_code == 200
    jobs = [
        client.post(f"{BAY}/voice", json={}),
        client.post(f"{BAY}/media", files={"files": ("rock.png", pictures)}, data={"use": "shots"}),
        client.post("/api/projects", data={"name": "Foam", "pasted": "One pool."}),
        client.post("/api/bundles", files={"file": ("a.zip", b"no bundle")}),
        client.post(f"{BAY}/recordings", files={"file": ("a.wav", b"no sound")}, data={"line_ids": line}),
    ]
    for job in jobs:
        assert job.status_code == 200, job.text
        assert "blocking" not in settled(client, job.json())["note"].lower()


def test_what_blocks_would_be_seen(client: TestClient) -> None:
    app = client.app
    assert isinstance(app, FastAPI)

    async def blocks() -> dict[str, str]:
        from starlette.requests import Request

        from fox_cadence.web.pages import workspace_of  # ours, so that it is watched

        workspace = workspace_of(Request({"type": "http", "app": app}))
        return {"name": workspace.head("marrow-bay").project.name}

    app.add_api_route("/blocks", blocks)
    with pytest.raises(Exception, match=r"[Bb]locking"):
        client.get("/blocks")
