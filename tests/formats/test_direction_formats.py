"""SSML, PLS and tables: what comes in, what is left out and said, and the way back."""

import contextlib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.lexicon import LexiconEntry
from fox_cadence.core.marks import Breath, Emphasis, Mark, PauseMark, Pronunciation, SpanMark, SyncPoint
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.core.words import words_of
from fox_cadence.errors import InputError
from fox_cadence.formats import csv_rows, pls, read_words, ssml

HEAD = '<speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xml:lang="en">'
OPEN = "file:///etc/passwd"


def read(body: str) -> tuple[list[str], list[tuple[Mark, ...]], list[str]]:
    found = ssml.read(f"{HEAD}{body}</speak>")
    return [c.text for c in found.cues], [c.marks for c in found.cues], [p.message for p in found.problems]


def test_elements_become_marks_on_their_words() -> None:
    text, marks, problems = read(
        '<p>Twice a day, <break time="500ms"/>the <emphasis level="strong">sea leaves</emphasis> '
        '<phoneme alphabet="ipa" ph="ˈmærəʊ">Marrow</phoneme> <prosody rate="80%" pitch="+2st" '
        'volume="-3dB">Bay'
        '</prosody>.</p><p><sub alias="five kilometres">5km</sub> on.</p>'
    )
    assert text == ["Twice a day, the sea leaves Marrow Bay.", "5km on."]
    assert set(marks[0]) == {
        PauseMark(after_word=2, ticks=seconds_to_ticks(0.5)),
        Emphasis(first_word=4, end_word=6, level="strong"),
        Pronunciation(first_word=6, end_word=7, ipa="ˈmærəʊ"),
        SpanMark(first_word=7, end_word=8, pace=0.8, pitch_semitones=2, gain_db=-3),
    }
    assert marks[1] == (Pronunciation(first_word=0, end_word=1, spelled="five kilometres"),)
    assert problems == []


def test_voices_are_roles_and_sentences_are_lines() -> None:
    found = ssml.read(
        f'{HEAD}<s>One.</s><voice name="Limpet"><s>Two.</s><s>Three.</s></voice><s>Four.</s></speak>'
    )
    assert [(cue.role, cue.text) for cue in found.cues] == [
        ("", "One."), ("limpet", "Two."), ("limpet", "Three."), ("", "Four."),
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("body", "said", "remark"),
    [
        (f'<p><audio src="{OPEN}">A wave</audio> breaks.</p>', "A wave breaks.", "not opened"),
        (f'<lexicon uri="{OPEN}"/><p>A wave.</p>', "A wave.", "not opened"),
        ('<p>A <phoneme alphabet="x-sampa" ph="w">wave</phoneme>.</p>', "A wave.", "another alphabet"),
        ('<p>A <phoneme ph="1234">wave</phoneme>.</p>', "A wave.", "no sign of the International"),
        (
            '<p>A <sub alias="long high">big blue wave</sub>.</p>',
            "A big blue wave.",
            "another number of words",
        ),
        ('<p>A<break time="99999999s"/> wave.</p>', "A wave.", "cut to 10 s"),
        ('<p>A<break time="soon"/> wave.</p>', "A wave.", "can't be read"),
        ('<p>A <prosody pitch="440Hz">wave</prosody>.</p>', "A wave.", "semitones and percent"),
        ('<p>A <prosody rate="nan">wave</prosody>.</p>', "A wave.", "can't be read"),
        ("<p>A <blink>wave</blink>.</p>", "A wave.", "not known here"),
    ],
)
def test_what_can_not_be_used_is_remarked_and_its_words_are_kept(body: str, said: str, remark: str) -> None:
    texts, _, problems = read(body)
    assert texts == [said]
    assert any(remark in problem for problem in problems)


@pytest.mark.parametrize(
    "document",
    [
        '<!DOCTYPE speak [<!ENTITY x SYSTEM "file:///etc/passwd">]><speak>&x;</speak>',
        '<!DOCTYPE lolz [<!ENTITY a "aaaaaaaa"><!ENTITY b "&a;&a;&a;&a;">]><speak>&b;</speak>',
        "<speak><p>never closed",
        "",
        "<speak>" + "<p>" * 5000 + "x" + "</p>" * 5000 + "</speak>",
    ],
)
def test_a_document_that_would_open_something_or_is_none_is_refused(document: str) -> None:
    with pytest.raises(InputError):
        read_words("a.ssml", document.encode() or b" ")


WORDS = ["tide,", "pool", "<crab>", "a&b", "the", "weed."]


@st.composite
def directed_lines(draw: st.DrawFn) -> ssml.SpokenLine:
    words = draw(st.lists(st.sampled_from(WORDS), min_size=2, max_size=8))
    count = len(words)
    first = draw(st.integers(0, count - 1))
    end = draw(st.integers(first + 1, count))
    marks: list[Mark] = draw(
        st.lists(
            st.sampled_from(
                [
                    PauseMark(after_word=draw(st.integers(0, count - 2)), ticks=seconds_to_ticks(0.25)),
                    Emphasis(first_word=first, end_word=end, level="strong"),
                    SpanMark(first_word=first, end_word=first + 1, pace=0.8, gain_db=3),
                    Pronunciation(
                        first_word=first,
                        end_word=first + 1,
                        ipa="ˈa",
                        language=draw(st.sampled_from([None, "pt-BR"])),
                    ),
                    Breath(after_word=draw(st.integers(0, count - 2))),
                ]
            ),
            unique_by=lambda mark: mark.kind,
            max_size=5,
        )
    )
    return ssml.SpokenLine("limpet", " ".join(words), tuple(marks))


