"""Edits of the project's settings and of its house limits."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, ShortText
from fox_cadence.core.house import HouseLimits
from fox_cadence.core.names import tidy_name
from fox_cadence.core.project import Project
from fox_cadence.core.shot import GiveWay, PastClipEnd
from fox_cadence.core.ticks import seconds_to_ticks


class SetSettings(EditValue):
    """Settings of the project; what is None stays. `longest_s` or `character_budget` of 0 takes the limit
    away."""

    kind: Literal["settings"] = "settings"
    name: ShortText | None = None
    give_way: GiveWay | None = None
    longest_s: float | None = Field(None, ge=0, le=7200)
    length_fixed: bool | None = None
    past_clip_end: PastClipEnd | None = None
    commercial: bool | None = None
    keep_in_step: bool | None = None
    character_budget: int | None = Field(None, ge=0, le=10_000_000)

    def apply(self, project: Project) -> tuple[Project, str]:
        change: dict[str, object] = {}
        if self.name is not None:
            change["name"] = tidy_name(self.name) or project.name
        if self.give_way is not None:
            change["give_way"] = self.give_way
        if self.past_clip_end is not None:
            change["past_clip_end"] = self.past_clip_end
        if self.longest_s is not None:
            change["longest_ticks"] = seconds_to_ticks(self.longest_s) if self.longest_s > 0 else None
            if self.longest_s == 0:
                change["length_fixed"] = False
        if self.length_fixed is not None:
            if self.length_fixed and change.get("longest_ticks", project.longest_ticks) is None:
                raise EditError("Give the piece a length first; then it can be held to it.")
            change["length_fixed"] = self.length_fixed
        if self.commercial is not None:
            change["commercial"] = self.commercial
        if self.keep_in_step is not None:
            change["keep_in_step"] = self.keep_in_step
        if self.character_budget is not None:
            change["character_budget"] = self.character_budget or None
        return project.changed(**change), _label(list(change))


def _label(changed: list[str]) -> str:
    names = {
        "name": "Name of the project",
        "give_way": "Who gives way",
        "past_clip_end": "What a shot shows after the end of its clip",
        "longest_ticks": "Longest length",
        "length_fixed": "Held to its length",
        "commercial": "Commercial use",
        "keep_in_step": "Speech in step with the words",
        "character_budget": "Character budget",
    }
    return ", ".join(names[key] for key in changed) or "Settings"


class SetHouse(EditValue):
    """House limits; what is None stays. Times in seconds."""

    kind: Literal["house"] = "house"
    slowest_pace: float | None = Field(None, ge=0.5, le=1)
    fastest_pace: float | None = Field(None, ge=1, le=2)
    shortest_pause_s: float | None = Field(None, ge=0, le=2)
    lead_s: float | None = Field(None, ge=0, le=5)
    tail_s: float | None = Field(None, ge=0, le=5)
    gap_s: float | None = Field(None, ge=0, le=5)
    voice_change_gap_s: float | None = Field(None, ge=0, le=5)
    longest_silence_s: float | None = Field(None, ge=0, le=60)
    reading_rate_cps: float | None = Field(None, ge=5, le=60)
    shortest_caption_s: float | None = Field(None, ge=0.1, le=10)
    caption_lead_s: float | None = Field(None, ge=0, le=2)
    caption_linger_s: float | None = Field(None, ge=0, le=5)
    caption_snap_s: float | None = Field(None, ge=0, le=1)
    shot_stretch: float | None = Field(None, ge=0, le=1)
    longest_j_cut_s: float | None = Field(None, ge=0, le=5)
    longest_l_cut_s: float | None = Field(None, ge=0, le=5)
    close_written_pauses: bool | None = None
    caption_lines: int | None = Field(None, ge=1, le=6)
    caption_line_characters: int | None = Field(None, ge=8, le=80)
    caption_gap_s: float | None = Field(None, ge=0, le=2)
    least_contrast: float | None = Field(None, ge=1, le=21)

    def apply(self, project: Project) -> tuple[Project, str]:
        change: dict[str, object] = {}
        for name, value in self.model_dump(exclude={"kind"}, exclude_none=True).items():
            if name.endswith("_s"):
                change[f"{name[:-2]}_ticks"] = seconds_to_ticks(value)
            else:
                change[name] = value
        house = HouseLimits.model_validate(project.house.model_dump() | change)
        return project.changed(house=house), "House limits"


class SetBeats(EditValue):
    """The beats of the bed, in seconds of the piece."""

    kind: Literal["beats"] = "beats"
    times_s: list[float] = Field(max_length=20_000)

    def apply(self, project: Project) -> tuple[Project, str]:
        if any(time < 0 or time > 7200 for time in self.times_s):
            raise EditError("A beat lies between 0 and 7200 seconds.")
        beats = tuple(sorted({seconds_to_ticks(time) for time in self.times_s}))
        change: dict[str, object] = {"beats": beats}
        if not beats:
            change["shots"] = tuple(shot.changed(on_beat=False) for shot in project.shots)
        return project.changed(**change), f"{len(beats)} beats"
