"""Remedies: each cures, none changes anything unasked, the least harmful comes first."""

import pytest

from fox_cadence.core.edits import SetHouse, SetLock, SetPause, SetSettings, SetShotLimits, apply_all
from fox_cadence.core.fit.candidates import Cause
from fox_cadence.core.fit.harm import Kind
from fox_cadence.core.fit.proposal import propose
from fox_cadence.core.fit.remedies import Remedy, remedies
from fox_cadence.core.length_model import LETTERS, Estimator
from fox_cadence.core.project import Project, Role
from fox_cadence.core.shot import Clip
from fox_cadence.core.states import LineState
from fox_cadence.core.takes import Take
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.timeline import Timeline
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project, take_of

SAID = "It is really the last wave. It has all the time in the world, and nobody waits."


class Desk:
    """A project whose second line spills, with the takes of its lines."""

    def __init__(self, *edits: object, spill: float = 0.3, handle: int = 60) -> None:
        project = simple_project(
            ["The tide turns.", SAID, "Slowly.", "Then it goes."], 4.0, give_way="picture"
        )
        clip = Clip(hash="c" * 64, name="x", kind="video", length_ticks=project.rate.ticks(120 + handle))
        shots = tuple(shot.changed(clip_hash=clip.hash) for shot in project.shots)
        roles = (*project.roles, Role(id="r2", name="other", voice_id="pell", pace=1.4, colour=1))
        project = project.changed(clips={clip.hash: clip}, shots=shots, roles=roles)
        project, _ = apply_all(project, edits)  # type: ignore[arg-type]
        lengths = {"l1": 1.2, "l2": (3.75 + spill) * 1.15, "l3": 0.7, "l4": 1.0}
        self.takes: dict[str, Take] = {}
        for line in project.lines:
            take = take_of(project, line, lengths[line.id])
            self.takes[take.id] = take
        lines = tuple(line.changed(take_id=f"take-{line.id}") for line in project.lines)
        self.project = project.changed(lines=lines)

    def resolved(self, project: Project, estimator: Estimator = LETTERS) -> Timeline:
        return build_timeline(project, self.takes, estimator)

    def cures(self) -> tuple[Remedy, ...]:
        timeline = self.resolved(self.project)
        return remedies(timeline, propose(timeline), 1, self.resolved, LETTERS)


@pytest.fixture(scope="module")
def desk() -> Desk:
    return Desk()


def test_every_remedy_cures_the_line_when_it_is_applied(desk: Desk) -> None:
    found = desk.cures()
    assert len(found) >= 5
    for remedy in found:
        if remedy.text is not None:
            continue
        changed, _ = apply_all(desk.project, remedy.edits)
        plan = next(plan for plan in propose(desk.resolved(changed)).lines if plan.line_id == "l2")
        if not remedy.estimated:
            assert plan.spill_ticks < seconds_to_ticks(0.001), remedy.label


def test_they_are_ordered_by_harm_and_of_many_kinds(desk: Desk) -> None:
    found = desk.cures()
    harm = [remedy.harm for remedy in found]
    assert harm == sorted(harm)
    kinds = {remedy.kind for remedy in found}
    assert {
        Kind.TAKE_IDLE,
        Kind.LENGTHEN,
        Kind.RUN_OVER,
        Kind.FEWER_WORDS,
        Kind.OTHER_VOICE,
        Kind.WIDER_LIMIT,
    } <= kinds


def test_fewer_words_shows_the_new_text_and_changes_nothing_unasked(desk: Desk) -> None:
    before = desk.project.model_dump_json()
    shorter = next(remedy for remedy in desk.cures() if remedy.kind is Kind.FEWER_WORDS)
    assert desk.project.model_dump_json() == before
    assert shorter.text is not None
    assert len(shorter.text) < len(SAID)
    changed, _ = apply_all(desk.project, shorter.edits)
    assert changed.captions[1].text == shorter.text


def test_a_line_that_fits_needs_none() -> None:
    easy = Desk(spill=-1.5)
    assert easy.cures() == ()


