"""Words into a project that has pictures: looked over before anything is made, and again when they have changed."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import PurePath
from typing import Literal

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.again import Step, apply_script, compare_script
from fox_cadence.core.arrange import Layout, Remark, TimedText, lay_words
from fox_cadence.core.project import ROLE_COLOURS, Project, Role
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.words import words_of
from fox_cadence.errors import ClashError, InputError
from fox_cadence.formats import PACKED_READERS, ReadResult, csv_rows, read_words
from fox_cadence.formats.decoding import decode
from fox_cadence.media.isolated import Progress, run_isolated
from fox_cadence.voices.catalogue import sample_text, voice_by_id, voices_of_language

How = Literal["compare", "anew"]
"""Compare with the lines there are and keep what stays, or take all lines away and lay the words anew."""

TABLES = (".csv", ".tsv")


@dataclass(frozen=True, slots=True)
class Source:
    """A file of words or pasted ones (a name with the suffix they are like), and a table's columns."""

    name: str
    data: bytes
    columns: csv_rows.Columns | None = None


@dataclass(frozen=True, slots=True)
class PlannedLine:
    """A line as it would be: what becomes of it, who says it, its words, how long it will last (seconds)."""

    kind: str
    role: str
    before: str
    text: str
    seconds: float
    marks: int


@dataclass(frozen=True, slots=True)
class Plan:
    """What bringing words in would make; nothing is made yet."""

    lines: tuple[PlannedLine, ...]
    headings: int
    new_roles: tuple[str, ...]
    counts: dict[str, int]
    words: int
    characters: int
    seconds: float
    longest_s: float | None
    character_budget: int | None
    problems: tuple[Remark, ...]
    warnings: tuple[str, ...]
    table: csv_rows.Table | None


def read_source(source: Source) -> tuple[ReadResult, csv_rows.Table | None]:
    """The words of a source, in a process of its own where it is an archive.

    Raises:
        InputError: nothing of it can be used; names it.
    """
    suffix = PurePath(source.name).suffix.lower()
    if suffix in PACKED_READERS:
        made = run_isolated(_read_packed, source.name, source.data)
        assert isinstance(made, ReadResult)
        return made, None
    if suffix not in TABLES:
        return read_words(source.name, source.data), None
    result = read_words(source.name, source.data)  # checks its size and whether there is anything in it
    text, _ = decode(source.data)
    table = csv_rows.look(text)
    if source.columns is not None:
        result = csv_rows.read(text, source.columns)
        if not result.cues:
            raise InputError("the chosen columns hold no words", source.name)
    return result, table


def _read_packed(name: str, data: bytes, progress: Progress) -> ReadResult:
    return read_words(name, data)


def plan_words(workspace: Workspace, project_id: str, source: Source, how: How = "compare") -> Plan:
    """What would be made of words, with counts, lengths, and what could not be understood."""
    project = workspace.head(project_id).project
    read, table = read_source(source)
    texts = texts_of(read)
    steps = compare_script(project, texts) if how == "compare" else _all_new(project, texts)
    roles = {role.name.lower(): role for role in project.roles}
    new_roles = tuple(dict.fromkeys(text.role for text in texts if text.role and text.role not in roles))
    first = project.roles[0] if project.roles else None
    by_voice: dict[str, list[str]] = {}
    for step in steps:
        role = roles.get(step.text.role if step.text else "", first)
        by_voice.setdefault(role.voice_id if role else "", []).append(step.after)
    for voice_id, spoken in by_voice.items():
        workspace.lengths.prepare([text for text in spoken if text], voice_id)
    said_by = {line.id: project.role(line.role_id) for line in project.lines}
    lines = tuple(
        _planned(
            workspace, step, roles.get(step.text.role if step.text else "") or said_by.get(step.line_id or "", first)
        )
        for step in steps
    )
    said = [line for line in lines if line.kind != "gone"]
    problems = tuple(Remark(problem.place, problem.message) for problem in read.problems)
    return Plan(
        lines,
        sum(text.heading for text in texts),
        new_roles,
        dict(Counter(line.kind for line in lines)),
        sum(len(words_of(line.text)) for line in said),
        sum(len(line.text) for line in said),
        round(sum(line.seconds for line in said), 2),
        None if project.longest_ticks is None else ticks_to_seconds(project.longest_ticks),
        project.character_budget,
        problems,
        tuple(script_warnings([line.text for line in said], project)),
        table,
    )


def _planned(workspace: Workspace, step: Step, role: Role | None) -> PlannedLine:
    text = step.after or step.before
    pace = role.pace if role else 1.0
    seconds = ticks_to_seconds(workspace.lengths.estimate(text, role.voice_id if role else "", pace).ticks)
    named = (step.text.role if step.text and step.text.role else "") or (role.name if role else "")
    return PlannedLine(step.kind, named, step.before, text, round(seconds, 2), len(step.text.marks) if step.text else 0)


