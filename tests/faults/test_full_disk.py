"""A disk that really is full, or read-only: each says what happened, nothing is lost, work goes on when it is
cured.

It takes a small file system of its own, which only root can mount; elsewhere these are skipped.
"""

import json
import os
import subprocess
from collections.abc import Iterator
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli import main
from fox_cadence.web.app import create_app
from tests.builders import simple_project
from tests.web.test_media_and_work import ended

ADDRESS = "http://127.0.0.1:8345"


def mount(*options: str) -> bool:
    return subprocess.run(["mount", *options], capture_output=True, check=False).returncode == 0


@pytest.fixture
def small_disk(tmp_path: Path) -> Iterator[Path]:
    """A disk of six megabytes."""
    place = tmp_path / "disk"
    place.mkdir()
    if not mount("-t", "tmpfs", "-o", "size=6m", "tmpfs", str(place)):
        pytest.skip("no file system can be mounted here")
    yield place
    subprocess.run(["umount", "-l", str(place)], check=False)


def fill(place: Path) -> Path:
    """Take all the room there is."""
    path = place / "filler"
    with path.open("wb", buffering=0) as file:
        try:
            while True:
                file.write(b"x" * 65536)
        except OSError:
            pass
        try:
            while True:
                file.write(b"x" * 64)
        except OSError:
            return path


def test_a_disk_that_fills_up_stops_work_in_words_and_loses_nothing(small_disk: Path) -> None:
    folder = small_disk / "data"
    workspace = Workspace(folder)
    texts = [f"Tide {number} turns." for number in range(12)]
    project_id = workspace.projects.create(simple_project(texts, width=64, height=64), "Made")
    path = f"/api/projects/{project_id}"
    with TestClient(create_app(workspace), base_url=ADDRESS) as client:

        def type_in(text: str) -> int:
            based_on = workspace.head(project_id).revision
            edit = {"kind": "caption_text", "caption_id": "c1", "text": text}
            answer = client.post(f"{path}/edits", json={"based_on": based_on, "edit": edit})
            if answer.status_code != 200:
                assert "disk is full" in answer.json()["detail"]
            return answer.status_code

        assert type_in("Before.") == 200
        filler = fill(small_disk)
        statuses = [type_in(os.urandom(2000).hex()) for _ in range(12)]
        assert statuses[-1] == 507
        typed = workspace.head(project_id).project.captions[0].text
        for asked in (f"{path}/voice", f"{path}/exports"):
            answer = client.post(asked, json={})
            if answer.status_code == 200:
                job = ended(client, answer.json())
                assert job["state"] == "failed"
                assert "full" in job["note"] or "No space" in job["note"]
            else:
                assert answer.status_code == 507
        assert client.get(f"{path}/timeline").json()["captions"][0]["text"] == typed

        filler.unlink()
        assert type_in("After.") == 200
        job = ended(client, client.post(f"{path}/voice", json={}).json())
        assert (job["state"], job["result"]["failed"]) == ("done", [])
        head = workspace.head(project_id)
        assert head.project.captions[0].text == "After."
        assert all(line.take_id for line in head.project.lines)
    exports = folder / "exports"
    assert [file for file in exports.rglob("*") if file.is_file()] == []
    assert list((folder / "takes").rglob(".*")) == []


def test_a_read_only_disk_is_named_and_loses_nothing(
    small_disk: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    folder = small_disk / "data"
    with Workspace(folder) as workspace:
        workspace.projects.create(simple_project(["One pool."]), "Made")
    assert mount("-o", "remount,ro", str(small_disk))
    assert main(["serve", "--port", "0", "--data", str(folder)]) == 1
    assert "read-only" in capsys.readouterr().err
    assert mount("-o", "remount,rw", str(small_disk))
    with Workspace(folder) as workspace:
        assert len(workspace.projects.list()) == 1


def test_a_batch_whose_folder_fills_up_says_so_and_goes_on_when_there_is_room(
    small_disk: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    data, out = tmp_path / "data", small_disk / "finished"
    texts = [f"Tide {number} turns." for number in range(3)]
    with Workspace(data) as workspace:
        ids = [workspace.projects.create(simple_project(texts, name=name), name) for name in ("A", "B")]
    pieces = "".join(f'[[piece]]\nproject = "{each}"\n' for each in ids)
    file = tmp_path / "batch.toml"
    file.write_text(f'products = ["captions"]\nout = "{out}"\nvoice = false\n{pieces}')
    filler = fill(small_disk)
    words = ["batch", str(file), "--data", str(data), "--json"]
    assert main(words) == 1
    rows = json.loads(capsys.readouterr().out)["rows"]
    assert [row["state"] for row in rows] == ["failed", "failed"]
    assert all("full" in row["reason"] or "room" in row["reason"] for row in rows), rows
    filler.unlink()
    assert main(words) == 0
    rows = json.loads(capsys.readouterr().out)["rows"]
    assert {row["state"] for row in rows} == {"kept"}  # they were made: only their folder had no room
    assert sorted(path.name for path in out.rglob("*.srt")) == ["a.srt", "b.srt"]
    assert all(path.stat().st_size for path in out.rglob("*.*t"))
