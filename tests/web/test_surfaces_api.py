"""What the surfaces ask for: typed paragraphs, the docket and its proof, standings of voices, projects."""

import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.web.application import BAY, on_a_copy


@pytest.fixture
def client(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with on_a_copy(demo_master, tmp_path_factory) as made:
        yield made


def timeline(client: TestClient) -> dict[str, Any]:
    return dict(client.get(f"{BAY}/timeline").json())


def ended(client: TestClient, job: dict[str, Any]) -> dict[str, Any]:
    until = time.monotonic() + 120
    while job["state"] in {"waiting", "running"} and time.monotonic() < until:
        time.sleep(0.05)
        job = client.get(f"/api/jobs/{job['id']}").json()
    return job


def test_paragraphs_are_written_as_one_step_with_the_edits_before_them(client: TestClient) -> None:
    before = timeline(client)
    body = {
        "based_on": before["revision"],
        "after_line_id": "l2",
        "paragraphs": ["CRAB: I heard that.", "  "],
        "before": [{"kind": "caption_text", "caption_id": "c2", "text": "What it forgets,"}],
    }
    made = client.post(f"{BAY}/typed", json=body)
    assert made.status_code == 200
    now = timeline(client)
    assert [line["said"] for line in now["lines"]][1:3] == ["What it forgets,", "I heard that."]
    assert now["roles"][-1]["name"] == "crab"
    assert now["undo"] == "1 line written"
    assert client.post(f"{BAY}/undo", json={"based_on": now["revision"]}).status_code == 200
    assert [line["said"] for line in timeline(client)["lines"]] == [line["said"] for line in before["lines"]]


def test_paragraphs_on_an_old_revision_are_refused_with_what_both_wanted(client: TestClient) -> None:
    body = {"based_on": 1, "after_line_id": "l2", "paragraphs": ["Too late."]}
    answer = client.post(f"{BAY}/typed", json=body)
    assert answer.status_code == 409
    assert answer.json()["clash"]["yours"] == "1 line written"


@pytest.mark.parametrize(
    ("change", "status"),
    [({"paragraphs": [" "]}, 422), ({"paragraphs": []}, 422), ({"after_line_id": "gone"}, 404)],
)
def test_what_cannot_be_written_is_refused(client: TestClient, change: dict[str, Any], status: int) -> None:
    body = {"based_on": timeline(client)["revision"], "after_line_id": "l1", "paragraphs": ["Words."]}
    assert client.post(f"{BAY}/typed", json=body | change).status_code == status


def test_words_of_a_line_that_is_no_line_yet_have_a_length(client: TestClient) -> None:
    body = {"line_id": "l1", "text": "The pool remembers.", "alone": True}
    found = client.post(f"{BAY}/estimate", json=body).json()
    assert 0.8 < found["seconds"] < 2.5
    assert found["state"] is None


@pytest.mark.long
def test_the_docket_has_what_can_be_made_what_was_and_its_proof(client: TestClient) -> None:
    docket = client.get(f"{BAY}/exports/docket").json()
    names = [each["name"] for each in docket["products"]]
    assert names == [row["name"] for row in docket["docket"]["rows"]]
    assert {"video", "square", "look", "gif", "stems", "chapters", "bundle"} <= set(names)
    assert docket["made"] == docket["proofs"] == {}
    sizes = {each["name"]: each["bytes"] for each in docket["products"]}
    assert sizes["square"] < sizes["video"]

    refused = ended(client, client.post(f"{BAY}/exports/proof").json())
    assert (refused["state"], refused["note"]) == (
        "failed",
        "Nothing that can be proven has been made yet. Make a video, then it can be proven.",
    )

    small = {"based_on": timeline(client)["revision"], "edit": {"kind": "frame", "width": 216, "height": 384}}
    client.post(f"{BAY}/edits", json=small)
    asked = {"rows": ["video", "sound", "captions"], "prove": True}
    assert ended(client, client.post(f"{BAY}/exports", json=asked).json())["state"] == "done"
    docket = client.get(f"{BAY}/exports/docket").json()
    files = {file["name"]: file for file in docket["made"]["files"]}
    now = {each["name"]: each["bytes"] for each in docket["products"]}
    assert now["video"] == pytest.approx(files["low-tide-at-marrow-bay.mp4"]["bytes"], abs=1)
    made = [file["bytes"] for file in files.values() if file["product"] == "sound"]
    assert sum(made) == pytest.approx(sizes["sound"], abs=200)
    assert sum(file["bytes"] for file in files.values() if file["product"] == "captions") == sizes["captions"]
    proof = docket["proofs"]["video"]
    assert proof["in_sync"]
    assert proof["revision"] == docket["made"]["revision"]
    assert docket["proofs"]["sound"]["in_sync"]
    assert [line["off"] is not None for line in docket["proofs"]["sound"]["speech"]] == [True] * 18
    assert docket["proofs"]["captions"]["in_sync"]
    assert [cut["number"] for cut in proof["cuts"]] == list(range(2, 10))
    assert len(proof["captions"]) == 16

    # what changes afterwards does not change what was proven of the revision that was made
    client.post(
        f"{BAY}/edits",
        json={
            "based_on": timeline(client)["revision"],
            "edit": {"kind": "shot_length", "shot_id": "s1", "length_frames": 90},
        },
    )
    again = ended(client, client.post(f"{BAY}/exports/proof").json())
    assert again["result"]["proofs"]["video"]["in_sync"]
    for report in proof["reports"]:
        assert "low-tide-at-marrow-bay" in client.get(f"{BAY}/exports/{report}").text


def test_a_docket_is_changed_kept_for_all_projects_and_taken(client: TestClient) -> None:
    docket = client.get(f"{BAY}/exports/docket").json()["docket"]
    gif = {"name": "teaser", "kind": "video", "file": "gif", "short_side": 270, "wanted": True}
    gif["part"] = {"from_frame": 30, "to_frame": 90}
    changed = {**docket, "rows": [{**docket["rows"][0], "wanted": False}, gif], "pattern": "{row}-{revision}"}
    answer = client.put(f"{BAY}/exports/docket", json=changed).json()
    assert [(each["name"], each["seconds"]) for each in answer["products"]] == [
        ("video", pytest.approx(38.9)),
        ("teaser", pytest.approx(2.0)),
    ]
    assert client.post(f"{BAY}/exports/docket/keep", json={"name": " "}).status_code == 422
    client.post(f"{BAY}/exports/docket/keep", json={"name": "Teasers"})
    client.put(f"{BAY}/exports/docket", json=docket)
    assert client.get(f"{BAY}/exports/docket").json()["kept"] == ["Teasers"]
    client.post(f"{BAY}/exports/docket/take", json={"name": "teasers"})
    taken = client.get(f"{BAY}/exports/docket").json()["docket"]
    assert taken["rows"][1]["part"] == {"from_frame": 0, "to_frame": None}  # parts belong to one piece
    assert taken["pattern"] == "{row}-{revision}"
    client.delete("/api/dockets/Teasers")
    assert client.post(f"{BAY}/exports/docket/take", json={"name": "Teasers"}).status_code == 404


@pytest.mark.parametrize(
    ("row", "said"),
    [
        ({"kind": "video", "shape": "other", "width": 641, "height": 360}, "even numbers"),
        ({"kind": "video", "file": "webm", "codec": "h264"}, "WEBM files can't hold H264"),
        ({"kind": "video", "part": {"from_frame": 9, "to_frame": 9}}, "ends before it begins"),
        ({"kind": "sound", "file": "opus", "chapters": True}, "no chapters"),
        ({"kind": "sound", "of": ["everything"]}, "nothing is called everything"),
    ],
)
def test_what_a_row_cannot_be_is_said(client: TestClient, row: dict[str, Any], said: str) -> None:
    asked = {"rows": [{"name": "wrong", **row}], "pattern": "{piece}-{row}"}
    answer = client.put(f"{BAY}/exports/docket", json=asked)
    assert answer.status_code == 422
    assert said in answer.json()["detail"]
    assert client.post(f"{BAY}/exports", json={"rows": ["wrong"]}).status_code == 422


def test_standings_of_voices_are_told_without_changing_anything(client: TestClient) -> None:
    before = timeline(client)
    found = client.get(f"{BAY}/standings?role=r1&voice=wren&voice=orla").json()
    assert [each["voice"] for each in found] == ["wren", "orla"]
    assert {len(each["states"]) for each in found} == {9}
    assert timeline(client)["revision"] == before["revision"]
    assert client.get(f"{BAY}/standings?role=nobody&voice=wren").status_code == 404
    assert client.get(f"{BAY}/standings?role=r1").status_code == 422


def test_projects_are_listed_with_their_series_and_begun_like_another(client: TestClient) -> None:
    assert client.post(f"{BAY}/series", json={"series": " Tide   pools "}).status_code == 200
    page = client.get("/").text
    assert '"series": "Tide pools"' in page
    assert '"language": "Spanish"' in page
    made = client.post(f"{BAY}/begin-like").json()["project"]
    like = client.get(f"/api/projects/{made}/timeline").json()
    assert (like["name"], like["lines"], like["shots"]) == ("Like Low tide at Marrow Bay", [], [])
    assert [role["name"] for role in like["roles"]] == ["narrator", "limpet"]
    assert client.get(f"/api/projects/{made}/standing").json() == {"open_text": "", "seconds": 0}
    assert client.post(f"{BAY}/series", json={"series": "x" * 81}).status_code == 422


def test_deleted_samples_come_back(client: TestClient) -> None:
    client.post(f"{BAY}/delete")
    assert ended(client, client.post("/api/samples").json())["result"] == {"project": "marrow-bay"}
    assert timeline(client)["name"] == "Low tide at Marrow Bay"
