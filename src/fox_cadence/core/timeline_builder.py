"""Builds the timeline of a project: every line in its place, said as its take says it or as it is expected to
be."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from fox_cadence.core.kept import Kept
from fox_cadence.core.lanes import gap_ticks, order_pairs
from fox_cadence.core.length_model import LETTERS, Estimator, estimate_request
from fox_cadence.core.marks import sync_points, written_pauses
from fox_cadence.core.project import Index, Line, Placement, Project, said_text
from fox_cadence.core.shot import Shot
from fox_cadence.core.speech import LineSpeech, speech_of_estimate, speech_of_known, speech_of_take
from fox_cadence.core.states import LineState, line_state
from fox_cadence.core.takes import Take, natural_key, natural_request
from fox_cadence.core.timeline import (
    CaptionSpan,
    LineSpan,
    ShotSpan,
    Timeline,
    next_starts,
    shot_spans,
    window_of,
)
from fox_cadence.core.words import Word, same_words, share_words, words_of

_FAR_FRAMES = 1_200
"""No line runs on so long after its last shot (10 s at most, core/edits/lines.py): how far off the end of the
piece is, is not looked at beyond this."""


@dataclass
class KeptSpans:
    """What timelines were built of, so that the next one, after an edit or while a drag goes on, is made of
    the same spans where nothing has changed. It belongs to whoever builds timelines one after the other."""

    spoken: Kept[Take, LineSpeech] = field(default_factory=Kept)
    lines: Kept[Line, tuple[int, LineSpan]] = field(default_factory=Kept)
    """With the start of its first shot, in ticks."""
    marked: Kept[LineSpan, LineSpan] = field(default_factory=Kept)
    captions: Kept[object, CaptionSpan] = field(default_factory=Kept)
    shots: Kept[tuple[Shot, ...], tuple[ShotSpan, ...]] = field(default_factory=lambda: Kept(most=64))
    order: Kept[tuple[Line, ...], dict[int, list[int]]] = field(default_factory=lambda: Kept(most=64))


def is_stale(project: Project, line: Line, take: Take, index: Index | None = None) -> bool:
    """True when the words, the voice or the delivery changed after the line's natural take was made.

    A recorded take is out of date only when the line says other words.
    """
    index = index or Index(project)
    if take.recorded:
        return not same_words(take.text, said_text(project, line, index))
    return take.natural_key != natural_key(project, line, index)


def build_timeline(
    project: Project, takes: Mapping[str, Take], estimator: Estimator = LETTERS, kept: KeptSpans | None = None
) -> Timeline:
    """Resolve a project into the times of the piece.

    Args:
        takes: by their ids; those of the project's lines that are not among them count as not made.
        estimator: how long lines without a take will last.
        kept: spans of timelines built before, to be used again and added to.
    """
    kept = kept or KeptSpans()
    shots = kept.shots.get(project.shots) or kept.shots.keep(project.shots, (), shot_spans(project))
    builder = _LineBuilder(project, takes, estimator, {span.shot.id: span for span in shots}, kept)
    lines = _mark_idle(builder.lines(), project, kept)
    return Timeline(project, shots, _captions(builder, lines), lines)


def _captions(builder: "_LineBuilder", lines: tuple[LineSpan, ...]) -> tuple[CaptionSpan, ...]:
    kept = builder.kept.captions
    shown: dict[str, tuple[str | None, tuple[int, int]]] = {}
    for span in lines:
        for caption_id, words in _caption_words(builder.index, span.line, len(span.words)):
            shown[caption_id] = (span.line.id, words)
    found: list[CaptionSpan] = []
    for caption in builder.project.captions:
        start = builder.shots[caption.shot_id].start_frame
        line_id, words = shown.get(caption.id, (None, (0, 0)))
        inputs = (line_id, words, start)
        made = kept.get(caption, inputs)
        if made is None:
            fresh = CaptionSpan(
                caption, line_id, start + caption.in_frames, start + caption.out_frames, words
            )
            made = kept.keep(caption, inputs, fresh)
        found.append(made)
    return tuple(found)


def _caption_words(index: Index, line: Line, count: int) -> list[tuple[str, tuple[int, int]]]:
    """For each caption of a line the half-open range of the line's spoken words that it shows."""
    if len(line.caption_ids) == 1:
        return [(line.caption_ids[0], (0, count))]
    shown = [len(words_of(index.captions[caption_id].text)) for caption_id in line.caption_ids]
    return list(zip(line.caption_ids, share_words(shown, count), strict=True))


