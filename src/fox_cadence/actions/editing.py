"""Making edits: one undoable step, with what must follow at once."""

from collections.abc import Sequence
from dataclasses import dataclass

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import (
    AddCaption,
    AddSceneText,
    Applied,
    CutCaption,
    EditError,
    SetCaptionText,
    SetSaid,
    apply_all,
)
from fox_cadence.core.fit.readback import read_captions
from fox_cadence.core.project import NotInProjectError, Project, said_text
from fox_cadence.errors import NotFoundError
from fox_cadence.store.projects import Head


def make_edits(
    workspace: Workspace, project_id: str, head: Head, edits: Sequence[Applied], label: str = ""
) -> int:
    """Make edits on a project as one step; its revision afterwards.

    Captions that were cut are at once set by the words they show.

    Raises:
        ClashError: the project has changed meanwhile.
        EditError: an edit can't be made; nothing was changed.
    """
    changed, named = apply_all(head.project, edits)
    for edit in edits:
        if isinstance(edit, CutCaption):
            changed = _following_words(workspace, changed, edit.caption_id)
    if changed == head.project:
        return head.revision
    workspace.foresee(head.project, changed)
    return workspace.projects.commit(project_id, head.revision, changed, label or named)


@dataclass(frozen=True, slots=True)
class BothWords:
    """The words of one caption or line in two windows."""

    where: str
    yours: str
    now: str


@dataclass(frozen=True, slots=True)
class Clash:
    """An edit that was made on an old revision: its name, those of what came between, words in both
    versions."""

    yours: str
    theirs: tuple[str, ...]
    words: tuple[BothWords, ...]


def clash_between(
    workspace: Workspace, head: Head, based_on: int, edits: Sequence[Applied], label: str = ""
) -> Clash:
    """What both windows wanted where an edit was made on a revision that is no longer the newest."""
    try:
        seen = workspace.projects.at(head.project_id, based_on)
        named = label or apply_all(seen, edits)[1]
    except (NotFoundError, EditError, NotInProjectError):
        named = label or "Your change"
    theirs = tuple(workspace.projects.labels_since(head.project_id, based_on))
    words = [each for edit in edits if (each := _both_words(head.project, edit)) is not None]
    return Clash(named, theirs, tuple(words))


def _both_words(now: Project, edit: Applied) -> BothWords | None:
    """The words an edit would have set, beside those that stand there now."""
    if isinstance(edit, SetCaptionText):
        found = next((item for item in now.captions if item.id == edit.caption_id), None)
        where = f"Caption {now.captions.index(found) + 1}" if found else "A caption that is gone"
        return BothWords(where, edit.text, found.text if found else "")
    if isinstance(edit, SetSaid) and edit.text is not None:
        line = next((item for item in now.lines if item.id == edit.line_id), None)
        where = f"Line {now.lines.index(line) + 1}" if line else "A line that is gone"
        return BothWords(where, edit.text, said_text(now, line) if line else "")
    if isinstance(edit, (AddCaption, AddSceneText)):
        return BothWords("New words", edit.text, "")
    return None


def _following_words(workspace: Workspace, project: Project, caption_id: str) -> Project:
    """The captions of one line set by the words as they are heard now."""
    line = next((line for line in project.lines if caption_id in line.caption_ids), None)
    if line is None:
        return project
    timeline = workspace.timeline(project)
    shots = {span.shot.id: span for span in timeline.shots}
    words = {span.line.id: span.word_times_ticks() for span in timeline.lines}
    frames = {caption_id: (start, end) for caption_id, start, end in read_captions(timeline, shots, words)}
    captions = tuple(
        caption.changed(
            in_frames=frames[caption.id][0] - shots[caption.shot_id].start_frame,
            out_frames=frames[caption.id][1] - shots[caption.shot_id].start_frame,
        )
        if caption.id in line.caption_ids
        else caption
        for caption in project.captions
    )
    return project.changed(captions=captions)
