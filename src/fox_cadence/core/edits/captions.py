"""Edits of captions."""

from typing import Literal

from fox_cadence.core.caption_cut import cut_caption
from fox_cadence.core.edits.base import (
    EditError,
    EditValue,
    FilledText,
    Text,
    carry_marks,
    marks_gone,
    number,
    shot_start,
    with_caption,
    with_lines,
)
from fox_cadence.core.project import Caption, Line, Project
from fox_cadence.core.script_layout import in_script_order, next_id


class SetCaptionText(EditValue):
    kind: Literal["caption_text"] = "caption_text"
    caption_id: str
    text: Text

    def apply(self, project: Project) -> tuple[Project, str]:
        caption = project.caption(self.caption_id)
        made = with_caption(project, caption.changed(text=self.text.strip()))
        label = f"Words of caption {number(project.captions, caption.id)}"
        line = line_of(project, caption.id)
        if line is None:
            return made, label
        made, lost = carry_marks(project, made, line.id)
        return made, label + marks_gone(lost)


def line_of(project: Project, caption_id: str) -> Line | None:
    """The line that says a caption."""
    return next((line for line in project.lines if caption_id in line.caption_ids), None)


class SetCaptionTimes(EditValue):
    """In and out frame of the piece. A caption whose in time moves takes the wanted start of its line
    along."""

    kind: Literal["caption_times"] = "caption_times"
    caption_id: str
    in_frame: int
    out_frame: int

    def apply(self, project: Project) -> tuple[Project, str]:
        caption = project.caption(self.caption_id)
        start = shot_start(project, caption.shot_id)
        last = project.shots[-1]
        total = shot_start(project, last.id) + last.length_frames
        if self.in_frame < 0 or self.out_frame > total:
            raise EditError(f"The piece runs from frame 0 to {total}; the caption would lie outside it.")
        if self.out_frame - self.in_frame < 1:
            raise EditError("A caption must go out after it comes in.")
        made = caption.changed(in_frames=self.in_frame - start, out_frames=self.out_frame - start)
        moved = with_caption(project, made)
        if made.in_frames != caption.in_frames:
            moved = with_lines(moved, [_start_with(moved, line, made) for line in moved.lines])
        return moved, f"Times of caption {number(project.captions, caption.id)}"


def _start_with(project: Project, line: Line, caption: Caption) -> Line:
    """A line whose first caption was moved wants to start with it, and is no longer where the last fit put
    it."""
    if not line.caption_ids or line.caption_ids[0] != caption.id or line.locked:
        return line
    lead = shot_start(project, caption.shot_id) - shot_start(project, line.first_shot_id)
    wanted = project.rate.ticks(lead + caption.in_frames) + project.house.caption_lead_ticks
    change: dict[str, object] = {"wanted_offset_ticks": max(wanted, project.house.lead_ticks)}
    if line.placement is not None:
        change["placement"] = line.placement.changed(offset_ticks=change["wanted_offset_ticks"])
    return line.changed(**change)


class PinCaption(EditValue):
    """A pinned caption keeps its place in its shot, and its words follow it."""

    kind: Literal["pin_caption"] = "pin_caption"
    caption_id: str
    pinned: bool

    def apply(self, project: Project) -> tuple[Project, str]:
        caption = project.caption(self.caption_id)
        what = "pinned" if self.pinned else "follows its words"
        label = f"Caption {number(project.captions, caption.id)} {what}"
        return with_caption(project, caption.changed(pinned=self.pinned)), label


class AddCaption(EditValue):
    """A caption over a shot, with a line of its own that says it."""

    kind: Literal["add_caption"] = "add_caption"
    shot_id: str
    text: FilledText

    def apply(self, project: Project) -> tuple[Project, str]:
        shot = project.shot(self.shot_id)
        if not project.roles:
            raise EditError(
                "The cast is empty. Add a role first, so that the caption has somebody to say it."
            )
        taken = [c.out_frames for c in project.captions if c.shot_id == shot.id]
        start = min(max(taken, default=0), max(0, shot.length_frames - 2))
        caption = Caption(
            id=next_id("c", [item.id for item in project.captions]),
            shot_id=shot.id,
            in_frames=start,
            out_frames=max(start + 2, shot.length_frames),
            text=self.text.strip(),
        )
        line = Line(
            id=next_id("l", [item.id for item in project.lines]),
            role_id=project.roles[0].id,
            first_shot_id=shot.id,
            last_shot_id=shot.id,
            caption_ids=(caption.id,),
            wanted_offset_ticks=project.rate.ticks(start) + project.house.lead_ticks,
        )
        made = project.changed(captions=in_time_order(project, (*project.captions, caption)))
        return with_lines(made, in_script_order(made, (*made.lines, line))), f"Caption on {shot.name}"


def in_time_order(project: Project, captions: tuple[Caption, ...]) -> tuple[Caption, ...]:
    """Captions by their shot, then by their in time."""
    index = project.shot_index()
    return tuple(sorted(captions, key=lambda item: (index[item.shot_id], item.in_frames)))


class CutCaption(EditValue):
    """Cut a caption into several, each shown while its words are spoken (core/caption_cut.py says where)."""

    kind: Literal["cut_caption"] = "cut_caption"
    caption_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        made, count = cut_caption(project, self.caption_id)
        label = f"Caption {number(project.captions, self.caption_id)}"
        if count == 1:
            raise EditError(f"{label} fits the house limits in one piece; there is nothing to cut.")
        return made, f"{label} cut into {count}"
