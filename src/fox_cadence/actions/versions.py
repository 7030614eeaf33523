"""The same piece in another language: begun, given its words, kept up with the first, compared with it."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import PurePath
from typing import Literal

from fox_cadence.actions.bring_in import LONGEST_NAME
from fox_cadence.actions.script_import import Source, read_source
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.languages import LANGUAGES, language_name, primary
from fox_cadence.core.numbers import counted
from fox_cadence.core.project import Project
from fox_cadence.core.version_words import Matched, UnmatchedError, by_order, by_pairs, by_times
from fox_cadence.core.versions import Unit, begin_version, caught_up, confirmed, units, with_words
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.formats.translation import WRITERS, Pair, Row, read_pairs
from fox_cadence.media.isolated import Progress, run_isolated
from fox_cadence.voices.catalogue import voice_by_id, voices_of_language
from fox_cadence.voices.measured import semitones_apart
from fox_cadence.voices.voice import Voice

Cuts = Literal["own", "first"]


@dataclass(frozen=True, slots=True)
class Begun:
    """A new version: its id, how many of its units have their words, how many not, and what could not be
    placed."""

    project_id: str
    placed: int
    without: int
    remarks: tuple[str, ...]


def first_of(workspace: Workspace, project_id: str) -> str:
    """The id of the piece a project is a version of; its own where it is none, or where that is gone."""
    of = workspace.head(project_id).project.version_of
    return of.project_id if of is not None and workspace.projects.exists(of.project_id) else project_id


def versions_of(workspace: Workspace, first_id: str) -> list[str]:
    """The ids of a piece's versions, the oldest first."""
    listed = [each for each in workspace.projects.list() if each.version_of == first_id]
    return [each.project_id for each in sorted(listed, key=lambda each: each.made_at)]


def make_version(
    workspace: Workspace,
    project_id: str,
    language: str,
    words: tuple[str, bytes] | None = None,
    name: str = "",
    cuts: Cuts = "own",
    shown: Cuts = "own",
) -> Begun:
    """Begin a version of a piece, with words from a file (its name and bytes) where there is one.

    Raises:
        InputError: the language is unknown, it is the first's own, or the words can't be used; nothing was
            made.
    """
    first_id = first_of(workspace, project_id)
    first = workspace.head(first_id).project
    if primary(language) not in LANGUAGES:
        raise InputError(f"{language!r} is no language known here", "language")
    if primary(language) == primary(first.language):
        raise InputError(f"the piece is in {language_name(language)} already", "language")
    matched = _matched(workspace, first, *words) if words else Matched({}, len(units(first)), ())
    named = " ".join(name.split()) or f"{first.name[: LONGEST_NAME - 24]}, {language_name(language)}"
    version = begin_version(
        first, first_id, named[:LONGEST_NAME], language, _cast(first, language), cuts, shown
    )
    version = with_words(version, matched.words, first)
    made = workspace.projects.create(version, f"Version of “{first.name}”")
    return Begun(made, len(matched.words), matched.without, matched.remarks)


def _cast(first: Project, language: str) -> dict[str, str]:
    """A voice of a language for each role, as near as there is to the one it has and no other role's."""
    found: dict[str, str] = {}
    for role in first.roles:
        like = voice_by_id(role.voice_id)
        found[role.id] = near_voice(language, like, set(found.values())).id
    return found


def near_voice(language: str, like: Voice | None, taken: set[str]) -> Voice:
    """The voice of a language that is nearest to another: natural, of the same gender, then by pitch and by
    how lively it is."""
    offered = voices_of_language(language)
    free = [voice for voice in offered if voice.id not in taken] or offered

    def far(voice: Voice) -> tuple[bool, bool, float]:
        if like is None:
            return not voice.natural, False, 0.0
        other = like.gender is not None and voice.gender != like.gender
        return not voice.natural, other, semitones_apart(like.measured, voice.measured)

    return min(free, key=far)


def put_words(workspace: Workspace, version_id: str, words: Mapping[str, str]) -> None:
    """Give units of a version their words, as one step.

    Raises:
        EditError: it is no version, or has no such unit.
    """
    count = len(words)
    _change(workspace, version_id, f"{counted(count, 'translation')} written", _words_change(words))


