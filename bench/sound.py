"""Sound: a mix of ten minutes, parts of it at once, beats, ducking for words, cleaning, another throat."""

import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path

import numpy as np

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.mix import BedPart, MixPlan, Run, SpeechPart, duck_points
from fox_cadence.core.sound.cleaning import Cleaning
from fox_cadence.core.treatment import SHIPPED, Treatment
from fox_cadence.demo.samples import ensure_samples
from fox_cadence.media.audio import Sound, measure_loudness, read_wav, wav_bytes
from fox_cadence.media.beats import find_beats
from fox_cadence.media.cleaning import cleaned
from fox_cadence.media.key import key_of
from fox_cadence.media.mixdown import mix_down, part_at_once
from fox_cadence.media.mixing import Loaders, Mixer
from fox_cadence.media.sound_reader import WavFile
from fox_cadence.media.treating import treat
from fox_cadence.media.understanding import lowered, needed_db, understood
from fox_cadence.played.beds import PIECES
from fox_cadence.played.score import Piece, play

RATE = 48_000
MINUTES = 10
TAKES = 4


def rows() -> list[str]:
    """Table rows: what was measured, and how it went."""
    with tempfile.TemporaryDirectory() as folder:
        takes = _takes(Path(folder))
        found = _mixed(Path(folder), takes)
        found += _beats()
        found += _keys()
        found += _ducked(takes)
        found += _cleaned(takes)
        found += _treated(takes)
    return found


def _takes(folder: Path) -> list[Sound]:
    with Workspace(folder / "data") as workspace:
        project = workspace.head(ensure_samples(workspace)).project
        takes = workspace.takes_of(project)
        kept = [takes[line.take_id] for line in project.lines if line.take_id in takes]
        return [read_wav(workspace.library.take_sound(take.sound_hash)) for take in kept[:TAKES]]


# the mix


def _mixed(folder: Path, takes: list[Sound]) -> list[str]:
    """In a process of its own, so that its memory is its own."""
    (folder / "take.wav").write_bytes(wav_bytes(takes[0]))
    (folder / "bed.wav").write_bytes(wav_bytes(play(PIECES[0]).astype(np.float32)))
    code = f"from bench.sound import mix_here; mix_here({str(folder)!r})"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    return done.stdout.splitlines()


def mix_here(folder: str) -> None:
    """Mix ten minutes, and print how it went."""
    take, bed = read_wav(Path(folder) / "take.wav"), WavFile(Path(folder) / "bed.wav")
    mixer = Mixer(_plan(take, bed.count), Loaders(lambda _: take, lambda _: bed))
    mixer.whole(0, RATE)  # libraries are loaded by now
    Path("/proc/self/clear_refs").write_text("5")  # from now on the most it has had at once is counted
    before = _most_mb()
    start = time.process_time()
    made = mix_down(mixer, Path(folder))
    spent = time.process_time() - start
    most = _most_mb()
    _row(
        f"a mix of {MINUTES} minutes, times real time per CPU-second",
        f"{MINUTES * 60 / spent:.0f}",
        "25 or more",
    )
    _row(f"its memory, MB (before it began: {before:.0f})", f"{most:.0f}", "under 500")
    measured = made.loudness()
    off = measured.integrated_lufs + 14
    _row("its loudness against -14 LUFS, by libavfilter's meter", f"{off:+.2f} LU", "0.2")
    _row("its true peak, by the same", f"{measured.true_peak_db:.2f} dBTP", "under -1")
    parts = []
    for second in range(10, 300, 29):
        start = time.perf_counter()
        part_at_once(mixer, second * RATE, 6 * RATE, made.gain_db)
        parts.append(time.perf_counter() - start)
    _row(
        "six seconds of it at once", f"{statistics.median(parts) * 1000:.0f} ms", "300 ms with all around it"
    )


def _most_mb() -> float:
    """The most memory this process has had at once."""
    line = next(each for each in Path("/proc/self/status").read_text().splitlines() if "VmHWM" in each)
    return int(line.split()[1]) / 1024


def _row(*cells: str) -> None:
    print(f"| {' | '.join(cells)} |")


def _plan(take: Sound, bed_samples: int) -> MixPlan:
    total = MINUTES * 60 * RATE
    every = len(take) + RATE
    starts = range(0, total - every, every)
    gain = -18 - measure_loudness(take).integrated_lufs
    speech = tuple(SpeechPart("take", start, gain) for start in starts)
    duck = duck_points([(start, start + len(take)) for start in starts], 9.0)
    runs = tuple(Run(at, 0, bed_samples) for at in range(0, total, bed_samples))
    return MixPlan(total, speech, (), (BedPart("b1", "bed", 0, total, -8.0, 24_000, 72_000, duck, (), runs),))


# beats


def _beats() -> list[str]:
    beats, bars, speeds, worst = [], [], [], ("", 1.0)
    for piece in PIECES:
        sound = play(piece).astype(np.float32)
        start = time.process_time()
        found = find_beats(sound)
        speeds.append(piece.seconds / (time.process_time() - start))
        one = _score(_inside(found.beats_s, piece), piece.beats_s())
        other = _score(_inside(found.bars_s, piece), piece.bars_s())
        beats.append(one)
        bars.append(other)
        worst = min(worst, (piece.title, other), key=lambda each: each[1])
    sound, true = _drifting()
    drift = _score(list(find_beats(sound).beats_s), true)
    swung = next(number for number, piece in enumerate(PIECES) if piece.swing)
    return [
        f"| beats of the {len(PIECES)} shipped beds, F within 70 ms: mean, least "
        f"| {np.mean(beats):.2f}, {min(beats):.2f} | 0.95 |",
        f"| of the one with a swing | {beats[swung]:.2f} | 0.85 |",
        f"| of strokes that go from 96 to 114 a minute | {drift:.2f} | 0.85 |",
        f"| beginnings of bars: mean, least ({worst[0]}) | {np.mean(bars):.2f}, {worst[1]:.2f} | |",
        f"| as many times real time per CPU-second | {statistics.median(speeds):.0f} | |",
    ]


