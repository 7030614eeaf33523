"""Plain text: every line that is not blank is a caption; long ones are cut at sentence and clause ends."""

from fox_cadence.core.arrange import split_long_text
from fox_cadence.formats.cues import Cue, Problem, ReadResult


def read(text: str) -> ReadResult:
    cues: list[Cue] = []
    problems: list[Problem] = []
    for number, line in enumerate(text.split("\n"), 1):
        plain = " ".join(line.split())
        if not plain:
            continue
        pieces = split_long_text(plain)
        if not pieces:
            problems.append(Problem(f"line {number}", f"{plain!r} has nothing to say; left out"))
        cues += [Cue(piece, line=number) for piece in pieces]
    return ReadResult(tuple(cues), tuple(problems))
