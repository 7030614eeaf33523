"""Takes of the voices, made once and kept between runs under what makes them.

What tests of `voices` look into is made each time; all others only need the take.
"""

import hashlib
import os
import pickle
import secrets
from pathlib import Path

from fox_cadence.core.takes import Take, VoicingRequest
from fox_cadence.media.audio import Sound
from fox_cadence.voices import making
from fox_cadence.voices.engine import Engine
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice
from tests.made_by import SRC, digest_of

FOLDER = Path(__file__).resolve().parent.parent / "build" / "takes-for-tests"
_MAKERS = ("voices.making", "voices.neural_worker", "voices.espeak_worker")


def keep_takes() -> None:
    """From here on takes are looked for among those that were kept, in this process."""
    folder = FOLDER / digest_of(
        (f"fox_cadence.{name}" for name in _MAKERS), [SRC / "fox_cadence/voices/data"]
    )
    folder.mkdir(parents=True, exist_ok=True)

    def kept(engine: Engine, voice: Voice, request: VoicingRequest) -> tuple[Take, Sound]:
        asked = hashlib.sha256(f"{voice.model_dump_json()} {request.key}".encode()).hexdigest()
        file = folder / asked[:24]
        if file.is_file():
            found: tuple[Take, Sound] = pickle.loads(file.read_bytes())
            return found
        made = make_take(engine, voice, request)
        new = file.with_suffix(f".{secrets.token_hex(4)}")
        new.write_bytes(pickle.dumps(made, protocol=5))
        os.replace(new, file)
        return made

    setattr(making, "make_take", kept)  # noqa: B010 - a seam only tests use
