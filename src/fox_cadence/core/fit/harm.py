"""How much harm a remedy does: one table, a reason beside each figure. Remedies are listed least harmful
first."""

from enum import StrEnum


class Kind(StrEnum):
    TAKE_IDLE = "take idle time"
    CLOSE_PAUSE = "close a pause"
    LENGTHEN = "lengthen a shot"
    GIVE_WAY = "let a shot give way"
    EARLIER = "start earlier"
    RUN_OVER = "run over the cut"
    FEWER_WORDS = "fewer words"
    SPLIT = "split the line"
    MERGE = "join two lines"
    OTHER_VOICE = "another voice"
    WIDER_LIMIT = "wider house limit"


HARM: dict[Kind, float] = {
    Kind.TAKE_IDLE: 1.0,  # only time in which nothing is said moves from one shot to its neighbour
    Kind.CLOSE_PAUSE: 1.5,  # the editor wrote the pause, but nothing else moves
    Kind.LENGTHEN: 2.0,  # the picture stays longer and all that follows moves
    Kind.GIVE_WAY: 2.0,  # the same, chosen by the fit
    Kind.EARLIER: 2.5,  # heard before it is seen
    Kind.RUN_OVER: 3.0,  # heard over the next picture
    Kind.FEWER_WORDS: 3.5,  # the editor's words change
    Kind.SPLIT: 4.0,  # one breath becomes two
    Kind.MERGE: 4.0,  # two become one
    Kind.OTHER_VOICE: 5.0,  # somebody else speaks
    Kind.WIDER_LIMIT: 6.0,  # holds for every line of the piece
}

UNLOCK = 1.5
"""Added where a locked shot has to be unlocked: a lock is a promise."""

WORSE_LINE = 1.0
"""Added for each other line that is worse off."""

COST_SHARE = 0.05
"""A unit of the fit's cost, as harm."""
