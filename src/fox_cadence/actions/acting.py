"""What a figure needs to know of how a take sounds."""

import threading
from collections.abc import Sequence

from cachetools import LRUCache

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.acting import PhonemesOf
from fox_cadence.core.figures.mouth import spread
from fox_cadence.core.project import Project
from fox_cadence.core.takes import PhonemeTime, Take
from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import phonemes_by, voice_by_id

_kept: LRUCache[tuple[str, str], tuple[PhonemeTime, ...]] = LRUCache(2_000)
_lock = threading.Lock()


def phonemes_of(workspace: Workspace, project: Project) -> PhonemesOf:
    """The phonemes of takes: their own, or, of a take made before those were kept, its words' spread over the
    time of each."""

    def found(take: Take) -> Sequence[PhonemeTime]:
        if take.phonemes:
            return take.phonemes
        voice = voice_by_id(take.voice_id)
        key = (take.key, voice.language if voice else project.language)
        with _lock:
            if key in _kept:
                return _kept[key]
        made = _spread(workspace, take, key[1])
        with _lock:
            _kept[key] = made
        return made

    return found


def _spread(workspace: Workspace, take: Take, language: str) -> tuple[PhonemeTime, ...]:
    by = phonemes_by(language)
    if by is None:
        return ()
    try:
        told = workspace.engines.espeak.phonemes([word.text for word in take.words], by)
    except EngineError:
        return ()  # the mouth stays as it is rather than the video unmade
    sounds = [[sign for clause in clauses for sign in clause.split("_")] for clauses in told]
    return spread([(word.start_sample, word.end_sample) for word in take.words], sounds)
