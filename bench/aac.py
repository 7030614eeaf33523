"""The two coders of libav's AAC on the mix of the sample: their time, and how far their noise stays under the
sound, by octaves."""

import io
import itertools
import tempfile
import time
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from numpy.typing import NDArray

from fox_cadence.actions.mixing import mix
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.demo.samples import ensure_samples
from fox_cadence.media.audio import Sound

WAYS = {"twoloop": {"aac_coder": "twoloop"}, "fast": {"aac_coder": "fast"}}
RATES = (96_000, 128_000, 160_000, 192_000)
OCTAVES_HZ = (125, 250, 500, 1000, 2000, 4000, 8000, 16000)
_BLOCK, _WINDOW = 1024, 2048
_HEARD = 1e-3
"""Windows with less of the energy of the loudest one are left out."""


def coded(sound: Sound, options: dict[str, str], bit_rate: int) -> tuple[Sound, float, int]:
    """A sound coded and decoded again, the CPU seconds of coding, and its bits a second."""
    file, began = io.BytesIO(), time.process_time()
    with av.open(file, "w", format="mp4") as output:
        stream = output.add_stream("aac", rate=SAMPLE_RATE_HZ)
        stream.layout, stream.bit_rate, stream.options = "stereo", bit_rate, options
        for start in range(0, len(sound), _BLOCK):
            block = np.ascontiguousarray(sound[start : start + _BLOCK].T, np.float32)
            frame = av.AudioFrame.from_ndarray(block, format="fltp", layout="stereo")
            frame.sample_rate, frame.pts, frame.time_base = SAMPLE_RATE_HZ, start, Fraction(1, SAMPLE_RATE_HZ)
            output.mux(stream.encode(frame))
        output.mux(stream.encode(None))
    spent, size = time.process_time() - began, len(file.getbuffer())
    file.seek(0)
    with av.open(file) as opened:
        decoded = np.concatenate([frame.to_ndarray().T for frame in opened.decode(audio=0)])
    return decoded[: len(sound)], spent, round(size * 8 * SAMPLE_RATE_HZ / len(sound))


def energies(sound: Sound) -> NDArray[np.float64]:
    """The energy of each window of the first channel in each octave, shape (windows, octaves)."""
    whole = len(sound) // _WINDOW * _WINDOW
    windows = sound[:whole, 0].reshape(-1, _WINDOW) * np.hanning(_WINDOW)
    power = np.abs(np.fft.rfft(windows)) ** 2
    edges = [round(hz * 2**0.5 * _WINDOW / SAMPLE_RATE_HZ) for hz in (OCTAVES_HZ[0] / 2, *OCTAVES_HZ)]
    return np.stack([power[:, a:b].sum(axis=1) for a, b in itertools.pairwise(edges)], axis=1)


def rows() -> list[str]:
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder)) as workspace:
        project_id = ensure_samples(workspace)
        voice_lines(workspace, project_id)
        sound = np.concatenate(
            list(mix(workspace, workspace.timeline(workspace.head(project_id).project)).blocks())
        )
    there = energies(sound)
    heard = there.sum(axis=1) > _HEARD * there.sum(axis=1).max()
    octaves = " | ".join(f"{hz:,}" for hz in OCTAVES_HZ)
    table = [
        "Noise under the sound, dB, the median of windows of 43 ms, by octaves (Hz):",
        "",
        f"| coder | kb/s | CPU s | {octaves} |",
        f"| --- | --- | --- |{' --- |' * len(OCTAVES_HZ)}",
    ]
    for bit_rate in RATES:
        for name, options in WAYS.items():
            decoded, spent, bits = coded(sound, options, bit_rate)
            noise = np.maximum(energies(sound[: len(decoded)] - decoded), 1e-12)
            count = min(len(noise), len(there))
            under = 10 * np.log10(there[:count] / noise[:count])[heard[:count]]
            each = " | ".join(f"{value:.1f}" for value in np.median(under, axis=0))
            table.append(f"| {name} | {bits / 1000:.0f} | {spent:.1f} | {each} |")
    return table
