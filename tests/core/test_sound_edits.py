"""Beds, spot effects and the mix: what editors change, and where it is heard."""

import numpy as np
import pytest

from fox_cadence.core.edits import (
    AddBed,
    AddEffect,
    AddTitle,
    CutBed,
    DeleteBed,
    DeleteEffect,
    DeleteShot,
    EditError,
    HearColumn,
    HoldEffect,
    OwnToBed,
    SetBed,
    SetCaptionText,
    SetEffect,
    SetLevels,
    SetMix,
    SetRole,
    SetShotLength,
    SetShotSound,
    apply_all,
)
from fox_cadence.core.mix import Run, bed_parts, bed_runs, plan_mix
from fox_cadence.core.project import Project
from fox_cadence.core.shot import Clip
from fox_cadence.core.sound.bed import Bed, Stretch
from fox_cadence.core.sound.effect_places import effect_ticks, held_to
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, seconds_to_ticks, ticks_to_seconds
from fox_cadence.core.timeline import Timeline
from tests.builders import simple_project, voiced

MUSIC = Clip(
    hash="a" * 64,
    name="bed.wav",
    kind="sound",
    length_ticks=seconds_to_ticks(10),
    has_sound=True,
    loudness_lufs=-20,
)
WAVE = MUSIC.changed(hash="b" * 64, name="wave.wav", length_ticks=seconds_to_ticks(2))
STILL = Clip(hash="c" * 64, name="still.png", kind="still", width=10, height=10)
FILM = Clip(
    hash="d" * 64,
    name="film.mp4",
    kind="video",
    length_ticks=seconds_to_ticks(9),
    has_sound=True,
    loudness_lufs=-30,
)


def piece(**change: object) -> Project:
    project = simple_project(["one two three", "four five", "six"])
    clips = {clip.hash: clip for clip in (MUSIC, WAVE, STILL, FILM)}
    first = project.shots[0].changed(clip_hash=FILM.hash, sound_gain_db=-6.0)
    return project.changed(clips=clips, shots=(first, *project.shots[1:]), **change)


def timeline(project: Project) -> Timeline:
    return voiced(project, [1.0] * len(project.lines))


def at_s(project: Project, effect_id: str = "e1") -> float:
    return ticks_to_seconds(effect_ticks(timeline(project), project.effect(effect_id)))


def test_beds_are_added_replaced_and_removed_and_keep_their_levels() -> None:
    one, label = AddBed(clip_hash=MUSIC.hash).apply(piece())
    assert label == "Bed bed.wav"
    louder, _ = SetBed(bed_id="b1", gain_db=-4, source_in_s=2).apply(one)
    replaced, _ = SetBed(bed_id="b1", clip_hash=WAVE.hash).apply(louder)
    bed = replaced.bed("b1")
    assert (bed.clip_hash, bed.gain_db, bed.source_in_ticks) == (WAVE.hash, -4, 0)
    two, _ = AddBed(clip_hash=MUSIC.hash, start_s=3).apply(replaced)
    assert [each.id for each in two.beds] == ["b1", "b2"]
    assert DeleteBed(bed_id="b1").apply(two)[0].beds == (two.bed("b2"),)
    with pytest.raises(EditError, match="no sound"):
        AddBed(clip_hash=STILL.hash).apply(two)
    full = two
    while len(full.beds) < 8:
        full, _ = AddBed(clip_hash=MUSIC.hash).apply(full)
    with pytest.raises(EditError, match="at most 8"):
        AddBed(clip_hash=MUSIC.hash).apply(full)


def test_a_project_of_an_earlier_version_keeps_its_only_bed() -> None:
    document = piece().model_dump(mode="json")
    del document["beds"]
    document["bed"] = {"clip_hash": MUSIC.hash, "gain_db": -7.0, "duck_db": 4.0}
    read = Project.model_validate(document)
    assert (read.beds[0].id, read.beds[0].gain_db, read.beds[0].duck_db) == ("b1", -7, 4)
    assert "bed" not in read.model_dump()
    assert Project.model_validate(document | {"bed": None}).beds == ()


