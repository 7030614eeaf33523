"""Batches from a terminal: the table, exit codes, and what is wrong with a file said with its place."""

import json
from pathlib import Path
from typing import Any

import pytest

from fox_cadence.actions.bring_in import NewProject, new_project
from fox_cadence.actions.script_import import Source
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli import main
from fox_cadence.core.ticks import FrameRate


@pytest.fixture
def data(tmp_path: Path) -> Path:
    """A data folder with two small pieces, "Tide" and "Foam"."""
    folder = tmp_path / "data"
    with Workspace(folder) as workspace:
        for name in ("Tide", "Foam"):
            wanted = NewProject(name, 64, 64, FrameRate(numerator=25))
            new_project(workspace, wanted, [], Source("s.txt", b"The sea leaves.\n\nIt comes back.\n"))
    return folder


def ids(data: Path) -> dict[str, str]:
    with Workspace(data) as workspace:
        return {each.name: each.project_id for each in workspace.projects.list()}


def run(capsys: pytest.CaptureFixture[str], data: Path, *words: str, code: int = 0) -> Any:
    assert main(["batch", *words, "--data", str(data), "--json"]) == code
    out, err = capsys.readouterr()
    return json.loads(out or err.splitlines()[-1])


def written(folder: Path, data: Path, *lines: str, pieces: tuple[str, ...] = ("Tide", "Foam")) -> str:
    file = folder / "work" / "batch.toml"
    file.parent.mkdir(exist_ok=True)
    known = ids(data)
    parts = [f'[[piece]]\nproject = "{known.get(each, each)}"' for each in pieces]
    file.write_text("\n".join([*lines, *parts]))
    return str(file)


def test_a_table_says_what_became_of_each_and_files_lie_beside_the_batch(
    data: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = written(tmp_path, data, 'products = ["cues", "captions"]', 'out = "finished"', "voice = false")
    told = run(capsys, data, file)
    assert told["counts"] == {"made": 4, "kept": 0, "failed": 0, "waiting": 0}
    paths = {Path(made["path"]) for row in told["rows"] for made in row["files"]}
    assert {path.relative_to(tmp_path / "work" / "finished").parts[0] for path in paths} == {"tide", "foam"}
    assert all(path.is_file() for path in paths)
    assert run(capsys, data, file)["counts"]["kept"] == 4
    assert run(capsys, data, file, "--again")["counts"]["made"] == 4
    assert main(["batch", file, "--data", str(data)]) == 0
    said = capsys.readouterr().out
    assert said.count("kept") == 4
    assert "Foam (en)  cues" in said


def test_what_could_not_be_made_is_in_the_table_and_in_the_exit_code(
    data: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    file = written(tmp_path, data, 'products = ["stems", "cues"]', "voice = false")
    told = run(capsys, data, file, code=1)
    states = {(row["piece"], row["product"]): (row["state"], row["reason"]) for row in told["rows"]}
    assert states["Tide", "cues"] == ("made", "")
    assert states["Foam", "stems"][0] == "failed"
    assert "nothing is to be heard" in states["Foam", "stems"][1]


@pytest.mark.parametrize(
    ("lines", "pieces", "said"),
    [
        (["products = ["], ("Tide",), "not TOML"),
        (['products = ["cues"]', "proove = true"], ("Tide",), "proove: there is no such setting"),
        (['products = ["hologram"]'], ("Tide",), "there is no product hologram"),
        (['products = ["cues"]'], ("nowhere",), "There is no project nowhere"),
        (['docket = "Unknown"'], ("Tide",), "No docket is kept under the name"),
        ([], ("Tide",), "say what is made"),
    ],
)
def test_what_is_wrong_is_said_before_anything_is_made(
    data: Path,
    tmp_path: Path,
    capsys: pytest.CaptureFixture[str],
    lines: list[str],
    pieces: tuple[str, ...],
    said: str,
) -> None:
    file = written(tmp_path, data, *lines, pieces=pieces)
    assert said in run(capsys, data, file, code=1)["error"]
    assert not (data / "exports").exists()


def test_a_file_that_is_not_there_is_said(
    data: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    assert "No such file" in run(capsys, data, str(tmp_path / "gone.toml"), code=1)["error"]
