"""Titles go with the pictures they stand on."""

from fox_cadence.core.project import Project, Title
from fox_cadence.core.shot import Shot


def titles_split(titles: tuple[Title, ...], shot_id: str, new_id: str, at: int) -> tuple[Title, ...]:
    """The titles of a piece in which the frames of a shot from `at` on are another shot."""
    return tuple(
        title.changed(shot_id=new_id, in_frames=title.in_frames - at, out_frames=title.out_frames - at)
        if title.shot_id == shot_id and title.in_frames >= at
        else title
        for title in titles
    )


def titles_joined(titles: tuple[Title, ...], into: str, gone: str, at: int) -> tuple[Title, ...]:
    """The titles of a piece in which a shot has become the frames of another one from `at` on."""
    return tuple(
        title.changed(shot_id=into, in_frames=title.in_frames + at, out_frames=title.out_frames + at)
        if title.shot_id == gone
        else title
        for title in titles
    )


def titles_without(project: Project, gone: str, beside: Shot) -> tuple[Title, ...]:
    """The titles of a piece without a shot: those on it stand at the beginning of the one after it, or at the
    end of the one before, as long as they did."""
    places = project.shot_index()
    after = places[beside.id] > places[gone]

    def moved(title: Title) -> Title:
        frames = title.out_frames - title.in_frames
        start = 0 if after else max(0, beside.length_frames - frames)
        return title.changed(shot_id=beside.id, in_frames=start, out_frames=start + frames)

    return tuple(moved(title) if title.shot_id == gone else title for title in project.titles)
