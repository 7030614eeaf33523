"""What is heard and known before anything is changed; proposals kept for hearing; how folders are opened."""

from pathlib import Path

import numpy as np
import pytest

from fox_cadence.actions.at_hand import AtHand
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.estimating import estimate_line
from fox_cadence.actions.fitting import Keep, accept, fit, preview, remedies_of, try_edits
from fox_cadence.actions.hearing import hear_edits
from fox_cadence.actions.voicing import take_for, voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import (
    SetCaptionText,
    SetLane,
    SetLock,
    SetRole,
    SetSettings,
    SetShotLength,
    SetShotLimits,
    SetSync,
)
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.project import NotInProjectError, Project
from fox_cadence.core.states import LineState
from fox_cadence.core.takes import VoicingRequest
from fox_cadence.core.ticks import seconds_to_ticks, ticks_to_seconds
from fox_cadence.demo.bajamar import SPANISH_ID
from fox_cadence.errors import ClashError, InputError, NotFoundError
from fox_cadence.store.database import default_data_folder
from fox_cadence.voices.known_lengths import KnownLengths
from tests.builders import simple_project

BAY = "marrow-bay"
KEEP = Keep()


def level_db(sound: np.ndarray) -> float:
    return float(20 * np.log10(np.sqrt(np.mean(np.square(sound, dtype=np.float64))) + 1e-12))


def test_a_line_is_heard_with_a_second_around_it(demo: Workspace) -> None:
    head = demo.head(BAY)
    plan = fit(demo, BAY).proposal.lines[1]
    heard = hear_edits(demo, BAY, head.revision, [], KEEP, "l2")
    seconds = ticks_to_seconds(plan.end_ticks - plan.start_ticks) + 2
    assert len(heard) == pytest.approx(seconds * 48000, abs=2)
    assert level_db(heard[48000:-48000]) > -35
    assert level_db(heard[:4800]) < -60  # line 1 ended long before
    assert abs(float(heard[0])) == abs(float(heard[-1])) == 0
    assert demo.head(BAY) == head


def test_hearing_a_change_voices_the_words_it_has(demo: Workspace) -> None:
    revision = demo.head(BAY).revision
    as_it_is = hear_edits(demo, BAY, revision, [], KEEP, "l9")
    changed = hear_edits(demo, BAY, revision, [SetCaptionText(caption_id="c9", text="The sea.")], KEEP, "l9")
    assert len(changed) < len(as_it_is) - 24000


def test_what_cannot_be_fitted_cannot_be_heard(demo: Workspace) -> None:
    revision = demo.head(BAY).revision
    impossible = [SetSettings(longest_s=4, length_fixed=True)]
    with pytest.raises(InputError, match="nothing to hear"):
        hear_edits(demo, BAY, revision, impossible, KEEP, "l1")
    with pytest.raises(ClashError):
        hear_edits(demo, BAY, revision + 1, [], KEEP, "l1")
    with pytest.raises(NotInProjectError):
        hear_edits(demo, BAY, revision, [], KEEP, "l99")


def test_an_estimate_comes_near_what_is_spoken(demo: Workspace) -> None:
    """For the lines of the sample: known, or as they were before anything was made of them."""
    project = demo.head(SPANISH_ID).project
    apart: list[float] = []
    for span in demo.timeline(project).lines:
        found = estimate_line(demo, SPANISH_ID, span.line.id, span.said + " ")
        assert found.length_ticks == pytest.approx(span.natural_ticks, rel=0.09 if found.error else 0.03)
        role = project.role(span.line.role_id)
        guess = demo.lengths.estimate(span.said, role.voice_id, role.pace)
        apart.append(abs((guess.voiced_ticks + sum(guess.pauses.values())) / span.natural_ticks - 1))
    assert np.mean(apart) < 0.09
    assert max(apart) < 0.2


def test_the_room_of_a_line_ends_where_the_next_of_its_lane_begins(demo: Workspace) -> None:
    before = estimate_line(demo, BAY, "l6", "Slowly.")
    head = demo.head(BAY)
    make_edits(demo, BAY, head, [SetLane(line_id="l7", lane=1, may_overlap=True)])
    after = estimate_line(demo, BAY, "l6", "Slowly.")
    assert after.room_ticks >= before.room_ticks
    assert after.state is LineState.FLOATS
    with pytest.raises(NotInProjectError):
        estimate_line(demo, BAY, "l99", "x")


