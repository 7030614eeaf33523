"""A project resolved into the times of the piece: what the sheet, the player and every export read."""

import itertools
from collections.abc import Mapping
from dataclasses import dataclass, replace

from fox_cadence.core.expected import expected
from fox_cadence.core.lanes import gap_ticks, order_pairs
from fox_cadence.core.length_model import LETTERS, Estimator
from fox_cadence.core.marks import sync_points, written_pauses
from fox_cadence.core.project import Caption, Index, Line, Project, Shot, SpanLength, delivery_of, said_text, voice_of
from fox_cadence.core.shot_limits import overlap_frames
from fox_cadence.core.speech import LineSpeech, speech_of_estimate, speech_of_take, word_times
from fox_cadence.core.states import LineState, line_state
from fox_cadence.core.takes import Take, natural_key, natural_request
from fox_cadence.core.ticks import samples_to_ticks
from fox_cadence.core.words import Word, same_words, share_words, words_of


@dataclass(frozen=True, slots=True)
class ShotSpan:
    """A shot and the frames it is on the screen, the end exclusive; dissolves make neighbours overlap."""

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
class Window:
    """The time a line may use, in ticks of the piece, and how far it may start before and run on after it."""

    start_ticks: int
    end_ticks: int
    early_ticks: int
    late_ticks: int


@dataclass(frozen=True, slots=True)
class LineSpan:
    """A line with its place in the piece. Times in ticks from the start of the piece.

    `start_ticks` and `end_ticks` are the first and last sound. `speech` is how it is spoken at natural pace (estimated
    while it has no take of these words), `lengths` how long its spans last now. `take` is the sound that plays, None
    while unvoiced; a stale one was made from other words, another voice or another delivery.
    """

    line: Line
    said: str
    words: tuple[Word, ...]
    state: LineState
    start_ticks: int
    end_ticks: int
    window: Window
    speech: LineSpeech
    lengths: tuple[SpanLength, ...]
    shortest_pause_ticks: int
    idle_ticks: int
    take: Take | None
    stale: bool

    @property
    def natural_ticks(self) -> int:
        """Its length at natural pace with its pauses as written."""
        return sum(length.ticks for length in self.speech.natural)

    @property
    def natural_pause_ticks(self) -> int:
        return sum(length.pause_ticks for length in self.speech.natural)

    @property
    def pause_ticks(self) -> int:
        """All natural pauses as they are now."""
        return sum(length.pause_ticks for length in self.lengths)

    @property
    def written_ticks(self) -> int:
        return sum(length.written_ticks for length in self.lengths)

    @property
    def pace(self) -> float:
        voiced = sum(length.voiced_ticks for length in self.lengths)
        return self.speech.voiced_ticks / voiced if voiced else 1.0

    @property
    def early_ticks(self) -> int:
        """By how much it starts before its window, on purpose and within the limit."""
        return max(0, min(self.window.start_ticks - self.start_ticks, self.window.early_ticks))

    @property
    def late_ticks(self) -> int:
        """By how much it runs on after its window, on purpose and within the limit."""
        return max(0, min(self.end_ticks - self.window.end_ticks, self.window.late_ticks))

    @property
    def spill_ticks(self) -> int:
        return max(0, self.end_ticks - self.window.end_ticks - self.window.late_ticks)

    @property
    def heard_lengths(self) -> tuple[SpanLength, ...]:
        """Its lengths as it sounds now; what an old sound lasts more or less is put on the first span."""
        rest = self.end_ticks - self.start_ticks - sum(length.ticks for length in self.lengths)
        if rest == 0:
            return self.lengths
        first, *others = self.lengths
        return (first.changed(voiced_ticks=max(1, first.voiced_ticks + rest)), *others)

    @property
    def sound_start_ticks(self) -> int:
        onset = samples_to_ticks(self.take.onset_sample) if self.take else 0
        return self.start_ticks - onset

    def word_times_ticks(self) -> tuple[tuple[int, int], ...]:
        """Start and end of each word in the piece: of the sound that plays, else as expected."""
        if self.take is not None:
            origin = self.sound_start_ticks
            return tuple(
                (origin + samples_to_ticks(word.start_sample), origin + samples_to_ticks(word.end_sample))
                for word in self.take.words
            )
        return word_times(self.speech, self.lengths, self.start_ticks, self.shortest_pause_ticks)[: len(self.words)]

    def words_time_ticks(self, first: int, end: int) -> tuple[int, int] | None:
        """When the words [first, end) begin and end; None where the sound has not so many."""
        if self.take is not None:
            if end > len(self.take.words):
                return None
            origin, words = self.sound_start_ticks, self.take.words
            return (
                origin + samples_to_ticks(words[first].start_sample),
                origin + samples_to_ticks(words[end - 1].end_sample),
            )
        times = self.word_times_ticks()
        return (times[first][0], times[end - 1][1]) if end <= len(times) else None

    def rests_ticks(self) -> tuple[tuple[int, int, int], ...]:
        """Every rest between two words of the sound that plays: the word it follows, its begin and its end."""
        times = self.word_times_ticks()
        return tuple(
            (word, end, begin) for word, ((_, end), (begin, _)) in enumerate(itertools.pairwise(times)) if begin > end
        )


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


