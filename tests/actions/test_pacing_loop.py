"""From a proposal to sound where the voice does not do as it is told."""

import pytest

from fox_cadence.actions import pacing_loop
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.fitting import accept, fit, preview
from fox_cadence.actions.voicing import paced_takes, voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import CutCaption, SetLock
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.errors import EngineError

BAY = "marrow-bay"


def unlocked(workspace: Workspace) -> int:
    """Shot 6 may stretch, so that there is something to fit; the revision then."""
    return make_edits(workspace, BAY, workspace.head(BAY), [SetLock(what="shot", id="s6", locked=False)])


def test_a_voice_that_speaks_too_slowly_is_fitted_as_it_speaks(
    demo: Workspace, monkeypatch: pytest.MonkeyPatch
) -> None:
    real = paced_takes
    asked: list[str] = []

    def slow(workspace, project, wanted, watch):  # type: ignore[no-untyped-def]
        slower = []
        for span, lengths in wanted:
            asked.append(span.line.id)
            longer = [part.changed(voiced_ticks=part.voiced_ticks * 104 // 100) for part in lengths]
            slower.append((span, tuple(longer) if span.line.id == "l4" else lengths))
        return real(workspace, project, slower, watch)

    unlocked(demo)
    monkeypatch.setattr(pacing_loop, "paced_takes", slow)
    made = preview(demo, fit(demo, BAY))
    assert made.rounds > 1
    assert asked.count("l4") >= 1
    result = next(line for line in made.lines if line.line_id == "l4")
    assert abs(result.off_ticks) <= seconds_to_ticks(0.005)
    plan = next(plan for plan in made.proposal.lines if plan.line_id == "l4")
    assert plan.spill_ticks == 0  # its shot has given what the voice took


def test_a_line_that_fails_is_named_and_the_others_are_made(
    demo: Workspace, monkeypatch: pytest.MonkeyPatch
) -> None:
    real = paced_takes

    def lost(workspace, project, wanted, watch):  # type: ignore[no-untyped-def]
        yield "l4", EngineError("lost its voice")
        yield from real(workspace, project, [each for each in wanted if each[0].line.id != "l4"], watch)

    unlocked(demo)
    before = next(line for line in demo.head(BAY).project.lines if line.id == "l4")
    monkeypatch.setattr(pacing_loop, "paced_takes", lost)
    result = accept(demo, fit(demo, BAY))
    assert result.failed == (("l4", "lost its voice"),)
    assert "l4" not in {line.line_id for line in result.lines}
    assert len(result.lines) > 3
    after = next(line for line in demo.head(BAY).project.lines if line.id == "l4")
    assert after.take_id == before.take_id
    span = next(span for span in demo.timeline(demo.head(BAY).project).lines if span.line.id == "l4")
    assert span.take is not None  # it still speaks, at the pace it had by nature


def test_a_caption_that_is_cut_is_at_once_shown_with_its_words(demo: Workspace) -> None:
    voice_lines(demo, BAY)
    make_edits(demo, BAY, demo.head(BAY), [CutCaption(caption_id="c6")])
    timeline = demo.timeline(demo.head(BAY).project)
    line = next(span for span in timeline.lines if span.line.id == "l6")
    shown = [span for span in timeline.captions if span.line_id == "l6"]
    assert len(shown) > 1
    times = line.word_times_ticks()
    rate = timeline.project.rate
    for span in shown:
        first, end = span.words
        assert span.in_frame <= rate.frames_floor(times[first][0])
        assert span.out_frame >= rate.frames_floor(times[end - 1][1])
    assert demo.head(BAY).undo_label == f"Caption 6 cut into {len(shown)}"


def test_an_edit_that_changes_nothing_is_no_step(demo: Workspace) -> None:
    before = demo.head(BAY)
    assert make_edits(demo, BAY, before, [SetLock(what="shot", id="s6", locked=True)]) == before.revision
    assert demo.head(BAY) == before
