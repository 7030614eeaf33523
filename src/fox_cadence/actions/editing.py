"""Making edits: one undoable step, with what must follow at once."""

from collections.abc import Sequence

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Applied, CutCaption, apply_all
from fox_cadence.core.fit.readback import read_captions
from fox_cadence.core.project import Project
from fox_cadence.store.projects import Head


def make_edits(workspace: Workspace, project_id: str, head: Head, edits: Sequence[Applied], label: str = "") -> int:
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
    return workspace.projects.commit(project_id, head.revision, changed, label or named)


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
        caption.model_copy(
            update={
                "in_frames": frames[caption.id][0] - shots[caption.shot_id].start_frame,
                "out_frames": frames[caption.id][1] - shots[caption.shot_id].start_frame,
            }
        )
        if caption.id in line.caption_ids
        else caption
        for caption in project.captions
    )
    return project.model_copy(update={"captions": captions})
