"""What a fit proposes, as values."""

from dataclasses import dataclass, field

from fox_cadence.core.fit.checks import Miss
from fox_cadence.core.fit.explain import LineSum
from fox_cadence.core.fit.problem import FitProblem
from fox_cadence.core.fit.program import Program
from fox_cadence.core.fit.solver import Solution, Status
from fox_cadence.core.project import SpanLength
from fox_cadence.core.states import LineState
from fox_cadence.core.timeline import Window


@dataclass(frozen=True, slots=True)
class LinePlan:
    """What the fit proposes for one line; times in ticks of the piece."""

    line_id: str
    text: str
    state: LineState
    start_ticks: int
    lengths: tuple[SpanLength, ...]
    natural: tuple[SpanLength, ...]
    window: Window
    idle_ticks: int
    sum: LineSum

    @property
    def end_ticks(self) -> int:
        return self.start_ticks + sum(length.ticks for length in self.lengths)

    @property
    def pace(self) -> float:
        voiced = sum(length.voiced_ticks for length in self.lengths)
        return sum(length.voiced_ticks for length in self.natural) / voiced if voiced else 1.0

    @property
    def pause_ticks(self) -> int:
        """Natural pauses."""
        return sum(length.pause_ticks for length in self.lengths)

    @property
    def written_ticks(self) -> int:
        return sum(length.written_ticks for length in self.lengths)

    @property
    def early_ticks(self) -> int:
        return max(0, self.window.start_ticks - self.start_ticks)

    @property
    def late_ticks(self) -> int:
        return max(0, min(self.end_ticks - self.window.end_ticks, self.window.late_ticks))

    @property
    def spill_ticks(self) -> int:
        return max(0, self.end_ticks - self.window.end_ticks - self.window.late_ticks)


@dataclass(frozen=True)
class Basis:
    """What a proposal was computed from, before whole frames: the dual values say why it is what it is."""

    problem: FitProblem
    program: Program
    solution: Solution


@dataclass(frozen=True)
class Proposal:
    """`status` is SOLVED or says why there is none; then `lines` is empty and `reason` is for the editor.

    `conflict` names wishes that contradict each other. `cost` is that of the whole-frame answer, `exact_cost` that of
    the answer before rounding. `misses` are rules that the whole-frame answer breaks, found by our own check.
    `shot_frames` are lengths, `captions` id, in and out frame.
    """

    status: Status
    reason: str = ""
    conflict: tuple[str, ...] = ()
    cost: float = 0.0
    exact_cost: float = 0.0
    misses: tuple[Miss, ...] = ()
    shot_frames: tuple[int, ...] = ()
    captions: tuple[tuple[str, int, int], ...] = ()
    lines: tuple[LinePlan, ...] = ()
    basis: Basis | None = field(default=None, repr=False, compare=False)
