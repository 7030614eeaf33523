"""Paragraphs typed or pasted on the script page, as edits."""

from collections.abc import Sequence

from fox_cadence.actions.script_import import with_roles
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import AddRole, Applied, InsertLines, TypedLine
from fox_cadence.core.project import Project
from fox_cadence.core.script_layout import TimedText
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.formats.speakers import split_speaker

_HEADING = "#"


def read_paragraphs(texts: Sequence[str]) -> list[TimedText]:
    """What paragraphs are: headings after `#`, words of a role after its name in capitals, or just words."""
    found: list[TimedText] = []
    for text in texts:
        tidy = " ".join(text.split())
        if tidy.startswith(_HEADING) and tidy.strip("# "):
            found.append(TimedText(tidy.strip("# "), heading=True))
        elif tidy:
            role, words = split_speaker(tidy)
            found.append(TimedText(words or tidy, role=role if words else ""))
    return found


def typed_edits(
    workspace: Workspace,
    project: Project,
    texts: Sequence[str],
    after_line_id: str | None,
    shot_id: str | None,
    shown: bool,
) -> list[Applied]:
    """The edits that write paragraphs into the script: new roles for names that are new, then the lines.

    Args:
        after_line_id: the line they follow; None puts them before all lines.
        shot_id: the shot they go on; None for the last of that line.
        shown: whether they become captions, or are said only.
    """
    paragraphs = read_paragraphs(texts)
    if not paragraphs:
        return []
    cast, roles = with_roles(project, paragraphs)
    made: list[Applied] = [
        AddRole(name=role.name, voice_id=role.voice_id) for role in cast.roles[len(project.roles) :]
    ]
    before = next((line.role_id for line in project.lines if line.id == after_line_id), cast.roles[0].id)
    voices = {role.id: role for role in cast.roles}
    spoken = [each.text for each in paragraphs if each.spoken]
    workspace.lengths.prepare(spoken, voices[before].voice_id)
    lines: list[TypedLine] = []
    for each in paragraphs:
        role = roles[each.role] if each.role else voices[before]
        length = workspace.lengths.estimate(each.text, role.voice_id, role.delivery.pace).ticks
        seconds = None if each.heading or length <= 0 else ticks_to_seconds(length)
        lines.append(
            TypedLine(text=each.text, role_id=role.id, shown=shown, heading=each.heading, seconds=seconds)
        )
    made.append(InsertLines(after_line_id=after_line_id, shot_id=shot_id, lines=tuple(lines)))
    return made
