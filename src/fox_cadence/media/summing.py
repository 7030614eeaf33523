"""Whether sound files sum to another, sample for sample. Runs in the isolated process."""

from collections.abc import Iterator
from contextlib import ExitStack
from itertools import zip_longest
from pathlib import Path
from typing import Any

import av
import numpy as np
from numpy.typing import NDArray

from fox_cadence.media.isolated import Progress
from fox_cadence.media.picture import open_media

Samples = NDArray[np.int64]
_BLOCK = 1 << 16


def samples_apart(whole: Path, parts: list[Path], progress: Progress) -> int:
    """How many moments of a PCM file, in either of its channels, are not the sum of those of others.

    A moment that is in some of the files only counts as one that is not. The files are decoded by libav,
    which has had no part in writing them, as whole numbers of 32 bits.
    """
    apart = done = 0
    with ExitStack() as stack:
        streams = [_blocks(stack.enter_context(open_media(each))) for each in (whole, *parts)]
        for blocks in zip_longest(*streams, fillvalue=np.zeros((0, 2), np.int64)):
            longest = max(len(each) for each in blocks)
            common = min(len(each) for each in blocks)
            total = sum(each[:common] for each in blocks[1:])
            apart += longest - common + int(np.any(blocks[0][:common] != total, axis=1).sum())
            done += longest
            progress(done, 0)
    return apart


def _blocks(container: Any) -> Iterator[Samples]:
    """The sound of a file in blocks of the same length, [samples, channels]; the last is shorter."""
    held: list[Samples] = []
    count = 0
    resampler = av.AudioResampler(format="s32", layout="stereo")
    for frame in container.decode(audio=0):
        for made in resampler.resample(frame):
            held.append(made.to_ndarray().reshape(-1, 2).astype(np.int64))
            count += len(held[-1])
        while count >= _BLOCK:
            joined = np.concatenate(held)
            yield joined[:_BLOCK]
            held, count = [joined[_BLOCK:]], count - _BLOCK
    if count:
        yield np.concatenate(held)
