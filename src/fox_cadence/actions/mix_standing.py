"""How the mix of a piece stands: measured column by column, explained, and its bed set so that words are
understood."""

from dataclasses import dataclass, replace

import numpy as np
from cachetools import LRUCache
from numpy.typing import NDArray

from fox_cadence.actions.mixing import mix, mixer_of, planned
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import SetBed
from fox_cadence.core.project import Project
from fox_cadence.core.sound.standing import LineOver, MixMeasured, MixWarning, warnings_of
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_samples, ticks_to_seconds
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import Sound
from fox_cadence.media.clipping import is_clipped
from fox_cadence.media.ingest import SOUND
from fox_cadence.media.meter import STEP, Meter
from fox_cadence.media.mixdown import BLOCK, Mix
from fox_cadence.media.sound_reader import WavFile
from fox_cadence.media.understanding import AIM, lowered, needed_db, understood

_QUIET = 1e-9
_MOST_HEARD_S = 40.0
"""Of the words how understood they are is worked out on: it takes a tenth of their time."""


@dataclass(frozen=True, slots=True)
class MixStanding:
    """Loudness and true peak of the whole, its loudness of three seconds by tenths of a second, how far
    speech stands over the rest (None where one of both is missing), how well its words are understood, and
    what is wrong."""

    lufs: float
    peak_db: float
    short_term_lufs: tuple[float, ...]
    over_db: float | None
    understood: float | None
    lines: tuple[LineOver, ...]
    warnings: tuple[MixWarning, ...]


def mix_standing(workspace: Workspace, timeline: Timeline) -> MixStanding:
    """How the mix of a timeline stands.

    Raises:
        InputError: the piece is too long to be mixed.
        NotFoundError: a sound has vanished.
    """
    made = mix(workspace, timeline)
    loudness = made.loudness()
    speech, rest = _energies(made)
    lines = tuple(
        _line_over(span.line.id, span.start_ticks, span.end_ticks, speech, rest) for span in timeline.lines
    )
    measured = MixMeasured(made.integrated_lufs, made.held_db, lines, _clipped(workspace, timeline.project))
    spoken = np.zeros(len(speech), bool)
    for span in timeline.lines:
        spoken[_steps(span.start_ticks, span.end_ticks)] = True
    return MixStanding(
        lufs=round(made.integrated_lufs, 2),
        peak_db=round(loudness.true_peak_db, 2),
        short_term_lufs=tuple(np.round(made.short_term_lufs, 1).tolist()),
        over_db=_over(speech[spoken], rest[spoken]),
        understood=_understood(made, timeline),
        lines=lines,
        warnings=warnings_of(timeline.project, timeline.total_ticks, measured),
    )


def _energies(made: Mix) -> tuple[NDArray[np.float64], NDArray[np.float64]]:
    """Of the speech and of all the rest, by tenths of a second."""
    meters = Meter(), Meter()
    for start in range(0, made.total_samples, BLOCK):
        columns = made.columns(start, BLOCK)
        meters[0].feed(columns["speech"])
        meters[1].feed(np.asarray(columns["bed"] + columns["own"] + columns["effects"], dtype=np.float32))
    return meters[0].energies(), meters[1].energies()


