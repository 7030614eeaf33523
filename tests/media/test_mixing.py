"""A mix: laid to the sample, as loud as it should be, its peaks held, and the same block by block."""

from pathlib import Path

import numpy as np
import pyloudnorm
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.mix import (
    JOIN_SAMPLES,
    BedPart,
    EffectPart,
    MixPlan,
    Run,
    ShotSound,
    SpeechPart,
    duck_points,
    gain_curve,
)
from fox_cadence.core.sound.settings import COLUMNS, MixSettings
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.media.audio import Sound, as_stereo, measure_loudness, read_wav, wav_bytes
from fox_cadence.media.limiter import Peaks, gain_at, held_under
from fox_cadence.media.meter import Meter
from fox_cadence.media.mixdown import Mix, held_alone, mix_down, part_at_once, write_wav
from fox_cadence.media.mixing import Loaders, Mixer
from fox_cadence.media.sound_reader import InMemory, WavFile
from tests.media.test_audio import sine

SECOND = SAMPLE_RATE_HZ


def speech_like(samples: int, seed: int) -> Sound:
    """Noise of a voice's colour that comes and goes as words do, mono."""
    chance = np.random.default_rng(seed)
    noise = np.convolve(chance.normal(0, 0.2, samples), np.hanning(24) / 8, mode="same")
    at = np.arange(samples) / SECOND
    return np.asarray(noise * (0.55 + 0.45 * np.sin(2 * np.pi * 3.1 * at)), dtype=np.float32)


def mixer(plan: MixPlan, take: Sound, clip: Sound) -> Mixer:
    return Mixer(plan, Loaders(lambda _: take, lambda _: InMemory(as_stereo(clip))))


def mixed(plan: MixPlan, take: Sound, clip: Sound, folder: Path, block: int = 10 * SECOND) -> Mix:
    return mix_down(mixer(plan, take, clip), folder, block=block)


def whole(mix: Mix) -> Sound:
    return mix.read(0, mix.total_samples)


def busy(total: int, aim: float = -14.0) -> MixPlan:
    """Speech over a bed that ducks, a shot's own sound, an effect."""
    spoken = [(SECOND, 3 * SECOND), (5 * SECOND, 7 * SECOND)]
    return MixPlan(
        total,
        tuple(SpeechPart("s", start, 0.0) for start, _ in spoken),
        (ShotSound("c", 100, 2 * SECOND, 3 * SECOND + 7, -12.0),),
        (BedPart("b", "m", 0, total, -12, 4800, 4800, duck_points(spoken, 9.0), (), (Run(0, 0, total),)),),
        (EffectPart("e", 4 * SECOND + 11, -3.0, 0, 480),),
        MixSettings(aim_lufs=aim),
    )


@pytest.mark.parametrize("seconds", [7.0, 7.0001, 31.234567])
@pytest.mark.parametrize("aim", [-14.0, -16.0, -23.0])
def test_a_mix_meets_its_aim_whatever_its_length(seconds: float, aim: float, tmp_path: Path) -> None:
    samples = round(seconds * SECOND)
    speech = speech_like(samples, 1)
    plan = MixPlan(samples, (SpeechPart("s", 0, 0.0),), settings=MixSettings(aim_lufs=aim))
    made = mixed(plan, speech, speech, tmp_path)
    theirs = pyloudnorm.Meter(SECOND).integrated_loudness(whole(made).astype(np.float64))
    assert theirs == pytest.approx(aim, abs=0.2)
    assert made.loudness().integrated_lufs == pytest.approx(made.integrated_lufs, abs=0.05)


@pytest.mark.parametrize("aim", [-14.0, -10.0])
def test_peaks_are_held_and_the_loudness_is_still_reached(aim: float, tmp_path: Path) -> None:
    made = mixed(busy(8 * SECOND, aim), speech_like(2 * SECOND, 1), speech_like(9 * SECOND, 2), tmp_path)
    measured = measure_loudness(whole(made))
    assert measured.true_peak_db <= -1
    assert measured.integrated_lufs == pytest.approx(aim, abs=0.2)


def test_a_mix_is_the_same_twice_and_whatever_the_blocks(tmp_path: Path) -> None:
    speech, clip = speech_like(2 * SECOND, 1), speech_like(9 * SECOND, 2)
    plan = busy(8 * SECOND + 1234, -11)
    first = whole(mixed(plan, speech, clip, tmp_path))
    for block in (10 * SECOND, 3 * SECOND, 48 * 777):
        assert np.array_equal(whole(mixed(plan, speech, clip, tmp_path, block)), first)


def test_the_columns_of_a_mix_add_up_to_it(tmp_path: Path) -> None:
    made = mixed(busy(8 * SECOND, -10), speech_like(2 * SECOND, 1), speech_like(9 * SECOND, 2), tmp_path)
    parts = [made.column(column, SECOND, 5 * SECOND) for column in COLUMNS]
    assert np.allclose(sum(parts), made.read(SECOND, 5 * SECOND), atol=1e-6)
    assert all(np.any(part) for part in parts)


