"""Voicing that is killed in the middle, and one that is cancelled, are taken up where they were."""

import os
import signal
import subprocess
import sys
import time
import wave
from pathlib import Path

from fox_cadence.actions.voicing import open_lines, voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import SetRole
from tests.builders import simple_project

LINES = 14


def kept(folder: Path) -> list[Path]:
    return list((folder / "takes").rglob("*.wav"))


def test_what_was_voiced_before_a_kill_is_found_again_and_nothing_half_is_kept(tmp_path: Path) -> None:
    folder = tmp_path / "data"
    texts = [f"The tide turns for the {number} time today." for number in range(1, LINES + 1)]
    with Workspace(folder) as workspace:
        project, _ = SetRole(role_id="r1", voice_id="holt").apply(simple_project(texts))
        project_id = workspace.projects.create(project, "Made")
    command = [sys.executable, "-m", "fox_cadence.cli", "voice", project_id, "--data", str(folder)]
    process = subprocess.Popen(command, stdout=subprocess.DEVNULL, start_new_session=True)
    until = time.monotonic() + 60
    while len(kept(folder)) < 3 and time.monotonic() < until:
        time.sleep(0.02)
    os.killpg(process.pid, signal.SIGKILL)
    process.wait()

    found = kept(folder)
    assert 3 <= len(found) < LINES
    for path in found:
        with wave.open(str(path)) as sound:
            assert sound.getnframes() > 10_000
    with Workspace(folder) as workspace:
        head = workspace.head(project_id)
        assert (head.revision, head.project) == (1, project)
        result = voice_lines(workspace, project_id)
        # the row of the newest file may not have been written yet
        assert result.made <= LINES - len(found) + 1
        assert result.failed == ()
        assert open_lines(workspace, workspace.head(project_id).project) == []
