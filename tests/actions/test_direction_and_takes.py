"""Choosing and comparing takes, recordings, words brought in, sound files of lines, the lexicon's effect."""

from pathlib import Path

import numpy as np
import pytest

from fox_cadence.actions.directing import (
    hear_entry,
    hear_pronunciation,
    lexicon_use,
    repunctuate,
    script_file,
    told_words,
)
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.fitting import accept, fit
from fox_cadence.actions.line_sounds import export_lines
from fox_cadence.actions.recording import bring_recording, draft_of
from fox_cadence.actions.script_import import Source, bring_words, plan_words
from fox_cadence.actions.takes import Variant, choose_take, compare, keep_compared, takes_of_line
from fox_cadence.actions.voicing import natural_take, open_lines, voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.delivery import Delivery
from fox_cadence.core.edits import (
    Applied,
    EditError,
    SetCaptionText,
    SetEmphasis,
    SetEntry,
    SetLineDelivery,
    SetPause,
    SetRole,
)
from fox_cadence.core.project import Project, said_text
from fox_cadence.core.states import LineState
from fox_cadence.core.ticks import samples_to_ticks
from fox_cadence.errors import CancelledError, ClashError, InputError, NotFoundError
from fox_cadence.formats.csv_rows import Columns
from fox_cadence.media.audio import read_wav, wav_bytes
from tests.builders import simple_project

ONE, TWO = "Twice a day, the sea leaves Marrow Bay.", "What it forgets, it keeps in pools."


@pytest.fixture
def bay(workspace: Workspace) -> str:
    """A project of two lines, said by a machine voice, which is quick."""
    project_id = workspace.projects.create(simple_project([ONE, TWO]), "Made")
    voice_lines(workspace, project_id)
    return project_id


def edited(workspace: Workspace, project_id: str, *edits: Applied) -> Project:
    make_edits(workspace, project_id, workspace.head(project_id), edits)
    return workspace.head(project_id).project


def states(workspace: Workspace, project_id: str) -> list[LineState]:
    return [span.state for span in workspace.timeline(workspace.head(project_id).project).lines]


def test_a_line_keeps_its_takes_and_gets_back_what_an_old_one_was_made_from(
    workspace: Workspace, bay: str
) -> None:
    first = workspace.head(bay).project.line("l1").take_id
    edited(
        workspace, bay,
        SetCaptionText(caption_id="c1", text="The sea leaves twice a day."),
        SetEmphasis(line_id="l1", first_word=1, end_word=2, level="strong"),
        SetLineDelivery(line_id="l1", voice_id="corin", delivery=Delivery(style="calm")),
    )  # fmt: skip
    voice_lines(workspace, bay)
    found = takes_of_line(workspace, bay, "l1")
    assert [take.chosen for take in found] == [True, False]
    assert [run.kind for run in found[1].changes if run.kind != "same"] != []
    assert found[0].kept.voice_id == "corin"

    choose_take(workspace, bay, workspace.head(bay).revision, "l1", first or "")
    project = workspace.head(bay).project
    line = project.line("l1")
    assert (line.take_id, said_text(project, line), line.marks, line.voice_id) == (first, ONE, (), None)
    assert project.caption("c1").text == "The sea leaves twice a day."
    assert states(workspace, bay)[0] is not LineState.STALE
    assert len(line.takes) == 2

    with pytest.raises(ClashError):
        choose_take(workspace, bay, 1, "l1", first or "")
    with pytest.raises(NotFoundError):
        choose_take(workspace, bay, workspace.head(bay).revision, "l1", "nothing")


def test_lines_with_the_same_words_share_a_take(workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project([ONE, ONE]), "Made")
    assert voice_lines(workspace, project_id).made == 1
    lines = workspace.head(project_id).project.lines
    assert lines[0].take_id == lines[1].take_id


