"""The costs of the fit: one table, a reason beside each weight.

All but the price of a spill multiply the square of a change, so that pain is spread and not dumped on one line.
"""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Weights:
    pace: float = 20.0
    """(v/V - 1)^2. The unit of the scale: one line at 1.10 costs 0.2."""

    evenness: float = 4.0
    """Squared difference in pace of neighbours of one voice: speech that lurches is what people hear first."""

    pause: float = 1.0
    """((w - P) / P)^2. Cheaper than pace: a shorter breath is heard less than faster words."""

    shot: float = 40.0
    """(L/L0 - 1)^2. Dearer than pace: the picture was cut with intent."""

    shot_when_voice_leads: float = 4.0
    """The same where the voice leads: the picture is asked to give."""

    displacement_per_s2: float = 0.2
    """Squared seconds between a start and its wanted start: only decides between answers otherwise alike."""

    spill_per_s: float = 20.0
    """Exact price of a second past the window, times 1/length of the shortest line or shot where that is under 1 s.
    Above every slope the squares reach within the house limits (pace 2 * 20 * 0.13 = 5.2, evenness twice 2 * 4 * 0.2 =
    3.2, a second on a line of a second), so that a spill comes last. Ten times as much costs the solver half as many
    steps again and changes nothing."""

    spill_per_s2: float = 5.0
    """And squared, so that two small spills are preferred to one large."""


WEIGHTS = Weights()
