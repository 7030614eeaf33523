"""When the words of a text are heard in a recording.

English is aligned by pocketsphinx with its own model (words it does not know are spelled out from espeak-ng's
phonemes); other languages by warping a reading of espeak-ng's onto the recording (warping.py). Runs isolated.
"""

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.errors import InputError
from fox_cadence.media.audio import resample
from fox_cadence.media.isolated import Progress
from fox_cadence.voices.speech_shape import Mono, find_shape

if TYPE_CHECKING:
    from pocketsphinx import Decoder

_RATE_HZ = 16_000
_PHONE = "phone-"
"""What the words are called that are single phones."""
_LEAST_FOUND = 0.6
FRAME = 480
"""A frame of the aligner at 48 kHz: 10 ms."""

DOUBTFUL = -4.6
"""Words whose sound is less likely than this, in natural logarithms a frame against the best phonemes there
are, were probably said otherwise: in our trials words that were said lie above, others below
(docs/benchmarks.md)."""

_OTHER_TEXT = 0.4
"""The share of doubtful words from which on the recording is taken to say another text."""
_DITHER = 0.003
_SHORTEST_WORD = 3
_REST_S, _LONGEST_STRETCH_S = 0.35, 15.0
_LEAST_SILENCE_S = 0.04
"""Before and after words also short silences count: the closure of a stop, the gap between a breath and a
word."""


Segment = tuple[str, int, int, float]
"""A word as a decoder finds it: its name, its first and its last frame, how likely it is."""


class OtherTextError(InputError):
    """The recording says something else."""


@dataclass(frozen=True, slots=True)
class Alignment:
    """Begin and end of each word in samples at 48 kHz, the words that were probably said otherwise, and the
    begin of each phoneme with its IPA."""

    words: tuple[tuple[int, int], ...]
    doubtful: tuple[int, ...] = ()
    phonemes: tuple[tuple[str, int], ...] = ()


@dataclass(frozen=True, slots=True)
class DraftWord:
    """A word as it was understood, with its time in samples."""

    text: str
    start: int
    end: int


ARPABET: Mapping[str, str] = {
    "ɜː": "ER", "ɚ": "ER", "ɝ": "ER", "aɪ": "AY", "aʊ": "AW", "eɪ": "EY", "oʊ": "OW", "əʊ": "OW", "ɔɪ": "OY",
    "tʃ": "CH", "dʒ": "JH", "iː": "IY", "uː": "UW", "ɑː": "AA", "ɔː": "AO", "ɪɹ": "IH R", "ɛɹ": "EH R",
    "ʊɹ": "UH R",
    "i": "IY", "ɪ": "IH", "ᵻ": "IH", "e": "EH", "ɛ": "EH", "æ": "AE", "a": "AE", "ʌ": "AH", "ə": "AH",
    "ɐ": "AH",
    "ɑ": "AA", "ɒ": "AA", "ɔ": "AO", "o": "OW", "ʊ": "UH", "u": "UW", "p": "P", "b": "B", "t": "T", "d": "D",
    "k": "K", "ɡ": "G", "f": "F", "v": "V", "θ": "TH", "ð": "DH", "s": "S", "z": "Z", "ʃ": "SH", "ʒ": "ZH",
    "h": "HH", "m": "M", "n": "N", "ŋ": "NG", "l": "L", "ɫ": "L", "r": "R", "ɹ": "R", "w": "W", "j": "Y",
    "ɾ": "D",
    "ʔ": "T", "x": "K",
}  # fmt: skip


_IPA_OF = {name: ipa for ipa, name in list(ARPABET.items())[::-1] if " " not in name}
"""IPA of each phoneme of the aligner: the first that stands for it above."""


def arpabet(ipa: str) -> str:
    """Phonemes of the aligner for IPA; signs it has nothing for are left out."""
    found: list[str] = []
    at = 0
    while at < len(ipa):
        for length in (2, 1):
            run = ipa[at : at + length]
            if run in ARPABET and len(run) == length:
                found.append(ARPABET[run])
                at += length
                break
        else:
            at += 1
    return " ".join(found)