@pytest.mark.parametrize(
    "change",
    [
        {"source_in_s": 9.99},
        {"source_in_s": 4, "source_out_s": 3},
        {"loop_in_s": 5, "loop_out_s": 5.01},
        {"source_out_s": 6, "loop_in_s": 5, "loop_out_s": 7},
        {"source_in_s": 3, "loop_in_s": 2},
    ],
)
def test_a_part_or_loop_that_can_not_be_played_is_refused(change: dict[str, float]) -> None:
    one, _ = AddBed(clip_hash=MUSIC.hash).apply(piece())
    with pytest.raises(EditError, match=r"too short|loop"):
        SetBed.model_validate({"bed_id": "b1", **change}).apply(one)


def test_a_bed_plays_its_part_then_its_loop_and_ends_where_it_should() -> None:
    bed = Bed(
        clip_hash=MUSIC.hash,
        source_in_ticks=seconds_to_ticks(1),
        loop_in_ticks=seconds_to_ticks(4),
        loop_out_ticks=seconds_to_ticks(8),
    )
    runs = bed_runs(bed, MUSIC, 13 * SAMPLE_RATE_HZ)
    seconds = [(run.at_sample / 48_000, run.source_sample / 48_000, run.count / 48_000) for run in runs]
    assert seconds == [(0, 1, 7), (7, 4, 4), (11, 4, 2)]
    assert [run.joined for run in runs] == [True, True, False]
    plain = bed_runs(Bed(clip_hash=MUSIC.hash), MUSIC, 25 * SAMPLE_RATE_HZ)
    assert [run.count / 48_000 for run in plain] == [10, 10, 5]
    assert not any(run.joined for run in plain)
    cut = Bed(clip_hash=MUSIC.hash, stretches=(Stretch(start_sample=0, end_sample=96_000),))
    assert bed_runs(cut, MUSIC, 9 * SAMPLE_RATE_HZ) == (Run(0, 0, 96_000),)
    assert bed_runs(bed, MUSIC.changed(length_ticks=0), 48_000) == ()


def test_beds_lie_where_they_begin_and_follow_their_curves() -> None:
    project, _ = AddBed(clip_hash=MUSIC.hash, start_s=2).apply(piece())
    project, _ = SetBed(bed_id="b1", length_s=3).apply(project)
    project, _ = SetLevels(bed_id="b1", points=[(2.0, -6.0), (1.0, 0.0), (2.0, -9.0)]).apply(project)
    total = 12 * SAMPLE_RATE_HZ
    part = bed_parts(project, total, [])[0]
    assert (part.at_sample, part.count) == (2 * 48_000, 3 * 48_000)
    assert part.levels == ((3 * 48_000, 0.0), (4 * 48_000, -9.0))
    assert part.gain_db == pytest.approx(-10 - 18 + 20)
    assert bed_parts(project, 48_000, []) == []  # it begins after the end
    stretches = (Stretch(start_sample=0, end_sample=48_000),)
    cut, label = CutBed(bed_id="b1", stretches=stretches, for_s=3).apply(project)
    assert "bars" in label
    assert bed_parts(cut, total, [])[0].count == 48_000
    again, _ = CutBed(bed_id="b1").apply(cut)
    assert again.bed("b1").stretches == ()


def test_an_effect_stays_with_the_cut_the_word_or_the_title_it_is_held_to() -> None:
    project, _ = AddEffect(clip_hash=WAVE.hash, shot_id="s2", offset_s=0.5).apply(piece())
    project, _ = AddEffect(clip_hash=WAVE.hash, line_id="l2", word=1, offset_s=-0.1).apply(project)
    project, _ = AddTitle(shot_id="s3", text="Six", in_frames=12).apply(project)
    project, _ = AddEffect(clip_hash=WAVE.hash, title_id=project.titles[0].id).apply(project)
    before = [at_s(project, each) for each in ("e1", "e2", "e3")]
    longer, _ = SetShotLength(shot_id="s1", length_frames=project.shots[0].length_frames + 30).apply(project)
    after = [at_s(longer, each) for each in ("e1", "e2", "e3")]
    assert np.allclose(np.subtract(after, before), 1.0, atol=0.06)
    times = timeline(project)
    assert [held_to(times, project.effect(each)) for each in ("e1", "e2", "e3")] == ["cut", "word", "title"]
    word = times.lines[1].word_times_ticks()[1][0]
    assert at_s(project, "e2") == pytest.approx(ticks_to_seconds(word) - 0.1)


