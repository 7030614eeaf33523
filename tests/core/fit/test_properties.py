"""What must hold for every fit of every timeline."""

import itertools
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from fox_cadence.core.fit.ending import wishes_against
from fox_cadence.core.fit.plan import Proposal, project_with_shots
from fox_cadence.core.fit.program import build_program
from fox_cadence.core.fit.proposal import apply_proposal, propose
from fox_cadence.core.fit.solver import Status, solve, worst_violation
from fox_cadence.core.fit.statement import state_problem
from fox_cadence.core.outside import HEARD_TICKS
from fox_cadence.core.shot import Clip
from fox_cadence.core.shot_limits import shot_limits_frames
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import Timeline, shot_spans
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project, timelines, voiced


def solved(timeline: Timeline) -> Proposal:
    proposal = propose(timeline)
    assume(proposal.status is Status.SOLVED)
    return proposal


@given(timelines(wishes=False))
def test_without_wishes_of_its_own_a_piece_can_always_be_fitted(timeline: Timeline) -> None:
    proposal = propose(timeline)
    assert proposal.status is Status.SOLVED, proposal.reason
    assert proposal.misses == ()


@settings(max_examples=120)
@given(timelines())
def test_every_rule_holds_on_the_whole_frame_result(timeline: Timeline) -> None:
    """Measured by other code than that which states the rules; a caption that leads may cost its neighbours
    words."""
    proposal = solved(timeline)
    led = any(caption.pinned for caption in timeline.project.captions)
    broken = [miss for miss in proposal.misses if not (led and "caption" in miss.rule)]
    assert broken == []


@given(timelines())
def test_locked_shots_keep_both_their_cuts(timeline: Timeline) -> None:
    proposal = solved(timeline)
    after = shot_spans(project_with_shots(timeline.project, proposal.shot_frames))
    for old, new in zip(timeline.shots, after, strict=True):
        if old.shot.locked:
            assert (new.start_frame, new.end_frame) == (old.start_frame, old.end_frame)


@given(timelines(), st.data())
def test_locked_captions_and_lines_come_out_as_they_went_in(timeline: Timeline, data: st.DataObject) -> None:
    assume(timeline.captions)
    chosen = data.draw(st.sampled_from(timeline.captions)).caption.id
    project = timeline.project
    captions = tuple(c.changed(locked=c.id == chosen) for c in project.captions)
    line = next(line for line in project.lines if chosen in line.caption_ids)
    lines = tuple(each.changed(locked=each.id == line.id) for each in project.lines)
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    locked = build_timeline(project.changed(captions=captions, lines=lines), takes)
    proposal = solved(locked)
    before = next(span for span in locked.captions if span.caption.id == chosen)
    assert (chosen, before.in_frame, before.out_frame) in proposal.captions
    plan = next(plan for plan in proposal.lines if plan.line_id == line.id)
    span = next(span for span in locked.lines if span.line.id == line.id)
    assert (plan.start_ticks, plan.end_ticks) == (span.start_ticks, span.end_ticks)


@given(timelines())
def test_lines_keep_their_order_and_never_sound_together(timeline: Timeline) -> None:
    proposal = solved(timeline)
    for lane in (0, 1):
        own = [plan for plan in proposal.lines if timeline.project.line(plan.line_id).lane == lane]
        for before, after in itertools.pairwise(own):
            assert after.start_ticks >= before.end_ticks


@given(timelines())
def test_a_line_of_the_second_lane_sounds_over_the_first_only_where_it_may(timeline: Timeline) -> None:
    proposal = solved(timeline)
    for one, other in itertools.combinations(proposal.lines, 2):
        lines = [timeline.project.line(plan.line_id) for plan in (one, other)]
        if any(line.lane == 1 and line.may_overlap for line in lines):
            continue
        assert other.start_ticks >= one.end_ticks


@given(timelines())
def test_shots_stay_within_their_limits_and_their_handles(timeline: Timeline) -> None:
    proposal = solved(timeline)
    for position, frames in enumerate(proposal.shot_frames):
        low, high = shot_limits_frames(timeline.project, position)
        shot = timeline.project.shots[position]
        if position + 1 == len(proposal.shot_frames) and frames > high:
            continue  # held for the words: the test of the end of the piece is further down
        assert low <= frames <= high or frames == shot.length_frames


@given(timelines())
def test_paces_stay_within_the_house_limits(timeline: Timeline) -> None:
    house = timeline.project.house
    for plan in solved(timeline).lines:
        assert house.slowest_pace - 1e-9 <= plan.pace <= house.fastest_pace + 1e-9