def test_ways_are_compared_without_a_change_and_kept_as_takes(workspace: Workspace, bay: str) -> None:
    before = workspace.head(bay)
    variants = [
        Variant(),
        Variant(delivery=Delivery(style="urgent")),
        Variant(voice_id="nobody"),
        Variant(text=ONE + " So."),
    ]
    found = compare(workspace, bay, "l1", variants)
    assert workspace.head(bay) == before
    assert [each.take is not None for each in found] == [True, True, False, True]
    assert "no voice" in found[2].reason
    lengths = [each.take.length_ticks for each in found if each.take]
    assert lengths[1] < lengths[0] < lengths[2]

    keep_compared(workspace, bay, before.revision, "l1", variants, 1)
    line = workspace.head(bay).project.line("l1")
    assert line.delivery == Delivery(style="urgent")
    assert len(line.takes) == 3
    assert states(workspace, bay)[0] is not LineState.STALE
    assert workspace.head(bay).undo_label == "Line 1: 4 takes kept, one chosen"
    with pytest.raises(EditError, match="could not be said"):
        keep_compared(workspace, bay, workspace.head(bay).revision, "l1", variants, 2)
    with pytest.raises(EditError):
        compare(workspace, bay, "l1", [])


def test_a_recast_is_one_step_with_its_takes(workspace: Workspace, bay: str) -> None:
    voice_lines(workspace, bay, ["l1", "l2"], edits=[SetRole(role_id="r1", voice_id="corin")])
    head = workspace.head(bay)
    assert head.undo_label == "Voice of narrator, 2 lines voiced"
    assert open_lines(workspace, head.project) == []
    workspace.projects.undo(bay)
    back = workspace.head(bay).project
    assert back.role("r1").voice_id == "orla"
    assert open_lines(workspace, back) == []


def recorded(workspace: Workspace, tmp_path: Path, texts: list[str], voice_id: str = "wren") -> Path:
    """A file in which a voice of ours says texts with rests between, in a room."""
    project = simple_project(texts)
    project, _ = SetRole(role_id="r1", voice_id=voice_id).apply(project)
    parts = [np.zeros(30_000, np.float32)]
    for line in project.lines:
        take, _ = natural_take(workspace, project, line)
        parts += [read_wav(workspace.library.take_sound(take.sound_hash)), np.zeros(36_000, np.float32)]
    sound = np.concatenate(parts)
    path = tmp_path / "spoken.wav"
    path.write_bytes(
        wav_bytes(sound + np.random.default_rng(3).normal(0, 0.0008, len(sound)).astype(np.float32))
    )
    return path


def test_a_recording_of_the_whole_script_becomes_takes_that_are_fitted_like_any(
    workspace: Workspace, bay: str, tmp_path: Path
) -> None:
    file = recorded(workspace, tmp_path, [ONE, TWO])
    result = bring_recording(workspace, bay, ["l1", "l2"], file, "spoken.wav")
    assert [(line.line_id, line.doubtful) for line in result.lines] == [("l1", ()), ("l2", ())]
    head = workspace.head(bay)
    assert head.undo_label == "2 lines recorded"
    takes = [workspace.takes_of(head.project)[line.take_id or ""] for line in head.project.lines]
    assert all(take.recorded for take in takes)
    assert open_lines(workspace, edited(workspace, bay, SetRole(role_id="r1", voice_id="corin"))) == []

    edited(workspace, bay, SetPause(line_id="l1", after_word=4, seconds=0.4))
    accept(workspace, fit(workspace, bay))
    timeline = workspace.timeline(workspace.head(bay).project)
    take = timeline.lines[0].take
    assert take is not None
    assert take.recorded
    written = [pause for pause in take.pauses if pause.written]
    assert [pause.end_sample - pause.start_sample for pause in written] == [19_200]
    assert timeline.lines[0].end_ticks - timeline.lines[0].start_ticks == pytest.approx(
        take.length_ticks, abs=3_600_000
    )


def test_a_voice_takes_over_a_recorded_line_only_when_it_is_asked_to(
    workspace: Workspace, bay: str, tmp_path: Path
) -> None:
    bring_recording(workspace, bay, ["l1"], recorded(workspace, tmp_path, [ONE]), "spoken.wav")
    edited(workspace, bay, SetCaptionText(caption_id="c1", text="Something else."))
    assert states(workspace, bay)[0] is LineState.STALE
    assert voice_lines(workspace, bay).made == 0
    assert states(workspace, bay)[0] is LineState.STALE
    voice_lines(workspace, bay, ["l1"])
    assert states(workspace, bay)[0] is not LineState.STALE
    assert len(workspace.head(bay).project.line("l1").takes) == 3