def _inside(found: tuple[float, ...], piece: Piece) -> list[float]:
    return [each for each in found if each <= piece.bars_s()[-1] + 0.07]


def _score(found: list[float], true: list[float]) -> float:
    left, met = list(found), 0
    for beat in true:
        near = [each for each in left if abs(each - beat) <= 0.07]
        if near:
            left.remove(near[0])
            met += 1
    return 2 * met / max(1, len(found) + len(true))


def _drifting(seconds: float = 45.0) -> tuple[Sound, list[float]]:
    sound = np.zeros(round(seconds * RATE), np.float32)
    chance = np.random.default_rng(1)
    beats: list[float] = []
    at, number = 0.5, 0
    while at < seconds - 0.5:
        ring = np.sin(np.arange(9_600) * 0.02) * np.exp(-np.arange(9_600) / 1_800)
        ring[:1_200] += chance.normal(0, 0.3, 1_200) * np.exp(-np.arange(1_200) / 200)
        start = round(at * RATE)
        part = sound[start : start + 9_600]
        part += ring[: len(part)].astype(np.float32) * (1.0 if number % 4 == 0 else 0.6)
        beats.append(at)
        at += 60 / (96 + 18 * at / seconds)
        number += 1
    return sound, beats


def _keys() -> list[str]:
    right = [piece.title for piece in PIECES if key_of(play(piece).astype(np.float32)) == piece.key % 12]
    return [f"| shipped beds whose tonic is found | {len(right)} of {len(PIECES)} | – |"]


# words over a bed


def _ducked(takes: list[Sound]) -> list[str]:
    speech = lowered(np.concatenate(takes))
    found = []
    for piece in (PIECES[0], PIECES[3], PIECES[8]):
        music = play(piece).astype(np.float32)
        louder = (
            measure_loudness(np.concatenate(takes)).integrated_lufs - measure_loudness(music).integrated_lufs
        )
        gain = 10 ** (louder / 20)
        bed = lowered(np.resize(music, (len(np.concatenate(takes)), 2)).astype(np.float32)) * gain
        nothing = np.zeros(len(speech))
        down = needed_db(speech, nothing, bed)
        reached = None if down is None else understood(speech, speech + bed * 10 ** (-down / 20))
        found.append(
            f"| {piece.title}, as loud as speech: ducked for words by, ESTOI then "
            f"| {down} dB, {reached or 0:.3f} | 0.90 |"
        )
        for aim in (0.80, 0.90):
            over = needed_db(speech, nothing, bed, aim)  # both are as loud: so far down is so far over
            found.append(f"| {piece.title}: speech over it for ESTOI {aim:.2f} | {over} dB | – |")
    return found


# recordings


def _cleaned(takes: list[Sound]) -> list[str]:
    speech = np.concatenate([part for take in takes for part in (take, np.zeros(RATE // 4, np.float32))])
    found = []
    for ratio_db in (5, 10, 20):
        noise = _pink(len(speech))
        noise *= np.sqrt(np.mean(speech**2) / np.mean(noise**2)) * 10 ** (-ratio_db / 20)
        noisy = (speech + noise).astype(np.float32)
        start = time.process_time()
        made = cleaned(noisy, Cleaning(noise_db=60))
        fast = len(speech) / RATE / (time.process_time() - start)
        room = cleaned(noisy, Cleaning(noise_db=0, room_db=60))
        found.append(
            f"| pink noise at {ratio_db} dB: SI-SDR by noise, by room; times real time "
            f"| {_si_sdr(speech, made):.1f} dB, "
            f"{_si_sdr(speech, room):.1f} dB; {fast:.0f} | more than {ratio_db} |"
        )
    kept = _si_sdr(speech, cleaned(speech, Cleaning(noise_db=60)))
    found.append(f"| what was clean, SI-SDR | {kept:.0f} dB | |")
    return found


def _pink(samples: int) -> Sound:
    spectrum = np.fft.rfft(np.random.default_rng(7).standard_normal(samples))
    hertz = np.maximum(np.fft.rfftfreq(samples), 1 / samples)
    return np.fft.irfft(spectrum / np.sqrt(hertz), samples).astype(np.float32)


def _si_sdr(reference: Sound, made: Sound) -> float:
    share = float(np.dot(reference, made) / np.dot(reference, reference)) * reference
    return 10 * float(np.log10(np.sum(share**2) / np.sum((made - share) ** 2)))


# treatments


def _treated(takes: list[Sound]) -> list[str]:
    speech = np.concatenate(takes)
    speeds = {}
    for each in SHIPPED:
        treat(takes[0], each)  # libraries are loaded by now
        start = time.process_time()
        treat(speech, Treatment(stages=each.stages))
        speeds[each.name] = len(speech) / RATE / (time.process_time() - start)
    slow = min(speeds, key=lambda name: speeds[name])
    return [
        f"| the {len(SHIPPED)} shipped treatments, times real time: median, least ({slow}) "
        f"| {statistics.median(speeds.values()):.0f}, {speeds[slow]:.0f} | |"
    ]
