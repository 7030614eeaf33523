"""A loudness meter that is fed block by block: ITU-R BS.1770-4, and the loudness of three seconds of EBU Tech
3341 as a curve. Whatever the blocks, it says the same."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.scientific import part
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import SILENT_LUFS, Sound

STEP = SAMPLE_RATE_HZ // 10
"""Energies are kept of each tenth of a second."""
_GATING_STEPS = 4
_SHORT_STEPS = 30
_RELATIVE_LU = -10.0
_OFFSET = -0.691

# BS.1770-4, annex 1, tables 1 and 2: the head, then the high-pass, at 48 kHz
_K_WEIGHTING = np.array(
    [
        [1.53512485958697, -2.69169618940638, 1.19839281085285, 1.0, -1.69065929318241, 0.73248077421585],
        [1.0, -2.0, 1.0, 1.0, -1.99004745483398, 0.99007225036621],
    ]
)


def lufs(energy: float) -> float:
    """Loudness of a mean energy of both channels, weighted; silence is -70."""
    return max(SILENT_LUFS, _OFFSET + 10 * float(np.log10(max(energy, 1e-12))))


class Meter:
    """Feed it stereo blocks in their order; what it says is of all it was fed."""

    def __init__(self) -> None:
        self._state: NDArray[np.float64] | None = None
        self._rest: NDArray[np.float64] = np.zeros(0)
        self._energies: list[NDArray[np.float64]] = []

    def feed(self, block: Sound) -> None:
        """Take in stereo samples, shape (samples, 2)."""
        sosfilt = part("scipy.signal").sosfilt

        if len(block) == 0:
            return
        state: Any = np.zeros((2, 2, 2)) if self._state is None else self._state
        weighted, self._state = sosfilt(_K_WEIGHTING, block.astype(np.float64), axis=0, zi=state)
        squares = np.concatenate([self._rest, np.sum(weighted**2, axis=1)])
        whole = len(squares) // STEP * STEP
        self._energies.append(squares[:whole].reshape(-1, STEP).mean(axis=1))
        self._rest = squares[whole:]

    def energies(self) -> NDArray[np.float64]:
        """The weighted energy of each whole tenth of a second, both channels together."""
        return np.concatenate(self._energies) if self._energies else np.zeros(0)

    def integrated_lufs(self) -> float:
        """The loudness of all of it, gated as the standard has it; a sound under 0.4 s as if it went on."""
        energies = self.energies()
        if len(energies) < _GATING_STEPS:
            total = float(self._rest.sum() + energies.sum() * STEP)
            samples = len(self._rest) + len(energies) * STEP
            return lufs(total / samples) if samples else SILENT_LUFS
        return gated(_over(energies, _GATING_STEPS))

    def short_term_lufs(self) -> NDArray[np.float64]:
        """The loudness of the three seconds before the end of each tenth of a second; of what there is of
        them at the beginning."""
        energies = self.energies()
        if len(energies) == 0:
            return np.zeros(0)
        sums = np.concatenate([[0.0], np.cumsum(energies)])
        ends = np.arange(1, len(energies) + 1)
        starts = np.maximum(0, ends - _SHORT_STEPS)
        means = np.maximum((sums[ends] - sums[starts]) / (ends - starts), 1e-12)
        return np.asarray(np.maximum(SILENT_LUFS, _OFFSET + 10 * np.log10(means)))


def _over(energies: NDArray[np.float64], steps: int) -> NDArray[np.float64]:
    sums = np.concatenate([[0.0], np.cumsum(energies)])
    return np.asarray((sums[steps:] - sums[:-steps]) / steps)


def gated(blocks: NDArray[np.float64]) -> float:
    """The loudness of blocks of 0.4 s by their energies: without those under -70 LUFS, and then without those
    10 LU under the mean of the rest."""
    loud = blocks[blocks > 10 ** ((SILENT_LUFS - _OFFSET) / 10)]
    if len(loud) == 0:
        return SILENT_LUFS
    gate = 10 ** ((lufs(float(loud.mean())) + _RELATIVE_LU - _OFFSET) / 10)
    return lufs(float(loud[loud > gate].mean()))