def test_a_recording_that_can_not_be_used_is_named_and_changes_nothing(
    workspace: Workspace, bay: str, tmp_path: Path
) -> None:
    before = workspace.head(bay)
    other = recorded(workspace, tmp_path, ["Nothing of this stands in the script at all, my friend."])
    silent = tmp_path / "silent.wav"
    silent.write_bytes(wav_bytes(np.zeros(48_000, np.float32)))
    fake = tmp_path / "fake.mp3"
    fake.write_bytes(b"#EXTM3U\nfile:///etc/passwd\n")
    for path, why in ((other, "does not seem to say"), (silent, "microphone"), (fake, "")):
        with pytest.raises(InputError, match=f"{path.name}.*{why}"):
            bring_recording(workspace, bay, ["l1"], path, path.name)
    with pytest.raises(InputError, match="choose the line it contains"):
        bring_recording(workspace, bay, [], other, "spoken.wav")
    assert workspace.head(bay) == before


def test_a_recording_in_another_language_is_cut_by_a_reading(workspace: Workspace, tmp_path: Path) -> None:
    texts = ["Dos veces al día, el mar se va.", "Lo que olvida, lo guarda en pozas."]
    project, _ = SetRole(role_id="r1", voice_id="ines").apply(simple_project(texts, language="es"))
    project_id = workspace.projects.create(project, "Made")
    file = recorded(workspace, tmp_path, texts, "anselmo")
    result = bring_recording(workspace, project_id, ["l1", "l2"], file, "spoken.wav")
    assert not result.checked
    lengths = [line.seconds for line in result.lines]
    assert all(1.0 < seconds < 4.0 for seconds in lengths)


def test_a_draft_begins_a_line_after_each_rest(workspace: Workspace, tmp_path: Path) -> None:
    text, words = draft_of(
        recorded(workspace, tmp_path, ["The first one came back.", "The first one went."]), "s.wav"
    )
    assert text.count("\n") >= 1
    assert len(words) >= 6


def test_a_draft_says_how_far_it_is_and_can_be_stopped(workspace: Workspace, tmp_path: Path) -> None:
    file = recorded(workspace, tmp_path, [ONE] * 6)
    told: list[tuple[int, int, str]] = []

    class Watch:
        cancelled = False

        def report(self, done: int, total: int, note: str = "") -> None:
            told.append((done, total, note))
            if self.cancelled:
                raise CancelledError("Stopped.")

    draft_of(file, "s.wav", Watch())
    listened = [(done, total) for done, total, note in told if note == "Listening for words"]
    assert len({total for _, total in listened}) == 1
    assert sorted(listened) == listened
    assert listened[-1][0] == listened[-1][1] > 1
    stopped = Watch()
    stopped.cancelled = True
    with pytest.raises(CancelledError):
        draft_of(file, "s.wav", stopped)


# words


def test_what_words_would_make_is_shown_and_then_made(workspace: Workspace, bay: str) -> None:
    project = edited(workspace, bay, SetRole(role_id="r1", name="narrator"))
    source = Source("new.txt", f"# Pools\n\n{ONE}\n\nLIMPET: It is 5 km to the weed.\n".encode())
    plan = plan_words(workspace, bay, Source("new.md", source.data))
    assert plan.counts == {"same": 1, "gone": 1, "new": 1}
    assert plan.new_roles == ("limpet",)
    assert plan.seconds > 3
    assert workspace.head(bay).project == project
    take = project.line("l1").take_id
    bring_words(workspace, bay, workspace.head(bay).revision, Source("new.md", source.data), "compare")
    made = workspace.head(bay).project
    assert [said_text(made, line) for line in made.lines][-1] == "It is 5 km to the weed."
    assert made.line("l1").take_id == take
    assert [role.name for role in made.roles] == ["narrator", "limpet"]
    workspace.projects.undo(bay)
    assert workspace.head(bay).project == project


def test_words_laid_anew_and_a_table_by_chosen_columns(workspace: Workspace, bay: str) -> None:
    table = Source("t.csv", b"a,b\nx,First of all.\ny,Then the rest.\n", Columns(text=1))
    plan = plan_words(workspace, bay, table, "anew")
    assert plan.table is not None
    assert plan.counts == {"gone": 2, "new": 2}
    bring_words(workspace, bay, workspace.head(bay).revision, table, "anew", "single")
    made = workspace.head(bay).project
    assert [(said_text(made, line), line.first_shot_id) for line in made.lines] == [
        ("First of all.", "s1"), ("Then the rest.", "s2"),
    ]  # fmt: skip
    with pytest.raises(InputError, match="no words"):
        plan_words(workspace, bay, Source("t.csv", b"a,b\n,\n", Columns(text=0)))


