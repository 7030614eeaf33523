"""What is said of a mix by what was measured of it, and that its cures cure."""

import pytest

from fox_cadence.core.begun_like import begun_like
from fox_cadence.core.edits import CutBed, HearColumn, SetMix, apply_all
from fox_cadence.core.mix import MixPlan, plan_mix
from fox_cadence.core.project import Project
from fox_cadence.core.sound.bed import Bed, Stretch
from fox_cadence.core.sound.settings import COLUMNS, MixSettings
from fox_cadence.core.sound.standing import BURIED_DB, LineOver, MixMeasured, MixWarning, warnings_of
from fox_cadence.core.ticks import seconds_to_ticks
from tests.builders import voiced
from tests.core.test_sound_edits import MUSIC, piece

TOTAL = seconds_to_ticks(12)
FINE = MixMeasured(-14.0, 0.5, (LineOver("l1", 0.2, 15.0), LineOver("l2", 4.0, None)))


def with_bed(**change: object) -> Project:
    return piece(beds=(Bed(clip_hash=MUSIC.hash, **change),))


def told(project: Project, measured: MixMeasured = FINE) -> tuple[MixWarning, ...]:
    return warnings_of(project, TOTAL, measured)


def planned(project: Project) -> MixPlan:
    return plan_mix(voiced(project, [1.0, 1.0, 1.0]))


def test_nothing_is_said_of_a_mix_that_is_as_it_should_be() -> None:
    assert told(with_bed()) == ()
    assert told(piece()) == ()


@pytest.mark.parametrize("over_db", [-3.0, 0.0, BURIED_DB - 0.1])
def test_a_buried_line_is_named_with_its_moment_and_the_cure_gives_what_it_lacks(over_db: float) -> None:
    project = with_bed(duck_db=4.0)
    measured = MixMeasured(-14.0, 0.0, (LineOver("l2", 4.25, over_db),))
    (warning,) = told(project, measured)
    assert "Line 2" in warning.text
    assert warning.at_s == 4.25
    ducked, _ = apply_all(project, warning.cures[0].edits)
    more = ducked.beds[0].duck_db - 4.0
    assert over_db + more >= BURIED_DB  # by what it is turned down further
    louder, _ = apply_all(project, warning.cures[-1].edits)
    assert planned(louder).speech[0].gain_db == pytest.approx(planned(project).speech[0].gain_db + 3)


def test_without_a_bed_only_the_speech_can_be_made_louder() -> None:
    (warning,) = told(piece(), MixMeasured(-14.0, 0.0, (LineOver("l1", 0.0, 2.0),)))
    assert [cure.text for cure in warning.cures] == ["Speech louder by 3 dB"]
    gone = MixMeasured(-14.0, 0.0, (LineOver("no longer there", 0.0, 2.0),))
    assert told(piece(), gone) == ()


def test_peaks_that_are_held_and_an_aim_that_is_missed_are_said() -> None:
    (held,) = told(piece(), MixMeasured(-14.0, 5.2, ()))
    assert "held down by 5 dB" in held.text
    softer, _ = apply_all(piece(), held.cures[0].edits)
    assert softer.mix.aim_lufs == -16
    (missed,) = told(piece(), MixMeasured(-17.3, 0.0, ()))
    assert "-17.3" in missed.text
    assert told(piece(), MixMeasured(-70.0, 0.0, ())) == ()  # nothing sounds at all


@pytest.mark.parametrize(
    ("seconds", "said"),
    [(9.0, "ends 3.0 s before"), (12.0, ""), (12.5, ""), (14.0, "cut off before its ending")],
)
def test_a_bed_that_was_cut_for_another_length_is_said_and_played_as_it_is_again(
    seconds: float, said: str
) -> None:
    once = (Stretch(start_sample=0, end_sample=round(seconds * 48_000)),)
    cut = CutBed(
        bed_id="b1",
        stretches=once,
        for_s=seconds,
    )
    project, _ = apply_all(with_bed(), [cut])
    warnings = told(project)
    assert len(warnings) == bool(said)
    for warning in warnings:
        assert said in warning.text
        again, _ = apply_all(project, warning.cures[0].edits)
        assert told(again) == ()


def test_what_is_clipped_and_what_is_not_heard_is_said_first_of_all() -> None:
    project, _ = apply_all(with_bed(), [HearColumn(column="bed", muted=True)])
    measured = MixMeasured(-14.0, 0.0, (), clipped=(MUSIC.hash, "f" * 64))
    warnings = told(project, measured)
    assert ["muted" in warnings[0].text, MUSIC.name in warnings[1].text] == [True, True]
    assert len(warnings) == 2
    heard, _ = apply_all(project, warnings[0].cures[0].edits)
    assert heard.mix == MixSettings()


@pytest.mark.parametrize("column", COLUMNS)
def test_only_what_is_solo_is_heard(column: str) -> None:
    settings = MixSettings(solo=(column,))
    assert [each for each in COLUMNS if settings.heard(each)] == [column]
    both = MixSettings(solo=(column,), muted=(column,))
    assert not any(both.heard(each) for each in COLUMNS)


def test_a_role_that_is_solo_is_heard_alone_and_with_its_column_muted_not_at_all() -> None:
    settings = MixSettings(solo=("role:r1",))
    assert settings.heard("speech", "r1")
    assert not settings.heard("speech", "r2")
    assert not MixSettings(muted=("speech",)).heard("speech", "r1")


def test_a_project_begun_like_another_is_as_loud() -> None:
    like, _ = apply_all(with_bed(), [SetMix(aim_lufs=-23, peak_db=-2)])
    made = begun_like(piece(), like)
    assert (made.mix.aim_lufs, made.mix.peak_db) == (-23, -2)
    assert made.beds == ()  # music belongs to its piece
