"""The command line as a script uses it."""

import io
import json
import socket
import wave
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli import main
from fox_cadence.cli.export import NOT_AS_PLANNED
from fox_cadence.core.edits import AddShot, Applied, SetSettings, SetShotLength
from tests.browser.application import served
from tests.builders import simple_project
from tests.media import files
from tests.media.joins import film, scene


def run(capsys: pytest.CaptureFixture[str], data: Path, *words: str, code: int = 0) -> Any:
    assert main([*words, "--data", str(data), "--json"]) == code
    out, err = capsys.readouterr()
    return json.loads(out or err)


def test_a_finished_video_becomes_shots_where_it_cuts(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    rng = np.random.default_rng(5)
    footage = np.concatenate([scene(rng, length, "pan") for length in (40, 50, 35)])
    path = film(tmp_path / "finished.mp4", footage, 30)
    found = run(capsys, tmp_path / "data", "cuts", str(path))["cuts"]
    assert [(cut["frame"], cut["kind"]) for cut in found] == [(40, "cut"), (90, "cut")]
    assert [cut["time_s"] for cut in found] == [pytest.approx(40 / 30), pytest.approx(3)]
    assert "no picture" in run(capsys, tmp_path, "cuts", str(files.tone(tmp_path / "a.wav")), code=1)["error"]
    made = run(
        capsys, tmp_path / "data", "new", "Lamp", "--picture", str(path), "--find-cuts", "--size", "128x72"
    )
    with Workspace(tmp_path / "data") as workspace:
        shots = workspace.head(made["project"]).project.shots
    assert [shot.length_frames for shot in shots] == [40, 50, 35]
    framed = run(capsys, tmp_path / "data", "frame", made["project"], "--shape", "73x129")
    assert (framed["width"], framed["height"]) == (72, 128)
    assert [(each["shot"], each["seen"]) for each in framed["worth_a_look"]] == [
        (number, pytest.approx(0.316, abs=0.002)) for number in (1, 2, 3)
    ]


def test_from_files_to_a_measured_video(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    data = tmp_path / "data"
    pictures = [
        files.video(tmp_path / f"{name}.mp4", seconds, size=(128, 160), seed=seed)
        for seed, (name, seconds) in enumerate([("one", 2.4), ("two", 2.0), ("three", 3.0)])
    ]
    words = tmp_path / "words.txt"
    words.write_text("The lamp goes out.\nSomebody laughs.\nThe lamp was never lit, says the keeper.\n")
    made = run(
        capsys, data, "new", "Lamp", "--picture", *map(str, pictures), "--words", str(words),
        "--size", "128x160", "--fps", "29.97",
    )  # fmt: skip
    project = made["project"]
    assert made["remarks"] == []
    assert [item["name"] for item in run(capsys, data, "list")["projects"]] == ["Lamp"]

    voiced = run(capsys, data, "voice", project, "--voice", "wade")
    assert (voiced["made"], voiced["failed"]) == (3, [])
    fitted = run(capsys, data, "fit", project, "--accept")
    assert fitted["status"] == "solved"
    assert [line["text"] for line in fitted["lines"]] == words.read_text().splitlines()
    keys = {
        "id",
        "text",
        "state",
        "start_s",
        "end_s",
        "pace",
        "pause_s",
        "window_start_s",
        "window_end_s",
        "spill_s",
    }
    assert all(keys <= line.keys() for line in fitted["lines"])
    assert fitted["worst_miss_ms"] <= 5
    again = run(capsys, data, "fit", project)
    assert [shot["end_frame"] for shot in again["shots"]] == [shot["end_frame"] for shot in fitted["shots"]]

    out = tmp_path / "out"
    written = run(capsys, data, "export", project, "--out", str(out))["files"]
    assert sorted(Path(name).suffix for name in written) == [".mp4", ".srt", ".vtt", ".wav", ".wav"]
    report = run(capsys, data, "measure", str(out / "lamp.mp4"), "--against", project)
    assert report["in_sync"]
    assert report["worst"]["cut_frames"] == 0


def test_a_project_is_packed_and_comes_out_of_its_file(
    tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    data, other = tmp_path / "data", tmp_path / "other"
    with Workspace(data) as workspace:
        project = workspace.projects.create(simple_project(["One pool."], width=64, height=64), "Made")
    run(capsys, data, "voice", project)
    looked = run(capsys, data, "export", project, "--out", str(tmp_path), "--look")["files"]
    assert [Path(name).name for name in looked] == ["test-look.mp4"]
    file = run(capsys, data, "pack", project, "--out", str(tmp_path))["file"]
    made = run(capsys, other, "unpack", file)
    assert made["remarks"] == []
    assert [item["lines"] for item in run(capsys, other, "list")["projects"]] == [1]
    assert "no such file" in run(capsys, other, "unpack", str(tmp_path / "none.zip"), code=1)["error"]

    refused = run(capsys, other, "serve", "--host", "0.0.0.0", "--port", "0", code=1)["error"]
    assert "needs a password first" in refused
    monkeypatch.setattr("sys.stdin", io.StringIO("short\n"))
    assert "10 characters" in run(capsys, other, "password", code=1)["error"]
    monkeypatch.setattr("sys.stdin", io.StringIO("low water at nine\n"))
    assert run(capsys, other, "password") == {"set": True}
    with Workspace(other) as workspace:
        assert workspace.access.sign_in("low water at nine")


def test_what_cannot_be_done_is_an_error_in_words(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    missing = run(capsys, tmp_path, "fit", "nowhere", code=1)
    assert "nowhere" in missing["error"]
    picture = files.still(tmp_path / "a.png")
    answer = run(
        capsys, tmp_path, "new", "X", "--picture", str(picture), "--words", str(tmp_path / "no.srt"), code=1
    )
    assert "no.srt" in answer["error"]
    answer = run(capsys, tmp_path, "new", "X", "--picture", str(picture), "--fps", "31", code=1)
    assert "31" in answer["error"]
    answer = run(capsys, tmp_path, "voice", "nowhere", "--voice", "nobody", code=1)
    assert "nobody" in answer["error"]


def test_an_answer_under_way_does_not_keep_the_server_from_stopping(tmp_path: Path) -> None:
    with served(tmp_path) as address, socket.socket() as caller:
        host, port = address.removeprefix("http://").split(":")
        caller.connect((host, int(port)))
        head = f"POST /api/projects/none/try HTTP/1.1\r\nHost: {host}:{port}\r\n"
        head += "Content-Type: application/json\r\n"
        caller.sendall(f"{head}Content-Length: 900\r\n\r\n".encode())  # and never the body
        caller.settimeout(0.5)
        with pytest.raises(TimeoutError):
            caller.recv(1)  # the server waits for us, as it would for a page that stopped reading


def spoken(capsys: pytest.CaptureFixture[str], data: Path, *words: str, code: int = 0) -> str:
    """What a command prints for a reader, not for a script."""
    assert main([*words, "--data", str(data)]) == code
    out, err = capsys.readouterr()
    return out or err


def test_each_command_answers_a_reader_in_words(demo_data: Path, capsys: pytest.CaptureFixture[str]) -> None:
    assert spoken(capsys, demo_data, "demo", "--no-serve").endswith("Sample project: marrow-bay\n")
    listed = spoken(capsys, demo_data, "list")
    assert "marrow-bay" in listed
    assert "10 lines" in listed
    assert spoken(capsys, demo_data, "voice", "marrow-bay") == "1 made, 9 kept, 0 failed\n"
    rows = spoken(capsys, demo_data, "fit", "marrow-bay").splitlines()
    assert len(rows) == 10
    assert rows[6].startswith("spills")
    assert "Turn a starfish over" in rows[6]
    refused = spoken(
        capsys, demo_data, "measure", str(demo_data / "gone.mp4"), "--against", "marrow-bay", code=1
    )
    assert "no such file" in refused


def test_a_plan_that_cannot_be_is_said_and_ends_with_an_error(
    demo_data: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    with Workspace(demo_data) as workspace:
        head = workspace.head("marrow-bay")
        make_edits(workspace, "marrow-bay", head, [SetSettings(longest_s=5, length_fixed=True)])
    assert "the piece must last 5.00 s" in spoken(capsys, demo_data, "fit", "marrow-bay", code=1)
    answer = run(capsys, demo_data, "fit", "marrow-bay", "--accept", code=1)
    assert answer["status"] == "infeasible"
    assert answer["conflict"]


def test_wrong_use_is_told_apart_from_what_cannot_be_done(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    for words in (["fly"], ["fit"], ["new", "X", "--fps"]):
        with pytest.raises(SystemExit) as ended:
            main([*words, "--data", str(tmp_path)])
        assert ended.value.code == 2
    capsys.readouterr()
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        answer = run(capsys, tmp_path, "serve", "--port", str(taken.getsockname()[1]), code=1)
    assert "taken" in answer["error"]


def test_words_alone_become_a_project_and_a_measured_video(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    data, out = tmp_path / "data", tmp_path / "out"
    words = tmp_path / "script.md"
    words.write_text("# The lamp\n\nThe lamp goes out. Nobody minds.\n\n# The keeper\n\nThe keeper laughs.\n")
    made = run(capsys, data, "new", "Lamp", "--words", str(words), "--size", "129x160")
    assert [remark["place"] for remark in made["remarks"]] == ["size"]
    run(capsys, data, "voice", made["project"], "--voice", "wade")
    fitted = run(capsys, data, "fit", made["project"], "--accept")
    assert (fitted["status"], fitted["outside"]) == ("solved", [])
    exported = run(capsys, data, "export", made["project"], "--out", str(out))
    loud = {
        Path(path).suffix: file["lufs"]
        for path, file in zip(exported["files"], exported["made"], strict=True)
    }
    assert loud[".mp4"] == pytest.approx(-14, abs=0.3)
    assert (exported["failed"], exported["notes"]) == ([], [])
    assert run(capsys, data, "measure", str(out / "lamp.mp4"), "--against", made["project"])["in_sync"]
    # another piece was promised: measured, and not as planned, is not the same as could not be measured
    with Workspace(data) as workspace:
        make_edits(workspace, made["project"], workspace.head(made["project"]), [AddShot(seconds=1)])
    report = run(
        capsys, data, "measure", str(out / "lamp.mp4"), "--against", made["project"], code=NOT_AS_PLANNED
    )
    assert not report["in_sync"]
    answer = run(capsys, data, "new", "Nothing", code=1)
    assert "give a picture or words" in answer["error"]
    answer = run(capsys, data, "new", "X", "--words", str(words), "--language", "xx", code=1)
    assert "no language 'xx'" in answer["error"]


def test_words_that_have_no_room_are_named_and_the_fit_is_not_accepted(
    demo_data: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    with Workspace(demo_data) as workspace:
        head = workspace.head("marrow-bay")
        last = head.project.shots[-1]
        shorter: list[Applied] = [
            SetShotLength(shot_id=last.id, length_frames=31),
            SetSettings(give_way="picture"),
        ]
        make_edits(workspace, "marrow-bay", head, shorter)
    rows = spoken(capsys, demo_data, "fit", "marrow-bay").splitlines()
    assert rows[-1].startswith("This would not be heard or seen: line 10 ends")
    assert "picture leads, so no shot gives way" in rows[-1]
    assert "not be heard or seen" in run(capsys, demo_data, "fit", "marrow-bay", "--accept", code=1)["error"]


def test_voices_are_listed_by_what_they_are_and_say_a_text_into_a_file(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    data, out = tmp_path / "data", tmp_path / "said.wav"
    natural = run(capsys, data, "voices", "--natural", "--language", "en")["voices"]
    ids = {voice["id"] for voice in natural}
    assert {"wren", "holt", "en-maren", "en-gideon"} <= ids
    assert "orla" not in ids
    assert {voice["natural"] for voice in natural} == {True}
    deep = next(voice for voice in natural if voice["id"] == "en-gideon")
    assert 75 < deep["pitch_hz"] < 100
    assert len(deep["shape"]) == 12
    said = run(capsys, data, "audition", "Low water.", "--voice", "orla", "--out", str(out))
    with wave.open(str(out)) as sound:
        assert abs(sound.getnframes() / sound.getframerate() - said["seconds"]) < 0.05
    refused = run(capsys, data, "audition", "Low.", "--voice", "nobody", "--out", str(out), code=1)
    assert "there is no voice" in refused["error"]