def _steps(start_ticks: int, end_ticks: int) -> slice:
    first = max(0, ticks_to_samples(start_ticks) // STEP)
    return slice(first, max(first + 1, ticks_to_samples(end_ticks) // STEP))


def _over(speech: NDArray[np.float64], rest: NDArray[np.float64]) -> float | None:
    """How many decibels speech stands over the rest."""
    if not len(speech) or speech.sum() < _QUIET or rest.sum() < _QUIET:
        return None
    return round(10 * float(np.log10(speech.sum() / rest.sum())), 1)


def _line_over(
    line_id: str, start_ticks: int, end_ticks: int, speech: NDArray[np.float64], rest: NDArray[np.float64]
) -> LineOver:
    steps = _steps(start_ticks, end_ticks)
    return LineOver(line_id, ticks_to_seconds(start_ticks), _over(speech[steps], rest[steps]))


def _spoken(timeline: Timeline) -> list[tuple[int, int]]:
    """Stretches of samples in which somebody speaks: lines from all over the piece, not too many."""
    spans = [
        (ticks_to_samples(span.start_ticks), ticks_to_samples(span.end_ticks))
        for span in timeline.lines
        if span.take is not None
    ]
    total = sum(end - start for start, end in spans)
    each = max(1, -(-total // round(_MOST_HEARD_S * SAMPLE_RATE_HZ)))
    return [span for number, span in enumerate(spans) if number % each == 0]


def _understood(made: Mix, timeline: Timeline) -> float | None:
    spans = _spoken(timeline)
    if not spans:
        return None
    parts = [made.columns(start, end - start) for start, end in spans]
    speech = lowered(np.concatenate([part["speech"] for part in parts]))
    heard = lowered(np.concatenate([np.asarray(sum(part.values()), dtype=np.float32) for part in parts]))
    found = understood(speech, heard)
    return None if found is None else round(found, 3)


def _clipped(workspace: Workspace, project: Project) -> tuple[str, ...]:
    """The sounds of a piece whose peaks are cut off."""
    used = {bed.clip_hash for bed in project.beds}
    used |= {shot.clip_hash for shot in project.shots if shot.clip_hash and not shot.sound_muted}
    return tuple(
        each for each in sorted(used) if project.clips[each].has_sound and _is_clipped(workspace, each)
    )


_known: LRUCache[str, bool] = LRUCache(1_000)


def _is_clipped(workspace: Workspace, content_hash: str) -> bool:
    """Looked into once: a sound is known by its content."""
    known = _known.get(content_hash)
    if known is None:
        known = _known[content_hash] = is_clipped(WavFile(workspace.library.clip_file(content_hash, SOUND)))
    return known


@dataclass(frozen=True, slots=True)
class DuckSet:
    """By how much a bed goes down under speech now, and how well the words are understood with it."""

    duck_db: float
    understood: float | None


def duck_for_words(
    workspace: Workspace, project_id: str, bed_id: str, watcher: Watcher | None = None
) -> DuckSet:
    """Have a bed go down under speech just so far that its words are understood: one undoable step.

    Raises:
        InputError: nothing is said, or no way down is enough: then what else sounds is too loud.
        CancelledError: the editor stopped it; nothing was changed.
    """
    watch = watcher or Unwatched()
    watch.report(0, 0, "Listening to the words over the bed")
    project = workspace.head(project_id).project
    bed = project.bed(bed_id)
    timeline = workspace.timeline(project)
    spans = _spoken(timeline)
    if not spans:
        raise InputError("no line has a voice yet; voice some first", "bed")
    plan = planned(workspace, timeline)
    flat = replace(
        plan, beds=tuple(replace(each, duck=()) if each.bed_id == bed.id else each for each in plan.beds)
    )
    others = replace(plan, beds=tuple(each for each in plan.beds if each.bed_id != bed.id))
    with_bed, without = mixer_of(workspace, flat), mixer_of(workspace, others)
    speech: list[Sound] = []
    rest: list[Sound] = []
    music: list[Sound] = []
    for start, end in spans:
        columns, bare = with_bed.columns(start, end - start), without.columns(start, end - start)
        speech.append(columns["speech"])
        rest.append(np.asarray(bare["bed"] + bare["own"] + bare["effects"], dtype=np.float32))
        music.append(np.asarray(columns["bed"] - bare["bed"], dtype=np.float32))
    low = [lowered(np.concatenate(parts)) for parts in (speech, rest, music)]
    needed = needed_db(low[0], low[1], low[2])
    if needed is None:
        raise InputError(
            f"no way down is enough for {AIM:.2f}: what else sounds under the words is too loud", "bed"
        )
    watch.report(1, 1)
    workspace.commit_on_top(project_id, SetBed(bed_id=bed_id, duck_db=needed).apply)
    return DuckSet(needed, understood(low[0], low[0] + low[1] + low[2] * 10 ** (-needed / 20)))
