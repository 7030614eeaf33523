"""Sound from the shelf, beds by their bars, and how a mix stands: on a piece with voices."""

from pathlib import Path

import numpy as np
import pytest

from fox_cadence.actions.adding import add_media
from fox_cadence.actions.bring_in import MediaFile
from fox_cadence.actions.line_sounds import export_lines
from fox_cadence.actions.mix_standing import duck_for_words, mix_standing
from fox_cadence.actions.mixing import mix, part
from fox_cadence.actions.music import beats_for_cuts, beats_of, cut_bed, in_piece, loop_bed
from fox_cadence.actions.performing import sing_line
from fox_cadence.actions.shelf import found
from fox_cadence.actions.sound_shelf import (
    clip_of_sound,
    lay_sound,
    shipped_sounds,
    sound_item,
    sounds,
)
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import (
    EditError,
    HearColumn,
    SetBed,
    SetMix,
    SetShotLength,
    SetTreatment,
    apply_all,
)
from fox_cadence.core.project import Project
from fox_cadence.core.sound.effect_places import effect_ticks
from fox_cadence.core.sound.shelf import SoundWish
from fox_cadence.core.sound.singing import typed_tune
from fox_cadence.core.ticks import SAMPLE_RATE_HZ, TICKS_PER_SECOND, ticks_to_seconds
from fox_cadence.core.treatment import shipped
from fox_cadence.errors import CancelledError, InputError, NotFoundError
from fox_cadence.jobs.runner import Unwatched
from fox_cadence.media.audio import measure_loudness, read_wav
from fox_cadence.media.ingest import SOUND
from fox_cadence.media.mixdown import write_wav
from tests.media import files

BAY = "marrow-bay"


@pytest.fixture
def bay(demo_data: Path) -> Workspace:
    return Workspace(demo_data)


def edit(workspace: Workspace, *edits: object) -> None:
    workspace.commit_on_top(BAY, lambda project: apply_all(project, edits))  # type: ignore[arg-type]


def test_sounds_are_found_by_words_and_by_kind(workspace: Workspace) -> None:
    items = sounds(workspace, None)
    sea = found(items, SoundWish(words="waves on the beach", kind="effect"))
    assert {"effect-long-wave", "effect-surge"} <= {item.id for item in sea}
    assert found(items, SoundWish(words="waltz"))[0].id == "bed-harbour-waltz"
    assert found(items, SoundWish(words="xylophagous")) == []
    assert all(item.licence.startswith("CC0") and item.seconds > 0 for item in shipped_sounds())


def test_a_shipped_sound_is_played_once_and_then_known(workspace: Workspace) -> None:
    item = sound_item(workspace, None, "effect-pop")
    first = clip_of_sound(workspace, item)
    assert clip_of_sound(workspace, item) == first
    assert first.name == "Pop"
    with pytest.raises(NotFoundError):
        sound_item(workspace, None, "effect-of-nothing")


def test_an_effect_is_laid_and_moves_with_its_cut(bay: Workspace) -> None:
    made = lay_sound(bay, BAY, "effect-pop", "effect", {"shot_id": "s3"})
    project = bay.head(BAY).project
    before = effect_ticks(bay.timeline(project), project.effect(made))
    edit(bay, SetShotLength(shot_id="s2", length_frames=project.shots[1].length_frames + 30))
    project = bay.head(BAY).project
    after = effect_ticks(bay.timeline(project), project.effect(made))
    assert ticks_to_seconds(after - before) == pytest.approx(1.0)
    with pytest.raises(EditError):
        lay_sound(bay, BAY, "effect-pop", "effect", {})


def test_a_bed_is_laid_cut_to_the_piece_repeated_and_its_beats_known(bay: Workspace) -> None:
    lay_sound(bay, BAY, "bed-paper-boats", "instead", {"bed_id": "b1"})
    cut = cut_bed(bay, BAY, "b1")
    project = bay.head(BAY).project
    total = ticks_to_seconds(bay.timeline(project).total_ticks)
    bed = project.bed("b1")
    assert ticks_to_seconds(bed.stretches_ticks) == pytest.approx(total, abs=0.002)
    assert 1.0 <= total - cut.hit_s <= 3.2
    count = beats_for_cuts(bay, BAY, "b1")
    project = bay.head(BAY).project
    beats = [ticks_to_seconds(beat) for beat in project.beats]
    assert len(beats) == count
    assert np.median(np.diff(beats)) == pytest.approx(60 / 76, abs=0.01)
    fewer = beats_for_cuts(bay, BAY, "b1", bars=True)
    assert count / 5 < fewer < count / 3
    first, end = loop_bed(bay, BAY, "b1")
    bed = bay.head(BAY).project.bed("b1")
    assert bed.stretches == ()
    assert ticks_to_seconds(bed.loop_out_ticks or 0) - first == pytest.approx(end - first)


