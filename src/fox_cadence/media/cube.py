"""Tables of colours as .cube files: a line of text for each point, red changing fastest."""

import math
import re

import numpy as np

from fox_cadence.core.adjustment import POINTS, Table, identity, through
from fox_cadence.errors import InputError

LARGEST_BYTES = 16 << 20
_MOST_POINTS = 65
_WORDS = re.compile(r"(?P<word>[A-Z][A-Z0-9_]*)\s+(?P<rest>.*)")


def read_cube(data: bytes) -> Table:
    """The table of a file, with as many points a side as it has, from 2 to 65; a file with one curve for each
    of red, green and blue is made one of three.

    Raises:
        InputError: it is none; says which line and why.
    """
    if len(data) > LARGEST_BYTES:
        raise InputError(
            f"it has {len(data) >> 20} MB; a table of colours has {LARGEST_BYTES >> 20} at the most"
        )
    if b"\0" in data[:4096]:
        raise InputError("it is no text; a .cube file is written in letters and numbers")
    sizes: dict[str, int] = {}
    low, high = np.zeros(3, np.float32), np.ones(3, np.float32)
    rows: list[tuple[float, float, float]] = []
    for number, raw in enumerate(data.decode("utf-8", "replace").splitlines(), 1):
        line = raw.strip().lstrip("\ufeff")
        if not line or line.startswith("#"):
            continue
        words = _WORDS.fullmatch(line)
        if words is None:
            rows.append(_three(line, number))
            continue
        match words["word"]:
            case "LUT_3D_SIZE" | "LUT_1D_SIZE" as kind:
                sizes[kind] = _size(words["rest"], kind, number)
            case "DOMAIN_MIN":
                low = np.array(_three(words["rest"], number), np.float32)
            case "DOMAIN_MAX":
                high = np.array(_three(words["rest"], number), np.float32)
            case "LUT_3D_INPUT_RANGE" | "LUT_1D_INPUT_RANGE":
                ends = words["rest"].split()
                if len(ends) != 2:
                    raise InputError(f"line {number}: “{line[:40]}” has no two ends")
                low, high = (np.full(3, _number(end, number), np.float32) for end in ends)
            case _:
                pass  # a title, or what says nothing of the colours
    if len(sizes) != 1:
        raise InputError("it does not say once how many points it has (LUT_3D_SIZE or LUT_1D_SIZE)")
    if (high <= low).any():
        raise InputError("its colours end where they begin (DOMAIN_MIN and DOMAIN_MAX)")
    (kind, size), values = next(iter(sizes.items())), np.array(rows, np.float32).reshape(-1, 3)
    needed = size**3 if kind == "LUT_3D_SIZE" else size
    if len(values) != needed:
        raise InputError(f"it has {len(values):,} colours; a table of {size} points needs {needed:,}")
    asked = (identity() - low) / (high - low)
    if kind == "LUT_1D_SIZE":
        steps = np.linspace(0, 1, size)
        curves = [np.interp(asked[..., axis], steps, values[:, axis]) for axis in range(3)]
        return np.clip(np.stack(curves, axis=-1), 0, 1).astype(np.float32)
    table = np.clip(values, 0, 1).reshape(size, size, size, 3).transpose(2, 1, 0, 3)  # red is written fastest
    if size == POINTS and not low.any() and (high == 1).all():
        return np.ascontiguousarray(table)
    return through(np.ascontiguousarray(table), asked.astype(np.float32))


def _three(text: str, number: int) -> tuple[float, float, float]:
    parts = text.split()
    if len(parts) != 3:
        raise InputError(f"line {number}: “{text[:40]}” is not three numbers")
    red, green, blue = (_number(part, number) for part in parts)
    return red, green, blue


def _number(text: str, number: int) -> float:
    try:
        value = float(text)
    except ValueError:
        value = math.nan
    if not math.isfinite(value):
        raise InputError(f"line {number}: “{text[:40]}” is not a number")
    return value


def _size(text: str, kind: str, number: int) -> int:
    most = _MOST_POINTS if kind == "LUT_3D_SIZE" else 4096
    if not text.strip().isdigit() or not 2 <= int(text) <= most:
        raise InputError(f"line {number}: {text[:20]} points; from 2 to {most} can be read")
    return int(text)
