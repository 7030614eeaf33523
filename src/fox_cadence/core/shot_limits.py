"""How long shots may be: their transitions, their limits, and what their clips have."""

import math

from fox_cadence.core.project import Project
from fox_cadence.core.shot import GiveWay, Shot

MOST_STRETCH = 10.0
"""By how much a shot may stretch at the most where the voice leads. At the weight it has then its slope is 80
a second there, which stays under the price of a spill (fit/weights.py)."""


def overlap_frames(project: Project) -> tuple[int, ...]:
    """For each shot the frames by which the next one begins before it ends; 0 for the last."""
    return (*(shot.transition_frames for shot in project.shots[:-1]), 0)[: len(project.shots)]


def gives_way(project: Project, shot: Shot) -> GiveWay:
    """Who stays as it is where this shot is concerned: its own choice, or the project's."""
    return shot.give_way or project.give_way


def shot_limits_frames(project: Project, position: int) -> tuple[int, int]:
    """Shortest and longest length of a shot in frames: its own limits, the house's stretch, its clip's
    handle.

    A shot is never shorter than its transitions and one frame between them. Where the voice leads, the
    picture lasts as long as the words need: past the house's stretch, and past the end of the clip, which
    then holds or repeats.
    """
    shot = project.shots[position]
    stretch = project.house.shot_stretch
    voice_leads = gives_way(project, shot) == "voice"
    shortest = max(1, math.ceil(shot.wanted_frames * (1 - stretch)))
    longest = max(
        shot.wanted_frames, int(shot.wanted_frames * (1 + (MOST_STRETCH if voice_leads else stretch)))
    )
    if shot.shortest_frames is not None:
        shortest = shot.shortest_frames
    if shot.longest_frames is not None:
        longest = shot.longest_frames
    shortest = max(shortest, least_frames(project, position))
    available = clip_frames(project, shot)
    if available is not None and not voice_leads:
        longest = min(longest, max(1, available, shot.wanted_frames))
    return min(shortest, longest), longest


def least_frames(project: Project, position: int) -> int:
    """What the transitions of a shot need of it, and one frame."""
    before = project.shots[position - 1].transition_frames if position else 0
    after = project.shots[position].transition_frames if position + 1 < len(project.shots) else 0
    return before + after + 1


def source_ticks(shot: Shot, ticks: int) -> int:
    """How much of its clip passes in some time of a shot."""
    return ticks * shot.speed_percent // 100


def clip_frames(project: Project, shot: Shot) -> int | None:
    """How many frames a shot can last before its clip ends; None for stills, plain colours and held
    frames."""
    material = _material_ticks(project, shot)
    return None if material is None else material // project.rate.frame_ticks


def frames_before(project: Project, shot: Shot) -> int:
    """How many frames more the clip of a shot has before it, at the speed it is shown."""
    return project.rate.frames_floor(shot.source_in_ticks * 100 // (shot.speed_percent or 100))


def repeats_after_ticks(project: Project, shot: Shot) -> int:
    """After how much of its time a shot shows its clip again; 0 where it never does."""
    material = _material_ticks(project, shot)
    if material is None or project.past_clip_end != "repeat":
        return 0
    return material if 0 < material < project.rate.ticks(shot.length_frames) else 0


def _material_ticks(project: Project, shot: Shot) -> int | None:
    """How long the clip of a shot lasts from where the shot begins, at the speed it is shown; None where it
    never ends."""
    clip = project.clips.get(shot.clip_hash or "")
    if clip is None or clip.kind != "video" or shot.speed_percent == 0:
        return None
    return (clip.length_ticks - shot.source_in_ticks) * 100 // shot.speed_percent
