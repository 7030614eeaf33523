"""Which texts go over which shots, so that no shot is more crowded than it must be."""

import itertools
import math
from collections.abc import Sequence

import numpy as np


def groups_by_section(
    lengths: Sequence[int], rooms: Sequence[int], sections: Sequence[int]
) -> list[list[int]]:
    """Each section on shots of its own, as many as its share of the words asks for and at least one."""
    edges = [0, *itertools.accumulate(sections)]
    share = np.cumsum([sum(lengths[a:b]) for a, b in itertools.pairwise(edges)]) / sum(lengths)
    room = np.cumsum(rooms) / sum(rooms)
    groups: list[list[int]] = []
    for number, (first, end) in enumerate(itertools.pairwise(edges)):
        begin = len(groups)
        most = len(rooms) - (len(sections) - number - 1)  # the sections after it want one shot each
        until = int(np.argmin(np.abs(room - share[number]))) + 1
        until = len(rooms) if number + 1 == len(sections) else min(max(until, begin + 1), most)
        inside = even_groups(lengths[first:end], rooms[begin:until])
        groups += [[first + each for each in group] for group in inside]
    return groups


def even_groups(lengths: Sequence[int], rooms: Sequence[int]) -> list[list[int]]:
    """Numbers of the texts in each room, in order, so that the sum of length squared over room is least.

    That is the least crowded division; dynamic programming finds it, a room after the other. Rooms may stay
    empty.
    """
    whole = max(1, sum(lengths))
    before = [0.0, *(given / whole for given in itertools.accumulate(lengths))]
    count = len(lengths)
    cost = [0.0, *[math.inf] * count]
    choices: list[list[int]] = []
    for room in rooms:
        cost, first = _least_after(before, cost, room)
        choices.append(first)
    groups: list[list[int]] = []
    end = count
    for first in reversed(choices):
        begin = first[end]
        groups.append(list(range(begin, end)))
        end = begin
    return groups[::-1]


def _least_after(before: list[float], cost: list[float], room: int) -> tuple[list[float], list[int]]:
    """The least cost of giving the first n texts to all rooms so far, for each n, and which text the last
    room begins with. Every begin is a straight line over the texts given; the lowest of them at each n is
    kept on a hull.
    """
    slopes, offsets, begins = list[float](), list[float](), list[int]()
    following, first = list[float](), list[int]()
    lowest = 0
    for end, given in enumerate(before):
        if cost[end] != math.inf:
            slope, offset = -2 * given / room, cost[end] + given * given / room
            while len(slopes) > lowest + 1 and _never_lowest(slopes, offsets, slope, offset):
                slopes.pop()
                offsets.pop()
                begins.pop()
            slopes.append(slope)
            offsets.append(offset)
            begins.append(end)
        while lowest + 1 < len(slopes) and (
            slopes[lowest + 1] * given + offsets[lowest + 1] < slopes[lowest] * given + offsets[lowest]
        ):
            lowest += 1
        following.append(slopes[lowest] * given + offsets[lowest] + given * given / room)
        first.append(begins[lowest])
    return following, first


def _never_lowest(slopes: list[float], offsets: list[float], slope: float, offset: float) -> bool:
    """Whether the last line lies nowhere under both the one before it and the new one."""
    before, last = (
        (offset - offsets[-2]) * (slopes[-2] - slopes[-1]),
        (offsets[-1] - offsets[-2]) * (slopes[-2] - slope),
    )
    return before <= last
