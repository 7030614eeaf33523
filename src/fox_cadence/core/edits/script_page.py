"""Edits of the script as a page that is typed: lines begun, joined, moved, shown; headings."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, FilledText, Text, number, position, with_lines
from fox_cadence.core.edits.captions import in_time_order
from fox_cadence.core.edits.lines import MergeLines
from fox_cadence.core.length_model import LETTERS
from fox_cadence.core.numbers import counted, numbered
from fox_cadence.core.picture_length import STILL_TICKS, lengthened, plain_shots
from fox_cadence.core.project import Caption, Line, NotInProjectError, Project, SceneText, said_text
from fox_cadence.core.script_layout import in_script_order, next_id
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.value import Value

_MOST_LINES = 2_000
_LEAST_FRAMES = 2


class TypedLine(Value):
    """A paragraph of the page: a line that is shown, or only said; or a heading, which is neither.

    `role_id` None is the role of the line before. `seconds` is how long it will last, where that is known.
    """

    text: FilledText
    role_id: str | None = None
    shown: bool = True
    heading: bool = False
    seconds: float | None = Field(None, gt=0, le=3600)


class InsertLines(EditValue):
    """Paragraphs typed or pasted after a line, or before all others where `after_line_id` is None.

    They go on the last shot of that line, or on `shot_id`; a shot that gives way is held long enough for
    them, and a piece without a picture gets a plain one.
    """

    kind: Literal["insert_lines"] = "insert_lines"
    after_line_id: str | None = None
    shot_id: str | None = None
    lines: tuple[TypedLine, ...] = Field(min_length=1, max_length=_MOST_LINES)

    def apply(self, project: Project) -> tuple[Project, str]:
        if not project.roles:
            raise EditError(
                "The cast is empty. Add a role first, so that the words have somebody to say them."
            )
        made = project if project.shots else _with_a_shot(project)
        after = project.line(self.after_line_id) if self.after_line_id else None
        shot_id = self.shot_id or (after.last_shot_id if after else made.shots[0].id)
        made.shot(shot_id)
        role_id = after.role_id if after else project.roles[0].id
        place = position(made.lines, after.id) + 1 if after else 0
        at = _free_from(made, shot_id, after)
        for typed in self.lines:
            if typed.heading:
                made = _with_heading(made, shot_id, typed.text)
                continue
            role_id = made.role(typed.role_id or role_id).id
            made, at = _inserted(made, shot_id, typed, role_id, place, at)
            place += 1
        made = _held_for_all(made, shot_id, self.lines)
        spoken = sum(not typed.heading for typed in self.lines)
        named = counted(spoken, "line") if spoken else "Heading"
        return with_lines(made, in_script_order(made, made.lines)), f"{named} written"


def _with_a_shot(project: Project) -> Project:
    shots = plain_shots(["Part 1"], [STILL_TICKS], project.rate)
    return project.changed(shots=shots)


def _free_from(project: Project, shot_id: str, after: Line | None) -> int:
    """The frame of a shot from which on new captions may stand: after those of the line before."""
    ids = set(after.caption_ids) if after else set()
    outs = [item.out_frames for item in project.captions if item.shot_id == shot_id and item.id in ids]
    return max(0, *outs) if outs else 0


def _length_ticks(project: Project, typed: TypedLine, role_id: str) -> int:
    if typed.seconds is not None:
        return seconds_to_ticks(typed.seconds)
    role = project.role(role_id)
    return LETTERS.estimate(typed.text, role.voice_id, role.delivery.pace).ticks


def _inserted(
    project: Project, shot_id: str, typed: TypedLine, role_id: str, place: int, at: int
) -> tuple[Project, int]:
    """The project with a typed line at a place of the script, and the frame after its caption. Captions that
    came there before make room."""
    line_id = next_id("l", [item.id for item in project.lines])
    text = typed.text.strip()
    common = {"id": line_id, "role_id": role_id, "first_shot_id": shot_id, "last_shot_id": shot_id}
    lines = list(project.lines)
    if not typed.shown:
        scene = SceneText(id=next_id("t", [t.id for t in project.scene_texts]), shot_id=shot_id, text=text)
        lines.insert(place, Line(**common, scene_text_id=scene.id))
        made = project.changed(scene_texts=(*project.scene_texts, scene))
        return with_lines(made, lines), at
    frames = max(_LEAST_FRAMES, project.rate.frames_ceil(_length_ticks(project, typed, role_id)))
    caption = Caption(
        id=next_id("c", [item.id for item in project.captions]),
        shot_id=shot_id,
        in_frames=at,
        out_frames=at + frames,
        text=text,
    )
    captions = [
        item.changed(in_frames=item.in_frames + frames, out_frames=item.out_frames + frames)
        if item.shot_id == shot_id and item.in_frames >= at and not item.leads
        else item
        for item in project.captions
    ]
    lead = project.rate.ticks(at) + project.house.caption_lead_ticks
    line = Line(**common, caption_ids=(caption.id,), wanted_offset_ticks=max(lead, project.house.lead_ticks))
    lines.insert(place, line)
    made = project.changed(captions=in_time_order(project, (*captions, caption)))
    return with_lines(made, lines), at + frames


def _held_for_all(project: Project, shot_id: str, typed: tuple[TypedLine, ...]) -> Project:
    """The shot held as long as all that is said over it is expected to last; captions stay inside it."""
    known = {each.text.strip(): each for each in typed if each.seconds is not None}
    lengths: list[int] = []
    for line in project.lines:
        if line.first_shot_id == shot_id:
            said = said_text(project, line)
            lengths.append(_length_ticks(project, known.get(said, TypedLine(text=said or " ")), line.role_id))
    groups = [lengths if shot.id == shot_id else [] for shot in project.shots]
    made = lengthened(project, groups).project
    length = made.shot(shot_id).length_frames
    captions = tuple(_inside(item, length) if item.shot_id == shot_id else item for item in made.captions)
    return made.changed(captions=captions)


def _inside(caption: Caption, length: int) -> Caption:
    """A caption that begins within its shot and does not outlast it by being put there."""
    if caption.leads or caption.in_frames <= length - _LEAST_FRAMES:
        return caption
    start = max(0, length - _LEAST_FRAMES)
    return caption.changed(in_frames=start, out_frames=start + _LEAST_FRAMES)


class JoinLines(EditValue):
    """A line joined to the one before it; where both are shown, the words at the joint become one caption."""

    kind: Literal["join_lines"] = "join_lines"
    line_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.lines, self.line_id)
        if place == 0:
            raise EditError("This is the first line; there is none before it to join.")
        first, second = project.lines[place - 1], project.lines[place]
        made, label = MergeLines(line_id=first.id).apply(project)
        if first.caption_ids and second.caption_ids:
            made = _one_caption(made, first.caption_ids[-1], second.caption_ids[0])
        return made, label


class JoinCaptions(EditValue):
    """A caption of a line joined to the one before it in the same line."""

    kind: Literal["join_captions"] = "join_captions"
    caption_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        caption = project.caption(self.caption_id)
        line = next((each for each in project.lines if caption.id in each.caption_ids), None)
        if line is None or line.caption_ids[0] == caption.id:
            raise EditError("There is no caption before it in its line.")
        before = line.caption_ids[line.caption_ids.index(caption.id) - 1]
        label = (
            f"Captions {number(project.captions, before)} and {number(project.captions, caption.id)} joined"
        )
        return _one_caption(project, before, caption.id), label


def _one_caption(project: Project, first_id: str, second_id: str) -> Project:
    """Two captions of one line as one, shown from the in time of the first to the out time of the second."""
    first, second = project.caption(first_id), project.caption(second_id)
    if first.locked or second.locked:
        raise EditError("One of the two captions is locked. Unlock it to join them.")
    out = max(first.out_frames, second.out_frames if first.shot_id == second.shot_id else first.out_frames)
    whole = first.changed(text=f"{first.text} {second.text}".strip(), out_frames=out)
    captions = tuple(
        whole if item.id == first_id else item for item in project.captions if item.id != second_id
    )
    lines = tuple(
        line.changed(caption_ids=tuple(each for each in line.caption_ids if each != second_id))
        if second_id in line.caption_ids
        else line
        for line in project.lines
    )
    return project.changed(captions=captions, lines=lines)


class MoveLines(EditValue):
    """Lines that follow one another moved before another line, or to the end; the pictures stay.

    The lines from the first that moves to the last take one another's places in turn: the shots, the start
    and the room for captions of the place they come to. Headings named in `heading_ids` go along to the shot
    of the first moved line.
    """

    kind: Literal["move_lines"] = "move_lines"
    line_ids: tuple[str, ...] = Field(min_length=1, max_length=_MOST_LINES)
    before_line_id: str | None = None
    heading_ids: tuple[str, ...] = ()

    def apply(self, project: Project) -> tuple[Project, str]:
        moving = [project.line(each) for each in self.line_ids]
        numbers = sorted(number(project.lines, line.id) for line in moving)
        ids = {line.id for line in moving}
        if self.before_line_id in ids:
            raise EditError("A line can't be moved before itself.")
        rest = [line for line in project.lines if line.id not in ids]
        place = len(rest) if self.before_line_id is None else position(tuple(rest), self.before_line_id)
        block = [line for line in project.lines if line.id in ids]
        order = [*rest[:place], *block, *rest[place:]]
        made = _in_places(project, order)
        first_shot = made.line(block[0].id).first_shot_id
        texts = tuple(
            text.changed(shot_id=first_shot) if text.id in self.heading_ids else text
            for text in made.scene_texts
        )
        named = numbered("Line", numbers, len(numbers))
        return made.changed(scene_texts=texts), f"{named} moved"


def _in_places(project: Project, order: list[Line]) -> Project:
    """The lines in an order, each where the line of that place stood before."""
    captions = {item.id: item for item in project.captions}
    texts = {item.id: item for item in project.scene_texts}
    lines: list[Line] = []
    for line, before in zip(order, project.lines, strict=True):
        if line.id == before.id:
            lines.append(line)
            continue
        if line.locked:
            raise EditError(f"Line {number(project.lines, line.id)} is locked. Unlock it to move it.")
        lines.append(
            line.changed(
                first_shot_id=before.first_shot_id,
                last_shot_id=before.last_shot_id,
                wanted_offset_ticks=before.wanted_offset_ticks,
                placement=None,
            )
        )
        captions.update(_captions_at(project, line, before))
        if line.scene_text_id is not None:
            texts[line.scene_text_id] = texts[line.scene_text_id].changed(shot_id=before.first_shot_id)
    made = project.changed(lines=tuple(lines), scene_texts=tuple(texts.values()))
    return made.changed(captions=in_time_order(made, tuple(captions.values())))


def _captions_at(project: Project, line: Line, before: Line) -> dict[str, Caption]:
    """The captions of a line one after the other where those of another line stood."""
    own = [project.caption(each) for each in line.caption_ids]
    there = [project.caption(each) for each in before.caption_ids]
    if any(item.locked for item in own):
        raise EditError(
            f"A caption of line {number(project.lines, line.id)} is locked. Unlock it to move it."
        )
    shot_id = there[0].shot_id if there else before.first_shot_id
    at = there[0].in_frames if there else 0
    found: dict[str, Caption] = {}
    for caption in own:
        frames = max(_LEAST_FRAMES, caption.out_frames - caption.in_frames)
        found[caption.id] = caption.changed(shot_id=shot_id, in_frames=at, out_frames=at + frames)
        at += frames
    return found


class ShowLine(EditValue):
    """Show what a line says as a caption (with other words where `text` has some), or stop showing it."""

    kind: Literal["show_line"] = "show_line"
    line_id: str
    shown: bool
    text: Text = ""

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        place = number(project.lines, line.id)
        if self.shown == bool(line.caption_ids):
            return project, f"Line {place}"
        said = said_text(project, line)
        if self.shown:
            return _shown(project, line, self.text.strip() or said, said), f"Line {place} shown"
        if any(project.caption(each).locked for each in line.caption_ids):
            raise EditError(f"A caption of line {place} is locked. Unlock it to take it off the screen.")
        scene = SceneText(
            id=next_id("t", [item.id for item in project.scene_texts]), shot_id=line.first_shot_id, text=said
        )
        hidden = line.changed(caption_ids=(), scene_text_id=scene.id, said=None)
        made = project.changed(
            captions=tuple(item for item in project.captions if item.id not in line.caption_ids),
            scene_texts=(*project.scene_texts, scene),
            lines=tuple(hidden if item.id == line.id else item for item in project.lines),
        )
        return made, f"Line {place} said and not shown"


def _shown(project: Project, line: Line, text: str, said: str) -> Project:
    shot = project.shot(line.first_shot_id)
    start = project.rate.frames_floor(
        max(0, (line.wanted_offset_ticks or project.house.lead_ticks) - project.house.caption_lead_ticks)
    )
    start = min(start, max(0, shot.length_frames - _LEAST_FRAMES))
    frames = project.rate.frames_ceil(LETTERS.estimate(said, project.role(line.role_id).voice_id, 1.0).ticks)
    caption = Caption(
        id=next_id("c", [item.id for item in project.captions]),
        shot_id=shot.id,
        in_frames=start,
        out_frames=start + max(_LEAST_FRAMES, frames),
        text=text,
    )
    own = None if text == said else said
    with_words = line.changed(caption_ids=(caption.id,), scene_text_id=None, said=own)
    return project.changed(
        captions=in_time_order(project, (*project.captions, caption)),
        scene_texts=tuple(item for item in project.scene_texts if item.id != line.scene_text_id),
        lines=tuple(with_words if item.id == line.id else item for item in project.lines),
    )


class SetHeading(EditValue):
    """The words of a heading; a new one on a shot where `heading_id` is None."""

    kind: Literal["heading"] = "heading"
    heading_id: str | None = None
    shot_id: str | None = None
    text: FilledText

    def apply(self, project: Project) -> tuple[Project, str]:
        text = self.text.strip()
        if self.heading_id is None:
            shot = project.shot(self.shot_id or project.shots[0].id)
            return _with_heading(project, shot.id, text), f"Heading “{text[:40]}”"
        if all(item.id != self.heading_id for item in project.scene_texts):
            raise NotInProjectError("heading", self.heading_id)
        texts = tuple(
            item.changed(text=text) if item.id == self.heading_id else item for item in project.scene_texts
        )
        return project.changed(scene_texts=texts), f"Heading “{text[:40]}”"


def _with_heading(project: Project, shot_id: str, text: str) -> Project:
    taken = [item.id for item in project.scene_texts]
    heading = SceneText(id=next_id("t", taken), shot_id=shot_id, text=text.strip())
    return project.changed(scene_texts=(*project.scene_texts, heading))
