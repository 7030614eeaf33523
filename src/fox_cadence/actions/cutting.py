"""Finding the cuts of a finished video, and making shots of what lies between them."""

from collections.abc import Mapping, Sequence
from pathlib import Path

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import SplitShot
from fox_cadence.core.project import Project
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.cut_finding import FoundCut, find_cuts
from fox_cadence.media.isolated import run_isolated

NOTE = "Looking for cuts"


def cuts_of_file(path: Path, watcher: Watcher | None = None) -> list[FoundCut]:
    """The cuts, dissolves and fades of a video.

    Raises:
        InputError: it is no video; the words say what it is.
        CancelledError: the editor stopped it.
    """
    watch = watcher or Unwatched()
    found: list[FoundCut] = run_isolated(
        find_cuts,
        path,
        progress=lambda done, total: watch.report(done, total, NOTE),
        cancelled=lambda: watch.cancelled,
    )
    return found


def cuts_of_clip(
    workspace: Workspace, project_id: str, clip_hash: str, watcher: Watcher | None = None
) -> list[FoundCut]:
    """The cuts of a clip of a project.

    Raises:
        InputError: the project has no such video.
        MissingFileError: its file has vanished.
    """
    clip = workspace.head(project_id).project.clips.get(clip_hash)
    if clip is None or clip.kind != "video":
        raise InputError("only a video has cuts to be found")
    return cuts_of_file(workspace.library.original(clip_hash), watcher)


def cut_apart(project: Project, cuts: Mapping[str, Sequence[FoundCut]]) -> Project:
    """The project with each shot split where its clip cuts, by the hash of the clip; what lies within the
    shot's own transitions is left."""
    made = project
    for shot in project.shots:
        places = sorted(
            project.rate.frames_nearest((cut.ticks - shot.source_in_ticks) * 100 // shot.speed_percent)
            for cut in cuts.get(shot.clip_hash or "", ())
            if shot.speed_percent
        )
        for at in reversed(places):  # the last one first: the shot keeps its id up to there
            if 0 < at < made.shot(shot.id).length_frames - made.shot(shot.id).transition_frames:
                made, _ = SplitShot(shot_id=shot.id, at_frames=at).apply(made)
    return made
