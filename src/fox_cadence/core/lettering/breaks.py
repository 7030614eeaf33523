"""Where lines end: as few as fit, of like length, at phrases, and as the editor broke them."""

from collections.abc import Sequence

_AFTER_SIGN, _AFTER_LITTLE, _ALONE = -0.06, 0.12, 0.15
"""What a break costs, as a share of the width: at the end of a phrase it is welcome, after a word of up to
three letters it is not, and nor is a last line of one short word."""
_PHRASE_SIGNS = frozenset(".,;:!?…—–。、，；：！？।؟،")
_LITTLE_LETTERS = 3
_SHORT = 0.4


def break_lines(
    words: Sequence[str], widths: Sequence[float], gaps: Sequence[float], width: float
) -> list[list[int]]:
    """Lines as few as fit the width, then those that leave the least squared slack, with breaks at phrases
    where they cost little evenness.

    Args:
        words: their texts, for the signs they end with.
        widths: of each word, without the space after it.
        gaps: the space after each word; 0 where none follows.

    Returns the word numbers of each line. A word wider than the width stands alone.
    """
    if not words:
        return []
    fewest, used = 1, 0.0
    for place, one in enumerate(widths):
        before = gaps[place - 1] if place else 0.0
        if place and used + before + one > width:
            fewest += 1
            used = one
        else:
            used += before + one
    ideal = (sum(widths) + sum(gaps[:-1])) / fewest
    # fewest lines, least cost, where the last line starts
    best: list[tuple[int, float, int]] = [(0, 0.0, 0)]
    for end in range(1, len(words) + 1):
        length = -gaps[end - 1]
        found: tuple[int, float, int] | None = None
        for start in range(end - 1, -1, -1):
            length += widths[start] + gaps[start]
            if length > width and start < end - 1:
                break
            count, cost, _ = best[start]
            cost += (length - ideal) ** 2 + _break_cost(words, start, end, length, width)
            made = (count + 1, cost, start)
            if found is None or made < found:
                found = made
        assert found is not None
        best.append(found)
    lines: list[list[int]] = []
    end = len(words)
    while end > 0:
        start = best[end][2]
        lines.insert(0, list(range(start, end)))
        end = start
    return lines


def _break_cost(words: Sequence[str], start: int, end: int, length: float, width: float) -> float:
    if end == len(words):
        alone = start > 0 and end - start == 1 and length < _SHORT * width
        return (_ALONE * width) ** 2 if alone else 0.0
    word = words[end - 1].strip()
    if word[-1:] in _PHRASE_SIGNS:
        return -((_AFTER_SIGN * width) ** 2)
    letters = sum(sign.isalpha() for sign in word)
    return (_AFTER_LITTLE * width) ** 2 if word.isascii() and letters <= _LITTLE_LETTERS else 0.0


def divided(word: str) -> list[str]:
    """A word in the parts between which a line may end (UAX 14), for one that no line holds."""
    from uniseg.linebreak import line_break_units

    return list(line_break_units(word))
