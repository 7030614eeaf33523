"""Shared fixtures: workspaces, and the sample project drawn small once for the whole run."""

import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

from fox_cadence.actions.workspace import Workspace
from fox_cadence.demo.marrow_bay import ensure_demo

settings.register_profile("suite", deadline=None, suppress_health_check=[HealthCheck.too_slow], max_examples=40)
settings.load_profile("suite")

SMALL = (216, 384)


@pytest.fixture
def workspace(tmp_path: Path) -> Iterator[Workspace]:
    with Workspace(tmp_path / "data") as made:
        yield made


@pytest.fixture(scope="session")
def demo_master(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """A data folder with the sample project, its clips drawn small; never changed by a test."""
    folder = tmp_path_factory.mktemp("demo") / "data"
    with Workspace(folder) as workspace:
        ensure_demo(workspace, size=SMALL)
    return folder


@pytest.fixture
def demo_data(demo_master: Path, tmp_path: Path) -> Path:
    """A copy of the sample's data folder for one test."""
    return Path(shutil.copytree(demo_master, tmp_path / "demo-data"))


@pytest.fixture
def demo(demo_data: Path) -> Iterator[Workspace]:
    with Workspace(demo_data) as workspace:
        yield workspace
