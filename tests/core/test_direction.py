"""Marks over words, lexicon, styles: what they come to in what a voice is asked for."""

import hashlib
import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.delivery import STYLES, Delivery, manner_of, unable
from fox_cadence.core.edits import (
    AddEntries,
    ApplyDelivery,
    EditError,
    SetBreath,
    SetEmphasis,
    SetEntry,
    SetLineDelivery,
    SetLineRole,
    SetPronunciation,
    SetRole,
    SetSaid,
    SetSpan,
    SplitLine,
)
from fox_cadence.core.edits.cast import sections
from fox_cadence.core.ipa import NotIpaError, checked_ipa
from fox_cadence.core.length_model import LETTERS, estimate_request
from fox_cadence.core.lexicon import LexiconEntry
from fox_cadence.core.marks import (
    BREATH_TICKS,
    Emphasis,
    Mark,
    PauseMark,
    Pronunciation,
    SpanMark,
    carried,
    cut_out,
    shifted,
    words_under,
)
from fox_cadence.core.project import Project, Role, SceneText, said_text
from fox_cadence.core.takes import VoicingRequest, natural_request, prosody_spans
from tests.builders import WORDS, simple_project

TEXT = "The tide turns twice a day in Marrow Bay."


def project() -> Project:
    return simple_project([TEXT, "What it forgets, it keeps."])


def asked(made: Project, line_id: str = "l1") -> VoicingRequest:
    return natural_request(made, made.line(line_id))


def test_what_is_new_leaves_the_keys_of_takes_made_before_as_they_were() -> None:
    """The key of the first release, worked out by its own formula."""
    plain = asked(project())
    old = {
        "text": TEXT,
        "voice_id": "orla",
        "pace": 1.0,
        "pitch_semitones": 0.0,
        "written": (),
        "targets": (),
    }
    assert plain.key == hashlib.sha256(json.dumps(old, sort_keys=True).encode()).hexdigest()
    assert plain.changed(breaths=(2,)).key != plain.key


def test_emphasis_and_spans_over_the_same_words_add_up() -> None:
    made, _ = SetEmphasis(line_id="l1", first_word=1, end_word=3, level="strong").apply(project())
    made, label = SetSpan(line_id="l1", first_word=2, end_word=4, pace=0.5, gain_db=-2).apply(made)
    assert label == "Line 1: “turns twice” with its own pace, pitch and loudness"
    touches = asked(made).touches
    assert [(touch.first_word, touch.end_word) for touch in touches] == [(1, 2), (2, 3), (3, 4)]
    assert [touch.pace for touch in touches] == [0.86, 0.43, 0.5]
    assert touches[1].gain_db == 1.5


def test_taking_a_mark_off_some_words_leaves_it_on_the_others() -> None:
    made, _ = SetEmphasis(line_id="l1", first_word=0, end_word=6, level="moderate").apply(project())
    made, label = SetEmphasis(line_id="l1", first_word=2, end_word=4).apply(made)
    assert label == "Line 1: no emphasis on “turns twice”"
    assert [words_under(mark) for mark in made.line("l1").marks] == [(0, 2), (4, 6)]


def test_a_breath_makes_a_pause_unless_one_is_written() -> None:
    made, _ = SetBreath(line_id="l1", after_word=3).apply(project())
    assert asked(made).written[0].samples == BREATH_TICKS * 48_000 // 705_600_000
    assert asked(made).breaths == (3,)
    gone, _ = SetBreath(line_id="l1", after_word=3, breathes=False).apply(made)
    assert gone == project()
    with pytest.raises(EditError, match="nothing to breathe"):
        SetBreath(line_id="l1", after_word=8).apply(project())


