"""The sum that explains a line: from its natural length to its room, in whole ticks, adding up exactly."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from fox_cadence.core.house import HouseLimits
from fox_cadence.core.project import Line, SpanLength
from fox_cadence.core.timeline import LineSpan, Window

StepKind = Literal["natural", "pauses", "pace", "room", "shot", "before", "idle", "early", "late", "spill"]


@dataclass(frozen=True, slots=True)
class Step:
    """One row of a sum. `ticks` is signed as it is added."""

    kind: StepKind
    label: str
    ticks: int


@dataclass(frozen=True, slots=True)
class LineSum:
    """`speech` adds up to the length of the line as planned; `room` adds up to that same length.

    Speech: natural length, less pauses closed up, less what the pace gains. Room: the window as it was, what
    its shots gained, less what stays idle before and after the words, plus what starts early, runs on late
    and spills.
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
    natural: Sequence[SpanLength],
    lengths: Sequence[SpanLength],
    start_ticks: int,
    end_ticks: int,
    window_before: Window,
    window: Window,
    shot_names: str,
    at_limit: bool,
) -> LineSum:
    """Build the sum of one line; windows before the fit and after it."""
    voiced, voiced_now = (sum(each.voiced_ticks for each in spans) for spans in (natural, lengths))
    pauses, pauses_now = (sum(each.pause_ticks for each in spans) for spans in (natural, lengths))
    whole = sum(each.ticks for each in natural)
    speech = [Step("natural", "Spoken at natural pace", whole)]
    if pauses_now != pauses:
        speech.append(Step("pauses", "Pauses closed up", pauses_now - pauses))
    length = end_ticks - start_ticks
    rest = length - whole - (pauses_now - pauses)
    if rest:
        speech.append(Step("pace", _pace_label(voiced, voiced_now, at_limit), rest))
    room_before = window_before.end_ticks - window_before.start_ticks
    room = [Step("room", f"Room: {shot_names}, less lead and tail", room_before)]
    gained = (window.end_ticks - window.start_ticks) - room_before
    if gained:
        name = f"{shot_names[:1].upper()}{shot_names[1:]}"
        room.append(Step("shot", f"{name} {'longer' if gained > 0 else 'shorter'}", gained))
    waiting = start_ticks - window.start_ticks
    if waiting > 0:
        room.append(Step("before", "Starts later in its window", -waiting))
    elif waiting < 0:
        room.append(Step("early", "Starts before its shot (J-cut)", -waiting))
    over = end_ticks - window.end_ticks
    late = max(0, min(over, window.late_ticks))
    if late:
        room.append(Step("late", "Runs on after its shot (L-cut)", late))
    if over > late:
        room.append(Step("spill", "Past the end of its window by", over - late))
    elif over < 0:
        room.append(Step("idle", "Left idle after it", over))
    return LineSum(tuple(speech), tuple(room), length)


def _pace_label(natural: int, now: int, at_limit: bool) -> str:
    if now == natural:
        return "Sound as it was made before"
    verb = "raised" if now < natural else "lowered"
    pace = natural / now if now else 1.0
    return f"Pace {verb}" + (f" to its limit, ×{pace:.2f}" if at_limit else f" to ×{pace:.3f}")


def explain_now(house: HouseLimits, span: LineSpan, names: str) -> LineSum:
    """The sum of a line as it stands, before any proposal."""
    return explain_line(
        natural=span.speech.natural,
        lengths=span.lengths,
        start_ticks=span.start_ticks,
        end_ticks=span.end_ticks,
        window_before=span.window,
        window=span.window,
        shot_names=names,
        at_limit=at_pace_limit((house.slowest_pace, house.fastest_pace), span.pace),
    )


def at_pace_limit(limits: tuple[float, float], pace: float) -> bool:
    """Whether a pace stands at the slowest or the fastest of the house."""
    slowest, fastest = limits
    return pace > fastest - 1e-3 or pace < slowest + 1e-3


def shot_names(index: Mapping[str, int], line: Line) -> str:
    """The shots of a line in words: shot 4, or shots 4 to 6. `index` gives the position of each shot."""
    first, last = index[line.first_shot_id] + 1, index[line.last_shot_id] + 1
    return f"shot {first}" if first == last else f"shots {first} to {last}"
