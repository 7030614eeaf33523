"""What an editor may ask of a fit beyond the house limits, one wish a test."""

import pytest

from fox_cadence.core.edits import (
    Edit,
    PinCaption,
    SetBeats,
    SetHouse,
    SetLane,
    SetLineRoom,
    SetLock,
    SetOnBeat,
    SetPause,
    SetSettings,
    SetShotGivesWay,
    SetShotLimits,
    SetSync,
    SetTransition,
    apply_all,
)
from fox_cadence.core.fit.conflicts import find_conflict
from fox_cadence.core.fit.plan import planned_words
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.reasons import Reasons, caption_reason, shot_use
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.fit.wishes import wishes_of
from fox_cadence.core.project import Project
from fox_cadence.core.ticks import seconds_to_ticks, ticks_to_seconds
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project, take_of

TEXTS = ["one two three four", "five six seven", "eight nine ten"]


def timeline(*edits: Edit, lengths: tuple[float, ...] = (2.0, 2.0, 2.0), seconds: float = 3.0) -> Timeline:
    """Three lines on three shots, after edits, with takes of these lengths."""
    project, _ = apply_all(simple_project(TEXTS[: len(lengths)], seconds), edits)
    return resolved(project, lengths)


def resolved(project: Project, lengths: tuple[float, ...] = (2.0, 2.0, 2.0)) -> Timeline:
    takes = {
        f"take-{line.id}": take_of(project, line, each)
        for line, each in zip(project.lines, lengths, strict=True)
    }
    lines = tuple(line.changed(take_id=f"take-{line.id}") for line in project.lines)
    return build_timeline(project.changed(lines=lines), takes)


def test_a_j_cut_and_an_l_cut_are_used_before_anything_spills() -> None:
    tight = timeline(lengths=(2.0, 3.9, 1.0), seconds=3.0)
    picture = SetSettings(give_way="picture")
    assert propose(timeline(picture, lengths=(2.0, 3.9, 1.0))).lines[1].spill_ticks > 0
    room = SetLineRoom(line_id="l2", j_cut_s=0.5, l_cut_s=0.5)
    plan = propose(timeline(picture, room, lengths=(2.0, 3.9, 1.0))).lines[1]
    assert plan.spill_ticks == 0
    assert plan.early_ticks > 0
    assert plan.early_ticks <= seconds_to_ticks(0.5)
    assert plan.late_ticks <= seconds_to_ticks(0.5)
    assert plan.sum.adds_up
    assert tight.lines[1].early_ticks == 0


def test_a_written_pause_keeps_its_length_while_natural_ones_close() -> None:
    written = SetPause(line_id="l1", after_word=1, seconds=0.7)
    proposal = propose(timeline(SetSettings(give_way="picture"), written, lengths=(2.6, 1.0, 1.0)))
    plan = proposal.lines[0]
    assert plan.written_ticks == seconds_to_ticks(0.7)
    assert plan.pace > 1.1
    closing = timeline(
        SetSettings(give_way="picture"), SetHouse(close_written_pauses=True), written, lengths=(2.6, 1.0, 1.0)
    )
    assert propose(closing).lines[0].pause_ticks < seconds_to_ticks(0.7)


def test_a_word_held_to_a_frame_begins_there() -> None:
    held = timeline(SetSync(line_id="l2", word=1, shot_id="s2", frames=30))
    proposal = propose(held)
    words = planned_words(held, proposal.lines)["l2"]
    start = sum(proposal.shot_frames[:1])
    assert words[1][0] == pytest.approx(held.project.rate.ticks(start + 30), abs=2 * 14_700)
    assert proposal.misses == ()
    first = propose(timeline(SetSync(line_id="l3", word=0, shot_id="s3")))
    assert first.lines[2].start_ticks == pytest.approx(
        held.project.rate.ticks(sum(first.shot_frames[:2])), abs=2 * 14_700
    )


def test_a_line_of_the_second_lane_may_sound_over_the_first() -> None:
    apart = propose(timeline(SetLane(line_id="l2", lane=1)))
    assert apart.lines[1].start_ticks >= apart.lines[0].end_ticks
    moved = simple_project(TEXTS, 3.0)
    lines = tuple(
        line.changed(first_shot_id="s1", last_shot_id="s1") if line.id == "l2" else line
        for line in moved.lines
    )
    captions = tuple(c.changed(shot_id="s1") if c.id == "c2" else c for c in moved.captions)
    crowded = moved.changed(lines=lines, captions=captions)
    both, _ = apply_all(crowded, [SetLane(line_id="l2", lane=1, may_overlap=True)])
    over = propose(resolved(both))
    assert over.lines[1].start_ticks < over.lines[0].end_ticks
    assert over.lines[1].spill_ticks == 0


