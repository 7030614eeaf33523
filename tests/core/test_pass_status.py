"""How a piece stands, and what is on the screen."""

import pytest

from fox_cadence.core.lettering.style import Lettering
from fox_cadence.core.lettering.styles import STYLES
from fox_cadence.core.pass_status import pass_statuses, sync_status, too_fast
from fox_cadence.core.project import Project
from fox_cadence.core.screen import Screen, ScreenShot, screen_of
from fox_cadence.core.sound.bed import Bed
from fox_cadence.core.ticks import FrameRate, seconds_to_ticks
from fox_cadence.core.timeline_builder import build_timeline
from fox_cadence.media.fonts import faces_of
from tests.builders import simple_project, voiced


def open_texts(project: Project, exported: int = 0) -> dict[str, str]:
    return {each.name: each.open_text for each in pass_statuses(build_timeline(project, {}), exported)}


def test_each_pass_says_what_is_open() -> None:
    project = simple_project(["one two", "three"])
    found = open_texts(project)
    assert list(found) == ["picture", "words", "cast", "fit", "lettering", "sound", "export"]
    assert found["words"] == "2 unvoiced"
    assert found["export"] == "2 unvoiced"
    assert found["picture"] == found["cast"] == found["sound"] == ""


def test_a_spilling_line_is_open_until_it_fits() -> None:
    tight = {
        each.name: each for each in pass_statuses(voiced(simple_project(["one", "two"], 2.0), [1.0, 3.5]), 0)
    }
    assert tight["fit"].open_text == "1 spills, 1 past the end"
    assert tight["fit"].text == "1 sits"
    assert "1 spilling" in tight["export"].open_text
    roomy = {
        each.name: each for each in pass_statuses(voiced(simple_project(["one", "two"], 2.0), [1.0, 1.2]), 3)
    }
    assert roomy["fit"].open_text == ""
    assert roomy["fit"].text == "2 sit"
    assert (roomy["export"].open_text, roomy["export"].text) == ("", "3 files made")


def test_passes_say_what_there_is() -> None:
    project = simple_project(["one", "two"])
    locked = project.shots[0].changed(locked=True)
    project = project.changed(
        shots=(locked, project.shots[1]),
        lines=project.lines[:1],
        captions=project.captions[:1],
        beds=(Bed(clip_hash="a" * 64, duck_db=9),),
    )
    texts = {each.name: each.text for each in pass_statuses(build_timeline(project, {}), 0)}
    assert texts["picture"] == "2 shots, 8.0 s, 1 locked"
    assert texts["words"] == "1 caption, 0.3 s, 1 shot silent"
    assert texts["cast"] == "narrator"
    assert texts["sound"] == "bed ducks 9 dB"
    assert texts["lettering"] == STYLES[0].name


def test_a_caption_is_too_fast_where_reading_takes_longer() -> None:
    project = simple_project(["a line of forty-four characters or even more"])
    short = project.captions[0].changed(out_frames=30)
    timeline = build_timeline(project.changed(captions=(short,)), {})
    assert [span.caption.id for span in too_fast(timeline)] == ["c1"]
    assert too_fast(build_timeline(project, {})) == []


def test_sync_is_worst_where_speech_runs_past_its_room_and_its_caption() -> None:
    project = simple_project(["one two", "three"], 2.0)
    late = project.captions[1].changed(in_frames=15)
    project = project.changed(captions=(project.captions[0], late))
    found = sync_status(voiced(project, [2.4, 1.0]))
    assert found.worst_spill_ticks == pytest.approx(seconds_to_ticks(0.1 + 2.4 + 0.15 - 2.0), abs=1)
    # frames of the first line past its caption, or of the second before its own
    assert found.worst_caption_frames == 15
    assert found.slowest == found.fastest == 1.0
    assert found.idle_ticks >= 0
    nothing = sync_status(build_timeline(project.changed(lines=()), {}))
    assert (nothing.worst_spill_ticks, nothing.worst_caption_frames, nothing.idle_ticks) == (0, 0, 0)


def test_a_dissolve_comes_up_in_even_steps() -> None:
    shot = ScreenShot(None, "#000000", 0, 100, 140, fade_frames=4)
    assert [round(shot.share_at(frame), 3) for frame in range(100, 106)] == [0.2, 0.4, 0.6, 0.8, 1.0, 1.0]
    assert ScreenShot(None, "#000000", 0, 0, 9).share_at(0) == 1.0
    assert Screen(2, 2, FrameRate(numerator=30), (), ()).total_frames == 0


def test_words_light_up_in_turn_and_empty_captions_are_not_drawn() -> None:
    project = simple_project(["one two three", " "], 3.0).changed(lettering=Lettering(style=STYLES[1]))
    made = screen_of(voiced(project.changed(lines=project.lines[:1]), [1.5]), faces_of("en"))
    assert [caption.caption_id for caption in made.captions] == ["c1"]
    shown = made.captions[0]
    lit = [shown.shown_at(frame).word for frame in range(shown.in_frame, shown.out_frame)]
    words = [word for word in lit if word is not None]
    assert words == sorted(words)
    assert set(words) == {0, 1, 2}
    assert lit[3] == 0  # the line begins 0.1 s into its shot
    assert made.total_frames == 180
