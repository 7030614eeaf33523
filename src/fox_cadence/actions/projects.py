"""What is done to a project as a whole: a copy, back to an earlier state, media that vanished pointed to again."""

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


def back_to(workspace: Workspace, project_id: str, number: int, based_on: int) -> int:
    """Let a project be again what it was at a revision, as one step that can be undone; its revision then.

    Raises:
        NotFoundError: it never had such a revision.
        ClashError: it was changed meanwhile.
    """
    wanted = workspace.projects.at(project_id, number)
    revision = next(each for each in workspace.projects.revisions(project_id, 1, number + 1))
    if wanted == workspace.head(project_id).project:
        return based_on
    return workspace.projects.commit(project_id, based_on, wanted, f"Back to {number}, {revision.label}")


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
