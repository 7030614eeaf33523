"""The takes a line keeps: what they were made from, choosing one, and comparing new ones side by side."""

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import BaseModel, Field

from fox_cadence.actions.voicing import take_for
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.delivery import Delivery
from fox_cadence.core.edits import EditError, SetLineDelivery, SetSaid
from fox_cadence.core.edits.base import number, with_line
from fox_cadence.core.marks import SyncPoint, carried
from fox_cadence.core.project import (
    Index,
    KeptTake,
    Line,
    Project,
    delivery_of,
    kept_take,
    said_text,
    voice_of,
)
from fox_cadence.core.takes import Take, natural_request
from fox_cadence.core.word_changes import Run, word_changes
from fox_cadence.core.words import same_words, words_of
from fox_cadence.errors import ClashError, EngineError, NotFoundError
from fox_cadence.jobs.runner import Unwatched, Watcher

MOST_VARIANTS = 6


@dataclass(frozen=True, slots=True)
class LineTake:
    """A take of a line with its name, when it was made, what it was made from, and how its words differ from
    now."""

    take: Take
    kept: KeptTake
    made_at: str
    chosen: bool
    changes: tuple[Run, ...]


def takes_of_line(workspace: Workspace, project_id: str, line_id: str) -> list[LineTake]:
    """All takes a line keeps, the newest first."""
    project = workspace.head(project_id).project
    line = project.line(line_id)
    kept = {each.take_id: each for each in line.takes}
    if line.take_id and line.take_id not in kept:
        kept[line.take_id] = KeptTake(take_id=line.take_id)
    takes = workspace.library.takes(kept)
    said = said_text(project, line)
    found: list[LineTake] = []
    for take_id, each in reversed(kept.items()):
        take = takes.get(take_id)
        if take is None:
            continue
        changes = () if take.text == said else tuple(word_changes(said, take.text))
        made_at = workspace.library.take_made_at(take_id)
        found.append(LineTake(take, each, made_at, take_id == line.take_id, changes))
    return found


def choose_take(workspace: Workspace, project_id: str, based_on: int, line_id: str, take_id: str) -> int:
    """Let a line play a take it keeps: the line gets the words, voice, delivery and marks the take was made
    from.

    Raises:
        ClashError: the project has changed since revision `based_on`.
        NotFoundError: the line keeps no such take, or its sound is gone.
    """
    head = workspace.head(project_id)
    if head.revision != based_on:
        raise ClashError(based_on, head.revision)
    project, line = head.project, head.project.line(line_id)
    kept = next((each for each in line.takes if each.take_id == take_id), None)
    take = workspace.library.takes([take_id]).get(take_id)
    if kept is None or take is None:
        raise NotFoundError("The line no longer keeps this take.")
    workspace.library.take_sound(take.sound_hash)
    changed = as_made(project, line, kept, take)
    chosen = changed.line(line_id).voiced_by(kept)
    label = f"Line {number(project.lines, line_id)}: take {'“' + kept.name + '”' if kept.name else 'chosen'}"
    return workspace.projects.commit(project_id, head.revision, with_line(changed, chosen), label)


def as_made(project: Project, line: Line, kept: KeptTake, take: Take) -> Project:
    """The project with a line as it was when a take was made; sync points follow their words."""
    index = Index(project)
    changed = project
    now = said_text(project, line, index)
    if take.text != now and not (take.recorded and same_words(take.text, now)):
        changed, _ = SetSaid(line_id=line.id, text=take.text).apply(changed)
    if kept.voice_id is None or take.recorded:
        return changed
    role = index.roles[line.role_id]
    edit = SetLineDelivery(
        line_id=line.id,
        voice_id=kept.voice_id if kept.voice_id != role.voice_id else None,
        delivery=kept.delivery if kept.delivery != role.delivery else None,
    )
    changed, _ = edit.apply(changed)
    before, after = ([word.text for word in words_of(text)] for text in (now, take.text))
    points = carried([mark for mark in line.marks if isinstance(mark, SyncPoint)], before, after)
    made = changed.line(line.id).changed(marks=(*kept.marks, *points))
    return with_line(changed, made)


class Variant(BaseModel):
    """A way to say a line: what is None stays as the line has it."""

    voice_id: str | None = Field(None, max_length=200)
    delivery: Delivery | None = None
    text: str | None = Field(None, max_length=5000)


@dataclass(frozen=True, slots=True)
class Compared:
    """A variant with its take, or why there is none."""

    variant: Variant
    kept: KeptTake | None
    take: Take | None
    reason: str = ""


def compare(
    workspace: Workspace,
    project_id: str,
    line_id: str,
    variants: Sequence[Variant],
    watcher: Watcher | None = None,
) -> list[Compared]:
    """Say a line in several ways. The project is not changed; takes already made are found again.

    Raises:
        EditError: there are none, or too many.
    """
    if not 0 < len(variants) <= MOST_VARIANTS:
        raise EditError(f"Compare up to {MOST_VARIANTS} ways.")
    watch = watcher or Unwatched()
    project = workspace.head(project_id).project
    found: list[Compared] = []
    for done, variant in enumerate(variants):
        watch.report(done, len(variants), f"Way {done + 1}")
        changed = _varied(project, line_id, variant)
        line = changed.line(line_id)
        try:
            take, _ = take_for(workspace, natural_request(changed, line))
            found.append(Compared(variant, kept_take(changed, line, take.id), take))
        except EngineError as error:
            found.append(Compared(variant, None, None, str(error)))
    watch.report(len(variants), len(variants))
    return found


def _varied(project: Project, line_id: str, variant: Variant) -> Project:
    line = project.line(line_id)
    index = Index(project)
    edit = SetLineDelivery(
        line_id=line_id,
        voice_id=variant.voice_id or voice_of(line, index),
        delivery=variant.delivery or delivery_of(line, index),
    )
    changed, _ = edit.apply(project)
    if variant.text is not None and variant.text.strip() != said_text(project, line, index):
        changed, _ = SetSaid(line_id=line_id, text=variant.text).apply(changed)
    return changed


def keep_compared(
    workspace: Workspace,
    project_id: str,
    based_on: int,
    line_id: str,
    variants: Sequence[Variant],
    chosen: int | None,
) -> int:
    """Keep all ways a line was compared in as its takes, and let it play the chosen one (none: as it was).

    Raises:
        ClashError: the project has changed since revision `based_on`.
    """
    head = workspace.head(project_id)
    if head.revision != based_on:
        raise ClashError(based_on, head.revision)
    found = compare(workspace, project_id, line_id, variants)
    project = head.project
    line = project.line(line_id)
    for each in found:
        if each.kept is not None:
            line = line.keeping(each.kept)
    project = with_line(project, line)
    label = f"Line {number(project.lines, line_id)}: {len(found)} takes kept"
    if chosen is not None and 0 <= chosen < len(found):
        best = found[chosen]
        if best.kept is None or best.take is None:
            raise EditError(f"This way could not be said: {best.reason}")
        project = as_made(project, line, best.kept, best.take)
        project = with_line(project, project.line(line_id).voiced_by(best.kept))
        label += ", one chosen"
    return workspace.projects.commit(project_id, head.revision, project, label)
