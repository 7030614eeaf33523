"""What an editor can change: each edit is a value that turns a project into the next one and has a name for undo."""

from typing import Annotated, Literal, TypeVar

from pydantic import Field

from fox_cadence.core.arrange import add_scene_line, in_script_order, next_id
from fox_cadence.core.project import (
    Bed,
    Caption,
    GiveWay,
    HouseLimits,
    Line,
    Project,
    Role,
    SceneText,
    Shot,
    Value,
    shot_limits_frames,
)
from fox_cadence.core.ticks import seconds_to_ticks

Text = Annotated[str, Field(max_length=5000)]
ShortText = Annotated[str, Field(min_length=1, max_length=200)]


class EditError(ValueError):
    """An edit that can't be made; the text is for the editor and says what to do."""


class SetCaptionText(Value):
    kind: Literal["caption_text"] = "caption_text"
    caption_id: str
    text: Text

    def apply(self, project: Project) -> tuple[Project, str]:
        caption = project.caption(self.caption_id)
        made = caption.model_copy(update={"text": self.text.strip()})
        return _with_caption(project, made), f"Words of caption {_number(project.captions, caption.id)}"


class SetCaptionTimes(Value):
    """In and out frame of the piece. A caption whose in time moves takes the wanted start of its line along."""

    kind: Literal["caption_times"] = "caption_times"
    caption_id: str
    in_frame: int
    out_frame: int

    def apply(self, project: Project) -> tuple[Project, str]:
        caption = project.caption(self.caption_id)
        start = _shot_start(project, caption.shot_id)
        total = sum(shot.length_frames for shot in project.shots)
        if self.in_frame < 0 or self.out_frame > total:
            raise EditError(f"The piece runs from frame 0 to {total}; the caption would lie outside it.")
        if self.out_frame - self.in_frame < 1:
            raise EditError("A caption must go out after it comes in.")
        made = caption.model_copy(update={"in_frames": self.in_frame - start, "out_frames": self.out_frame - start})
        moved = _with_caption(project, made)
        if made.in_frames != caption.in_frames:
            moved = _with_lines(moved, [_start_with(moved, line, made) for line in moved.lines])
        return moved, f"Times of caption {_number(project.captions, caption.id)}"


class SetShotLength(Value):
    """What follows moves along, or (`take_from_next`) the next shot gives or takes the difference."""

    kind: Literal["shot_length"] = "shot_length"
    shot_id: str
    length_frames: int
    take_from_next: bool = False

    def apply(self, project: Project) -> tuple[Project, str]:
        position = _position(project.shots, self.shot_id)
        shot = project.shots[position]
        number = position + 1
        if shot.locked:
            raise EditError(f"Shot {number} is locked. Unlock it to change its length.")
        made = _shot_of_length(project, shot, self.length_frames, number)
        shots = list(project.shots)
        shots[position] = made
        if self.take_from_next:
            if position + 1 >= len(shots):
                raise EditError("This is the last shot; there is no next one to take from.")
            following = shots[position + 1]
            if following.locked:
                raise EditError(f"Shot {number + 1} is locked. Unlock it to take from it.")
            rest = following.length_frames - (made.length_frames - shot.length_frames)
            shots[position + 1] = _shot_of_length(project, following, rest, number + 1)
        change = made.length_frames - shot.length_frames
        how = f"{abs(change)} frames {'longer' if change >= 0 else 'shorter'}"
        return project.model_copy(update={"shots": tuple(shots)}), f"Shot {number}, {how}"


class SetLock(Value):
    kind: Literal["lock"] = "lock"
    what: Literal["shot", "caption", "line"]
    id: str
    locked: bool

    def apply(self, project: Project) -> tuple[Project, str]:
        change = {"locked": self.locked}
        verb = "locked" if self.locked else "unlocked"
        if self.what == "shot":
            shot = project.shot(self.id)
            made = project.model_copy(update={"shots": _replaced(project.shots, shot.model_copy(update=change))})
            return made, f"Shot {_number(project.shots, self.id)} {verb}"
        if self.what == "caption":
            caption = project.caption(self.id)
            return (
                _with_caption(project, caption.model_copy(update=change)),
                f"Caption {_number(project.captions, self.id)} {verb}",
            )
        line = project.line(self.id).model_copy(update=change)
        return _with_lines(project, _replaced(project.lines, line)), f"Line {_number(project.lines, self.id)} {verb}"


