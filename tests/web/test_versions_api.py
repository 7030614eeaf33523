"""The same piece in other languages, over the routes."""

import csv
import io
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


def begun(client: TestClient, language: str, name: str = "", data: bytes = b"") -> Any:
    files = {"file": (name, data)} if name else {"file": ("", b"")}
    return client.post(f"{BAY}/versions", data={"language": language}, files=files)


def test_words_go_out_are_translated_and_come_back_as_a_version(client: TestClient) -> None:
    before = client.get(f"{BAY}/versions").json()
    assert [each["tag"] for each in before["versions"]] == ["en", "es", "ja"]
    out = client.get(f"{BAY}/words-to-translate.csv?language=fr").content.decode("utf-8-sig")
    rows = list(csv.reader(io.StringIO(out)))
    assert rows[0] == ["id", "role", "en", "fr"]
    back = io.StringIO()
    csv.writer(back).writerows([rows[0], *([*row[:3], f"Ligne {n}"] for n, row in enumerate(rows[1:], 1))])
    made = begun(client, "fr", "mots.csv", back.getvalue().encode())
    assert made.status_code == 200
    answer = made.json()
    assert (answer["placed"], answer["without"], answer["remarks"]) == (len(rows) - 1, 0, [])
    french = answer["versions"]["versions"][-1]
    assert (french["language"], french["done"], french["total"]) == ("French", len(rows) - 1, len(rows) - 1)
    cells = [unit["cells"][-1] for unit in answer["versions"]["units"]]
    assert [cell["text"] for cell in cells] == [f"Ligne {n}" for n in range(1, len(rows))]
    assert all(cell["unit"] == "done" for cell in cells)

    version = answer["project"]
    first = client.get(f"{BAY}/timeline").json()
    edits = [{"kind": "caption_text", "caption_id": first["captions"][0]["id"], "text": "Once a day."}]
    based = {"based_on": first["revision"], "edits": edits}
    assert client.post(f"{BAY}/edits", json=based).status_code == 200
    old = client.get(f"/api/projects/{version}/versions").json()  # asked for by the version, it is the same
    assert [each["out_of_date"] for each in old["versions"]] == [0, 1, 1, 1]
    unit = next(unit for unit in old["units"] if unit["cells"][-1]["unit"] == "out of date")
    right = client.post(f"/api/projects/{version}/version-right", json={"unit_ids": [unit["id"]]}).json()
    assert [each["out_of_date"] for each in right["versions"]] == [0, 1, 1, 0]
    typed = client.post(f"/api/projects/{version}/version-words", json={"words": {unit["id"]: "Une fois."}})
    assert typed.status_code == 200
    changed = client.get(f"/api/projects/{version}/timeline").json()
    assert (changed["undo"], changed["language"]) == ("1 translation written", "fr")


def test_a_version_catches_up_with_a_picture_that_has_changed(client: TestClient) -> None:
    first = client.get(f"{BAY}/timeline").json()
    edits = [{"kind": "add_shot", "after_shot_id": first["shots"][-1]["id"], "seconds": 2}]
    made = client.post(f"{BAY}/edits", json={"based_on": first["revision"], "edits": edits})
    assert made.status_code == 200, made.text
    behind = client.get(f"{BAY}/versions").json()["versions"]
    assert [each["behind"] for each in behind] == [False, True, True]
    after = client.post("/api/projects/bajamar/version-picture").json()["versions"]
    assert [each["behind"] for each in after] == [False, False, True]
    assert len(client.get("/api/projects/bajamar/timeline").json()["shots"]) == len(first["shots"]) + 1


BAD = {
    "its own language": ("en-GB", "", b"", "the piece is in English already"),
    "no language": ("xx", "", b"", "no language known here"),
    "an empty file": ("fr", "mots.csv", b"", "mots.csv"),
    "rows of another piece": ("fr", "mots.csv", b"en,fr\nNothing like it,Rien\n", "none of its rows"),
    "too few paragraphs": ("fr", "mots.txt", b"Un.\n\nDeux.\n", "10 lines and the file 2 paragraphs"),
    "a document that is none": ("fr", "mots.docx", b"PK\x03\x04 no", "mots.docx"),
    "a cut XLIFF": ("fr", "mots.xlf", b"<xliff xmlns='urn:o'", "mots.xlf"),
}


@pytest.mark.parametrize("case", BAD)
def test_what_cannot_become_a_version_is_said_and_makes_nothing(client: TestClient, case: str) -> None:
    language, name, data, said = BAD[case]
    answer = begun(client, language, name, data)
    assert answer.status_code == 422
    assert said in answer.text
    assert len(client.get(f"{BAY}/versions").json()["versions"]) == 3


def test_a_project_that_is_no_version_and_words_it_does_not_have_are_refused(client: TestClient) -> None:
    words = {"words": {"l1": "Nada"}}
    assert client.post(f"{BAY}/version-words", json=words).status_code == 422
    words = {"words": {"gone": "Nada"}}
    answer = client.post("/api/projects/bajamar/version-words", json=words)
    assert (answer.status_code, "no words 'gone'" in answer.text) == (422, True)
    assert client.get(f"{BAY}/words-to-translate.pdf").status_code == 404
    assert client.get("/api/projects/nothing/versions").status_code == 404