@pytest.mark.parametrize(
    ("edit", "why"),
    [
        (SetPronunciation(line_id="l1", first_word=7, end_word=9, spelled="marrowbay"), "one for each"),
        (
            SetPronunciation(line_id="l1", first_word=7, end_word=8, ipa="m@row"),
            "no sign of the International",
        ),
        (SetPronunciation(line_id="l1", first_word=7, end_word=8, ipa="a", spelled="b"), "in one way"),
        (
            SetPronunciation(line_id="l1", first_word=7, end_word=8, spelled="..."),
            "nothing that can be spoken",
        ),
        (SetPronunciation(line_id="l1", first_word=8, end_word=12, spelled="a b c d"), "no word 12"),
        (SetEmphasis(line_id="l1", first_word=3, end_word=3), "at least one word"),
        (SetEntry(written="--", spelled="a"), "no word in it"),
        (SetEntry(written="Marrow Bay", spelled="one"), "one for each"),
        (SetRole(role_id="r1", style="gloomy"), "no style"),
    ],
)
def test_what_can_not_be_is_refused_and_said(edit: SetPronunciation, why: str) -> None:
    with pytest.raises(EditError, match=why):
        edit.apply(project())


def test_a_line_s_own_pronunciation_goes_before_the_lexicon_s() -> None:
    made, label = SetEntry(written="marrow bay", spelled="maro bey").apply(project())
    assert label == "“marrow bay” is said maro bey"
    assert [(m.first_word, m.end_word, m.spelled) for m in asked(made).pronunciations] == [(7, 9, "maro bey")]
    own, _ = SetPronunciation(line_id="l1", first_word=7, end_word=8, ipa="/mˈɛɹoʊ/").apply(made)
    assert [(m.first_word, m.ipa) for m in asked(own).pronunciations] == [(7, "mˈɛɹoʊ")]
    empty, _ = SetEntry(written="Marrow  Bay").apply(made)
    assert empty.lexicon == ()


def test_an_entry_of_another_language_changes_nothing() -> None:
    made, _ = AddEntries(entries=[LexiconEntry(id="", language="es", written="tide", spelled="taid")]).apply(
        project()
    )
    assert asked(made).key == asked(project()).key


def test_a_role_s_style_changes_what_its_voice_is_asked_for_and_a_line_may_have_its_own() -> None:
    made, _ = SetRole(role_id="r1", style="grave", pace=1.1).apply(project())
    assert asked(made).pace == pytest.approx(1.1 * 0.88)
    assert asked(made).pauses == 1.45
    own = Delivery(style="urgent")
    made, _ = SetLineDelivery(line_id="l2", voice_id="corin", delivery=own).apply(made)
    assert (asked(made, "l2").voice_id, asked(made, "l2").pace) == ("corin", 1.16)
    back, _ = SetLineRole(line_id="l2", role_id="r1").apply(made)
    assert asked(back, "l2").voice_id == "orla"


def test_a_delivery_for_everything_takes_what_lines_had_of_their_own() -> None:
    made, _ = SetLineDelivery(line_id="l2", delivery=Delivery(style="urgent")).apply(project())
    calm = Delivery(style="calm")
    everywhere, _ = ApplyDelivery(delivery=calm, where="all", line_id="l1").apply(made)
    assert {asked(everywhere, line).pace for line in ("l1", "l2")} == {manner_of(calm).pace}
    assert everywhere.line("l2").delivery is None


def test_a_section_runs_from_one_heading_to_the_next() -> None:
    texts = (SceneText(id="t1", shot_id="s2", text="Second"), SceneText(id="t2", shot_id="s3", text="Third"))
    made = simple_project(["One.", "Two.", "Three."], scene_texts=texts)
    assert [(name, [line.id for line in lines]) for name, lines in sections(made)] == [
        ("", ["l1"]), ("Second", ["l2"]), ("Third", ["l3"]),
    ]  # fmt: skip
    changed, label = ApplyDelivery(delivery=Delivery(style="wry"), where="section", line_id="l2").apply(made)
    assert [line.delivery is not None for line in changed.lines] == [False, True, False]
    assert label == "Wry for a section of 1 lines"


@pytest.mark.parametrize(
    "style", [style for style in STYLES if style.pitch_range != 1], ids=lambda style: style.id
)
def test_a_style_says_what_a_voice_can_not_do(style: object) -> None:
    delivery = Delivery(style=style.id)  # type: ignore[attr-defined]
    assert unable(delivery, has_range=True) == ""
    assert "can’t change its own" in unable(delivery, has_range=False)


