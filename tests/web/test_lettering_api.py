"""Lettering as scripts ask for it: drawings, movements, proofs with their cures, font files."""

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from fox_cadence.core.lettering.styles import STYLES, TITLES
from fox_cadence.media.fonts import FONTS
from tests.web.application import BAY, on_a_copy

PLATE = STYLES[0].model_dump()


@pytest.fixture
def client(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with on_a_copy(demo_master, tmp_path_factory) as made:
        yield made


def words(**more: Any) -> dict[str, Any]:
    return {"text": "Home is a groove.", "style": "k", "frames": 60, **more}


def test_words_are_drawn_in_any_style_and_the_page_need_not_ask_twice(client: TestClient) -> None:
    styles = {style.id: style.model_dump() for style in (*STYLES, *TITLES)}
    asked = {"styles": styles, "words": [words(style=each) for each in styles]}
    found = client.post(f"{BAY}/drawings", json=asked).json()
    assert len({str(each["drawing"]) for each in found}) == len(styles)
    assert all(len(each["drawing"]["words"]) == 4 for each in found)
    known = client.post(
        f"{BAY}/drawings",
        json={"styles": {"k": PLATE}, "words": [words(known=True), words(text=" ")]},
    ).json()
    assert "drawing" not in known[0]
    assert known[0]["moments"]["comes"] == [[0, 0]]
    assert known[1] is None


@pytest.mark.parametrize(
    ("style", "says"),
    [
        (PLATE | {"ink": "red"}, "ink"),
        (PLATE | {"size": 9}, "size"),
        (PLATE | {"comes": {"kind": "somersault"}}, "kind: Input should be"),
    ],
)
def test_a_style_that_is_none_is_refused_by_name(
    client: TestClient, style: dict[str, Any], says: str
) -> None:
    refused = client.post(f"{BAY}/drawings", json={"styles": {"k": style}, "words": [words()]})
    assert refused.status_code == 422
    assert says in refused.json()["detail"]
    unknown = client.post(f"{BAY}/drawings", json={"styles": {}, "words": [words()]})
    assert "no style of that key" in unknown.json()["detail"]


def test_movements_are_told_as_rows_that_end_at_rest(client: TestClient) -> None:
    found = client.get("/api/movements").json()
    assert set(found["coming"]) == set(found["going_back"])
    assert all(row[-1] == [0, 0, 1, 0, 1, 1] for row in found["coming"].values())


def test_proofs_name_rules_and_cures_that_were_tried(client: TestClient) -> None:
    state = client.get(f"{BAY}/timeline").json()
    narrow = {"kind": "caption_style", "style": PLATE | {"width": 0.82}}
    client.post(f"{BAY}/edits", json={"based_on": state["revision"], "edit": narrow})
    state = client.get(f"{BAY}/timeline").json()
    ids = [caption["id"] for caption in state["captions"]]
    found = client.post(f"{BAY}/proofs", json={"ids": [*ids, "gone"]}).json()
    assert set(found) <= set(ids)
    long = next(each for each in ids if any(f["rule"] == "lines" for f in found[each]["faults"]))
    cures = client.get(f"{BAY}/proofs/{long}/cures/lines").json()
    assert cures
    edit = {"based_on": state["revision"], "edit": cures[0]["edit"]}
    assert client.post(f"{BAY}/edits", json=edit).status_code == 200
    again = client.post(f"{BAY}/proofs", json={"ids": [long]}).json()
    assert all(fault["rule"] != "lines" for fault in again[long]["faults"])
    assert client.get(f"{BAY}/proofs/gone/cures/lines").status_code == 404


def upload(client: TestClient, name: str, data: bytes) -> Any:
    return client.post("/api/fonts", files={"file": (name, data)})


def test_a_font_file_is_kept_offered_and_set_in(client: TestClient) -> None:
    from fontTools.ttLib import TTFont  # it is slow to load

    data = (FONTS / "Bangers_400Regular.ttf").read_bytes()
    (own,) = upload(client, "bangers.ttf", data).json()
    assert own["name"].startswith("Bangers")
    assert own["own"]
    with TTFont(FONTS / "Bangers_400Regular.ttf") as font:
        assert font["OS/2"].usWeightClass in own["weights"]
    styles = {"own": PLATE | {"family": own["id"]}, "shipped": PLATE | {"family": "bangers"}}
    drawn = client.post(
        f"{BAY}/drawings", json={"styles": styles, "words": [words(style=each) for each in styles]}
    ).json()
    assert drawn[0]["drawing"]["words"] == drawn[1]["drawing"]["words"]
    assert client.delete(f"/api/fonts/{own['id'].removeprefix('own:')}").json() == []


def broken(kind: str, folder: Path) -> bytes:
    from fontTools.ttLib import TTFont

    if kind == "text":
        return b"not a font" * 400
    if kind == "cut":
        return (FONTS / "Anton_400Regular.ttf").read_bytes()[:900]
    with TTFont(FONTS / "LilitaOne_400Regular.ttf") as font:
        if kind == "forbidden":
            font["OS/2"].fsType = 2
        elif kind == "outlines":
            del font["glyf"], font["loca"]
        elif kind == "letters":
            for table in font["cmap"].tables:
                table.cmap = {}
        elif kind == "packed":
            font.flavor = "woff"
        font.save(folder / "made")
    return (folder / "made").read_bytes()


@pytest.mark.parametrize(
    ("kind", "says"),
    [
        ("text", "not a font file"),
        ("cut", "not a font file"),
        ("forbidden", "does not allow"),
        ("outlines", "no outlines"),
        ("letters", "no letters"),
        ("packed", "WOFF"),
    ],
)
def test_a_font_file_that_words_cannot_be_set_in_is_refused_with_its_reason(
    client: TestClient, kind: str, says: str, tmp_path: Path
) -> None:
    refused = upload(client, f"{kind}.ttf", broken(kind, tmp_path))
    assert refused.status_code == 422
    assert says in refused.json()["detail"]
    assert f"{kind}.ttf" in refused.json()["detail"]
