"""Shared fixtures: workspaces, and the samples made small once for many runs."""

import fcntl
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

from fox_cadence.actions.workspace import Workspace
from fox_cadence.demo.samples import ensure_samples
from fox_cadence.voices.engines import Engines
from tests.browser.application import SERVER
from tests.kept_takes import keep_takes
from tests.made_by import SRC, digest_of
from tests.small_samples import make_small

settings.register_profile(
    "suite", deadline=None, suppress_health_check=[HealthCheck.too_slow], max_examples=40
)
settings.load_profile("suite")

KEPT = Path(__file__).resolve().parent.parent / "build" / "samples-for-tests"
MAKES_THEM = (
    "demo/data", "demo/samples.py", "actions/preparing.py", "store/migrations", "store/library.py",
    "store/projects.py", "media/ingest.py", "media/proxies.py", "media/audio.py", "core/shot.py",
    "core/takes.py",
)  # fmt: skip
"""What the samples in a data folder are made by: while none of it changes, they are not made again."""


class SharedEngines(Engines):
    """One for all workspaces of a run: each would load its models anew."""

    def close(self) -> None:
        """They stay, for the next workspace."""

    def end(self) -> None:
        super().close()


@pytest.fixture(scope="session", autouse=True)
def _made_once() -> Iterator[None]:
    """Engines are started once a run, and takes kept between runs."""
    engines = SharedEngines()
    keep_takes()
    with pytest.MonkeyPatch.context() as patched:
        patched.setattr("fox_cadence.actions.workspace.Engines", lambda: engines)
        patched.setenv(SERVER, "tests.kept_server")
        yield
    engines.end()


@pytest.fixture
def workspace(tmp_path: Path) -> Iterator[Workspace]:
    with Workspace(tmp_path / "data") as made:
        yield made


@pytest.fixture(scope="session")
def demo_master() -> Path:
    """A data folder with the samples, their clips made small; never changed by a test.

    All workers and all runs share one, which is named by what makes it.
    """
    KEPT.mkdir(parents=True, exist_ok=True)
    folder = KEPT / _key()
    with (KEPT / "making.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)  # whoever comes first makes them, the others wait for it
        if not folder.is_dir():
            for old in KEPT.iterdir():
                if old.is_dir():
                    shutil.rmtree(old)
            (KEPT / "small").mkdir()
            make_small(KEPT / "small")
            made = KEPT / "made"
            with Workspace(made) as workspace:
                ensure_samples(workspace, data=KEPT / "small")
                workspace.preparing.prepare_all(workspace.library.clips())
            made.rename(folder)
    return folder


def _key() -> str:
    own = [Path(__file__), Path(__file__).with_name("small_samples.py")]
    return digest_of((), [*own, *(SRC / "fox_cadence" / name for name in MAKES_THEM)])


@pytest.fixture
def demo_data(demo_master: Path, tmp_path: Path) -> Path:
    """A copy of the sample's data folder for one test."""
    return Path(shutil.copytree(demo_master, tmp_path / "demo-data"))


@pytest.fixture
def demo(demo_data: Path) -> Iterator[Workspace]:
    with Workspace(demo_data) as workspace:
        yield workspace