def test_a_pinned_caption_is_followed_by_its_words_and_a_locked_one_keeps_its_frames() -> None:
    project = simple_project(TEXTS, 4.0)
    late = tuple(
        caption.changed(in_frames=40, out_frames=118) if caption.id == "c2" else caption
        for caption in project.captions
    )
    for edit in (PinCaption(caption_id="c2", pinned=True), SetLock(what="caption", id="c2", locked=True)):
        changed, _ = apply_all(project.changed(captions=late), [edit])
        made = resolved(changed)
        proposal = propose(made)
        start = sum(proposal.shot_frames[:1])
        assert proposal.captions[1] == ("c2", start + 40, start + 118)
        assert proposal.lines[1].start_ticks >= made.project.rate.ticks(start + 40)
        assert proposal.lines[1].end_ticks <= made.project.rate.ticks(start + 118)


def test_dissolves_overlap_and_the_piece_is_shorter_by_them() -> None:
    made = timeline(SetTransition(shot_id="s1", frames=10))
    assert [(span.start_frame, span.end_frame) for span in made.shots] == [(0, 90), (80, 170), (170, 260)]
    proposal = propose(made)
    assert proposal.status is Status.SOLVED
    assert proposal.misses == ()


def test_a_caption_is_kept_readable_at_the_cost_of_what_follows() -> None:
    long = "an extraordinarily long caption that nobody could read in a second and a half, surely"
    project = simple_project([long, "Next.", "Last."], 3.0)
    proposal = propose(resolved(project, (1.2, 0.5, 0.5)))
    (_, start, end), (_, following, _), _ = proposal.captions
    assert end - start >= 30 * len(long) / 20 - 1 or end == following
    assert not [miss for miss in proposal.misses if "read" in miss.rule]
    assert "readable" in caption_reason(
        resolved(project, (1.2, 0.5, 0.5)), proposal, 0, proposal.lines[0].end_ticks
    )


def test_a_piece_of_fixed_length_lasts_just_that() -> None:
    made = timeline(SetSettings(longest_s=8.4), SetSettings(length_fixed=True))
    assert sum(propose(made).shot_frames) == 252


def test_cuts_asked_for_lie_on_beats_at_the_least_cost() -> None:
    beats = SetBeats(times_s=[0.0, 0.7, 1.4, 2.1, 2.8, 3.5, 4.2, 4.9, 5.6, 6.3, 7.0, 7.7, 8.4, 9.1])
    asked = [SetOnBeat(shot_id=shot, on_beat=True) for shot in ("s2", "s3")]
    proposal = propose(timeline(beats, *asked))
    cuts = [sum(proposal.shot_frames[:1]), sum(proposal.shot_frames[:2])]
    on = {round(beat * 30) for beat in beats.times_s}
    assert set(cuts) <= on
    every = [(a, b) for a in sorted(on) for b in sorted(on) if 68 <= a <= 112 and 68 <= b - a <= 112]
    costs = {pair: cost_with_cuts(pair) for pair in every}
    assert proposal.cost == pytest.approx(min(costs.values()), rel=1e-5)


def cost_with_cuts(cuts: tuple[int, int]) -> float:
    """The cost of the same piece with its cuts held at these frames, the wanted lengths as they were."""
    project = simple_project(TEXTS, 3.0)
    lengths = (cuts[0], cuts[1] - cuts[0])
    shots = tuple(
        shot.changed(shortest_frames=length, longest_frames=length)
        for shot, length in zip(project.shots, lengths, strict=False)
    )
    return propose(resolved(project.changed(shots=(*shots, project.shots[2])))).cost


def test_the_smallest_contradiction_is_named_and_the_rest_is_still_fitted() -> None:
    project, _ = apply_all(
        simple_project(TEXTS, 3.0),
        [
            SetSync(line_id="l2", word=0, shot_id="s2", frames=50),
            SetSync(line_id="l2", word=2, shot_id="s2", frames=70),
            SetLock(what="shot", id="s1", locked=True),
            SetSync(line_id="l3", word=0, shot_id="s3", frames=10),
        ],
    )
    assert propose(resolved(project)).status is Status.INFEASIBLE
    conflict = find_conflict(project, resolved)
    assert sorted(wish.label for wish in conflict.wishes) == [
        "“five” of line 2 is held to frame 50 of shot 2",
        "“seven” of line 2 is held to frame 70 of shot 2",
    ]
    assert len(conflict.let_go) == 1
    assert conflict.best is not None
    assert conflict.best.misses == ()
    mended, _ = apply_all(project, conflict.let_go[0].edits)
    assert propose(resolved(mended)).cost == pytest.approx(conflict.best.cost)


