"""What is done to a project as a whole: a copy, back to an earlier state, media that vanished pointed to
again."""

from fox_cadence.actions.bring_in import LONGEST_NAME, MediaFile, bring_in_clip
from fox_cadence.actions.workspace import Workspace
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
        why = f"this is not {clip.name}: its bytes differ. Choose the very file that was brought in"
        raise InputError(why, file.name)
    bring_in_clip(workspace, MediaFile(file.path, clip.name, file.ours), watcher)
