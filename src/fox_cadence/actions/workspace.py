"""A data folder opened: its database, library, jobs and voices."""

import os
from pathlib import Path

from fox_cadence.core.project import Project
from fox_cadence.core.takes import Take
from fox_cadence.core.timeline import Timeline, build_timeline
from fox_cadence.jobs.runner import JobRunner
from fox_cadence.store.database import Database
from fox_cadence.store.jobs import JobStore
from fox_cadence.store.library import Library
from fox_cadence.store.projects import Head, ProjectStore
from fox_cadence.voices.engine import Engine
from fox_cadence.voices.espeak import EspeakEngine


def default_data_folder() -> Path:
    """The user's data folder (XDG Base Directory Specification)."""
    base = os.environ.get("XDG_DATA_HOME") or str(Path.home() / ".local" / "share")
    return Path(base) / "fox-cadence"


class Workspace:
    """Everything an action needs. Close it, or use it in a `with`."""

    def __init__(self, folder: Path) -> None:
        folder.mkdir(parents=True, exist_ok=True)
        self.folder = folder
        self.database = Database(folder / "fox-cadence.sqlite")
        self.projects = ProjectStore(self.database)
        self.library = Library(self.database, folder)
        self.job_store = JobStore(self.database)
        self.jobs = JobRunner(self.job_store)
        self.engine: Engine = EspeakEngine()
        self.scratch = folder / "scratch"
        self.scratch.mkdir(exist_ok=True)

    def __enter__(self) -> "Workspace":
        return self

    def __exit__(self, *_: object) -> None:
        self.close()

    def close(self) -> None:
        self.jobs.close()
        self.engine.close()
        self.database.close()

    def takes_of(self, project: Project) -> dict[str, Take]:
        """All takes a project's lines point to, by id."""
        ids = {line.take_id for line in project.lines} | {
            line.placement.take_id for line in project.lines if line.placement
        }
        return self.library.takes(take_id for take_id in ids if take_id)

    def timeline(self, project: Project) -> Timeline:
        return build_timeline(project, self.takes_of(project))

    def head(self, project_id: str) -> Head:
        return self.projects.head(project_id)
