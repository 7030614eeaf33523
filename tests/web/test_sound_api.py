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
    before = sound(client, f"{address}/sound.wav")
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
    assert client.get(f"{BAY}/loudness").json()["lufs"] == pytest.approx(-14, abs=0.3)


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
