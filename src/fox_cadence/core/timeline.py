"""A project resolved into the times of the piece: what the sheet, the player and every export read."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from fox_cadence.core.length_model import estimate_ticks
from fox_cadence.core.project import Caption, Line, Project, Shot, said_text
from fox_cadence.core.states import LineState, line_state
from fox_cadence.core.takes import Take, natural_request
from fox_cadence.core.ticks import samples_to_ticks, seconds_to_ticks
from fox_cadence.core.words import share_words, words_of


@dataclass(frozen=True, slots=True)
class ShotSpan:
    """A shot and the frames it is on the screen, the end exclusive."""

    shot: Shot
    start_frame: int
    end_frame: int


@dataclass(frozen=True, slots=True)
class CaptionSpan:
    """A caption and the frames it is on the screen, the out frame exclusive; `words` are those of its line it shows."""

    caption: Caption
    line_id: str | None
    in_frame: int
    out_frame: int
    words: tuple[int, int]


@dataclass(frozen=True, slots=True)
class LineSpan:
    """A line with its place in the piece. Times in ticks from the start of the piece.

    `start_ticks` and `end_ticks` are the first and last sound. `natural_ticks` is its length at natural pace with its
    pauses as written. `take` is the sound that plays (None while unvoiced), beginning at `sound_start_ticks`.
    """

    line: Line
    said: str
    state: LineState
    start_ticks: int
    end_ticks: int
    window_start_ticks: int
    window_end_ticks: int
    natural_voiced_ticks: int
    natural_pause_ticks: int
    pauses_ticks: tuple[int, ...]
    pace: float
    pause_ticks: int
    spill_ticks: int
    idle_ticks: int
    take: Take | None
    stale: bool

    @property
    def natural_ticks(self) -> int:
        return self.natural_voiced_ticks + self.natural_pause_ticks

    @property
    def sound_start_ticks(self) -> int:
        onset = samples_to_ticks(self.take.onset_sample) if self.take else 0
        return self.start_ticks - onset

    def word_times_ticks(self) -> tuple[tuple[int, int], ...]:
        """Start and end of each word in the piece; spread by their letters while there is no take."""
        if self.take is not None:
            origin = self.sound_start_ticks
            return tuple(
                (origin + samples_to_ticks(word.start_sample), origin + samples_to_ticks(word.end_sample))
                for word in self.take.words
            )
        words = words_of(self.said)
        total = sum(len(word.text) for word in words) or 1
        length = self.end_ticks - self.start_ticks
        times: list[tuple[int, int]] = []
        seen = 0
        for word in words:
            start = self.start_ticks + length * seen // total
            seen += len(word.text)
            times.append((start, self.start_ticks + length * seen // total))
        return tuple(times)


@dataclass(frozen=True, slots=True)
class Timeline:
    """Everything of a project with its times in the piece."""

    project: Project
    shots: tuple[ShotSpan, ...]
    captions: tuple[CaptionSpan, ...]
    lines: tuple[LineSpan, ...]

    @property
    def total_frames(self) -> int:
        return self.shots[-1].end_frame if self.shots else 0

    @property
    def total_ticks(self) -> int:
        return self.project.rate.ticks(self.total_frames)


def shot_spans(shots: tuple[Shot, ...]) -> tuple[ShotSpan, ...]:
    spans: list[ShotSpan] = []
    at = 0
    for shot in shots:
        spans.append(ShotSpan(shot, at, at + shot.length_frames))
        at += shot.length_frames
    return tuple(spans)


def is_stale(project: Project, line: Line, take: Take) -> bool:
    """True when the words, the voice or the delivery changed after the line's natural take was made."""
    return take.key != natural_request(project, line).key


def natural_lengths(project: Project, line: Line, take: Take | None) -> tuple[int, tuple[int, ...]]:
    """Voiced length and inner pauses of a line at natural pace, from its take or, without one, estimated (ticks)."""
    if take is not None:
        return take.voiced_ticks, take.pause_ticks
    role = project.role(line.role_id)
    voiced, pauses = estimate_ticks(said_text(project, line), project.language, role.pace)
    return max(voiced, seconds_to_ticks(0.1)), ((pauses,) if pauses else ())


def window_ticks(project: Project, line: Line, starts: Mapping[str, tuple[int, int]]) -> tuple[int, int]:
    """The time a line may use: from its first shot to its last, less lead and tail.

    A locked caption narrows it: the words must fall within the time it is shown. `starts` gives the start and end
    frame of each shot.
    """
    rate, house = project.rate, project.house
    start = rate.ticks(starts[line.first_shot_id][0]) + house.lead_ticks
    end = rate.ticks(starts[line.last_shot_id][1]) - house.tail_ticks
    locked = [caption for caption in project.captions if caption.locked and caption.id in line.caption_ids]
    for caption in locked:
        at = starts[caption.shot_id][0]
        if caption.id == line.caption_ids[0]:
            start = max(start, rate.ticks(at + caption.in_frames))
        if caption.id == line.caption_ids[-1]:
            end = min(end, rate.ticks(at + caption.out_frames))
    return start, end


