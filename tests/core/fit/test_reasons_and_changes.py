"""Why lines, shots and captions came out as they did, and the list of what changes."""

from dataclasses import replace

import pytest
from hypothesis import assume, given, settings

from fox_cadence.core.edits import (
    Applied,
    PinCaption,
    SetBeats,
    SetHouse,
    SetLineRoom,
    SetLock,
    SetOnBeat,
    SetSettings,
    SetShotLimits,
    SetSync,
    apply_all,
)
from fox_cadence.core.fit.changes import changes
from fox_cadence.core.fit.plan import Proposal, planned_words
from fox_cadence.core.fit.proposal import apply_proposal, propose
from fox_cadence.core.fit.reasons import Reasons, caption_reason, shot_use
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.project import Project
from fox_cadence.core.shot import Clip
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import Timeline
from tests.builders import simple_project, timelines, voiced

LONG = [2.0, 4.4, 2.0]
"""Seconds of speech on shots of 3 s: the second line is far too long."""


def fitted(
    *edits: Applied,
    lengths: list[float] | None = None,
    project: Project | None = None,
    pauses: list[float] | None = None,
) -> tuple[Timeline, Proposal]:
    made, _ = apply_all(
        project or simple_project(["one two three", "four five six", "seven eight"], 3.0), edits
    )
    timeline = voiced(made, lengths or LONG, pauses)
    return timeline, propose(timeline)


def why_line(
    *edits: Applied, lengths: list[float] | None = None, project: Project | None = None
) -> list[str]:
    timeline, proposal = fitted(*edits, lengths=lengths, project=project)
    assert proposal.basis is not None
    return [reason.text for reason in Reasons(timeline, proposal.basis).of_line(1)]


def with_clip(handle: int) -> Project:
    project = simple_project(["one two three", "four five six", "seven eight"], 3.0)
    clip = Clip(hash="c" * 64, name="x", kind="video", length_ticks=project.rate.ticks(90 + handle))
    shots = tuple(shot.changed(clip_hash=clip.hash) for shot in project.shots)
    return project.changed(clips={clip.hash: clip}, shots=shots)


ON_BEAT = (
    SetBeats(times_s=[0.0, 2.9, 5.95]),
    SetOnBeat(shot_id="s3", on_beat=True),
    SetLock(what="shot", id="s1", locked=True),
)


@pytest.mark.parametrize(
    ("edits", "reason"),
    [
        ((SetLock(what="shot", id="s2", locked=True),), "shot 2 is locked"),
        ((SetSettings(give_way="picture"),), "picture leads, so shot 2 keeps its length"),
        ((SetSettings(give_way="voice"),), "voice leads here, so its pace stays"),
        ((SetShotLimits(shot_id="s2", longest_frames=95),), "shot 2 may not be longer than 95 frames"),
        ((SetHouse(shot_stretch=0.05),), "shot 2 may stretch by 5% at most"),
        (
            (SetSettings(longest_s=9, length_fixed=True), SetHouse(shot_stretch=0.9)),
            "the piece must last 9.00 s",
        ),
        ((SetHouse(fastest_pace=1.05),), "the fastest pace of the house, ×1.05"),
        ((SetSettings(give_way="picture"), SetLineRoom(line_id="l2", j_cut_s=0.1)), "the longest J-cut"),
        ((SetSettings(give_way="picture"), SetLineRoom(line_id="l2", l_cut_s=0.1)), "the longest L-cut"),
        ((SetLock(what="line", id="l2", locked=True),), "the line is locked"),
        ((SetSync(line_id="l2", word=1, shot_id="s2", frames=70),), "“five” is held to frame 70 of shot 2"),
        ((PinCaption(caption_id="c2", pinned=True),), "caption 2 is pinned"),
        (ON_BEAT, "the cut to shot 3 is held on its beat"),
    ],
)
def test_what_binds_a_line_is_named(edits: tuple[Applied, ...], reason: str) -> None:
    assert reason in why_line(*edits)


def test_a_clip_without_more_frames_is_named() -> None:
    assert "the clip of shot 2 has no more frames" in why_line(project=with_clip(3))


def test_nothing_presses_a_line_that_has_room() -> None:
    timeline, proposal = fitted(lengths=[1.0, 1.0, 1.0])
    assert proposal.basis is not None
    reasons = Reasons(timeline, proposal.basis)
    assert [reasons.of_line(n) for n in range(3)] == [(), (), ()]
    assert [reasons.of_shot(n) for n in range(3)] == [(), (), ()]


