"""What lies past the end of the piece is named, wherever it is shown or exported."""

from fox_cadence.core.edits import SetShotLength
from fox_cadence.core.outside import outside_of
from fox_cadence.core.pass_status import pass_statuses
from fox_cadence.core.screen import screen_of
from fox_cadence.core.timeline_builder import build_timeline
from fox_cadence.media.fonts import faces_of
from tests.builders import simple_project, take_of, voiced


def test_nothing_of_a_piece_that_has_room_is_outside() -> None:
    assert outside_of(voiced(simple_project(["one two", "three"], 3.0), [1.0, 1.0])) == ()


def test_a_shot_that_becomes_shorter_leaves_its_caption_and_speech_outside_and_that_is_said() -> None:
    project = simple_project(["one two", "three four five"], 4.0)
    shorter, _ = SetShotLength(shot_id="s2", length_frames=90).apply(project)
    takes = {take.id: take for take in (take_of(project, line, 3.5) for line in project.lines)}
    lines = tuple(line.changed(take_id=f"take-{line.id}") for line in shorter.lines)
    timeline = build_timeline(shorter.changed(lines=lines), takes)
    found = outside_of(timeline)
    assert [each.text for each in found] == [
        "line 2 ends 0.60 s after the piece",
        "caption 2 goes on 1.00 s after the piece",
    ]
    passes = {each.name: each.open_text for each in pass_statuses(timeline, 0)}
    assert passes["fit"].endswith("2 past the end")
    assert passes["export"].endswith("2 past the end")


def test_what_begins_after_the_end_is_wholly_outside() -> None:
    project = simple_project(["one", "two"], 1.0)
    timeline = voiced(project, [5.0, 1.0])
    assert "line 2 lies wholly after the end of the piece" in [each.text for each in outside_of(timeline)]


def test_captions_with_signs_that_cannot_be_drawn_are_counted() -> None:
    timeline = build_timeline(simple_project(["a rune \U00010350", "a crab 🦀", "plain"], 4.0), {})
    passes = {each.name: each.open_text for each in pass_statuses(timeline, 0, faces_of("en"))}
    assert passes["lettering"] == "1 can't be drawn"


def test_one_shot_is_one_shot() -> None:
    texts = {each.name: each.text for each in pass_statuses(voiced(simple_project(["one"], 4.0), [1.0]), 1)}
    assert texts["picture"].startswith("1 shot, 4.0 s")
    assert texts["export"] == "1 file made"


def test_captions_that_overlap_are_all_on_the_screen_in_their_order() -> None:
    project = simple_project(["one", "two"], 2.0)
    over = project.captions[0].changed(out_frames=90)
    shown = screen_of(
        build_timeline(project.changed(captions=(over, project.captions[1])), {}), faces_of("en")
    )
    assert [each.caption_id for each in shown.captions if each.in_frame <= 70 < each.out_frame] == [
        "c1",
        "c2",
    ]