class SetSaid(Value):
    """Own wording for a line, or None to say what its captions show."""

    kind: Literal["said"] = "said"
    line_id: str
    text: Text | None

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        label = f"Spoken words of line {_number(project.lines, line.id)}"
        text = self.text.strip() if self.text is not None else None
        if line.scene_text_id is not None and not line.caption_ids and text:
            texts = tuple(
                SceneText(id=item.id, shot_id=item.shot_id, text=text) if item.id == line.scene_text_id else item
                for item in project.scene_texts
            )
            return project.model_copy(update={"scene_texts": texts}), label
        made = line.model_copy(update={"said": text or None})
        return _with_lines(project, _replaced(project.lines, made)), label


class SetLineRole(Value):
    kind: Literal["line_role"] = "line_role"
    line_id: str
    role_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        role = project.role(self.role_id)
        line = project.line(self.line_id).model_copy(update={"role_id": role.id})
        return (
            _with_lines(project, _replaced(project.lines, line)),
            f"Line {_number(project.lines, line.id)} said by {role.name}",
        )


class SetRole(Value):
    """Voice and delivery of a role; what is None stays."""

    kind: Literal["role"] = "role"
    role_id: str
    name: ShortText | None = None
    voice_id: ShortText | None = None
    pace: float | None = Field(None, ge=0.5, le=2)
    pitch_semitones: float | None = Field(None, ge=-12, le=12)
    gain_db: float | None = Field(None, ge=-24, le=12)

    def apply(self, project: Project) -> tuple[Project, str]:
        role = project.role(self.role_id)
        change = self.model_dump(exclude={"kind", "role_id"}, exclude_none=True)
        made = role.model_copy(update=change)
        return project.model_copy(update={"roles": _replaced(project.roles, made)}), f"Delivery of {made.name}"


class AddRole(Value):
    kind: Literal["add_role"] = "add_role"
    name: ShortText
    voice_id: ShortText

    def apply(self, project: Project) -> tuple[Project, str]:
        role_id = next_id("r", [role.id for role in project.roles])
        role = Role(id=role_id, name=self.name.strip(), voice_id=self.voice_id, colour=len(project.roles))
        return project.model_copy(update={"roles": (*project.roles, role)}), f"Role {role.name}"


class AddCaption(Value):
    """A caption over a shot, with a line of its own that says it."""

    kind: Literal["add_caption"] = "add_caption"
    shot_id: str
    text: Annotated[str, Field(min_length=1, max_length=5000)]

    def apply(self, project: Project) -> tuple[Project, str]:
        shot = project.shot(self.shot_id)
        if not project.roles:
            raise EditError("The cast is empty. Add a role first, so that the caption has somebody to say it.")
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
        index = project.shot_index()
        captions = tuple(sorted((*project.captions, caption), key=lambda item: (index[item.shot_id], item.in_frames)))
        made = project.model_copy(update={"captions": captions})
        return _with_lines(made, in_script_order(made, (*made.lines, line))), f"Caption on {shot.name}"


class AddSceneText(Value):
    kind: Literal["add_scene_text"] = "add_scene_text"
    shot_id: str
    text: Annotated[str, Field(min_length=1, max_length=5000)]

    def apply(self, project: Project) -> tuple[Project, str]:
        shot = project.shot(self.shot_id)
        if not project.roles:
            raise EditError("The cast is empty. Add a role first, so that the words have somebody to say them.")
        return add_scene_line(project, shot.id, self.text.strip(), project.roles[0].id), f"Scene text on {shot.name}"


class DeleteLine(Value):
    """Takes a line away with its captions or its scene text."""

    kind: Literal["delete_line"] = "delete_line"
    line_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        line = project.line(self.line_id)
        label = f"Line {_number(project.lines, line.id)} deleted"
        return (
            project.model_copy(
                update={
                    "lines": tuple(item for item in project.lines if item.id != line.id),
                    "captions": tuple(item for item in project.captions if item.id not in line.caption_ids),
                    "scene_texts": tuple(item for item in project.scene_texts if item.id != line.scene_text_id),
                }
            ),
            label,
        )


