"""Paragraphs and headings of a script, in their order, become cues: whoever is named speaks, long ones are
cut."""

from dataclasses import dataclass, field

from fox_cadence.core.script_layout import split_long_text
from fox_cadence.formats.cues import Cue, Problem, ReadResult
from fox_cadence.formats.speakers import split_speaker


@dataclass
class ScriptCues:
    """Collects what a reader finds. A name that stands alone (`LIMPET:`) speaks the paragraph after it."""

    cues: list[Cue] = field(default_factory=list)
    problems: list[Problem] = field(default_factory=list)
    _waiting: str = ""

    def heading(self, text: str, line: int) -> None:
        """A text that is shown and not spoken."""
        plain = " ".join(text.split())
        if plain:
            self.cues.append(Cue(plain, line=line, heading=True))

    def paragraph(self, text: str, line: int, place: str = "") -> None:
        """Words to be spoken; `place` says where they stand when it is not a line."""
        role, rest = split_speaker(" ".join(text.split()))
        role, self._waiting = role or self._waiting, ""
        if role and not rest:
            self._waiting = role
            return
        if not rest:
            return
        pieces = split_long_text(rest)
        if not pieces:
            self.leave_out(place or f"line {line}", f"{rest!r} has nothing to say")
        self.cues += [Cue(piece, line=line, role=role) for piece in pieces]

    def leave_out(self, place: str, what: str) -> None:
        """Say what is left out of a place, and why."""
        self.problems.append(Problem(place, f"{what}; left out"))

    def result(self) -> ReadResult:
        """All that was found; a name that waits for its words is a problem."""
        if self._waiting:
            self.leave_out("the end", f"{self._waiting.upper()} has nothing to say")
        return ReadResult(tuple(self.cues), tuple(self.problems))
