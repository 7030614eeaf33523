"""What is known of how a line is spoken: its spans, its pauses, where each word lies among them.

A line is one span, or a chain of spans joined at the words that sync points hold. In a span the voiced part
and the natural pauses can each be given another length; written pauses keep theirs. Word times follow from
those lengths.
"""

import itertools
from bisect import bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property

from fox_cadence.core.length_model import KnownSpeech
from fox_cadence.core.project import SpanLength
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import samples_to_ticks


@dataclass(frozen=True, slots=True)
class Rest:
    """A pause of a span: how much voiced time of the span lies before it, its natural length, written or
    not."""

    voiced_before_ticks: int
    ticks: int
    written: bool


@dataclass(frozen=True)
class SpanSpeech:
    """A span at natural pace: words [first_word, end_word), its rests in order."""

    first_word: int
    end_word: int
    voiced_ticks: int
    rests: tuple[Rest, ...]

    @cached_property
    def natural_rests(self) -> tuple[int, ...]:
        """Ticks of the rests nobody has written, in order."""
        return tuple(rest.ticks for rest in self.rests if not rest.written)

    @cached_property
    def natural(self) -> SpanLength:
        """Its lengths as it is spoken when nothing is changed."""
        return SpanLength(
            voiced_ticks=self.voiced_ticks,
            pause_ticks=sum(self.natural_rests),
            written_ticks=sum(rest.ticks for rest in self.rests if rest.written),
        )


@dataclass(frozen=True, slots=True)
class WordPlace:
    """Where a word lies in its span: voiced time of the span before its begin and before its end."""

    span: int
    begin_ticks: int
    end_ticks: int


@dataclass(frozen=True, slots=True)
class WordPosition:
    """The begin or end of a word as a linear function of its span's lengths.

    Its time after the start of the span is `voiced_share * voiced + pause_share * pauses + written_ticks`.
    """

    span: int
    voiced_share: float
    pause_share: float
    written_ticks: int


@dataclass(frozen=True)
class LineSpeech:
    """A line at natural pace. There is at least one span; words are in order."""

    spans: tuple[SpanSpeech, ...]
    words: tuple[WordPlace, ...]

    @cached_property
    def natural(self) -> tuple[SpanLength, ...]:
        """Lengths of its spans as they are spoken when nothing is changed."""
        return tuple(span.natural for span in self.spans)

    @cached_property
    def voiced_ticks(self) -> int:
        """All that is voice, at natural pace."""
        return sum(span.voiced_ticks for span in self.spans)

    @cached_property
    def begin(self) -> WordPosition:
        """Where the first word begins. There is one."""
        return _position(self, 0, end=False)

    @cached_property
    def end(self) -> WordPosition:
        """Where the last word ends. There is one."""
        return _position(self, len(self.words) - 1, end=True)


def shared_pauses(natural: Sequence[int], total: int, shortest: int) -> tuple[int, ...]:
    """Natural pauses brought to a total: each q times as long, none shorter than `shortest` or its own
    length.

    The total is spread exactly; where it lies under the sum of the shortest lengths, it is spread over those.
    """
    floors = [min(pause, shortest) for pause in natural]
    if total <= sum(floors):
        return _scaled(floors, total)
    free = set(range(len(natural)))
    held = 0
    while free:
        whole = sum(natural[i] for i in free)
        under = {i for i in free if natural[i] * (total - held) < floors[i] * whole}
        if not under:
            break
        free -= under
        held += sum(floors[i] for i in under)
    order = sorted(free)
    shares = dict(zip(order, _scaled([natural[i] for i in order], total - held), strict=True))
    return tuple(shares.get(i, floors[i]) for i in range(len(natural)))