def build_timeline(project: Project, takes: Mapping[str, Take]) -> Timeline:
    """Resolve a project with its takes (by id) into the times of the piece."""
    spans = shot_spans(project.shots)
    starts = {span.shot.id: (span.start_frame, span.end_frame) for span in spans}
    lines: list[LineSpan] = []
    for line in project.lines:
        lines.append(_line_span(project, line, takes, starts, lines[-1] if lines else None))
    lines = _mark_idle(lines, project)
    line_by_caption = {
        caption_id: (line, words)
        for line in project.lines
        for caption_id, words in caption_words(project, line).items()
    }
    captions = tuple(
        CaptionSpan(
            caption,
            line_by_caption[caption.id][0].id if caption.id in line_by_caption else None,
            starts[caption.shot_id][0] + caption.in_frames,
            starts[caption.shot_id][0] + caption.out_frames,
            line_by_caption[caption.id][1] if caption.id in line_by_caption else (0, 0),
        )
        for caption in project.captions
    )
    return Timeline(project, spans, captions, tuple(lines))


def caption_words(project: Project, line: Line) -> dict[str, tuple[int, int]]:
    """For each caption of a line the half-open range of the line's spoken words that it shows."""
    shown = [len(words_of(project.caption(caption_id).text)) for caption_id in line.caption_ids]
    ranges = share_words(shown, len(words_of(said_text(project, line))))
    return dict(zip(line.caption_ids, ranges, strict=True))


def _line_span(
    project: Project,
    line: Line,
    takes: Mapping[str, Take],
    starts: Mapping[str, tuple[int, int]],
    before: LineSpan | None,
) -> LineSpan:
    natural = takes.get(line.take_id) if line.take_id else None
    stale = natural is not None and is_stale(project, line, natural)
    known = None if stale else natural
    voiced, pauses = natural_lengths(project, line, known)
    window_start, window_end = window_ticks(project, line, starts)
    first = project.rate.ticks(starts[line.first_shot_id][0])
    take = natural
    placement = line.placement
    if placement is not None:
        start = first + placement.offset_ticks
        length = placement.length_ticks
        pause = placement.pause_ticks
        pace = voiced / placement.voiced_ticks if placement.voiced_ticks else 1.0
        if placement.take_id in takes and not stale:
            take = takes[placement.take_id or ""]
        if take is not None and take.id != placement.take_id:  # the natural take plays where the fit put the line
            length, pause, pace = take.length_ticks, sum(pauses), 1.0
        if before is not None and start < before.end_ticks:
            start = before.end_ticks + gap_ticks(project, before.line, line)
    else:
        offset = line.wanted_offset_ticks if line.wanted_offset_ticks is not None else project.house.lead_ticks
        start = max(first + offset, window_start)
        if before is not None:
            start = max(start, before.end_ticks + gap_ticks(project, before.line, line))
        pace, pause = 1.0, sum(pauses)
        length = take.length_ticks if take is not None else voiced + pause
    end = start + length
    spill = max(0, end - window_end)
    state = line_state(
        voiced=natural is not None,
        stale=stale,
        spill_ticks=spill,
        pace=pace,
        pause_change_ticks=abs(sum(pauses) - pause),
        idle_ticks=0,
        longest_silence_ticks=project.house.longest_silence_ticks,
    )
    return LineSpan(
        line, said_text(project, line), state, start, end, window_start, window_end,
        voiced, sum(pauses), pauses, pace, pause, spill, 0, take, stale,
    )  # fmt: skip


def gap_ticks(project: Project, before: Line, after: Line) -> int:
    """The least time between two lines: longer where the voice changes."""
    house = project.house
    return house.gap_ticks if before.role_id == after.role_id else house.voice_change_gap_ticks


def _mark_idle(lines: list[LineSpan], project: Project) -> list[LineSpan]:
    """Idle time of a line: what its window leaves after it, up to the next line; decides which lines float."""
    marked: list[LineSpan] = []
    for index, span in enumerate(lines):
        until = span.window_end_ticks
        if index + 1 < len(lines):
            until = min(until, lines[index + 1].start_ticks)
        idle = max(0, until - span.end_ticks)
        state = span.state
        if state is LineState.SITS and idle > project.house.longest_silence_ticks:
            state = LineState.FLOATS
        marked.append(replace(span, idle_ticks=idle, state=state))
    return marked
