"""Edits of shots."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, number, position, with_lines, with_shot
from fox_cadence.core.edits.title_places import titles_without
from fox_cadence.core.framing import PLAIN
from fox_cadence.core.names import tidy_name
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.shot import Clip, GiveWay, Shot
from fox_cadence.core.shot_limits import clip_frames, least_frames, shot_limits_frames
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.transition import TransitionKind


class SetShotLength(EditValue):
    """What follows moves along, or (`take_from_next`) the next shot gives or takes the difference.

    With `unlock` a locked shot is unlocked for it, as a remedy asks for by name.
    """

    kind: Literal["shot_length"] = "shot_length"
    shot_id: str
    length_frames: int
    take_from_next: bool = False
    unlock: bool = False

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.shots, self.shot_id)
        shot = project.shots[place]
        if shot.locked and not self.unlock:
            raise EditError(f"Shot {place + 1} is locked. Unlock it to change its length.")
        shot = shot.changed(locked=False)
        made = with_shot(project, of_length(project, shot, self.length_frames, place))
        change = self.length_frames - shot.length_frames
        if self.take_from_next:
            made = self._from_next(made, place, change)
        how = f"{abs(change)} frames {'longer' if change >= 0 else 'shorter'}"
        return made, f"Shot {place + 1}, {how}"

    def _from_next(self, project: Project, place: int, change: int) -> Project:
        if place + 1 >= len(project.shots):
            raise EditError("This is the last shot; there is no next one to take from.")
        following = project.shots[place + 1]
        if following.locked:
            raise EditError(f"Shot {place + 2} is locked. Unlock it to take from it.")
        return with_shot(project, of_length(project, following, following.length_frames - change, place + 1))


def of_length(project: Project, shot: Shot, frames: int, place: int) -> Shot:
    """A shot as long as asked. Raises EditError where its clip or its limits don't allow it."""
    if frames < 1:
        raise EditError(f"Shot {place + 1} must last at least one frame.")
    most = clip_frames(project, shot)
    if most is not None and frames > max(most, shot.length_frames):
        raise EditError(
            f"The clip of shot {place + 1} has {most} frames from where the shot begins, not {frames}."
        )
    made = shot.changed(length_frames=frames, wanted_frames=frames)
    low, high = shot_limits_frames(with_shot(project, made), place)
    if not low <= frames <= high:
        raise EditError(f"Shot {place + 1} may last from {low} to {high} frames.")
    return made


class SetShotLimits(EditValue):
    """Shortest and longest length a fit may give a shot; None goes back to the house's stretch."""

    kind: Literal["shot_limits"] = "shot_limits"
    shot_id: str
    shortest_frames: int | None = Field(None, ge=1)
    longest_frames: int | None = Field(None, ge=1)

    def apply(self, project: Project) -> tuple[Project, str]:
        shot = project.shot(self.shot_id)
        low, high = self.shortest_frames, self.longest_frames
        if low is not None and high is not None and low > high:
            raise EditError(f"The shortest length, {low} frames, is above the longest, {high}.")
        made = shot.changed(shortest_frames=low, longest_frames=high)
        return with_shot(project, made), f"Limits of shot {number(project.shots, shot.id)}"


class SetTransition(EditValue):
    """How a shot becomes the next, and in how many frames; 0 is a plain cut.

    Without a shot it is set at every cut whose shots are long enough.
    """

    kind: Literal["transition"] = "transition"
    shot_id: str | None
    frames: int = Field(ge=0, le=600)
    how: TransitionKind = "dissolve"
    colour: str = Field("#000000", pattern=r"^#[0-9a-fA-F]{6}$")

    def apply(self, project: Project) -> tuple[Project, str]:
        if self.shot_id is None:
            return self._everywhere(project)
        place = position(project.shots, self.shot_id)
        if place + 1 == len(project.shots) and self.frames:
            raise EditError("This is the last shot; there is nothing for it to become.")
        made = self._set(project, place)
        near = _too_short(made, place)
        if near is not None:
            raise EditError(
                f"Shot {near + 1} has {made.shots[near].length_frames} frames; its transitions and a frame "
                f"between them need {least_frames(made, near)}. Fewer frames would do, or a longer shot."
            )
        if not self.frames:
            return made, f"Plain cut after shot {place + 1}"
        return made, f"Shot {place + 1} becomes the next in {self.frames} frames, {self.how}"

    def _set(self, project: Project, place: int) -> Project:
        shot = project.shots[place].changed(
            transition_frames=self.frames, transition_kind=self.how, transition_colour=self.colour
        )
        return with_shot(project, shot)

    def _everywhere(self, project: Project) -> tuple[Project, str]:
        made, left = project, 0
        for place in range(len(project.shots) - 1):
            tried = self._set(made, place)
            if _too_short(tried, place) is None:
                made = tried
            else:
                left += 1
        what = f"{self.how} in {self.frames} frames" if self.frames else "a plain cut"
        return made, f"Every cut: {what}" + (f"; {left} left as they are, too short for it" if left else "")


def _too_short(project: Project, place: int) -> int | None:
    """Which of the shots at a cut is too short for its transitions."""
    for near in (place, place + 1):
        if near < len(project.shots) and project.shots[near].length_frames < least_frames(project, near):
            return near
    return None


