"""The real server, killed at random points of typing, voicing, fitting, importing and exporting; nothing is
lost.

FOX_KILLS sets how often (10 unless set; `make test-all` has 50); FOX_SEED lets a run be repeated.
"""

import http.client
import json
import os
import random
import signal
import sqlite3
import subprocess
import sys
import threading
import time
import wave
from collections.abc import Iterator
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

import av
import pytest

from fox_cadence.actions.exporting import export
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket.shipped import usual
from tests.builders import simple_project
from tests.media import files

KILLS = int(os.environ.get("FOX_KILLS", "10"))
SEED = int(os.environ.get("FOX_SEED", str(random.randrange(10**6))))
LINES = 6
BOUNDARY = "fox-fox-fox"


class Zygote:
    """Starts servers; `start` gives the process and the address of a new one."""

    def __init__(self) -> None:
        self._process = subprocess.Popen(
            [sys.executable, "-m", "tests.faults.zygote"],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            text=True,
        )

    def start(self, folder: Path) -> tuple[int, str]:
        assert self._process.stdin is not None
        assert self._process.stdout is not None
        self._process.stdin.write(f"{folder}\n")
        self._process.stdin.flush()
        pid = int(self._process.stdout.readline())
        return pid, urlsplit(json.loads(self._process.stdout.readline())["address"]).netloc

    def close(self) -> None:
        assert self._process.stdin is not None
        assert self._process.stdout is not None
        self._process.stdin.close()
        self._process.wait(timeout=20)
        self._process.stdout.close()


@pytest.fixture
def zygote() -> Iterator[Zygote]:
    made = Zygote()
    yield made
    made.close()


def ask(address: str, method: str, path: str, body: Any = None, form: bytes | None = None) -> Any:
    connection = http.client.HTTPConnection(address, timeout=20)
    try:
        kind = "application/json" if form is None else f"multipart/form-data; boundary={BOUNDARY}"
        data = form if form is not None else json.dumps(body or {})
        connection.request(method, path, None if method == "GET" else data, {"content-type": kind})
        answer = connection.getresponse()
        return json.loads(answer.read())
    finally:
        connection.close()


def new_project_form(clip: Path) -> bytes:
    parts = [
        (b'name="name"', b"Brought in"),
        (b'name="size"', b"64x64"),
        (b'name="pasted"', b"One tide.\nTwo tides."),
    ]
    parts.append((b'name="files"; filename="a.mp4"', clip.read_bytes()))
    edge = f"--{BOUNDARY}".encode()
    lead = edge + b"\r\nContent-Disposition: form-data; "
    return b"".join(lead + head + b"\r\n\r\n" + data + b"\r\n" for head, data in parts) + edge + b"--\r\n"


@dataclass
class Editor:
    """Types into captions as fast as it is answered, and asks for long work beside it; remembers what was
    answered."""

    address: str
    project: str
    chance: random.Random
    clip: Path
    kept: dict[str, str]
    revision: int = 0
    jobs: list[str] = field(default_factory=list)
    typed: int = 0

    def path(self, rest: str) -> str:
        return f"/api/projects/{self.project}/{rest}"

    def work(self) -> None:
        """Until the server is gone."""
        with suppress(OSError, http.client.HTTPException, ValueError):
            while True:
                self.long_work()
                for _ in range(self.chance.randrange(1, 6)):
                    self.type_something()

    def type_something(self) -> None:
        caption = f"c{self.chance.randrange(LINES) + 1}"
        text = f"Tide {self.chance.randrange(10**6)} turns."
        based_on = ask(self.address, "GET", self.path("timeline"))["revision"]
        edit = {"kind": "caption_text", "caption_id": caption, "text": text}
        answer = ask(self.address, "POST", self.path("edits"), {"based_on": based_on, "edit": edit})
        if "revision" in answer:
            self.kept[caption], self.revision = text, answer["revision"]
            self.typed += 1

    def long_work(self) -> None:
        match self.chance.choice(["voice", "export", "fit", "import", "bundle"]):
            case "voice":
                answer = ask(self.address, "POST", self.path("voice"))
            case "export":
                answer = ask(self.address, "POST", self.path("exports"))
            case "bundle":
                answer = ask(self.address, "POST", self.path("bundle"))
            case "import":
                answer = ask(self.address, "POST", "/api/projects", form=new_project_form(self.clip))
            case _:
                proposal = ask(self.address, "POST", self.path("fit"))
                answer = ask(self.address, "POST", self.path("accept"), {"proposal": proposal.get("key", "")})
        if "id" in answer:
            self.jobs.append(answer["id"])


def processes_of(group: int) -> list[int]:
    found: list[int] = []
    for stat in Path("/proc").glob("[0-9]*/stat"):
        with suppress(OSError, ValueError, IndexError):
            fields = stat.read_text().rsplit(")", 1)[1].split()
            if int(fields[2]) == group and fields[0] != "Z":
                found.append(int(stat.parent.name))
    return found


