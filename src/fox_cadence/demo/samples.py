"""The samples as they ship: projects with all their revisions, their clips and takes as small files.

They are made by the modules beside this one and packed by `scripts/pack_samples.py`; here they only come
into a data folder, in a second. What a clip has beside its file (small frames, its sound) is made in the
background (actions/preparing.py).
"""

import gzip
import json
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

import numpy as np
from pydantic import TypeAdapter

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.length_model import KnownSpeech
from fox_cadence.core.project import Project
from fox_cadence.core.shot import Clip
from fox_cadence.core.takes import Take
from fox_cadence.jobs.runner import Unwatched, Watcher
from fox_cadence.media.audio import wav_bytes
from fox_cadence.media.ingest import read_sound
from fox_cadence.store.known_lengths import KnownLengthStore

DATA = Path(__file__).resolve().parent / "data"
INDEX = "samples.json.gz"
FIRST_ID = "marrow-bay"
"""The sample that opens first; the first steps are shown on it."""

_TAKES: TypeAdapter[list[Take]] = TypeAdapter(list[Take])


def ensure_samples(workspace: Workspace, watcher: Watcher | None = None, data: Path = DATA) -> str:
    """The id of the first sample. All come in the first time; what the editor has changed or deleted of them
    since stays so.

    Args:
        data: where the samples lie, as `scripts/pack_samples.py` writes them.

    Raises:
        StorageError: the disk refused.
    """
    if workspace.projects.exists(FIRST_ID):
        return FIRST_ID
    watch = watcher or Unwatched()
    index = json.loads(gzip.decompress((data / INDEX).read_bytes()))
    clips = [Clip.model_validate(each) for each in index["clips"]]
    takes = _TAKES.validate_python(index["takes"])
    total = len(clips) + len(takes)
    for done, clip in enumerate(clips):
        watch.report(done, total, "Bringing in the samples")
        (file,) = (data / "clips").glob(f"{clip.hash[:16]}.*")
        poster = data / "posters" / f"{clip.hash[:16]}.jpg"
        workspace.library.place_clip(clip, file, poster if poster.is_file() else None)
    for done, take in enumerate(takes, len(clips)):
        watch.report(done, total, "Bringing in the samples")
        workspace.library.add_take(take, _speech(data / "takes" / f"{take.id}.opus", take.sample_count))
    for key, content_hash in index["drawn"].items():
        workspace.shelf.keep_drawn(key, content_hash)
    KnownLengthStore(workspace.database).keep(
        {key: KnownSpeech(_pairs(each["words"]), _pairs(each["rests"]), each["end"])
         for key, each in index["known_lengths"].items()}
    )  # fmt: skip
    for project_id, revisions in index["projects"].items():  # the first one last: it is the newest
        if not workspace.projects.exists(project_id):
            _project(workspace, project_id, revisions)
    watch.report(total, total, "Bringing in the samples")
    return FIRST_ID


def _project(workspace: Workspace, project_id: str, revisions: Sequence[Mapping[str, Any]]) -> None:
    for number, revision in enumerate(revisions):
        project = Project.model_validate(revision["project"])
        if number == 0:
            workspace.projects.create(project, revision["label"], project_id)
        else:
            workspace.projects.commit(project_id, number, project, revision["label"])


def _speech(file: Path, samples: int) -> bytes:
    """The WAV of a take, as long as it was before it was packed."""
    sound = read_sound(file, channels=1)
    if sound is None:
        raise ValueError(f"{file.name} has no sound")
    mono = sound.reshape(-1)[:samples]
    return wav_bytes(np.pad(mono, (0, samples - len(mono))))


def _pairs(values: Sequence[Sequence[int]]) -> tuple[tuple[int, int], ...]:
    return tuple((first, last) for first, last in values)
