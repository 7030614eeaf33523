"""How a piece stands, pass by pass: what is done and what is still open, in words."""

from collections import Counter
from dataclasses import dataclass
from typing import Literal, get_args

from fox_cadence.core.fit.captions import characters_read
from fox_cadence.core.kept import Kept
from fox_cadence.core.lettered import FacesOf, missing_signs
from fox_cadence.core.numbers import counted
from fox_cadence.core.outside import outside_of
from fox_cadence.core.project import Project
from fox_cadence.core.states import LineState
from fox_cadence.core.ticks import TICKS_PER_SECOND, FrameRate, ticks_to_seconds
from fox_cadence.core.timeline import CaptionSpan, LineSpan, Timeline

PassName = Literal["picture", "words", "cast", "fit", "lettering", "sound", "export"]
PASSES: tuple[PassName, ...] = get_args(PassName)
"""The passes, in the order of the work."""


@dataclass(frozen=True, slots=True)
class PassStatus:
    """One pass: `open_text` is what is left to do ('' when nothing is), `text` what there is."""

    name: PassName
    open_text: str
    text: str


def count_states(timeline: Timeline) -> Counter[LineState]:
    """How many lines are in each state."""
    states = [span.state for span in timeline.lines]
    return Counter({state: count for state in LineState if (count := states.count(state))})


def too_fast(timeline: Timeline) -> list[CaptionSpan]:
    """Captions shown too short a time to be read at the house's reading rate."""
    rate, reading = timeline.project.rate, timeline.project.house.reading_rate_cps
    frame_s = rate.frame_ticks / TICKS_PER_SECOND
    return [
        span
        for span in timeline.captions
        # a caption that has a frame less than it needs is not yet too fast
        if (span.out_frame - span.in_frame + 1) * frame_s * reading
        < characters_read(span.caption.text) - 1e-6
    ]


def reading_rate_cps(span: CaptionSpan, rate: FrameRate) -> float:
    """How many characters a second have to be read of a caption as long as it is shown."""
    shown_s = max(1, span.out_frame - span.in_frame) * rate.frame_ticks / TICKS_PER_SECOND
    return characters_read(span.caption.text) / shown_s


def pass_statuses(
    timeline: Timeline,
    exported: int,
    faces_of: FacesOf | None = None,
    hurried: int | None = None,
    undrawn: int | None = None,
) -> tuple[PassStatus, ...]:
    """The passes in the order of the work.

    Args:
        exported: how many files the last export made.
        faces_of: the typefaces of the captions; without them nobody looks whether they can draw all.
        hurried: how many captions are too fast to read, where that is known.
        undrawn: how many captions and titles have signs that no typeface has, where that is known.
    """
    hurried = len(too_fast(timeline)) if hurried is None else hurried
    project = timeline.project
    if undrawn is None:
        undrawn = len(missing_signs(project, faces_of)) if faces_of else 0
    states = count_states(timeline)
    locked = sum(shot.locked for shot in project.shots)
    without = len(project.shots) - len(_with_words(timeline))
    unvoiced, stale = states[LineState.UNVOICED], states[LineState.STALE]
    words = f"{counted(len(project.captions), 'caption')}, {_seconds(_to_say(timeline))}"
    lettering = [
        f"{count} {text}"
        for count, text in (
            (hurried, "too fast to read"),
            (undrawn, "can't be drawn"),
        )
        if count
    ]
    outside = len(outside_of(timeline))
    fit = [part for part in (_spilling(states), f"{outside} past the end" if outside else "") if part]
    shots = f"{counted(len(project.shots), 'shot')}, {_seconds(timeline.total_ticks)}"
    voices = ", ".join(role.name for role in project.roles) or "nobody yet"
    recorded = sum(span.take is not None and span.take.recorded for span in timeline.lines)
    still = [
        f"{count} {word}"
        for word, count in (
            ("unvoiced", unvoiced),
            ("stale", stale),
            ("spilling", states[LineState.SPILLS]),
            ("past the end", outside),
        )
        if count
    ]
    made = (
        "nothing made yet"
        if not exported and not still
        else f"{counted(exported, 'file')} made"
        if exported
        else ""
    )
    standing: dict[PassName, tuple[str, str]] = {
        "picture": ("", shots + (f", {locked} locked" if locked else "")),
        "words": (f"{unvoiced} unvoiced" if unvoiced else "", words + _silent_shots(without)),
        "cast": (f"{stale} stale" if stale else "", voices + (f", {recorded} recorded" if recorded else "")),
        "fit": (", ".join(fit), _settled(states)),
        "lettering": (", ".join(lettering), _lettered(project)),
        "sound": _heard(project),
        "export": (", ".join(still), made),
    }
    return tuple(PassStatus(name, *standing[name]) for name in PASSES)


