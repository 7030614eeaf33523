"""Which phoneme each word of a text begins with, when an engine gives phonemes for the whole text only.

Running speech joins words ("for the" may be one run), so spaces among phonemes are no sure borders. The
phonemes of the text are matched to those of its words, each phonemised alone, by the least number of changes
(Wagner and Fischer, The String-to-String Correction Problem, JACM 1974), where words like to begin behind a
space.
"""

from collections.abc import Sequence

import numpy as np

STRESS = frozenset("ˈˌ")
_NO_BORDER = 0.4
"""What it costs to begin a word in the middle of a run: less than a change, so no match is given up for it.
"""


def is_sound(symbol: str) -> bool:
    """Whether a symbol is spoken: no space, stress or punctuation."""
    return symbol not in STRESS and symbol.isprintable() and any(sign.isalnum() for sign in symbol)


def word_begins(symbols: Sequence[str], words: Sequence[Sequence[str]]) -> list[int | None]:
    """For each word the number of the symbol it begins with; None where nothing of it is heard.

    Args:
        symbols: of the whole text, with spaces, stress and punctuation.
        words: the symbols of each word spoken alone.
    """
    heard = [place for place, symbol in enumerate(symbols) if is_sound(symbol)]
    wanted = [(number, symbol) for number, word in enumerate(words) for symbol in word if is_sound(symbol)]
    begins: list[int | None] = [None] * len(words)
    for row, column in _matched([symbols[place] for place in heard], _at_borders(symbols, heard), wanted):
        number = wanted[column][0]
        if begins[number] is None:
            begins[number] = _with_stress(symbols, heard[row])
    return begins


def _at_borders(symbols: Sequence[str], heard: Sequence[int]) -> list[bool]:
    """Whether each sound comes first, or behind a space or punctuation."""
    found: list[bool] = []
    for place in heard:
        before = _with_stress(symbols, place) - 1
        found.append(before < 0 or not is_sound(symbols[before]))
    return found


def _with_stress(symbols: Sequence[str], place: int) -> int:
    while place and symbols[place - 1] in STRESS:
        place -= 1
    return place


def _matched(
    heard: Sequence[str], border: Sequence[bool], wanted: Sequence[tuple[int, str]]
) -> list[tuple[int, int]]:
    """Pairs (heard, wanted) of the cheapest way from one to the other, in order."""
    rows, columns = len(heard), len(wanted)
    first = np.array([n == 0 or wanted[n][0] != wanted[n - 1][0] for n in range(columns)], dtype=np.bool_)
    names = np.array([symbol for _, symbol in wanted], dtype=object)
    cost = np.zeros((rows + 1, columns + 1))
    cost[0] = np.arange(columns + 1)
    steps = np.arange(1, columns + 1)
    for row in range(1, rows + 1):
        change = (names != heard[row - 1]).astype(np.float64)
        if not border[row - 1]:
            change += first * _NO_BORDER
        cost[row, 0] = row
        best = np.minimum(cost[row - 1, :-1] + change, cost[row - 1, 1:] + 1)
        # leaving out wanted symbols costs 1 each: a running minimum of what is reached less the way there
        cost[row, 1:] = np.minimum.accumulate(np.concatenate([[row], best - steps]))[1:] + steps
    pairs: list[tuple[int, int]] = []
    row, column = rows, columns
    while row and column:
        change = float(names[column - 1] != heard[row - 1])
        if first[column - 1] and not border[row - 1]:
            change += _NO_BORDER
        if np.isclose(cost[row, column], cost[row - 1, column - 1] + change):
            pairs.append((row - 1, column - 1))
            row, column = row - 1, column - 1
        elif np.isclose(cost[row, column], cost[row - 1, column] + 1):
            row -= 1
        else:
            column -= 1
    return pairs[::-1]