def test_locks_that_exceed_the_length_are_named() -> None:
    project, _ = apply_all(
        simple_project(TEXTS, 3.0),
        [SetLock(what="shot", id=shot, locked=True) for shot in ("s1", "s2", "s3")]
        + [SetSettings(longest_s=8)],
    )
    conflict = find_conflict(project, resolved)
    labels = [wish.label for wish in conflict.wishes]
    assert "the piece may last no longer than 8.00 s" in labels
    assert any("locked" in label for label in labels)
    for wish in conflict.let_go:
        project = wish.let_go(project)
    assert propose(resolved(project)).status is Status.SOLVED


def test_the_rules_that_bind_a_line_are_named_hardest_first() -> None:
    made = timeline(SetLock(what="shot", id="s1", locked=True), lengths=(3.6, 1.0, 1.0))
    proposal = propose(made)
    assert proposal.basis is not None
    reasons = Reasons(made, proposal.basis)
    texts = [reason.text for reason in reasons.of_line(0)]
    assert "shot 1 is locked" in texts
    assert "the fastest pace of the house, ×1.15" in texts
    press = [reason.press for reason in reasons.of_line(0)]
    assert press == sorted(press, reverse=True)
    assert "line 1 asks it to be longer" in [reason.text for reason in reasons.of_shot(0)]


def test_the_desk_of_a_shot_knows_who_uses_its_time() -> None:
    made = timeline()
    use = shot_use(made, 0, 30)
    assert use.spoken == ((0, made.lines[0].end_ticks - made.lines[0].start_ticks),)
    length = made.project.rate.ticks(90)
    assert use.idle_ticks == length - use.spoken[0][1]
    free = ticks_to_seconds(length - made.project.house.tail_ticks - made.lines[0].end_ticks)
    assert use.could_give == int(free * 30)


def test_every_wish_has_a_name_and_is_let_go_alone() -> None:
    project, _ = apply_all(
        simple_project(TEXTS, 3.0),
        [
            SetSettings(longest_s=9, length_fixed=True, give_way="picture"),
            SetLock(what="shot", id="s1", locked=True),
            SetShotGivesWay(shot_id="s2", give_way="picture"),
            SetShotLimits(shot_id="s3", shortest_frames=80, longest_frames=100),
            SetBeats(times_s=[3.0, 6.0]),
            SetOnBeat(shot_id="s2", on_beat=True),
            SetLock(what="caption", id="c1", locked=True),
            SetSync(line_id="l2", word=1, shot_id="s2", frames=30),
            SetSync(line_id="l2", word=0, shot_id="s2"),
            SetLock(what="line", id="l3", locked=True),
        ],
    )
    wishes = wishes_of(project)
    assert {wish.label for wish in wishes} == {
        "the piece must last 9.00 s",
        "picture leads, so no shot gives way",
        "shot 1 is locked",
        "shot 2 does not give way",
        "the cut to shot 2 lies on a beat",
        "shot 3 has limits of its own",
        "caption 1 is locked",
        "line 3 is locked",
        "“five” of line 2 is held to the cut to shot 2",
        "“six” of line 2 is held to frame 30 of shot 2",
    }
    for wish in wishes:
        left = [other.label for other in wishes_of(wish.let_go(project))]
        assert sorted([*left, wish.label]) == sorted(other.label for other in wishes)


def test_a_piece_without_wishes_contradicts_nothing() -> None:
    conflict = find_conflict(simple_project(TEXTS, 3.0), resolved)
    assert conflict.wishes == ()
    assert "house limits" in conflict.reason


def test_one_wish_that_cannot_be_had_is_named_alone() -> None:
    project, _ = apply_all(simple_project(TEXTS, 3.0), [SetSettings(longest_s=2)])
    conflict = find_conflict(project, resolved)
    assert conflict.reason == (
        "This can't be had within the house limits: the piece may last no longer than 2.00 s."
    )
    assert conflict.best is not None
    assert conflict.best.status is Status.SOLVED
