"""Other performances and cleaner recordings of a line: takes of their own, every word where it belongs."""

from pathlib import Path

import numpy as np
import pytest

from fox_cadence.actions.cleaning import clean_takes
from fox_cadence.actions.music import beats_of, in_piece
from fox_cadence.actions.performing import at_tempo, say_as_recorded, sing_line
from fox_cadence.actions.sound_shelf import lay_sound
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.project import KeptTake, Project
from fox_cadence.core.sound.cleaning import Cleaning
from fox_cadence.core.sound.singing import syllables_of, typed_tune
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, ticks_to_seconds
from fox_cadence.core.treatment import Pitch, Treatment, shipped
from fox_cadence.errors import InputError
from fox_cadence.media.audio import Sound, read_wav, wav_bytes
from fox_cadence.media.throat import median_hz, retimed
from fox_cadence.media.treating import treat

BAY = "marrow-bay"


@pytest.fixture
def bay(demo_data: Path) -> Workspace:
    return Workspace(demo_data)


@pytest.mark.parametrize("name", ["Higher", "Larger", "Tide sprite", "Older"])
def test_words_keep_their_times_in_another_throat(bay: Workspace, name: str) -> None:
    """By the envelopes of real takes: each as a whole, and around each beginning after a pause."""
    treatment = shipped(name)
    assert treatment is not None
    stages = tuple(stage for stage in treatment.stages if isinstance(stage, Pitch))
    timeline = bay.timeline(bay.head(BAY).project)
    takes = [span.take for span in timeline.lines if span.take is not None][:4]
    lags: list[int] = []
    for take in takes:
        sound = read_wav(bay.library.take_sound(take.sound_hash))
        made = treat(sound, Treatment(stages=stages)).sound
        was, now = _envelope(sound), _envelope(made)
        lags.append(_lag(was[40:-40], now, 40))
        starts = [word.start_sample // 48 for word in take.words]
        loud = [
            at
            for at in starts
            if 60 < at < len(was) - 160 and was[at - 50 : at - 10].max() < 0.05 * was.max()
        ]
        lags += [_lag(was[at - 50 : at + 100], now, at - 50) for at in loud]
    assert max(abs(lag) for lag in lags) <= 2, lags


def _envelope(sound: Sound) -> Sound:
    """The level of each millisecond, of 12 around it."""
    power = np.convolve(sound.astype(float) ** 2, np.full(576, 1 / 576), mode="same")
    return np.asarray(np.sqrt(power[::48]), dtype=np.float32)


def _lag(part: Sound, whole: Sound, at: int) -> int:
    """By how many milliseconds a part of an envelope came to lie later in another one."""
    lags = range(-30, 31)
    return max(lags, key=lambda lag: float(np.corrcoef(part, whole[at + lag : at + lag + len(part)])[0, 1]))


def test_a_recording_is_cleaned_into_a_take_of_its_own_and_again_of_the_first(bay: Workspace) -> None:
    line = bay.head(BAY).project.lines[0]
    first = bay.library.takes([line.take_id or ""])[line.take_id or ""]
    sound = read_wav(bay.library.take_sound(first.sound_hash))
    noisy = (sound + np.random.default_rng(1).normal(0, 0.01, len(sound))).astype(np.float32)
    recorded = bay.library.add_take(
        first.changed(key="ab" * 32, recorded=True, request=None, pace=1.0), wav_bytes(noisy)
    )

    def with_recording(project: Project) -> tuple[Project, str]:
        kept = KeptTake(take_id=recorded.id, name="Recorded")
        lines = (project.lines[0].voiced_by(kept), *project.lines[1:])
        return project.changed(lines=lines), "recorded"

    bay.commit_on_top(BAY, with_recording)
    made = clean_takes(bay, BAY, [line.id], Cleaning(noise_db=30))
    assert made.lines == (line.id,)
    assert made.quieter_db > 10
    now = bay.head(BAY).project.line(line.id)
    take = bay.library.takes([now.take_id or ""])[now.take_id or ""]
    assert take.cleaned_from == recorded.id
    assert take.words == recorded.words
    assert recorded.id in {kept.take_id for kept in now.takes}
    clean_takes(bay, BAY, [line.id], Cleaning(noise_db=12))
    again = bay.head(BAY).project.line(line.id)
    assert bay.library.takes([again.take_id or ""])[again.take_id or ""].cleaned_from == recorded.id
    assert bay.head(BAY).undo_label == "1 recording cleaned"
    with pytest.raises(InputError, match="plays a recording"):
        clean_takes(bay, BAY, ["l2"], Cleaning())


def test_a_line_is_sung_in_the_key_and_on_the_beats_of_the_bed(bay: Workspace) -> None:
    lay_sound(bay, BAY, "bed-paper-boats", "instead", {"bed_id": "b1"})
    tune = typed_tune("c e g:2")
    made = sing_line(bay, BAY, "l2", tune)
    assert made.with_bed
    assert made.tonic == 5  # it is in f
    assert made.tempo_bpm == pytest.approx(76, abs=0.5)
    project = bay.head(BAY).project
    line = project.line("l2")
    take = bay.library.takes([line.take_id or ""])[line.take_id or ""]
    sound = read_wav(bay.library.take_sound(take.sound_hash))
    assert len(sound) == take.sample_count
    assert take.recorded
    spans = {span.line.id: span for span in bay.timeline(project).lines}
    span = spans["l2"]
    assert not span.stale
    first = syllables_of(take)[0].vowel / SAMPLE_RATE_HZ + ticks_to_seconds(span.sound_start_ticks)
    beats = in_piece(
        project.bed("b1"),
        project,
        bay.timeline(project).total_ticks,
        beats_of(bay, project.beds[0].clip_hash).beats_s,
    )
    assert min(abs(first - beat) for beat in beats) < 0.04
    hertz = [_pitch_at(sound, each.vowel + 6_000) for each in syllables_of(take)[:2]]
    assert 12 * np.log2(hertz[1] / hertz[0]) == pytest.approx(4, abs=0.6)
    tonic = 12 * np.log2(hertz[0] / 349.23)
    assert tonic == pytest.approx(12 * round(tonic / 12), abs=0.6)


def _pitch_at(sound: Sound, sample: int) -> float:
    """The pitch of the tenth of a second from a sample on."""
    return median_hz(sound[max(0, sample - 1_200) : sample + 4_800])


def test_a_voice_says_a_line_with_the_timing_of_its_recording(bay: Workspace) -> None:
    line = bay.head(BAY).project.lines[0]
    first = bay.library.takes([line.take_id or ""])[line.take_id or ""]
    sound = read_wav(bay.library.take_sound(first.sound_hash))
    slow = retimed(
        sound, ((first.onset_sample, first.onset_sample), (first.end_sample, first.end_sample + 24_000))
    )
    share = (first.end_sample + 24_000 - first.onset_sample) / (first.end_sample - first.onset_sample)

    def later(sample: int) -> int:
        return round(first.onset_sample + (sample - first.onset_sample) * share)

    words = tuple(
        word.changed(start_sample=later(word.start_sample), end_sample=later(word.end_sample))
        for word in first.words
    )
    recorded = bay.library.add_take(
        first.changed(
            key="cd" * 32,
            recorded=True,
            request=None,
            words=words,
            end_sample=later(first.end_sample),
            sample_count=len(slow),
        ),
        wav_bytes(slow),
    )

    def with_recording(project: Project) -> tuple[Project, str]:
        kept = KeptTake(take_id=recorded.id, name="Recorded")
        return project.changed(lines=(project.lines[0].voiced_by(kept), *project.lines[1:])), "recorded"

    bay.commit_on_top(BAY, with_recording)
    made = say_as_recorded(bay, BAY, line.id, "orla")
    assert bay.head(BAY).project.line(line.id).take_id == made.id
    shift = made.onset_sample - recorded.onset_sample
    for word, other in zip(made.words, recorded.words, strict=True):
        assert abs(word.start_sample - other.start_sample - shift) < 48 * 2
    heard = read_wav(bay.library.take_sound(made.sound_hash))
    assert len(heard) == made.sample_count
    assert np.abs(heard[made.end_sample + 2_000 :]).max(initial=0) < 0.02
    with pytest.raises(InputError, match="plays no recording"):
        say_as_recorded(bay, BAY, "l2", "orla")
    slower = at_tempo(bay, BAY, line.id, 80)
    assert slower.end_sample - slower.onset_sample == pytest.approx(
        1.25 * (made.end_sample - made.onset_sample), abs=1
    )
    for word, before in zip(slower.words, made.words, strict=True):
        moved = made.onset_sample + 1.25 * (before.start_sample - made.onset_sample)
        assert word.start_sample == pytest.approx(moved, abs=1)
    stretched = read_wav(bay.library.take_sound(slower.sound_hash))
    assert len(stretched) == slower.sample_count
    assert abs(_later_by(heard[made.onset_sample :], stretched[made.onset_sample :], 1.25)) <= 0.004
    assert median_hz(stretched) == pytest.approx(median_hz(heard), rel=0.03)
    assert made.id in {kept.take_id for kept in bay.head(BAY).project.line(line.id).takes}
    with pytest.raises(InputError, match="its pace is a part of its delivery"):
        at_tempo(bay, BAY, "l2", 80)


def _later_by(sound: Sound, stretched: Sound, share: float) -> float:
    """By how many seconds the loudness of a stretched sound follows later than it should."""
    step = 96

    def levels(each: Sound) -> np.ndarray:
        count = len(each) // step
        loud = np.square(each[: count * step]).reshape(count, step).mean(axis=1)
        return np.asarray(np.log10(loud + 1e-6))

    was, now = levels(sound), levels(stretched)
    should = np.interp(np.arange(len(now)) / share, np.arange(len(was)), was)
    fits = {lag: float(np.corrcoef(should, np.roll(now, -lag))[0, 1]) for lag in range(-25, 26)}
    return max(fits, key=lambda lag: fits[lag]) * step / SAMPLE_RATE_HZ