def align_english(
    sound: Mono, words: Sequence[Sequence[str]], ipa: Mapping[str, str], progress: Progress
) -> Alignment:
    """Align the words of a text with a recording of it.

    Args:
        words: for each word of the text the words it is spoken as, in small letters.
        ipa: the sound of words, for those the aligner does not know.

    Raises:
        OtherTextError: the recording says another text.
    """
    from pocketsphinx import Decoder

    flat = [spoken for parts in words for spoken in parts]
    decoder = Decoder(lm=None, cmn="batch", beam=1e-100, wbeam=1e-80, **_model())
    for spoken in dict.fromkeys(flat):
        if decoder.lookup_word(spoken) is None:
            decoder.add_word(spoken, arpabet(ipa.get(spoken, "")) or "AH", False)
    decoder.set_align_text(" ".join(flat))
    data = _pcm(sound)
    progress(1, 3)
    found = _segments(decoder, data)
    spoken_places = [each for each in found if not each[0].startswith("<")]
    if len(spoken_places) != len(flat):
        raise OtherTextError("the recording does not seem to say the words of the text")
    progress(2, 3)
    free = _free_scores(data)
    times: list[tuple[int, int]] = []
    doubtful: list[int] = []
    at = 0
    for number, parts in enumerate(words):
        places = spoken_places[at : at + len(parts)]
        at += len(parts)
        times.append((places[0][1] * FRAME, (places[-1][2] + 1) * FRAME))
        if any(_unlikely(place, free) for place in places):
            doubtful.append(number)
    if len(doubtful) > max(1, _OTHER_TEXT * len(words)):
        raise OtherTextError("the recording does not seem to say the words of the text")
    return Alignment(
        tuple(_out_of_silence(sound, times)), tuple(doubtful), _phonemes(decoder, data, spoken_places)
    )


