"""A batch on a real scheduler with two workers: the same bytes as from this machine, also when one dies."""

import hashlib
import json
import os
import shutil
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from fox_cadence.actions.batch import items_of, run_batch
from fox_cadence.actions.bring_in import MediaFile, NewProject, new_project
from fox_cadence.actions.script_import import Source
from fox_cadence.actions.workspace import Workspace
from fox_cadence.cli import main
from fox_cadence.core.batch import Batch, Piece
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.ticks import FrameRate
from fox_cadence.errors import EngineError, InputError, MediaError
from fox_cadence.jobs import cluster
from fox_cadence.jobs.cluster import ClusterHands
from fox_cadence.media.audio import wav_bytes
from fox_cadence.media.ingest import heard_of_file
from fox_cadence.voices.catalogue import voice_by_id
from tests.media import files

DASK = Path(sys.executable).parent / "dask"
WORDS = "".join(f"The sea leaves pool {n}, and comes back.\n\n" for n in ("one", "two", "three", "four"))


@dataclass
class Running:
    """A scheduler and its workers, each a process of its own."""

    address: str
    workers: list["subprocess.Popen[bytes]"]
    caches: list[Path]


def started(folder: Path, *words: str, cache: Path | None = None) -> "subprocess.Popen[bytes]":
    env = {**os.environ, "FOX_CADENCE_WORKER": str(cache or folder)}
    log = (folder / f"{words[0]}-{time.monotonic_ns()}.log").open("wb")
    with log:
        return subprocess.Popen([DASK, *words], env=env, stdout=log, stderr=log, start_new_session=True)


def until(what: Callable[[], bool], patience_s: float = 120) -> None:
    end = time.monotonic() + patience_s
    while not what():
        assert time.monotonic() < end, "it took too long"
        time.sleep(0.05)


@pytest.fixture
def running(tmp_path: Path) -> Iterator[Running]:
    folder = tmp_path / "cluster"
    folder.mkdir()
    told = folder / "scheduler.json"
    plain = ("--host", "127.0.0.1", "--port", "0", "--no-dashboard", "--no-show")
    scheduler = started(folder, "scheduler", *plain, "--scheduler-file", str(told))
    workers: list[subprocess.Popen[bytes]] = []
    try:
        until(lambda: told.is_file() and told.stat().st_size > 0)
        address = json.loads(told.read_text())["address"]
        caches = [folder / f"cache-{n}" for n in range(2)]
        for n, cache in enumerate(caches):
            here = str(folder / f"scratch-{n}")
            plain = ("--nthreads", "1", "--no-nanny", "--no-dashboard", "--local-directory", here)
            workers.append(started(folder, "worker", address, *plain, cache=cache))
        until(lambda: sum(b"Registered to" in log.read_bytes() for log in folder.glob("worker-*.log")) == 2)
        yield Running(address, workers, caches)
    finally:
        for process in (*workers, scheduler):
            _kill(process)


def _kill(process: "subprocess.Popen[bytes]") -> None:
    """A worker with all that works for it, as when a machine dies."""
    with suppress(ProcessLookupError):
        os.killpg(process.pid, signal.SIGKILL)
    process.wait()


