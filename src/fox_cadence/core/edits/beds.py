"""Edits of beds: the music under the narration."""

from typing import Annotated, Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, replaced
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.shot import Clip
from fox_cadence.core.sound.bed import LEAST_PART_TICKS, MOST_BEDS, MOST_POINTS, Bed, LevelPoint, Stretch
from fox_cadence.core.ticks import seconds_to_ticks

Seconds = Annotated[float, Field(ge=0, le=86_400)]
_NO_SOUND = "That is no sound of this project. Add the file first."


def sound_clip(project: Project, clip_hash: str) -> Clip:
    """A clip that can be heard. Raises EditError."""
    clip = project.clips.get(clip_hash)
    if clip is None or not clip.has_sound:
        raise EditError(_NO_SOUND)
    return clip


class AddBed(EditValue):
    """Music under the narration from a second of the piece on: a sound of the project."""

    kind: Literal["add_bed"] = "add_bed"
    clip_hash: str
    start_s: Seconds = 0.0

    def apply(self, project: Project) -> tuple[Project, str]:
        clip = sound_clip(project, self.clip_hash)
        if len(project.beds) >= MOST_BEDS:
            raise EditError(f"A piece has at most {MOST_BEDS} beds.")
        bed_id = next_id("b", [bed.id for bed in project.beds])
        made = Bed(id=bed_id, clip_hash=clip.hash, start_ticks=seconds_to_ticks(self.start_s))
        return project.changed(beds=(*project.beds, made)), f"Bed {clip.name}"


class DeleteBed(EditValue):
    kind: Literal["delete_bed"] = "delete_bed"
    bed_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        bed = project.bed(self.bed_id)
        left = tuple(each for each in project.beds if each.id != bed.id)
        return project.changed(beds=left), "Bed removed"


class SetBed(EditValue):
    """Anything of a bed; what is None stays. A length of 0 is to the end of the piece, an end of the part or
    of the loop of 0 that of the clip. Another clip, part or loop is played as it is, not as it was cut."""

    kind: Literal["bed"] = "bed"
    bed_id: str
    clip_hash: str | None = None
    gain_db: float | None = Field(None, ge=-60, le=6)
    duck_db: float | None = Field(None, ge=0, le=40)
    duck_in_ms: int | None = Field(None, ge=10, le=3_000)
    duck_out_ms: int | None = Field(None, ge=10, le=6_000)
    fade_in_s: Seconds | None = None
    fade_out_s: Seconds | None = None
    start_s: Seconds | None = None
    length_s: Seconds | None = None
    source_in_s: Seconds | None = None
    source_out_s: Seconds | None = None
    loop_in_s: Seconds | None = None
    loop_out_s: Seconds | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        bed = project.bed(self.bed_id)
        plain = ("gain_db", "duck_db", "duck_in_ms", "duck_out_ms")
        change = {name: value for name in plain if (value := getattr(self, name)) is not None}
        for name in (
            "fade_in",
            "fade_out",
            "start",
            "length",
            "source_in",
            "source_out",
            "loop_in",
            "loop_out",
        ):
            seconds = getattr(self, f"{name}_s")
            if seconds is not None:
                open_end = name in ("length", "source_out", "loop_out") and seconds == 0
                change[f"{name}_ticks"] = None if open_end else seconds_to_ticks(seconds)
        if self.clip_hash is not None:
            change |= {"clip_hash": sound_clip(project, self.clip_hash).hash}
            change |= {"source_in_ticks": 0, "source_out_ticks": None, "loop_in_ticks": None}
            change |= {"loop_out_ticks": None}
        if change.keys() & {
            "clip_hash",
            "source_in_ticks",
            "source_out_ticks",
            "loop_in_ticks",
            "loop_out_ticks",
        }:
            change |= {"stretches": (), "cut_for_ticks": None}
        made = bed.changed(**change)
        _checked_part(project, made)
        name = project.clips[made.clip_hash].name
        what = "Level of the bed" if set(change) == {"gain_db"} else "Bed"
        return project.changed(beds=replaced(project.beds, made)), f"{what} {name}"


def _checked_part(project: Project, bed: Bed) -> None:
    length = project.clips[bed.clip_hash].length_ticks
    end = length if bed.source_out_ticks is None else min(length, bed.source_out_ticks)
    if end - bed.source_in_ticks < min(LEAST_PART_TICKS, length):
        raise EditError("That part of the clip is too short to be heard.")
    if bed.loop_in_ticks is not None or bed.loop_out_ticks is not None:
        loop_end = end if bed.loop_out_ticks is None else bed.loop_out_ticks
        loop_start = bed.loop_in_ticks or 0
        if loop_end > end or loop_start < bed.source_in_ticks or loop_end - loop_start < LEAST_PART_TICKS:
            raise EditError("The loop has to lie in the part of the clip that is played.")


class SetLevels(EditValue):
    """The level curve of a bed, instead of the one it has: points of seconds after its start and decibels."""

    kind: Literal["bed_levels"] = "bed_levels"
    bed_id: str
    points: list[tuple[Seconds, Annotated[float, Field(ge=-60, le=12)]]] = Field(max_length=MOST_POINTS)

    def apply(self, project: Project) -> tuple[Project, str]:
        bed = project.bed(self.bed_id)
        at = {
            seconds_to_ticks(seconds): gain for seconds, gain in self.points
        }  # the last where two are at one time
        levels = tuple(LevelPoint(at_ticks=ticks, gain_db=at[ticks]) for ticks in sorted(at))
        made = bed.changed(levels=levels)
        count = counted(len(levels), "point")
        return project.changed(beds=replaced(project.beds, made)), f"Level curve, {count}"


class CutBed(EditValue):
    """A bed cut by bars: the stretches of its clip that are played one after the other, found for a length of
    the piece. Without stretches it is played as it is again."""

    kind: Literal["cut_bed"] = "cut_bed"
    bed_id: str
    stretches: tuple[Stretch, ...] = Field((), max_length=1_000)
    for_s: Seconds | None = None

    def apply(self, project: Project) -> tuple[Project, str]:
        bed = project.bed(self.bed_id)
        made = bed.changed(
            stretches=self.stretches,
            cut_for_ticks=None if self.for_s is None or not self.stretches else seconds_to_ticks(self.for_s),
            fade_out_ticks=seconds_to_ticks(0.02) if self.stretches else Bed(clip_hash="").fade_out_ticks,
        )
        label = "Bed cut to the piece by bars" if self.stretches else "Bed as it is, not cut"
        return project.changed(beds=replaced(project.beds, made)), label