class _LineBuilder:
    """Places the lines of a project one after the other."""

    def __init__(
        self,
        project: Project,
        takes: Mapping[str, Take],
        estimator: Estimator,
        shots: dict[str, ShotSpan],
        kept: KeptSpans,
    ) -> None:
        self.project, self.takes, self.estimator = project, takes, estimator
        self.shots, self.kept = shots, kept
        self.index = Index(project)
        self._total_frames = next(reversed(shots.values())).end_frame if shots else 0
        self._frame_ticks = project.rate.frame_ticks
        self._rules = (project.house, project.lexicon, project.language, project.rate)

    def lines(self) -> list[LineSpan]:
        project = self.project
        before = self._before()
        spans: list[LineSpan] = []
        for index, line in enumerate(project.lines):
            earliest = latest_end = 0
            for a in before.get(index, ()):
                end = spans[a].end_ticks
                latest_end = max(latest_end, end)
                earliest = max(earliest, end + gap_ticks(project.house, spans[a].line, line))
            spans.append(self._span(line, earliest, latest_end))
        return spans

    def _before(self) -> dict[int, list[int]]:
        """For each line, by its place, those that must be over before it begins."""
        lines = self.project.lines
        known = self.kept.order.get(lines)
        if known is not None:
            return known
        before: dict[int, list[int]] = {}
        for a, b in order_pairs(lines):
            before.setdefault(b, []).append(a)
        return self.kept.order.keep(lines, (), before)

    def _span(self, line: Line, earliest: int, latest_end: int) -> LineSpan:
        """A line in its place, kept until something it was made from changes; where only its shot has moved,
        it is moved along."""
        takes, index, shots = self.takes, self.index, self.shots
        first, last = shots[line.first_shot_id].start_frame, shots[line.last_shot_id].end_frame
        origin = first * self._frame_ticks
        natural = takes.get(line.take_id) if line.take_id else None
        paced = takes.get(line.placement.take_id) if line.placement and line.placement.take_id else None
        role = index.roles[line.role_id]
        inputs = (
            natural, paced, role, last - first, min(_FAR_FRAMES, self._total_frames - last),
            earliest - origin, latest_end - origin, self._rules,
            *[
                (caption := index.captions[each], shots[caption.shot_id].start_frame - first)
                for each in line.caption_ids
            ],
            index.scene_texts.get(line.scene_text_id) if line.scene_text_id else None,
            None if natural is not None and not natural.paced else self._basis(line),
        )  # fmt: skip
        known = self.kept.lines.get(line, inputs)
        if known is None or (known[1].stale and self._newly_foreseen(known[1])):
            made = self._new_span(line, earliest, latest_end)
        elif known[0] == origin:
            return known[1]
        else:
            made = _moved(known[1], origin - known[0])
        return self.kept.lines.keep(line, inputs, (origin, made))[1]

    def _newly_foreseen(self, span: LineSpan) -> bool:
        """Whether more is known of a line than when it was placed."""
        if span.foreseen or (span.take is not None and span.take.recorded):
            return False
        return self.estimator.known(natural_request(self.project, span.line, self.index)) is not None

    def _basis(self, line: Line) -> object:
        """What the expected length of a line without a take rests on."""
        request = natural_request(self.project, line, self.index)
        # a guess learns from every take of the voice
        return self.estimator.known(request) or self.estimator.version(request.voice_id)

    def _new_span(self, line: Line, earliest: int, latest_end: int) -> LineSpan:
        project = self.project
        said = said_text(project, line, self.index)
        words = words_of(said)
        natural = self.takes.get(line.take_id) if line.take_id else None
        stale = natural is not None and is_stale(project, line, natural, self.index)
        known = natural if not stale or (natural and self._same_words(natural, line, said)) else None
        # a take at the lengths of a fit does not tell how the line would be said without one
        speech, foreseen = self._speech(line, words, None if known is None or known.paced else known)
        window = window_of(project, line, self.shots, self.index.captions)
        first = project.rate.ticks(self.shots[line.first_shot_id].start_frame)
        lengths, take = speech.natural, natural
        placement = line.placement
        planned = placement is not None and len(placement.spans) == len(lengths)
        if natural is not None and natural.paced and not planned:
            stale = True  # its lengths belong to a place it has no more
        if placement is not None:
            start = first + placement.offset_ticks
            paced = None if stale else self.takes.get(placement.take_id or "")
            if paced is None and natural is not None and natural.paced and not stale:
                paced = natural
            if planned and (paced is not None or self._meant(placement, line, natural)):
                lengths = placement.spans
            take = paced or natural
            if start < latest_end:
                start = earliest
        else:
            offset = (
                line.wanted_offset_ticks if line.wanted_offset_ticks is not None else project.house.lead_ticks
            )
            start = max(first + offset, window.start_ticks, earliest)
        length = sum(each.ticks for each in lengths)
        if stale and take is not None:
            length = take.length_ticks
        span = LineSpan(
            line, said, words, LineState.SITS, start, start + length, window, speech, lengths,
            project.house.shortest_pause_ticks, 0, take, stale, foreseen,
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

    def _meant(self, placement: Placement, line: Line, natural: Take | None) -> bool:
        """Whether a line has no sound of what it says now, and a placement was made for just that; older
        placements don't tell, and count where the line never had a sound."""
        if not placement.key:
            return natural is None
        if natural is not None and natural.natural_key == placement.key:
            return False
        return placement.key == natural_key(self.project, line, self.index)

    def _speech(self, line: Line, words: tuple[Word, ...], take: Take | None) -> tuple[LineSpeech, bool]:
        """How a line is or will be said, and whether that is known before its sound."""
        house = self.project.house
        cut_before = [point.word for point in sync_points(line.marks)] if line.marks else []
        written = written_pauses(line.marks) if line.marks else {}
        foreseen = False
        if take is not None and take.words:
            inputs = (tuple(cut_before), tuple(sorted(written.items())))
            speech = self.kept.spoken.get(take, inputs) or self.kept.spoken.keep(
                take, inputs, speech_of_take(take, tuple(cut_before), written)
            )
        else:
            request = natural_request(self.project, line, self.index)
            known = self.estimator.known(request)
            if known is not None and len(known.words) == len(words):
                foreseen = True
                speech = speech_of_known(known, cut_before, written)
            else:
                guess = estimate_request(self.estimator, request)
                letters = [len(word.text) for word in words]
                speech = speech_of_estimate(letters, guess.voiced_ticks, guess.pauses, written, cut_before)
        if written and house.close_written_pauses:
            speech = replace(
                speech,
                spans=tuple(
                    replace(span, rests=tuple(replace(rest, written=False) for rest in span.rests))
                    for span in speech.spans
                ),
            )
        return speech, foreseen

    def _same_words(self, take: Take, line: Line, said: str) -> bool:
        """Whether a take that is out of date was made of the same words by the same voice: only its pauses
        differ."""
        request = natural_request(self.project, line, self.index)
        if take.request is None:  # made by the first release, which knew no direction
            return (take.text, take.voice_id, take.pace) == (said, request.voice_id, request.pace)
        apart = {"written": (), "breaths": ()}
        return take.request.changed(**apart) == request.changed(**apart)


def _moved(span: LineSpan, ticks: int) -> LineSpan:
    """A line with its window, so much later."""
    window = span.window
    return replace(
        span,
        start_ticks=span.start_ticks + ticks,
        end_ticks=span.end_ticks + ticks,
        window=replace(window, start_ticks=window.start_ticks + ticks, end_ticks=window.end_ticks + ticks),
    )


def _mark_idle(lines: list[LineSpan], project: Project, kept: KeptSpans) -> tuple[LineSpan, ...]:
    """Idle time of a line: what its window leaves after it, up to the next line; decides which lines
    float."""
    marked: list[LineSpan] = []
    following = next_starts([(span.line.lane, span.start_ticks) for span in lines])
    for span, next_start in zip(lines, following, strict=True):
        until = span.window.end_ticks if next_start is None else min(span.window.end_ticks, next_start)
        idle = max(0, until - span.end_ticks)
        state = span.state
        if state is LineState.SITS and idle > project.house.longest_silence_ticks:
            state = LineState.FLOATS
        known = kept.marked.get(span, (idle, state))
        marked.append(
            known or kept.marked.keep(span, (idle, state), replace(span, idle_ticks=idle, state=state))
        )
    return tuple(marked)
