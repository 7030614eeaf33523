import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.edits import (
    AddTitle,
    BreakLines,
    DeleteShot,
    DeleteTitle,
    EditError,
    ForgetStyle,
    JoinCaptions,
    JoinShots,
    KeepStyle,
    MoveShot,
    PlaceWords,
    ReplaceWords,
    SayTitle,
    SetCalm,
    SetCaptionStyle,
    SetRate,
    SetTitle,
    SplitCaption,
    SplitShot,
    TitleFromHeading,
)
from fox_cadence.core.integrity import integrity_errors
from fox_cadence.core.lettered import style_of
from fox_cadence.core.lettering.style import Place
from fox_cadence.core.lettering.styles import STYLES, TITLES
from fox_cadence.core.project import Project, SceneText, Title, said_text
from fox_cadence.core.standing import words_on_screen
from fox_cadence.core.timeline_builder import build_timeline
from tests.builders import simple_project

LEDGER, CHALK = STYLES[2], STYLES[4]


def piece() -> Project:
    return simple_project(["One two three four.", "Five six.", "Seven."], 3.0)


def titled() -> Project:
    made, _ = AddTitle(shot_id="s2", text="Low tide\n at  Marrow Bay ", in_frames=10).apply(piece())
    return made


def test_a_style_is_that_of_the_caption_its_role_or_the_project() -> None:
    project = piece()
    role = project.roles[0].id
    made, _ = SetCaptionStyle(style=LEDGER).apply(project)
    made, _ = SetCaptionStyle(scope="role", id=role, style=CHALK).apply(made)
    made, label = SetCaptionStyle(scope="caption", id="c2", style=STYLES[1]).apply(made)
    assert label == "Style of caption 2: Contour"
    found = [
        style_of(made, caption, line).id for caption, line in zip(made.captions, made.lines, strict=True)
    ]
    assert found == ["chalk", "contour", "chalk"]
    bare, _ = SetCaptionStyle(scope="role", id=role).apply(made)
    assert style_of(bare, bare.captions[0], bare.lines[0]) == LEDGER
    alike, _ = SetCaptionStyle(style=LEDGER, own_too=True).apply(made)
    assert {style_of(alike, c, line).id for c, line in zip(alike.captions, alike.lines, strict=True)} == {
        "ledger"
    }
    with pytest.raises(EditError, match="need a style"):
        SetCaptionStyle().apply(project)


def test_styles_are_kept_under_names_and_calm_is_for_all() -> None:
    made, label = KeepStyle(style=CHALK.changed(name=" Slate  board ")).apply(piece())
    assert label == "Style “Slate board” kept"
    made, _ = KeepStyle(style=LEDGER.changed(name="slate board")).apply(made)
    (kept,) = made.lettering.kept
    assert (kept.name, kept.family) == ("slate board", LEDGER.family)
    gone, _ = ForgetStyle(style_id=kept.id).apply(made)
    assert gone.lettering.kept == ()
    with pytest.raises(EditError, match="no longer kept"):
        ForgetStyle(style_id=kept.id).apply(gone)
    calm, _ = SetCalm(calm=True).apply(gone)
    assert (
        style_of(
            calm.changed(lettering=calm.lettering.changed(style=CHALK)), calm.captions[0], None
        ).comes.kind
        == "fade"
    )


def test_words_are_placed_and_freed() -> None:
    project = titled()
    place = Place(y=0.2, hold="top")
    made, label = PlaceWords(ids=("c1", "n1"), place=place).apply(project)
    assert label == "Place of 2 captions"
    assert made.captions[0].place == made.titles[0].place == place
    free, _ = PlaceWords(ids=("n1",)).apply(made)
    assert free.titles[0].place is None
    with pytest.raises(EditError, match="no longer on the screen"):
        PlaceWords(ids=("c9",), place=place).apply(project)


def test_lines_are_broken_only_where_there_is_a_word() -> None:
    made, _ = BreakLines(caption_id="c1", breaks=(3, 1, 3)).apply(piece())
    assert made.captions[0].breaks == (1, 3)
    for breaks in ((0,), (4,), (-1,)):
        with pytest.raises(EditError, match="other than the first"):
            BreakLines(caption_id="c1", breaks=breaks).apply(piece())