@given(directed_lines())
def test_what_is_written_comes_back_word_for_word_and_mark_for_mark(line: ssml.SpokenLine) -> None:
    found = ssml.read(ssml.write([line], "en"))
    assert [(cue.role, cue.text) for cue in found.cues] == [("limpet", line.text)]
    assert found.problems == ()

    def by_word(marks: tuple[Mark, ...] | list[Mark]) -> set[tuple[object, ...]]:
        """Each word with what stands on it: a mark over several comes back as one a word."""
        said: set[tuple[object, ...]] = set()
        for mark in marks:
            place = mark.model_dump(exclude={"first_word", "end_word", "after_word"})
            if isinstance(mark, PauseMark | Breath):
                words = [mark.after_word]
            else:
                assert not isinstance(mark, SyncPoint)
                words = list(range(mark.first_word, mark.end_word))
            said |= {(word, *sorted(place.items(), key=str)) for word in words}
        return said

    assert by_word(found.cues[0].marks) == by_word(list(line.marks))


LEXICON = """<?xml version="1.0"?><lexicon version="1.0" alphabet="ipa" xml:lang="en"
 xmlns="http://www.w3.org/2005/01/pronunciation-lexicon">
 <lexeme><grapheme>Marrow</grapheme><phoneme>ˈmærəʊ</phoneme></lexeme>
 <lexeme><grapheme>W3C</grapheme><alias>World Wide Web Consortium</alias></lexeme>
 <lexeme><grapheme>ring</grapheme><alias>round</alias></lexeme>
 <lexeme><grapheme>round</grapheme><alias>ring</alias></lexeme>
 <lexeme><grapheme>bad</grapheme><phoneme>123</phoneme></lexeme>
 <lexeme><grapheme>two words</grapheme><alias>one</alias></lexeme>
 <lexeme><grapheme>empty</grapheme></lexeme>
</lexicon>"""


def test_a_lexicon_comes_in_and_goes_out() -> None:
    found = pls.read(LEXICON, "fr")
    assert [(e.language, e.written, e.ipa or e.spelled) for e in found.entries] == [
        ("en", "Marrow", "ˈmærəʊ"), ("en", "W3C", "World Wide Web Consortium"), ("en", "ring", "round"),
        ("en", "round", "ring"),
    ]  # fmt: skip
    remarks = " ".join(problem.message for problem in found.problems)
    for part in ("in a ring", "no sign", "different numbers of words", "no word or no pronunciation"):
        assert part in remarks
    again = pls.read(pls.write(found.entries, "en"), "en")
    assert again.entries == found.entries


@pytest.mark.parametrize(
    "document", ["<speak/>", "<lexicon/>", "no xml", LEXICON.replace("<?xml", "<!DOCTYPE a><?xml")]
)
def test_what_is_no_lexicon_is_refused(document: str) -> None:
    with pytest.raises(InputError):
        pls.read(document, "en")


@given(st.text(st.characters(codec="utf-8", exclude_categories=["Cs", "Cc"]), min_size=1, max_size=30))
def test_any_word_can_stand_in_a_lexicon(word: str) -> None:
    entry = LexiconEntry(id="", language="en", written=f"w{word}", ipa="ˈa")
    try:
        found = pls.read(pls.write([entry], "en"), "en")
    except InputError:
        assert len(words_of(f"w{word}")) != 1  # several words want several pronunciations
        return
    assert found.entries[0].written == " ".join(f"w{word}".split())


TABLE = """Scene;Who;Words;In;Out
Home;limpet;I was first.;0:01;0:03,5
Home;;The rock was here.;4;5
;;;;
Away;limpet;;6;7
"""


def test_the_columns_of_a_table_are_guessed_and_can_be_chosen() -> None:
    table = csv_rows.look(TABLE)
    assert table.guess == csv_rows.Columns(text=2, role=1, start=3, end=4, heading=0, first_row_names=True)
    found = csv_rows.read(TABLE)
    assert [(cue.role, cue.text, cue.heading) for cue in found.cues] == [
        ("", "Home", True), ("limpet", "I was first.", False), ("", "The rock was here.", False),
        ("", "Away", True),
    ]  # fmt: skip
    assert found.cues[1].end_ticks == seconds_to_ticks(3.5)
    assert [problem.place for problem in found.problems] == ["row 5"]
    chosen = csv_rows.read(TABLE, csv_rows.Columns(text=1))
    assert [cue.text for cue in chosen.cues] == ["limpet", "limpet"]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("one line\nanother line\n", ["one line", "another line"]),
        ('a,"b, and ""c""",d\n', ['b, and "c"']),
        ("x\ty longer text\n", ["y longer text"]),
    ],
)
def test_a_table_without_names_is_read_by_its_longest_column(text: str, words: list[str]) -> None:
    assert [cue.text for cue in csv_rows.read(text).cues] == words


def test_times_that_can_not_be_read_leave_a_row_out() -> None:
    found = csv_rows.read("in,out,words\n1,2,good\nlater,3,bad\n5,4,back to front\n")
    assert [cue.text for cue in found.cues] == ["good"]
    assert len(found.problems) == 2


@given(st.text(max_size=200))
def test_any_text_is_a_table_or_refused(text: str) -> None:
    with contextlib.suppress(InputError):
        assert len(csv_rows.read(text).cues) <= text.count("\n") + text.count("\r") + 1 + len(text)