def test_an_effect_goes_along_with_its_word_and_stays_with_its_shot_when_that_is_gone() -> None:
    project, _ = AddEffect(clip_hash=WAVE.hash, line_id="l1", word=2).apply(piece())
    more, _ = apply_all(project, [SetCaptionText(caption_id="c1", text="zero one two three")])
    assert more.effect("e1").word == 3
    gone, _ = apply_all(project, [SetCaptionText(caption_id="c1", text="one two")])
    assert (gone.effect("e1").line_id, gone.effect("e1").shot_id) == (None, "s1")
    with pytest.raises(EditError, match="fewer words"):
        HoldEffect(effect_id="e1", line_id="l2", word=2).apply(project)


def test_an_effect_whose_shot_is_deleted_keeps_its_time() -> None:
    project, _ = AddEffect(clip_hash=WAVE.hash, shot_id="s2", offset_s=0.5).apply(piece())
    fewer, _ = apply_all(project, [DeleteShot(shot_id="s2")])
    assert fewer.effect("e1").shot_id == "s3"
    assert at_s(fewer) == pytest.approx(at_s(project))
    held, _ = HoldEffect(effect_id="e1", shot_id="s1", offset_s=1).apply(project)
    assert at_s(held) == pytest.approx(1)
    quiet, _ = SetEffect(effect_id="e1", gain_db=-20, fade_out_s=0.2).apply(project)
    assert quiet.effect("e1").gain_db == -20
    assert DeleteEffect(effect_id="e1").apply(project)[0].effects == ()
    with pytest.raises(EditError, match="Choose a shot"):
        AddEffect(clip_hash=WAVE.hash).apply(project)


def test_the_mix_has_levels_sides_and_what_is_muted_or_solo() -> None:
    project, _ = AddBed(clip_hash=MUSIC.hash).apply(piece())
    project, _ = AddEffect(clip_hash=WAVE.hash, shot_id="s2").apply(project)
    project, label = SetMix(aim_lufs=-16, bed_db=-3, speech_db=1).apply(project)
    assert label == "Level of speech and beds"
    project, _ = apply_all(project, [SetRole(role_id="r1", pan=0.5)])
    plan = plan_mix(timeline(project))
    assert plan.settings.aim_lufs == -16
    assert plan.beds[0].gain_db == pytest.approx(-10 - 3 - 18 + 20)
    assert plan.speech[0].pan == 0.5
    assert [len(part) for part in (plan.speech, plan.shots, plan.beds, plan.effects)] == [3, 1, 1, 1]
    muted, _ = HearColumn(column="bed", muted=True).apply(project)
    assert plan_mix(timeline(muted)).beds == ()
    solo, _ = HearColumn(column="role:r1", solo=True).apply(project)
    heard = plan_mix(timeline(solo))
    assert [len(part) for part in (heard.speech, heard.shots, heard.beds, heard.effects)] == [3, 0, 0, 0]
    assert HearColumn(column="role:r1").apply(solo)[0] == project
    with pytest.raises(EditError, match="no such column"):
        HearColumn(column="choir").apply(project)


def test_the_own_sound_of_a_shot_is_muted_ducked_faded_or_taken_away_as_a_bed() -> None:
    project = piece()
    ducked, _ = SetShotSound(shot_id="s1", ducked=True, fade_in_s=0.5).apply(project)
    part = plan_mix(timeline(ducked)).shots[0]
    assert part.fade_in_samples == 24_000
    assert part.duck
    muted, _ = SetShotSound(shot_id="s1", muted=True).apply(project)
    assert plan_mix(timeline(muted)).shots == ()
    taken, _ = OwnToBed(shot_id="s1").apply(project)
    plan = plan_mix(timeline(taken))
    assert plan.shots == ()
    own = plan_mix(timeline(project)).shots[0]
    bed = plan.beds[0]
    assert (bed.at_sample, bed.count) == (own.at_sample, own.count)
    assert bed.runs[0].source_sample == own.source_sample
    assert bed.gain_db == pytest.approx(own.gain_db)
    with pytest.raises(EditError, match="no sound of its own"):
        OwnToBed(shot_id="s2").apply(project)
