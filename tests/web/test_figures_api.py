"""Figures as the page asks for them: characters, poses of some frames, edits."""

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


def edited(client: TestClient, **edit: Any) -> Any:
    state = client.get(f"{BAY}/timeline").json()
    return client.post(f"{BAY}/edits", json={"based_on": state["revision"], "edit": edit})


def test_characters_are_told_with_a_picture_and_what_of_them_has_a_colour(client: TestClient) -> None:
    found = client.get("/api/characters").json()
    assert [each["id"] for each in found] == ["juniper", "tobit", "rusk", "skerry", "limpet", "bell"]
    for each in found:
        assert len(each["portrait"]) > 10
        assert all(path["d"].startswith("M") for path in each["portrait"])
        assert {"eyes"} <= {slot["label"] for slot in each["colours"]}


def test_poses_are_told_for_the_frames_asked_for_and_drawings_once(client: TestClient) -> None:
    role = client.get(f"{BAY}/timeline").json()["roles"][0]["id"]
    assert edited(client, kind="add_figure", role_id=role, character="rusk").status_code == 200
    row = client.get(f"{BAY}/timeline").json()["figures"][0]
    assert (row["id"], row["role"], row["character"]) == ("g1", role, "rusk")
    found = client.post(f"{BAY}/acting", json={"first": 10, "end": 100}).json()
    (one,) = found["figures"]
    assert (one["first"], len(one["poses"])) == (10, 90 * 9)
    assert max(one["poses"][0::9]) > 30  # somebody speaks
    (key,) = found["drawings"]
    again = client.post(f"{BAY}/acting", json={"first": 10, "end": 100, "known": [key]}).json()
    assert again["drawings"] == {}
    assert again["figures"] == found["figures"]
    most = client.post(f"{BAY}/acting", json={"first": 0, "end": 10**9}).json()["figures"][0]
    total = client.get(f"{BAY}/timeline").json()["total_frames"]
    assert len(most["poses"]) == 9 * min(2_000, total)
    assert (
        client.post(f"{BAY}/acting", json={"first": total + 5, "end": total + 9}).json()["figures"][0][
            "poses"
        ]
        == []
    )


@pytest.mark.parametrize(
    ("edit", "status", "says"),
    [
        ({"kind": "add_figure", "role_id": "nobody", "character": "rusk"}, 404, "role"),
        ({"kind": "add_figure", "role_id": "narrator", "character": "mouse"}, 422, "character"),
        ({"kind": "figure", "figure_id": "g1", "size": 40}, 422, "size"),
        ({"kind": "figure", "figure_id": "g1", "colours": {"coat": "red"}}, 422, "coat"),
    ],
)
def test_what_can_not_be_is_refused_by_name(
    client: TestClient, edit: dict[str, Any], status: int, says: str
) -> None:
    refused = edited(client, **edit)
    assert refused.status_code == status
    assert says in refused.text
    assert client.post(f"{BAY}/acting", json={"first": -1, "end": 4}).status_code == 422
