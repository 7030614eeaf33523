"""Edits of where lines stand: on which shots, and copies of them."""

from typing import Literal

from fox_cadence.core.edits.base import EditError, EditValue, number, with_line, with_lines
from fox_cadence.core.edits.captions import in_time_order
from fox_cadence.core.project import Caption, Line, Project, SceneText
from fox_cadence.core.script_layout import in_script_order, next_id


class PlaceLine(EditValue):
    """Lay a line on the shots from one to another; its words on the screen and its scene text go with it."""

    kind: Literal["place_line"] = "place_line"
    line_id: str
    first_shot_id: str
    last_shot_id: str | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        index = project.shot_index()
        first = project.shot(self.first_shot_id)
        last = project.shot(self.last_shot_id or first.id)
        place = number(project.lines, line.id)
        if line.locked:
            raise EditError(f"Line {place} is locked. Unlock it to move it.")
        if index[last.id] < index[first.id]:
            raise EditError("The last shot of a line can't come before its first.")
        moved = line.first_shot_id != first.id
        made = project
        if moved:
            made = _with_words_on(project, line, first.id)
        change: dict[str, object] = {"first_shot_id": first.id, "last_shot_id": last.id, "placement": None}
        if moved:
            change["wanted_offset_ticks"] = None
        made = with_line(made, made.line(line.id).changed(**change))
        made = with_lines(made, in_script_order(made, made.lines))
        where = f"shot {index[first.id] + 1}"
        if last.id != first.id:
            where = f"shots {index[first.id] + 1} to {index[last.id] + 1}"
        return made, f"Line {place} moved to {where}"


def _with_words_on(project: Project, line: Line, shot_id: str) -> Project:
    """The captions and the scene text of a line put on another shot, after what is shown there."""
    ids = set(line.caption_ids)
    length = project.shot(shot_id).length_frames
    taken = [c.out_frames for c in project.captions if c.shot_id == shot_id and c.id not in ids]
    at = min(max(taken, default=0), max(0, length - 2 * max(1, len(ids))))
    captions: list[Caption] = []
    for caption in project.captions:
        if caption.id in ids:
            frames = max(2, min(caption.out_frames - caption.in_frames, length - at))
            change = {"shot_id": shot_id, "in_frames": at, "out_frames": at + frames}
            captions.append(caption.changed(**change))
            at += frames
        else:
            captions.append(caption)
    texts = tuple(
        text.changed(shot_id=shot_id) if text.id == line.scene_text_id else text
        for text in project.scene_texts
    )
    made = project.changed(scene_texts=texts)
    return made.changed(captions=in_time_order(made, tuple(captions)))


class DuplicateLine(EditValue):
    """A copy of a line after it, with its words, marks and delivery; it keeps none of its takes but the one
    playing."""

    kind: Literal["duplicate_line"] = "duplicate_line"
    line_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        captions, texts = list(project.captions), list(project.scene_texts)
        copies: list[str] = []
        for caption_id in line.caption_ids:
            caption = project.caption(caption_id)
            shot = project.shot(caption.shot_id)
            length = caption.out_frames - caption.in_frames
            start = min(caption.out_frames, max(0, shot.length_frames - length))
            copy = Caption(
                id=next_id("c", [each.id for each in captions]),
                shot_id=caption.shot_id,
                in_frames=start,
                out_frames=start + length,
                text=caption.text,
            )
            captions.append(copy)
            copies.append(copy.id)
        text_id = None
        if line.scene_text_id is not None:
            text = next(each for each in texts if each.id == line.scene_text_id)
            text_id = next_id("t", [each.id for each in texts])
            texts.append(SceneText(id=text_id, shot_id=text.shot_id, text=text.text))
        made = line.changed(
            id=next_id("l", [each.id for each in project.lines]),
            caption_ids=tuple(copies),
            scene_text_id=text_id,
            placement=None,
            wanted_offset_ticks=None,
            locked=False,
            takes=(),
        )
        lines = list(project.lines)
        place = number(project.lines, line.id)
        lines.insert(place, made)
        changed = project.changed(scene_texts=tuple(texts))
        changed = changed.changed(captions=in_time_order(changed, tuple(captions)))
        return with_lines(changed, lines), f"Line {place} duplicated"