@given(timelines(wishes=False))
def test_a_line_spills_only_when_everything_else_is_at_its_limit(timeline: Timeline) -> None:
    """Where speech may adapt, a spilling line is at the fastest pace and the shortest pauses."""
    proposal = solved(timeline)
    assume(timeline.project.give_way != "voice")
    house = timeline.project.house
    for span, plan in zip(timeline.lines, proposal.lines, strict=True):
        if plan.spill_ticks > seconds_to_ticks(0.002):
            assert plan.pace > house.fastest_pace - 2e-3
            rests = [rest for part in span.speech.spans for rest in part.natural_rests]
            least = sum(min(pause, house.shortest_pause_ticks) for pause in rests)
            assert plan.pause_ticks <= least + seconds_to_ticks(0.002)


@given(timelines())
def test_the_sums_add_up_to_the_tick(timeline: Timeline) -> None:
    for plan in solved(timeline).lines:
        assert plan.sum.adds_up
        assert plan.sum.length_ticks == plan.end_ticks - plan.start_ticks


@given(timelines(locks=False))
def test_fitting_a_fitted_timeline_changes_nothing(timeline: Timeline) -> None:
    first = solved(timeline)
    fitted = apply_proposal(timeline.project, first, {})
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    again = propose(build_timeline(fitted, takes))
    assume(timeline.project.give_way != "picture")
    assert again.shot_frames == first.shot_frames
    assert again.captions == first.captions
    for a, b in zip(first.lines, again.lines, strict=True):
        assert (a.start_ticks, a.lengths) == (b.start_ticks, b.lengths)


@given(timelines(locks=False))
def test_cost_never_rises_when_a_limit_is_widened(timeline: Timeline) -> None:
    problem = state_problem(timeline)
    wider = replace(
        problem,
        shots=replace(
            problem.shots, longest=problem.shots.longest * 1.2, shortest=problem.shots.shortest * 0.9
        ),
        lines=replace(problem.lines, end_margin=problem.lines.end_margin - 0.1),
        limits=replace(problem.limits, fastest=problem.limits.fastest * 1.1),
    )
    narrow, wide = solve(build_program(problem)), solve(build_program(wider))
    assume(narrow.status is Status.SOLVED)
    assert wide.cost <= narrow.cost + 1e-6 * max(1.0, narrow.cost)


@given(timelines())
def test_rounding_moves_no_cut_by_more_than_two_frames(timeline: Timeline) -> None:
    """One frame by rounding, one more where the other neighbour was the better one."""
    proposal = solved(timeline)
    assert proposal.basis is not None
    problem = proposal.basis.problem
    exact = np.cumsum(solve(build_program(problem)).x[: len(problem.shots)]) / problem.frame_s
    assert np.max(np.abs(np.cumsum(proposal.shot_frames) - exact), initial=0) <= 2


@given(timelines(), st.floats(0.7, 1.3))
def test_the_longest_length_is_kept_or_the_contradiction_is_named(timeline: Timeline, share: float) -> None:
    project = timeline.project
    longest = int(timeline.total_ticks * share)
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    proposal = propose(build_timeline(project.changed(longest_ticks=longest), takes))
    if proposal.status is Status.SOLVED:
        after = shot_spans(project_with_shots(project, proposal.shot_frames))
        assert project.rate.ticks(after[-1].end_frame) <= longest
    else:
        assert proposal.reason


@settings(max_examples=120)
@given(timelines())
def test_nothing_lies_outside_the_piece_or_what_stands_against_it_is_named(timeline: Timeline) -> None:
    """The last shot is held past its limits only where words need it, and no longer than they do."""
    proposal = solved(timeline)
    after = shot_spans(project_with_shots(timeline.project, proposal.shot_frames))
    end = timeline.project.rate.ticks(after[-1].end_frame)
    past = [plan.end_ticks for plan in proposal.lines if plan.end_ticks > end + HEARD_TICKS]
    past += [out for _, _, out in proposal.captions if out > after[-1].end_frame]
    assert bool(past) == bool(proposal.outside)
    if proposal.outside:
        project = timeline.project
        locked = [
            *(each for each in project.captions if each.locked),
            *(each for each in project.lines if each.locked),
        ]
        assert wishes_against(timeline.project, proposal) or locked
    _, high = shot_limits_frames(timeline.project, len(after) - 1)
    if proposal.shot_frames[-1] > max(high, timeline.shots[-1].shot.length_frames):
        needed = max(plan.end_ticks for plan in proposal.lines) + timeline.project.house.tail_ticks
        shown = max(out for _, _, out in proposal.captions)
        assert after[-1].end_frame <= max(timeline.project.rate.frames_ceil(needed), shown) + 2


