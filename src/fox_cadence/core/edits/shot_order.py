"""Edits of the order of shots, and of where one ends and the next begins: moved, doubled, split, joined,
frozen. Words stay with the picture they were on."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.edits.base import EditError, EditValue, position, with_lines
from fox_cadence.core.edits.title_places import titles_joined, titles_split
from fox_cadence.core.marks import SyncPoint
from fox_cadence.core.overlay import MOST_LAID, of_both, within_part
from fox_cadence.core.project import Line, Project
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.shot import Shot
from fox_cadence.core.shot_limits import clip_frames, least_frames, repeats_after_ticks, source_ticks


class MoveShot(EditValue):
    """A shot to another place, counted from 0 among the others; its words come with it.

    A line that goes over several shots stays with those that stay, and its captions with it.
    """

    kind: Literal["move_shot"] = "move_shot"
    shot_id: str
    to: int = Field(ge=0)

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.shots, self.shot_id)
        others = [shot for shot in project.shots if shot.id != self.shot_id]
        to = min(self.to, len(others))
        if to == place:
            raise EditError(f"Shot {place + 1} is there already.")
        left = _left_behind(project, place)
        made = left.changed(shots=(*others[:to], project.shots[place], *others[to:]))
        return _in_order(made), f"Shot {place + 1} moved to place {to + 1}"


class DuplicateShot(EditValue):
    """The same picture once more, after the shot. The words stay where they are."""

    kind: Literal["duplicate_shot"] = "duplicate_shot"
    shot_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.shots, self.shot_id)
        shot = project.shots[place]
        again = shot.changed(id=_new_id(project), on_beat=False)
        first = shot.changed(transition_frames=0)
        made = project.changed(shots=(*project.shots[:place], first, again, *project.shots[place + 1 :]))
        return _plain_where_too_short(made), f"Shot {place + 1} doubled"


class SplitShot(EditValue):
    """Two shots of one, the second from a frame of the first on: nothing looks or sounds different.

    Words that begin there or later belong to the second. A line that goes over the cut has the room of both.
    """

    kind: Literal["split_shot"] = "split_shot"
    shot_id: str
    at_frames: int = Field(ge=1)

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.shots, self.shot_id)
        made = _split(project, place, self.at_frames)
        return made, f"Shot {place + 1} split at frame {self.at_frames}"


class JoinShots(EditValue):
    """One shot of two that go on from one another in the same clip, or have the same still or colour."""

    kind: Literal["join_shots"] = "join_shots"
    shot_id: str

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.shots, self.shot_id)
        if place + 1 == len(project.shots):
            raise EditError("This is the last shot; there is no next one to join it with.")
        shot, following = project.shots[place : place + 2]
        if shot.locked or following.locked:
            raise EditError(f"Shot {place + (1 if shot.locked else 2)} is locked. Unlock it to join it.")
        if len(of_both(shot.laid, following.laid, 0.5)) > MOST_LAID:
            raise EditError(f"Together they have more than {MOST_LAID} pictures laid over them.")
        if not _goes_on(project, shot, following):
            raise EditError(
                f"Shot {place + 2} does not go on where shot {place + 1} ends, so they can't be one. Only "
                "parts of one clip that follow each other can be joined."
            )
        return _joined(project, place), f"Shots {place + 1} and {place + 2} joined"


class FreezeFrame(EditValue):
    """A frame of a video held for a while; the shot goes on after it. Words stay with the moving picture."""

    kind: Literal["freeze_frame"] = "freeze_frame"
    shot_id: str
    at_frames: int = Field(ge=0)
    frames: int = Field(ge=1, le=36_000)

    def apply(self, project: Project) -> tuple[Project, str]:
        place = position(project.shots, self.shot_id)
        shot = project.shots[place]
        clip = project.clips.get(shot.clip_hash or "")
        if clip is None or clip.kind != "video" or shot.speed_percent == 0:
            raise EditError("Only a shot with a video that moves has a frame to freeze.")
        source = _source_at(project, place, self.at_frames)
        moment = _passed(shot, self.at_frames)
        made = _split(project, place, self.at_frames) if self.at_frames else project
        held = Shot(
            id=_new_id(made),
            name=shot.name,
            clip_hash=shot.clip_hash,
            source_in_ticks=source,
            length_frames=self.frames,
            wanted_frames=self.frames,
            speed_percent=0,
            sound_gain_db=-60.0,
            framing=shot.framing.part(moment, moment),
        )
        cut = place + (1 if self.at_frames else 0)
        made = made.changed(shots=(*made.shots[:cut], held, *made.shots[cut:]))
        return _plain_where_too_short(made), f"Frame {self.at_frames} of shot {place + 1} frozen"


def _new_id(project: Project) -> str:
    return next_id("s", [shot.id for shot in project.shots])


def _source_at(project: Project, place: int, at: int) -> int:
    """Where its clip is at a frame of a shot. Raises EditError past the end of the clip."""
    shot = project.shots[place]
    most = clip_frames(project, shot)
    if most is not None and at >= most:
        raise EditError(f"The clip of shot {place + 1} ends at its frame {most}. Choose an earlier frame.")
    return shot.source_in_ticks + source_ticks(shot, project.rate.ticks(at))


def _passed(shot: Shot, at: int) -> float:
    """How much of a shot has passed at one of its frames, as `core/screen` counts it."""
    return at / max(1, shot.length_frames - 1)


def _left_behind(project: Project, place: int) -> Project:
    """Lines over several shots keep to those beside one that goes away, with the captions it carried."""
    order = [shot.id for shot in project.shots]
    gone = order[place]
    homes: dict[str, str] = {}
    lines: list[Line] = []
    for line in project.lines:
        over = order[order.index(line.first_shot_id) : order.index(line.last_shot_id) + 1]
        if len(over) == 1 or gone not in over:
            lines.append(line)
            continue
        stay = [shot_id for shot_id in over if shot_id != gone]
        near = stay[max(0, over.index(gone) - 1)]
        homes.update(dict.fromkeys((*line.caption_ids, *filter(None, [line.scene_text_id])), near))
        lines.append(
            line.changed(
                first_shot_id=stay[0],
                last_shot_id=stay[-1],
                placement=line.placement if stay[0] == line.first_shot_id else None,
                marks=tuple(mark for mark in line.marks if getattr(mark, "shot_id", None) != gone),
            )
        )
    captions = tuple(
        each.changed(shot_id=homes[each.id]) if each.shot_id == gone and each.id in homes else each
        for each in project.captions
    )
    texts = tuple(
        each.changed(shot_id=homes[each.id]) if each.shot_id == gone and each.id in homes else each
        for each in project.scene_texts
    )
    return with_lines(project.changed(captions=captions, scene_texts=texts), lines)


def _in_order(project: Project) -> Project:
    """Lines, captions and scene texts in the order of their shots; transitions and beats where they can
    be."""
    places = project.shot_index()
    made = project.changed(
        shots=(project.shots[0].changed(on_beat=False), *project.shots[1:]),
        captions=tuple(sorted(project.captions, key=lambda each: places[each.shot_id])),
        scene_texts=tuple(sorted(project.scene_texts, key=lambda each: places[each.shot_id])),
        lines=tuple(sorted(project.lines, key=lambda each: places[each.first_shot_id])),
    )
    return _plain_where_too_short(made)


def _plain_where_too_short(project: Project) -> Project:
    """A dissolve that a shot beside it is too short for becomes a plain cut."""
    made = project
    for place in range(len(made.shots)):
        for before in (place - 1, place):
            if before >= 0 and made.shots[place].length_frames < least_frames(made, place):
                shots = list(made.shots)
                shots[before] = shots[before].changed(transition_frames=0)
                made = made.changed(shots=tuple(shots))
    return made


def _split(project: Project, place: int, at: int) -> Project:
    shot = project.shots[place]
    if shot.locked:
        raise EditError(f"Shot {place + 1} is locked. Unlock it to split it.")
    fades_in = project.shots[place - 1].transition_frames if place else 0
    if not fades_in < at < shot.length_frames - shot.transition_frames:
        raise EditError(
            f"Shot {place + 1} can be split from frame {fades_in + 1} to "
            f"{shot.length_frames - shot.transition_frames - 1}."
        )
    if repeats_after_ticks(project, shot):
        raise EditError(f"Shot {place + 1} shows its clip more than once. Shorten it before you split it.")
    new = _new_id(project)
    first = shot.changed(
        length_frames=at,
        wanted_frames=at,
        shortest_frames=None,
        longest_frames=None,
        transition_frames=0,
        framing=shot.framing.part(0, _passed(shot, at - 1)),
        laid=within_part(shot.laid, 0.0, at / shot.length_frames),
    )
    second = shot.changed(
        id=new,
        source_in_ticks=_source_at(project, place, at),
        framing=shot.framing.part(_passed(shot, at), 1),
        laid=within_part(shot.laid, at / shot.length_frames, 1.0),
        length_frames=shot.length_frames - at,
        wanted_frames=max(1, shot.wanted_frames - at),
        shortest_frames=None,
        longest_frames=None,
        on_beat=False,
    )
    captions = tuple(
        each.changed(shot_id=new, in_frames=each.in_frames - at, out_frames=each.out_frames - at)
        if each.shot_id == shot.id and each.in_frames >= at
        else each
        for each in project.captions
    )
    made = project.changed(
        shots=(*project.shots[:place], first, second, *project.shots[place + 1 :]),
        captions=captions,
        titles=titles_split(project.titles, shot.id, new, at),
    )
    return _lines_split(made, shot.id, new, at)


def _lines_split(project: Project, first: str, second: str, at: int) -> Project:
    """The lines of a shot that has just become two."""
    at_ticks = project.rate.ticks(at)
    late = {each.id for each in project.captions if each.shot_id == second}
    moved_texts: set[str] = set()
    lines: list[Line] = []
    for line in project.lines:
        begins = _begins_ticks(project, line, first)
        change: dict[str, object] = {}
        if line.last_shot_id == first:
            stands = line.placement
            ends = stands.offset_ticks + stands.length_ticks if stands else None
            within = (
                line.first_shot_id == first
                and begins is not None
                and begins < at_ticks
                and ends is not None
                and ends <= at_ticks
                and not late & set(line.caption_ids)
            )
            change["last_shot_id"] = first if within else second
        if line.first_shot_id == first and begins is not None and begins >= at_ticks:
            change["first_shot_id"] = second
            if line.wanted_offset_ticks is not None:
                change["wanted_offset_ticks"] = line.wanted_offset_ticks - at_ticks
            if line.placement is not None:
                offset = line.placement.offset_ticks - at_ticks
                change["placement"] = line.placement.changed(offset_ticks=offset)
            if line.scene_text_id:
                moved_texts.add(line.scene_text_id)
        marks = tuple(
            mark.changed(shot_id=second, frames=mark.frames - at)
            if isinstance(mark, SyncPoint) and mark.shot_id == first and mark.frames >= at
            else mark
            for mark in line.marks
        )
        lines.append(line.changed(**change, marks=marks))
    texts = tuple(
        each.changed(shot_id=second) if each.id in moved_texts and each.shot_id == first else each
        for each in project.scene_texts
    )
    return _in_order(with_lines(project.changed(scene_texts=texts), lines))


def _begins_ticks(project: Project, line: Line, shot_id: str) -> int | None:
    """Where a line is meant to sound, from the start of the shot it begins in; None where nothing tells."""
    if line.first_shot_id != shot_id:
        return None
    if line.placement is not None:
        return line.placement.offset_ticks
    if line.wanted_offset_ticks is not None:
        return line.wanted_offset_ticks
    if not line.caption_ids:
        return None
    first = project.caption(line.caption_ids[0])
    after = project.shot(shot_id).length_frames if first.shot_id != shot_id else 0
    return project.rate.ticks(after + first.in_frames)


def _goes_on(project: Project, shot: Shot, following: Shot) -> bool:
    """Whether nothing would be seen of a cut between two shots."""
    if (shot.clip_hash, shot.speed_percent) != (following.clip_hash, following.speed_percent):
        return False
    clip = project.clips.get(shot.clip_hash or "")
    if clip is None:
        return shot.colour == following.colour
    if not _moves_on(shot, following):
        return False
    end = shot.source_in_ticks + source_ticks(shot, project.rate.ticks(shot.length_frames))
    return clip.kind != "video" or abs(following.source_in_ticks - end) < project.rate.frame_ticks


def _moves_on(shot: Shot, following: Shot) -> bool:
    """Whether the view of one shot goes on in the next, a frame later and as fast."""
    one, other = shot.framing, following.framing
    if one.changed(begins=0.0, ends=1.0) != other.changed(begins=0.0, ends=1.0):
        return False
    if one.movement == "none":
        return True
    frames = shot.length_frames + following.length_frames - 1
    step = (other.ends - one.begins) / frames
    near = step / 100
    return (
        abs(other.begins - one.ends - step) < near
        and abs(one.ends - one.begins - step * (shot.length_frames - 1)) < near
    )


def _joined(project: Project, place: int) -> Project:
    shot, following = project.shots[place : place + 2]
    at = shot.length_frames - shot.transition_frames
    at_ticks = project.rate.ticks(at)
    one = shot.changed(
        length_frames=at + following.length_frames,
        wanted_frames=at + following.wanted_frames,
        transition_frames=following.transition_frames,
        transition_kind=following.transition_kind,
        transition_colour=following.transition_colour,
        framing=shot.framing.changed(ends=following.framing.ends),
        laid=of_both(shot.laid, following.laid, at / (at + following.length_frames)),
        shortest_frames=None,
        longest_frames=None,
    )
    captions = tuple(
        each.changed(shot_id=shot.id, in_frames=each.in_frames + at, out_frames=each.out_frames + at)
        if each.shot_id == following.id
        else each
        for each in project.captions
    )
    texts = tuple(
        each.changed(shot_id=shot.id) if each.shot_id == following.id else each
        for each in project.scene_texts
    )
    lines: list[Line] = []
    for line in project.lines:
        change: dict[str, object] = {}
        if line.last_shot_id == following.id:
            change["last_shot_id"] = shot.id
        if line.first_shot_id == following.id:
            change["first_shot_id"] = shot.id
            if line.wanted_offset_ticks is not None:
                change["wanted_offset_ticks"] = line.wanted_offset_ticks + at_ticks
            if line.placement is not None:
                offset = line.placement.offset_ticks + at_ticks
                change["placement"] = line.placement.changed(offset_ticks=offset)
        marks = tuple(
            mark.changed(shot_id=shot.id, frames=mark.frames + at)
            if isinstance(mark, SyncPoint) and mark.shot_id == following.id
            else mark
            for mark in line.marks
        )
        lines.append(line.changed(**change, marks=marks))
    shots = (*project.shots[:place], one, *project.shots[place + 2 :])
    titles = titles_joined(project.titles, shot.id, following.id, at)
    made = project.changed(shots=shots, captions=captions, titles=titles, scene_texts=texts)
    return with_lines(made, lines)
