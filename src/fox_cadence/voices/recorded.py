"""Recorded takes: cut out of a recording, trimmed, with the time of every word; and brought to the lengths of
a fit."""

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from fox_cadence.core.takes import Pause, PhonemeTime, Take, VoicingRequest, WordTime
from fox_cadence.core.words import words_of
from fox_cadence.errors import InputError
from fox_cadence.media.audio import METER, Sound, measure_loudness, wav_bytes
from fox_cadence.voices.reading import Reading, Rest
from fox_cadence.voices.speech_shape import CROSSFADE, LEAST_PAUSE_S, Mono, faded, find_shape
from fox_cadence.voices.takes import EDGE_PAD, assembled

RECORDED = "recorded"
MOST_RECORDED_STRETCH = 0.30
"""A recorded voice can only be stretched; further than any house limit of pace it is not."""

_REACH_S = 0.25
_PHONEME_EARLY = 48_000 * 100 // 1000
"""A word is moved out of the silence before it; its first phoneme may have been found in there."""
ALIGNED_APART, WARPED_APART = 48_000 * 80 // 1000, 48_000 * 200 // 1000
"""The aligner is off by about 30 ms at the begin of a word after silence, seldom by 80; warping by 100 (p95).
"""


@dataclass(frozen=True, slots=True)
class Cut:
    """Where a line lies in a recording: its text, the begin and end of each of its words, and the begins of
    phonemes, which may be those of the whole recording (samples)."""

    text: str
    words: tuple[tuple[int, int], ...]
    phonemes: tuple[tuple[str, int], ...] = ()


def recorded_take(
    sound: Mono, cut: Cut, before: int | None = None, after: int | None = None, apart: int = ALIGNED_APART
) -> tuple[Take, Sound]:
    """The take of a line: its part of the recording, silence trimmed at both ends.

    Args:
        before: the sample at which the line before it ends, after: at which the next one begins; None at the
            ends of the recording.
        apart: samples by which the words may be off where the recording was aligned; what sounds further away
            from the first or the last word than that is a breath, or the room, and no part of the line.
    """
    reach = round(_REACH_S * 48_000)
    low = max(0, cut.words[0][0] - reach, before or 0)
    high = min(len(sound), cut.words[-1][1] + reach, len(sound) if after is None else after)
    part = sound[low:high]
    shape = find_shape(part, recorded=True)
    if shape.end <= shape.onset or not np.any(part):
        raise InputError(f"nothing is to be heard where “{cut.text[:40]}” should be")
    onset = _near(shape.onset, cut.words[0][0] - low, apart)
    end = max(_near(shape.end, cut.words[-1][1] - low, apart), onset + 1)
    kept = faded(part[max(0, onset - CROSSFADE) : end + CROSSFADE], True, True)
    pads = EDGE_PAD - min(onset, CROSSFADE), EDGE_PAD - min(len(part) - end, CROSSFADE)
    made = np.pad(kept, pads).astype(np.float32)
    shift = low + onset - EDGE_PAD
    last = EDGE_PAD + end - onset
    words = _in_order([(start - shift, stop - shift) for start, stop in cut.words], last)
    pauses = _pauses(
        words,
        [(a - onset + EDGE_PAD, b - onset + EDGE_PAD) for a, b in shape.pauses if onset < a and b < end],
    )
    first = max(cut.words[0][0] - _PHONEME_EARLY, before or 0)
    take = Take(
        id="",
        key=hashlib.sha256(b"recorded " + cut.text.encode() + wav_bytes(made)).hexdigest(),
        text=cut.text,
        voice_id=RECORDED,
        pace=1.0,
        sound_hash="",
        sample_count=len(made),
        onset_sample=EDGE_PAD,
        end_sample=last,
        words=tuple(
            WordTime(text=word.text, start_sample=start, end_sample=stop)
            for word, (start, stop) in zip(words_of(cut.text), words, strict=True)
        ),
        pauses=tuple(Pause(start_sample=start, end_sample=stop) for start, stop in pauses),
        phonemes=tuple(
            PhonemeTime(ipa=ipa, start_sample=max(EDGE_PAD, at - shift))
            for ipa, at in cut.phonemes
            if first <= at < cut.words[-1][1] and at - shift < last
        ),
        loudness_lufs=round(measure_loudness(made, true_peak=False).integrated_lufs, 2),
        meter=METER,
        recorded=True,
    )
    return take, made


def _near(heard: int, aligned: int, apart: int) -> int:
    """Where speech begins or ends: where something is heard, unless the word was aligned elsewhere."""
    return heard if abs(heard - aligned) <= apart else aligned


def _in_order(words: Sequence[tuple[int, int]], last: int) -> list[tuple[int, int]]:
    """Words inside the take, the first from its first sound, none over another."""
    made: list[tuple[int, int]] = []
    at = EDGE_PAD
    for number, (start, stop) in enumerate(words):
        begin = EDGE_PAD if number == 0 else min(max(start, at), last)
        until = last if number + 1 == len(words) else min(max(stop, begin), last)
        made.append((begin, until))
        at = until
    return made


def _pauses(words: list[tuple[int, int]], found: Sequence[tuple[int, int]]) -> list[tuple[int, int]]:
    """The pauses between words; words end before them and begin after them (`words` is changed)."""
    kept: dict[int, tuple[int, int]] = {}
    for start, stop in found:
        if stop - start < LEAST_PAUSE_S * 48_000:
            continue
        begun = [number for number, (begin, _) in enumerate(words) if begin < (start + stop) // 2]
        word = begun[-1] if begun else 0
        if word + 1 < len(words) and (word not in kept or kept[word][1] - kept[word][0] < stop - start):
            kept[word] = (start, stop)
    for word, (start, stop) in kept.items():
        words[word] = (min(words[word][0], start), start)
        words[word + 1] = (stop, max(stop, words[word + 1][1]))
    return [kept[word] for word in sorted(kept)]


def brought_to_lengths(take: Take, sound: Mono, request: VoicingRequest) -> tuple[Take, Sound]:
    """A recorded take with written pauses and at the lengths of a fit; its speech is stretched, its pauses
    are cut."""
    begins = [word.start_sample for word in take.words]
    natural = {
        max(0, sum(begin <= pause.start_sample for begin in begins) - 1): (
            pause.start_sample,
            pause.end_sample,
        )
        for pause in take.pauses
    }
    written = {mark.after_word for mark in request.written}
    rests: list[Rest] = []
    for word in sorted({*natural, *written}):
        start, stop = natural.get(word, (take.words[word].end_sample,) * 2)
        rests.append(Rest(word, start, stop, word in written))
    words = tuple((word.start_sample, word.end_sample) for word in take.words)
    phonemes = tuple((each.ipa, each.start_sample) for each in take.phonemes)
    reading = Reading(sound, take.onset_sample, take.end_sample, words, tuple(rests), phonemes)
    made, heard = assembled(reading, request, MOST_RECORDED_STRETCH)
    return made.changed(recorded=True, voice_id=RECORDED), heard
