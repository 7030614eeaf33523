"""The sum that explains a line: from its natural length to its room, in whole ticks, adding up exactly."""

from dataclasses import dataclass
from typing import Literal

from fox_cadence.core.project import Line, Project
from fox_cadence.core.timeline import LineSpan

StepKind = Literal["natural", "pauses", "pace", "room", "shot", "before", "idle", "spill"]


@dataclass(frozen=True, slots=True)
class Step:
    """One row of a sum. `ticks` is signed as it is added."""

    kind: StepKind
    label: str
    ticks: int


@dataclass(frozen=True, slots=True)
class LineSum:
    """`speech` adds up to the length of the line as planned; `room` adds up to that same length.

    Speech: natural length, less pauses closed up, less what the pace gains. Room: the window as it was, what its shots
    gained, less what stays idle before and after the words, plus what spills.
    """

    speech: tuple[Step, ...]
    room: tuple[Step, ...]
    length_ticks: int

    @property
    def adds_up(self) -> bool:
        return (
            sum(step.ticks for step in self.speech) == self.length_ticks
            and sum(step.ticks for step in self.room) == self.length_ticks
        )


def explain_line(
    *,
    natural_voiced_ticks: int,
    natural_pause_ticks: int,
    voiced_ticks: int,
    pause_ticks: int,
    start_ticks: int,
    window_before_ticks: tuple[int, int],
    window_ticks: tuple[int, int],
    shot_names: str,
    pace_limit: str | None,
) -> LineSum:
    """Build the sum of one line. Windows are start and end, before the fit and after it.

    `pace_limit` is a word for the house limit the pace stands at, None when it stands at none.
    """
    length = voiced_ticks + pause_ticks
    pace = natural_voiced_ticks / voiced_ticks if voiced_ticks else 1.0
    speech = [Step("natural", "Spoken at natural pace", natural_voiced_ticks + natural_pause_ticks)]
    if pause_ticks != natural_pause_ticks:
        speech.append(Step("pauses", "Pauses closed up", pause_ticks - natural_pause_ticks))
    if voiced_ticks != natural_voiced_ticks:
        verb = "raised" if voiced_ticks < natural_voiced_ticks else "lowered"
        limit = f" to its limit, ×{pace:.2f}" if pace_limit else f" to ×{pace:.3f}"
        speech.append(Step("pace", f"Pace {verb}{limit}", voiced_ticks - natural_voiced_ticks))
    room_before = window_before_ticks[1] - window_before_ticks[0]
    room = [Step("room", f"Room: {shot_names}, less lead and tail", room_before)]
    gained = (window_ticks[1] - window_ticks[0]) - room_before
    if gained:
        room.append(
            Step("shot", f"{shot_names[:1].upper()}{shot_names[1:]} {'longer' if gained > 0 else 'shorter'}", gained)
        )
    waiting = start_ticks - window_ticks[0]
    if waiting:
        room.append(Step("before", "Starts later in its window", -waiting))
    over = start_ticks + length - window_ticks[1]
    if over > 0:
        room.append(Step("spill", "Past the end of its window by", over))
    elif over < 0:
        room.append(Step("idle", "Left idle after it", over))
    return LineSum(tuple(speech), tuple(room), length)


def explain_now(project: Project, span: LineSpan) -> LineSum:
    """The sum of a line as it stands, before any proposal."""
    house = project.house
    pause = min(span.pause_ticks, span.end_ticks - span.start_ticks)
    at_limit = span.pace > house.fastest_pace - 1e-3 or span.pace < house.slowest_pace + 1e-3
    window = (span.window_start_ticks, span.window_end_ticks)
    return explain_line(
        natural_voiced_ticks=span.natural_voiced_ticks,
        natural_pause_ticks=span.natural_pause_ticks,
        voiced_ticks=span.end_ticks - span.start_ticks - pause,
        pause_ticks=pause,
        start_ticks=span.start_ticks,
        window_before_ticks=window,
        window_ticks=window,
        shot_names=shot_names(project, span.line),
        pace_limit="limit" if at_limit else None,
    )


def shot_names(project: Project, line: Line) -> str:
    """The shots of a line in words: shot 4, or shots 4 to 6."""
    index = project.shot_index()
    first, last = index[line.first_shot_id] + 1, index[line.last_shot_id] + 1
    return f"shot {first}" if first == last else f"shots {first} to {last}"