def test_a_bed_without_bars_is_not_cut_by_them(bay: Workspace, tmp_path: Path) -> None:
    """One second of a tone: it is played again and again, and said to have no bars."""
    path = files.tone(tmp_path / "one.wav", 1.0)
    add_media(bay, BAY, [MediaFile(path, "one.wav")], use="bed")
    bed = bay.head(BAY).project.beds[-1]
    for work in (cut_bed, loop_bed, beats_for_cuts):
        with pytest.raises(InputError, match=r"bars|beats"):
            work(bay, BAY, bed.id)
    made = mix(bay, bay.timeline(bay.head(BAY).project))
    assert made.integrated_lufs == pytest.approx(-14, abs=0.2)


def test_what_is_wrong_with_a_mix_is_said_and_cured(bay: Workspace) -> None:
    edit(bay, SetBed(bed_id="b1", gain_db=6, duck_db=0), SetMix(bed_db=9))
    loud = mix_standing(bay, bay.timeline(bay.head(BAY).project))
    assert loud.over_db is not None
    assert loud.understood is not None
    assert loud.over_db < 6
    assert loud.understood < 0.8
    buried = [each for each in loud.warnings if "stands only" in each.text]
    assert len(buried) > 5
    assert buried[0].cures[0].text.startswith("Duck the bed")
    edit(bay, *buried[0].cures[0].edits)
    quieter = mix_standing(bay, bay.timeline(bay.head(BAY).project))
    assert quieter.over_db is not None
    assert quieter.over_db > loud.over_db + 3
    edit(bay, HearColumn(column="speech", solo=True))
    alone = mix_standing(bay, bay.timeline(bay.head(BAY).project))
    assert alone.over_db is None
    assert "solo" in alone.warnings[0].text
    assert alone.warnings[0].cures


def test_a_bed_goes_down_until_the_words_are_understood(bay: Workspace) -> None:
    edit(bay, SetBed(bed_id="b1", gain_db=0, duck_db=0), HearColumn(column="effects", muted=True))
    before = mix_standing(bay, bay.timeline(bay.head(BAY).project))
    found = duck_for_words(bay, BAY, "b1")
    after = mix_standing(bay, bay.timeline(bay.head(BAY).project))
    assert found.understood == pytest.approx(0.9, abs=0.015)
    assert before.understood is not None
    assert after.understood is not None
    assert after.understood > before.understood
    assert bay.head(BAY).project.bed("b1").duck_db == found.duck_db > 0


def test_a_part_is_heard_before_the_whole_is_mixed_and_is_the_same_then(bay: Workspace) -> None:
    timeline = bay.timeline(bay.head(BAY).project)
    mix(bay, timeline)
    edit(bay, SetBed(bed_id="b1", gain_db=6))
    mix(bay, bay.timeline(bay.head(BAY).project))
    mix(bay, timeline)  # as after an undo: it is there already, and the change comes after this one
    edit(bay, SetBed(bed_id="b1", gain_db=-11))
    changed = bay.timeline(bay.head(BAY).project)
    start, count = 5 * SAMPLE_RATE_HZ, 4 * SAMPLE_RATE_HZ
    at_once = part(bay, changed, start, count)
    whole = mix(bay, changed).read(start, count)
    middle = slice(4_800, -4_800)
    difference = np.sqrt(np.mean((at_once[middle] - whole[middle]) ** 2))
    assert difference < 0.03 * np.sqrt(np.mean(whole[middle] ** 2))


def test_beats_are_kept_beside_the_clip_and_told_where_they_are_played(bay: Workspace) -> None:
    project = bay.head(BAY).project
    bed = project.bed("b1")
    found = beats_of(bay, bed.clip_hash)
    assert beats_of(bay, bed.clip_hash) == found
    total = bay.timeline(project).total_ticks
    once = in_piece(bed, project, total, (1.0,))
    length = ticks_to_seconds(project.clips[bed.clip_hash].length_ticks)
    assert once == pytest.approx([1.0 + n * length for n in range(len(once))])
    assert len(once) == int((ticks_to_seconds(total) - 1.0) / length) + 1


