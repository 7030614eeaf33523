"""A figure in a finished video: read off its pictures and its sound, its mouth is in step with the voice."""

import itertools
from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

from fox_cadence.actions.acting import phonemes_of
from fox_cadence.actions.bring_in import NewProject, new_project
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.exporting import export
from fox_cadence.actions.script_import import Source
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.acting import acted
from fox_cadence.core.docket.shipped import usual
from fox_cadence.core.edits import AddFigure, Edit, SetFigure
from fox_cadence.core.takes import PhonemeTime
from fox_cadence.core.ticks import FrameRate
from fox_cadence.media.ingest import read_sound

PIECE = NewProject("Papa", 180, 240, FrameRate(numerator=30))
WORDS = Source("w.txt", b"Papa, papa, papa.\nNobody may beat my papa, not a bit, not by a mile.\n")
MOUTH = (slice(138, 166), slice(74, 107))
"""The rows and columns of the frame in which the mouth of the figure is."""


def made_piece(workspace: Workspace) -> str:
    project_id = new_project(workspace, PIECE, [], WORDS).project_id
    head = workspace.head(project_id)
    role = head.project.roles[0].id
    edits: list[Edit] = [
        AddFigure(role_id=role, character="limpet"),
        SetFigure(figure_id="g1", x=0.5, y=0.42, size=1.0, facing="ahead"),
    ]
    make_edits(workspace, project_id, head, edits, "A figure")
    voice_lines(workspace, project_id)
    return project_id


def mouth_dark(path: Path) -> np.ndarray:
    """For each frame of a video, how many points of the mouth are dark."""
    with av.open(str(path)) as video:
        pictures = [frame.to_ndarray(format="gray") for frame in video.decode(video=0)]
    return np.array([(picture[MOUTH] < 60).sum() for picture in pictures], dtype=np.float64)


def loudness(path: Path, frames: int, rate: Fraction) -> np.ndarray:
    """For each frame of a video, how loud what is heard with it is."""
    sound = read_sound(path)
    assert sound is not None
    mono = np.abs(sound.mean(axis=1) if sound.ndim > 1 else sound)
    edges = [int(48_000 * n / rate) for n in range(frames + 1)]
    parts = [mono[a:b] for a, b in itertools.pairwise(edges)]
    return np.array([np.sqrt(np.mean(part**2)) if len(part) else 0.0 for part in parts])


def best_lag(one: np.ndarray, other: np.ndarray, reach: int = 6) -> tuple[int, float]:
    """By how many frames the first comes after the second where they agree best, and how well they do."""
    found = []
    for lag in range(-reach, reach + 1):
        a, b = (one[lag:], other[: len(other) - lag]) if lag >= 0 else (one[:lag], other[-lag:])
        found.append((float(np.corrcoef(a, b)[0, 1]), lag))
    agreement, lag = max(found)
    return lag, agreement


def test_the_mouth_in_the_video_is_in_step_with_its_sound_to_a_frame(
    workspace: Workspace, tmp_path: Path
) -> None:
    project_id = made_piece(workspace)
    exported = export(workspace, project_id, tmp_path, usual(sound=False, captions=False))
    path = next(file.path for file in exported.files if file.path.suffix == ".mp4")
    dark = mouth_dark(path)
    timeline = workspace.timeline(workspace.head(project_id).project)
    poses = acted(timeline, phonemes_of(workspace, timeline.project))[0].poses
    assert len(dark) == len(poses)
    # what is seen is what was meant, in the very frame it was meant for
    jaw = np.array([pose.jaw for pose in poses], dtype=np.float64)
    lag, agreement = best_lag(dark, jaw)
    assert (lag, agreement > 0.9) == (0, True)
    # and it opens with the sound of the file itself, never more than a frame late, a frame or two ahead
    lag, agreement = best_lag(dark, loudness(path, len(dark), timeline.project.rate.fraction))
    assert -2 <= lag <= 1
    assert agreement > 0.4


def test_a_take_from_before_sounds_were_kept_still_moves_the_mouth_with_its_words(
    workspace: Workspace,
) -> None:
    project_id = made_piece(workspace)
    timeline = workspace.timeline(workspace.head(project_id).project)
    take = timeline.lines[1].take
    assert take is not None
    known = phonemes_of(workspace, timeline.project)
    guessed = known(take.changed(phonemes=(), key=f"old {take.key}"))
    assert len(guessed) > 0.7 * len(take.phonemes)

    def jaws(sounds: Sequence[PhonemeTime]) -> np.ndarray:
        return np.array([pose.jaw for pose in acted(timeline, lambda _: sounds)[0].poses], dtype=np.float64)

    now, old = jaws(take.phonemes), jaws(guessed)
    lag, agreement = best_lag(old, now)
    assert abs(lag) <= 1
    assert agreement > 0.6
