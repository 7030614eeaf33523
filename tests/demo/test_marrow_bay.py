"""The sample project: its scenes move and differ, its bed repeats, its script is what the README says."""

import itertools

import av
import numpy as np
import pytest
import skia

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.project import said_text
from fox_cadence.demo.bajamar import SPANISH_ID
from fox_cadence.demo.clips import WITH_SEA, bed_music, draw_clip, sea
from fox_cadence.demo.hikishio import JAPANESE_ID
from fox_cadence.demo.marrow_bay import PROJECT_ID
from fox_cadence.demo.samples import ensure_samples
from fox_cadence.demo.scenes import SCENES
from fox_cadence.drawn.brush import Brush

SIDE = (108, 192)


def painted(scene: str, seconds: float) -> np.ndarray:
    surface = skia.Surface(*SIDE)
    with surface as canvas:
        SCENES[scene](Brush(canvas, *SIDE, seconds))
    return np.asarray(
        surface.makeImageSnapshot().toarray(colorType=skia.kRGBA_8888_ColorType)[..., :3], np.int16
    )


@pytest.mark.parametrize("scene", sorted(SCENES))
def test_a_scene_moves_and_paints_the_same_twice(scene: str) -> None:
    first, later = painted(scene, 1.0), painted(scene, 2.0)
    assert np.mean(np.abs(first - later)) > 0.2
    assert np.array_equal(first, painted(scene, 1.0))


def test_every_cut_between_scenes_is_seen() -> None:
    order = list(SCENES)
    for before, after in itertools.pairwise(order):
        assert np.mean(np.abs(painted(before, 3.0) - painted(after, 0.5))) > 12, f"{before} to {after}"


def test_the_sea_and_the_bed_are_the_same_each_time_and_never_too_loud() -> None:
    for sound in (sea(2.0), bed_music()):
        assert np.max(np.abs(sound)) <= 1
        assert np.sqrt(np.mean(np.square(sound, dtype=np.float64))) > 0.01
    assert np.array_equal(sea(1.0), sea(1.0))
    assert np.array_equal(bed_music(), bed_music())


def test_a_clip_has_its_length_size_and_sound(tmp_path) -> None:  # type: ignore[no-untyped-def]
    calls: list[tuple[int, int]] = []
    for scene in ("bay", "crab"):
        draw_clip(
            scene, 0.5, 64, 112, tmp_path / f"{scene}.mp4", lambda done, total: calls.append((done, total))
        )
        with av.open(str(tmp_path / f"{scene}.mp4")) as clip:
            assert sum(1 for _ in clip.decode(video=0)) == 15
            assert bool(clip.streams.audio) is (scene in WITH_SEA)
    assert calls[-1] == (15, 15)


def test_the_script_is_what_the_readme_promises(demo: Workspace) -> None:
    project = demo.head(PROJECT_ID).project
    seconds = sum(shot.length_frames for shot in project.shots) / 30
    assert 35 < seconds < 45
    assert len(project.shots) == 9
    assert [role.name for role in project.roles] == ["narrator", "limpet"]
    assert len(project.captions) == 8
    assert len(project.scene_texts) == 2
    assert len(project.beds) == 1
    assert sum(shot.locked for shot in project.shots) == 2
    assert len({said_text(project, line) for line in project.lines}) == 10
    assert all(clip.kind == "video" for clip in project.clips.values() if clip.kind != "sound")


def test_the_spanish_sample_says_the_name_of_the_bay_by_its_lexicon(demo: Workspace) -> None:
    project = demo.head(SPANISH_ID).project
    assert project.language == "es"
    assert len(project.lines) == 10
    take = demo.takes_of(project)[project.line("l1").take_id or ""]
    assert take.request is not None
    assert [mark.spelled for mark in take.request.pronunciations] == ["márou", "béi"]
    assert [word.text for word in take.words][-2:] == ["Marrow", "Bay."]


def test_the_japanese_sample_is_fitted_before_it_is_voiced(demo: Workspace) -> None:
    project = demo.head(JAPANESE_ID).project
    english = demo.head(PROJECT_ID).project
    assert [caption.text for caption in project.captions] == [each.text for each in english.captions]
    spans = demo.timeline(project).lines
    assert all(span.take is None and span.foreseen for span in spans)
    assert all(span.lengths == span.line.placement.spans for span in spans if span.line.placement)
    assert all(span.line.placement for span in spans)
    assert all(len(span.words) >= 2 for span in spans)


def test_asking_for_the_sample_again_changes_nothing(demo: Workspace) -> None:
    before = demo.head(PROJECT_ID)
    assert ensure_samples(demo) == PROJECT_ID
    assert demo.head(PROJECT_ID) == before