def _odd(kind: str, folder: Path) -> Path:
    """A sound as it is found: silent, of a telephone, of a studio, damaged, hardly there, recorded too
    loud."""
    time = np.arange(3 * 48_000) / 48_000
    tone = 0.4 * np.sin(2 * np.pi * 330 * time)[np.newaxis]
    if kind == "silent":
        return files.odd_sound(folder / "a.wav", 0 * tone, 48_000, "pcm_s16le")
    if kind == "8 kHz":
        return files.odd_sound(folder / "a.wav", tone[:, :24_000], 8_000, "pcm_s16le")
    if kind == "192 kHz, 24 bit, 5.1":
        return files.odd_sound(folder / "a.wav", np.repeat(tone, 6, axis=0), 192_000)
    if kind == "-60 dB":
        return files.odd_sound(folder / "a.wav", tone * 0.0025, 48_000, "pcm_s16le")
    if kind == "clipped":
        return files.odd_sound(folder / "a.wav", np.clip(tone * 8, -1, 1), 48_000, "pcm_s16le")
    whole = files.odd_sound(folder / "a.mp3", np.repeat(tone, 2, axis=0), 48_000, "libmp3lame")
    data = bytearray(whole.read_bytes())
    data[5_000:5_400] = bytes(400)
    whole.write_bytes(data[: len(data) * 2 // 3])
    return whole


FOUND = ("silent", "8 kHz", "192 kHz, 24 bit, 5.1", "-60 dB", "clipped", "damaged MP3")


@pytest.mark.parametrize("kind", FOUND)
def test_a_bed_is_mixed_as_it_is_found(bay: Workspace, tmp_path: Path, kind: str) -> None:
    add_media(bay, BAY, [MediaFile(_odd(kind, tmp_path), "odd")], use="bed")
    timeline = bay.timeline(bay.head(BAY).project)
    standing = mix_standing(bay, timeline)
    assert standing.lufs == pytest.approx(-14, abs=0.2)
    assert standing.peak_db <= -1
    said = [each.text for each in standing.warnings if "recorded too loud" in each.text]
    assert bool(said) == (kind == "clipped")
    assert np.all(np.isfinite(mix(bay, timeline).column("bed", 0, 96_000)))


@pytest.mark.long
def test_an_hour_of_music_is_a_bed_like_any_other(bay: Workspace, tmp_path: Path) -> None:
    """Made of one minute again and again: only what is played of it is read, only its beginning looked
    into."""
    minute = np.random.default_rng(2).normal(0, 0.05, 48_000 * 60).astype(np.float32)
    minute[::24_000] += 0.8
    clip = bay.head(BAY).project.clips[bay.head(BAY).project.beds[0].clip_hash]
    path = bay.library.clip_file(clip.hash, SOUND)
    write_wav(path, (np.repeat(minute[:, np.newaxis], 2, axis=1) for _ in range(60)))
    longer = clip.changed(length_ticks=60 * 60 * TICKS_PER_SECOND)

    def with_hour(project: Project) -> tuple[Project, str]:
        return project.changed(clips={**project.clips, clip.hash: longer}), "an hour"

    bay.commit_on_top(BAY, with_hour)
    made = mix(bay, bay.timeline(bay.head(BAY).project))
    assert made.integrated_lufs == pytest.approx(-14, abs=0.2)
    assert len(beats_of(bay, clip.hash).beats_s) > 100


def test_the_file_of_a_line_is_treated_as_the_mix_is(bay: Workspace, tmp_path: Path) -> None:
    """Its room rings on after the last word; without the treatment it is another sound, and as loud."""
    hall = shipped("Hall")
    plain = read_wav(export_lines(bay, BAY, tmp_path / "as it is", ["l2"], "wav")[0].path)
    edit(bay, SetTreatment(line_id="l2", treatment=hall))
    made = read_wav(export_lines(bay, BAY, tmp_path / "hall", ["l2"], "wav")[0].path)
    assert len(made) > len(plain) + 48_000
    assert np.abs(made[len(plain) + 4_800 :]).max() > 1e-4
    loudness = [measure_loudness(each).integrated_lufs for each in (plain, made[: len(plain)])]
    assert loudness[1] == pytest.approx(loudness[0], abs=1.5)
    assert measure_loudness(made).true_peak_db <= -1


def test_work_on_a_bed_is_stopped_before_it_changes_anything(bay: Workspace) -> None:
    class Stopped(Unwatched):
        """Stops at the last word the work says."""

        def report(self, done: int, total: int, note: str = "") -> None:
            if total and done == total:
                raise CancelledError("Stopped.")

    before = bay.head(BAY).revision
    works = (
        lambda: cut_bed(bay, BAY, "b1", Stopped()),
        lambda: loop_bed(bay, BAY, "b1", Stopped()),
        lambda: beats_for_cuts(bay, BAY, "b1", watcher=Stopped()),
        lambda: duck_for_words(bay, BAY, "b1", Stopped()),
        lambda: sing_line(bay, BAY, "l2", typed_tune("c d e"), Stopped()),
    )
    for work in works:
        with pytest.raises(CancelledError):
            work()
    assert bay.head(BAY).revision == before


def test_a_shipped_sound_that_was_played_is_known_on_the_shelf(workspace: Workspace) -> None:
    assert sound_item(workspace, None, "effect-pop").clip_hash is None
    clip = clip_of_sound(workspace, sound_item(workspace, None, "effect-pop"))
    assert sound_item(workspace, None, "effect-pop").clip_hash == clip.hash