@settings(max_examples=25)
@given(timelines())
def test_reasons_come_hardest_first_and_once(timeline: Timeline) -> None:
    proposal = propose(timeline)
    assume(proposal.basis is not None and proposal.status is Status.SOLVED)
    assert proposal.basis is not None
    reasons = Reasons(timeline, proposal.basis)
    found = [reasons.of_line(n) for n in range(len(timeline.lines))] + [
        reasons.of_shot(n) for n in range(len(timeline.shots))
    ]
    for each in found:
        assert [reason.press for reason in each] == sorted((reason.press for reason in each), reverse=True)
        assert len({reason.text for reason in each}) == len(each)
        assert all(reason.press > 0 for reason in each)


def test_a_shot_knows_who_speaks_in_it_and_what_it_could_give() -> None:
    timeline = voiced(with_clip(12), [1.0, 1.0, 1.0])
    use = shot_use(timeline, 1, 60)
    assert [line for line, _ in use.spoken] == [1]
    assert use.spoken[0][1] == seconds_to_ticks(1.0)
    assert use.idle_ticks == seconds_to_ticks(2.0)
    assert (use.handle_before, use.handle_after) == (0, 12)
    assert use.could_give == 30  # down to the 60 frames that were named as the least
    # free after the word: 1.9 s less 0.15 s of tail, whole frames
    assert shot_use(timeline, 1, 1).could_give == 52
    assert shot_use(voiced(simple_project(["one"]), [1.0]), 0, 30).handle_after is None


def caption_why(
    *edits: Applied, position: int = 0, lengths: list[float] | None = None, text: str = "one two"
) -> str:
    project = simple_project([text, "four five six"], 3.0)
    timeline, proposal = fitted(*edits, lengths=lengths or [1.0, 1.0], project=project)
    words = dict(planned_words(timeline, proposal.lines))
    return caption_reason(timeline, proposal, position, words[f"l{position + 1}"][-1][1])


def test_why_a_caption_is_shown_as_long_as_it_is() -> None:
    assert caption_why() == ""
    assert caption_why(text="a line of very many characters, all of which want to be read") == (
        "stays 48 frames longer to be readable"
    )
    assert caption_why(lengths=[2.4, 1.0]) == "goes out with the cut to shot 2, 6 frames later"
    assert caption_why(SetLock(what="caption", id="c1", locked=True)) == "locked to its frames"
    assert caption_why(PinCaption(caption_id="c1", pinned=True)) == "pinned: its words follow it"
    timeline, proposal = fitted()
    assert "nobody says it" in caption_reason(timeline, proposal, 0, None)


@settings(max_examples=25)
@given(timelines())
def test_changes_are_all_that_differs_the_largest_first(timeline: Timeline) -> None:
    proposal = propose(timeline)
    assume(proposal.status is Status.SOLVED)
    found = changes(timeline, proposal)
    assert [change.size_ticks for change in found] == sorted((c.size_ticks for c in found), reverse=True)
    moved = {
        span.shot.id
        for span, frames in zip(timeline.shots, proposal.shot_frames, strict=True)
        if frames != span.shot.length_frames
    }
    assert {change.object_id for change in found if change.kind == "shot"} == moved
    assert all(change.size_ticks > 0 for change in found)


def test_a_change_says_what_it_was() -> None:
    timeline, proposal = fitted(lengths=[2.0, 2.95, 2.0])
    texts = [change.text for change in changes(timeline, proposal)]
    assert any(text.startswith("Shot 2, ") and "longer" in text for text in texts)
    assert any(text.startswith("Line 2, ×1.0") and "(now ×1.00)" in text for text in texts)
    timeline, proposal = fitted(SetSettings(give_way="picture"), lengths=[2.0, 2.8, 2.0], pauses=[0, 0.3, 0])
    assert any("Line 2" in change.text for change in changes(timeline, proposal))


def test_a_pace_that_changes_little_is_not_said_to_be_what_it_was() -> None:
    timeline, proposal = fitted(lengths=[2.0, 2.9, 2.0])
    span, plan = timeline.lines[0], proposal.lines[0]
    slower = round(span.speech.voiced_ticks / 0.996)
    lengths = (plan.lengths[0].changed(voiced_ticks=slower, pause_ticks=0), *plan.lengths[1:])
    slightly = replace(proposal, lines=(replace(plan, lengths=lengths), *proposal.lines[1:]))
    texts = [change.text for change in changes(timeline, slightly)]
    assert "Line 1, ×0.996 (now ×1.000): 0.01 s longer" in texts


def test_what_has_been_accepted_is_no_change_any_more() -> None:
    timeline, proposal = fitted(lengths=[2.0, 2.9, 2.0])
    assert changes(timeline, proposal)
    made = apply_proposal(timeline.project, proposal, {})
    again = voiced(made, [2.0, 2.9, 2.0])
    assert [change for change in changes(again, propose(again)) if change.kind == "shot"] == []
