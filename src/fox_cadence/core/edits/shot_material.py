"""Edits of what of its clip a shot shows: from where, how much, how fast."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.adjustment import Adjustment
from fox_cadence.core.edits.base import EditError, EditValue, position, with_shot
from fox_cadence.core.edits.shots import of_length
from fox_cadence.core.framing import Framing
from fox_cadence.core.looks import shipped_look
from fox_cadence.core.numbers import counted
from fox_cadence.core.overlay import MOST_LAID, Laid, overlay_by_id
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.shot import Shot
from fox_cadence.core.shot_limits import clip_frames, source_ticks

SLOWEST_PERCENT, FASTEST_PERCENT = 25, 400


class SetWindow(EditValue):
    """Which part of its clip a shot shows: where it begins there (frames of the piece at the clip's own
    speed) and how long it lasts."""

    kind: Literal["window"] = "window"
    shot_id: str
    source_in_frames: int = Field(ge=0)
    length_frames: int = Field(ge=1)

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.shots, self.shot_id)
        shot = _free_video(project, place)
        begun = shot.changed(source_in_ticks=project.rate.ticks(self.source_in_frames))
        _check_end(project, begun, self.length_frames)
        if self.length_frames != shot.length_frames:  # else the wanted length stays, as after a fit
            begun = of_length(project, begun, self.length_frames, place)
        return with_shot(project, begun), f"Part of its clip in shot {place + 1}"


class SetSpeed(EditValue):
    """How fast a shot shows its clip, in percent. It shows the same part, so it gets longer or shorter;
    with `keep_length` it stays as long and shows more or less."""

    kind: Literal["speed"] = "speed"
    shot_id: str
    percent: int = Field(ge=SLOWEST_PERCENT, le=FASTEST_PERCENT)
    keep_length: bool = False

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.shots, self.shot_id)
        shot = _free_video(project, place)
        if shot.speed_percent == 0:
            raise EditError(f"Shot {place + 1} holds one frame; it has no speed.")
        frames = shot.length_frames
        if not self.keep_length:
            shown = source_ticks(shot, project.rate.ticks(frames))
            frames = max(1, round(shown * 100 / self.percent / project.rate.frame_ticks))
        made = shot.changed(speed_percent=self.percent)
        if self.keep_length:
            _check_end(project, made, frames)
        else:
            most = clip_frames(project, made)
            frames = frames if most is None else max(1, min(frames, most))
        made = of_length(project, made, frames, place)
        return with_shot(project, made), f"Shot {place + 1} at {self.percent} % of its speed"


class SetFraming(EditValue):
    """How clips fill the frame, for one shot or (without a shot) for all that have a clip."""

    kind: Literal["framing"] = "framing"
    shot_id: str | None = None
    framing: Framing

    def apply(self, project: Project) -> tuple[Project, str]:
        if self.shot_id is not None:
            place = position(project.shots, self.shot_id)
            if project.shots[place].clip_hash is None:
                raise EditError("A plain colour has nothing to frame.")
            made = project.shots[place].changed(framing=self.framing)
            return with_shot(project, made), f"Framing of shot {place + 1}"
        shots = tuple(
            shot.changed(framing=self.framing) if shot.clip_hash else shot for shot in project.shots
        )
        return project.changed(shots=shots), "Framing of all shots"


class SetAdjustment(EditValue):
    """What is changed of the picture of some shots, or (without a shot) of all that have a clip."""

    kind: Literal["adjustment"] = "adjustment"
    shot_ids: tuple[str, ...] = ()
    adjustment: Adjustment

    def apply(self, project: Project) -> tuple[Project, str]:
        look = self.adjustment.look_hash
        if look is not None and (look not in project.clips or project.clips[look].kind != "look"):
            raise EditError("That look is not in this project. Bring in its file first.")
        if look is None and self.adjustment.look and shipped_look(self.adjustment.look) is None:
            raise EditError(f"There is no look {self.adjustment.look!r}.")
        places = [position(project.shots, each) for each in self.shot_ids]
        if any(project.shots[place].clip_hash is None for place in places):
            raise EditError("A plain colour has nothing to adjust.")
        wanted = {project.shots[place].id for place in places}
        shots = tuple(
            shot.changed(adjustment=self.adjustment)
            if shot.clip_hash and (not wanted or shot.id in wanted)
            else shot
            for shot in project.shots
        )
        if not wanted:
            which = "all shots"
        else:
            which = (
                f"{'shots' if len(places) > 1 else 'shot'} {', '.join(str(place + 1) for place in places)}"
            )
        return project.changed(shots=shots), f"Adjustment of {which}"


class LayOver(EditValue):
    """A picture over a shot, in its middle; a frame as large as the frame of the piece."""

    kind: Literal["lay_over"] = "lay_over"
    shot_id: str
    picture: str

    def apply(self, project: Project) -> tuple[Project, str]:
        shot = project.shots[position(project.shots, self.shot_id)]
        overlay = overlay_by_id(self.picture)
        if overlay is None:
            raise EditError(f"There is no picture {self.picture!r} to lay over a shot.")
        if len(shot.laid) >= MOST_LAID:
            raise EditError(f"{MOST_LAID} pictures over one shot is the most.")
        new = Laid(id=next_id("o", [each.id for each in shot.laid]), picture=self.picture)
        if overlay.whole_frame:
            new = new.changed(size=1.0)
        number = position(project.shots, self.shot_id) + 1
        return with_shot(
            project, shot.changed(laid=(*shot.laid, new))
        ), f"{overlay.title} laid over shot {number}"


class SetLaid(EditValue):
    """The pictures laid over a shot, the later ones over the earlier."""

    kind: Literal["laid"] = "laid"
    shot_id: str
    laid: tuple[Laid, ...] = Field(max_length=MOST_LAID)

    def apply(self, project: Project) -> tuple[Project, str]:
        shot = project.shots[position(project.shots, self.shot_id)]
        for each in self.laid:
            if overlay_by_id(each.picture) is None:
                raise EditError(f"There is no picture {each.picture!r} to lay over a shot.")
            if each.ends <= each.begins:
                raise EditError("It must be seen for a while: its end comes after its beginning.")
        if len({each.id for each in self.laid}) < len(self.laid):
            raise EditError("Two pictures have the same id.")
        count = counted(len(self.laid), "picture")
        number = position(project.shots, self.shot_id) + 1
        return with_shot(project, shot.changed(laid=self.laid)), f"Laid over shot {number}: {count}"


def _free_video(project: Project, place: int) -> Shot:
    shot = project.shots[place]
    clip = project.clips.get(shot.clip_hash or "")
    if clip is None or clip.kind != "video":
        raise EditError("Only a shot with a video shows a part of its clip.")
    if shot.locked:
        raise EditError(f"Shot {place + 1} is locked.")
    return shot


def _check_end(project: Project, shot: Shot, frames: int) -> None:
    """Raises EditError where the clip would end before a shot of so many frames."""
    clip = project.clips[shot.clip_hash or ""]
    needed = source_ticks(shot, project.rate.ticks(frames))
    if shot.source_in_ticks + needed > clip.length_ticks:
        most = max(0, (clip.length_ticks - needed) // project.rate.frame_ticks)
        raise EditError(f"The clip ends before the shot would: it may begin at frame {most} at the latest.")
