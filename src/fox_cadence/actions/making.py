"""What the makers of a docket's rows share: the piece, where its files go, and what was made so far."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path

from fox_cadence.actions.mixing import mix
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import Docket, Row
from fox_cadence.core.docket.names import file_stem, stem
from fox_cadence.core.docket.work import Part
from fox_cadence.core.timeline import Timeline
from fox_cadence.jobs.runner import Watcher
from fox_cadence.media.audio import Loudness
from fox_cadence.media.ingest import heard_of_file
from fox_cadence.media.isolated import run_isolated
from fox_cadence.media.mixdown import Mix
from fox_cadence.store.library import whole_file, write_safely

Heard = tuple[Loudness | None, float | None]
"""Loudness and length in seconds of a file, None where it has none."""


@dataclass(frozen=True, slots=True)
class MadeFile:
    """A finished file of a row; `loudness` and `seconds` were measured of the file, None where it has no
    sound."""

    path: Path
    loudness: Loudness | None = None
    product: str = ""
    seconds: float | None = None


@dataclass
class Making:
    """The rows of a docket being made of a timeline, in a folder. `revision` is that of the piece; `notes`
    say what its files can't carry. `segmented` has videos made in segments by the hands of the workspace;
    `work` is what the piece is a part of."""

    workspace: Workspace
    project_id: str
    revision: int
    timeline: Timeline
    folder: Path
    docket: Docket
    watch: Watcher
    segmented: bool = False
    work: Part | None = None
    files: list[MadeFile] = field(default_factory=list)
    notes: list[str] = field(default_factory=list)

    def name(self, row: Row, suffix: str, extra: str = "", size: tuple[int, int] = (0, 0)) -> str:
        """The name of a file of a row: by the pattern of the docket, and like no other of this docket."""
        project = self.timeline.project
        width, height = size if any(size) else (project.width, project.height)
        said = {
            "piece": stem(project.name),
            "size": f"{width}×{height}",
            "revision": f"r{self.revision}",
            "language": project.language,
        }
        base = file_stem(self.docket.pattern, row, said, extra)
        taken = {file.path.name for file in self.files}
        name, number = f"{base}{suffix}", 2
        while name in taken:
            name, number = f"{base}-{number}{suffix}", number + 1
        return name

    def tags(self) -> dict[str, str]:
        """What files say of themselves."""
        title = {"title": self.timeline.project.name}
        return title | (self.work.tags if self.work else {})

    def mixed(self) -> Mix:
        return mix(self.workspace, self.timeline, self.watch)

    def write(self, name: str, data: bytes, row: Row) -> None:
        path = self.folder / name
        write_safely(path, data)
        self.files.append(MadeFile(path, None, row.name))

    @contextmanager
    def whole(self, name: str, row: Row, heard: Callable[[], Heard] | None = None) -> Iterator[Path]:
        """A file being written: under its name once it is whole, then measured.

        Args:
            heard: says what was measured of it where that is known.
        """
        path = self.folder / name
        with whole_file(path) as made:
            yield made
        loudness, seconds = heard() if heard is not None else self._heard(path, row)
        self.files.append(MadeFile(path, loudness, row.name, seconds))

    def progress(self, row: Row, what: str) -> "_Told":
        return _Told(self.watch, f"{row.name}: {what}")

    def _heard(self, path: Path, row: Row) -> Heard:
        """Loudness and length of the finished file, decoded again: what was meant is not what was written
        until it has been heard."""
        self.watch.report(0, 0, f"{row.name}: measuring")
        found = run_isolated(heard_of_file, path, cancelled=lambda: self.watch.cancelled)
        return found or (None, None)


@dataclass(frozen=True)
class _Told:
    """Tells the watcher how far a row is."""

    watch: Watcher
    note: str

    def __call__(self, done: int, total: int) -> None:
        self.watch.report(done, total, self.note)
