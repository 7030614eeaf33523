"""Going back and forth among the states a project has had."""

from fox_cadence.actions.workspace import Workspace


def undo(workspace: Workspace, project_id: str, based_on: int | None = None) -> None:
    """Go back one revision; nothing happens at the first.

    Raises:
        ClashError: `based_on` is given and is not the newest revision in force.
    """
    workspace.projects.undo(project_id, based_on)


def redo(workspace: Workspace, project_id: str, based_on: int | None = None) -> None:
    """Go to the newest revision made after this one, if there is one. Raises ClashError as `undo`."""
    workspace.projects.redo(project_id, based_on)


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
