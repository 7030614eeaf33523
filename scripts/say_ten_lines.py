"""Has every natural voice say the ten lines of the first sample in its language, and tells what is wrong.

    python -m scripts.say_ten_lines [LANGUAGE...]

A row a voice as it is done, then a table a language: highest peak, the span of loudness, the longest silence
at an end, seconds said. Wrong is a value that is no number, a peak over full scale, silence over 0.2 s, word
times that do not rise, that are not one for each word, or that leave the first or the last sound out.
"""

import json
import sys
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from itertools import pairwise
from pathlib import Path

import numpy as np

from fox_cadence.core.languages import primary
from fox_cadence.core.takes import Take, VoicingRequest
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.words import words_of
from fox_cadence.media.audio import Sound
from fox_cadence.voices.catalogue import VOICES
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice

LINES: dict[str, list[str]] = json.loads(Path(__file__).with_name("ten_lines.json").read_text("utf-8"))
_HEARD = 0.003
_QUIET_S = 0.2


@dataclass(frozen=True, slots=True)
class Said:
    """What one voice made of its lines: peak (of full scale), loudness in LUFS, silence and length in
    seconds."""

    voice: Voice
    peak: float
    lufs: tuple[float, float]
    quiet_s: float
    seconds: float
    wrong: tuple[str, ...]


def main(arguments: list[str]) -> int:
    languages = arguments or list(LINES)
    chosen = [voice for voice in VOICES if voice.natural and primary(voice.language) in languages]
    engines = Engines()
    said: list[Said] = []
    try:
        with ThreadPoolExecutor(2) as pool:
            for each in pool.map(lambda voice: _say(engines, voice), chosen):
                said.append(each)
                print(f"{each.voice.id:14} {'; '.join(each.wrong) or 'as it should be'}", flush=True)
    finally:
        engines.close()
    print("\n| language | voices | peak | LUFS | longest silence | said | wrong |")
    print("| --- | --- | --- | --- | --- | --- | --- |")
    for language in languages:
        print(_row(language, [each for each in said if primary(each.voice.language) == language]))
    return 1 if any(each.wrong for each in said) else 0


def _say(engines: Engines, voice: Voice) -> Said:
    wrong: list[str] = []
    peak = quiet = seconds = 0.0
    loud: list[float] = []
    for number, text in enumerate(LINES[primary(voice.language)], 1):
        request = VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0)
        take, sound = make_take(engines.of(voice), voice, request)
        wrong += [f"line {number}: {fault}" for fault in faults(take, sound, len(words_of(text)))]
        peak = max(peak, float(np.abs(sound).max()))
        quiet = max(quiet, _quiet_s(sound))
        seconds += (take.end_sample - take.onset_sample) / SAMPLE_RATE_HZ
        loud.append(take.loudness_lufs)
    return Said(voice, peak, (min(loud), max(loud)), quiet, seconds, tuple(wrong))


def faults(take: Take, sound: Sound, words: int) -> list[str]:
    """What is wrong with a take of a text of so many words."""
    found: list[str] = []
    if not np.isfinite(sound).all():
        found.append("no number")
    if float(np.abs(sound).max()) > 1.0:
        found.append("over full scale")
    if _quiet_s(sound) > _QUIET_S:
        found.append(f"{_quiet_s(sound):.2f} s of silence at an end")
    if len(take.words) != words:
        found.append(f"{len(take.words)} times for {words} words")
    if any(later.start_sample <= word.start_sample for word, later in pairwise(take.words)):
        found.append("word times do not rise")
    if take.words[0].start_sample > take.onset_sample or take.words[-1].end_sample < take.end_sample:
        found.append("word times leave sound out")
    return found


def _quiet_s(sound: Sound) -> float:
    heard = np.flatnonzero(np.abs(sound) > _HEARD)
    return max(int(heard[0]), len(sound) - int(heard[-1])) / SAMPLE_RATE_HZ if len(heard) else np.inf


def _row(language: str, said: list[Said]) -> str:
    low, high = min(each.lufs[0] for each in said), max(each.lufs[1] for each in said)
    return (
        f"| {language} | {len(said)} | {max(each.peak for each in said):.2f} | {low:.1f} to {high:.1f} | "
        f"{max(each.quiet_s for each in said) * 1000:.0f} ms | {sum(each.seconds for each in said):.0f} s | "
        f"{sum(bool(each.wrong) for each in said)} |"
    )


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
