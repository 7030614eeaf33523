"""Edits of lines and of the scene texts they speak."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import (
    EditError,
    EditValue,
    FilledText,
    Text,
    carry_marks,
    marks_gone,
    number,
    position,
    with_line,
    with_lines,
)
from fox_cadence.core.edits.captions import in_time_order
from fox_cadence.core.marks import cut_out, shifted
from fox_cadence.core.project import Caption, Line, NotInProjectError, Project, SceneText, said_text
from fox_cadence.core.script_layout import add_scene_line, in_script_order, next_id
from fox_cadence.core.shot import GiveWay
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.words import words_of


class SetSaid(EditValue):
    """Own wording for a line, or None to say what its captions show."""

    kind: Literal["said"] = "said"
    line_id: str
    text: Text | None

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        label = f"Spoken words of line {number(project.lines, line.id)}"
        text = self.text.strip() if self.text is not None else None
        if line.scene_text_id is not None and not line.caption_ids and text:
            texts = tuple(
                item.changed(text=text) if item.id == line.scene_text_id else item
                for item in project.scene_texts
            )
            made = project.changed(scene_texts=texts)
        else:
            made = with_line(project, line.changed(said=text or None))
        made, lost = carry_marks(project, made, line.id)
        return made, label + marks_gone(lost)


class SetLineRole(EditValue):
    """Who says a line; a voice of its own goes, its own delivery stays."""

    kind: Literal["line_role"] = "line_role"
    line_id: str
    role_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        role = project.role(self.role_id)
        line = project.line(self.line_id).changed(role_id=role.id, voice_id=None)
        return with_line(project, line), f"Line {number(project.lines, line.id)} said by {role.name}"


class SetLineStart(EditValue):
    """Where a line should start, in seconds after the start of its first shot; a fit keeps as near as it
    can."""

    kind: Literal["line_start"] = "line_start"
    line_id: str
    offset_s: float = Field(ge=-60, le=3600)

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        place = number(project.lines, line.id)
        if line.locked:
            raise EditError(f"Line {place} is locked. Unlock it to move it.")
        offset = seconds_to_ticks(self.offset_s)
        change: dict[str, object] = {"wanted_offset_ticks": offset}
        if line.placement is not None:
            change["placement"] = line.placement.changed(offset_ticks=offset)
        return with_line(project, line.changed(**change)), f"Start of line {place}"


class SetLineRoom(EditValue):
    """How far a line may start before its shot and run on after it (seconds), and who gives way; None: as the
    house."""

    kind: Literal["line_room"] = "line_room"
    line_id: str
    j_cut_s: float | None = Field(None, ge=0, le=10)
    l_cut_s: float | None = Field(None, ge=0, le=10)
    give_way: GiveWay | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id).changed(
            longest_j_cut_ticks=None if self.j_cut_s is None else seconds_to_ticks(self.j_cut_s),
            longest_l_cut_ticks=None if self.l_cut_s is None else seconds_to_ticks(self.l_cut_s),
            give_way=self.give_way,
        )
        return with_line(project, line), f"Room of line {number(project.lines, line.id)}"


class SetLane(EditValue):
    """Put a line on the first or the second lane; only one of the second may overlap, where it is allowed
    to."""

    kind: Literal["lane"] = "lane"
    line_id: str
    lane: int = Field(ge=0, le=1)
    may_overlap: bool = False

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id).changed(
            lane=self.lane, may_overlap=self.may_overlap and self.lane == 1
        )
        how = ", over the others" if line.may_overlap else ""
        name = "second" if self.lane else "first"
        return with_line(project, line), f"Line {number(project.lines, line.id)} on the {name} lane{how}"


class AddSceneText(EditValue):
    kind: Literal["add_scene_text"] = "add_scene_text"
    shot_id: str
    text: FilledText

    def apply(self, project: Project) -> tuple[Project, str]:
        shot = project.shot(self.shot_id)
        if not project.roles:
            raise EditError(
                "The cast is empty. Add a role first, so that the words have somebody to say them."
            )
        return add_scene_line(
            project, shot.id, self.text.strip(), project.roles[0].id
        ), f"Scene text on {shot.name}"


class DeleteHeading(EditValue):
    """Takes away a scene text that nobody says."""

    kind: Literal["delete_heading"] = "delete_heading"
    scene_text_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        found = next((item for item in project.scene_texts if item.id == self.scene_text_id), None)
        if found is None:
            raise NotInProjectError("scene text", self.scene_text_id)
        if any(line.scene_text_id == found.id for line in project.lines):
            raise EditError("A line says this scene text. Delete the line, and its words go with it.")
        left = tuple(item for item in project.scene_texts if item.id != found.id)
        return project.changed(scene_texts=left), f"Heading “{found.text[:40]}” deleted"


class DeleteLine(EditValue):
    """Takes a line away with its captions or its scene text."""

    kind: Literal["delete_line"] = "delete_line"
    line_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        label = f"Line {number(project.lines, line.id)} deleted"
        return (
            project.changed(
                lines=tuple(item for item in project.lines if item.id != line.id),
                captions=tuple(item for item in project.captions if item.id not in line.caption_ids),
                scene_texts=tuple(item for item in project.scene_texts if item.id != line.scene_text_id),
            ),
            label,
        )


class SplitLine(EditValue):
    """Cut a line before a word into two; the second goes to `second_shot_id`, or stays on the line's last
    shot. Where the cut is can also be told by the words before it, `after_text`.

    The caption that shows the word is cut with it; captions after it go to the second line. Marks go with
    their words.
    """

    kind: Literal["split_line"] = "split_line"
    line_id: str
    before_word: int = Field(default=1, ge=1)
    second_shot_id: str | None = None
    after_text: str | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        place = number(project.lines, line.id)
        said = said_text(project, line)
        words = words_of(said)
        cut = self.before_word if self.after_text is None else max(1, len(words_of(self.after_text)))
        if cut >= len(words):
            raise EditError(f"Line {place} has {len(words)} words; it can't be cut before word {cut + 1}.")
        if line.locked:
            raise EditError(f"Line {place} is locked. Unlock it to cut it in two.")
        if line.caption_ids and line.said is not None:
            raise EditError(
                f"Line {place} says other words than it shows, so nobody knows where to cut its caption. "
                "Let it say what is shown, or write two lines."
            )
        first, second = (
            said[: words[cut].start].strip(),
            said[words[cut].start :].strip(),
        )
        second_shot = project.shot(self.second_shot_id or line.last_shot_id)
        index = project.shot_index()
        until = max(index[line.last_shot_id], index[second_shot.id])
        new_id = next_id("l", [item.id for item in project.lines])
        fresh: dict[str, object] = {"take_id": None, "placement": None, "said": None, "takes": ()}
        one = line.changed(**(fresh | {"marks": cut_out(line.marks, 0, cut)}))
        if index[second_shot.id] > index[line.first_shot_id]:
            one = one.changed(last_shot_id=project.shots[index[second_shot.id] - 1].id)
        other = line.changed(
            **(
                fresh
                | {
                    "id": new_id,
                    "first_shot_id": second_shot.id,
                    "last_shot_id": project.shots[until].id,
                    "wanted_offset_ticks": None
                    if second_shot.id != line.first_shot_id
                    else line.wanted_offset_ticks,
                    "marks": cut_out(line.marks, cut, len(words)),
                }
            )
        )
        if line.caption_ids:
            made, one, other = self._captions(project, one, other, second_shot.id, cut)
        else:
            made, other = self._scene_texts(project, line, other, (first, second), second_shot.id)
        lines = [one if item.id == line.id else item for item in made.lines]
        lines.insert(position(project.lines, line.id) + 1, other)
        return with_lines(made, in_script_order(made, lines)), f"Line {place} cut in two"

    def _scene_texts(
        self, project: Project, line: Line, other: Line, parts: tuple[str, str], second_shot_id: str
    ) -> tuple[Project, Line]:
        texts = tuple(
            item.changed(text=parts[0]) if item.id == line.scene_text_id else item
            for item in project.scene_texts
        )
        new_text = SceneText(
            id=next_id("t", [item.id for item in project.scene_texts]),
            shot_id=second_shot_id,
            text=parts[1],
        )
        made = project.changed(scene_texts=(*texts, new_text))
        return made, other.changed(scene_text_id=new_text.id)

    def _captions(
        self, project: Project, one: Line, other: Line, second_shot_id: str, cut: int
    ) -> tuple[Project, Line, Line]:
        """The captions of a line shared out: those before the word, those after it, and one cut there."""
        before: list[str] = []
        left = cut
        for place, caption_id in enumerate(one.caption_ids):
            caption = project.caption(caption_id)
            count = len(words_of(caption.text))
            if left == 0:
                after = one.caption_ids[place:]
                return project, one.changed(caption_ids=tuple(before)), other.changed(caption_ids=after)
            if left < count:
                made, new_id = _cut_caption(project, caption, left, second_shot_id)
                after = (new_id, *one.caption_ids[place + 1 :])
                first = (*before, caption_id)
                return made, one.changed(caption_ids=first), other.changed(caption_ids=after)
            before.append(caption_id)
            left -= count
        raise EditError("There are not so many words.")


def _cut_caption(project: Project, shown: Caption, before_word: int, shot_id: str) -> tuple[Project, str]:
    """The project with a caption cut before a word (the second part put on a shot), and the new one's id."""
    at = words_of(shown.text)[before_word].start
    first, second = shown.text[:at].strip(), shown.text[at:].strip()
    share = len(first) / max(1, len(first) + len(second))
    middle = shown.in_frames + max(1, round((shown.out_frames - shown.in_frames) * share))
    same = shot_id == shown.shot_id
    length = max(2, shown.out_frames - middle)
    new = shown.changed(
        id=next_id("c", [item.id for item in project.captions]),
        shot_id=shot_id,
        text=second,
        in_frames=middle if same else 0,
        out_frames=max(middle + 1, shown.out_frames) if same else length,
    )
    old = shown.changed(text=first, out_frames=middle)
    captions = tuple(old if item.id == shown.id else item for item in project.captions)
    return project.changed(captions=in_time_order(project, (*captions, new))), new.id


