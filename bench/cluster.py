"""A batch on a local cluster: two workers against one, each held to a core of its own, as if it were a
machine with one."""

import json
import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from fox_cadence.actions.batch import items_of, run_batch
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.projects import copy_project
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.batch import Batch, Piece
from fox_cadence.core.docket import Docket, VideoRow
from fox_cadence.core.edits import DeleteShot
from fox_cadence.demo.samples import ensure_samples
from fox_cadence.jobs.cluster import ClusterHands
from fox_cadence.media.forker import Ended
from fox_cadence.media.isolated import ENDED

PIECES = 40
SHOTS = 5
SHORT_SIDE = 540
_FORKED = [0.0]
"""CPU seconds of processes for media."""
_DASK = Path(sys.executable).parent / "dask"


@contextmanager
def cluster(folder: Path, workers: int) -> Iterator[str]:
    """A scheduler and so many workers, with nothing kept from before; its address."""
    folder.mkdir()
    told, log = folder / "scheduler.json", (folder / "log").open("wb")
    plain = ["--host", "127.0.0.1", "--port", "0", "--no-dashboard", "--no-show"]
    started = [
        subprocess.Popen([_DASK, "scheduler", *plain, "--scheduler-file", str(told)], stdout=log, stderr=log)
    ]
    try:
        while not told.is_file() or not told.stat().st_size:
            time.sleep(0.05)
        address = str(json.loads(told.read_text())["address"])
        for number in range(workers):
            place = ["--nthreads", "1", "--no-dashboard", "--no-nanny"]
            place += ["--local-directory", str(folder / f"l{number}")]
            env = {**os.environ, "FOX_CADENCE_WORKER": str(folder / f"w{number}")}
            core = str(number % (os.cpu_count() or 1))
            command = ["taskset", "-c", core, str(_DASK), "worker", address, *place]
            started.append(subprocess.Popen(command, env=env, stdout=log, stderr=log))
        yield address
    finally:
        for process in reversed(started):
            process.terminate()
            process.wait()
        log.close()


def pieces(workspace: Workspace, count: int) -> list[str]:
    """So many pieces of about 20 s, voiced."""
    first = ensure_samples(workspace)
    head = workspace.head(first)
    for shot in head.project.shots[SHOTS:]:
        make_edits(workspace, first, workspace.head(first), [DeleteShot(shot_id=shot.id)])
    voice_lines(workspace, first)
    return [first, *(copy_project(workspace, first) for _ in range(count - 1))]


def _forked(ended: Ended) -> None:
    _FORKED[0] += ended.cpu_s


def _cpu_here() -> float:
    """CPU seconds of this process and of those it has waited for, which workers are not as long as they
    run."""
    spent = os.times()
    return spent.user + spent.system + spent.children_user + spent.children_system + _FORKED[0]


def rows() -> list[str]:
    """The time of the batch with one worker and with two."""
    spent: dict[int, float] = {}
    here: dict[int, float] = {}
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder) / "data") as workspace:
        ids = pieces(workspace, PIECES)
        docket = Docket(name="Bench", rows=(VideoRow(name="video", short_side=SHORT_SIDE, wanted=True),))
        workspace.dockets.keep(docket)
        batch = Batch(docket="Bench", piece=tuple(Piece(project=each) for each in ids), voice=False)
        project = workspace.head(ids[0]).project
        seconds = workspace.timeline(project).total_frames / float(project.rate.fraction)
        local = workspace.hands
        for workers in (1, 2):
            with cluster(Path(folder) / f"cluster-{workers}", workers) as address:
                hands = ClusterHands(address, workspace.engines, workspace.makers)
                hands.wait_for(workers)
                workspace.hands = hands
                ENDED.append(_forked)
                items = items_of(workspace, batch)
                began, used = time.monotonic(), _cpu_here()
                made = run_batch(workspace, batch, items, again=True)
                spent[workers], here[workers] = time.monotonic() - began, _cpu_here() - used
                ENDED.remove(_forked)
                workspace.hands = local
                hands.close()
            assert all(row.state == "made" for row in made), made
    return [
        f"{PIECES} pieces of {seconds:.1f} s at {SHORT_SIDE} pixels: one worker {spent[1]:.0f} s "
        f"({spent[1] / PIECES:.2f} s a piece), two {spent[2]:.0f} s: {spent[2] / spent[1]:.2f} of the time. "
        f"The process with the projects and what it started spent {here[2] / PIECES:.2f} s of CPU on a piece."
    ]
