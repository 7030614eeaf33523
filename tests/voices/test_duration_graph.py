"""A model cut in two where it has settled lengths: a small one whose sound can be foreseen."""

from pathlib import Path
from typing import Any

import numpy as np
import onnx
import pytest
from onnx import TensorProto, helper

from fox_cadence.voices.duration_graph import DurationGraph, NoDurationsError


def model(path: Path, ceilings: int = 1) -> str:
    """Lengths are 1.2 times the ids, rounded up; the sound is each running total plus noise."""
    nodes = [helper.make_node("Mul", ["ids", "rate"], ["raw"])]
    lengths = "raw"
    for number in range(ceilings):
        nodes.append(helper.make_node("Ceil", [lengths], [f"lengths{number}"]))
        lengths = f"lengths{number}"
    nodes += [
        helper.make_node("CumSum", [lengths, "axis"], ["edges"]),
        helper.make_node("RandomNormalLike", ["edges"], ["random"]),
        helper.make_node("Add", ["edges", "random"], ["sound"]),
    ]
    graph = helper.make_graph(
        nodes,
        "small",
        [helper.make_tensor_value_info("ids", TensorProto.FLOAT, [1, None])],
        [helper.make_tensor_value_info("sound", TensorProto.FLOAT, [1, None])],
        [
            helper.make_tensor("rate", TensorProto.FLOAT, [1], [1.2]),
            helper.make_tensor("axis", TensorProto.INT64, [1], [1]),
        ],
    )
    made = helper.make_model(graph, opset_imports=[helper.make_opsetid("", 17)], ir_version=9)
    onnx.checker.check_model(made)
    onnx.save(made, path)
    return str(path)


IDS: dict[str, np.ndarray[Any, Any]] = {"ids": np.array([[1, 2, 5]], dtype=np.float32)}
QUIET: dict[str, np.ndarray[Any, Any]] = {"noise": np.zeros((1, 3), dtype=np.float32)}


def test_lengths_are_read_before_any_sound_is_made(tmp_path: Path) -> None:
    graph = DurationGraph(model(tmp_path / "small.onnx"), None, {"random": "noise"})
    assert graph.lengths(dict(IDS)).tolist() == [[2, 3, 6]]


def test_the_sound_follows_lengths_and_noise_from_outside(tmp_path: Path) -> None:
    graph = DurationGraph(model(tmp_path / "small.onnx"), None, {"random": "noise"})
    (sound,) = graph.sound(IDS | QUIET, np.array([[4, 4, 1]]))
    assert sound.tolist() == [[4, 8, 9]]
    noise: dict[str, np.ndarray[Any, Any]] = {"noise": np.array([[0.5, 0, -1]], dtype=np.float32)}
    (sound,) = graph.sound(IDS | noise, np.array([[4, 4, 1]]))
    assert sound.tolist() == [[4.5, 8, 8]]


def test_a_tensor_can_be_named_where_there_is_more_than_one_rounding_up(tmp_path: Path) -> None:
    path = model(tmp_path / "two.onnx", ceilings=2)
    with pytest.raises(NoDurationsError):
        DurationGraph(path, None, {"random": "noise"})
    with pytest.raises(NoDurationsError):
        DurationGraph(path, "nowhere", {"random": "noise"})
    graph = DurationGraph(path, "lengths1", {"random": "noise"})
    assert graph.lengths(dict(IDS)).tolist() == [[2, 3, 6]]
    assert graph.sound(IDS | QUIET, np.array([[1, 1, 1]]))[0].tolist() == [[1, 2, 3]]


def test_a_model_without_lengths_is_told_from_one_with_them(tmp_path: Path) -> None:
    with pytest.raises(NoDurationsError, match="how long its phonemes last"):
        DurationGraph(model(tmp_path / "none.onnx", ceilings=0), None, {})