class MergeLines(EditValue):
    """Say a line and the next one of the script in one go, over the shots of both."""

    kind: Literal["merge_lines"] = "merge_lines"
    line_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.lines, self.line_id)
        if place + 1 >= len(project.lines):
            raise EditError("This is the last line; there is no next one to join.")
        first, second = project.lines[place], project.lines[place + 1]
        if first.locked or second.locked:
            raise EditError("One of the two lines is locked. Unlock it to join them.")
        if first.lane != second.lane:
            raise EditError("The two lines are on different lanes.")
        if first.role_id != second.role_id:
            raise EditError("The two lines have different voices; a line has one.")
        if bool(first.caption_ids) != bool(second.caption_ids):
            raise EditError("One of the lines is shown and the other is not; they can't become one line.")
        index = project.shot_index()
        last = max((first.last_shot_id, second.last_shot_id), key=lambda shot_id: index[shot_id])
        words = len(words_of(said_text(project, first)))
        moved = shifted(second.marks, words)
        own = first.said is not None or second.said is not None or not first.caption_ids
        said = f"{said_text(project, first)} {said_text(project, second)}" if own else None
        made = first.changed(
            last_shot_id=last,
            caption_ids=(*first.caption_ids, *second.caption_ids),
            said=said if first.caption_ids else None,
            marks=(*first.marks, *moved),
            take_id=None,
            placement=None,
            takes=(),
        )
        lines = [made if item.id == first.id else item for item in project.lines if item.id != second.id]
        change: dict[str, object] = {"lines": tuple(lines)}
        if not first.caption_ids:
            change["scene_texts"] = tuple(
                item.changed(text=said) if item.id == first.scene_text_id else item
                for item in project.scene_texts
                if item.id != second.scene_text_id
            )
        return project.changed(**change), f"Lines {place + 1} and {place + 2} joined"
