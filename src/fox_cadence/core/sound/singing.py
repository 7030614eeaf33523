"""A line sung: its syllables on the notes of a tune, each vowel on its beat."""

import itertools
import re
from collections.abc import Sequence
from dataclasses import dataclass

from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import SAMPLE_RATE_HZ

VOWELS = "aeiouyɑɐɒæɔəɘɵɛɜɞɤɪɨʉʊʌɯœøɚɝᵻ"
_MARKS = "ˈˌ'`"
_MOST_OF_A_NOTE = 0.4
"""A note gives so much of its time to the consonants of the next syllable."""
_MOST_REST = 0.2
_RINGS = 0.92
_USUAL_CONSONANT = round(0.06 * SAMPLE_RATE_HZ)
_LETTERS = {"c": 0, "d": 2, "e": 4, "f": 5, "g": 7, "a": 9, "b": 11}
_NOTE = re.compile(r"([a-g])([#b]?)(-?\d)?(?::(\d+(?:\.\d+)?))?", re.IGNORECASE)
MOST_NOTES = 400


@dataclass(frozen=True, slots=True)
class TuneNote:
    """So many semitones over the tonic, for so many beats."""

    semitones: int
    beats: float = 1.0


@dataclass(frozen=True, slots=True)
class Tune:
    """A short tune; what is longer begins it again."""

    id: str
    name: str
    notes: tuple[TuneNote, ...]
    minor: bool = False


def _tune(tune_id: str, name: str, notes: str, minor: bool = False) -> Tune:
    parts = (each.split(":") for each in notes.split())
    made = tuple(TuneNote(int(step), float(beats[0]) if beats else 1.0) for step, *beats in parts)
    return Tune(tune_id, name, made, minor)


TUNES: tuple[Tune, ...] = (
    _tune("lapping", "Lapping", "0 2 4 7 4 2 0:2 2 4 5 4 2 2 0:2"),
    _tune("rowing", "Rowing", "0:0.5 0:0.5 4 4:0.5 7:0.5 7 9:0.5 7:0.5 4 2:0.5 2:0.5 0:2"),
    _tune("bell-buoy", "Bell buoy", "7 4 0 4 7:2 9 7 4 2 0:2"),
    _tune("last-boat", "Last boat", "0 3 7 5 3 2 0:2 -2 0 3 2 0 -1 0:2", minor=True),
)
"""Tunes of our own."""


def tune_by_id(tune_id: str) -> Tune | None:
    return next((tune for tune in TUNES if tune.id == tune_id), None)


def typed_tune(text: str) -> Tune:
    """A tune from typed notes: `c4 d e:2 f#`, a colon before the beats of one that lasts more than one. The
    tonic is c4.

    Raises:
        ValueError: that is no note, or there are none; says which.
    """
    notes: list[TuneNote] = []
    octave = 4
    for word in text.split():
        found = _NOTE.fullmatch(word)
        if found is None:
            raise ValueError(
                f"“{word}” is no note; write c d e, f# or bb, c5 for the octave, c:2 for two beats"
            )
        letter, sign, number, beats = found.groups()
        octave = int(number) if number else octave
        step = _LETTERS[letter.lower()] + {"#": 1, "b": -1, "": 0}[sign] + 12 * (octave - 4)
        notes.append(TuneNote(step, float(beats) if beats else 1.0))
    if not notes:
        raise ValueError("type some notes, such as c d e:2")
    if len(notes) > MOST_NOTES or any(not 0 < note.beats <= 16 for note in notes):
        raise ValueError(f"a tune has at most {MOST_NOTES} notes of up to 16 beats")
    return Tune("typed", "Typed", tuple(notes))


@dataclass(frozen=True, slots=True)
class Syllable:
    """Where a syllable begins in a take, and where its vowel does, in samples."""

    start: int
    vowel: int


def syllables_of(take: Take) -> tuple[Syllable, ...]:
    """The syllables of a take: a vowel each, with the last consonant before it; the first of a word has all
    that come before. Of a take whose sounds are not known, each word is one."""
    found: list[Syllable] = []
    for word in take.words:
        sounds = [each for each in take.phonemes if word.start_sample <= each.start_sample < word.end_sample]
        vowels = [number for number, each in enumerate(sounds) if each.ipa.lstrip(_MARKS)[:1] in VOWELS]
        vowels = [n for n in vowels if n == 0 or n - 1 not in vowels]  # a diphthong is one
        if not vowels:
            length = word.end_sample - word.start_sample
            vowel = word.start_sample + min(_USUAL_CONSONANT, length // 3)
            found.append(Syllable(word.start_sample, vowel))
            continue
        for place, number in enumerate(vowels):
            first = number if number == 0 or (place and number - 1 <= vowels[place - 1]) else number - 1
            start = word.start_sample if place == 0 else sounds[first].start_sample
            found.append(Syllable(start, sounds[number].start_sample))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class Sung:
    """How a take is sung: moments of the take and when they are sung (samples), and the notes, from a sample
    of the sung sound to another, so many semitones over the tonic."""

    moments: tuple[tuple[int, int], ...]
    notes: tuple[tuple[int, int, int], ...]
    first_vowel: int


def sung(take: Take, tune: Tune, beat_s: float) -> Sung:
    """The syllables of a take on the notes of a tune."""
    syllables = syllables_of(take)
    beat = beat_s * SAMPLE_RATE_HZ
    at = float(take.onset_sample + syllables[0].vowel - syllables[0].start)
    first = round(at)
    moments: list[tuple[int, int]] = [(take.onset_sample, take.onset_sample), (syllables[0].vowel, first)]
    notes: list[tuple[int, int, int]] = []
    followed = itertools.zip_longest(syllables, syllables[1:])
    for (here, following), note in zip(followed, itertools.cycle(tune.notes), strict=False):
        end = at + note.beats * beat
        notes.append((round(at), round(end), note.semitones))
        if following is None:
            moments.append((take.end_sample, round(at + (end - at) * _RINGS)))
            break
        taken = min(following.vowel - following.start, (end - at) * _MOST_OF_A_NOTE)
        pause = next(
            (p for p in take.pauses if here.vowel < p.start_sample and p.end_sample <= following.start), None
        )
        if pause is not None:
            rest = min(pause.end_sample - pause.start_sample, (end - at) * _MOST_REST)
            moments.append((pause.start_sample, round(end - taken - rest)))
        moments += [(following.start, round(end - taken)), (following.vowel, round(end))]
        at = end
    return Sung(_in_order(moments), tuple(notes), first)


def _in_order(moments: Sequence[tuple[int, int]]) -> tuple[tuple[int, int], ...]:
    """Moments that go on in both; those that do not are left out."""
    kept: list[tuple[int, int]] = []
    for moment in moments:
        if not kept or (moment[0] > kept[-1][0] and moment[1] > kept[-1][1]):
            kept.append(moment)
    return tuple(kept)


def as_recorded(take: Take, recorded: Take) -> tuple[tuple[int, int], ...]:
    """Moments of a take and when they are to be heard, so that each word is where a recording of the same
    words has it.

    Raises:
        ValueError: they do not say as many words.
    """
    if len(take.words) != len(recorded.words):
        raise ValueError("the recording says other words")
    shift = take.onset_sample - recorded.onset_sample
    moments = [(take.onset_sample, take.onset_sample)]
    for word, other in zip(take.words, recorded.words, strict=True):
        moments += [
            (word.start_sample, other.start_sample + shift),
            (word.end_sample, other.end_sample + shift),
        ]
    moments.append((take.end_sample, recorded.end_sample + shift))
    return _in_order(moments)