@pytest.mark.parametrize(
    ("text", "script"),
    [("समुद्र दिन में", "Devanagari"), ("البحر يأتي", "Arabic"), ("大海每天", "Han"), ("Море идёт", "Cyrillic")],
)
def test_a_script_no_voice_of_the_cast_reads_is_warned_of_and_kept(
    workspace: Workspace, bay: str, text: str, script: str
) -> None:
    plan = plan_words(workspace, bay, Source("a.txt", text.encode()))
    assert any(script in warning for warning in plan.warnings)
    assert plan.lines[0].text == text


# how words are said


def test_each_word_is_told_how_it_will_be_said(workspace: Workspace) -> None:
    project_id = workspace.projects.create(simple_project(["It is 5 km to Vraxholm Bay."]), "Made")
    project = edited(workspace, project_id, SetEntry(written="Bay", ipa="bˈeɪ"))
    told = told_words(project, project.lines[0])
    assert [(word.said, word.by) for word in told if word.said] == [
        ("five", "figures"), ("kilometres", "figures"), ("/bˈeɪ/", "lexicon"),
    ]  # fmt: skip
    assert [word.text for word in told if word.guessed] == ["Vraxholm"]
    assert [(use.count, use.line_ids) for use in lexicon_use(project)] == [(1, ("l1",))]


def test_a_pronunciation_is_heard_before_it_is_set(workspace: Workspace, bay: str) -> None:
    before = workspace.head(bay)
    plain, start, end = hear_pronunciation(workspace, bay, "l1", 6, 7, None, None)
    _, begin, stop = hear_pronunciation(workspace, bay, "l1", 6, 7, None, "marramarramarro")
    assert plain.id == before.project.line("l1").take_id
    assert stop - begin > 1.5 * (end - start)
    one = hear_entry(workspace, bay, SetEntry(written="Marrow", spelled="marramarro"))
    other = hear_entry(workspace, bay, SetEntry(written="Marrow"))
    assert one.length_ticks > other.length_ticks
    assert workspace.head(bay) == before
    edited(
        workspace,
        bay,
        SetLineDelivery(line_id="l1", voice_id="corin"),
        SetEntry(written="pools", spelled="pulls"),
    )
    # who has the word says it
    assert hear_entry(workspace, bay, SetEntry(written="Marrow")).voice_id == "corin"
    assert hear_entry(workspace, bay, SetEntry(written="unheard")).voice_id == "orla"


def test_a_repunctuated_line_is_proved_and_a_changed_word_is_named(workspace: Workspace, bay: str) -> None:
    project = workspace.head(bay).project
    line = project.line("l2")
    assert repunctuate(project, line, "What it forgets it keeps, in pools.").proof.holds
    assert repunctuate(project, line, "What it forgot, it keeps in pools.").proof.lost == ("forgets,",)
    assert repunctuate(project, line).text == TWO


def test_the_script_goes_out_with_its_direction(workspace: Workspace, bay: str) -> None:
    project = edited(workspace, bay, SetEmphasis(line_id="l1", first_word=4, end_word=5, level="strong"))
    text = script_file(project)
    plan = plan_words(workspace, bay, Source("again.ssml", text.encode()))
    assert plan.counts == {"same": 2}
    assert [line.marks for line in plan.lines] == [1, 0]


@pytest.mark.parametrize("kind", ["wav", "flac", "mp3"])
def test_lines_are_written_as_files_trimmed_and_named(
    workspace: Workspace, bay: str, tmp_path: Path, kind: str
) -> None:
    made = export_lines(workspace, bay, tmp_path / "out", ["l2"], kind)  # type: ignore[arg-type]
    files = [each.path for each in made]
    assert [file.name for file in files] == [f"test-narrator-02.{kind}"]
    assert files[0].stat().st_size > 5000
    if kind == "wav":
        take = workspace.takes_of(workspace.head(bay).project)[
            workspace.head(bay).project.line("l2").take_id or ""
        ]
        assert abs(samples_to_ticks(len(read_wav(files[0]))) - take.length_ticks) <= samples_to_ticks(480)
        assert made[0].seconds == len(read_wav(files[0])) / 48000
    with pytest.raises(InputError, match="has a sound yet"):
        export_lines(workspace, bay, tmp_path / "out", ["nothing"], "wav")
