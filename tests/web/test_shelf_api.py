"""The shelf, filling and tables of colours over the routes: what is asked is answered, what is wrong is
said."""

from collections.abc import Iterator
from io import BytesIO
from pathlib import Path

import numpy as np
import pytest
from fastapi.testclient import TestClient
from PIL import Image

from fox_cadence.core.adjustment import Adjustment, identity, table_of
from tests.web.application import BAY, on_a_copy


@pytest.fixture
def client(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with on_a_copy(demo_master, tmp_path_factory) as made:
        yield made


def test_the_shelf_is_searched_and_looked_at(client: TestClient) -> None:
    everything = client.get(f"{BAY}/shelf").json()
    assert {item["source"] for item in everything["items"]} == {"piece", "shipped"}
    assert everything["line_words"] == []
    answer = client.get(f"{BAY}/shelf", params={"words": "jellyf", "line": "l6"}).json()
    assert [item["id"] for item in answer["items"]] == ["animal-jelly"]
    assert "starfish" in answer["line_words"]
    (item,) = answer["items"]
    looks = [client.get(look) for look in item["looks"]]
    assert {look.status_code for look in looks} == {200}
    assert Image.open(BytesIO(looks[0].content)).size == (208, 132)
    assert len({look.content for look in looks}) == len(looks)
    stills = client.get(f"{BAY}/shelf", params={"kind": "still", "source": "shipped"}).json()["items"]
    assert {item["kind"] for item in stills} == {"still"}
    over = client.get("/media/shelf/over-star/0.jpg")
    assert over.status_code == 200


@pytest.mark.parametrize(
    "path", ["/media/shelf/no-such/0.jpg", "/media/shelf/over-nothing/0.jpg", "/media/colours/x/table"]
)
def test_what_is_not_there_is_not_found(client: TestClient, path: str) -> None:
    assert client.get(path).status_code == 404


@pytest.mark.parametrize(
    "path",
    [
        "/media/shelf/sea-boat/12.jpg",
        "/media/shelf/ground-dots/0.jpg?colours=red",
        "/media/shelf/..%2F/0.jpg",
    ],
)
def test_what_is_no_request_is_refused(client: TestClient, path: str) -> None:
    assert client.get(path).status_code in (404, 422)


def test_a_table_of_colours_is_that_of_the_core(client: TestClient) -> None:
    found = client.get("/media/colours/0.5_1.2_10_-5_0.8_1_-/table")
    wanted = table_of(Adjustment(exposure=0.5, contrast=1.2, warmth=10, tint=-5, saturation=0.8), None)
    table = np.frombuffer(found.content, np.uint8).reshape(identity().shape)
    assert np.abs(table / 255 - wanted).max() <= 0.5 / 255 + 1e-6


def test_a_plan_names_its_items_and_a_bad_wish_is_refused(client: TestClient) -> None:
    plan = client.post(f"{BAY}/fill/plan", json={"line": "l2"}).json()
    assert plan["plans"][0]["first_shot_id"] == "s2"
    named = {shot["item"] for each in plan["plans"] for shot in each["shots"]}
    assert named <= plan["items"].keys()
    refused = client.post(f"{BAY}/fill/plan", json={"wish": {"shortest_s": 9, "longest_s": 5}})
    assert refused.status_code == 422
    assert client.post(f"{BAY}/fill/plan", json={"line": "nobody"}).status_code in (404, 422)
    assert client.post(f"{BAY}/fill", json={"plans": []}).status_code == 422
