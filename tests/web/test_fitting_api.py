"""The routes of the fit on the sample: proposals, trials, reasons, remedies, hearing and estimates."""

import io
import time
import wave
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from fox_cadence.actions.fitting import fit
from fox_cadence.actions.workspace import Workspace
from fox_cadence.web.answers.proposal import proposal_in_the_piece
from tests.web.application import BAY, on_a_copy

SPILLING = "l6"


@pytest.fixture(scope="module")
def undoer(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    """For changes that each test takes back."""
    with on_a_copy(demo_master, tmp_path_factory) as made:
        yield made


@pytest.fixture(scope="module")
def reader(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    """For what changes nothing in the project."""
    with on_a_copy(demo_master, tmp_path_factory) as made:
        yield made


@pytest.fixture
def writer(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with on_a_copy(demo_master, tmp_path_factory) as made:
        yield made


def revision(client: TestClient) -> int:
    return int(client.get(f"{BAY}/timeline").json()["revision"])


def ended(client: TestClient, job: dict[str, Any]) -> dict[str, Any]:
    until = time.monotonic() + 300
    while job["state"] in {"waiting", "running"} and time.monotonic() < until:
        time.sleep(0.05)
        job = client.get(f"/api/jobs/{job['id']}").json()
    return job


def finished(client: TestClient, job: dict[str, Any]) -> dict[str, Any]:
    job = ended(client, job)
    assert job["state"] == "done", job
    return dict(job["result"])


def proposed(client: TestClient) -> dict[str, Any]:
    return dict(client.post(f"{BAY}/fit").json())


def seconds_of(sound: bytes) -> float:
    with wave.open(io.BytesIO(sound)) as read:
        return float(read.getnframes() / read.getframerate())


def test_a_proposal_has_what_it_changes_and_breaks_no_rule(reader: TestClient) -> None:
    proposal = reader.post(f"{BAY}/fit").json()
    assert proposal["status"] == "solved"
    assert proposal["misses"] == []
    then = proposal["then"]
    assert (len(then["lines"]), len(then["shots"])) == (10, 9)
    line = next(line for line in then["lines"] if line["id"] == SPILLING)
    assert line["state"] == "spills"
    assert line["spill_s"] > 0.1
    for side in ("speech", "room"):
        assert sum(step["seconds"] for step in line["sum"][side]) == pytest.approx(
            line["sum"]["length_s"], abs=2e-5
        )
    for shot, now in zip(then["shots"], reader.get(f"{BAY}/timeline").json()["shots"], strict=True):
        assert shot["length"] == now["length"] or not now["locked"]


def test_a_terminal_is_told_a_proposal_in_times_of_the_piece(reader: TestClient) -> None:
    workspace: Workspace = reader.app.state.workspace  # type: ignore[attr-defined]
    told = proposal_in_the_piece(fit(workspace, "marrow-bay"))
    assert told["total_frames"] == told["shots"][-1]["end_frame"]
    assert told["cost"] >= told["cost_before_rounding"] - 1e-6
    starts = [line["start_s"] for line in told["lines"]]
    assert starts == sorted(starts)
    assert told["lines"][-1]["end_s"] < told["total_s"]


def test_what_is_kept_stays_out_of_the_changes(reader: TestClient) -> None:
    every = reader.post(f"{BAY}/fit").json()["changes"]
    line_ids = [change["id"] for change in every if change["kind"] == "line"]
    shot_ids = [change["id"] for change in every if change["kind"] == "shot"]
    assert shot_ids
    kept = reader.post(f"{BAY}/fit", json={"line_ids": line_ids, "shot_ids": shot_ids}).json()
    assert kept["status"] == "solved"
    assert not {change["id"] for change in kept["changes"]} & {*line_ids, *shot_ids}


def test_a_trial_answers_with_what_a_drag_draws(reader: TestClient) -> None:
    edit = {"kind": "shot_length", "shot_id": "s5", "length_frames": 110}
    asked = {"based_on": revision(reader), "edits": [edit], "line_id": "l5"}
    trial = reader.post(f"{BAY}/try", json=asked).json()
    assert trial["status"] == "solved"
    then = trial["then"]
    assert {line["id"] for line in then["lines"] if line["sum"]} == {"l5"}
    assert 0 < len(then["captions"]) < len(reader.get(f"{BAY}/timeline").json()["captions"])
    whole = reader.post(f"{BAY}/fit").json()["then"]
    now = {shot["id"]: shot["length"] for shot in reader.get(f"{BAY}/timeline").json()["shots"]}
    assert then["shots"] != [shot for shot in whole["shots"] if shot["length"] != now[shot["id"]]]
    assert revision(reader) == asked["based_on"]


def test_a_trial_on_an_old_revision_is_a_clash(reader: TestClient) -> None:
    answer = reader.post(f"{BAY}/try", json={"based_on": revision(reader) - 1, "edits": []})
    assert answer.status_code == 409
    assert answer.json()["detail"]


def test_a_trial_that_cannot_be_fitted_says_so(reader: TestClient) -> None:
    edits = [
        {"kind": "settings", "longest_s": 5, "length_fixed": True},
        {"kind": "shot_limits", "shot_id": "s2", "shortest_frames": 100},
    ]
    trial = reader.post(f"{BAY}/try", json={"based_on": revision(reader), "edits": edits}).json()
    assert trial["status"] == "infeasible"
    assert trial["then"]["lines"] == []
    assert trial["reason"]


def test_reasons_name_what_binds_a_line_and_a_shot(reader: TestClient) -> None:
    why = reader.get(f"{BAY}/lines/{SPILLING}/why").json()["why"]
    assert any("shot 6 is locked" in reason["text"] for reason in why)
    assert any("fastest pace" in reason["text"] for reason in why)
    shot = reader.get(f"{BAY}/shots/s6/why").json()
    assert any("locked" in reason["text"] for reason in shot["why"])
    assert reader.get(f"{BAY}/lines/l99/why").status_code == 404
    assert reader.get(f"{BAY}/shots/s99/why").status_code == 404


def test_a_remedy_can_be_heard_before_it_is_done(reader: TestClient) -> None:
    found = reader.get(f"{BAY}/lines/{SPILLING}/remedies").json()["remedies"]
    assert len(found) >= 5
    fewer = next(remedy for remedy in found if remedy["text"])
    asked = {"based_on": revision(reader), "edits": fewer["edits"], "line_id": SPILLING}
    answer = reader.post(f"{BAY}/hear", json=asked)
    assert answer.headers["content-type"] == "audio/wav"
    as_it_is = reader.post(f"{BAY}/hear", json={**asked, "edits": []})
    assert 3 < seconds_of(answer.content) < seconds_of(as_it_is.content) < 10
    assert reader.get(f"{BAY}/timeline").json()["lines"][5]["said"] != fewer["text"]


def test_lines_that_fit_have_no_remedies(reader: TestClient) -> None:
    assert reader.get(f"{BAY}/lines/l9/remedies").json() == {"remedies": []}
    assert reader.get(f"{BAY}/lines/l99/remedies").status_code == 404


@pytest.mark.parametrize(
    ("text", "state", "over"),
    [
        ("Slowly.", "floats", False),
        (
            "Turn a starfish over and it rights itself. It has all the time in the world and more, "
            "until the tide comes back for it and for everything else that waits.",
            "spills",
            True,
        ),
    ],
)
def test_the_estimate_knows_length_room_and_state(
    reader: TestClient, text: str, state: str, over: bool
) -> None:
    found = reader.post(f"{BAY}/estimate", json={"line_id": SPILLING, "text": text}).json()
    assert found["state"] == state
    assert (found["left_s"] < 0) is (found["words_left"] < 0) is over
    assert found["left_s"] == pytest.approx(found["room_s"] - found["seconds"], abs=2e-5)
    assert 0 <= found["error"] < 0.2  # none where it is known


def test_more_words_last_longer_and_none_leaves_all_the_room(reader: TestClient) -> None:
    words = ["the", "tide", "turns", "and", "the", "pools", "fill", "again"]
    lengths = [
        reader.post(f"{BAY}/estimate", json={"line_id": "l9", "text": " ".join(words[:count])}).json()[
            "seconds"
        ]
        for count in range(1, len(words) + 1)
    ]
    assert lengths == sorted(lengths)
    too_long = reader.post(f"{BAY}/estimate", json={"line_id": "l9", "text": "x" * 5001})
    assert too_long.status_code == 422


def test_a_preview_is_heard_without_being_kept_and_then_accepted(writer: TestClient) -> None:
    before = revision(writer)
    edit = {"kind": "lock", "what": "shot", "id": "s6", "locked": False}
    based_on = writer.post(f"{BAY}/edits", json={"based_on": before, "edit": edit}).json()["revision"]
    proposal = {"proposal": proposed(writer)["key"]}
    made = finished(writer, writer.post(f"{BAY}/preview", json=proposal).json())
    then = writer.get(f"{BAY}/previews/{made['preview']}").json()
    assert then["lines"][6]["state"] == "leans"
    sound = writer.get(f"{BAY}/mix.wav", params={"preview": made["preview"]})
    assert seconds_of(sound.content) == pytest.approx(then["total_frames"] / 30, abs=1e-3)
    assert revision(writer) == based_on
    assert writer.get(f"{BAY}/mix.wav", params={"preview": "0" * 16}).status_code == 404

    result = finished(writer, writer.post(f"{BAY}/accept", json=proposal).json())
    assert result["failed"] == []
    assert result["rounds"] == 1
    assert result["worst_miss_ms"] <= 5
    assert result["worst_stretch"] <= 0.025
    accepted = writer.get(f"{BAY}/timeline").json()
    assert accepted["lines"][6]["start_s"] == then["lines"][6]["start_s"]
    undone = writer.post(f"{BAY}/undo").json()
    assert undone["lines"][6]["state"] == "spills"
    assert writer.post(f"{BAY}/redo").json()["lines"][6]["state"] == "leans"


def test_accepting_what_has_changed_since_fails_in_words(writer: TestClient) -> None:
    proposal = proposed(writer)["key"]
    edit = {"kind": "lock", "what": "shot", "id": "s6", "locked": False}
    writer.post(f"{BAY}/edits", json={"based_on": revision(writer), "edit": edit})
    assert writer.post(f"{BAY}/accept", json={"proposal": "gone"}).status_code == 404
    job = writer.post(f"{BAY}/accept", json={"proposal": proposal}).json()
    until = time.monotonic() + 20
    while job["state"] in {"waiting", "running"} and time.monotonic() < until:
        time.sleep(0.05)
        job = writer.get(f"/api/jobs/{job['id']}").json()
    assert job["state"] == "failed"
    assert "changed" in job["note"]


@pytest.mark.parametrize(
    "edit",
    [
        {"kind": "pause", "line_id": "l4", "after_word": 4, "seconds": 0.4},
        {"kind": "sync", "line_id": "l9", "word": 2, "shot_id": "s9", "frames": 20},
        {"kind": "said", "line_id": "l8", "text": "Under the weed, nobody breathes."},
        {"kind": "split_line", "line_id": "l6", "before_word": 8},
        {"kind": "merge_lines", "line_id": "l1"},
        {"kind": "line_start", "line_id": "l9", "offset_s": 1.5},
        {"kind": "line_room", "line_id": "l6", "l_cut_s": 0.5},
        {"kind": "lane", "line_id": "l8", "lane": 1, "may_overlap": True},
        {"kind": "pin_caption", "caption_id": "c1", "pinned": True},
        {"kind": "caption_times", "caption_id": "c1", "in_frame": 6, "out_frame": 90},
        {"kind": "transition", "shot_id": "s2", "frames": 10},
        {"kind": "shot_gives_way", "shot_id": "s2", "give_way": "picture"},
        {"kind": "house", "fastest_pace": 1.3, "shot_stretch": 0.1},
        {"kind": "delete_line", "line_id": "l9"},
        {"kind": "delete_shot", "shot_id": "s3"},
    ],
    ids=lambda edit: edit["kind"],
)
def test_each_edit_is_one_step_that_can_be_fitted_and_undone(
    undoer: TestClient, edit: dict[str, object]
) -> None:
    before = undoer.get(f"{BAY}/timeline").json()
    after = undoer.post(f"{BAY}/edits", json={"based_on": before["revision"], "edit": edit})
    assert after.status_code == 200, after.json()
    proposal = undoer.post(f"{BAY}/fit").json()
    assert proposal["status"] == "solved"
    assert proposal["misses"] == []
    undone = undoer.post(f"{BAY}/undo").json()
    for part in ("shots", "captions", "lines"):
        assert undone[part] == before[part]


def test_words_are_found_with_what_is_around_them_and_replaced(undoer: TestClient) -> None:
    answer = undoer.post(f"{BAY}/find", json={"text": "the sea"}).json()
    assert answer["count"] == 2
    assert answer["places"][0] == {
        "where": "Caption 1", "line": "l1",
        "before": "Twice a day, ", "match": "the sea", "after": " leaves Marrow Bay.",
    }  # fmt: skip
    assert undoer.post(f"{BAY}/find", json={"text": ""}).json() == {"count": 0, "places": []}
    before = undoer.get(f"{BAY}/timeline").json()
    edit = {"kind": "replace_words", "find": "the sea", "by": "the tide"}
    after = undoer.post(f"{BAY}/edits", json={"based_on": before["revision"], "edit": edit}).json()
    assert after["undo"] == "“the sea” replaced by “the tide” in 2 places"
    assert [line["state"] for line in after["lines"]].count("stale") == 2
    assert after["amount"]["words"] == before["amount"]["words"]
    assert after["amount"]["left_s"] == pytest.approx(45 - after["total_frames"] / 30)
    undone = undoer.post(f"{BAY}/undo").json()
    assert undone["lines"] == before["lines"]


def test_words_that_have_no_room_in_the_piece_are_a_named_conflict_that_can_be_let_go(
    writer: TestClient,
) -> None:
    before = writer.get(f"{BAY}/timeline").json()
    last = before["shots"][-1]["id"]
    edits = [
        {"kind": "settings", "give_way": "picture"},
        {"kind": "shot_length", "shot_id": last, "length_frames": 31},
    ]
    edited = writer.post(f"{BAY}/edits", json={"based_on": before["revision"], "edits": edits}).json()
    assert "past the end" in edited["passes"][3]["open"]
    proposal = writer.post(f"{BAY}/fit").json()
    assert proposal["outside"][0].startswith("line 10 ends")
    assert proposal["let_go"] == ["picture leads, so no shot gives way"]
    job = writer.post(f"{BAY}/accept", json={"proposal": proposal["key"]}).json()
    while job["state"] in {"waiting", "running"}:
        time.sleep(0.05)
        job = writer.get(f"/api/jobs/{job['id']}").json()
    assert job["state"] == "failed"
    assert job["note"].startswith("This would not be heard or seen: line 10 ends")
    let_go = {"based_on": edited["revision"], "edits": proposal["let_go_edits"]}
    freed = writer.post(f"{BAY}/edits", json=let_go).json()
    again = writer.post(f"{BAY}/fit").json()
    assert again["outside"] == []
    assert again["then"]["shots"][-1]["length"] > freed["shots"][-1]["length"]
    finished(writer, writer.post(f"{BAY}/accept", json={"proposal": again["key"]}).json())
    assert "past the end" not in writer.get(f"{BAY}/timeline").json()["passes"][3]["open"]