def shot_spans(project: Project) -> tuple[ShotSpan, ...]:
    spans: list[ShotSpan] = []
    at = 0
    for shot, overlap in zip(project.shots, overlap_frames(project), strict=True):
        spans.append(ShotSpan(shot, at, at + shot.length_frames))
        at += shot.length_frames - overlap
    return tuple(spans)


def is_stale(project: Project, line: Line, take: Take, index: Index | None = None) -> bool:
    """True when the words, the voice or the delivery changed after the line's natural take was made.

    A recorded take is out of date only when the line says other words.
    """
    index = index or Index(project)
    if take.recorded:
        return not same_words(take.text, said_text(project, line, index))
    return take.key != natural_key(project, line, index)


def build_timeline(project: Project, takes: Mapping[str, Take], estimator: Estimator = LETTERS) -> Timeline:
    """Resolve a project with its takes (by id) into the times of the piece."""
    shots = shot_spans(project)
    builder = _LineBuilder(project, takes, estimator, {span.shot.id: span for span in shots})
    lines = _mark_idle(builder.lines(), project)
    captions: list[CaptionSpan] = []
    shown = {
        caption_id: (span.line.id, words)
        for span in lines
        for caption_id, words in _caption_words(builder.index.captions, span.line, len(span.words)).items()
    }
    for caption in project.captions:
        start = builder.shots[caption.shot_id].start_frame
        line_id, words = shown.get(caption.id, (None, (0, 0)))
        captions.append(CaptionSpan(caption, line_id, start + caption.in_frames, start + caption.out_frames, words))
    return Timeline(project, shots, tuple(captions), lines)


def _caption_words(captions: Mapping[str, Caption], line: Line, count: int) -> dict[str, tuple[int, int]]:
    """For each caption of a line the half-open range of the line's spoken words that it shows."""
    if len(line.caption_ids) == 1:
        return {line.caption_ids[0]: (0, count)}
    shown = [len(words_of(captions[caption_id].text)) for caption_id in line.caption_ids]
    return dict(zip(line.caption_ids, share_words(shown, count), strict=True))


def window_of(project: Project, line: Line, shots: dict[str, ShotSpan], captions: Mapping[str, Caption]) -> Window:
    """The time a line may use: from its first shot to its last, less lead and tail.

    A caption that leads narrows it: the words must fall within the time it is shown, and neither start early nor run
    on late. Nor does a line run on past the end of the piece, which is that of the last of `shots`.
    """
    rate, house = project.rate, project.house
    start = rate.ticks(shots[line.first_shot_id].start_frame) + house.lead_ticks
    end = rate.ticks(shots[line.last_shot_id].end_frame) - house.tail_ticks
    early = house.longest_j_cut_ticks if line.longest_j_cut_ticks is None else line.longest_j_cut_ticks
    late = house.longest_l_cut_ticks if line.longest_l_cut_ticks is None else line.longest_l_cut_ticks
    if line.caption_ids:
        first, last = captions[line.caption_ids[0]], captions[line.caption_ids[-1]]
        if first.leads:
            start = max(start, rate.ticks(shots[first.shot_id].start_frame + first.in_frames))
            early = 0
        if last.leads:
            end = min(end, rate.ticks(shots[last.shot_id].start_frame + last.out_frames))
            late = 0
    end_of_piece = rate.ticks(next(reversed(shots.values())).end_frame)
    return Window(start, end, early, max(0, min(late, end_of_piece - end)))


