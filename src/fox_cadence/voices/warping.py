"""A known reading warped onto a recording of the same words, to find the words in it: for any language.

Mel cepstra of both (Davis and Mermelstein, IEEE Transactions on Acoustics, Speech and Signal Processing,
1980) are matched by dynamic time warping (Sakoe and Chiba, same transactions, 1978), within a band around the
straight way.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.scientific import part
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import resample
from fox_cadence.voices.speech_shape import Mono

HOP = 480
"""10 ms at 48 kHz."""

_RATE, _STEP, _WINDOW, _BANDS, _KEPT = 16_000, 160, 400, 26, 13
_BAND = 0.20
_LEAST_BAND = 150
LONGEST_FRAMES = 12_000
"""Two minutes: what a table of costs may take of memory."""

Floats = NDArray[np.float32]


def cepstra(sound: Mono) -> Floats:
    """Frames of 10 ms by 13 coefficients, each with mean 0 and deviation 1."""
    dct = part("scipy.fft").dct

    down = resample(sound, SAMPLE_RATE_HZ, _RATE).astype(np.float64)
    count = max(1, (len(down) - _WINDOW) // _STEP + 1)
    padded = np.pad(down, (0, max(0, _WINDOW + (count - 1) * _STEP - len(down))))
    frames = np.lib.stride_tricks.sliding_window_view(padded, _WINDOW)[::_STEP][:count]
    power = np.abs(np.fft.rfft(frames * np.hamming(_WINDOW), 512)) ** 2
    logs = np.log(power @ _mel_bands().T + 1e-8)
    found = dct(logs, type=2, norm="ortho", axis=1)[:, :_KEPT]
    return np.asarray((found - found.mean(axis=0)) / (found.std(axis=0) + 1e-6), dtype=np.float32)


def _mel_bands() -> NDArray[np.float64]:
    hertz = np.linspace(0, _RATE / 2, 257)
    low, high = 2595 * np.log10(1 + np.array([80, 7600]) / 700)
    edges = 700 * (10 ** (np.linspace(low, high, _BANDS + 2) / 2595) - 1)
    rising = (hertz - edges[:-2, None]) / (edges[1:-1] - edges[:-2])[:, None]
    falling = (edges[2:, None] - hertz) / (edges[2:] - edges[1:-1])[:, None]
    return np.maximum(0, np.minimum(rising, falling))


def warped(reading: Mono, recording: Mono, samples: Sequence[int]) -> list[int]:
    """Where moments of a reading lie in a recording of the same words.

    Raises:
        ValueError: one of the two is longer than `LONGEST_FRAMES`.
    """
    one, other = cepstra(reading), cepstra(recording)
    if max(len(one), len(other)) > LONGEST_FRAMES:
        raise ValueError("too long to be warped")
    rows, columns = np.array(_path(one, other)).T
    # where one frame lasts for many of the recording, its moment is the first of them: else a border would
    # lie anywhere among them
    rows, first = np.unique(rows, return_index=True)
    columns = columns[first]
    at = np.asarray(samples, dtype=np.float64) / HOP
    return [round(float(place) * HOP) for place in np.interp(at, rows, columns)]


def _path(one: Floats, other: Floats) -> list[tuple[int, int]]:
    """The cheapest way through all pairs of frames, in order; one frame may last many of the other."""
    rows, columns = len(one), len(other)
    reach = max(_LEAST_BAND, round(_BAND * max(rows, columns)))
    steps = np.zeros((rows, columns), np.int8)
    before = np.full(columns, np.inf)
    for row in range(rows):
        middle = row * columns // rows
        low, high = max(0, middle - reach), min(columns, middle + reach + 1)
        distance = np.sqrt(np.sum((other[low:high] - one[row]) ** 2, axis=1, dtype=np.float64))
        down = before[low:high]
        across = np.concatenate(
            [[before[low - 1] if low else (0.0 if row == 0 else np.inf)], before[low : high - 1]]
        )
        best = np.minimum(down, across)
        steps[row, low:high] = np.where(across <= down, 1, 2)  # 1: both move on, 2: only this one
        sums = np.cumsum(distance)
        entered = best + distance - sums  # moving only across costs what is passed: a running minimum
        running = np.minimum.accumulate(entered)
        steps[row, low:high][running < entered] = 3
        now = np.full(columns, np.inf)
        now[low:high] = running + sums
        before = now
    row, column = rows - 1, columns - 1
    path = [(row, column)]
    while row or column:
        step = steps[row, column]
        if step == 1 and row and column:
            row, column = row - 1, column - 1
        elif (step == 2 and row) or not column:
            row -= 1
        else:
            column -= 1
        path.append((row, column))
    return path[::-1]
