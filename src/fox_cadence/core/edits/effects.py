"""Edits of spot effects."""

from typing import Annotated, Any, Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, replaced
from fox_cadence.core.edits.beds import Seconds, sound_clip
from fox_cadence.core.project import Project, said_text
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.sound.effect import MOST_EFFECTS, SpotEffect
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.words import words_of

Offset = Annotated[float, Field(ge=-3_600, le=86_400)]


class _Placed(EditValue):
    """What an effect is held to: a word of a line, the coming in of a title, or with neither the cut a shot
    begins with; so many seconds after it."""

    shot_id: str | None = None
    line_id: str | None = None
    word: int = Field(0, ge=0)
    title_id: str | None = None
    offset_s: Offset = 0.0

    def _place(self, project: Project) -> dict[str, Any]:
        offset = seconds_to_ticks(self.offset_s)
        if self.line_id is not None:
            line = project.line(self.line_id)
            if self.word >= len(words_of(said_text(project, line))):
                raise EditError("The line has fewer words than that.")
            held: dict[str, Any] = {"line_id": line.id, "word": self.word, "title_id": None}
            return {
                **held,
                "offset_ticks": offset,
                "shot_id": line.first_shot_id,
                "shot_offset_ticks": offset,
            }
        if self.title_id is not None:
            title = project.title(self.title_id)
            comes = project.rate.ticks(title.in_frames) + offset
            held = {"line_id": None, "word": 0, "title_id": title.id, "offset_ticks": offset}
            return {**held, "shot_id": title.shot_id, "shot_offset_ticks": comes}
        if self.shot_id is None:
            raise EditError("Choose a shot, a word or a title to hold the effect to.")
        held = {"line_id": None, "word": 0, "title_id": None, "offset_ticks": 0}
        return {**held, "shot_id": project.shot(self.shot_id).id, "shot_offset_ticks": offset}


class AddEffect(_Placed):
    """A spot effect: a sound of the project, held to something of the piece."""

    kind: Literal["add_effect"] = "add_effect"
    clip_hash: str
    gain_db: float = Field(-6.0, ge=-60, le=12)

    def apply(self, project: Project) -> tuple[Project, str]:
        clip = sound_clip(project, self.clip_hash)
        if len(project.effects) >= MOST_EFFECTS:
            raise EditError(f"A piece has at most {MOST_EFFECTS} spot effects.")
        effect_id = next_id("e", [each.id for each in project.effects])
        made = SpotEffect(id=effect_id, clip_hash=clip.hash, gain_db=self.gain_db, **self._place(project))
        return project.changed(effects=(*project.effects, made)), f"Effect {clip.name}"


class HoldEffect(_Placed):
    """An effect held to something else, or at another time from it."""

    kind: Literal["hold_effect"] = "hold_effect"
    effect_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        made = project.effect(self.effect_id).changed(**self._place(project))
        return project.changed(effects=replaced(project.effects, made)), f"Place of {_name(project, made)}"


class SetEffect(EditValue):
    """Level and fades of an effect; what is None stays."""

    kind: Literal["effect"] = "effect"
    effect_id: str
    gain_db: float | None = Field(None, ge=-60, le=12)
    fade_in_s: Seconds | None = None
    fade_out_s: Seconds | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        change: dict[str, Any] = {} if self.gain_db is None else {"gain_db": self.gain_db}
        for name in ("fade_in", "fade_out"):
            seconds = getattr(self, f"{name}_s")
            if seconds is not None:
                change[f"{name}_ticks"] = seconds_to_ticks(seconds)
        made = project.effect(self.effect_id).changed(**change)
        return project.changed(effects=replaced(project.effects, made)), _name(project, made)


class DeleteEffect(EditValue):
    kind: Literal["delete_effect"] = "delete_effect"
    effect_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        effect = project.effect(self.effect_id)
        left = tuple(each for each in project.effects if each.id != effect.id)
        return project.changed(effects=left), f"{_name(project, effect)} taken off"


def _name(project: Project, effect: SpotEffect) -> str:
    clip = project.clips.get(effect.clip_hash)
    return f"Effect {clip.name}" if clip else "Effect"
