"""Where a long caption is cut into several: at phrases, within the house's lines and characters, at the least
cost.

The cost of a cut depends on where it falls (after a sentence, at a comma, before a conjunction, anywhere
else), that of a piece on how far it is from an even share. The cut that costs least in all is found by
dynamic programming.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass

from fox_cadence.core.project import Caption, Project
from fox_cadence.core.script_layout import next_id
from fox_cadence.core.ticks import TICKS_PER_SECOND
from fox_cadence.core.words import words_of

SENTENCE, CLAUSE, CONJUNCTION, ELSEWHERE, DANGLING, NEVER = 0.0, 0.6, 2.0, 6.0, 12.0, float("inf")
_EVENNESS = 8.0
_HURRIED = 4.0

_CONJUNCTIONS = {
    "en": "and but or nor so yet because although while when where which who that if until unless as then "
    "than",
    "es": "y e o u pero sino porque aunque mientras cuando donde que si hasta como pues",
    "fr": "et ou mais donc or ni car parce quand où qui que si jusque comme puis lorsque",
    "de": "und oder aber denn sondern weil obwohl während wenn wo der die das dass ob bis als dann",
}
_LEANING = {
    "en": "a an the of to in on at by for with from into my your his her its our their no not is are was "
    "were be",
    "es": "un una el la los las de del a al en por para con su mi tu no es son",
    "fr": "un une le la les de du des à au aux en par pour avec son sa ses mon ma ne est sont",
    "de": "ein eine einen der die das den dem von zu im in am an auf für mit sein ihr nicht ist sind",
}
_NUMBER = re.compile(r"^[\d.,:]*\d$")


@dataclass(frozen=True, slots=True)
class Limits:
    """Lines of a caption, characters of a line, and the fewest characters worth a caption of their own."""

    lines: int
    characters: int
    fewest: int


def wraps(words: Sequence[str], lines: int, characters: int) -> bool:
    """Whether words fit so many lines; a word longer than a line stands alone on one."""
    used, width = 1, 0
    for word in words:
        if width and width + 1 + len(word) > characters:
            used += 1
            width = len(word)
        else:
            width += len(word) + (1 if width else 0)
    return used <= lines


def break_cost(before: str, after: str, language: str) -> float:
    """What it costs to cut between two words."""
    bare = before.rstrip("\"'”’)»")
    if _NUMBER.match(before) and not re.match(r"^\d", after):
        return NEVER  # a number stays with its unit
    if bare.endswith((".", "!", "?", "…")):
        return SENTENCE
    if bare.endswith((",", ";", ":", "–", "—")):
        return CLAUSE
    tag = language.split("-")[0]
    if before.casefold() in _LEANING.get(tag, _LEANING["en"]).split():
        return DANGLING
    if after.casefold() in _CONJUNCTIONS.get(tag, _CONJUNCTIONS["en"]).split():
        return CONJUNCTION
    return ELSEWHERE


def cut_places(words: Sequence[str], limits: Limits, language: str) -> list[int]:
    """Ends (exclusive) of the pieces; the last is the number of words. One piece where all fits."""
    count = len(words)
    if count == 0 or wraps(words, limits.lines, limits.characters):
        return [count]
    sizes = [len(word) + 1 for word in words]
    room = limits.lines * limits.characters
    ideal = sum(sizes) / max(2, -(-sum(sizes) // room))
    best: list[tuple[float, int]] = [(0.0, 0)] + [(float("inf"), 0)] * count
    for end in range(1, count + 1):
        size = 0
        at_end = 0.0 if end == count else break_cost(words[end - 1], words[end], language)
        for start in range(end - 1, -1, -1):
            size += sizes[start]
            if start < end - 1 and not wraps(words[start:end], limits.lines, limits.characters):
                break
            cost = best[start][0] + at_end + _EVENNESS * (size / ideal - 1) ** 2
            cost += _HURRIED if size < limits.fewest else 0.0
            if cost < best[end][0]:
                best[end] = (cost, start)
    if best[count][0] == float("inf"):  # a run of numbers too long for the limits: the limits win
        return _greedy(words, limits)
    ends: list[int] = []
    end = count
    while end > 0:
        ends.insert(0, end)
        end = best[end][1]
    return ends


def _greedy(words: Sequence[str], limits: Limits) -> list[int]:
    ends: list[int] = []
    start = 0
    for end in range(1, len(words) + 1):
        if end - start > 1 and not wraps(words[start:end], limits.lines, limits.characters):
            ends.append(end - 1)
            start = end - 1
    return [*ends, len(words)]


def cut_caption(project: Project, caption_id: str) -> tuple[Project, int]:
    """Cut a caption where it is cheapest; the project, and into how many. Times are shared by letters for
    now."""
    caption = project.caption(caption_id)
    words = words_of(caption.text)
    house = project.house
    fewest = round(house.reading_rate_cps * house.shortest_caption_ticks / TICKS_PER_SECOND)
    limits = Limits(house.caption_lines, house.caption_line_characters, fewest)
    ends = cut_places([word.text for word in words], limits, project.language)
    if len(ends) <= 1:
        return project, 1
    taken = [item.id for item in project.captions]
    pieces: list[Caption] = []
    begin, first = caption.in_frames, 0
    total = sum(len(word.text) for word in words)
    seen = 0
    for end in ends:
        until = len(caption.text) if end == len(words) else words[end].start
        seen += sum(len(word.text) for word in words[first:end])
        out = caption.in_frames + max(
            len(pieces) + 1, (caption.out_frames - caption.in_frames) * seen // total
        )
        piece_id = caption.id if not pieces else next_id("c", taken)
        taken.append(piece_id)
        text = caption.text[words[first].start if pieces else 0 : until].strip()
        pieces.append(caption.changed(id=piece_id, text=text, in_frames=begin, out_frames=out))
        begin, first = out, end
    place = next(index for index, item in enumerate(project.captions) if item.id == caption_id)
    captions = (*project.captions[:place], *pieces, *project.captions[place + 1 :])
    ids = tuple(piece.id for piece in pieces)
    lines = tuple(
        line.changed(
            caption_ids=tuple(
                new for old in line.caption_ids for new in (ids if old == caption_id else (old,))
            )
        )
        if caption_id in line.caption_ids
        else line
        for line in project.lines
    )
    return project.changed(captions=captions, lines=lines), len(pieces)
