"""The picture follows the words: how long shots must last for what is said over them."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass

from fox_cadence.core.house import HouseLimits
from fox_cadence.core.numbers import numbered
from fox_cadence.core.project import Project
from fox_cadence.core.shot import Shot
from fox_cadence.core.shot_limits import gives_way
from fox_cadence.core.ticks import FrameRate, seconds_to_ticks, ticks_to_seconds
from fox_cadence.core.timeline import shot_spans

STILL_TICKS = seconds_to_ticks(4)
"""How long a still or a plain colour is shown where nothing else says so."""


def needed_ticks(lengths: Sequence[int], house: HouseLimits) -> int:
    """The time that lines of these lengths (ticks) need over one shot, one after the other: lead, gaps and
    tail."""
    if not lengths:
        return 0
    return house.lead_ticks + sum(lengths) + (len(lengths) - 1) * house.gap_ticks + house.tail_ticks


def rooms_for(project: Project, lengths: Sequence[int]) -> list[int]:
    """The frames of each shot as room for lines of these lengths, so that what is missing falls to shots that
    stretch.

    Stills and plain colours last as long as they are wanted; a clip shows only its last frame, or itself
    again.
    """
    spans = shot_spans(project)
    rooms = [span.end_frame - span.start_frame for span in spans]
    missing = project.rate.frames_ceil(needed_ticks(lengths, project.house)) - sum(rooms)
    still = [
        n for n, shot in enumerate(project.shots) if _stretches(project, shot) and not _held(project, shot)
    ]
    if missing <= 0 or not still:
        return rooms
    before = sum(rooms[n] for n in still)
    at = 0
    for number in still:
        share = missing * (at + rooms[number]) // before - missing * at // before
        at += rooms[number]
        rooms[number] += share
    return rooms


@dataclass(frozen=True, slots=True)
class Lengthened:
    """A project whose shots last as long as what is said over them. Times in ticks, `longer` are numbers from
    1.

    `short_ticks` is what the words still miss: the picture may not give it.
    """

    project: Project
    words_ticks: int
    picture_ticks: int
    longer: tuple[int, ...]
    short_ticks: int

    @property
    def text(self) -> str:
        """What was done, in words; '' where the picture was long enough."""
        if not self.longer and self.short_ticks <= 0:
            return ""
        words, had = ticks_to_seconds(self.words_ticks), ticks_to_seconds(self.picture_ticks)
        parts = [f"the words last about {words:.1f} s and the picture had {had:.1f} s"]
        if self.longer:
            lasts = "lasts" if len(self.longer) == 1 else "last"
            parts.append(f"{numbered('shot', self.longer, _MOST_NAMED)} {lasts} longer for them")
        if self.short_ticks > 0:
            parts.append(
                f"{ticks_to_seconds(self.short_ticks):.1f} s are still missing: the shots may not last longer"
            )
        return "; ".join(parts)


_MOST_NAMED = 8


def lengthened(project: Project, groups: Sequence[Sequence[int]]) -> Lengthened:
    """Shots made as long as the lines over each need (`groups`: their lengths in ticks, a list a shot).

    Locked shots, those that do not give way, and shots at a limit of their own stay; so does the piece where
    it has reached its longest length.
    """
    rate, house = project.rate, project.house
    had = shot_spans(project)[-1].end_frame
    left = None if project.longest_ticks is None else max(0, rate.frames_floor(project.longest_ticks) - had)
    shots: list[Shot] = []
    longer: list[int] = []
    short = 0
    for number, (shot, lengths) in enumerate(zip(project.shots, groups, strict=True), 1):
        missing = rate.frames_ceil(needed_ticks(lengths, house)) - shot.length_frames
        given = 0
        if missing > 0 and not _held(project, shot):
            most = missing if shot.longest_frames is None else shot.longest_frames - shot.length_frames
            given = max(0, min(missing, most, missing if left is None else left))
        short += max(0, missing) - given
        if given:
            longer.append(number)
            left = None if left is None else left - given
        shots.append(_of_length(shot, shot.length_frames + given))
    said = list(itertools.chain.from_iterable(groups))
    return Lengthened(
        project.changed(shots=tuple(shots)),
        needed_ticks(said, house),
        rate.ticks(had),
        tuple(longer),
        rate.ticks(short),
    )


def held_until(project: Project, end_frame: int) -> Project:
    """The project with its last shot held until a frame of the piece, where it ends sooner and may give way.

    It is never held past the longest length of the piece.
    """
    last = project.shots[-1]
    if project.longest_ticks is not None:
        end_frame = min(end_frame, project.rate.frames_floor(project.longest_ticks))
    missing = end_frame - shot_spans(project)[-1].end_frame
    if missing <= 0 or _held(project, last):
        return project
    return project.changed(shots=(*project.shots[:-1], _of_length(last, last.length_frames + missing)))


def plain_shots(names: Sequence[str], lengths: Sequence[int], rate: FrameRate) -> tuple[Shot, ...]:
    """Shots of plain colours of ours, by turns, for a project that has no picture yet; lengths in ticks."""
    shots: list[Shot] = []
    for number, (name, length) in enumerate(zip(names, lengths, strict=True)):
        frames = max(1, rate.frames_ceil(length))
        colour = PLAIN_COLOURS[number % len(PLAIN_COLOURS)]
        shots.append(
            Shot(id=f"s{number + 1}", name=name, colour=colour, length_frames=frames, wanted_frames=frames)
        )
    return tuple(shots)


PLAIN_COLOURS = ("#20302c", "#5a4632", "#2d4a57", "#59324a", "#44522c", "#3a3a5c")


def _of_length(shot: Shot, frames: int) -> Shot:
    if frames == shot.length_frames:
        return shot
    return shot.changed(length_frames=frames, wanted_frames=frames)


def _stretches(project: Project, shot: Shot) -> bool:
    clip = project.clips.get(shot.clip_hash or "")
    return clip is None or clip.kind == "still"


def _held(project: Project, shot: Shot) -> bool:
    return shot.locked or gives_way(project, shot) == "picture"
