"""Pictures, sounds, long work and files through the routes."""

import io
import time
import wave
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient

from fox_cadence.voices.catalogue import VOICES
from tests.media import files
from tests.web.application import BAY, on_a_copy


@pytest.fixture(scope="module")
def client(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with on_a_copy(demo_master, tmp_path_factory) as made:
        yield made


@pytest.fixture(scope="module")
def timeline(client: TestClient) -> dict[str, Any]:
    return dict(client.get(f"{BAY}/timeline").json())


def ended(client: TestClient, job: dict[str, Any]) -> dict[str, Any]:
    until = time.monotonic() + 90
    while job["state"] in {"waiting", "running"} and time.monotonic() < until:
        time.sleep(0.05)
        job = client.get(f"/api/jobs/{job['id']}").json()
    return job


def samples(sound: bytes) -> np.ndarray:
    with wave.open(io.BytesIO(sound)) as read:
        assert read.getframerate() == 48000
        width = {2: np.int16, 4: np.int32}.get(read.getsampwidth())
        data = read.readframes(read.getnframes())
        if width is None:
            raw = np.frombuffer(data, np.uint8).reshape(-1, 3).astype(np.int32)
            values = (raw[:, 0] | raw[:, 1] << 8 | raw[:, 2] << 16) << 8 >> 8
        else:
            values = np.frombuffer(data, width).astype(np.int32)
        return values.reshape(-1, read.getnchannels())


def test_pictures_of_a_clip_come_one_by_one_and_in_a_pack(
    client: TestClient, timeline: dict[str, Any]
) -> None:
    clip = timeline["shots"][0]["clip"]
    first, later = (client.get(f"/media/clips/{clip}/at/{ticks}.jpg") for ticks in (0, 705_600_000))
    assert first.headers["content-type"] == "image/jpeg"
    assert first.content.startswith(b"\xff\xd8")
    assert first.content != later.content
    assert "immutable" in first.headers["cache-control"]
    beyond = client.get(f"/media/clips/{clip}/at/{10**15}.jpg")
    assert beyond.status_code == 200  # the last one stays
    pack = client.get(f"/media/clips/{clip}/pack")
    assert first.content in pack.content
    assert client.get("/media/clips/nonsense/pack").status_code == 422


def test_waveforms_are_a_hundred_peaks_a_second(client: TestClient, timeline: dict[str, Any]) -> None:
    bed = client.get(f"/media/clips/{timeline['beds'][0]['clip_hash']}/peaks").json()
    assert bed["per_second"] == 100
    assert len(bed["peaks"]) > 1000
    take = timeline["lines"][0]["take"]
    voice = client.get(f"/media/takes/{take['hash']}/peaks").json()
    spoken = timeline["lines"][0]["end_s"] - timeline["lines"][0]["start_s"]
    assert len(voice["peaks"]) == pytest.approx(spoken * 100, abs=60)


def test_the_mix_that_is_heard_has_the_loudness_that_is_said(
    client: TestClient, timeline: dict[str, Any]
) -> None:
    sound = client.get(f"{BAY}/mix.wav")
    assert "no-store" in sound.headers["cache-control"]
    heard = samples(sound.content)
    assert heard.shape == (timeline["total_frames"] * 1600, 2)
    said = client.get(f"{BAY}/sound").json()
    assert said["lufs"] == pytest.approx(-14, abs=0.2)
    assert said["peak_db"] <= -1


def test_a_voice_of_each_engine_has_a_sample_and_says_a_line_of_ours(client: TestClient) -> None:
    of_engine = {voice.engine: voice for voice in VOICES}
    assert len(of_engine) == 4
    spoken = [client.get(f"/api/voices/{voice.id}/sample.wav").content for voice in of_engine.values()]
    assert all(len(samples(sound)) > 48000 for sound in spoken)
    assert len(set(spoken)) == 4


@pytest.mark.long
def test_every_voice_has_a_sample_and_says_a_line_of_ours(client: TestClient) -> None:
    """Of the model with many voices one of each language: they take as long as they speak, and a script
    measures them all."""
    first = {voice.language: voice for voice in reversed(VOICES) if voice.engine == "kokoro"}
    heard = [voice for voice in VOICES if voice.engine != "kokoro"] + list(first.values())
    spoken = [client.get(f"/api/voices/{voice.id}/sample.wav").content for voice in heard]
    assert all(len(samples(sound)) > 48000 for sound in spoken)
    assert len(set(spoken)) == len(heard) > 100
    ours = client.get("/api/voices/wade/sample.wav", params={"project": "marrow-bay", "line": "l7"})
    assert len(samples(ours.content)) < len(samples(client.get("/api/voices/wade/sample.wav").content))


def test_a_line_that_is_gone_cannot_be_heard(client: TestClient) -> None:
    answer = client.get(f"{BAY}/lines/l99/sound.wav")
    assert answer.status_code == 404
    assert "no longer" in answer.json()["detail"]


def test_files_are_made_offered_and_downloaded(client: TestClient) -> None:
    assert client.get(f"{BAY}/exports").json() == {}
    job = ended(client, client.post(f"{BAY}/exports", json={"rows": ["sound", "captions"]}).json())
    assert job["state"] == "done"
    names = {file["name"]: file["bytes"] for file in client.get(f"{BAY}/exports").json()["files"]}
    assert sorted(Path(name).suffix for name in names) == [".srt", ".txt", ".vtt", ".wav", ".wav"]
    for name, size in names.items():
        answer = client.get(f"{BAY}/exports/{name}")
        assert len(answer.content) == size
        assert name in answer.headers["content-disposition"]
    words = client.get(f"{BAY}/exports/low-tide-at-marrow-bay.srt").text
    assert "Twice a day, the sea leaves Marrow Bay." in " ".join(words.split())
    assert client.get(f"{BAY}/timeline").json()["passes"][6]["text"] == "5 files made"


def test_open_lines_are_voiced_in_a_job_that_says_what_it_did(client: TestClient) -> None:
    assert client.get(f"{BAY}/voice").json() == {"line_ids": ["l7"]}
    job = ended(client, client.post(f"{BAY}/voice", json={}).json())
    assert (job["state"], job["result"]) == ("done", {"made": 1, "kept": 9, "failed": []})
    assert client.get(f"{BAY}/voice").json() == {"line_ids": []}
    client.post(f"{BAY}/undo")


def test_a_job_that_has_ended_can_no_longer_be_stopped(client: TestClient) -> None:
    job = ended(client, client.post(f"{BAY}/voice", json={"line_ids": ["l1"]}).json())
    again = client.post(f"/api/jobs/{job['id']}/cancel").json()
    assert again["state"] == job["state"] == "done"


def upload(client: TestClient, paths: list[Path], **form: str) -> dict[str, Any]:
    sent = [("files", (path.name, path.read_bytes())) for path in paths]
    answer = client.post("/api/projects", data={"name": "Foam", "size": "128x160", **form}, files=sent)
    assert answer.status_code == 200, answer.json()
    return ended(client, answer.json())


def test_uploaded_files_become_a_project(client: TestClient, tmp_path: Path) -> None:
    words = tmp_path / "words.md"
    words.write_text("# Foam\n\nThe foam comes in.\n\nLIMPET: And goes.\n")
    paths = [
        files.video(tmp_path / "one.mp4", 1.5, size=(128, 160)),
        files.still(tmp_path / "two.png"),
        words,
    ]
    job = upload(client, paths, fps="25")
    assert job["state"] == "done"
    assert job["result"]["remarks"] == []
    made = client.get(f"/api/projects/{job['result']['project']}/timeline").json()
    assert made["rate"]["label"] == "25"
    assert [shot["name"] for shot in made["shots"]] == ["one", "two"]
    assert [line["said"] for line in made["lines"]] == ["The foam comes in.", "And goes."]
    assert [heading["text"] for shot in made["shots"] for heading in shot["headings"]] == ["Foam"]
    assert [role["name"] for role in made["roles"]] == ["narrator", "limpet"]
    scratch = client.app.state.workspace.scratch  # type: ignore[attr-defined]
    assert list(scratch.iterdir()) == []


def test_pasted_words_do_without_a_file(client: TestClient, tmp_path: Path) -> None:
    job = upload(client, [files.still(tmp_path / "a.png")], pasted="One.\nTwo.\n")
    made = client.get(f"/api/projects/{job['result']['project']}/timeline").json()
    assert [line["said"] for line in made["lines"]] == ["One.", "Two."]


def test_a_job_without_a_picture_fails_in_words(client: TestClient, tmp_path: Path) -> None:
    job = upload(client, [files.tone(tmp_path / "bed.wav")])
    assert job["state"] == "failed"
    assert "none of the files has a picture" in job["note"]


def test_two_files_of_words_are_one_too_many(client: TestClient) -> None:
    sent = [("files", ("a.txt", b"One.")), ("files", ("..\\b.srt", b"x"))]
    answer = client.post("/api/projects", data={"name": "Foam"}, files=sent)
    assert answer.status_code == 422
    assert "two files of words (a.txt and b.srt)" in answer.json()["detail"]


def test_the_mix_of_an_earlier_revision_is_that_revisions(client: TestClient) -> None:
    now = client.get(f"{BAY}/timeline").json()
    first = client.get(f"{BAY}/mix.wav", params={"revision": now["revision"], "end": 20}).content
    shot = {"kind": "shot_sound", "shot_id": now["shots"][0]["id"], "gain_db": -60}
    bed = {"kind": "bed", "bed_id": "b1", "gain_db": -30}
    changed = client.post(f"{BAY}/edits", json={"based_on": now["revision"], "edits": [shot, bed]}).json()
    later = client.get(f"{BAY}/mix.wav", params={"revision": changed["revision"], "end": 20}).content
    assert later == client.get(f"{BAY}/mix.wav", params={"end": 20}).content
    assert later != first
    assert client.get(f"{BAY}/mix.wav", params={"revision": now["revision"], "end": 20}).content == first
    assert client.get(f"{BAY}/mix.wav", params={"revision": 9999}).status_code == 404


def test_files_are_added_to_a_project_in_a_job(client: TestClient, tmp_path: Path) -> None:
    before = client.get(f"{BAY}/timeline").json()
    first = before["shots"][0]["id"]
    sent = [("files", ("rock.png", files.still(tmp_path / "rock.png").read_bytes()))]
    job = ended(client, client.post(f"{BAY}/media", files=sent, data={"after": first}).json())
    assert (job["state"], job["result"]["shots"]) == ("done", 1)
    shots = client.get(f"{BAY}/timeline").json()["shots"]
    assert [shot["name"] for shot in shots[:2]] == [before["shots"][0]["name"], "rock"]
    bad = [("files", ("x.mp4", b"no film"))]
    job = ended(client, client.post(f"{BAY}/media", files=bad).json())
    assert job["state"] == "failed"
    assert "x.mp4" in job["note"]
    gone = ended(client, client.post(f"{BAY}/media", files=sent, data={"after": "s99"}).json())
    assert (gone["state"], "no longer in the project" in gone["note"]) == ("failed", True)


def test_words_are_looked_over_before_there_is_a_project(client: TestClient) -> None:
    script = "The tide goes out.\nA crab waits under the weed until it comes back.\n"
    found = client.post("/api/words/overview", data={"pasted": script}).json()
    assert (found["lines"], found["timed"], found["begin"][0]) == (2, False, "The tide goes out.")
    assert 3 < found["seconds"] < 8
    polish = "1\n00:00:01,000 --> 00:00:04,500\nMAN: Żółć gęś łódź.\n".encode("cp1250")
    sent = {"file": ("a.srt", polish)}
    found = client.post("/api/words/overview", data={"language": "pl"}, files=sent).json()
    assert (found["begin"], found["seconds"], found["timed"]) == (["MAN: Żółć gęś łódź."], 4.5, True)
    assert found["offers"] == {"names": {"man": 1}, "described": 0}
    named = client.post(
        "/api/words/overview", data={"language": "pl", "encoding": "cp1252"}, files=sent
    ).json()
    assert named["begin"] == ["MAN: ¯ó³æ gêœ ³ódŸ."]
    refused = client.post("/api/words/overview", data={"encoding": "rot13"}, files=sent)
    assert (refused.status_code, "rot13" in refused.json()["detail"]) == (422, True)


def test_a_line_that_the_voice_has_no_sound_for_is_that_lines_trouble(client: TestClient) -> None:
    before = client.get(f"{BAY}/timeline").json()
    captions = {line["id"]: line["captions"][0] for line in before["lines"] if line["captions"]}
    line = next(iter(captions))
    role = {"kind": "role", "role_id": before["roles"][0]["id"], "voice_id": "wren"}
    words = {"kind": "caption_text", "caption_id": captions[line], "text": "潮が引くと"}
    edited = client.post(f"{BAY}/edits", json={"based_on": before["revision"], "edits": [role, words]}).json()
    shown = next(each for each in edited["lines"] if each["id"] == line)
    assert "Wren reads no Han or Kana script: 潮が引くと" in shown["unable"]
    answer = client.get(f"{BAY}/lines/{line}/sound.wav")
    assert answer.status_code == 502
    assert "Wren has no sound for “潮が引くと”" in answer.json()["detail"]
    others = [each["id"] for each in edited["lines"] if each["role"] == role["role_id"]][:3]
    job = ended(client, client.post(f"{BAY}/voice", json={"line_ids": [line, *others]}).json())
    assert [each["line"] for each in job["result"]["failed"]] == [line]
    voiced = {each["id"]: each["state"] for each in client.get(f"{BAY}/timeline").json()["lines"]}
    assert all(voiced[each] not in ("unvoiced", "stale") for each in others if each != line)


@pytest.mark.parametrize("language", ["xx", "english", "../en"])
def test_a_language_that_does_not_exist_is_refused(client: TestClient, language: str) -> None:
    answer = client.post("/api/projects", data={"name": "x", "language": language, "pasted": "One."})
    assert answer.status_code == 422
    before = client.get(f"{BAY}/timeline").json()
    edit = {"kind": "language", "language": language}
    answer = client.post(f"{BAY}/edits", json={"based_on": before["revision"], "edit": edit})
    assert answer.status_code == 422
    assert "language" in answer.json()["detail"]