def _scaled(weights: Sequence[int], total: int) -> tuple[int, ...]:
    """A total in proportion to weights, in whole ticks that add up to it."""
    whole = sum(weights)
    if whole == 0:
        return tuple(0 for _ in weights)
    seen = 0
    edges = [0]
    for weight in weights:
        seen += weight
        edges.append(total * seen // whole)
    return tuple(b - a for a, b in itertools.pairwise(edges))


def word_times(
    speech: LineSpeech, lengths: Sequence[SpanLength], start_ticks: int, shortest_pause_ticks: int
) -> tuple[tuple[int, int], ...]:
    """Begin and end of each word when the spans last so long and the line begins at `start_ticks`."""
    times: list[tuple[int, int]] = [(start_ticks, start_ticks)] * len(speech.words)
    at = start_ticks
    for number, (span, length) in enumerate(zip(speech.spans, lengths, strict=True)):
        pauses = iter(shared_pauses(span.natural_rests, length.pause_ticks, shortest_pause_ticks))
        rests = [
            (rest.voiced_before_ticks, rest.ticks if rest.written else next(pauses)) for rest in span.rests
        ]
        for index in range(span.first_word, span.end_word):
            word = speech.words[index]
            begin = _moved(word.begin_ticks, span, length, rests, after=True)
            end = _moved(word.end_ticks, span, length, rests, after=False)
            times[index] = (at + begin, at + max(begin, end))
        at += length.ticks
        assert all(place.span == number for place in speech.words[span.first_word : span.end_word])
    return tuple(times)


def word_edge(
    speech: LineSpeech,
    lengths: Sequence[SpanLength],
    start_ticks: int,
    shortest_pause_ticks: int,
    word: int,
    end: bool,
) -> int:
    """The begin or the end of one word, as `word_times` has it; quick at both ends of a line."""
    if word == 0 and not end:
        return start_ticks
    if end and word + 1 == len(speech.words):
        return start_ticks + sum(length.ticks for length in lengths)
    return word_times(speech, lengths, start_ticks, shortest_pause_ticks)[word][1 if end else 0]


def _moved(
    voiced: int, span: SpanSpeech, length: SpanLength, rests: list[tuple[int, int]], after: bool
) -> int:
    """A place of voiced time after the span's start; `after` puts it behind a rest that lies just there."""
    moved = voiced * length.voiced_ticks // span.voiced_ticks if span.voiced_ticks else 0
    return moved + sum(ticks for place, ticks in rests if place < voiced or (after and place == voiced))


def position(speech: LineSpeech, word: int, end: bool) -> WordPosition:
    """The begin (or end) of a word as a linear function of its span's lengths (pauses scaled alike).

    Nearly every caption shows a whole line; those two places are worked out once.
    """
    if word == 0 and not end:
        return speech.begin
    return speech.end if end and word + 1 == len(speech.words) else _position(speech, word, end)


def _position(speech: LineSpeech, word: int, end: bool) -> WordPosition:
    place = speech.words[word]
    span = speech.spans[place.span]
    if end and word + 1 == len(speech.words):
        return WordPosition(
            place.span, 1.0, 1.0 if span.natural.pause_ticks else 0.0, span.natural.written_ticks
        )
    voiced = place.end_ticks if end else place.begin_ticks
    if voiced == 0 and (not span.rests or span.rests[0].voiced_before_ticks > 0):
        return WordPosition(place.span, 0.0, 0.0, 0)
    before = [
        r
        for r in span.rests
        if r.voiced_before_ticks < voiced or (not end and r.voiced_before_ticks == voiced)
    ]
    whole = sum(span.natural_rests)
    return WordPosition(
        place.span,
        voiced / span.voiced_ticks if span.voiced_ticks else 0.0,
        sum(r.ticks for r in before if not r.written) / whole if whole else 0.0,
        sum(r.ticks for r in before if r.written),
    )


def speech_of(
    words: Sequence[tuple[int, int]],
    pauses: Sequence[tuple[int, int, bool]],
    end: int,
    cut_before: Sequence[int],
) -> LineSpeech:
    """Sort times of a sound into spans.

    Args:
        words: begin and end of each word, in ticks from the first sound.
        pauses: begin, end, written; in order.
        end: the last sound.
        cut_before: words (not the first) at which a new span begins.
    """
    bounds = [0, *sorted({word for word in cut_before if 0 < word < len(words)}), len(words)]
    spans: list[SpanSpeech] = []
    places: list[WordPlace] = []
    for number, (first, end_word) in enumerate(itertools.pairwise(bounds)):
        start = words[first][0] if number else 0
        until = words[end_word][0] if end_word < len(words) else end
        inside = [(a, b, written) for a, b, written in pauses if a >= start and b <= until and b > a]
        rests: list[Rest] = []
        lost = 0
        for a, b, written in inside:
            rests.append(Rest(a - start - lost, b - a, written))
            lost += b - a
        spans.append(SpanSpeech(first, end_word, until - start - lost, tuple(rests)))
        for begin, finish in words[first:end_word]:
            places.append(
                WordPlace(
                    number, _voiced(begin - start, inside, start), _voiced(finish - start, inside, start)
                )
            )
    return LineSpeech(tuple(spans), tuple(places))


def _voiced(at: int, pauses: Sequence[tuple[int, int, bool]], start: int) -> int:
    """Voiced time before a moment of a span."""
    return at - sum(min(b - start, at) - (a - start) for a, b, _ in pauses if a - start < at)


def speech_of_take(
    take: Take, cut_before: Sequence[int] = (), written: Mapping[int, int] | None = None
) -> LineSpeech:
    """How a take is spoken.

    With `written` (ticks by the word they follow) its written pauses are these, whatever it was made with:
    what is known of its words stays known when only a pause is changed.
    """

    def ticks(sample: int) -> int:
        return samples_to_ticks(sample - take.onset_sample)

    words = [(ticks(word.start_sample), ticks(word.end_sample)) for word in take.words]
    pauses = [(ticks(pause.start_sample), ticks(pause.end_sample), pause.written) for pause in take.pauses]
    end = ticks(take.end_sample)
    if written is not None:
        words, pauses, end = _rewritten(words, pauses, end, written)
    return speech_of(words, pauses, end, cut_before)


def _rewritten(
    words: list[tuple[int, int]], pauses: list[tuple[int, int, bool]], end: int, written: Mapping[int, int]
) -> tuple[list[tuple[int, int]], list[tuple[int, int, bool]], int]:
    """Times with other written pauses: those there were taken out, the others put in, natural ones kept
    elsewhere."""
    begins = [begin for begin, _ in words]
    old = {max(0, bisect_right(begins, start) - 1): (start, stop, mark) for start, stop, mark in pauses}
    moved: list[tuple[int, int]] = []
    rests: list[tuple[int, int, bool]] = []
    shift = 0
    for index, (begin, finish) in enumerate(words):
        moved.append((begin + shift, finish + shift))
        start, stop, was_written = old.get(index, (finish, finish, False))
        if index + 1 == len(words):
            break
        if index in written:
            rests.append((start + shift, start + shift + written[index], True))
            shift += written[index] - (stop - start)
        elif was_written:
            shift -= stop - start
        elif stop > start:
            rests.append((start + shift, stop + shift, False))
    return moved, rests, end + shift


def speech_of_known(known: KnownSpeech, cut_before: Sequence[int], written: Mapping[int, int]) -> LineSpeech:
    """How a line will be spoken of which everything is known but its sound."""
    rests = [(start, end, False) for start, end in known.rests]
    words, pauses, end = _rewritten(list(known.words), rests, known.end, written)
    return speech_of(words, pauses, end, cut_before)


def speech_of_estimate(
    letters: Sequence[int],
    voiced_ticks: int,
    pauses: Mapping[int, int],
    written: Mapping[int, int],
    cut_before: Sequence[int],
) -> LineSpeech:
    """A line that has no sound yet: voiced time shared by letters, expected and written pauses after their
    words."""
    total = sum(letters) or 1
    words: list[tuple[int, int]] = []
    rests: list[tuple[int, int, bool]] = []
    seen = at = 0
    for index, count in enumerate(letters):
        length = voiced_ticks * (seen + count) // total - voiced_ticks * seen // total
        seen += count
        words.append((at, at + length))
        at += length
        rest = written.get(index, pauses.get(index, 0))
        if rest and index + 1 < len(letters):
            rests.append((at, at + rest, index in written))
            at += rest
    return speech_of(words or [(0, voiced_ticks)], rests, at if words else voiced_ticks, cut_before)
