"""Sound as scripts ask for it: treatments, and what that of a line does."""

import io
import json
import wave
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from fastapi.testclient import TestClient

from fox_cadence.cli import main
from fox_cadence.media.audio import measure_loudness, read_wav, wav_bytes
from tests.web.application import BAY, on_a_copy
from tests.web.test_fitting_api import ended, finished


@pytest.fixture
def client(demo_master: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[TestClient]:
    with on_a_copy(demo_master, tmp_path_factory) as made:
        yield made


def treat(client: TestClient, name: str, **of: str) -> dict[str, Any]:
    shipped = client.get("/api/treatments").json()["shipped"]
    treatment = next(each for each in shipped if each["name"] == name)
    state = client.get(f"{BAY}/timeline").json()
    edit = {"kind": "treatment", **of, "treatment": treatment}
    answer = client.post(f"{BAY}/edits", json={"based_on": state["revision"], "edit": edit})
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = client.get(f"{BAY}/timeline").json()
    return found


def sound(client: TestClient, address: str) -> np.ndarray:
    with wave.open(io.BytesIO(client.get(address).content)) as file:
        frames = np.frombuffer(file.readframes(file.getnframes()), "<i2") / 32768
        return np.asarray(frames.reshape(-1, file.getnchannels()).mean(axis=1), np.float32)


def test_a_treated_line_is_heard_treated_and_plain_as_loud_and_told_what_it_does(client: TestClient) -> None:
    address = f"{BAY}/lines/l1"
    before = sound(client, f"{address}/sound.wav?plain=true")
    role = client.get(f"{BAY}/timeline").json()["lines"][0]["role"]
    state = treat(client, "Harbour radio", role_id=role)
    assert next(each for each in state["roles"] if each["id"] == role)["treatment"]["name"] == "Harbour radio"
    treated, plain = sound(client, f"{address}/sound.wav"), sound(client, f"{address}/sound.wav?plain=true")
    assert np.array_equal(plain, before)
    assert np.abs(treated[: len(before)] - before).max() > 0.05
    loud = [measure_loudness(each, true_peak=False).integrated_lufs for each in (treated, plain)]
    assert loud[0] == pytest.approx(loud[1], abs=0.5)
    told = client.get(f"{address}/treatment").json()
    assert len(told["effects"]) == 5
    assert told["effects"][4]["most_db"] > 3
    low, middle = (min(told["bands_hz"], key=lambda band: abs(band - hertz)) for hertz in (150, 1_600))

    def tilt(levels: list[float]) -> float:
        return float(levels[told["bands_hz"].index(low)] - levels[told["bands_hz"].index(middle)])

    assert tilt(told["after"]) < tilt(told["before"]) - 10  # a radio has no low voice


def test_the_mix_is_made_of_treated_voices_and_a_line_may_stay_as_it_is(client: TestClient) -> None:
    before = sound(client, f"{BAY}/mix.wav")
    role = client.get(f"{BAY}/timeline").json()["lines"][0]["role"]
    treat(client, "Hall", role_id=role)
    after = sound(client, f"{BAY}/mix.wav")
    assert len(after) == len(before)
    assert np.abs(after - before).max() > 0.02
    assert client.get(f"{BAY}/sound").json()["lufs"] == pytest.approx(-14, abs=0.2)


def test_a_file_is_treated_from_a_terminal(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    at = np.arange(48_000 * 2) / 48_000
    voice = (0.2 * np.sin(2 * np.pi * 220 * at) * (np.sin(2 * np.pi * 2 * at) > 0)).astype(np.float32)
    source, target = tmp_path / "voice.wav", tmp_path / "treated.wav"
    source.write_bytes(wav_bytes(voice))
    data = ["--data", str(tmp_path / "data"), "--json"]
    assert main(["treat", str(source), "--with", "warm", "--out", str(target), *data]) == 0
    said = json.loads(capsys.readouterr().out.splitlines()[-1])
    assert said["treatment"] == "Warm"
    assert [each["kind"] for each in said["stages"]] == ["high_pass", "shelf", "shelf", "warmth"]
    made = read_wav(target)
    assert len(made) >= len(voice)
    assert main(["treatments", *data]) == 0
    assert len(json.loads(capsys.readouterr().out.splitlines()[-1])["treatments"]) >= 8
    assert main(["treat", str(source), "--with", "fog", "--out", str(target), *data]) != 0
    assert "there is no treatment" in "".join(capsys.readouterr())
    source.write_bytes(b"RIFF but nothing else")
    assert main(["treat", str(source), "--with", "warm", "--out", str(target), *data]) != 0


def test_the_mix_is_explained_and_its_music_told(client: TestClient) -> None:
    told = client.get(f"{BAY}/sound").json()
    state = client.get(f"{BAY}/timeline").json()
    assert told["revision"] == state["revision"]
    assert told["lufs"] == pytest.approx(-14, abs=0.2)
    assert told["peak_db"] <= -1
    assert len(told["short_term"]) == pytest.approx(state_seconds(state) * 10, abs=1)
    assert told["over_db"] > 6
    assert 0.5 < told["understood"] <= 1
    bed = told["beds"][0]
    assert sum(run[2] for run in bed["runs"]) == pytest.approx(state_seconds(state), abs=0.01)
    assert all(a < b for a, b in zip(bed["beats"], bed["beats"][1:], strict=False))


def state_seconds(state: dict[str, Any]) -> float:
    rate = state["rate"]
    frames = sum(shot["length"] - shot["transition"] for shot in state["shots"])
    return float(frames * rate["denominator"] / rate["numerator"])


def test_sounds_are_found_heard_and_laid_from_a_script(client: TestClient) -> None:
    found = client.get(f"{BAY}/sounds", params={"words": "gull", "kind": "effect"}).json()["items"]
    assert found[0]["id"] == "effect-gull"
    project = BAY.rsplit("/", 1)[1]
    heard = sound(client, f"/media/projects/{project}/sounds/effect-gull.wav")
    assert len(heard) > 48_000
    laid = {"item": "effect-gull", "use": "effect", "where": {"shot_id": "s1", "offset_s": 0.5}}
    made = client.post(f"{BAY}/sounds", json=laid).json()["id"]
    effects = {each["id"]: each for each in client.get(f"{BAY}/timeline").json()["effects"]}
    assert effects[made]["start_s"] == pytest.approx(0.5)
    for wrong in ({"shot_id": "s99"}, {"of": 1}, {}):
        answer = client.post(f"{BAY}/sounds", json={**laid, "where": wrong})
        assert answer.status_code in (404, 422), answer.text
        assert answer.json()["detail"]
    assert client.post(f"{BAY}/sounds", json={**laid, "item": "effect-none"}).status_code == 404
    assert client.get(f"/media/projects/{project}/sounds/effect-none.wav").status_code == 404


def test_beds_are_cut_ducked_and_refused_from_a_script(client: TestClient) -> None:
    def worked(what: str) -> dict[str, Any]:
        return finished(client, client.post(f"{BAY}/beds/b1/{what}").json())

    laid = {"item": "bed-paper-boats", "use": "instead", "where": {"bed_id": "b1"}}
    assert client.post(f"{BAY}/sounds", json=laid).json()["id"] == "b1"
    assert worked("cut")["hit_s"] > 30
    bed = client.get(f"{BAY}/timeline").json()["beds"][0]
    assert bed["cut_s"] == pytest.approx(bed["cut_for_s"], abs=0.01)
    assert worked("duck")["understood"] == pytest.approx(0.9, abs=0.05)
    assert worked("bars")["count"] > 5
    assert worked("loop")["to_s"] > 5
    assert client.post(f"{BAY}/beds/b9/cut").status_code == 404
    assert client.post(f"{BAY}/beds/b1/polish").status_code == 422


def test_a_part_of_a_mix_is_heard_at_once_and_no_more_than_asked(client: TestClient) -> None:
    state = client.get(f"{BAY}/timeline").json()
    edit = {"kind": "mix", "bed_db": -2}
    client.post(f"{BAY}/edits", json={"based_on": state["revision"], "edit": edit})
    part = sound(client, f"{BAY}/mix.wav?start=3&end=5.5&at_once=true")
    assert len(part) == 2.5 * 48_000
    assert np.abs(part).max() > 0.05
    assert len(sound(client, f"{BAY}/mix.wav?start=9999&end=99999&at_once=true")) == 0


def test_lines_are_sung_from_a_script_and_what_is_wrong_is_said(client: TestClient) -> None:
    assert len(client.get("/api/tunes").json()["tunes"]) >= 3
    sung = finished(client, client.post(f"{BAY}/lines/l2/sing", json={"tune": "rowing"}).json())
    assert 40 < sung["tempo_bpm"] < 140
    wrong = client.post(f"{BAY}/lines/l2/sing", json={"notes": "c q"})
    assert wrong.status_code == 422
    assert "“q” is no note" in wrong.json()["detail"]
    # what is sung is a recording of its kind: another voice can say it with its timing
    finished(client, client.post(f"{BAY}/lines/l2/say-as-recorded", json={"voice_id": "holt"}).json())
    assert client.post(f"{BAY}/lines/l2/say-as-recorded", json={"voice_id": "nobody"}).status_code == 404
    finished(client, client.post(f"{BAY}/lines/l2/tempo", json={"percent": 90}).json())
    assert client.post(f"{BAY}/lines/l2/tempo", json={"percent": 0}).status_code == 422
    plain = ended(client, client.post(f"{BAY}/lines/l1/say-as-recorded", json={"voice_id": "holt"}).json())
    assert plain["state"] == "failed"
    assert "plays no recording" in plain["note"]


def test_a_treatment_is_kept_for_all_projects(client: TestClient) -> None:
    mine = {"name": " Cave ", "stages": [{"kind": "room", "seconds": 2.0}]}
    kept = client.post("/api/treatments", json={"treatment": mine}).json()["mine"]
    assert [each["name"] for each in kept] == ["Cave"]
    assert client.get("/api/treatments").json()["mine"] == kept
    gone = client.post("/api/treatments", json={"treatment": {"name": "cave", "stages": []}}).json()
    assert gone["mine"] == []
    assert client.post("/api/treatments", json={"treatment": {"name": "  ", "stages": []}}).status_code == 422


def test_the_commands_about_sound_answer_scripts(
    demo_data: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    def told(*words: str) -> dict[str, Any]:
        assert main([*words, "--json"]) == 0
        found: dict[str, Any] = json.loads(capsys.readouterr().out)
        return found

    data = ("--data", str(demo_data))
    assert len(told("beds")["beds"]) >= 12
    assert len(told("effects")["effects"]) >= 40
    whole = told("mix", "marrow-bay", *data, "--out", str(tmp_path / "whole.wav"))
    assert whole["lufs"] == pytest.approx(-14, abs=0.2)
    assert whole["peak_db"] <= -1
    assert whole["speech_over_bed_db"] > 6
    told("mix", "marrow-bay", *data, "--only", "bed", "--out", str(tmp_path / "bed.wav"))
    beats = told("beats", str(tmp_path / "bed.wav"))
    assert set(beats) == {"tempo_bpm", "beats", "bars", "certainty"}
    short = read_wav(tmp_path / "whole.wav")[: 4 * 48_000]
    (tmp_path / "speech.wav").write_bytes(wav_bytes(short))
    cleaned = told("clean", str(tmp_path / "speech.wav"), "--out", str(tmp_path / "clean.wav"))
    assert cleaned["lufs"] < 0
    assert main(["beats", str(tmp_path / "none.wav")]) != 0
    assert main(["clean", str(tmp_path / "speech.wav"), "--out", "x.wav", "--noise-db", "99"]) != 0
