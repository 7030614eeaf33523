"""Words into a project that has pictures: looked over before anything is made, and again when they have
changed."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import PurePath
from typing import Literal

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.house import HouseLimits
from fox_cadence.core.numbers import counted
from fox_cadence.core.picture_length import needed_ticks
from fox_cadence.core.project import ROLE_COLOURS, Project, Role
from fox_cadence.core.script_diff import Step, apply_script, compare_script
from fox_cadence.core.script_layout import Layout, Remark, TimedText, lay_words
from fox_cadence.core.scripts import scripts_in
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.words import words_of
from fox_cadence.errors import ClashError, InputError
from fox_cadence.formats import PACKED_READERS, ReadResult, csv_rows, read_words
from fox_cadence.formats.caption_words import is_described, spoken_words
from fox_cadence.formats.cues import Cue
from fox_cadence.formats.decoding import decode
from fox_cadence.formats.speakers import split_speaker
from fox_cadence.media.isolated import Progress, run_isolated
from fox_cadence.voices.catalogue import sample_text, voice_by_id, voice_for_language, voices_of_language

How = Literal["compare", "anew"]
"""Compare with the lines there are and keep what stays, or take all lines away and lay the words anew."""

TABLES = (".csv", ".tsv")
_MOST_NAMED = 6
_MOST_SHOWN = 6


@dataclass(frozen=True, slots=True)
class Choices:
    """What is done with captions that are more than words to be said; offered before it is done.

    `names`: a name in capitals before a colon is a role, as in scripts. `descriptions`: what stands in
    brackets and signs of music are said too; else they are only shown.
    """

    names: bool = False
    descriptions: bool = False


@dataclass(frozen=True, slots=True)
class Source:
    """A file of words or pasted ones (a name with the suffix they are like), and a table's columns.

    `encoding` is that of a text file where the editor has named it (formats/decoding.py); '' guesses.
    """

    name: str
    data: bytes
    columns: csv_rows.Columns | None = None
    encoding: str = ""
    choices: Choices = Choices()


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
class Offers:
    """Names that stand before captions, with how often; and how many captions have a description or a sign of
    music."""

    names: dict[str, int]
    described: int

    def remarks(self, choices: Choices) -> list[Remark]:
        """What is not done with them, and how it can be."""
        found: list[Remark] = []
        if self.names and not choices.names:
            named = ", ".join(sorted(self.names)[:_MOST_NAMED])
            found.append(
                Remark("names", f"{named} stand before captions; they can be made roles when words come in")
            )
        if self.described and not choices.descriptions:
            captions = counted(self.described, "caption")
            found.append(
                Remark("descriptions", f"in {captions} brackets and music signs are shown and not said")
            )
        return found


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
    offers: Offers


def read_source(source: Source, language: str = "") -> tuple[ReadResult, csv_rows.Table | None]:
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
        return read_words(source.name, source.data, source.encoding, language), None
    # checks its size and whether there is anything in it
    result = read_words(source.name, source.data, source.encoding, language)
    text, _ = decode(source.data, source.encoding, language)
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
    read, table = read_source(source, project.language)
    texts = texts_of(read, source.choices)
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
            workspace,
            step,
            roles.get(step.text.role if step.text else "") or said_by.get(step.line_id or "", first),
        )
        for step in steps
    )
    said = [line for line in lines if line.kind != "gone"]
    problems = (
        *_not_compared(project, texts, how),
        *(Remark(each.place, each.message) for each in read.problems),
    )
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
        offers_of(read),
    )


def _not_compared(project: Project, texts: Sequence[TimedText], how: How) -> tuple[Remark, ...]:
    """Captions that nobody says have no line to be compared with: they come in only where all is laid
    anew."""
    silent = sum(not text.heading and not text.spoken for text in texts)
    if not silent or how != "compare" or not project.lines:
        return ()
    captions = f"{counted(silent, 'caption')} with nothing to say"
    return (Remark("captions", f"{captions} were left out; replace all lines to have them shown"),)


@dataclass(frozen=True, slots=True)
class Overview:
    """Words before there is a project: how many lines, how long they last when spoken, how they begin, what
    they offer.

    `timed` captions last until `seconds`; words without times are estimated in the voice a project of their
    language begins with.
    """

    lines: int
    seconds: float
    timed: bool
    begin: tuple[str, ...]
    problems: tuple[Remark, ...]
    offers: Offers


def overview(workspace: Workspace, source: Source, language: str) -> Overview:
    """What a file of words holds. Raises InputError when nothing of it can be used."""
    read, _ = read_source(source, language)
    texts = [text for text in texts_of(read, source.choices) if not text.heading]
    timed = all(text.end_ticks is not None for text in texts)
    if timed:
        ticks = max((text.end_ticks or 0 for text in texts), default=0)
    else:
        voice = voice_for_language(language).id
        workspace.lengths.prepare([text.words for text in texts], voice)
        lengths = [workspace.lengths.estimate(text.words, voice, 1.0).ticks for text in texts if text.spoken]
        ticks = needed_ticks(lengths, HouseLimits())
    return Overview(
        len(texts),
        round(ticks_to_seconds(ticks), 1),
        timed,
        tuple(" ".join(text.text.split()) for text in texts[:_MOST_SHOWN]),
        tuple(Remark(problem.place, problem.message) for problem in read.problems),
        offers_of(read),
    )


def _planned(workspace: Workspace, step: Step, role: Role | None) -> PlannedLine:
    text = step.after or step.before
    pace = role.pace if role else 1.0
    seconds = ticks_to_seconds(workspace.lengths.estimate(text, role.voice_id if role else "", pace).ticks)
    named = (step.text.role if step.text and step.text.role else "") or (role.name if role else "")
    return PlannedLine(
        step.kind, named, step.before, text, round(seconds, 2), len(step.text.marks) if step.text else 0
    )


def _all_new(project: Project, texts: Sequence[TimedText]) -> list[Step]:
    gone = [step for step in compare_script(project, []) if step.kind == "gone"]
    return [*gone, *(Step("new", None, "", text.words, text) for text in texts if text.spoken)]


def texts_of(read: ReadResult, choices: Choices = Choices()) -> list[TimedText]:
    """The words of a file as they are laid; captions by what was chosen for them."""
    return [_text_of(cue, choices) for cue in read.cues]


def _text_of(cue: Cue, choices: Choices) -> TimedText:
    role, text, said = cue.role, cue.text, None
    if cue.start_ticks is not None:
        if choices.names and not role:
            role, text = split_speaker(text)
            text = text or cue.text
        if not choices.descriptions and is_described(text):
            said = spoken_words(text)
    return TimedText(text, cue.start_ticks, cue.end_ticks, role, cue.heading, cue.marks, said)


def offers_of(read: ReadResult) -> Offers:
    """What captions have besides words to be said."""
    timed = [cue for cue in read.cues if cue.start_ticks is not None]
    named = Counter(name for cue in timed if not cue.role and (name := split_speaker(cue.text)[0]))
    return Offers(dict(named), sum(is_described(cue.text) for cue in timed))


def script_warnings(texts: Sequence[str], project: Project) -> list[str]:
    """Scripts that no voice of the cast reads: they are kept as they are, but will not be said well."""
    read: set[str] = set()
    for role in project.roles:
        voice = voice_by_id(role.voice_id)
        read |= scripts_in(sample_text(voice)) if voice else set()
    foreign = set().union(*(scripts_in(text) for text in texts)) - read if texts else set()
    return [
        f"Words in {name} script are kept as they are, but no voice of the cast reads it. Cast a voice that "
        "does."
        for name in sorted(foreign)
    ]


def bring_words(
    workspace: Workspace, project_id: str, based_on: int, source: Source, how: How, layout: Layout = "order"
) -> tuple[int, tuple[Remark, ...]]:
    """Do what `plan_words` showed, as one undoable step; the revision, and remarks on how the words were
    laid.

    Raises:
        ClashError: the project has changed since revision `based_on`.
        InputError: nothing of the source can be used, or there is no shot to lay words on.
    """
    head = workspace.head(project_id)
    if head.revision != based_on:
        raise ClashError(based_on, head.revision)
    if not head.project.shots:
        raise InputError("There is no shot yet. Add a picture first, or write the script on the page.")
    read, _ = read_source(source, head.project.language)
    texts = texts_of(read, source.choices)
    project, roles = with_roles(head.project, texts)
    remarks: tuple[Remark, ...] = ()
    if how == "compare" and project.lines:
        changed = apply_script(project, compare_script(project, texts), texts, roles)
        remarks = _not_compared(project, texts, how)
        label = "Script imported again"
    else:
        changed, remarks = laid(workspace, project, texts, roles, layout)
        label = "Script imported"
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
    made = project.changed(roles=tuple(roles))
    return made, {role.name.lower(): role for role in roles}


def laid(
    workspace: Workspace, project: Project, texts: Sequence[TimedText], roles: dict[str, Role], layout: Layout
) -> tuple[Project, tuple[Remark, ...]]:
    """A project with the words of a script in place of its own, and what could not be laid out as told."""
    first = project.roles[0]
    bare = project.changed(captions=(), lines=(), scene_texts=(), roles=())
    workspace.lengths.prepare([text.words for text in texts if text.spoken], first.voice_id)
    made, remarks = lay_words(bare, texts, first, workspace.lengths, roles, layout)
    return made.changed(roles=project.roles), remarks
