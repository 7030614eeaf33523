"""Measures the voices that come with the application and writes what `voices/measured.py` reads.

    python -m scripts.measure_voices [LANGUAGE...]

Each voice says its sample, and a natural one two lines more. Kept are median pitch and its spread, letters a
second while it speaks, loudness, and the levels of twelve bands of its spectrum. Told is what is wrong, as by
`scripts.say_ten_lines`, and of natural voices that were measured before where they have changed.
"""

import json
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from typing import Any

import numpy as np

from fox_cadence.core.languages import primary
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.words import words_of
from fox_cadence.voices.catalogue import VOICES, sample_text
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.measured import band_levels
from fox_cadence.voices.pitch_track import pitches_hz
from fox_cadence.voices.speech_shape import Mono
from fox_cadence.voices.takes import make_take
from fox_cadence.voices.voice import Voice
from scripts.say_ten_lines import faults

MORE = {
    "en": ("What it forgets, it keeps in pools.", "Turn a starfish over and it rights itself. Slowly."),
    "es": ("Lo que olvida, lo guarda en pozas.", "Una anémona se cierra como un puño."),
    "fr": ("Ce qu'elle oublie, elle le garde dans des mares.", "Une étoile de mer se retourne lentement."),
    "it": ("Quello che dimentica, lo conserva nelle pozze.", "Una stella marina si raddrizza piano."),
    "hi": ("जो वह भूल जाता है, उसे तालाबों में रखता है।", "समुद्र फिर लौट आता है।"),
    "ja": ("忘れたものを、潮だまりにしまう。", "ヒトデは裏返されると、ゆっくり起き上がる。"),
    "cmn": ("它忘记的，就留在潮池里。", "把海星翻过来，它会慢慢翻正。"),
    "pt": ("O que esquece, guarda em poças.", "Uma estrela do mar se endireita devagar."),
}
_OCTAVE_ST = 11
_FAR = 0.15
"""Pitch off the table by more than this share is told."""


_KEPT = Path(__file__).parents[1] / "src/fox_cadence/voices/data/measured.json"


def main(arguments: list[str]) -> int:
    kept: dict[str, Any] = json.loads(_KEPT.read_text("utf-8")) if _KEPT.exists() else {}
    chosen = [voice for voice in VOICES if not arguments or primary(voice.language) in arguments]
    engines = Engines()
    try:
        with ThreadPoolExecutor(2) as pool:
            for voice, (found, wrong) in zip(
                chosen, pool.map(lambda voice: _measure(engines, voice), chosen), strict=True
            ):
                before = kept.get(voice.id)
                if before and voice.natural and abs(found["pitch_hz"] / before["pitch_hz"] - 1) > _FAR:
                    wrong = [*wrong, f"it had {before['pitch_hz']} Hz"]
                kept[voice.id] = found
                print(_row(voice, found, wrong), flush=True)
    finally:
        engines.close()
    known = {voice.id for voice in VOICES}
    rows = (f"  {json.dumps(key)}: {json.dumps(kept[key])}" for key in sorted(kept) if key in known)
    _KEPT.write_text("{\n" + ",\n".join(rows) + "\n}\n", "utf-8")
    return 0


def _measure(engines: Engines, voice: Voice) -> tuple[dict[str, Any], list[str]]:
    pitches: list[float] = []
    loud: list[float] = []
    rates: list[float] = []
    said: list[Mono] = []
    wrong: list[str] = []
    more = MORE.get(primary(voice.language), ()) if voice.natural else ()
    for text in (sample_text(voice), *more):
        request = VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0)
        take, sound = make_take(engines.of(voice), voice, request)
        wrong += faults(take, sound, len(words_of(text)))
        spoken = sound[take.onset_sample : take.end_sample]
        said.append(spoken)
        pitches += pitches_hz(spoken)
        loud.append(take.loudness_lufs)
        letters = sum(sign.isalpha() for sign in text)
        rates.append(letters / (len(spoken) / SAMPLE_RATE_HZ))
    median = float(np.median(pitches)) if pitches else 0.0
    heights = 12 * np.log2(np.array(pitches) / median) if pitches else np.zeros(1)
    spread = float(np.std(heights[np.abs(heights) < _OCTAVE_ST]))  # what is further is a misheard octave
    levels = band_levels(np.concatenate(said), SAMPLE_RATE_HZ)
    found = {
        "pitch_hz": round(median),
        "spread_st": round(spread, 1),
        "letters_s": round(float(np.mean(rates)), 1),
        "lufs": round(float(np.mean(loud)), 1),
        "bands_db": [round(float(level), 1) for level in levels],
    }
    return found, list(dict.fromkeys(wrong))


def _row(voice: Voice, found: dict[str, Any], wrong: list[str]) -> str:
    return (
        f"{voice.id:14} {found['pitch_hz']:4} Hz  {found['spread_st']:3.1f} st  {found['letters_s']:4.1f} "
        f"letters/s  {found['lufs']:5.1f} LUFS  {'; '.join(wrong) or 'as it should be'}"
    )


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