def _heard(project: Project) -> tuple[str, str]:
    """What is open in the sound, and what there is of it beside the voices."""
    beds, effects = len(project.beds), len(project.effects)
    one = f"bed ducks {project.beds[0].duck_db:.0f} dB" if beds == 1 else ""
    first = one or (counted(beds, "bed") if beds else "no bed")
    held = "solo" if project.mix.solo else "muted" if project.mix.muted else ""
    text = first + (f", {counted(effects, 'effect')}" if effects else "")
    return f"something {held}" if held else "", text


def _to_say(timeline: Timeline) -> int:
    """How long all that is said lasts at its natural pace, in ticks."""
    return sum(span.natural_ticks for span in timeline.lines)


def _seconds(ticks: int) -> str:
    return f"{ticks_to_seconds(ticks):.1f} s"


def _lettered(project: Project) -> str:
    titles = counted(len(project.titles), "title")
    return project.lettering.style.name + (f", {titles}" if project.titles else "")


@dataclass(frozen=True, slots=True)
class SyncStatus:
    """How the piece stands in sync: the worst cut-to-voice (speech past its room, ticks), the worst
    caption-to-word (frames of speech that no caption of its own shows), slowest and fastest pace, idle time
    in the windows."""

    worst_spill_ticks: int
    worst_caption_frames: int
    slowest: float
    fastest: float
    idle_ticks: int


def sync_status(timeline: Timeline, kept: Kept[CaptionSpan, int] | None = None) -> SyncStatus:
    """How the piece stands; `kept` keeps what was found of captions from one timeline to the next."""
    kept = kept or Kept()
    rate = timeline.project.rate
    paces = [span.pace for span in timeline.lines if not span.stale] or [1.0]
    worst_caption = 0
    lines = {span.line.id: span for span in timeline.lines}
    for shown in timeline.captions:
        span = lines.get(shown.line_id or "")
        if span is not None:
            known = kept.get(shown, (span, rate))
            found = (
                kept.keep(shown, (span, rate), _unshown_frames(shown, span, rate)) if known is None else known
            )
            worst_caption = max(worst_caption, found)
    return SyncStatus(
        max((span.spill_ticks for span in timeline.lines), default=0),
        worst_caption,
        min(paces),
        max(paces),
        sum(span.idle_ticks for span in timeline.lines),
    )


def _unshown_frames(shown: CaptionSpan, span: LineSpan, rate: FrameRate) -> int:
    """By how many frames the words of a caption begin before it or end after it."""
    first, end = shown.words
    heard = span.words_time_ticks(first, end) if end > first else None
    if heard is None:
        return 0
    return max(shown.in_frame - rate.frames_floor(heard[0]), rate.frames_ceil(heard[1]) - shown.out_frame)


def _with_words(timeline: Timeline) -> set[str]:
    """Shots over which a line may speak."""
    index = timeline.project.shot_index()
    ids = [shot.id for shot in timeline.project.shots]
    spoken: set[str] = set()
    for line in timeline.project.lines:
        spoken.add(line.first_shot_id)
        if line.last_shot_id != line.first_shot_id:
            spoken.update(ids[index[line.first_shot_id] : index[line.last_shot_id] + 1])
    return spoken


def _silent_shots(count: int) -> str:
    return "" if count == 0 else f", {counted(count, 'shot')} silent"


def _spilling(states: Counter[LineState]) -> str:
    count = states[LineState.SPILLS]
    return "" if count == 0 else f"{count} {'spills' if count == 1 else 'spill'}"


def _settled(states: Counter[LineState]) -> str:
    named = (
        (LineState.SITS, "sits", "sit"),
        (LineState.LEANS, "leans", "lean"),
        (LineState.FLOATS, "floats", "float"),
    )
    parts = [
        f"{states[state]} {one if states[state] == 1 else many}"
        for state, one, many in named
        if states[state]
    ]
    return ", ".join(parts) or "no line yet"