def check(folder: Path, editor: Editor) -> None:
    """Everything that was answered is there; every file under a final name is whole; nothing half-done
    stays."""
    with Workspace(folder) as workspace:
        head = workspace.head(editor.project)
        assert head.revision >= editor.revision
        captions = {caption.id: caption.text for caption in head.project.captions}
        unanswered = [caption for caption, text in editor.kept.items() if captions[caption] != text]
        if unanswered:  # the one change that was under way when it was killed may be kept without an answer
            assert len(unanswered) == 1
            assert head.revision > editor.revision
            editor.kept[unanswered[0]] = captions[unanswered[0]]
        workspace.cleaning.sweep(older_than_s=0)
        assert list(workspace.scratch.iterdir()) == []
        for path in (folder / "takes").rglob("*"):
            if path.is_file():
                with wave.open(str(path)) as sound:
                    assert sound.getnframes() > 0
        for path in (folder / "clips").iterdir():
            assert workspace.library.clip(path.name) is not None
            assert {file.name.split(".")[0] for file in path.iterdir()} >= {"original", "proxy"}
        for path in (folder / "exports").rglob("*"):
            if path.suffix == ".mp4":
                with av.open(str(path)) as opened:
                    assert sum(1 for _ in opened.decode(video=0)) > 0
            elif path.is_file():
                assert path.stat().st_size > 0
                assert not path.name.startswith(".")
        for listed in workspace.projects.list():
            project = workspace.head(listed.project_id).project
            assert len(workspace.timeline(project).lines) == len(project.lines)
            takes = workspace.takes_of(project)
            assert all(line.take_id in takes for line in project.lines if line.take_id)


def jobs(folder: Path) -> list[tuple[str, str]]:
    """State and note of every job."""
    connection = sqlite3.connect(folder / "fox-cadence.sqlite")
    try:
        return connection.execute("SELECT state, note FROM job").fetchall()
    finally:
        connection.close()


def reasons(folder: Path) -> set[str]:
    return {note for state, note in jobs(folder) if state == "failed"}


def test_a_server_killed_at_any_moment_loses_no_edit_and_leaves_nothing_half_done(
    tmp_path: Path, zygote: Zygote
) -> None:
    folder = tmp_path / "data"
    chance = random.Random(SEED)
    clip = files.video(tmp_path / "a.mp4", 0.6, size=(64, 64), tone_hz=300)
    texts = [f"Tide {number} turns." for number in range(LINES)]
    with Workspace(folder) as workspace:
        project = simple_project(texts, seconds=1.5, width=64, height=64)
        project_id = workspace.projects.create(project, "Made")
    kept = {f"c{number + 1}": text for number, text in enumerate(texts)}
    typed = ended = 0
    failed: set[str] = set()
    for kill in range(KILLS):
        pid, address = zygote.start(folder)
        editor = Editor(address, project_id, random.Random(SEED + kill), clip, kept)
        thread = threading.Thread(target=editor.work)
        thread.start()
        time.sleep(chance.uniform(0.05, 2.0))
        if kill % 2:
            os.killpg(pid, signal.SIGKILL)
        else:
            os.kill(pid, signal.SIGKILL)  # its engines and media processes find out by themselves
        thread.join(timeout=30)
        assert not thread.is_alive()
        until = time.monotonic() + 20
        while processes_of(pid) and time.monotonic() < until:
            time.sleep(0.05)
        assert processes_of(pid) == [], f"kill {kill} of seed {SEED}: processes stay behind"
        try:
            check(folder, editor)
        except AssertionError as error:
            raise AssertionError(f"kill {kill} of seed {SEED}") from error
        failed |= reasons(folder)
        typed += editor.typed
        ended += len(editor.jobs)
    print(f"{KILLS} kills, {typed} edits answered, {ended} jobs asked for, seed {SEED}")
    assert {
        each for each in failed if not each.startswith(("Broken off", "This project was changed"))
    } == set()
    assert typed >= KILLS
    assert ended > 0

    pid, address = zygote.start(folder)  # and now it is left to go on
    try:
        until = time.monotonic() + 120
        while True:
            if not {"waiting", "running"} & {state for state, _ in jobs(folder)}:
                break
            assert time.monotonic() < until
            time.sleep(0.2)
    finally:
        os.kill(pid, signal.SIGTERM)
        while processes_of(pid):
            time.sleep(0.05)
    with Workspace(folder) as workspace:
        made = export(workspace, project_id, tmp_path / "out", usual(video=False)).paths
        assert sorted(path.suffix for path in made if path.suffix != ".txt") == [
            ".srt",
            ".vtt",
            ".wav",
            ".wav",
        ]