def test_slower_words_and_longer_pauses_are_expected_to_last_longer() -> None:
    plain = VoicingRequest(text="A tide, a pool. A crab.", voice_id="x", pace=1, pitch_semitones=0)
    slow = plain.changed(
        touches=prosody_spans((SpanMark(first_word=0, end_word=6, pace=0.5),), 6), pauses=2.0
    )
    before, after = estimate_request(LETTERS, plain), estimate_request(LETTERS, slow)
    assert after.voiced_ticks == pytest.approx(2 * before.voiced_ticks, rel=1e-6)
    assert after.pauses == {word: 2 * ticks for word, ticks in before.pauses.items()}


@pytest.mark.parametrize(
    ("typed", "kept"),
    [("/mˈærəʊ/", "mˈærəʊ"), ("[ga:]", "ɡaː"), ("t͡ʃa  b", "tʃa b"), ("ˈa", "ˈa")],
)
def test_ipa_is_kept_in_one_way(typed: str, kept: str) -> None:
    assert checked_ipa(typed) == kept


@pytest.mark.parametrize("typed", ["", "ˈ", "a1", "<phoneme>", "漢"])
def test_what_is_no_ipa_is_refused(typed: str) -> None:
    with pytest.raises(NotIpaError):
        checked_ipa(typed)


# laws


@st.composite
def marks(draw: st.DrawFn, words: int) -> tuple[Mark, ...]:
    found: list[Mark] = []
    for _ in range(draw(st.integers(0, 5))):
        first = draw(st.integers(0, words - 1))
        end = draw(st.integers(first + 1, words))
        choices: list[Mark] = [
            PauseMark(after_word=first, ticks=1000),
            Emphasis(first_word=first, end_word=end),
            SpanMark(first_word=first, end_word=end, pace=0.8),
            Pronunciation(first_word=first, end_word=first + 1, spelled="x"),
        ]
        found.append(draw(st.sampled_from(choices)))
    return tuple(found)


@given(st.data())
def test_marks_cut_in_two_and_joined_again_say_the_same_of_each_word(data: st.DataObject) -> None:
    words = data.draw(st.integers(2, 9))
    cut = data.draw(st.integers(1, words - 1))
    before = data.draw(marks(words))
    joined = (*cut_out(before, 0, cut), *shifted(cut_out(before, cut, words), cut))
    assert prosody_spans(joined, words) == prosody_spans(before, words)


@given(st.data())
def test_marks_stay_on_their_words_when_others_are_put_between(data: st.DataObject) -> None:
    count = data.draw(st.integers(2, 8))
    texts = [f"word{n}" for n in range(count)]
    at = data.draw(st.integers(0, count - 1))
    before = data.draw(marks(count))
    after = carried(before, texts, [*texts[:at], "new", *texts[at:]])
    for old, new in zip(
        [m for m in before if words_under(m)[0] < count - 1 or m.kind != "pause"], after, strict=False
    ):
        first, end = words_under(old)
        low, high = words_under(new)
        assert low == first + (first >= at)
        assert high - low - (end - first) in (0, 1)


@given(st.lists(st.sampled_from(WORDS), min_size=3, max_size=9), st.integers(1, 2))
def test_splitting_a_line_keeps_every_touch(words: list[str], at: int) -> None:
    made = simple_project([" ".join(words)], seconds=9)
    made, _ = SetEmphasis(line_id="l1", first_word=0, end_word=len(words), level="strong").apply(made)
    split, _ = SplitLine(line_id="l1", before_word=at).apply(made)
    lengths = [sum(t.end_word - t.first_word for t in asked(split, line.id).touches) for line in split.lines]
    assert lengths == [at, len(words) - at]
    assert " ".join(said_text(split, line) for line in split.lines) == " ".join(words)


def test_words_that_change_take_their_marks_along() -> None:
    made, _ = SetEmphasis(line_id="l1", first_word=3, end_word=4, level="strong").apply(project())
    made, label = SetSaid(line_id="l1", text="Nobody counts, but twice a day it turns.").apply(made)
    assert [words_under(mark) for mark in made.line("l1").marks] == [(3, 4)]
    made, label = SetSaid(line_id="l1", text="Nobody counts.").apply(made)
    assert label.endswith("1 mark gone with their words")


def test_a_role_can_be_known_by_its_delivery() -> None:
    role = Role(id="r1", name="x", voice_id="orla", pace=1.1, style="calm")
    assert role.delivery == Delivery(style="calm", pace=1.1)