def test_words_left_are_as_many_as_really_fit(demo: Workspace) -> None:
    left = estimate_line(demo, BAY, "l9", "Then the sea.").words_left
    assert left > 3
    full = estimate_line(demo, BAY, "l9", "Then the sea." + " foam" * left)
    assert full.words_left in range(-left // 2, left // 2)


def test_a_trial_changes_nothing_and_knows_the_edit(demo: Workspace) -> None:
    head = demo.head(BAY)
    shot = head.project.shots[4]
    edit = SetShotLength(shot_id=shot.id, length_frames=shot.length_frames - 10)
    tried = try_edits(demo, BAY, head.revision, [edit])
    assert tried.project.shots[4].wanted_frames == shot.length_frames - 10
    assert tried.proposal.status is Status.SOLVED
    assert demo.head(BAY) == head
    with pytest.raises(ClashError):
        try_edits(demo, BAY, head.revision - 1, [edit])


def test_a_contradiction_is_explained_and_the_rest_fitted(demo: Workspace) -> None:
    head = demo.head(BAY)
    make_edits(
        demo,
        BAY,
        head,
        [
            SetSync(line_id="l4", word=2, shot_id="s4", frames=80),
            SetSync(line_id="l4", word=5, shot_id="s4", frames=50),
        ],
    )
    fitted = fit(demo, BAY)
    assert fitted.proposal.status is Status.INFEASIBLE
    assert fitted.conflict is not None
    assert len(fitted.conflict.wishes) == 2
    assert "contradict" in fitted.conflict.reason
    assert len(fitted.conflict.let_go) == 1
    assert fitted.conflict.best is not None
    assert fitted.conflict.best.status is Status.SOLVED
    assert remedies_of(demo, fitted, "l4") == ()
    with pytest.raises(InputError):
        accept(demo, fitted)


def test_what_is_kept_for_one_fit_is_not_locked_afterwards(demo: Workspace) -> None:
    head = demo.head(BAY)
    make_edits(demo, BAY, head, [SetLock(what="shot", id="s6", locked=False)])
    kept = Keep(line_ids=frozenset({"l3"}), shot_ids=frozenset({"s6", "s3"}))
    before = demo.timeline(demo.head(BAY).project)
    result = accept(demo, fit(demo, BAY, kept))
    after = demo.timeline(demo.head(BAY).project)
    assert result.failed == ()
    assert [after.shots[n].shot.length_frames for n in (2, 5)] == [
        before.shots[n].shot.length_frames for n in (2, 5)
    ]
    assert (
        after.lines[2].end_ticks - after.lines[2].start_ticks
        == before.lines[2].end_ticks - before.lines[2].start_ticks
    )
    assert not after.shots[5].shot.locked
    assert after.shots[2].shot.give_way is None


def test_an_accepted_fit_ends_each_line_on_plan_for_another_voice_too(demo: Workspace) -> None:
    head = demo.head(BAY)
    make_edits(
        demo,
        BAY,
        head,
        [SetRole(role_id="r1", voice_id="wade"), SetShotLimits(shot_id="s4", longest_frames=126)],
    )
    voice_lines(demo, BAY)
    fitted = fit(demo, BAY)
    heard = preview(demo, fitted)
    result = accept(demo, fitted)
    assert heard.lines == result.lines
    assert len(result.lines) > 5
    for line in result.lines:
        assert abs(line.off_ticks) <= seconds_to_ticks(0.005)
        assert abs(line.stretch) <= 0.025
    planned = {plan.line_id: plan for plan in result.proposal.lines}
    for span in demo.timeline(demo.head(BAY).project).lines:
        assert span.take is not None
        assert abs(span.end_ticks - planned[span.line.id].end_ticks) <= seconds_to_ticks(0.005)


def test_what_is_accepted_is_what_was_proposed_whatever_was_learnt_since(
    workspace: Workspace, monkeypatch: pytest.MonkeyPatch
) -> None:
    project_id = workspace.projects.create(
        simple_project(["The tide goes out.", "A crab waits."], 1.5), "Made"
    )
    with monkeypatch.context() as nothing_known:
        nothing_known.setattr(KnownLengths, "find", lambda *_: None)
        fitted = fit(workspace, project_id)  # of estimated lengths
    learnt = fit(workspace, project_id)
    assert [plan.lengths for plan in learnt.proposal.lines] != [
        plan.lengths for plan in fitted.proposal.lines
    ]
    done = accept(workspace, fitted)
    assert [plan.lengths for plan in done.proposal.lines] == [plan.lengths for plan in fitted.proposal.lines]
    placed = [line.placement for line in workspace.head(project_id).project.lines]
    assert [each.spans for each in placed if each] == [plan.lengths for plan in fitted.proposal.lines]


def test_previews_are_kept_for_a_while() -> None:
    kept: AtHand[Project] = AtHand(2, "fit again")
    projects = [simple_project([text]) for text in ("one", "two", "three")]
    keys = [kept.keep(project) for project in projects]
    assert len(set(keys)) == 3
    assert [kept.get(key) for key in keys[1:]] == projects[1:]
    with pytest.raises(NotFoundError, match="fit again"):
        kept.get(keys[0])


def test_a_folder_opened_twice_sees_the_same_projects(workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project(["One."], name="Foam"), "Project made")
    with Workspace(workspace.folder) as other:
        assert other.head(project_id).project.name == "Foam"


def test_what_a_voice_has_taught_is_known_when_the_folder_is_opened_again(workspace: Workspace) -> None:
    text = "The tide turns, and the whole bay holds its breath."
    before = workspace.lengths.estimate(text, "orla", 1.0)
    request = VoicingRequest(text=text, voice_id="orla", pace=1.0, pitch_semitones=0)
    _, fresh = take_for(workspace, request)
    after = workspace.lengths.estimate(text, "orla", 1.0)
    assert fresh
    assert after != before
    with Workspace(workspace.folder) as again:
        assert again.lengths.estimate(text, "orla", 1.0) == after


def test_the_data_folder_follows_the_standard(monkeypatch: pytest.MonkeyPatch, tmp_path: Path) -> None:
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path))
    assert default_data_folder() == tmp_path / "fox-cadence"
    monkeypatch.delenv("XDG_DATA_HOME")
    monkeypatch.setattr(Path, "home", lambda: tmp_path)
    assert default_data_folder() == tmp_path / ".local" / "share" / "fox-cadence"