@pytest.fixture(scope="module")
def unmade(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A data folder with a piece of 24 s, nothing of it voiced."""
    folder = tmp_path_factory.mktemp("unmade")
    with Workspace(folder / "data") as workspace:
        clips = [files.video(folder / f"c{n}.mp4", 6.0, size=(128, 160), seed=n) for n in range(4)]
        pictures = [MediaFile(path, path.name) for path in clips]
        wanted = NewProject("Pools", 128, 160, FrameRate(numerator=30))
        new_project(workspace, wanted, pictures, Source("s.txt", WORDS.encode()))
    return folder / "data"


@pytest.fixture(scope="module")
def made_here(unmade: Path, tmp_path_factory: pytest.TempPathFactory) -> Any:
    """What this machine makes of it."""
    return made(Path(shutil.copytree(unmade, tmp_path_factory.mktemp("here") / "data")))


@pytest.fixture
def data(unmade: Path, tmp_path: Path) -> Path:
    """A copy for one test."""
    return Path(shutil.copytree(unmade, tmp_path / "data"))


def made(data: Path, scheduler: str = "") -> tuple[dict[str, str], Any]:
    """The files of a batch by name, as hashes; and the proofs of them."""
    with Workspace(data) as workspace:
        (project,) = workspace.projects.list()
        batch = Batch(piece=(Piece(project=project.project_id),), products=("video", "mp3"), prove=True)
        hands = ClusterHands(scheduler, workspace.engines, workspace.makers) if scheduler else workspace.hands
        workspace.hands, local = hands, workspace.hands
        try:
            rows = run_batch(workspace, batch, items_of(workspace, batch))
        finally:
            workspace.hands = local
            if scheduler:
                hands.close()
        proofs = workspace.results.docket(project.project_id, "proofs")
    assert [(row.state, row.reason) for row in rows] == [("made", "")] * 2
    paths = [Path(file["path"]) for row in rows for file in row.files]
    return {path.name: hashlib.sha256(path.read_bytes()).hexdigest() for path in paths}, proofs


def test_a_cluster_makes_the_same_bytes_and_keeps_what_it_fetched(
    running: Running, data: Path, made_here: Any
) -> None:
    assert made(data, running.address) == made_here
    fetched = [path for cache in running.caches for path in cache.glob("*.*")]
    assert {path.suffix for path in fetched} >= {".mp4", ".wav"}  # clips, takes
    for path in fetched:
        assert hashlib.sha256(path.read_bytes()).hexdigest() == path.stem


def test_a_worker_that_dies_costs_its_task_only(running: Running, data: Path, made_here: Any) -> None:
    dead: list[int] = []

    def at_work() -> bool:
        return any(path.suffix == ".mp4" for path in running.caches[0].glob("*.*"))

    def killer() -> None:
        until(at_work, 120)  # it has fetched a clip: it renders
        dead.append(running.workers[0].pid)
        _kill(running.workers[0])

    thread = threading.Thread(target=killer)
    thread.start()
    found = made(data, running.address)
    thread.join()
    assert dead
    assert running.workers[1].poll() is None
    assert found == made_here


def test_what_a_task_raises_comes_back_in_its_own_words(running: Running, tmp_path: Path) -> None:
    with Workspace(tmp_path / "data") as workspace:
        hands = ClusterHands(running.address, workspace.engines, workspace.makers)
        broken = tmp_path / "broken.wav"
        broken.write_bytes(b"no sound")
        tone = tmp_path / "tone.wav"
        tone.write_bytes(wav_bytes(np.zeros((48000, 2), np.float32)))
        try:
            with pytest.raises((InputError, MediaError)):
                hands.run(heard_of_file, broken)
            assert hands.run(heard_of_file, tone)[1] == pytest.approx(1.0)
            voice = voice_by_id("orla")
            assert voice is not None
            silent = VoicingRequest(text="…", voice_id=voice.id, pace=1.0, pitch_semitones=0)
            with pytest.raises(EngineError):
                hands.voice(voice, silent).result()
        finally:
            hands.close()


def test_a_worker_of_another_version_says_so(
    running: Running, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    tone = tmp_path / "tone.wav"
    tone.write_bytes(wav_bytes(np.zeros((4800, 2), np.float32)))
    with Workspace(tmp_path / "data") as workspace:
        hands = ClusterHands(running.address, workspace.engines, workspace.makers)
        monkeypatch.setattr(cluster, "versions", lambda: "another")
        with pytest.raises(EngineError, match="another version"):
            hands.run(heard_of_file, tone)
        hands.close()


def test_a_scheduler_that_is_not_there_is_said(
    data: Path, tmp_path: Path, capsys: pytest.CaptureFixture[str], monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(cluster, "PATIENCE_S", 1)
    file = tmp_path / "b.toml"
    with Workspace(data) as workspace:
        (project,) = workspace.projects.list()
    file.write_text(f"products = ['cues']\n[[piece]]\nproject = '{project.project_id}'\n")
    for address, said in (
        ("tcp://127.0.0.1:9", "no scheduler answers"),
        ("127.0.0.1:9", "give it as tcp:"),
        ("tcp://127.0.0.1:99999", "give it as tcp:"),
        ("tls://127.0.0.1:9", "tls:// needs certificates"),
    ):
        words: list[Any] = ["batch", str(file), "--data", str(data), "--json", "--scheduler", address]
        assert main(words) == 1
        told = [line for line in capsys.readouterr().err.splitlines() if line.startswith("{")]
        assert said in json.loads(told[-1])["error"]
