"""Pictures under a stretch of narration: where its cuts lie and what each shot shows, at the least cost
(docs/fill.md has the cost and why).

The best division is found by dynamic programming over the places where a cut may lie; clips that are used
again are exchanged after that, because what they cost depends on all others.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import TypeAlias

from pydantic import Field

from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import LineSpan, Timeline
from fox_cadence.core.value import Value

CUT_AT_LINE_END, CUT_AT_PHRASE_END, CUT_BETWEEN_WORDS = 0.0, 0.15, 0.6
_OFF_LENGTH, _OFF_MIDDLE, _OFF_COUNT = 0.4, 0.2, 0.4
_NO_ANSWER, _PAST_END, _AGAIN = 1.5, 3.0, 0.7
"""The parts of the cost, lengths in seconds; docs/fill.md has them with their reasons."""
_PHRASE_SIGNS = frozenset(".,;:!?…—–。、，；：！？।")
_PHRASE_REST_S = 0.25
_MOST_EXCHANGES = 200


class FillWish(Value):
    """How a stretch is to be filled: seconds a shot, how many shots (both soft), and whether cuts are wanted
    on beats."""

    shortest_s: float = Field(5.0, ge=0.5, le=60)
    longest_s: float = Field(7.0, ge=0.5, le=60)
    fewest: int = Field(3, ge=1, le=60)
    most: int = Field(4, ge=1, le=60)
    on_beats: bool = False


@dataclass(frozen=True, slots=True)
class CutPlace:
    """A frame a cut may lie on, and what a cut there costs."""

    frame: int
    cost: float


@dataclass(frozen=True, slots=True)
class Material:
    """What a shot may show; `frames` is how many frames it has, None for a still."""

    id: str
    frames: int | None


@dataclass(frozen=True, slots=True)
class Part:
    """A shot of a filled stretch: the frames [start, end) of the piece, what it shows, and what else would
    do, the best first."""

    start: int
    end: int
    shows: str
    others: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Filled:
    """A division of a stretch and what it costs."""

    parts: tuple[Part, ...]
    cost: float


Answers: TypeAlias = Callable[[int, int], Mapping[str, float]]
"""How well materials answer to what is said in the frames [start, end), 0 to 1; missing ones not at all."""


@dataclass(frozen=True, slots=True)
class _State:
    cost: float
    shows: str
    before: "tuple[int, _State] | None"


def cut_places(timeline: Timeline, start: int, end: int, on_beats: bool) -> tuple[CutPlace, ...]:
    """Where cuts may lie within the frames (start, end), each with its cost: after words, or on beats."""
    rate = timeline.project.rate
    spans = [
        span
        for span in timeline.lines
        if span.words and span.end_ticks > rate.ticks(start) and span.start_ticks < rate.ticks(end)
    ]
    costs: dict[int, float] = {}

    def may(frame: int, cost: float) -> None:
        if start < frame < end:
            costs[frame] = min(cost, costs.get(frame, math.inf))

    if on_beats:
        for beat in timeline.project.beats:
            frame = rate.frames_nearest(beat)
            in_word = any(_in_word(span, rate.ticks(frame)) for span in spans)
            may(frame, CUT_BETWEEN_WORDS if in_word else 0.0)
        return tuple(CutPlace(frame, cost) for frame, cost in sorted(costs.items()))
    for span in spans:
        times = span.word_times_ticks()
        count = min(len(times), len(span.words))
        for word in range(count):
            last = word + 1 == count
            rest = 0 if last else times[word + 1][0] - times[word][1]
            after = times[word][1] + (rest // 2 if not last else 0)
            may(rate.frames_floor(after) + 1, _cost_after(span, word, rest, last))
    step = max(1, round(float(rate.fraction) / 2))
    quiet = start + 1
    for span in sorted(spans, key=lambda each: each.start_ticks):
        for frame in range(quiet, rate.frames_ceil(span.start_ticks), step):
            may(frame, CUT_AT_PHRASE_END)
        quiet = max(quiet, rate.frames_ceil(span.end_ticks))
    for frame in range(quiet, end, step):
        may(frame, CUT_AT_PHRASE_END)
    return tuple(CutPlace(frame, cost) for frame, cost in sorted(costs.items()))


def _cost_after(span: LineSpan, word: int, rest_ticks: int, last: bool) -> float:
    if last:
        return CUT_AT_LINE_END
    following = span.said[span.words[word].end_exclusive : span.words[word + 1].start]
    text = span.words[word].text + following
    ends = bool(_PHRASE_SIGNS & set(text.strip()[-1:])) or rest_ticks >= seconds_to_ticks(_PHRASE_REST_S)
    return CUT_AT_PHRASE_END if ends else CUT_BETWEEN_WORDS


def _in_word(span: LineSpan, ticks: int) -> bool:
    return any(start < ticks < end for start, end in span.word_times_ticks())


def words_within(timeline: Timeline, start: int, end: int) -> str:
    """What is said in the frames [start, end), each word where its middle lies."""
    rate = timeline.project.rate
    first, last = rate.ticks(start), rate.ticks(end)
    found: list[str] = []
    for span in timeline.lines:
        if span.end_ticks <= first or span.start_ticks >= last:
            continue
        for word, (begins, ends) in zip(span.words, span.word_times_ticks(), strict=False):
            if first <= (begins + ends) // 2 < last:
                found.append(word.text)
    return " ".join(found)


def fill(
    stretch: tuple[int, int],
    places: Sequence[CutPlace],
    materials: Sequence[Material],
    answers: Answers,
    frames_per_s: float,
    wish: FillWish,
    beside: tuple[str | None, str | None] = (None, None),
) -> Filled:
    """The cheapest shots for the frames [stretch[0], stretch[1]).

    Args:
        places: where cuts may lie within it, in order.
        materials: what there is; not empty.
        beside: what the shots before and after show, so that no clip is seen twice in a row.

    Raises:
        ValueError: there is nothing to show.
    """
    if not materials:
        raise ValueError("nothing to fill with")
    costs = _Costs(materials, answers, frames_per_s, wish)
    return _without_repeats(_divided(stretch, places, costs, beside), costs, beside)


class _Costs:
    """What shots and cuts of one stretch cost."""

    def __init__(
        self, materials: Sequence[Material], answers: Answers, frames_per_s: float, wish: FillWish
    ) -> None:
        self.wish = wish
        self.frames_per_s = frames_per_s
        self.only_one = len(materials) == 1
        self._materials = materials
        self._answers = answers
        self._ranked: dict[tuple[int, int], list[tuple[float, str]]] = {}

    def choices(self, start: int, end: int) -> list[tuple[float, str]]:
        """What a shot may show and what that costs, the cheapest first; of equals the one that stands first.
        That nothing answers costs by the second, so that more shots cost no more than fewer."""
        if (start, end) not in self._ranked:
            found = self._answers(start, end)
            share = self.seconds(end - start) * 2 / (self.wish.shortest_s + self.wish.longest_s)
            ranked: list[tuple[float, int, str]] = []
            for place, material in enumerate(self._materials):
                cost = _NO_ANSWER * share * (1 - found.get(material.id, 0.0))
                if material.frames is not None and end - start > material.frames:
                    cost += _NO_ANSWER + _PAST_END * self.seconds(end - start - material.frames)
                ranked.append((cost, place, material.id))
            self._ranked[start, end] = [(cost, shows) for cost, _, shows in sorted(ranked)]
        return self._ranked[start, end]

    def seconds(self, frames: int) -> float:
        return frames / self.frames_per_s

    def length(self, frames: int) -> float:
        """What the length of a shot costs."""
        seconds, wish = self.seconds(frames), self.wish
        off = max(wish.shortest_s - seconds, seconds - wish.longest_s, 0.0)
        middle = (wish.shortest_s + wish.longest_s) / 2
        half = max(0.25, (wish.longest_s - wish.shortest_s) / 2)
        return _OFF_LENGTH * off**2 + _OFF_MIDDLE * min(1.0, abs(seconds - middle) / half) ** 2

    def too_few(self, shots: int) -> float:
        """What it costs that there are only so many shots."""
        return _OFF_COUNT * max(self.wish.fewest - shots, 0)


def _divided(
    stretch: tuple[int, int],
    places: Sequence[CutPlace],
    costs: _Costs,
    beside: tuple[str | None, str | None],
) -> Filled:
    """Dynamic programming over cuts and how many shots there are, counted up to the most that are wished; two
    states are kept for each, which end with different clips, so that the next shot always finds one it may
    follow. What could not be cheaper even if its clip answered fully is not looked at."""
    first, last = stretch
    spots = [CutPlace(first, 0.0), *(p for p in places if first < p.frame < last), CutPlace(last, 0.0)]
    wish = costs.wish
    reach = max(2.0 * wish.longest_s, wish.longest_s + 4.0) * costs.frames_per_s
    tables: list[dict[int, list[_State]]] = [{} for _ in spots]
    tables[0][0] = [_State(0.0, beside[0] or "", None)]
    for end in range(1, len(spots)):
        ends_stretch = end == len(spots) - 1
        for least, start in _starts(spots, tables, end, reach, costs):
            choices: list[tuple[float, str]] | None = None
            for count, states in tables[start].items():
                made_count = min(count + 1, wish.most)
                made = tables[end].setdefault(made_count, [])
                base = least + (_OFF_COUNT if count == wish.most else 0.0)
                for state in states:
                    if len(made) == 2 and made[1].cost <= state.cost + base:
                        continue
                    if choices is None:
                        choices = costs.choices(spots[start].frame, spots[end].frame)
                        if ends_stretch and beside[1]:
                            choices = [each for each in choices if each[1] != beside[1]] or choices
                    for cost, shows in choices[:3]:
                        if shows != state.shows or costs.only_one:
                            _offer(made, _State(state.cost + base + cost, shows, (start, state)))
    cost, count = min(
        (states[0].cost + costs.too_few(count), count) for count, states in tables[-1].items() if states
    )
    state = tables[-1][count][0]
    parts: list[Part] = []
    at = len(spots) - 1
    while state.before is not None:
        start, earlier = state.before
        parts.append(Part(spots[start].frame, spots[at].frame, state.shows, ()))
        at, state = start, earlier
    return Filled(tuple(reversed(parts)), cost)


def _starts(
    spots: Sequence[CutPlace],
    tables: Sequence[Mapping[int, Sequence[_State]]],
    end: int,
    reach: float,
    costs: _Costs,
) -> list[tuple[float, int]]:
    """Where a shot that ends at a spot may begin, with the least it costs whatever it shows: what promises
    most comes first."""
    found: list[tuple[float, float, int]] = []
    for start in range(end - 1, -1, -1):
        length = spots[end].frame - spots[start].frame
        if length > reach and start < end - 1:
            break
        least = costs.length(length) + spots[end].cost
        before = min((states[0].cost for states in tables[start].values() if states), default=math.inf)
        found.append((before + least, least, start))
    return [(least, start) for _, least, start in sorted(found)]


def _offer(states: list[_State], made: _State) -> None:
    """Keep the two cheapest that end with different clips."""
    kept = {state.shows: state for state in states}
    if made.shows not in kept or made.cost < kept[made.shows].cost:
        kept[made.shows] = made
    states[:] = sorted(kept.values(), key=lambda state: state.cost)[:2]


def _without_repeats(found: Filled, costs: _Costs, beside: tuple[str | None, str | None]) -> Filled:
    """Clips exchanged, one after the other, as long as what is saved on clips used again is more than the
    exchange costs. Where the cuts lie stays as it is."""
    priced = [{shows: cost for cost, shows in costs.choices(part.start, part.end)} for part in found.parts]
    shown = [part.shows for part in found.parts]

    def again() -> float:
        return _AGAIN * (len(shown) - len(set(shown)))

    total = found.cost + again()
    for _ in range(_MOST_EXCHANGES):
        best: tuple[float, int, str] | None = None
        now = again()
        for place, choices in enumerate(priced):
            near = (
                shown[place - 1] if place else beside[0],
                shown[place + 1] if place + 1 < len(shown) else beside[1],
            )
            was = shown[place]
            for other, cost in choices.items():
                if other == was or other in near:
                    continue
                shown[place] = other
                saved = now - again() + choices[was] - cost
                shown[place] = was
                if saved > 1e-9 and (best is None or saved > best[0]):
                    best = (saved, place, other)
        if best is None:
            break
        total -= best[0]
        shown[best[1]] = best[2]
    parts = tuple(
        replace(part, shows=shows, others=tuple(each for each in choices if each != shows))
        for part, shows, choices in zip(found.parts, shown, priced, strict=True)
    )
    return Filled(parts, total)
