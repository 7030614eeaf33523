"""Making a take from nothing but plain values, so that it can be done wherever there is room for it."""

import logging
import time
from dataclasses import dataclass

from fox_cadence.core.takes import Take, VoicingRequest
from fox_cadence.errors import EngineError, FoxError
from fox_cadence.media.audio import Sound
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice

_log = logging.getLogger(__name__)


@dataclass(frozen=True, slots=True)
class MadeTake:
    """A new take, its `sound_hash` and `id` still empty, with its sound and the seconds it took to make."""

    take: Take
    sound: Sound
    seconds: float


def make(engines: Engines, voice: Voice, request: VoicingRequest) -> MadeTake:
    """Voice a request. One line's trouble is that line's: it must not end the voicing of the others.

    Raises:
        EngineError: the engine failed, or there was nothing to say.
    """
    began = time.monotonic()
    try:
        take, sound = make_take(engines.of(voice), voice, request)
    except FoxError:
        raise
    except Exception as error:
        _log.exception("voice %s failed on %r", voice.id, request.text)
        raise EngineError(
            f"{voice.name} can't say this line ({type(error).__name__}). Give it to another voice, or "
            "change its words."
        ) from error
    return MadeTake(take, sound, time.monotonic() - began)
