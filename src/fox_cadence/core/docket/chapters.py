"""Chapters: the headings of a piece, from where each begins."""

from dataclasses import dataclass

from fox_cadence.core.timeline import Timeline


@dataclass(frozen=True, slots=True)
class Chapter:
    """A heading and the frames it stands over, [start_frame, end_frame)."""

    title: str
    start_frame: int
    end_frame: int


def chapters_of(timeline: Timeline, first: int = 0, last: int | None = None) -> tuple[Chapter, ...]:
    """The chapters of a piece, or of its frames [first, last), counted from the first of them.

    A heading is scene text that nobody says. What comes before the first heading is a chapter under the
    name of the piece; a piece without headings has none.
    """
    project = timeline.project
    end = timeline.total_frames if last is None else last
    said = {line.scene_text_id for line in project.lines}
    starts = {span.shot.id: span.start_frame for span in timeline.shots}
    found = [
        (starts[text.shot_id], text.text)
        for text in project.scene_texts
        if text.id not in said and text.shot_id in starts
    ]
    if not found:
        return ()
    found.sort(key=lambda each: each[0])
    if found[0][0] > 0:
        found.insert(0, (0, project.name))
    bounds = [start for start, _ in found[1:]] + [timeline.total_frames]
    chapters = []
    for (start, title), until in zip(found, bounds, strict=True):
        low, high = max(start, first), min(until, end)
        if high > low:
            chapters.append(Chapter(title, low - first, high - first))
    return tuple(chapters)
