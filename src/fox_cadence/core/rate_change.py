"""The same piece at another frame rate: every time stays where it was, to the nearest frame there is now."""

from typing import TypeVar

from fox_cadence.core.marks import Mark, SyncPoint
from fox_cadence.core.project import Caption, Line, Project, Title
from fox_cadence.core.shot import Shot
from fox_cadence.core.shot_limits import overlap_frames
from fox_cadence.core.ticks import FrameRate
from fox_cadence.core.timeline import ShotSpan, shot_spans

W = TypeVar("W", Caption, Title)


def at_rate(project: Project, rate: FrameRate) -> tuple[Project, int]:
    """A project at another frame rate, and by how much the cut or caption that moved most has moved (ticks).

    Speech keeps its time to the tick. A shot shorter than a new frame lasts one frame, and what follows moves
    along.
    """
    before = shot_spans(project)
    shots = _shots(project, before, rate)
    made = project.changed(rate=rate, shots=shots)
    after = {span.shot.id: span for span in shot_spans(made)}
    was = {span.shot.id: span for span in before}
    captions = tuple(_words(project, caption, was, after, rate) for caption in project.captions)
    titles = tuple(_words(project, title, was, after, rate) for title in project.titles)
    lines = tuple(_line(project, line, was, after, rate) for line in project.lines)
    moved = [
        abs(project.rate.ticks(old) - rate.ticks(new))
        for span in before
        for old, new in (
            (span.start_frame, after[span.shot.id].start_frame),
            (span.end_frame, after[span.shot.id].end_frame),
        )
    ]
    moved += [
        abs(
            project.rate.ticks(was[old.shot_id].start_frame + edge_before)
            - rate.ticks(after[old.shot_id].start_frame + edge_after)
        )
        for old, new in zip(project.captions, captions, strict=True)
        for edge_before, edge_after in ((old.in_frames, new.in_frames), (old.out_frames, new.out_frames))
    ]
    return made.changed(captions=captions, titles=titles, lines=lines), max(moved, default=0)


def _shots(project: Project, before: tuple[ShotSpan, ...], rate: FrameRate) -> tuple[Shot, ...]:
    def frames(count: int) -> int:
        return rate.frames_nearest(project.rate.ticks(count))

    overlaps = [frames(count) for count in overlap_frames(project)]
    ends = [*(span.start_frame for span in before[1:]), before[-1].end_frame] if before else []
    made: list[Shot] = []
    at = 0
    for number, (span, end) in enumerate(zip(before, ends, strict=True)):
        shot = span.shot
        least = (overlaps[number - 1] if number else 0) + 1
        until = max(frames(end), at + least)
        length = until - at + overlaps[number]
        wanted = length if shot.wanted_frames == shot.length_frames else max(1, frames(shot.wanted_frames))
        limits = {
            name: None if value is None else max(1, frames(value))
            for name, value in (
                ("shortest_frames", shot.shortest_frames),
                ("longest_frames", shot.longest_frames),
            )
        }
        change = {
            "length_frames": length,
            "wanted_frames": wanted,
            "transition_frames": overlaps[number],
            **limits,
        }
        made.append(shot.changed(**change))
        at = until
    return tuple(made)


def _words(
    project: Project, words: W, was: dict[str, ShotSpan], after: dict[str, ShotSpan], rate: FrameRate
) -> W:
    def edge(frames: int) -> int:
        at = project.rate.ticks(was[words.shot_id].start_frame + frames)
        return rate.frames_nearest(at) - after[words.shot_id].start_frame

    start = edge(words.in_frames)
    return words.changed(in_frames=start, out_frames=max(edge(words.out_frames), start + 1))


def _line(
    project: Project, line: Line, was: dict[str, ShotSpan], after: dict[str, ShotSpan], rate: FrameRate
) -> Line:
    moved = project.rate.ticks(was[line.first_shot_id].start_frame) - rate.ticks(
        after[line.first_shot_id].start_frame
    )
    change: dict[str, object] = {"marks": tuple(_mark(project, mark, rate) for mark in line.marks)}
    if line.placement is not None:
        change["placement"] = line.placement.changed(offset_ticks=line.placement.offset_ticks + moved)
    if line.wanted_offset_ticks is not None:
        change["wanted_offset_ticks"] = max(0, line.wanted_offset_ticks + moved)
    return line.changed(**change)


def _mark(project: Project, mark: Mark, rate: FrameRate) -> Mark:
    if not isinstance(mark, SyncPoint):
        return mark
    return mark.changed(frames=rate.frames_nearest(project.rate.ticks(mark.frames)))