def put_file(workspace: Workspace, version_id: str, name: str, data: bytes) -> Matched:
    """Give a version the words of a file, as one step.

    Raises:
        InputError: the file can't be used.
    """
    version = workspace.head(version_id).project
    first = _first(workspace, version)
    matched = _matched(workspace, first or version, name, data)
    _change(workspace, version_id, f"Words from {name}", _words_change(matched.words))
    return matched


def say_right(workspace: Workspace, version_id: str, unit_ids: list[str]) -> None:
    """Keep words of a version though the first's have changed."""

    def change(version: Project, first: Project | None) -> Project:
        return confirmed(version, unit_ids, _there(first))

    _change(workspace, version_id, f"{counted(len(unit_ids), 'translation')} confirmed", change)


def catch_up(workspace: Workspace, version_id: str) -> None:
    """Bring a version's picture, bed and lines up to the first's. Raises EditError."""

    def change(version: Project, first: Project | None) -> Project:
        there = _there(first)
        return caught_up(version, there, _cast(there, version.language))

    _change(workspace, version_id, "Brought up to the first", change)


Change = Callable[[Project, Project | None], Project]


def _words_change(words: Mapping[str, str]) -> Change:
    return lambda version, first: with_words(version, words, first)


def _change(workspace: Workspace, version_id: str, label: str, change: Change) -> None:
    def changed(version: Project) -> tuple[Project, str]:
        return change(version, _first(workspace, version)), label

    workspace.commit_on_top(version_id, changed)


def _first(workspace: Workspace, version: Project) -> Project | None:
    of = version.version_of
    try:
        return workspace.head(of.project_id).project if of is not None else None
    except NotFoundError:
        return None


def _there(first: Project | None) -> Project:
    if first is None:
        raise InputError("the piece this is a version of is not here any more", "version")
    return first


def _matched(workspace: Workspace, first: Project, name: str, data: bytes) -> Matched:
    """The words of a file by the units they belong to. Raises InputError."""
    wanted = units(first)
    suffix = PurePath(name).suffix.lower()
    try:
        pairs = run_isolated(_read_pairs, name, data) if suffix == ".docx" else read_pairs(name, data)
    except InputError as error:
        raise InputError(str(error), name) from error
    if pairs is not None:
        found = by_pairs(wanted, [(each.unit_id, each.source, each.target) for each in pairs])
        if not found.words:
            raise InputError("none of its rows belongs to this piece, or none has a translation", name)
        return found
    result, _ = read_source(Source(name, data))
    timed = [
        (cue.start_ticks, cue.end_ticks, cue.text)
        for cue in result.cues
        if cue.start_ticks is not None and cue.end_ticks is not None
    ]
    if timed:
        lines = [unit for unit in wanted if unit.kind == "line"]
        if len(timed) == len(lines):
            return by_order(wanted, [text for _, _, text in timed], [])
        return by_times(wanted, workspace.timeline(first), timed)
    try:
        return by_order(
            wanted,
            [cue.text for cue in result.cues if not cue.heading],
            [cue.text for cue in result.cues if cue.heading],
        )
    except UnmatchedError as error:
        raise InputError(str(error), name) from error


def _read_pairs(name: str, data: bytes, progress: Progress) -> list[Pair] | None:
    return read_pairs(name, data)


def words_to_translate(workspace: Workspace, project_id: str, kind: str, language: str = "") -> bytes:
    """The words of a piece side by side with those of a version, or with room for them.

    Args:
        project_id: a version, or the first; then `language` is the one to be written.
        kind: csv, docx or xlf.

    Raises:
        NotFoundError: it can't be written in that kind.
    """
    writer = WRITERS.get(kind)
    if writer is None:
        raise NotFoundError(f"Words to translate can't be written as {kind!r}.")
    project = workspace.head(project_id).project
    first = _first(workspace, project) or project
    have = {unit.id: unit.text for unit in units(project)} if project.version_of else {}
    rows = [Row(unit.id, _note(unit), unit.text, _own(unit, have)) for unit in units(first)]
    return writer(rows, (first.language, project.language if project.version_of else language or "und"))


def _own(unit: Unit, have: Mapping[str, str]) -> str:
    """What a version says for a unit; nothing where it still has the first's words."""
    words = have.get(unit.id, "")
    return "" if words == unit.text else words


def _note(unit: Unit) -> str:
    return unit.role if unit.kind == "line" else unit.kind
