"""Voices mixed and kept, and the melody of a line, over the routes."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from tests.web.application import BAY, on_a_copy
from tests.web.test_media_and_work import samples


@pytest.fixture
def client(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with on_a_copy(demo_master, tmp_path_factory) as made:
        yield made


PARTS = [{"voice_id": "en-maren", "percent": 60}, {"voice_id": "en-quill", "percent": 40}]


def test_a_blend_is_heard_kept_offered_and_forgotten(client: TestClient) -> None:
    mixed = client.post("/api/blends", json={"parts": PARTS}).json()["voice"]
    assert (mixed["name"], mixed["blend"]) == ("Maren + Quill", True)
    heard = client.get(f"/api/voices/{mixed['id']}/sample.wav")
    assert len(samples(heard.content)) > 48_000
    kept = client.post("/api/blends", json={"parts": PARTS, "name": "Heron"}).json()["voice"]
    assert (kept["id"], kept["name"]) == (mixed["id"], "Heron")
    assert "Heron" in client.get("/projects/marrow-bay").text
    revision = client.get(f"{BAY}/timeline").json()["revision"]
    cast = {"kind": "role", "role_id": "r1", "voice_id": kept["id"]}
    assert client.post(f"{BAY}/edits", json={"based_on": revision, "edit": cast}).status_code == 200
    client.post(f"/api/blends/{kept['id']}/forget")
    listed = client.get("/projects/marrow-bay").text
    assert "Heron" not in listed
    assert "Maren + Quill" in listed  # the project uses it still
    assert client.get(f"/api/voices/{kept['id']}/sample.wav").status_code == 200  # who uses it still has it


@pytest.mark.parametrize(
    "asked",
    [
        {"parts": PARTS[:1]},
        {"parts": [PARTS[0], {"voice_id": "orla", "percent": 40}]},
        {"parts": PARTS, "name": "  "},
        {"parts": PARTS, "name": "wren"},
        {"parts": [{"voice_id": "en-maren", "percent": 0}, PARTS[1]]},
    ],
)
def test_what_can_not_be_mixed_or_called_so_is_refused(client: TestClient, asked: dict[str, object]) -> None:
    assert client.post("/api/blends", json=asked).status_code == 422


def test_the_melody_of_a_line_is_measured_and_told_as_it_would_be(client: TestClient) -> None:
    found = client.post(f"{BAY}/lines/l1/melody", json={}).json()
    voiced = [hz for _, hz in found["measured"] if hz]
    assert len(voiced) > 20
    assert found["would_be"] == []
    grave = {"style": "grave", "pitch_semitones": -6}
    would = client.post(f"{BAY}/lines/l1/melody", json={"delivery": grave}).json()["would_be"]
    lower = [hz for _, hz in would if hz]
    assert sorted(lower)[len(lower) // 2] < 0.75 * sorted(voiced)[len(voiced) // 2]
    assert would[-1][0] > found["measured"][-1][0]  # a grave line is slower
    unvoiced = client.post(f"{BAY}/lines/l7/melody", json={})
    assert (unvoiced.status_code, "voice this line" in unvoiced.text) == (422, True)


def test_a_new_project_begins_like_another(client: TestClient) -> None:
    form = {"name": "Lamp", "pasted": "The lamp goes out.", "like": "marrow-bay", "size": "216x384"}
    job = client.post("/api/projects", data=form).json()
    while job["state"] in ("waiting", "running"):
        job = client.get(f"/api/jobs/{job['id']}").json()
    assert job["state"] == "done", job
    made = client.get(f"/api/projects/{job['result']['project']}/timeline").json()
    like = client.get(f"{BAY}/timeline").json()
    for what in ("house", "shortlist", "lexicon"):
        assert made[what] == like[what]
    assert made["roles"][0]["voice_id"] == like["roles"][0]["voice_id"]
    assert client.post("/api/projects", data=form | {"like": "gone"}).status_code == 404
