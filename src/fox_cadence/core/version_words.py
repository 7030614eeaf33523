"""Which words of a file belong to which unit of a version."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from fox_cadence.core.timeline import Timeline
from fox_cadence.core.versions import Unit
from fox_cadence.core.words import plain_words


@dataclass(frozen=True, slots=True)
class Matched:
    """Words by the ids of their units, how many units have none, and what could not be placed."""

    words: Mapping[str, str]
    without: int
    remarks: tuple[str, ...]


class UnmatchedError(ValueError):
    """The words can't be told apart: says why and what would do."""


def by_pairs(units: Sequence[Unit], pairs: Sequence[tuple[str, str, str]]) -> Matched:
    """Words side by side: by id, else by the first's words in their order, else by order alone where there
    are just as many.

    Args:
        pairs: id ('' for none), the first's words, the version's.
    """
    found: dict[str, str] = {}
    remarks: list[str] = []
    known = {unit.id for unit in units}
    waiting: dict[tuple[str, ...], list[str]] = {}
    for unit in units:
        waiting.setdefault(plain_words(unit.text), []).append(unit.id)
    left: list[tuple[str, str]] = []
    for key, source, target in pairs:
        places = waiting.get(plain_words(source), [])
        if key in known:
            place = key
        elif places:
            place = places[0]
        else:
            left.append((source, target))
            continue
        if place in places:
            places.remove(place)
        if target:
            found[place] = target
    if not found and len(pairs) in (len(units), len(units) + 1):
        rows = pairs[len(pairs) - len(units) :]
        found = {unit.id: target for unit, (_, _, target) in zip(units, rows, strict=True) if target}
    elif len(left) > 1 or (left and left[0] != (pairs[0][1], pairs[0][2])):  # else it was the head of a table
        remarks += [f"“{source[:60]}” is not in this piece" for source, target in left if target]
    return Matched(found, len(units) - len(found), tuple(remarks))


def by_times(units: Sequence[Unit], timeline: Timeline, cues: Sequence[tuple[int, int, str]]) -> Matched:
    """Timed words: each goes to the line it overlaps most.

    Args:
        timeline: of the first, where the times belong.
        cues: begin, end (ticks) and words.
    """
    rate = timeline.project.rate
    spans = {
        span.line.id: [
            (rate.ticks(each.in_frame), rate.ticks(each.out_frame))
            for each in timeline.captions
            if each.line_id == span.line.id
        ]
        or [(span.start_ticks, span.end_ticks)]
        for span in timeline.lines
    }
    found: dict[str, list[str]] = {}
    remarks: list[str] = []
    for start, end, text in cues:
        shares = {
            line: sum(max(0, min(b, end) - max(a, start)) for a, b in parts) for line, parts in spans.items()
        }
        best = max(shares, key=lambda line: shares[line], default=None)
        if best is None or shares[best] == 0:
            remarks.append(f"“{text[:60]}” lies where the first says nothing")
        else:
            found.setdefault(best, []).append(text)
    lines = [unit for unit in units if unit.kind == "line"]
    return Matched(
        {key: " ".join(texts) for key, texts in found.items()},
        sum(unit.id not in found for unit in lines),
        tuple(remarks),
    )


def by_order(units: Sequence[Unit], words: Sequence[str], headings: Sequence[str]) -> Matched:
    """Paragraphs in the order of the lines, and headings in theirs where there are just as many.

    Raises:
        UnmatchedError: there are more or fewer than lines.
    """
    lines = [unit.id for unit in units if unit.kind == "line"]
    titles = [unit.id for unit in units if unit.kind == "heading"]
    if len(words) == len(lines) + len(titles) and not headings:
        return Matched(dict(zip((unit.id for unit in units), words, strict=True)), 0, ())
    if len(words) != len(lines):
        raise UnmatchedError(
            f"the piece has {len(lines)} lines and the file {len(words)} paragraphs, so it can't be told "
            "which belongs to which. Use a table with the first's words beside the new ones; Words to "
            "translate writes one."
        )
    found = dict(zip(lines, words, strict=True))
    if len(headings) == len(titles):
        found |= dict(zip(titles, headings, strict=True))
    return Matched(found, len(units) - len(found), ())