@given(st.integers(1, 3), st.one_of(st.none(), st.integers(-20, 200)))
def test_a_split_caption_says_and_shows_the_same_and_joins_again(word: int, frames: int | None) -> None:
    project = piece()
    made, _ = SplitCaption(caption_id="c1", word=word, frames=frames).apply(project)
    first, second = made.captions[:2]
    assert f"{first.text} {second.text}" == project.captions[0].text
    assert project.captions[0].in_frames == first.in_frames < first.out_frames == second.in_frames
    assert second.in_frames < second.out_frames == project.captions[0].out_frames
    assert said_text(made, made.lines[0]) == said_text(project, project.lines[0])
    assert not list(integrity_errors(made))
    joined, _ = JoinCaptions(caption_id=second.id).apply(made)
    assert joined.captions == project.captions


def test_a_caption_is_not_split_where_it_can_not_be() -> None:
    project = piece()
    for edit, says in (
        (SplitCaption(caption_id="c1", word=4), "no such word"),
        (SplitCaption(caption_id="c3", word=1), "no such word"),
    ):
        with pytest.raises(EditError, match=says):
            edit.apply(project)
    locked = project.changed(captions=tuple(c.changed(locked=True) for c in project.captions))
    with pytest.raises(EditError, match="locked"):
        SplitCaption(caption_id="c1", word=1).apply(locked)


def test_a_title_is_made_changed_said_and_deleted() -> None:
    project = titled()
    (title,) = project.titles
    assert title.text == "Low tide\nat Marrow Bay"
    assert (title.in_frames, title.out_frames) == (10, 85)
    made, _ = SetTitle(title_id="n1", style=TITLES[3], in_frame=100, out_frame=120).apply(project)
    assert (made.titles[0].in_frames, made.titles[0].style.id) == (10, "number")
    with pytest.raises(EditError, match="go out after"):
        SetTitle(title_id="n1", in_frame=200).apply(project)
    with pytest.raises(EditError, match="needs words"):
        SetTitle(title_id="n1", text=" \n ").apply(project)
    said, _ = SayTitle(title_id="n1").apply(project)
    assert "Low tide at Marrow Bay" in [said_text(said, line) for line in said.lines]
    gone, _ = DeleteTitle(title_id="n1").apply(project)
    assert gone.titles == ()


def test_a_heading_becomes_a_title_on_its_shot() -> None:
    project = piece().changed(scene_texts=(SceneText(id="t1", shot_id="s2", text="Evening"),))
    made, _ = TitleFromHeading(heading_id="t1").apply(project)
    assert [(title.text, title.shot_id, title.in_frames) for title in made.titles] == [("Evening", "s2", 0)]
    assert made.scene_texts == project.scene_texts


def stands(project: Project) -> list[tuple[int, int]]:
    return [(span.in_frame, span.out_frame) for span in build_timeline(project, {}).titles]


def test_titles_go_with_their_pictures() -> None:
    project = titled()
    assert stands(project) == [(100, 175)]
    split, _ = SplitShot(shot_id="s2", at_frames=5).apply(project)
    assert stands(split) == [(100, 175)]
    assert split.titles[0].shot_id != "s2"
    joined, _ = JoinShots(shot_id=split.shots[1].id).apply(split)
    assert stands(joined) == stands(project)
    moved, _ = MoveShot(shot_id="s2", to=0).apply(project)
    assert stands(moved) == [(10, 85)]
    without, _ = DeleteShot(shot_id="s2").apply(project)
    assert [title.text for title in without.titles] == [project.titles[0].text]
    assert all(a < b <= without.shots[0].length_frames * 2 for a, b in stands(without))
    slower, _ = SetRate(rate="25").apply(project)
    assert stands(slower) == [(83, 146)]
    assert not list(integrity_errors(slower))


def test_words_are_replaced_in_titles_too() -> None:
    made, label = ReplaceWords(find="tide", by="water").apply(titled())
    assert made.titles[0].text == "Low water\nat Marrow Bay"
    assert "1 place" in label


def test_titles_are_painted_under_captions_and_only_within_the_piece() -> None:
    project = titled()
    late = Title(id="n2", shot_id="s3", in_frames=80, out_frames=400, text="End")
    outside = Title(id="n3", shot_id="s3", in_frames=95, out_frames=140, text="Never")
    words = words_on_screen(build_timeline(project.changed(titles=(*project.titles, late, outside)), {}))
    assert [each.id for each in words][:2] == ["n1", "n2"]
    assert words[1].out_frame == 270
    assert all(each.is_title == each.id.startswith("n") for each in words)
    assert "n3" not in {each.id for each in words}
