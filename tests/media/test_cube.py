"""Tables of colours from .cube files, whole and broken."""

import numpy as np
import pytest

from fox_cadence.core.adjustment import identity
from fox_cadence.core.looks import LOOKS
from fox_cadence.errors import InputError
from fox_cadence.media.cube import read_cube


def written(table: np.ndarray, extra: str = "") -> bytes:
    """Red changes fastest."""
    size = table.shape[0]
    rows = table.transpose(2, 1, 0, 3).reshape(-1, 3)
    lines = [f"{red:.6f} {green:.6f} {blue:.6f}" for red, green, blue in rows]
    return (
        f'TITLE "Rock pool"\n# made here\n{extra}LUT_3D_SIZE {size}\n\n'.encode() + "\n".join(lines).encode()
    )


def test_a_table_comes_back_as_it_was_written() -> None:
    table = LOOKS[2].table()
    assert np.abs(read_cube(written(table)) - table).max() < 1e-5


@pytest.mark.parametrize("size", [2, 17, 64])
def test_a_table_of_another_size_is_brought_to_ours(size: int) -> None:
    assert np.abs(read_cube(written(identity(size))) - identity()).max() < 1e-5


def test_curves_and_another_domain_are_read() -> None:
    curve = b"LUT_1D_SIZE 3\n0 0 0\n0.25 0.5 0.75\n1 1 1\n"
    made = read_cube(curve)
    assert made[16, 16, 16] == pytest.approx([0.25, 0.5, 0.75], abs=1e-6)
    wide = read_cube(written(identity(5), "DOMAIN_MIN 0 0 0\nDOMAIN_MAX 2 2 2\n"))
    assert wide[32, 32, 32] == pytest.approx([0.5, 0.5, 0.5], abs=1e-5)


@pytest.mark.parametrize(
    ("data", "word"),
    [
        (b"LUT_3D_SIZE 3\n0 0 0\n1 1 1\n", "needs 27"),
        (b"0 0 0\n1 1 1\n", "LUT_3D_SIZE"),
        (b"LUT_3D_SIZE 2\nLUT_1D_SIZE 2\n0 0 0\n1 1 1\n", "once"),
        (b"LUT_3D_SIZE 900\n", "line 1"),
        (b"LUT_3D_SIZE two\n", "line 1"),
        (b"LUT_3D_SIZE 2\n0 0 zero\n", "line 2"),
        (b"LUT_3D_SIZE 2\n0 0\n", "line 2"),
        (b"LUT_3D_SIZE 2\nnan 0 0\n", "line 2"),
        (b"LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\nDOMAIN_MAX 0 0 0\n0 0 0\n1 1 1\n", "DOMAIN"),
        (b"LUT_1D_INPUT_RANGE  \n", "line 1"),
        (b"LUT_1D_INPUT_RANGE 0\n", "two ends"),
        (b"once upon a time\n", "line 1"),
        (b"\x00\x01\x02\x00", "no text"),
        (b"", "LUT_3D_SIZE"),
    ],
)
def test_what_is_wrong_is_said_with_its_line(data: bytes, word: str) -> None:
    with pytest.raises(InputError, match=word):
        read_cube(data)
