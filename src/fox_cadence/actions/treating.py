"""Treating voices: what a treatment does to a line, and to a file."""

from dataclasses import dataclass
from pathlib import Path

from fox_cadence.actions.sound_files import sound_of_file
from fox_cadence.actions.voicing import natural_take
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.project import Index, treatment_of
from fox_cadence.core.takes import Take
from fox_cadence.core.treatment import SHIPPED, Treatment, shipped
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.media.audio import Loudness, measure_loudness, read_wav, wav_bytes
from fox_cadence.media.treating import StageEffect, Treated, response_db, spectrum, treat, treated
from fox_cadence.store.library import write_safely


@dataclass(frozen=True, slots=True)
class Measured:
    """What a treatment does to a line: what each stage did, third octaves before and after (dBFS), and by how
    many decibels its equalisers change each of `RESPONSE_HZ`."""

    effects: tuple[StageEffect, ...]
    response_db: tuple[float, ...]
    before: tuple[float, ...]
    after: tuple[float, ...]


def line_treatment(workspace: Workspace, project_id: str, line_id: str) -> tuple[Take, Treatment | None]:
    """The take a line is heard by as its words stand now, voiced if need be, and how it is treated."""
    project = workspace.head(project_id).project
    span = next((s for s in workspace.timeline(project).lines if s.line.id == line_id), None)
    if span is None:
        raise NotFoundError("This line is no longer in the project.")
    take = span.take if span.take is not None and not span.stale else None
    if take is None:
        take, _ = natural_take(workspace, project, span.line)
    return take, treatment_of(span.line, Index(project))


def measured(workspace: Workspace, project_id: str, line_id: str) -> Measured:
    """What the treatment of a line does to its sound."""
    take, treatment = line_treatment(workspace, project_id, line_id)
    sound = read_wav(workspace.library.take_sound(take.sound_hash))
    made = treated(take.sound_hash, sound, treatment) if treatment is not None else Treated(sound, ())
    after = spectrum(made.sound[: len(sound)])
    curve = response_db(treatment) if treatment is not None else ()
    return Measured(made.effects, tuple(curve), tuple(spectrum(sound)), tuple(after))


def named(workspace: Workspace, name: str) -> Treatment:
    """The treatment of that name that ships, that the user keeps for all projects, or that a project
    keeps."""
    listed = workspace.projects.list()
    kept = [*workspace.treatments.all()]
    kept += [each for item in listed for each in workspace.head(item.project_id).project.treatments]
    found = shipped(name) or next((each for each in kept if each.name.casefold() == name.casefold()), None)
    if found is not None:
        return found
    names = ", ".join(each.name for each in SHIPPED)
    raise InputError(f"there is no treatment {name!r}; there are {names}", "--with")


def treat_file(file: Path, treatment: Treatment, target: Path) -> tuple[Loudness, tuple[StageEffect, ...]]:
    """Treat a sound file, its channels brought together, into a WAV; how loud it is, and what each stage
    did.

    Raises:
        InputError: it can't be read, or nothing is to be heard in it.
    """
    sound = sound_of_file(file)
    made = treat(sound, treatment)
    write_safely(target, wav_bytes(made.sound))
    return measure_loudness(made.sound), made.effects
