"""The edit that lays pictures under a stretch of the piece."""

from typing import Literal

from pydantic import Field

from fox_cadence.core.adjustment import UNADJUSTED
from fox_cadence.core.edits.base import EditError, EditValue, position, with_lines, with_shot
from fox_cadence.core.edits.shot_order import JoinShots, SplitShot
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import Line, Project
from fox_cadence.core.timeline import shot_spans
from fox_cadence.core.value import Value


class FilledShot(Value):
    """A shot to be: how long it lasts, what it shows and what it is called."""

    frames: int = Field(ge=1)
    clip_hash: str
    name: str = Field(max_length=200)


class FillShots(EditValue):
    """Other shots over the same frames, in the place of those from one to another. Nothing else moves: words
    stay at their moments, on the shots that are there now.
    """

    kind: Literal["fill_shots"] = "fill_shots"
    first_shot_id: str
    last_shot_id: str
    shots: tuple[FilledShot, ...] = Field(min_length=1)

    def apply(self, project: Project) -> tuple[Project, str]:
        first, last = position(project.shots, self.first_shot_id), position(project.shots, self.last_shot_id)
        if last < first:
            raise EditError("The last shot comes before the first.")
        for shot in project.shots[first : last + 1]:
            if shot.locked:
                raise EditError(
                    f"Shot {position(project.shots, shot.id) + 1} is locked. Unlock it to fill it."
                )
        for wanted in self.shots:
            clip = project.clips.get(wanted.clip_hash)
            if clip is None or not clip.has_picture:
                raise EditError("That is no picture of this project. Add the file first.")
        made = project
        ground = project.shots[first]
        for shot in project.shots[first : last + 1]:
            plain = shot.changed(clip_hash=None, colour=ground.colour, source_in_ticks=0, speed_percent=100)
            made = with_shot(made, plain)
        for _ in range(first, last):
            made, _ = JoinShots(shot_id=self.first_shot_id).apply(made)
        whole = made.shots[first]
        if sum(wanted.frames for wanted in self.shots) != whole.length_frames:
            raise EditError("The shots have changed since. Fill them again.")
        at = whole.length_frames
        for wanted in reversed(self.shots[1:]):  # the last one first: the shot keeps its id up to there
            at -= wanted.frames
            made, _ = SplitShot(shot_id=whole.id, at_frames=at).apply(made)
        for place, wanted in enumerate(self.shots, first):
            shot = made.shots[place].changed(
                clip_hash=wanted.clip_hash,
                name=wanted.name,
                wanted_frames=wanted.frames,
                on_beat=False,
                framing=project.clips[wanted.clip_hash].framing,
                adjustment=UNADJUSTED,
                laid=(),
            )
            made = with_shot(made, shot)
        made = _at_their_moments(project, made, first, last)
        return made, f"Filled with {counted(len(self.shots), 'shot')}"


def _at_their_moments(before: Project, made: Project, first: int, last: int) -> Project:
    """Lines of which only their shots told when they begin, later ones than the first: on the shots that are
    now where those were, and told so."""
    old = {span.shot.id: span for span in shot_spans(before)}
    new = shot_spans(made)
    later = {shot.id for shot in before.shots[first + 1 : last + 1]}
    lines: list[Line] = []
    for line in before.lines:
        now = made.line(line.id)
        told = line.placement is not None or line.wanted_offset_ticks is not None
        if told or line.first_shot_id not in later:
            lines.append(now)
            continue
        begins = old[line.first_shot_id].start_frame
        ends = old[line.last_shot_id].end_frame - 1
        home = next(span for span in new if span.start_frame <= begins < span.end_frame)
        end = next(span for span in new if span.start_frame <= ends < span.end_frame)
        into = before.rate.ticks(begins - home.start_frame)
        wanted = into + before.house.lead_ticks if into else None
        lines.append(
            now.changed(first_shot_id=home.shot.id, last_shot_id=end.shot.id, wanted_offset_ticks=wanted)
        )
    return with_lines(made, lines)
