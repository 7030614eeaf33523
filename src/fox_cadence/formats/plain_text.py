"""Plain text: every line that is not blank is a caption; long ones are cut at sentence and clause ends."""

from fox_cadence.formats.cues import ReadResult
from fox_cadence.formats.script import ScriptCues


def read(text: str) -> ReadResult:
    found = ScriptCues()
    for number, line in enumerate(text.split("\n"), 1):
        found.paragraph(line, number)
    return found.result()
