"""Sound in memory: resampling, loudness by ITU-R BS.1770 (libavfilter's ebur128), and WAV files.

Sound is float32 in -1..1 at 48 kHz: mono arrays have shape (samples,), stereo ones (samples, 2).
"""

import io
import itertools
import wave
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path
from typing import TYPE_CHECKING, TypeAlias

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.ticks import SAMPLE_RATE_HZ

if TYPE_CHECKING:
    import av

Sound: TypeAlias = NDArray[np.float32]

SILENT_LUFS = -70.0
METER = 2
"""The version of `measure_loudness`. The first one took the RMS level for most sounds: what it measured is
measured again where it is used."""

_BLOCK = 1 << 16
_METER_STEP = SAMPLE_RATE_HZ // 10
_GATING_BLOCK = 4 * _METER_STEP
"""The meter reports each 0.1 s, of gating blocks of 0.4 s (ITU-R BS.1770-4, annex 1)."""


@dataclass(frozen=True, slots=True)
class Loudness:
    """Integrated loudness in LUFS (-70 when silent) and true peak in dBTP."""

    integrated_lufs: float
    true_peak_db: float


def resample(sound: Sound, rate_hz: int, to_hz: int = SAMPLE_RATE_HZ) -> Sound:
    """Mono sound brought to another rate; the length is the exact ratio, rounded up."""
    import av

    if rate_hz == to_hz or len(sound) == 0:
        return sound
    wanted = -(-len(sound) * to_hz // rate_hz)
    resampler = av.AudioResampler(format="fltp", layout="mono", rate=to_hz)
    frame = av.AudioFrame.from_ndarray(np.ascontiguousarray(sound[np.newaxis]), format="fltp", layout="mono")
    frame.sample_rate = rate_hz
    parts = [part.to_ndarray()[0] for part in [*resampler.resample(frame), *resampler.resample(None)]]
    joined = np.concatenate(parts) if parts else np.zeros(0, np.float32)
    return np.pad(joined, (0, max(0, wanted - len(joined))))[:wanted].astype(np.float32)


def as_stereo(sound: Sound) -> Sound:
    return sound if sound.ndim == 2 else np.repeat(sound[:, np.newaxis], 2, axis=1)


def measure_loudness(sound: Sound, true_peak: bool = True) -> Loudness:
    """Integrated loudness and peak of mono or stereo sound, by ITU-R BS.1770.

    Args:
        sound: float32 at 48 kHz, shape (samples,) or (samples, 2).
        true_peak: without it the sample peak stands in for the true peak, which takes a third of the time.

    Returns:
        The loudness gated over whole blocks of 0.4 s, each 0.1 s after the last one, as the standard has it:
        what is
        left at the end after the last whole block is not counted. A sound under 0.4 s is measured as if it
        went on.
    """
    if len(sound) == 0 or not np.any(sound):
        return Loudness(SILENT_LUFS, SILENT_LUFS)
    whole = max(len(sound), _GATING_BLOCK)
    measured = np.resize(sound, (whole, *sound.shape[1:])) if len(sound) < whole else sound
    found = measure_blocks([measured], whole, true_peak)
    if true_peak:
        return found
    peak = float(np.max(np.abs(sound)))
    return Loudness(found.integrated_lufs, 20 * float(np.log10(max(peak, 1e-9))))


def measure_blocks(blocks: Iterable[Sound], samples: int, true_peak: bool = True) -> Loudness:
    """Integrated loudness and true peak of a sound of at least 0.4 s that comes block by block, by ITU-R
    BS.1770; `samples` is how many there are in all."""
    integrated, peak = SILENT_LUFS, 0.0
    for end_exclusive, report in _meter_reports(blocks, true_peak):
        peak = max(peak, float(report.get("lavfi.r128.true_peak", 0)))
        if end_exclusive <= samples:
            integrated = float(report.get("lavfi.r128.I", integrated))
    return Loudness(max(integrated, SILENT_LUFS), 20 * float(np.log10(max(peak, 1e-9))))


def _meter_reports(blocks: Iterable[Sound], true_peak: bool) -> Iterator[tuple[int, dict[str, str]]]:
    """What libavfilter's meter says of a sound: the sample up to which it has heard, and its metadata.

    It reports each 0.1 s. The frame it flushes at the end is shorter and carries nothing, so it tells nothing
    here.
    """
    import av

    following = iter(blocks)
    first = next(following, None)
    if first is None:
        return
    layout = "mono" if first.ndim == 1 else "stereo"
    # silence pushes the last samples through the meter's true peak; its reports of it are no measurement
    silence = np.zeros((_METER_STEP, *first.shape[1:]), np.float32)
    graph = av.filter.Graph()
    source = graph.add_abuffer(
        sample_rate=SAMPLE_RATE_HZ, format="flt", layout=layout, time_base=Fraction(1, SAMPLE_RATE_HZ)
    )
    meter = graph.add("ebur128", "metadata=1:peak=" + ("true" if true_peak else "none"))
    sink = graph.add("abuffersink")
    source.link_to(meter)
    meter.link_to(sink)
    graph.configure()
    heard = pushed = 0
    for block in itertools.chain([first], following, [silence]):
        for start in range(0, len(block), _BLOCK):
            part = block[start : start + _BLOCK]
            graph.push(_frame(part, layout, pushed))
            pushed += len(part)
            for frame in _pulled(graph):
                heard += frame.samples
                if "lavfi.r128.I" in (report := dict(frame.metadata)):
                    yield heard, report
    graph.push(None)
    for frame in _pulled(graph):
        heard += frame.samples
        if "lavfi.r128.I" in (report := dict(frame.metadata)):
            yield heard, report


def _pulled(graph: "av.filter.Graph") -> "Iterator[av.AudioFrame]":
    """What a graph gives out now."""
    import av

    while True:
        try:
            yield graph.pull()
        except (av.error.EOFError, av.error.BlockingIOError):
            return


def _frame(block: Sound, layout: str, start: int) -> "av.AudioFrame":
    import av

    packed = np.ascontiguousarray(block.reshape(1, -1))
    frame = av.AudioFrame.from_ndarray(packed, format="flt", layout=layout)
    frame.sample_rate = SAMPLE_RATE_HZ
    frame.pts = start
    return frame


def at_speed(sound: Sound, speed: float) -> Sound:
    """Stereo sound faster or slower at the pitch it has, by libavfilter's atempo.

    Args:
        speed: 0.25 to 4; the sound lasts its length divided by it, give or take what the filter holds back.
    """
    if len(sound) == 0:
        return sound
    # one filter goes down to half, and above twice it leaves samples out instead of blending them
    steps = 1 if 0.5 <= speed <= 2 else 2
    return _filtered(sound, [("atempo", f"{speed ** (1 / steps):.6f}")] * steps)


def _filtered(sound: Sound, filters: list[tuple[str, str]]) -> Sound:
    """Stereo sound through filters of libavfilter, as long as it comes out of them."""
    import av

    graph = av.filter.Graph()
    source = graph.add_abuffer(
        sample_rate=SAMPLE_RATE_HZ, format="flt", layout="stereo", time_base=Fraction(1, SAMPLE_RATE_HZ)
    )
    chain = [graph.add(name, settings) for name, settings in filters]
    chain += [graph.add("aformat", "sample_fmts=flt:channel_layouts=stereo"), graph.add("abuffersink")]
    source.link_to(chain[0])
    for here, following in itertools.pairwise(chain):
        here.link_to(following)
    graph.configure()
    for start in range(0, len(sound), _BLOCK):
        graph.push(_frame(sound[start : start + _BLOCK], "stereo", start))
    graph.push(None)
    parts: list[Sound] = []
    while True:
        try:
            parts.append(graph.pull().to_ndarray().reshape(-1, 2))
        except (av.error.EOFError, av.error.BlockingIOError):
            return np.concatenate(parts) if parts else sound[:0]


def to_pcm16(sound: Sound) -> bytes:
    """Little-endian 16 bit samples, rounded, clipped at full scale."""
    return np.clip(np.rint(sound.astype(np.float64) * 32767), -32768, 32767).astype("<i2").tobytes()


def wav_bytes(sound: Sound) -> bytes:
    """A WAV file of mono or stereo sound: 48 kHz, 16 bit."""
    buffer = io.BytesIO()
    with wave.open(buffer, "wb") as file:
        file.setnchannels(1 if sound.ndim == 1 else 2)
        file.setsampwidth(2)
        file.setframerate(SAMPLE_RATE_HZ)
        file.writeframes(to_pcm16(sound))
    return buffer.getvalue()


def read_wav(path: Path) -> Sound:
    """A WAV file that `wav_bytes` wrote."""
    with wave.open(str(path), "rb") as file:
        channels = file.getnchannels()
        data = np.frombuffer(file.readframes(file.getnframes()), dtype="<i2") / np.float32(32767)
    return (data if channels == 1 else data.reshape(-1, channels)).astype(np.float32)


def peaks(sound: Sound, per_second: int = 100) -> list[int]:
    """Loudest absolute value of each stretch of 1/per_second s, 0 to 255 against full scale."""
    mono = np.abs(sound) if sound.ndim == 1 else np.abs(sound).max(axis=1)
    step = SAMPLE_RATE_HZ // per_second
    padded = np.pad(mono, (0, -len(mono) % step))
    return [int(value) for value in np.minimum(255, padded.reshape(-1, step).max(axis=1) * 255).astype(int)]