def _all_new(project: Project, texts: Sequence[TimedText]) -> list[Step]:
    gone = [step for step in compare_script(project, []) if step.kind == "gone"]
    return [*gone, *(Step("new", None, "", text.text, text) for text in texts if not text.heading)]


def texts_of(read: ReadResult) -> list[TimedText]:
    return [TimedText(cue.text, cue.start_ticks, cue.end_ticks, cue.role, cue.heading, cue.marks) for cue in read.cues]


_SCRIPTS = (
    ("Arabic", "\u0600", "\u06ff"), ("Hebrew", "\u0590", "\u05ff"), ("Devanagari", "\u0900", "\u097f"),
    ("Bengali", "\u0980", "\u09ff"), ("Tamil", "\u0b80", "\u0bff"), ("Cyrillic", "\u0400", "\u04ff"),
    ("Greek", "\u0370", "\u03ff"), ("Han", "\u4e00", "\u9fff"), ("Kana", "\u3040", "\u30ff"),
    ("Hangul", "\uac00", "\ud7af"), ("Thai", "\u0e00", "\u0e7f"),
)  # fmt: skip


def scripts_in(text: str) -> set[str]:
    """The scripts other than Latin that a text has letters of."""
    return {name for name, low, high in _SCRIPTS if any(low <= sign <= high for sign in text)}


def script_warnings(texts: Sequence[str], project: Project) -> list[str]:
    """Scripts that no voice of the cast reads: they are kept as they are, but will not be said well."""
    read: set[str] = set()
    for role in project.roles:
        voice = voice_by_id(role.voice_id)
        read |= scripts_in(sample_text(voice)) if voice else set()
    foreign = set().union(*(scripts_in(text) for text in texts)) - read if texts else set()
    return [
        f"Words in {name} script are kept as they are, but no voice of the cast reads it. Cast a voice that does."
        for name in sorted(foreign)
    ]


def bring_words(
    workspace: Workspace, project_id: str, based_on: int, source: Source, how: How, layout: Layout = "order"
) -> tuple[int, tuple[Remark, ...]]:
    """Do what `plan_words` showed, as one undoable step; the revision, and remarks on how the words were laid.

    Raises:
        ClashError: the project has changed since revision `based_on`.
        InputError: nothing of the source can be used, or there is no shot to lay words on.
    """
    head = workspace.head(project_id)
    if head.revision != based_on:
        raise ClashError(based_on, head.revision)
    if not head.project.shots:
        raise InputError("There is no shot yet. Add a picture first; words are laid on shots.")
    read, _ = read_source(source)
    texts = texts_of(read)
    project, roles = with_roles(head.project, texts)
    remarks: tuple[Remark, ...] = ()
    if how == "compare" and project.lines:
        changed = apply_script(project, compare_script(project, texts), texts, roles)
        label = "Words brought in again"
    else:
        changed, remarks = laid(workspace, project, texts, roles, layout)
        label = "Words brought in"
    return workspace.projects.commit(project_id, head.revision, changed, label), remarks


def with_roles(project: Project, texts: Sequence[TimedText]) -> tuple[Project, dict[str, Role]]:
    """The project with a role for each name in a script, each in a voice of its own while there are any."""
    roles = list(project.roles)
    voices = [voice.id for voice in voices_of_language(project.language)]
    names = {role.name.lower() for role in roles}
    if not roles:
        roles.append(Role(id="r1", name="narrator", voice_id=voices[0]))
    for name in dict.fromkeys(text.role for text in texts if text.role):
        if name in names:
            continue
        used = {role.voice_id for role in roles}
        voice = next((each for each in voices if each not in used), voices[len(roles) % len(voices)])
        number = max(int(role.id[1:]) for role in roles if role.id[1:].isdigit()) + 1
        roles.append(Role(id=f"r{number}", name=name, voice_id=voice, colour=len(roles) % ROLE_COLOURS))
    made = project.model_copy(update={"roles": tuple(roles)})
    return made, {role.name.lower(): role for role in roles}


def laid(
    workspace: Workspace, project: Project, texts: Sequence[TimedText], roles: dict[str, Role], layout: Layout
) -> tuple[Project, tuple[Remark, ...]]:
    first = project.roles[0]
    bare = project.model_copy(update={"captions": (), "lines": (), "scene_texts": (), "roles": ()})
    workspace.lengths.prepare([text.text for text in texts if not text.heading], first.voice_id)
    made, remarks = lay_words(bare, texts, first, workspace.lengths, roles, layout)
    return made.model_copy(update={"roles": project.roles}), remarks
