"""Music by its beats: found, laid on the cuts, and a bed cut to the piece or repeated by its bars."""

import json
from pathlib import Path

from fox_cadence.actions.sound_files import sound_of_file
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import CutBed, SetBeats, SetBed
from fox_cadence.core.mix import bed_runs
from fox_cadence.core.project import Project
from fox_cadence.core.sound.bed import Bed
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_samples, ticks_to_seconds
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import Sound, read_wav
from fox_cadence.media.beats import Beats, find_beats
from fox_cadence.media.ingest import SOUND
from fox_cadence.media.music import CutMusic, cut_to_length, loop_region
from fox_cadence.store.library import write_safely

_FOUND = "beats.1.json"
"""Beside the sound of a clip; its number goes up when beats are found in another way."""
_LONGEST_S = 20 * 60
"""Music is looked into so far: an hour of it would take half a minute, and no bed needs so much."""
_MOST_BEATS = 2_000


def beats_of(workspace: Workspace, clip_hash: str) -> Beats:
    """The beats of a clip's sound, found once. Raises NotFoundError."""
    path = workspace.library.clip_folder(clip_hash) / _FOUND
    if path.is_file():
        known = json.loads(path.read_text())
        return Beats(known["bpm"], tuple(known["beats"]), tuple(known["bars"]), known["metre"], known["sure"])
    found = find_beats(music_of(workspace, clip_hash))
    said = {
        "bpm": found.tempo_bpm,
        "beats": found.beats_s,
        "bars": found.bars_s,
        "metre": found.metre,
        "sure": found.certainty,
    }
    write_safely(path, json.dumps(said).encode())
    return found


def music_of(workspace: Workspace, clip_hash: str) -> Sound:
    """The sound of a clip, as far as music is looked into."""
    return read_wav(workspace.library.clip_file(clip_hash, SOUND))[: _LONGEST_S * SAMPLE_RATE_HZ]


def beats_of_file(path: Path) -> Beats:
    """The beats of a sound file. Raises InputError."""
    return find_beats(sound_of_file(path)[: _LONGEST_S * SAMPLE_RATE_HZ])


def in_piece(bed: Bed, project: Project, total_ticks: int, moments_s: tuple[float, ...]) -> list[float]:
    """When moments of its clip are heard in the piece, in seconds: once for each time they are played."""
    clip = project.clips[bed.clip_hash]
    start = ticks_to_samples(bed.start_ticks)
    wanted = ticks_to_samples(bed.end_ticks(total_ticks)) - start
    if wanted <= 0:
        return []
    found: list[float] = []
    samples = [round(moment * SAMPLE_RATE_HZ) for moment in moments_s]
    for run in bed_runs(bed, clip, wanted):
        found += [
            (start + run.at_sample + sample - run.source_sample) / SAMPLE_RATE_HZ
            for sample in samples
            if run.source_sample <= sample < run.source_sample + run.count
            and run.at_sample + sample - run.source_sample < wanted
        ]
    return found


def _bed_in(workspace: Workspace, project_id: str, bed_id: str) -> tuple[Project, Bed, float]:
    """A project, a bed of it, and for how many seconds the bed is wanted."""
    project = workspace.head(project_id).project
    bed = project.bed(bed_id)
    total = workspace.timeline(project).total_ticks
    return project, bed, ticks_to_seconds(bed.end_ticks(total) - bed.start_ticks)


def cut_bed(workspace: Workspace, project_id: str, bed_id: str, watcher: Watcher | None = None) -> CutMusic:
    """Cut a bed to the piece by whole bars, so that its ending is heard at the end: one undoable step.

    Raises:
        InputError: it has too few bars, or begins after the end of the piece.
        NotFoundError: its sound has vanished.
        NotInProjectError: there is no such bed.
        CancelledError: the editor stopped it; nothing was changed.
    """
    watch = watcher or Unwatched()
    _, bed, seconds = _bed_in(workspace, project_id, bed_id)
    if seconds < 1:
        raise InputError("the bed begins where the piece ends", "bed")
    watch.report(0, 2, "Looking for its beats")
    beats = beats_of(workspace, bed.clip_hash)
    watch.report(1, 2, "Looking for bars to cut at")
    try:
        made = cut_to_length(music_of(workspace, bed.clip_hash), beats, seconds)
    except ValueError as error:
        raise InputError("too few bars were found in this music to cut it by them", "bed") from error
    watch.report(2, 2)
    edit = CutBed(bed_id=bed_id, stretches=made.stretches, for_s=seconds)
    workspace.commit_on_top(project_id, edit.apply)
    return made


def loop_bed(
    workspace: Workspace, project_id: str, bed_id: str, watcher: Watcher | None = None
) -> tuple[float, float]:
    """Have a bed repeat the part that can be repeated best; the part, in seconds of its clip.

    Raises:
        InputError: too few bars were found.
        CancelledError: the editor stopped it; nothing was changed.
    """
    watch = watcher or Unwatched()
    watch.report(0, 2, "Looking for its beats")
    _, bed, _ = _bed_in(workspace, project_id, bed_id)
    music = music_of(workspace, bed.clip_hash)
    beats = beats_of(workspace, bed.clip_hash)
    watch.report(1, 2, "Looking for bars that can be repeated")
    found = loop_region(music, beats)
    watch.report(2, 2)
    if found is None:
        raise InputError("too few bars were found in this music to repeat some of them", "bed")
    first, end = max(0.0, found[0]), min(found[1], len(music) / SAMPLE_RATE_HZ)
    edit = SetBed(bed_id=bed_id, source_in_s=0, source_out_s=0, loop_in_s=first, loop_out_s=end)
    workspace.commit_on_top(project_id, edit.apply)
    return first, end


def beats_for_cuts(
    workspace: Workspace, project_id: str, bed_id: str, bars: bool = False, watcher: Watcher | None = None
) -> int:
    """Have the fit know the beats of a bed, or only where its bars begin; how many there are.

    Raises:
        InputError: none were found.
        CancelledError: the editor stopped it; nothing was changed.
    """
    watch = watcher or Unwatched()
    watch.report(0, 1, "Looking for its beats")
    project, bed, _ = _bed_in(workspace, project_id, bed_id)
    found = beats_of(workspace, bed.clip_hash)
    total = workspace.timeline(project).total_ticks
    times = in_piece(bed, project, total, found.bars_s if bars else found.beats_s)
    if not times:
        raise InputError("no beats were found in this music", "bed")
    watch.report(1, 1)
    edit = SetBeats(times_s=[round(time, 4) for time in times[:_MOST_BEATS]])
    workspace.commit_on_top(project_id, edit.apply)
    return len(times)
