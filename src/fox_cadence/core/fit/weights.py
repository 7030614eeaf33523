"""The costs of the fit: one table, a reason beside each weight.

Squares of relative changes are weighted by the length they change, so that where several lines share a room
each is changed by the same share: pain is spread, not dumped on one line, however short it is. Prices are for
seconds.
"""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Weights:
    pace: float = 20.0
    """V (v/V - 1)^2, a line of V seconds. The unit of the scale: a line of a second at 1.10 costs 0.2."""

    evenness: float = 4.0
    """min(Va, Vb) (va/Va - vb/Vb)^2 for neighbours of one voice: speech that lurches is what people hear
    first."""

    pause: float = 1.0
    """P (w/P - 1)^2. Cheaper than pace: a shorter breath is heard less than faster words."""

    shot: float = 40.0
    """L0 (L/L0 - 1)^2. Dearer than pace: the picture was cut with intent."""

    shot_when_voice_leads: float = 4.0
    """The same where the voice leads: the picture is asked to give."""

    displacement_per_s2: float = 0.2
    """Squared seconds between a start and its wanted start: only decides between answers otherwise alike."""

    early_per_s: float = 1.0
    """A second of J-cut. Small: the editor has allowed it; a pace past about 1.03 costs more."""

    late_per_s: float = 1.5
    """A second of L-cut: after a J-cut, because the viewer already sees the next shot."""

    unread: float = 0.5
    """A caption shown a second too short, as a share of the price of a spill: shorter reading before lost
    sync."""

    slip: float = 20.0
    """A second by which a sync point is missed, as a share of the price of a spill: only where nothing else
    is left, and then a row of lines would rather spill than let the word go."""

    spill_per_s: float = 120.0
    """Exact price of a second past the window: above every slope the squares can reach within any limits that
    may be set, so that a spill comes last. Weighted by length, the slope of a change does not depend on how
    long a line or a shot is: a shot 2 * 40 * 1 = 80 at the widest stretch of 1 (where the voice leads 2 * 4 *
    10 = 80), pace 2 * 20 * 0.5 = 20 at ×2, evenness on both sides about 8, pauses 2, displacement 0.4 a
    second. It does not depend on the limits, so that widening one never costs."""

    spill_per_s2: float = 5.0
    """And squared, so that two small spills are preferred to one large."""


WEIGHTS = Weights()