class DeleteShot(Value):
    """Takes a shot away. Its words are not lost: they go to the neighbour."""

    kind: Literal["delete_shot"] = "delete_shot"
    shot_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        position = _position(project.shots, self.shot_id)
        if len(project.shots) == 1:
            raise EditError("A piece needs at least one shot.")
        neighbour = project.shots[position - 1 if position else 1]

        def moved(shot_id: str) -> str:
            return neighbour.id if shot_id == self.shot_id else shot_id

        lines = [
            line.model_copy(
                update={
                    "first_shot_id": moved(line.first_shot_id),
                    "last_shot_id": moved(line.last_shot_id),
                    "placement": None if self.shot_id in (line.first_shot_id, line.last_shot_id) else line.placement,
                }
            )
            for line in project.lines
        ]
        captions = tuple(item.model_copy(update={"shot_id": moved(item.shot_id)}) for item in project.captions)
        texts = tuple(item.model_copy(update={"shot_id": moved(item.shot_id)}) for item in project.scene_texts)
        shots = tuple(shot for shot in project.shots if shot.id != self.shot_id)
        made = project.model_copy(update={"shots": shots, "captions": captions, "scene_texts": texts})
        return _with_lines(made, lines), f"Shot {position + 1} deleted"


class SetSource(Value):
    """Where in its clip a shot begins."""

    kind: Literal["source"] = "source"
    shot_id: str
    source_in_frames: int = Field(ge=0)

    def apply(self, project: Project) -> tuple[Project, str]:
        shot = project.shot(self.shot_id)
        clip = project.clips.get(shot.clip_hash or "")
        if clip is None or clip.kind != "video":
            raise EditError("Only a shot with a video can begin later in its clip.")
        if shot.locked:
            raise EditError(f"Shot {_number(project.shots, shot.id)} is locked.")
        start = project.rate.ticks(self.source_in_frames)
        latest = clip.length_ticks - project.rate.ticks(shot.length_frames)
        if start > latest:
            most = max(0, latest // project.rate.frame_ticks)
            raise EditError(f"The clip ends before the shot would: it may begin at frame {most} at the latest.")
        made = shot.model_copy(update={"source_in_ticks": start})
        label = f"Begin of shot {_number(project.shots, shot.id)} in its clip"
        return project.model_copy(update={"shots": _replaced(project.shots, made)}), label


class SetShotSound(Value):
    """Level of a shot's own sound against speech; -60 and below is silence."""

    kind: Literal["shot_sound"] = "shot_sound"
    shot_id: str
    gain_db: float = Field(ge=-60, le=6)

    def apply(self, project: Project) -> tuple[Project, str]:
        made = project.shot(self.shot_id).model_copy(update={"sound_gain_db": self.gain_db})
        label = f"Own sound of shot {_number(project.shots, made.id)}"
        return project.model_copy(update={"shots": _replaced(project.shots, made)}), label


class SetSettings(Value):
    """Settings of the project; what is None stays. `longest_s` of 0 takes the limit away."""

    kind: Literal["settings"] = "settings"
    name: ShortText | None = None
    give_way: GiveWay | None = None
    caption_style: ShortText | None = None
    longest_s: float | None = Field(None, ge=0, le=7200)
    bed_gain_db: float | None = Field(None, ge=-60, le=6)
    bed_duck_db: float | None = Field(None, ge=0, le=40)
    fastest_pace: float | None = Field(None, ge=1, le=2)
    slowest_pace: float | None = Field(None, ge=0.5, le=1)
    shot_stretch: float | None = Field(None, ge=0, le=1)

    def apply(self, project: Project) -> tuple[Project, str]:
        change: dict[str, object] = {}
        if self.name is not None:
            change["name"] = self.name.strip()
        if self.give_way is not None:
            change["give_way"] = self.give_way
        if self.caption_style is not None:
            change["caption_style"] = self.caption_style
        if self.longest_s is not None:
            change["longest_ticks"] = seconds_to_ticks(self.longest_s) if self.longest_s > 0 else None
        bed = {"gain_db": self.bed_gain_db, "duck_db": self.bed_duck_db}
        wanted_bed = {key: value for key, value in bed.items() if value is not None}
        if wanted_bed and project.bed is not None:
            change["bed"] = Bed.model_validate(project.bed.model_dump() | wanted_bed)
        limits = self.model_dump(include={"fastest_pace", "slowest_pace", "shot_stretch"}, exclude_none=True)
        if limits:
            change["house"] = HouseLimits.model_validate(project.house.model_dump() | limits)
        return project.model_copy(update=change), _settings_label(list(change))


Edit = Annotated[
    SetCaptionText
    | SetCaptionTimes
    | SetShotLength
    | SetLock
    | SetSaid
    | SetLineRole
    | SetRole
    | AddRole
    | AddCaption
    | AddSceneText
    | DeleteLine
    | DeleteShot
    | SetSource
    | SetShotSound
    | SetSettings,
    Field(discriminator="kind"),
]


def _settings_label(changed: list[str]) -> str:
    names = {
        "name": "Name of the project",
        "give_way": "Who gives way",
        "caption_style": "Caption style",
        "longest_ticks": "Longest length",
        "bed": "Level of the bed",
        "house": "House limits",
    }
    return ", ".join(names[key] for key in changed) or "Settings"


def _shot_of_length(project: Project, shot: Shot, frames: int, number: int) -> Shot:
    if frames < 1:
        raise EditError(f"Shot {number} must last at least one frame.")
    clip = project.clips.get(shot.clip_hash or "")
    if clip is not None and clip.kind == "video":
        most = (clip.length_ticks - shot.source_in_ticks) // project.rate.frame_ticks
        if frames > most:
            raise EditError(f"The clip of shot {number} has {most} frames from where the shot begins, not {frames}.")
    made = shot.model_copy(update={"length_frames": frames, "wanted_frames": frames})
    low, high = shot_limits_frames(project, made)
    if not low <= frames <= high:
        raise EditError(f"Shot {number} may last from {low} to {high} frames.")
    return made


def _start_with(project: Project, line: Line, caption: Caption) -> Line:
    """A line whose first caption was moved wants to start with it, and is no longer where the last fit put it."""
    if not line.caption_ids or line.caption_ids[0] != caption.id or line.locked:
        return line
    shots = project.shot_index()
    lead = 0
    if shots[line.first_shot_id] != shots[caption.shot_id]:
        lead = _shot_start(project, caption.shot_id) - _shot_start(project, line.first_shot_id)
    wanted = project.rate.ticks(lead + caption.in_frames) + project.house.caption_lead_ticks
    change: dict[str, object] = {"wanted_offset_ticks": max(wanted, project.house.lead_ticks)}
    if line.placement is not None:
        change["placement"] = line.placement.model_copy(update={"offset_ticks": change["wanted_offset_ticks"]})
    return line.model_copy(update=change)


def _with_caption(project: Project, caption: Caption) -> Project:
    return project.model_copy(update={"captions": _replaced(project.captions, caption)})


def _with_lines(project: Project, lines: list[Line] | tuple[Line, ...]) -> Project:
    return project.model_copy(update={"lines": tuple(lines)})


T = TypeVar("T", Shot, Caption, Line, Role)


def _replaced(items: tuple[T, ...], made: T) -> tuple[T, ...]:
    return tuple(made if item.id == made.id else item for item in items)


def _position(items: tuple[Shot, ...] | tuple[Caption, ...] | tuple[Line, ...], object_id: str) -> int:
    ids = [item.id for item in items]
    if object_id not in ids:
        raise EditError("That is no longer in the project.")
    return ids.index(object_id)


def _number(items: tuple[Shot, ...] | tuple[Caption, ...] | tuple[Line, ...], object_id: str) -> int:
    return _position(items, object_id) + 1


def _shot_start(project: Project, shot_id: str) -> int:
    at = 0
    for shot in project.shots:
        if shot.id == shot_id:
            return at
        at += shot.length_frames
    raise EditError("That shot is no longer in the project.")