def test_the_last_shot_is_held_for_words_that_the_limits_leave_outside() -> None:
    project = simple_project(["one two three", "four five six"], 2.0)
    proposal = propose(voiced(project, [2.0, 9.0]))
    assert proposal.outside == ()
    assert proposal.lines[1].spill_ticks == 0
    assert proposal.lines[1].pace > 1.1  # the words give as well
    assert proposal.shot_frames[1] > 2 * project.shots[1].length_frames
    end = project.rate.ticks(sum(proposal.shot_frames))
    assert end - proposal.lines[1].end_ticks - project.house.tail_ticks < 3 * project.rate.frame_ticks


@pytest.mark.parametrize(
    ("change", "label"),
    [
        ({"give_way": "picture"}, "picture leads, so no shot gives way"),
        ({"longest_ticks": seconds_to_ticks(5)}, "the piece may last no longer than 5.00 s"),
    ],
)
def test_what_keeps_words_outside_the_piece_is_named_and_letting_it_go_cures_it(
    change: dict[str, Any], label: str
) -> None:
    project = simple_project(["one two three", "four five six"], 2.0, **change)
    timeline = voiced(project, [2.0, 9.0])
    proposal = propose(timeline)
    assert proposal.outside[0].startswith("line 2 ends")
    wishes = wishes_against(project, proposal)
    assert [wish.label for wish in wishes] == [label]
    takes = {span.take.id: span.take for span in timeline.lines if span.take}
    assert propose(build_timeline(wishes[0].let_go(project), takes)).outside == ()


def test_voice_leads_stretches_the_picture_past_the_house_and_past_the_clip() -> None:
    """As long as the words need: the pace stays, the clip holds its last frame."""
    clip = Clip(hash="c" * 64, name="wave.mp4", kind="video", length_ticks=seconds_to_ticks(2.0))
    project = simple_project(
        ["one two three", "four five six"], 2.0, give_way="voice", clips={clip.hash: clip}
    )
    shots = (project.shots[0].changed(clip_hash=clip.hash), project.shots[1])
    proposal = propose(voiced(project.changed(shots=shots), [8.0, 1.0]))
    assert proposal.lines[0].pace == pytest.approx(1)
    assert proposal.lines[0].spill_ticks == 0
    assert proposal.shot_frames[0] >= 8 * 30


def test_picture_leads_keeps_every_cut() -> None:
    project = simple_project(["one two three", "four five six"], 3.0, give_way="picture")
    proposal = propose(voiced(project, [4.0, 1.0]))
    assert proposal.shot_frames == (90, 90)
    assert proposal.lines[0].spill_ticks > 0


def test_voice_leads_keeps_every_pace() -> None:
    project = simple_project(["one two three", "four five six"], 3.0, give_way="voice")
    proposal = propose(voiced(project, [3.2, 1.0]))
    assert [round(plan.pace, 6) for plan in proposal.lines] == [1.0, 1.0]
    assert proposal.shot_frames[0] > 90


def test_meeting_halfway_changes_both() -> None:
    project = simple_project(["one two three", "four five six"], 3.0)
    proposal = propose(voiced(project, [3.1, 1.0]))
    assert proposal.shot_frames[0] > 90
    assert proposal.lines[0].pace > 1.01


def test_an_override_of_one_shot_beats_the_project() -> None:
    project = simple_project(["one two three", "four five six"], 3.0)
    held = project.shots[0].changed(give_way="picture")
    proposal = propose(voiced(project.changed(shots=(held, project.shots[1])), [3.1, 1.0]))
    assert proposal.shot_frames[0] == 90


def test_the_answer_of_the_solver_is_checked_by_our_own_code() -> None:
    problem = state_problem(voiced(simple_project(["one two", "three"], 2.0), [2.5, 1.0]))
    program = build_program(problem)
    good = solve(program).x
    assert worst_violation(program, good) < 1e-7
    assert worst_violation(program, good + 0.5) > 0.1


def test_a_line_whose_caption_is_pinned_past_its_shot_still_ends_before_the_cut() -> None:
    """The caption's end and the cut are two limits: when the shot gives way, the cut's moves along."""
    project = simple_project(["one two three", "four five six"], 3.0, give_way="voice")
    pinned = project.captions[0].changed(pinned=True, out_frames=100)
    timeline = voiced(project.changed(captions=(pinned, project.captions[1])), [3.1, 1.0])
    proposal = propose(timeline)
    (cut, _), plan = proposal.shot_frames, proposal.lines[0]
    assert cut > 90
    assert plan.spill_ticks == 0
    assert project.rate.ticks(cut) - plan.end_ticks >= project.house.tail_ticks - seconds_to_ticks(0.0001)
