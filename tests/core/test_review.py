"""Review links as the core knows them: until when they open, and where notes stand after changes."""

from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.review import Link, ShownCue, ShownShot, frame_now, moment_at, standing
from fox_cadence.core.review.shown import shown_of
from tests.builders import simple_project, voiced

MADE = Link("a", "secret", "p", 3, "a.mp4", "2026-03-01T10:00:00.000+00:00")


def link(**fields: object) -> Link:
    return Link(**{name: getattr(MADE, name) for name in Link.__slots__} | fields)


def test_a_link_is_open_until_its_time_or_until_it_is_revoked() -> None:
    until = "2026-03-02T22:59:59.999+00:00"
    assert standing(MADE, "2126-01-01T00:00:00.000+00:00") == "open"
    assert standing(link(until=until), "2026-03-02T22:59:59.998+00:00") == "open"
    assert standing(link(until=until), until) == "over"
    assert standing(link(until=until, revoked_at=until), "2026-03-01T11:00:00.000+00:00") == "revoked"


def test_a_link_that_opens_once_is_open_for_who_has_opened_it() -> None:
    once = link(once=True, taken_at="2026-03-01T11:00:00.000+00:00")
    assert standing(link(once=True), "2026-03-01T10:30:00.000+00:00") == "open"
    assert standing(once, "2026-03-01T12:00:00.000+00:00") == "used"
    assert standing(once, "2026-03-01T12:00:00.000+00:00", known=True) == "open"


lengths = st.lists(st.integers(1, 90), min_size=1, max_size=6)


def shots_of(frames: list[int], names: list[int]) -> list[ShownShot]:
    made, at = [], 0
    for name, length in zip(names, frames, strict=True):
        made.append(ShownShot(id=str(name), name=str(name), start_frame=at, end_frame=at + length))
        at += length
    return made


@given(lengths, st.data())
def test_a_note_comes_back_to_its_frame_and_goes_with_its_shot(
    frames: list[int], data: st.DataObject
) -> None:
    before = shots_of(frames, list(range(len(frames))))
    frame = data.draw(st.integers(0, sum(frames) - 1))
    moment = moment_at(before, frame)
    assert moment is not None
    assert frame_now(moment, {each.id: each for each in before}) == frame
    order = data.draw(st.permutations(range(len(frames))))
    cut = data.draw(st.lists(st.integers(1, 90), min_size=len(frames), max_size=len(frames)))
    after = {each.id: each for each in shots_of(cut, list(order))}
    now = frame_now(moment, after)
    shot = after[moment.shot_id]
    assert now is not None
    assert shot.start_frame <= now < shot.end_frame
    if moment.frame < shot.end_frame - shot.start_frame:
        assert now - shot.start_frame == moment.frame
    del after[moment.shot_id]
    assert frame_now(moment, after) is None


def test_notes_past_the_ends_are_at_the_ends_and_without_shots_nowhere() -> None:
    shots = shots_of([10, 20], [1, 2])
    last = moment_at(shots, 400)
    assert last is not None
    assert (last.shot_id, last.frame) == ("2", 19)
    assert moment_at([], 3) is None


def test_beside_a_part_is_only_what_is_in_it_in_its_own_seconds() -> None:
    timeline = voiced(simple_project(["One pool.", "Two crabs.", "Three."], seconds=4.0), [1.5, 1.5, 1.5])
    cues = tuple(ShownCue(start_s=4.0 * n + 1, end_s=4.0 * n + 3, text=str(n)) for n in range(3))
    whole = shown_of(timeline, cues, (216, 384), 0, 360)
    assert [each.text for each in whole.transcript] == ["One pool.", "Two crabs.", "Three."]
    assert whole.seconds == 12
    part = shown_of(timeline, cues, (216, 384), 120, 240)
    assert [each.text for each in part.captions] == ["1"]
    assert (part.captions[0].start_s, part.captions[0].end_s) == (1.0, 3.0)
    assert [each.text for each in part.transcript] == ["Two crabs."]
    assert part.transcript[0].start_s < 4
    assert part.frame_at(1.0) == 150  # of the piece: notes are held to shots of the piece
