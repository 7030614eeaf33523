import pytest

from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.exporting import export
from fox_cadence.actions.fitting import accept, fit
from fox_cadence.actions.making_words import caption_cues
from fox_cadence.actions.mixing import mix
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket.names import stem
from fox_cadence.core.docket.shipped import usual
from fox_cadence.core.edits import SetCaptionText, SetRole
from fox_cadence.core.fit.solver import Status
from fox_cadence.core.states import LineState
from fox_cadence.core.takes import natural_request
from fox_cadence.core.ticks import samples_to_ticks
from fox_cadence.core.timeline import LineSpan
from fox_cadence.core.words import words_of
from fox_cadence.errors import CancelledError, ClashError, EngineError
from fox_cadence.voices import making
from fox_cadence.voices.engine import Speech, Utterance
from fox_cadence.voices.takes import make_take

BAY = "marrow-bay"


def states(workspace: Workspace) -> dict[str, LineState]:
    return {span.line.id: span.state for span in workspace.timeline(workspace.head(BAY).project).lines}


def edited(workspace: Workspace, edit: SetCaptionText | SetRole) -> None:
    head = workspace.head(BAY)
    project, label = edit.apply(head.project)
    workspace.projects.commit(BAY, head.revision, project, label)


def test_the_sample_shows_every_state_a_newcomer_should_see(demo: Workspace) -> None:
    found = set(states(demo).values())
    assert {LineState.SITS, LineState.LEANS, LineState.FLOATS, LineState.SPILLS, LineState.UNVOICED} <= found
    assert list(states(demo).values()).count(LineState.SPILLS) == 1


def test_one_action_voices_what_is_open_and_says_what_it_did(demo: Workspace) -> None:
    edited(demo, SetCaptionText(caption_id="c1", text="The sea leaves twice a day."))
    assert states(demo)["l1"] is LineState.STALE
    result = voice_lines(demo, BAY)
    assert (result.made, result.kept, result.failed) == (2, 8, ())
    assert not {LineState.STALE, LineState.UNVOICED} & set(states(demo).values())
    assert demo.head(BAY).undo_label == "2 lines voiced"


def test_a_line_that_fails_is_reported_and_the_others_go_on(
    demo: Workspace, monkeypatch: pytest.MonkeyPatch
) -> None:
    edited(demo, SetRole(role_id="r1", voice_id="corin"))
    real = demo.engines.espeak.say

    def say(utterance: Utterance) -> Speech:
        if "hermit" in utterance.text:
            raise EngineError("lost its voice")
        return real(utterance)

    monkeypatch.setattr(making, "make_take", make_take)  # no take that was kept
    monkeypatch.setattr(demo.engines.espeak, "say", say)
    result = voice_lines(demo, BAY)
    assert [(failure.line_id, failure.reason) for failure in result.failed] == [("l4", "lost its voice")]
    assert result.made == 8


class _StopsAfter:
    def __init__(self, lines: int) -> None:
        self.lines = lines

    @property
    def cancelled(self) -> bool:
        return self.lines <= 0

    def report(self, done: int, total: int, note: str = "") -> None:
        self.lines -= 1
        if self.lines < 0:
            raise CancelledError("Stopped.")


def test_what_was_voiced_before_a_cancel_is_kept(demo: Workspace) -> None:
    edited(demo, SetRole(role_id="r1", voice_id="corin"))
    with pytest.raises(CancelledError):
        voice_lines(demo, BAY, watcher=_StopsAfter(3))
    assert 1 <= list(states(demo).values()).count(LineState.STALE) <= 5  # two are made at a time


def test_an_accepted_fit_sounds_as_planned_and_is_one_step(demo: Workspace) -> None:
    voice_lines(demo, BAY)
    before = demo.head(BAY).project
    fitted = fit(demo, BAY)
    assert fitted.proposal.status is Status.SOLVED
    assert demo.head(BAY).project == before
    done = accept(demo, fitted)
    assert done.failed == ()
    timeline = demo.timeline(demo.head(BAY).project)
    for span, plan in zip(timeline.lines, fitted.proposal.lines, strict=True):
        assert span.start_ticks == plan.start_ticks
        assert span.take is not None
        assert abs(span.take.length_ticks - (plan.end_ticks - plan.start_ticks)) <= samples_to_ticks(240)
    demo.projects.undo(BAY)
    assert demo.head(BAY).project == before
    make_edits(
        demo, BAY, demo.head(BAY), [SetCaptionText(caption_id="c1", text="Another window was faster.")]
    )
    with pytest.raises(ClashError):
        accept(demo, fitted)


@pytest.mark.parametrize(
    "change",
    [
        SetCaptionText(caption_id="c6", text="Turn it over. It rights itself."),
        SetRole(role_id="r1", voice_id="corin"),
        SetRole(role_id="r1", pitch_semitones=3),
    ],
    ids=["words", "voice", "pitch"],
)
def test_a_line_that_was_fitted_and_is_voiced_anew_sounds_anew(
    demo: Workspace, change: SetCaptionText | SetRole
) -> None:
    """The take at the pace of the old fit says old words in the old voice: it must not be what plays."""

    def line() -> LineSpan:
        return next(span for span in demo.timeline(demo.head(BAY).project).lines if span.line.id == "l6")

    before = line()
    assert before.line.placement is not None
    assert before.take is not None
    assert before.take.id == before.line.placement.take_id
    edited(demo, change)
    voice_lines(demo, BAY, ["l6"])
    after = line()
    assert after.take is not None
    assert not after.stale
    assert after.take.key == natural_request(demo.head(BAY).project, after.line).key
    assert after.end_ticks - after.start_ticks == after.take.length_ticks
    assert after.start_ticks == before.start_ticks
    demo.projects.undo(BAY)
    demo.projects.undo(BAY)
    assert line().take == before.take


def test_the_mix_has_its_loudness(demo: Workspace) -> None:
    timeline = demo.timeline(demo.head(BAY).project)
    mixed = mix(demo, timeline)
    loudness = mixed.loudness()
    assert loudness.integrated_lufs == pytest.approx(timeline.project.mix.aim_lufs, abs=0.2)
    assert loudness.true_peak_db <= timeline.project.mix.peak_db


def test_captions_go_out_as_they_are_broken_on_the_screen(demo: Workspace) -> None:
    project = demo.head(BAY).project
    cues = caption_cues(demo.timeline(project), demo.faces_of(project))
    assert [words_of(cue.text) for cue in cues] != []
    said = [" ".join(word.text for word in words_of(cue.text)) for cue in cues]
    assert said == [caption.text for caption in project.captions]


def test_exported_files_appear_whole_or_not_at_all(demo: Workspace, tmp_path: object) -> None:
    folder = demo.folder / "out"
    names = [path.name for path in export(demo, BAY, folder, usual(video=False)).paths]
    assert sorted(names) == sorted(path.name for path in folder.iterdir())
    with pytest.raises(CancelledError):
        export(demo, BAY, folder, usual(sound=False, captions=False), _StopsAfter(2))
    assert sorted(names) == sorted(path.name for path in folder.iterdir())


@pytest.mark.parametrize(
    ("name", "named"),
    [
        ("Low tide at Marrow Bay", "low-tide-at-marrow-bay"),
        ("../../etc", "etc"),
        ("…", "project"),
        ("潮だまり", "潮だまり"),
    ],
)
def test_file_names_follow_the_project_and_stay_in_the_folder(name: str, named: str) -> None:
    assert stem(name) == named
