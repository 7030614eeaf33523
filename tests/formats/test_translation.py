"""Words to translate, out and back, and files that can't be used."""

import io
import zipfile

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.errors import InputError
from fox_cadence.formats.translation import WRITERS, Pair, Row, read_pairs

ROWS = [
    Row("t1", "heading", "LOW WATER", ""),
    Row("l1", "narrator", 'The tide, "out" <& in>;\ttwice.', "La marea; «fuera»"),
    Row("l2", "crab", "=1+1", "¿Qué?"),
]

words = st.text(
    st.characters(exclude_categories=("Cc", "Cs", "Zl", "Zp"), exclude_characters="\ufeff\ufffe\uffff"),
    min_size=1,
    max_size=30,
).map(lambda text: " ".join(text.split())).filter(bool)  # fmt: skip


@pytest.mark.parametrize("kind", WRITERS)
def test_what_is_written_comes_back(kind: str) -> None:
    found = read_pairs(f"words.{kind}", WRITERS[kind](ROWS, ("en", "es")))
    assert found is not None
    pairs = found if kind == "xlf" else found[1:]  # tables have a head
    named = kind != "docx"
    assert pairs == [
        Pair(" ".join(row.source.split()), row.target, row.unit_id if named else "") for row in ROWS
    ]


@given(st.lists(st.tuples(words, words), min_size=1, max_size=5), st.sampled_from(["csv", "xlf"]))
def test_any_words_come_back(texts: list[tuple[str, str]], kind: str) -> None:
    rows = [Row(f"u{n}", "", source, target) for n, (source, target) in enumerate(texts)]
    found = read_pairs(f"words.{kind}", WRITERS[kind](rows, ("en", "es"))) or []
    assert [(pair.source, pair.target) for pair in found][-len(texts) :] == texts


def test_columns_are_known_by_their_names_or_by_their_places() -> None:
    named = read_pairs("w.csv", b"Who;Target;Source\nfox;Hola;Hello\n")
    assert named is not None
    assert named[1] == Pair("Hello", "Hola")
    plain = read_pairs("w.tsv", "Hello\tHola\nBye\tAdiós\n".encode())
    assert plain == [Pair("Hello", "Hola"), Pair("Bye", "Adiós")]


def test_a_file_of_one_column_or_of_captions_has_no_pairs() -> None:
    assert read_pairs("w.csv", b"Hello\nBye\n") is None
    assert read_pairs("w.srt", b"1\n00:00:00,000 --> 00:00:01,000\nHello\n") is None


def test_the_segments_of_a_unit_are_put_together_and_their_tags_left_out() -> None:
    text = """<xliff xmlns="urn:oasis:names:tc:xliff:document:2.0" version="2.0" srcLang="en" trgLang="es">
    <file id="f"><unit id="l1"><segment><source>One. </source><target>Uno. </target></segment>
    <segment><source>Two <pc id="1">three</pc>.</source><target>Dos <pc id="1">tres</pc>.</target></segment>
    </unit></file></xliff>"""
    assert read_pairs("w.xlf", text.encode()) == [Pair("One. Two three.", "Uno. Dos tres.", "l1")]


def docx_with(name: str, body: str) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as made:
        made.writestr(name, body)
    return out.getvalue()


BAD = {
    "cut.xlf": WRITERS["xlf"](ROWS, ("en", "es"))[:200],
    "old.xlf": b'<xliff version="1.2"><file><body/></file></xliff>',
    "page.xliff": b"<html><body>Hello</body></html>",
    "entity.xlf": b'<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/hostname">]><xliff version="2.1">&e;</xliff>',
    "empty.docx": b"",
    "cut.docx": WRITERS["docx"](ROWS, ("en", "es"))[:400],
    "other.docx": docx_with("hello.txt", "Hello"),
}


@pytest.mark.parametrize("name", BAD)
def test_what_cannot_be_used_is_said(name: str) -> None:
    with pytest.raises(InputError):
        read_pairs(name, BAD[name])