def test_a_part_at_once_is_what_the_mix_will_be(tmp_path: Path) -> None:
    speech, clip = speech_like(2 * SECOND, 1), speech_like(9 * SECOND, 2)
    plan = busy(8 * SECOND)
    made = mixed(plan, speech, clip, tmp_path)
    at_once = part_at_once(mixer(plan, speech, clip), 2 * SECOND, 3 * SECOND, made.gain_db)
    assert np.allclose(at_once[2400:-2400], made.read(2 * SECOND, 3 * SECOND)[2400:-2400], atol=1e-3)
    past = part_at_once(mixer(plan, speech, clip), 7 * SECOND, 3 * SECOND, made.gain_db)
    assert len(past) == SECOND


def test_speech_lies_where_it_is_laid_and_stands_alone_as_loud(tmp_path: Path) -> None:
    speech = speech_like(SECOND, 1)
    plan = MixPlan(8 * SECOND, (SpeechPart("s", SECOND, 0.0), SpeechPart("s", 5 * SECOND, 0.0)))
    made = mixed(plan, speech, speech, tmp_path)
    alone = held_alone(made, mixer(plan, speech, speech))(0, made.total_samples)[:, 0]
    assert not np.any(alone[:SECOND])
    assert np.any(alone[SECOND : 2 * SECOND])
    assert not np.any(alone[2 * SECOND + 10 : 5 * SECOND])


def test_a_voice_stands_to_one_side_with_as_much_power(tmp_path: Path) -> None:
    speech = speech_like(SECOND, 1)

    def power(pan: float) -> Sound:
        laid = mixer(MixPlan(SECOND, (SpeechPart("s", 0, 0.0, None, pan),)), speech, speech).whole(0, SECOND)
        return np.asarray(np.sum(laid.astype(np.float64) ** 2, axis=0), dtype=np.float32)

    middle, left, right = power(0), power(-1), power(1)
    assert middle[0] == pytest.approx(middle[1])
    assert left[1] == pytest.approx(0, abs=1e-6)
    assert right[0] == pytest.approx(0, abs=1e-6)
    assert left.sum() == pytest.approx(middle.sum(), rel=1e-4)


def test_a_clip_that_repeats_brings_its_own_sound_again() -> None:
    once = as_stereo(sine(1, 440, 0.2)).copy()
    once[24_000:] = 0
    plan = MixPlan(3 * SECOND, (), (ShotSound("c", 0, 0, 3 * SECOND, 0.0, SECOND),))
    made = mixer(plan, once, once).whole(0, 3 * SECOND)[:, 0]
    places = range(4800, 3 * SECOND - 4800, 24_000)
    loud = [bool(np.any(np.abs(made[at : at + 4800]) > 0.01)) for at in places]
    assert loud == [True, False, True, False, True, False]