def test_a_locked_shot_is_lengthened_only_by_name() -> None:
    locked = Desk(SetLock(what="shot", id="s2", locked=True), SetSettings(give_way="halfway"))
    longer = next(remedy for remedy in locked.cures() if remedy.kind is Kind.LENGTHEN)
    assert longer.label.startswith("Unlock shot 2")
    free = next(remedy for remedy in Desk().cures() if remedy.kind is Kind.LENGTHEN)
    assert longer.harm > free.harm


def test_what_the_clip_does_not_have_is_not_offered() -> None:
    found = Desk(handle=0).cures()
    assert not [remedy for remedy in found if remedy.kind in (Kind.LENGTHEN, Kind.TAKE_IDLE)]


def test_a_written_pause_is_closed_as_far_as_needed() -> None:
    paused = Desk(SetPause(line_id="l2", after_word=5, seconds=0.9), spill=-0.3)
    closing = next(remedy for remedy in paused.cures() if remedy.kind is Kind.CLOSE_PAUSE)
    assert "after “wave”" in closing.label
    edit = closing.edits[0]
    assert isinstance(edit, SetPause)
    assert edit.seconds is not None
    assert 0.08 <= edit.seconds < 0.9


def test_a_wider_limit_is_offered_where_it_is_what_binds() -> None:
    stretch = Desk(SetSettings(give_way="halfway"), SetHouse(shot_stretch=0.1), spill=1.0, handle=90)
    labels = [cure.label for cure in stretch.cures() if cure.kind is Kind.WIDER_LIMIT]
    assert any(label.startswith("Let the shots of the whole piece stretch by ") for label in labels)
    assert not any("the piece last" in label for label in labels)

    held = Desk(
        SetSettings(give_way="halfway", longest_s=16), SetHouse(shot_stretch=0.03), spill=0.4, handle=90
    )
    narrow = [cure for cure in held.cures() if "stretch" in cure.label]
    assert all(cure.state is not LineState.SPILLS for cure in narrow)

    short = Desk(
        SetSettings(give_way="halfway", longest_s=15, length_fixed=True),
        *(SetShotLimits(shot_id=f"s{n}", shortest_frames=110) for n in (1, 3, 4)),
        spill=0.6,
        handle=90,
    )
    longer = [cure for cure in short.cures() if "Let the piece last" in cure.label]
    assert len(longer) == 1
    assert longer[0].edits[0].longest_s > 15  # type: ignore[attr-defined]


def test_a_stretch_is_offered_of_what_was_asked_for_not_of_what_the_shot_came_to() -> None:
    """A shot a fit has stretched already gets the same offer: the share is one of the length the editor
    set."""
    desk = Desk(SetSettings(give_way="halfway"), SetHouse(shot_stretch=0.1), spill=1.0, handle=90)

    def offered() -> list[str]:
        return [
            cure.label for cure in desk.cures() if cure.label.startswith("Let the shots of the whole piece")
        ]

    before = offered()
    proposed = propose(desk.resolved(desk.project)).shot_frames
    assert proposed[1] > desk.project.shots[1].wanted_frames
    shots = zip(desk.project.shots, proposed, strict=True)
    desk.project = desk.project.changed(
        shots=tuple(shot.changed(length_frames=frames) for shot, frames in shots)
    )
    assert before
    assert offered() == before


def test_a_spill_is_not_counted_as_what_a_remedy_saves(desk: Desk) -> None:
    """Harm is what a remedy adds to a piece without the spill, so two cures of unlike spills compare."""
    timeline = desk.resolved(desk.project)
    proposal = propose(timeline)
    cause = Cause(timeline, proposal, 1, LETTERS)
    seconds = proposal.lines[1].spill_ticks / seconds_to_ticks(1)
    assert cause.cost_without_spill == pytest.approx(proposal.cost - 120 * seconds - 5 * seconds**2, abs=1e-6)
    assert 0 <= cause.cost_without_spill < 5
