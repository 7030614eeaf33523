"""Measures the natural voices of the model that has many, and what they say: the figures of kokoro_voices.py.

    python -m scripts.measure_voices [LANGUAGE...]

Each voice says three lines of its language. Told are: median pitch and its spread, letters a second while it
speaks, loudness, the peak, silence that is left at the ends, whether word times rise, and what of the table
is further off than two lines of a voice are from one another.
"""

import sys
from concurrent.futures import ThreadPoolExecutor

import numpy as np

from bench.pitch import pitches_hz
from fox_cadence.core.languages import primary
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.words import words_of
from fox_cadence.voices.catalogue import VOICES, Voice, sample_text
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.takes import make_take

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
_FAR = 0.15
"""Pitch off the table by more than this share is told."""


def main(arguments: list[str]) -> int:
    chosen = [
        voice
        for voice in VOICES
        if voice.engine == "kokoro" and (not arguments or primary(voice.language) in arguments)
    ]
    engines = Engines()
    try:
        with ThreadPoolExecutor(2) as pool:
            for row in pool.map(lambda voice: _row(engines, voice), chosen):
                print(row, flush=True)
    finally:
        engines.close()
    return 0


def _row(engines: Engines, voice: Voice) -> str:
    pitches: list[float] = []
    loud: list[float] = []
    rates: list[float] = []
    wrong: list[str] = []
    peak = 0.0
    for text in (sample_text(voice), *MORE[primary(voice.language)]):
        request = VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0)
        take, sound = make_take(engines.of(voice), voice, request)
        starts = [word.start_sample for word in take.words]
        if starts != sorted(starts) or len(starts) != len(words_of(text)):
            wrong.append("word times do not rise")
        if not np.isfinite(sound).all():
            wrong.append("no number")
        heard = np.flatnonzero(np.abs(sound) > 0.003)
        quiet = max(int(heard[0]), len(sound) - int(heard[-1])) / SAMPLE_RATE_HZ if len(heard) else 9.0
        if quiet > 0.2:
            wrong.append(f"{quiet:.2f} s of silence at an end")
        peak = max(peak, float(np.abs(sound).max()))
        pitches += pitches_hz(sound[take.onset_sample : take.end_sample])
        loud.append(take.loudness_lufs)
        letters = sum(sign.isalpha() for sign in text)
        rates.append(letters / ((take.end_sample - take.onset_sample) / SAMPLE_RATE_HZ))
    median = float(np.median(pitches)) if pitches else 0.0
    spread = float(np.std(12 * np.log2(np.array(pitches) / median))) if pitches else 0.0
    if voice.pitch_hz and abs(median / voice.pitch_hz - 1) > _FAR:
        wrong.append(f"the table has {voice.pitch_hz} Hz")
    return (
        f"{voice.id:14} {median:4.0f} Hz  {spread:3.1f} st  {np.mean(rates):4.1f} letters/s  "
        f"{np.mean(loud):5.1f} LUFS  peak {peak:.2f}  {'; '.join(dict.fromkeys(wrong)) or 'as it should be'}"
    )


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