_MOST_KEPT = 20_000
_kept: dict[tuple[int, tuple[int, ...], tuple[tuple[int, int], ...]], tuple[Take, LineSpeech]] = {}


_kept_spans: dict[str, tuple[tuple[object, ...], "LineSpan"]] = {}
_kept_marked: dict[str, tuple["LineSpan", "LineSpan"]] = {}
"""Lines by their ids as they were last, and with their idle time: an edit or a drag leaves nearly all as they were."""


def _spoken(take: Take, cut_before: tuple[int, ...], written: Mapping[int, int]) -> LineSpeech:
    """How a take is spoken, kept by the take itself (takes never change): every drag builds the timeline anew."""
    key = (id(take), cut_before, tuple(sorted(written.items())))
    known = _kept.get(key)
    if known is None or known[0] is not take:
        if len(_kept) >= _MOST_KEPT:
            _kept.clear()
        known = _kept[key] = (take, speech_of_take(take, cut_before, written))
    return known[1]


class _LineBuilder:
    """Places the lines of a project one after the other."""

    def __init__(
        self, project: Project, takes: Mapping[str, Take], estimator: Estimator, shots: dict[str, ShotSpan]
    ) -> None:
        self.project, self.takes, self.estimator, self.shots = project, takes, estimator, shots
        self.index = Index(project)

    def lines(self) -> list[LineSpan]:
        project = self.project
        before: dict[int, list[int]] = {}
        for a, b in order_pairs(project.lines):
            before.setdefault(b, []).append(a)
        spans: list[LineSpan] = []
        for index, line in enumerate(project.lines):
            earliest = max(
                (spans[a].end_ticks + gap_ticks(project.house, spans[a].line, line) for a in before.get(index, ())),
                default=0,
            )
            latest_end = max((spans[a].end_ticks for a in before.get(index, ())), default=0)
            spans.append(self._span(line, earliest, latest_end))
        return spans

    def _speech(self, line: Line, said: str, words: tuple[Word, ...], take: Take | None) -> LineSpeech:
        house = self.project.house
        cut_before = [point.word for point in sync_points(line.marks)] if line.marks else []
        written = written_pauses(line.marks) if line.marks else {}
        if take is not None and take.words:
            speech = _spoken(take, tuple(cut_before), written)
        else:
            guess = expected(self.estimator, natural_request(self.project, line, self.index))
            letters = [len(word.text) for word in words]
            speech = speech_of_estimate(letters, guess.voiced_ticks, guess.pauses, written, cut_before)
        if written and house.close_written_pauses:
            return replace(
                speech,
                spans=tuple(
                    replace(span, rests=tuple(replace(rest, written=False) for rest in span.rests))
                    for span in speech.spans
                ),
            )
        return speech

    def _same_words(self, take: Take, line: Line, said: str) -> bool:
        """Whether a take that is out of date was made of the same words by the same voice: only its pauses differ."""
        request = natural_request(self.project, line, self.index)
        if take.request is None:  # made by the first release, which knew no direction
            return (take.text, take.voice_id, take.pace) == (said, request.voice_id, request.pace)
        apart = {"written": (), "breaths": ()}
        return take.request.changed(**apart) == request.changed(**apart)

    def _span(self, line: Line, earliest: int, latest_end: int) -> LineSpan:
        """A line in its place; one that has its voice is kept, until something it was made from changes."""
        project, natural = self.project, self.takes.get(line.take_id or "")
        if natural is None:  # its length is a guess, and a guess learns
            return self._new_span(line, earliest, latest_end)
        paced = self.takes.get(line.placement.take_id or "") if line.placement else None
        inputs = (
            line, said_text(project, line, self.index), natural, paced, voice_of(line, self.index),
            delivery_of(line, self.index), window_of(project, line, self.shots, self.index.captions),
            self.shots[line.first_shot_id].start_frame, earliest, latest_end, project.house, project.lexicon,
            project.language, project.rate,
        )  # fmt: skip
        known = _kept_spans.get(line.id)
        if known is not None and known[0] == inputs:
            return known[1]
        made = self._new_span(line, earliest, latest_end)
        if not made.stale:
            if len(_kept_spans) >= _MOST_KEPT:
                _kept_spans.clear()
            _kept_spans[line.id] = (inputs, made)
        return made

    def _new_span(self, line: Line, earliest: int, latest_end: int) -> LineSpan:
        project = self.project
        said = said_text(project, line, self.index)
        words = words_of(said)
        natural = self.takes.get(line.take_id) if line.take_id else None
        stale = natural is not None and is_stale(project, line, natural, self.index)
        known = natural if not stale or (natural and self._same_words(natural, line, said)) else None
        speech = self._speech(line, said, words, known)
        window = window_of(project, line, self.shots, self.index.captions)
        first = project.rate.ticks(self.shots[line.first_shot_id].start_frame)
        lengths, take = speech.natural, natural
        placement = line.placement
        if placement is not None:
            start = first + placement.offset_ticks
            paced = None if stale else self.takes.get(placement.take_id or "")
            if len(placement.spans) == len(lengths) and (paced is not None or natural is None):
                lengths = placement.spans
            take = paced or natural
            if start < latest_end:
                start = earliest
        else:
            offset = line.wanted_offset_ticks if line.wanted_offset_ticks is not None else project.house.lead_ticks
            start = max(first + offset, window.start_ticks, earliest)
        length = sum(each.ticks for each in lengths)
        if stale and take is not None:
            length = take.length_ticks
        span = LineSpan(
            line, said, words, LineState.SITS, start, start + length, window, speech, lengths,
            project.house.shortest_pause_ticks, 0, take, stale,
        )  # fmt: skip
        state = line_state(
            voiced=natural is not None,
            stale=stale,
            spill_ticks=span.spill_ticks,
            pace=span.pace,
            pause_change_ticks=abs(span.natural_pause_ticks - span.pause_ticks),
            idle_ticks=0,
            longest_silence_ticks=project.house.longest_silence_ticks,
        )
        return replace(span, state=state)


