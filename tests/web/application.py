"""The routes over a copy of the sample project."""

import shutil
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from fox_cadence.actions.workspace import Workspace
from fox_cadence.web.app import create_app

ADDRESS = "http://127.0.0.1:8345"
BAY = "/api/projects/marrow-bay"


def on_a_copy(master: Path, factory: pytest.TempPathFactory) -> TestClient:
    """Even what only listens puts takes into the library, so nothing is served from the master itself."""
    folder = shutil.copytree(master, factory.mktemp("served") / "data")
    return TestClient(create_app(Workspace(folder)), base_url=ADDRESS)
