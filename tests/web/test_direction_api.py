"""The routes of the passes Words and Cast."""

import io
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient

from tests.web.application import BAY, on_a_copy
from tests.web.test_media_and_work import ended, samples


@pytest.fixture(scope="module")
def client(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with on_a_copy(demo_master, tmp_path_factory) as made:
        yield made


def timeline(client: TestClient) -> dict[str, Any]:
    return dict(client.get(f"{BAY}/timeline").json())


def edit(client: TestClient, **fields: object) -> dict[str, Any]:
    answer = client.post(f"{BAY}/edits", json={"based_on": timeline(client)["revision"], "edit": fields})
    assert answer.status_code == 200, answer.text
    return dict(answer.json())


def test_a_directed_line_is_told_and_its_words_are_heard_alone(client: TestClient) -> None:
    made = edit(client, kind="emphasis", line_id="l1", first_word=4, end_word=5, level="strong")
    line = made["lines"][0]
    assert line["marks"] == [{"kind": "emphasis", "first_word": 4, "end_word": 5, "level": "strong"}]
    assert line["state"] == "stale"
    told = client.get(f"{BAY}/lines/l1/told").json()["words"]
    assert [word["text"] for word in told][-2:] == ["Marrow", "Bay."]
    heard = client.get(f"{BAY}/lines/l1/words.wav", params={"first": 6, "end": 8, "spelled": "maro bey"})
    assert 0.2 < len(samples(heard.content)) / 48_000 < 1.5
    assert client.get(f"{BAY}/lines/l1/words.wav", params={"first": 6, "end": 99}).status_code == 404
    refused = client.get(f"{BAY}/lines/l1/words.wav", params={"first": 6, "end": 8, "ipa": "1"})
    assert refused.status_code == 422
    client.post(f"{BAY}/undo")


def test_words_are_said_as_in_another_language(client: TestClient) -> None:
    asked: dict[str, str | int] = {"first": 4, "end": 6, "language": "es"}
    found = client.get(f"{BAY}/lines/l1/said-in", params=asked).json()["ipa"]
    assert len(found.split()) == 2
    mark = {"kind": "pronunciation", "line_id": "l1", "first_word": 4, "end_word": 6, "ipa": found}
    made = edit(client, **mark, language="es")
    assert made["lines"][0]["marks"][0]["language"] == "es"
    assert made["undo"].endswith("said in Spanish")
    plain = client.get(f"{BAY}/lines/l1/words.wav", params={"first": 4, "end": 6})
    assert 0.2 < len(samples(plain.content)) / 48_000 < 2
    client.post(f"{BAY}/undo")
    wrongs: list[tuple[dict[str, str | int], int]] = [
        ({"language": "ja"}, 422),
        ({"language": "tlh"}, 422),
        ({"first": 90}, 404),
    ]
    for wrong, status in wrongs:
        refused = client.get(f"{BAY}/lines/l1/said-in", params=asked | wrong)
        assert refused.status_code == status
    revision = timeline(client)["revision"]
    for bad in ({"language": "no-tag!", **mark}, {**mark, "ipa": None, "spelled": "x y", "language": "es"}):
        answer = client.post(f"{BAY}/edits", json={"based_on": revision, "edit": bad})
        assert answer.status_code == 422


def test_ways_are_compared_kept_and_chosen_by_name(client: TestClient) -> None:
    variants = [{"delivery": {"style": "plain"}}, {"delivery": {"style": "grave"}}]
    job = ended(client, client.post(f"{BAY}/lines/l2/compare", json={"variants": variants}).json())
    plain, grave = client.get(f"{BAY}/ways/{job['id']}").json()["ways"]
    assert grave["take"]["seconds"] > plain["take"]["seconds"]
    assert client.get(f"/api/takes/{grave['take']['id']}/sound.wav").status_code == 200
    revision = timeline(client)["revision"]
    kept = client.post(
        f"{BAY}/lines/l2/keep", json={"variants": variants, "based_on": revision, "chosen": 1}
    ).json()
    assert kept["lines"][1]["own_delivery"]["style"] == "grave"
    takes = client.get(f"{BAY}/lines/l2/takes").json()["takes"]
    assert [take["style"] for take in takes if take["chosen"]] == ["Grave"]
    named = edit(client, kind="name_take", line_id="l2", take_id=takes[0]["id"], name="the slow one")
    assert named["undo"] == "Line 2: take named “the slow one”"
    other = next(take for take in takes if not take["chosen"])
    chosen = client.post(f"{BAY}/lines/l2/take", json={"based_on": named["revision"], "take_id": other["id"]})
    assert chosen.json()["lines"][1]["state"] != "stale"
    clash = client.post(f"{BAY}/lines/l2/take", json={"based_on": revision, "take_id": other["id"]})
    assert clash.status_code == 409
    refused = client.post(f"{BAY}/edits", json={
        "based_on": timeline(client)["revision"],
        "edit": {"kind": "drop_take", "line_id": "l2", "take_id": other["id"]},
    })  # fmt: skip
    assert "plays in the piece" in refused.json()["detail"]


def test_words_are_looked_over_and_brought_in_with_what_was_not_understood(client: TestClient) -> None:
    before = timeline(client)
    body = '<speak><p>Twice a day, the sea leaves Marrow Bay.</p><p><audio src="file:///etc/passwd"/>New.</p></speak>'
    plan = client.post(f"{BAY}/words/plan", data={"pasted": body, "kind": ".ssml"}).json()
    assert (plan["counts"]["same"], plan["counts"]["new"]) == (1, 1)
    assert "not opened" in plan["problems"][0]["message"]
    assert timeline(client) == before
    form = {"pasted": body, "kind": ".ssml", "based_on": str(before["revision"]), "how": "compare"}
    made = client.post(f"{BAY}/words", data=form)
    assert [line["said"] for line in made.json()["state"]["lines"]][-1] == "New."
    assert client.post(f"{BAY}/words", data=form).status_code == 409
    client.post(f"{BAY}/undo")
    assert timeline(client)["lines"] == before["lines"]


@pytest.mark.parametrize(
    ("name", "data", "why"),
    [
        ("a.docx", b"PK\x03\x04 no document", "a.docx"),
        ("a.exe", b"x", "can't be read yet"),
        ("a.txt", b"", "empty"),
        (
            "a.ssml",
            b'<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><speak>&x;</speak>',
            "document type",
        ),
        ("a.txt", b"x" * 10_000_001, "words may have"),
    ],
)
def test_a_file_of_words_that_can_not_be_used_is_named(
    client: TestClient, name: str, data: bytes, why: str
) -> None:
    answer = client.post(f"{BAY}/words/plan", files={"file": (name, io.BytesIO(data))})
    assert answer.status_code == 422
    assert why in answer.json()["detail"]


def test_a_lexicon_goes_out_and_comes_back(client: TestClient) -> None:
    edit(client, kind="lexicon_entry", written="Marrow", spelled="maro")
    out = client.get(f"{BAY}/lexicon.pls")
    assert b"<alias>maro</alias>" in out.content
    assert "low-tide-at-marrow-bay.pls" in out.headers["content-disposition"]
    entries = client.get(f"{BAY}/lexicon").json()["entries"]
    assert [(entry["written"], entry["count"]) for entry in entries] == [("Marrow", 1)]
    heard = client.get(f"{BAY}/lexicon/sound.wav", params={"written": "Marrow", "spelled": "maro"})
    assert heard.status_code == 200
    client.post(f"{BAY}/undo")
    made = client.post(f"{BAY}/lexicon", files={"file": ("bay.pls", out.content)}).json()
    assert (made["count"], len(made["state"]["lexicon"])) == (1, 1)
    client.post(f"{BAY}/undo")
    refused = client.post(f"{BAY}/lexicon", files={"file": ("bay.pls", b"<lexicon/>")})
    assert refused.json()["detail"].startswith("bay.pls: no pronunciation")


def test_a_recording_that_says_a_line_becomes_its_take(client: TestClient) -> None:
    sound = client.get("/api/voices/wren/sample.wav", params={"project": "marrow-bay", "line": "l2"}).content
    sent = client.post(f"{BAY}/recordings", files={"file": ("mine.wav", sound)}, data={"line_ids": "l2"})
    job = ended(client, sent.json())
    assert job["state"] == "done", job
    assert job["result"]["lines"][0]["doubtful"] == []
    made = timeline(client)
    assert made["lines"][1]["take"]["recorded"]
    assert made["coverage"]["whole"]["recorded"] == 1
    assert "1 recorded" in next(item["text"] for item in made["passes"] if item["name"] == "cast")
    other = ended(
        client,
        client.post(f"{BAY}/recordings", files={"file": ("m.wav", sound)}, data={"line_ids": "l4"}).json(),
    )
    assert (other["state"], "does not seem to say" in other["note"]) == ("failed", True)
    assert (
        client.post(f"{BAY}/recordings", files={"file": ("m.wav", b"")}, data={"line_ids": "l4"}).status_code
        == 422
    )
    client.post(f"{BAY}/undo")


def test_the_sound_of_lines_is_written_and_offered(client: TestClient) -> None:
    job = ended(
        client, client.post(f"{BAY}/line-sounds", json={"line_ids": ["l1", "l2"], "format": "flac"}).json()
    )
    names = [file["name"] for file in job["result"]["files"]]
    assert names == ["low-tide-at-marrow-bay-narrator-01.flac", "low-tide-at-marrow-bay-narrator-02.flac"]
    assert client.get(f"{BAY}/exports/{names[0]}").content.startswith(b"fLaC")
    assert client.get(f"{BAY}/exports/..%2Ffox-cadence.sqlite").status_code == 404


def test_a_script_goes_out_as_ssml_and_punctuation_is_proved(client: TestClient) -> None:
    assert client.get(f"{BAY}/script.ssml").text.count("<p>") == 10
    proof = client.post(
        f"{BAY}/lines/l2/punctuate", json={"text": "What it forgets it keeps, in pools."}
    ).json()["proof"]
    assert proof["holds"]
    lost = client.post(f"{BAY}/lines/l2/punctuate", json={"text": "What it forgets, it keeps."}).json()[
        "proof"
    ]
    assert lost["lost"] == ["in", "pools."]


def test_deliveries_are_kept_for_all_projects_in_the_data_folder(client: TestClient) -> None:
    assert client.get("/api/deliveries").json() == {"deliveries": []}
    for style in ("calm", "hushed"):
        client.post(
            "/api/deliveries", json={"name": " night  voice", "delivery": {"style": style, "pace": 0.9}}
        )
    kept = client.get("/api/deliveries").json()["deliveries"]
    assert [(each["name"], each["delivery"]["style"]) for each in kept] == [("night voice", "hushed")]
    assert client.post("/api/deliveries", json={"name": "x", "delivery": {"pace": 9}}).status_code == 422
    assert client.post("/api/deliveries", json={"name": "night voice"}).json() == {"deliveries": []}


def test_edits_that_go_with_the_voicing_are_refused_before_it_begins(client: TestClient) -> None:
    body = {"line_ids": ["l1"], "edits": [{"kind": "role", "role_id": "r1", "style": "gloomy"}]}
    assert client.post(f"{BAY}/voice", json=body).status_code == 422