class SetShotGivesWay(EditValue):
    """Who gives way at one shot; None follows the project."""

    kind: Literal["shot_gives_way"] = "shot_gives_way"
    shot_id: str
    give_way: GiveWay | None

    def apply(self, project: Project) -> tuple[Project, str]:
        made = project.shot(self.shot_id).changed(give_way=self.give_way)
        return with_shot(project, made), f"Who gives way at shot {number(project.shots, made.id)}"


class SetOnBeat(EditValue):
    """Ask that the cut a shot begins with lies on a beat of the bed."""

    kind: Literal["on_beat"] = "on_beat"
    shot_id: str
    on_beat: bool

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.shots, self.shot_id)
        if place == 0:
            raise EditError(
                "The piece begins with the first shot; only the cuts after it can be put on beats."
            )
        if self.on_beat and not project.beats:
            raise EditError(
                "No beats are known yet. Find those of a bed under Sound, or type them under House limits."
            )
        made = project.shots[place].changed(on_beat=self.on_beat)
        return with_shot(
            project, made
        ), f"Cut to shot {place + 1} {'on a beat' if self.on_beat else 'off the beats'}"


class DeleteShot(EditValue):
    """Takes a shot away, and its time with it, or with `keep_time` only its picture: a plain colour stays.

    Its words are not lost: without its time they go to the neighbour.
    """

    kind: Literal["delete_shot"] = "delete_shot"
    shot_id: str
    keep_time: bool = False

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.shots, self.shot_id)
        if self.keep_time:
            plain = project.shots[place].changed(clip_hash=None, source_in_ticks=0, speed_percent=100)
            return with_shot(project, plain), f"Picture of shot {place + 1} deleted, its time kept"
        if len(project.shots) == 1:
            raise EditError("A piece needs at least one shot.")
        neighbour = project.shots[place - 1 if place else 1]

        def moved(shot_id: str) -> str:
            return neighbour.id if shot_id == self.shot_id else shot_id

        lines = [
            line.changed(
                first_shot_id=moved(line.first_shot_id),
                last_shot_id=moved(line.last_shot_id),
                placement=None if self.shot_id in (line.first_shot_id, line.last_shot_id) else line.placement,
                marks=tuple(mark for mark in line.marks if getattr(mark, "shot_id", None) != self.shot_id),
            )
            for line in project.lines
        ]
        captions = tuple(item.changed(shot_id=moved(item.shot_id)) for item in project.captions)
        texts = tuple(item.changed(shot_id=moved(item.shot_id)) for item in project.scene_texts)
        shots = tuple(shot for shot in project.shots if shot.id != self.shot_id)
        titles = titles_without(project, self.shot_id, neighbour)
        made = project.changed(shots=shots, captions=captions, titles=titles, scene_texts=texts)
        return with_lines(_plain_where_too_short(made, place), lines), f"Shot {place + 1} deleted"


def _plain_where_too_short(project: Project, place: int) -> Project:
    """A dissolve into a shot that is too short for it becomes a plain cut, where shots have met anew at
    `place`."""
    if not 0 < place < len(project.shots) or project.shots[place].length_frames >= least_frames(
        project, place
    ):
        return project
    return with_shot(project, project.shots[place - 1].changed(transition_frames=0))


class AddShot(EditValue):
    """A shot after another one, before one, or at the end.

    It shows a clip of the project at its whole length, or a plain colour. Stills and colours last `seconds`.
    Words stay with the shots they are on.
    """

    kind: Literal["add_shot"] = "add_shot"
    after_shot_id: str | None = None
    before_shot_id: str | None = None
    clip_hash: str | None = None
    colour: str = Field("#20302c", pattern=r"^#[0-9a-fA-F]{6}$")
    name: str = Field("", max_length=200)
    seconds: float = Field(4.0, gt=0, le=7200)

    def apply(self, project: Project) -> tuple[Project, str]:
        clip = self._clip(project)
        if clip is not None and clip.kind == "video":
            frames = max(1, project.rate.frames_floor(clip.length_ticks + project.rate.frame_ticks // 100))
        else:
            frames = max(1, project.rate.frames_nearest(seconds_to_ticks(self.seconds)))
        shot = Shot(
            id=next_id("s", [item.id for item in project.shots]),
            name=tidy_name(self.name) or (clip.name.rsplit(".", 1)[0] if clip else "Plain colour"),
            clip_hash=clip.hash if clip else None,
            colour=self.colour,
            length_frames=frames,
            wanted_frames=frames,
            framing=clip.framing if clip else PLAIN,
        )
        if self.before_shot_id is not None:
            place = position(project.shots, self.before_shot_id)
        elif self.after_shot_id is not None:
            place = position(project.shots, self.after_shot_id) + 1
        else:
            place = len(project.shots)
        made = project.changed(shots=(*project.shots[:place], shot, *project.shots[place:]))
        return _plain_where_too_short(made, place), f"Shot {place + 1} added, {shot.name}"

    def _clip(self, project: Project) -> Clip | None:
        if self.clip_hash is None:
            return None
        clip = project.clips.get(self.clip_hash)
        if clip is None or not clip.has_picture:
            raise EditError("That is no picture of this project. Add the file first.")
        return clip