def _mark_idle(lines: list[LineSpan], project: Project) -> tuple[LineSpan, ...]:
    """Idle time of a line: what its window leaves after it, up to the next line; decides which lines float."""
    marked: list[LineSpan] = []
    following = next_starts([(span.line.lane, span.start_ticks) for span in lines])
    for span, next_start in zip(lines, following, strict=True):
        until = span.window.end_ticks if next_start is None else min(span.window.end_ticks, next_start)
        idle = max(0, until - span.end_ticks)
        state = span.state
        if state is LineState.SITS and idle > project.house.longest_silence_ticks:
            state = LineState.FLOATS
        known = _kept_marked.get(span.line.id)
        if known is None or known[0] is not span or (known[1].idle_ticks, known[1].state) != (idle, state):
            if len(_kept_marked) >= _MOST_KEPT:
                _kept_marked.clear()
            known = _kept_marked[span.line.id] = (span, replace(span, idle_ticks=idle, state=state))
        marked.append(known[1])
    return tuple(marked)


def next_starts(lines: list[tuple[int, int]]) -> list[int | None]:
    """For each line, given as lane and start in script order, the start of the next line of its lane."""
    found: list[int | None] = []
    newest: dict[int, int] = {}
    for lane, start in reversed(lines):
        found.append(newest.get(lane))
        newest[lane] = start
    return found[::-1]
