"""Edits of the mix: how loud the whole and its columns are, and the shots' own sound."""

from typing import Annotated, Any, Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, number, with_shot
from fox_cadence.core.edits.beds import Seconds
from fox_cadence.core.mix import SPEECH_LUFS, own_gain_db
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.shot_limits import clip_frames
from fox_cadence.core.sound.bed import MOST_BEDS, Bed
from fox_cadence.core.sound.settings import COLUMNS, ROLE
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import shot_spans

ColumnGain = Annotated[float, Field(ge=-60, le=12)]
_NAMES = {"speech": "speech", "bed": "beds", "own": "the shots’ own sound", "effects": "effects"}


class SetMix(EditValue):
    """Loudness aim, true peak and the levels of columns; what is None stays."""

    kind: Literal["mix"] = "mix"
    aim_lufs: float | None = Field(None, ge=-40, le=-6)
    peak_db: float | None = Field(None, ge=-12, le=-0.1)
    speech_db: ColumnGain | None = None
    bed_db: ColumnGain | None = None
    own_db: ColumnGain | None = None
    effects_db: ColumnGain | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        change = self.model_dump(exclude={"kind"}, exclude_none=True)
        made = project.mix.changed(**change)
        columns = [_NAMES[name] for name in COLUMNS if f"{name}_db" in change]
        label = f"Level of {' and '.join(columns)}" if columns else f"Mix at {made.aim_lufs:g} LUFS"
        return project.changed(mix=made), label


class HearColumn(EditValue):
    """Mutes a column or a role, or makes it solo; without either it is heard as the others are."""

    kind: Literal["hear_column"] = "hear_column"
    column: str = Field(max_length=100)
    muted: bool = False
    solo: bool = False

    def apply(self, project: Project) -> tuple[Project, str]:
        if self.column.startswith(ROLE):
            name = project.role(self.column.removeprefix(ROLE)).name
        elif self.column in _NAMES:
            name = _NAMES[self.column]
        else:
            raise EditError("There is no such column.")
        change: dict[str, Any] = {}
        for field in ("muted", "solo"):
            others = tuple(each for each in getattr(project.mix, field) if each != self.column)
            change[field] = (*others, self.column) if getattr(self, field) else others
        how = "muted" if self.muted else "solo" if self.solo else "heard"
        return project.changed(mix=project.mix.changed(**change)), f"{name[0].upper()}{name[1:]} {how}"


class SetShotSound(EditValue):
    """A shot's own sound: its level against speech, muted, its fades at the cuts, quieter under speech or
    not; what is None stays."""

    kind: Literal["shot_sound"] = "shot_sound"
    shot_id: str
    gain_db: float | None = Field(None, ge=-60, le=6)
    muted: bool | None = None
    ducked: bool | None = None
    fade_in_s: Seconds | None = None
    fade_out_s: Seconds | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        change: dict[str, Any] = {}
        for name in ("gain_db", "muted", "ducked"):
            if getattr(self, name) is not None:
                change[f"sound_{name}"] = getattr(self, name)
        for name in ("fade_in", "fade_out"):
            seconds = getattr(self, f"{name}_s")
            if seconds is not None:
                change[f"sound_{name}_ticks"] = seconds_to_ticks(seconds)
        made = project.shot(self.shot_id).changed(**change)
        return with_shot(project, made), f"Own sound of shot {number(project.shots, made.id)}"


class OwnToBed(EditValue):
    """Takes its own sound away from a shot and makes it a bed at the same place, as loud as it was."""

    kind: Literal["own_to_bed"] = "own_to_bed"
    shot_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        shot = project.shot(self.shot_id)
        clip = project.clips.get(shot.clip_hash or "")
        if clip is None or not clip.has_sound:
            raise EditError("This shot has no sound of its own.")
        if shot.speed_percent != 100:
            raise EditError(
                "The sound of a shot at another speed can’t be taken away. Set it to its own first."
            )
        if len(project.beds) >= MOST_BEDS:
            raise EditError(f"A piece has at most {MOST_BEDS} beds.")
        span = next(each for each in shot_spans(project) if each.shot.id == shot.id)
        there = clip_frames(project, shot)
        frames = shot.length_frames if there is None else min(shot.length_frames, there)
        length = project.rate.ticks(frames)
        bed = Bed(
            id=next_id("b", [each.id for each in project.beds]),
            clip_hash=clip.hash,
            gain_db=max(-60.0, min(6.0, own_gain_db(shot, clip) - (SPEECH_LUFS - clip.loudness_lufs))),
            duck_db=0.0,
            start_ticks=project.rate.ticks(span.start_frame),
            length_ticks=length,
            source_in_ticks=shot.source_in_ticks,
            source_out_ticks=min(clip.length_ticks, shot.source_in_ticks + length),
            fade_in_ticks=seconds_to_ticks(0.02),
            fade_out_ticks=seconds_to_ticks(0.02),
        )
        made = with_shot(project, shot.changed(sound_muted=True)).changed(beds=(*project.beds, bed))
        return made, f"Own sound of shot {number(project.shots, shot.id)} as a bed"
