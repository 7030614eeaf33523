"""What another shape of the frame does to the pictures."""

from fox_cadence.core.framing import view
from fox_cadence.core.project import Project
from fox_cadence.core.shot import Shot

LITTLE = 0.5
"""A shot of which less than this is seen, and less than before, is worth a look."""


def seen_share(project: Project, shot: Shot) -> float:
    """How much of its picture is seen at the beginning of a shot, 0 to 1; 1 for plain colours."""
    clip = project.clips.get(shot.clip_hash or "")
    if clip is None or not clip.width or not clip.height:
        return 1.0
    seen = view(shot.framing, (clip.width, clip.height), (project.width, project.height), 0)
    return min(1.0, seen.width) * min(1.0, seen.height)


def worth_a_look(before: Project, after: Project) -> tuple[int, ...]:
    """The shots, counted from 0, that show little of their picture since the frame has another shape."""
    return tuple(
        place
        for place, (was, shot) in enumerate(zip(before.shots, after.shots, strict=True))
        if (share := seen_share(after, shot)) < LITTLE and share < seen_share(before, was) - 1e-9
    )
