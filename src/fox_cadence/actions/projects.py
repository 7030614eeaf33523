"""What is done to a project as a whole: a copy, back to an earlier state, media that vanished pointed to
again."""

from dataclasses import dataclass

from fox_cadence.actions.bring_in import LONGEST_NAME, MediaFile, bring_in_clip
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.begun_like import begun_like
from fox_cadence.core.pass_status import pass_statuses
from fox_cadence.core.project import Project
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Watcher
from fox_cadence.store.library import hash_file


def copy_project(workspace: Workspace, project_id: str) -> str:
    """A new project as this one stands now, with takes and media shared; its id."""
    project = workspace.head(project_id).project
    names = {listed.name for listed in workspace.projects.list()}
    number = 2
    while (name := f"{project.name[: LONGEST_NAME - 12]} ({number})") in names:
        number += 1
    return workspace.projects.create(project.changed(name=name), f"Copy of “{project.name}”")


def project_like(workspace: Workspace, project_id: str) -> str:
    """A new project with the frame, the cast, the styles, the lexicon and the house limits of this one, and
    nothing in it yet; its id."""
    project = workspace.head(project_id).project
    bare = Project(
        name=f"Like {project.name[: LONGEST_NAME - 12]}",
        width=project.width,
        height=project.height,
        rate=project.rate,
        language=project.language,
        longest_ticks=project.longest_ticks,
    )
    return workspace.projects.create(begun_like(bare, project), f"Begun like “{project.name}”")


@dataclass(frozen=True, slots=True)
class Standing:
    """How a project stands, in a word or two for each pass that is still open; '' where nothing is."""

    open_text: str
    seconds: float


def standing_of(workspace: Workspace, project_id: str) -> Standing:
    """What is still open in a project, as its export would name it, and its length. Raises
    NotFoundError."""
    timeline = workspace.timeline(workspace.head(project_id).project)
    last = pass_statuses(timeline, 0, workspace.faces_of(timeline.project))[-1]
    return Standing(last.open_text, ticks_to_seconds(timeline.total_ticks))


def point_to(
    workspace: Workspace, project_id: str, content_hash: str, file: MediaFile, watcher: Watcher | None = None
) -> None:
    """Bring back a clip of a project whose file has vanished.

    Raises:
        InputError: the file is another one, told by the hash of its bytes, or can't be read.
        NotFoundError: the project has no such clip.
    """
    clip = workspace.head(project_id).project.clips.get(content_hash)
    if clip is None:
        raise InputError("no clip of this project has this hash", file.name)
    if hash_file(file.path) != content_hash:
        why = f"this is not {clip.name}: its bytes differ. Choose the file that was imported"
        raise InputError(why, file.name)
    bring_in_clip(workspace, MediaFile(file.path, clip.name, file.ours), watcher)
