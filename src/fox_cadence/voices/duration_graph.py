"""A neural voice cut in two where it has settled how long each phoneme lasts, so that those lengths can be
set.

These voices work out whole numbers of steps for each phoneme before any sound. Asked for another speed they
round each one, which moves the length of a line in jumps; here the numbers are read, brought to a wanted
total, and fed back.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType

import numpy as np
import onnx
import onnxruntime
from numpy.typing import NDArray
from onnx.utils import Extractor

Steps = NDArray[np.int64]
Inputs = dict[str, NDArray[np.generic]]

_SILENT_LOG = 3
_MOST_ROUNDS = 12


class NoDurationsError(ValueError):
    """The model has no place where it can be cut."""


@dataclass(frozen=True)
class _Place:
    """The tensor that holds the lengths, and its type: floats, unless it is cast to something else."""

    tensor: str
    kind: int


@dataclass(frozen=True)
class Halves:
    """A model that was cut: phonemes to lengths, and phonemes with lengths to sound, each as ONNX; the tensor
    of the lengths and its type."""

    lengths: bytes
    sound: bytes
    tensor: str
    kind: int


NO_NOISES: Mapping[str, str] = MappingProxyType({})


class DurationGraph:
    """A model as two: phonemes to lengths, and phonemes with lengths to sound.

    Args:
        source: an ONNX file.
        tensor: the name of the lengths; None finds the only rounding up in the model, as Piper's voices have
            it.
        noises: random tensors that become inputs, by the name they then have; the same input gives the same
            sound.

    Raises:
        NoDurationsError: there is no such tensor.
    """

    def __init__(self, source: str, tensor: str | None = None, noises: Mapping[str, str] = NO_NOISES) -> None:
        # a model opens no other file
        halves = halves_of(onnx.load(source, load_external_data=False), tensor, noises)
        self._tensor = halves.tensor
        self._dtype = np.float32 if halves.kind == onnx.TensorProto.FLOAT else np.int64
        self._lengths, self._sound = session(halves.lengths), session(halves.sound)

    def lengths(self, inputs: Inputs) -> Steps:
        """Steps of each phoneme, in the model's own shape; flat they are in the order of the phonemes."""
        return np.rint(run(self._lengths, inputs)[0]).astype(np.int64)

    def sound(self, inputs: Inputs, steps: Steps) -> list[NDArray[np.float32]]:
        """All outputs of the model for these lengths, which have the shape that `lengths` gave."""
        return run(self._sound, {**inputs, self._tensor: steps.astype(self._dtype)})


def halves_of(
    model: onnx.ModelProto,
    tensor: str | None,
    noises: Mapping[str, str] = NO_NOISES,
    exact: str | None = None,
) -> Halves:
    """Cut a model in two; its first half gives its lengths, and those before they are rounded where `exact`
    names them.

    Raises:
        NoDurationsError: there is no such tensor.
    """
    place = _place_of(model, tensor)
    wanted = [place.tensor] if exact is None else [place.tensor, exact]
    # the extractor asks for their types
    known = {each.name for each in model.graph.value_info}
    for name in wanted:
        if name not in known:
            model.graph.value_info.append(onnx.helper.make_tensor_value_info(name, place.kind, None))
    lengths = Extractor(model).extract_model([each.name for each in model.graph.input], wanted)
    sound = _cut(model, place, noises)
    return Halves(lengths.SerializeToString(), sound.SerializeToString(), place.tensor, place.kind)


def _place_of(model: onnx.ModelProto, tensor: str | None) -> _Place:
    made = [
        node
        for node in model.graph.node
        if (node.op_type == "Ceil" if tensor is None else tensor in node.output)
    ]
    if len(made) != 1:
        raise NoDurationsError("this model does not show how long its phonemes last")
    kind = next(
        (attribute.i for attribute in made[0].attribute if attribute.name == "to"), onnx.TensorProto.FLOAT
    )
    return _Place(tensor or made[0].output[0], kind)


def _cut(model: onnx.ModelProto, place: _Place, noises: Mapping[str, str]) -> onnx.ModelProto:
    """The model with its lengths, and its noises, given from outside."""
    given = {place.tensor, *noises}
    kept = [node for node in model.graph.node if not given & set(node.output)]
    cut = onnx.ModelProto()
    cut.CopyFrom(model)
    del cut.graph.node[:]
    for node in kept:
        copy = onnx.NodeProto()
        copy.CopyFrom(node)
        for number, name in enumerate(copy.input):
            copy.input[number] = noises.get(name, name)
        cut.graph.node.append(copy)
    cut.graph.input.append(onnx.helper.make_tensor_value_info(place.tensor, place.kind, None))
    for name in noises.values():
        cut.graph.input.append(onnx.helper.make_tensor_value_info(name, onnx.TensorProto.FLOAT, None))
    return cut


def session(model: bytes | str) -> onnxruntime.InferenceSession:
    """A model ready to run, from its bytes or its file."""
    options = onnxruntime.SessionOptions()
    options.log_severity_level = _SILENT_LOG
    options.intra_op_num_threads = options.inter_op_num_threads = 1  # repeatable, and the page keeps a core
    return onnxruntime.InferenceSession(model, options, providers=["CPUExecutionProvider"])


def run(model: onnxruntime.InferenceSession, inputs: Inputs) -> list[NDArray[np.float32]]:
    """All outputs of a model; inputs it does not have are left out."""
    known = {each.name for each in model.get_inputs()}
    found = model.run(None, {name: value for name, value in inputs.items() if name in known})
    return [np.asarray(each, dtype=np.float32) for each in found]


def brought_to(steps: Steps, factor: float) -> Steps:
    """Steps made `factor` times as long, each running total rounded: what is lost by one is made up by the
    next.

    A phoneme that has a step keeps one at least; the others give for it, as long as they have something to
    give.
    """
    wanted = max(round(float(steps.sum()) * factor), int(np.count_nonzero(steps)))
    made, scale = _scaled(steps, factor), factor
    for _ in range(_MOST_ROUNDS):
        if abs(int(made.sum()) - wanted) <= 1:
            break
        scale *= wanted / int(made.sum())
        made = _scaled(steps, scale)
    return made


def _scaled(steps: Steps, factor: float) -> Steps:
    edges = np.rint(np.cumsum(steps) * factor).astype(np.int64)
    scaled = np.diff(edges, prepend=0).reshape(steps.shape)
    return np.where(steps > 0, np.maximum(scaled, 1), 0)
