"""All engines of the application, and which one speaks for a voice."""

from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import Voice
from fox_cadence.voices.engine import Engine
from fox_cadence.voices.espeak import EspeakEngine
from fox_cadence.voices.neural_engine import NeuralEngine


class Engines:
    """Made once; each starts what it needs when it is first asked."""

    def __init__(self) -> None:
        self.espeak = EspeakEngine()
        self._by_name: dict[str, Engine] = {
            "espeak-ng": self.espeak,
            "hibari": NeuralEngine("hibari"),
            "piper": NeuralEngine("piper"),
        }

    def of(self, voice: Voice) -> Engine:
        """The engine that speaks for a voice.

        Raises:
            EngineError: this installation has none of that name.
        """
        engine = self._by_name.get(voice.engine)
        if engine is None:
            raise EngineError(
                f"{voice.name} needs the engine {voice.engine}, which is not here. Choose another voice in Cast."
            )
        return engine

    def close(self) -> None:
        for engine in self._by_name.values():
            engine.close()