def test_the_own_sound_of_a_slowed_shot_lasts_as_long_as_the_shot() -> None:
    clip = np.random.default_rng(2).uniform(-0.2, 0.2, (2 * SECOND, 2)).astype(np.float32)
    shot = ShotSound("c", SECOND // 2, SECOND, 2 * SECOND, 0.0, speed_percent=50)
    full = mixer(MixPlan(4 * SECOND, (), (shot,)), clip, clip).whole(0, 4 * SECOND)
    loud = np.flatnonzero(np.abs(full).max(axis=1) > 1e-3)
    assert loud[0] == pytest.approx(SECOND, abs=600)
    assert loud[-1] == pytest.approx(3 * SECOND, abs=SECOND // 10)


def test_a_silent_piece_stays_silent(tmp_path: Path) -> None:
    made = mixed(MixPlan(SECOND), sine(1), sine(1), tmp_path)
    assert not np.any(whole(made))
    assert len(mixed(MixPlan(0), sine(1), sine(1), tmp_path).read(0, 10)) == 0


@pytest.mark.parametrize("alike", [True, False])
def test_stretches_of_a_bed_are_joined_without_a_step(alike: bool) -> None:
    """Two places of a clip that are alike, as a loop's are, and two that are not: no click, no hole."""
    tone = sine(4, 300, 0.3) if alike else speech_like(4 * SECOND, 5)
    enters = SECOND // 300 * 300 if alike else SECOND + 137
    runs = (Run(0, 0, 2 * SECOND, True), Run(2 * SECOND, enters, 2 * SECOND))
    bed = BedPart("b", "m", 0, 4 * SECOND, 0.0, 0, 0, (), (), runs)
    made = mixer(MixPlan(4 * SECOND, beds=(bed,)), tone, tone).whole(0, 4 * SECOND)[:, 0].astype(np.float64)
    seam = slice(2 * SECOND - JOIN_SAMPLES, 2 * SECOND + JOIN_SAMPLES)
    steps = np.abs(np.diff(made))
    assert steps[seam].max() <= steps.max(initial=0, where=np.arange(len(steps)) < SECOND) * 1.5
    level = np.sqrt(np.mean(made[seam] ** 2)) / np.sqrt(np.mean(made[:SECOND] ** 2))
    assert 0.3 < level < 3
    if alike:
        assert level == pytest.approx(1, abs=0.05)


def test_a_level_curve_is_followed_in_straight_lines() -> None:
    tone = np.full(4 * SECOND, 0.1, np.float32)
    levels = ((SECOND, 0.0), (2 * SECOND, -20.0), (3 * SECOND, -20.0))
    bed = BedPart("b", "m", 0, 4 * SECOND, 0.0, 0, 0, (), levels, (Run(0, 0, 4 * SECOND),))
    made = mixer(MixPlan(4 * SECOND, beds=(bed,)), tone, tone).whole(0, 4 * SECOND)[:, 0]
    assert 20 * np.log10(made[SECOND // 2] / 0.1) == pytest.approx(0, abs=0.01)
    assert 20 * np.log10(made[SECOND * 3 // 2] / 0.1) == pytest.approx(-10, abs=0.1)
    assert 20 * np.log10(made[SECOND * 7 // 2] / 0.1) == pytest.approx(-20, abs=0.01)


@given(
    st.lists(st.tuples(st.integers(0, 90_000), st.floats(-40, 6)), max_size=6),
    st.integers(0, 80_000),
    st.integers(1, 20_000),
)
def test_a_gain_is_the_same_whatever_stretch_is_asked_for(
    points: list[tuple[int, float]], start: int, count: int
) -> None:
    ordered = tuple(sorted(dict(points).items()))
    for smooth in (True, False):
        all_of_it = gain_curve(ordered, 100_000, smooth=smooth)
        assert np.array_equal(gain_curve(ordered, count, start, smooth), all_of_it[start : start + count])


@given(st.integers(1, 60), st.floats(0.05, 1.0), st.integers(0, 40))
def test_the_limiter_never_lets_a_peak_over_and_leaves_what_is_far_alone(
    loud_steps: int, ceiling: float, seed: int
) -> None:
    sound = np.zeros((48 * 200, 2), np.float32)
    chance = np.random.default_rng(seed)
    first = 48 * 60
    sound[first : first + 48 * loud_steps] = chance.uniform(-1, 1, (48 * loud_steps, 2))
    peaks = Peaks(len(sound), lambda start, count: np.pad(sound, ((64, 64), (0, 0)))[start + 64 :][:count])
    peaks.feed(0, sound)
    gain = gain_at(peaks.under(ceiling), 0, len(sound))
    assert np.abs(sound * gain[:, np.newaxis]).max() <= ceiling * (1 + 1e-6)
    assert np.all(gain[: first - 48 * 45] == 1)
    assert np.abs(np.diff(gain)).max() < 0.01


def test_the_meter_says_the_same_whatever_the_blocks_and_as_others_do() -> None:
    sound = as_stereo(speech_like(20 * SECOND, 4)).copy()
    sound[8 * SECOND : 12 * SECOND] *= 0.001
    one = Meter()
    one.feed(sound)
    several = Meter()
    for start in range(0, len(sound), 4_321):
        several.feed(sound[start : start + 4_321])
    assert np.array_equal(one.energies(), several.energies())
    theirs = pyloudnorm.Meter(SECOND).integrated_loudness(sound.astype(np.float64))
    assert one.integrated_lufs() == pytest.approx(theirs, abs=0.1)
    assert one.integrated_lufs() == pytest.approx(measure_loudness(sound).integrated_lufs, abs=0.05)
    assert one.short_term_lufs()[115] < one.integrated_lufs() - 30  # in the middle of what is nearly silent


def test_a_file_is_read_in_stretches_and_written_in_blocks(tmp_path: Path) -> None:
    sound = as_stereo(sine(0.5)).copy()
    write_wav(tmp_path / "a.wav", iter([sound[:1000], sound[1000:]]))
    (tmp_path / "b.wav").write_bytes(wav_bytes(sound))
    assert (tmp_path / "a.wav").read_bytes() == (tmp_path / "b.wav").read_bytes()
    reader = WavFile(tmp_path / "a.wav")
    assert reader.count == len(sound)
    assert np.array_equal(reader.read(100, 300), read_wav(tmp_path / "a.wav")[100:400])
    around = reader.read(-50, len(sound) + 100)
    assert around.shape == (len(sound) + 100, 2)
    assert not np.any(around[:50])
    assert not np.any(around[-50:])
    mono = tmp_path / "mono.wav"
    mono.write_bytes(wav_bytes(sine(0.1)))
    assert WavFile(mono).read(0, 10).shape == (10, 2)


def test_a_whole_sound_is_held_and_its_quiet_parts_and_timing_left_alone() -> None:
    loud = np.concatenate([sine(1, level=0.1), sine(1, level=1.4), sine(1, level=0.1)])
    stereo = np.repeat(loud[:, np.newaxis], 2, axis=1)
    made = held_under(stereo, -1.2)
    assert made.shape == stereo.shape
    assert measure_loudness(made).true_peak_db <= -1
    assert np.array_equal(made[:30000], stereo[:30000])
    middle = slice(60000, 80000)
    assert np.corrcoef(made[middle, 0], stereo[middle, 0])[0, 1] > 0.99


def above_6khz(sound: Sound) -> Sound:
    """What there is of a sound above 6 kHz."""
    from scipy.signal import butter, sosfiltfilt

    return np.asarray(
        sosfiltfilt(butter(8, 6_000, "high", fs=SECOND, output="sos"), sound.astype(np.float64))
    )


def test_a_seam_clicks_less_than_60_db_under_the_music() -> None:
    """Music without highs, joined at a place where it is quite another: what is high there is the seam's
    own."""
    from scipy.signal import butter, sosfiltfilt

    noise = np.random.default_rng(4).normal(0, 0.3, 4 * SECOND)
    low = np.asarray(sosfiltfilt(butter(8, 900, fs=SECOND, output="sos"), noise), dtype=np.float32)
    runs = (Run(0, 0, 2 * SECOND, True), Run(2 * SECOND, SECOND // 3, 2 * SECOND))
    bed = BedPart("b", "m", 0, 4 * SECOND, 0.0, 0, 0, (), (), runs)
    made = mixer(MixPlan(4 * SECOND, beds=(bed,)), low, low).whole(0, 4 * SECOND)[:, 0]
    seam = slice(2 * SECOND - 2 * JOIN_SAMPLES, 2 * SECOND + 2 * JOIN_SAMPLES)
    click = np.abs(above_6khz(made)[seam]).max() / np.sqrt(np.mean(made[:SECOND] ** 2))
    assert 20 * np.log10(click) < -60
    plain = (Run(0, 0, 2 * SECOND), Run(2 * SECOND, SECOND // 3, 2 * SECOND))
    bare = BedPart("b", "m", 0, 4 * SECOND, 0.0, 0, 0, (), (), plain)
    hard = mixer(MixPlan(4 * SECOND, beds=(bare,)), low, low).whole(0, 4 * SECOND)[:, 0]
    loud = np.abs(above_6khz(hard)[seam]).max() / np.sqrt(np.mean(made[:SECOND] ** 2))
    assert 20 * np.log10(loud) > -40  # a cut without a join does click


@given(st.integers(0, 60_000), st.integers(1, 40_000))
def test_any_stretch_of_a_bed_with_seams_is_the_same_as_of_the_whole(start: int, count: int) -> None:
    tone = speech_like(2 * SECOND, 8)
    runs = tuple(Run(at, (at * 7) % 30_000, 15_000, True) for at in range(0, 90_000, 15_000))
    bed = BedPart("b", "m", 1_000, 90_000, -3.0, 2_000, 5_000, ((9_000, 0.0), (30_000, -9.0)), (), runs)
    one = mixer(MixPlan(100_000, beds=(bed,)), tone, tone)
    whole_of_it = one.whole(0, 100_000)
    assert np.array_equal(one.whole(start, count), whole_of_it[start : start + count])


@given(st.integers(0, 30_000), st.integers(0, 30_000), st.integers(1, 40_000))
def test_fades_meet_in_the_middle_and_never_lift(fade_in: int, fade_out: int, length: int) -> None:
    sound = np.full(length, 0.5, np.float32)
    part = EffectPart("e", 0, 0.0, fade_in, fade_out)
    made = mixer(MixPlan(length, effects=(part,)), sound, sound).whole(0, length)[:, 0]
    assert made.max() <= 0.5 + 1e-6
    assert made.min() >= 0
    if fade_in and fade_in + fade_out <= length:
        assert made[0] <= 0.5 / fade_in + 1e-6
        if fade_in < length - fade_out:
            assert made[fade_in] == pytest.approx(0.5)


def test_an_effect_before_the_beginning_and_past_the_end_is_cut_off() -> None:
    sound = speech_like(SECOND, 3)
    plan = MixPlan(SECOND, effects=(EffectPart("e", -24_000, 0.0), EffectPart("e", SECOND - 1_000, 0.0)))
    made = mixer(plan, sound, sound).whole(0, SECOND)[:, 0]
    assert np.array_equal(made[:20_000], sound[24_000:44_000])
    assert np.allclose(made[-1_000:], sound[:1_000])