def _phonemes(decoder: "Decoder", data: bytes, words: Sequence[Segment]) -> tuple[tuple[str, int], ...]:
    """When the phonemes of words begin: each aligned as if it were a word. What the decoder does not come to
    at the end shares the time that is left evenly.

    Args:
        words: as the decoder has found them, with the number of the pronunciation that was heard (`the(2)`).
    """
    phones = [phone for word, *_ in words for phone in (decoder.lookup_word(word) or "").split()]
    for phone in dict.fromkeys(phones):
        decoder.add_word(f"{_PHONE}{phone.lower()}", phone, False)
    decoder.set_align_text(" ".join(f"{_PHONE}{phone.lower()}" for phone in phones))
    try:
        found = [first for name, first, *_ in _segments(decoder, data) if name.startswith(_PHONE)]
    except RuntimeError:  # it found no way at all
        return ()
    if len(found) < _LEAST_FOUND * len(phones):
        return ()
    left, last = len(phones) - len(found) + 1, words[-1][2] + 1
    rest = [found[-1] + max(0, last - found[-1]) * number // left for number in range(1, left)]
    return tuple(
        (_IPA_OF[phone], first * FRAME)
        for phone, first in zip(phones, [*found, *rest], strict=True)
        if phone in _IPA_OF
    )


def _out_of_silence(sound: Mono, words: list[tuple[int, int]]) -> list[tuple[int, int]]:
    """Words begin and end where something is heard: the aligner likes to begin one in the silence before
    it."""
    shape = find_shape(sound, _LEAST_SILENCE_S, recorded=True)
    silences = ((0, shape.onset), *shape.pauses, (shape.end, len(sound)))
    moved: list[tuple[int, int]] = []
    for start, end in words:
        for low, high in silences:
            if low <= start < high and end > high:
                start = high
            if low < end <= high and start < low:
                end = low
        moved.append((start, max(start, end)))
    return moved


def _unlikely(place: Segment, free: "np.ndarray[tuple[int], np.dtype[np.float64]]") -> bool:
    _, first, last, likelihood = place
    frames = last - first + 1
    if frames < _SHORTEST_WORD:
        return False  # too short to tell
    if likelihood <= 0:
        return True  # less than a double can hold
    return bool((math.log(likelihood) - free[first : last + 1].sum()) / frames < DOUBTFUL)


def stretches_of(sound: Mono) -> tuple[tuple[int, int], ...]:
    """Parts of a recording to be listened to apart: from one rest to another, at most a quarter of a minute
    each."""
    shape = find_shape(sound, _REST_S, recorded=True)
    edges = [0, *((start + end) // 2 for start, end in shape.pauses), len(sound)]
    most = round(_LONGEST_STRETCH_S * SAMPLE_RATE_HZ)
    made: list[tuple[int, int]] = []
    start = 0
    for here, following in itertools.pairwise(edges):
        if following - start > most and here > start:
            made.append((start, here))
            start = here
        while following - start > most:  # somebody who does not rest
            made.append((start, start + most))
            start += most
    return (*made, (start, len(sound))) if start < len(sound) else tuple(made)


def draft_words(sound: Mono, stretches: Sequence[tuple[int, int]], progress: Progress) -> list[DraftWord]:
    """What some stretches of an English recording seem to say, with the time of every word: a draft, to be
    read over.

    The search is narrowed (`maxhmmpf`, `maxwpf`, no second pass): as many words are right, in 0.55 of the
    time (docs/benchmarks.md).
    """
    from pocketsphinx import Decoder, get_model_path

    lm = f"{get_model_path()}/en-us/en-us.lm.bin"
    decoder = Decoder(cmn="batch", lm=lm, maxhmmpf=3000, maxwpf=5, fwdflat=False, **_model())
    found: list[DraftWord] = []
    for number, (start, end) in enumerate(stretches):
        progress(number, len(stretches))
        found += [
            DraftWord(word.split("(")[0], start + first * FRAME, start + (last + 1) * FRAME)
            for word, first, last, _ in _segments(decoder, _pcm(sound[start:end]))
            if not word.startswith(("<", "["))
        ]
    progress(len(stretches), len(stretches))
    return found


def _model() -> dict[str, object]:
    from pocketsphinx import get_model_path

    model = f"{get_model_path()}/en-us"
    return {"hmm": f"{model}/en-us", "dict": f"{model}/cmudict-en-us.dict", "loglevel": "FATAL"}


def _pcm(sound: Mono) -> bytes:
    """16 kHz as the model was taught, with a little noise: it can't do with digital silence."""
    down = resample(sound, SAMPLE_RATE_HZ, _RATE_HZ)
    level = float(np.max(np.abs(down), initial=0.0)) or 1.0
    noise = np.random.default_rng(0).normal(0, _DITHER, len(down))
    return bytes(np.rint((down / level * 0.6 + noise) * 32767).astype("<i2").tobytes())


def _segments(decoder: "Decoder", data: bytes) -> list[Segment]:
    decoder.start_utt()
    decoder.process_raw(data, full_utt=True)
    decoder.end_utt()
    return [(seg.word, seg.start_frame, seg.end_frame, seg.ascore) for seg in decoder.seg() or ()]


def _free_scores(data: bytes) -> "np.ndarray[tuple[int], np.dtype[np.float64]]":
    """For each frame how likely the best phonemes are, whatever they are: natural logarithms."""
    from pocketsphinx import Decoder, get_model_path

    decoder = Decoder(
        lm=None, allphone=f"{get_model_path()}/en-us/en-us-phone.lm.bin", cmn="batch", lw=2.0, **_model()
    )
    scores = np.zeros(len(data) // 320 + 2)
    for _, first, last, likelihood in _segments(decoder, data):
        scores[first : last + 1] = math.log(likelihood) / (last - first + 1) if likelihood > 0 else 0.0
    return scores
