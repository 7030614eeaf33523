"""Shared fixtures: workspaces, and the samples made small once for many runs."""

import shutil
from collections import Counter, defaultdict
from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

from fox_cadence.actions.workspace import Workspace
from fox_cadence.voices.engines import Engines
from tests.browser.application import SERVER
from tests.kept_takes import keep_takes
from tests.small_samples import small_samples

settings.register_profile(
    "suite", deadline=None, suppress_health_check=[HealthCheck.too_slow], max_examples=40
)
settings.load_profile("suite")


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
    """A data folder with the samples, their clips made small; never changed by a test."""
    return small_samples()


@pytest.fixture
def demo_data(demo_master: Path, tmp_path: Path) -> Path:
    """A copy of the sample's data folder for one test."""
    return Path(shutil.copytree(demo_master, tmp_path / "demo-data"))


@pytest.fixture
def demo(demo_data: Path) -> Iterator[Workspace]:
    with Workspace(demo_data) as workspace:
        yield workspace


_costs: defaultdict[str, float] = defaultdict(float)
_counts: Counter[str] = Counter()


def pytest_runtest_logreport(report: pytest.TestReport) -> None:
    folder = "/".join(report.nodeid.split("::")[0].split("/")[:2])
    _costs[folder] += report.duration
    _counts[folder] += report.when == "call"


def pytest_terminal_summary(terminalreporter: pytest.TerminalReporter) -> None:
    """What each folder costs, in seconds of one process (docs/tests.md)."""
    if len(_costs) > 1:
        terminalreporter.section("seconds by folder")
        for folder, seconds in sorted(_costs.items(), key=lambda each: -each[1]):
            terminalreporter.line(f"{seconds:7.0f}  {_counts[folder]:5d}  {folder}")
