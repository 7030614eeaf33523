"""Shared fixtures: workspaces, and the sample project drawn small once for the whole run."""

import fcntl
import hashlib
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

from fox_cadence.actions.workspace import Workspace
from fox_cadence.demo.marrow_bay import ensure_demo

settings.register_profile(
    "suite", deadline=None, suppress_health_check=[HealthCheck.too_slow], max_examples=40
)
settings.load_profile("suite")

SMALL = (216, 384)
SOURCES = Path(__file__).resolve().parent.parent / "src"
KEPT = Path(__file__).resolve().parent.parent / "build" / "sample-for-tests"


@pytest.fixture
def workspace(tmp_path: Path) -> Iterator[Workspace]:
    with Workspace(tmp_path / "data") as made:
        yield made


@pytest.fixture(scope="session")
def demo_master() -> Path:
    """A data folder with the sample project, its clips drawn small; never changed by a test.

    Drawing takes a minute, so every worker and every run of the same code shares one: it is named by the
    code.
    """
    digest = hashlib.sha256()
    for path in sorted(SOURCES.rglob("*.py")):
        digest.update(path.read_bytes())
    KEPT.mkdir(parents=True, exist_ok=True)
    folder = KEPT / digest.hexdigest()[:16]
    with (KEPT / "drawing.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)  # whoever comes first draws, the others wait for it
        if not folder.is_dir():
            for old in KEPT.iterdir():
                if old.is_dir():
                    shutil.rmtree(old)
            made = KEPT / "made"
            with Workspace(made) as workspace:
                ensure_demo(workspace, size=SMALL)
            made.rename(folder)
    return folder


@pytest.fixture
def demo_data(demo_master: Path, tmp_path: Path) -> Path:
    """A copy of the sample's data folder for one test."""
    return Path(shutil.copytree(demo_master, tmp_path / "demo-data"))


@pytest.fixture
def demo(demo_data: Path) -> Iterator[Workspace]:
    with Workspace(demo_data) as workspace:
        yield workspace
