"""Sound files in and out: every format a recorder makes is read, every format we write comes back."""

from pathlib import Path

import av
import numpy as np
import pytest

from fox_cadence.core.docket.rows import SoundFile
from fox_cadence.errors import InputError
from fox_cadence.media.audio import wav_bytes
from fox_cadence.media.isolated import no_progress
from fox_cadence.media.recordings import LONGEST_RECORDING_S, read_recording
from fox_cadence.media.sound_files import encode_all

RATE = 48_000
TONE = (np.sin(np.arange(RATE) * 2 * np.pi * 440 / RATE) * 0.3).astype(np.float32)


def written(path: Path, codec: str, rate: int, layout: str) -> Path:
    """A second of a tone as a recorder would write it."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream(codec, rate=rate, layout=layout)
        count = 2 if layout == "stereo" else 1
        samples = (np.sin(np.arange(rate) * 2 * np.pi * 440 / rate) * 0.3).astype(np.float32)
        block = np.ascontiguousarray(np.repeat(samples, count)[np.newaxis])
        frame = av.AudioFrame.from_ndarray(block, format="flt", layout=layout)
        frame.sample_rate = rate
        resampler = av.AudioResampler(
            format=stream.format, layout=layout, rate=rate, frame_size=stream.frame_size or 1024
        )
        for part in (*resampler.resample(frame), *resampler.resample(None)):
            container.mux(stream.encode(part))
        container.mux(stream.encode(None))
    return path


@pytest.mark.parametrize(
    ("name", "codec", "rate", "layout"),
    [
        ("a.wav", "pcm_s16le", 44_100, "stereo"),
        ("a.flac", "flac", 48_000, "mono"),
        ("a.mp3", "libmp3lame", 44_100, "mono"),
        ("a.m4a", "aac", 48_000, "stereo"),
        ("a.opus", "libopus", 48_000, "mono"),
        ("a.webm", "libopus", 48_000, "mono"),
        ("low.wav", "pcm_s16le", 8_000, "mono"),
    ],
)
def test_every_format_is_read_as_mono(tmp_path: Path, name: str, codec: str, rate: int, layout: str) -> None:
    sound = read_recording(written(tmp_path / name, codec, rate, layout), no_progress)
    assert sound.ndim == 1
    assert len(sound) == pytest.approx(RATE, abs=5000)
    middle = sound[10_000:38_000]
    assert 0.15 < float(np.max(np.abs(middle))) < 0.5
    spectrum = np.abs(np.fft.rfft(middle))
    assert np.argmax(spectrum) * RATE / len(middle) == pytest.approx(440, abs=5)


@pytest.mark.parametrize(
    ("data", "why"),
    [
        (b"not a sound at all, whatever its name", "."),
        (b"#EXTM3U\n#EXTINF:1,\nfile:///etc/passwd\n", "."),
        (b"ffconcat version 1.0\nfile /etc/passwd\n", "."),
        (wav_bytes(np.zeros(RATE, np.float32)), "microphone"),
    ],
)
def test_what_is_no_recording_is_refused(tmp_path: Path, data: bytes, why: str) -> None:
    path = tmp_path / "a.wav"
    path.write_bytes(data)
    with pytest.raises(InputError, match=why):
        read_recording(path, no_progress)


def test_a_recording_without_end_is_refused_before_it_is_decoded(tmp_path: Path) -> None:
    path = tmp_path / "long.wav"
    path.write_bytes(wav_bytes(np.zeros((LONGEST_RECORDING_S + 5) * RATE, np.float32)))
    with pytest.raises(InputError, match="minutes"):
        read_recording(path, no_progress)


def test_flac_comes_back_to_the_bit_and_mp3_nearly(tmp_path: Path) -> None:
    kinds: tuple[tuple[SoundFile, float], ...] = (("flac", 1 / 32767), ("mp3", 0.08))
    for kind, off in kinds:
        path = tmp_path / f"a.{kind}"
        path.write_bytes(encode_all([TONE], kind, no_progress)[0])
        sound = read_recording(path, no_progress)
        if kind == "flac":
            assert len(sound) == len(TONE)
            assert float(np.abs(sound - TONE).max()) <= off
        else:
            assert abs(float(np.max(np.abs(sound[5000:40_000]))) - 0.3) < off


def test_several_are_encoded_as_each_would_be() -> None:
    assert encode_all([TONE, TONE[:9000]], "flac", no_progress) == [
        *encode_all([TONE], "flac", no_progress),
        *encode_all([TONE[:9000]], "flac", no_progress),
    ]
