"""Scripts with headings and names: plain text, Markdown, word processor documents."""

import html
import io
import zipfile

import docx
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fox_cadence.errors import InputError
from fox_cadence.formats import is_words, read_words
from fox_cadence.formats.docx import MOST_UNPACKED_BYTES
from fox_cadence.formats.speakers import split_speaker


def parts(name: str, data: bytes) -> list[tuple[str, str]]:
    """Each cue as its role, or # for a heading, and its words."""
    return [("#" if cue.heading else cue.role, cue.text) for cue in read_words(name, data).cues]


def problems(name: str, data: bytes) -> list[str]:
    return [f"{item.place}: {item.message}" for item in read_words(name, data).problems]


@pytest.mark.parametrize(
    ("text", "role", "rest"),
    [
        ("LIMPET: Home is a groove.", "limpet", "Home is a groove."),
        ("  MRS. HALE :  Not today.", "mrs. hale", "Not today."),
        ("ÉTOILE: Doucement.", "étoile", "Doucement."),
        ("CRAB 2: Watching.", "crab 2", "Watching."),
        ("LIMPET:", "limpet", ""),
        ("Note: bring boots.", "", "Note: bring boots."),
        ("At 10:30 the tide turns.", "", "At 10:30 the tide turns."),
        ("THE WHOLE OF THE BAY SAID: no.", "", "THE WHOLE OF THE BAY SAID: no."),
        ("潮: 満ちる", "", "潮: 満ちる"),
        ("No name here", "", "No name here"),
    ],
)
def test_who_speaks_is_named_in_capitals_before_a_colon(text: str, role: str, rest: str) -> None:
    assert split_speaker(text) == (role, rest)


@given(st.text(max_size=60))
def test_no_words_are_lost_with_a_name(text: str) -> None:
    role, rest = split_speaker(text)
    assert rest in text
    assert bool(role) is (rest != text)


def test_a_name_alone_speaks_what_comes_next() -> None:
    text = b"The bay is empty.\nLIMPET:\nHome is a groove.\nI ground it to fit.\nCRAB:\n"
    assert parts("s.txt", text) == [
        ("", "The bay is empty."),
        ("limpet", "Home is a groove."),
        ("", "I ground it to fit."),
    ]
    assert problems("s.txt", text) == ["the end: CRAB has nothing to say; left out"]


MARKDOWN = b"""---
title: Low tide
---

# Low tide

The sea *leaves* **Marrow Bay**
twice a day.

The pools
---------

- What it [forgets](https://elsewhere.example), it keeps.
- LIMPET: Home is a `groove`.

> The crab is watching.

![a crab](crab.png)

```
not to be read aloud
```

<div>neither</div>
"""


def test_markdown_gives_headings_paragraphs_and_items() -> None:
    assert parts("s.md", MARKDOWN) == [
        ("#", "Low tide"),
        ("", "The sea leaves Marrow Bay twice a day."),
        ("#", "The pools"),
        ("", "What it forgets, it keeps."),
        ("limpet", "Home is a groove."),
        ("", "The crab is watching."),
    ]
    assert problems("s.md", MARKDOWN) == [
        "line 1: what stands between --- and --- about the document; left out",
        "line 18: the picture “a crab”; left out",
        "line 20: a block of code; left out",
        "line 24: a block of HTML; left out",
    ]
    lines = [cue.line for cue in read_words("s.md", MARKDOWN).cues]
    assert lines == [5, 7, 10, 13, 14, 16]


def test_a_rule_at_the_top_is_no_front_matter() -> None:
    assert parts("s.md", b"---\n\nThe sea leaves.\n\n---\n\nIt comes back.") == [
        ("", "The sea leaves."),
        ("", "It comes back."),
    ]


def refusal(name: str, data: bytes) -> str:
    try:
        read_words(name, data)
    except InputError as error:
        return str(error)
    return ""


@given(st.text(st.characters(exclude_categories=["Cc", "Cs"]) | st.just("\n"), max_size=300))
def test_markdown_is_read_or_refused_in_words(text: str) -> None:
    data = text.encode("utf-8-sig")  # else what is not words may be taken for another encoding
    refused = refusal("s.md", data)
    assert refused == "" or refused[0].isalpha()
    letters = {letter for letter in text + html.unescape(text) if letter.isalpha()}
    for _, said in parts("s.md", data) if not refused else []:
        assert {
            letter for letter in said if letter.isalpha()
        } <= letters  # nothing is said that was not written


def document() -> bytes:
    made = docx.Document()
    made.add_heading("Low tide", 0)
    made.add_heading("The pools", 1)
    made.add_paragraph("What it forgets, it keeps in pools.")
    made.add_paragraph("LIMPET: Home is a groove.\nI ground it to fit.")
    made.add_paragraph("")
    table = made.add_table(2, 2)
    for row, cells in zip(table.rows, (("CRAB", "Watching."), ("one", "two")), strict=True):
        for cell, text in zip(row.cells, cells, strict=True):
            cell.text = text
    made.add_paragraph("Then the sea comes back.", style="List Bullet")
    out = io.BytesIO()
    made.save(out)
    return out.getvalue()


def test_a_document_is_read_in_its_order_with_its_tables() -> None:
    assert parts("s.docx", document()) == [
        ("#", "Low tide"),
        ("#", "The pools"),
        ("", "What it forgets, it keeps in pools."),
        ("limpet", "Home is a groove."),
        ("", "I ground it to fit."),
        ("crab", "Watching."),
        ("", "one"),
        ("", "two"),
        ("", "Then the sea comes back."),
    ]


def rewritten(change: dict[str, bytes]) -> bytes:
    """The document with some of its parts exchanged or added."""
    out = io.BytesIO()
    with (
        zipfile.ZipFile(io.BytesIO(document())) as old,
        zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new,
    ):
        for name in old.namelist():
            new.writestr(name, change.get(name, old.read(name)))
        for name in set(change) - set(old.namelist()):
            new.writestr(name, change[name])
    return out.getvalue()


ENTITY = (
    b'<?xml version="1.0"?><!DOCTYPE w [<!ENTITY a SYSTEM "file:///etc/passwd">]>'
    b'<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main">'
    b"<w:body><w:p><w:r><w:t>The sea &a; leaves.</w:t></w:r></w:p></w:body></w:document>"
)


def test_a_document_never_opens_another_file() -> None:
    read = read_words("s.docx", rewritten({"word/document.xml": ENTITY}))
    assert "root:" not in " ".join(cue.text for cue in read.cues)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"not a document", "no DOCX document"),
        (document()[:900], "no DOCX document"),
        (rewritten({"word/media/big.bin": b"\0" * (MOST_UNPACKED_BYTES + 1)}), "would unpack to"),
        (rewritten({"word/document.xml": b"<broken"}), "damaged"),
        (rewritten({"[Content_Types].xml": b"<Types xmlns='http://x'/>"}), "damaged"),
    ],
    ids=["text", "truncated", "bomb", "broken", "no types"],
)
def test_a_document_that_cannot_be_read_is_refused_by_name(data: bytes, words: str) -> None:
    with pytest.raises(InputError, match=words) as refused:
        read_words("script.docx", data)
    assert str(refused.value).startswith("script.docx: ")


@settings(max_examples=30)
@given(
    st.sampled_from(["word/document.xml", "word/styles.xml", "_rels/.rels", "[Content_Types].xml"]), st.data()
)
def test_no_damage_to_a_document_crashes_the_reader(part: str, data: st.DataObject) -> None:
    with zipfile.ZipFile(io.BytesIO(document())) as archive:
        whole = archive.read(part)
    start = data.draw(st.integers(0, len(whole) - 1))
    end = data.draw(st.integers(start, min(len(whole), start + 40)))
    damaged = whole[:start] + data.draw(st.binary(max_size=10)) + whole[end:]
    assert "Traceback" not in refusal("s.docx", rewritten({part: damaged}))


def test_headings_alone_are_no_words() -> None:
    with pytest.raises(InputError, match="no words were found"):
        read_words("s.md", b"# Only\n\n## Headings\n")


def test_files_of_words_are_known_by_their_names() -> None:
    assert all(is_words(name) for name in ("a.SRT", "b.md", "c.docx", "d.txt"))
    assert not any(is_words(name) for name in ("a.mp4", "words", "b.doc", ""))
    with pytest.raises(InputError, match=r"\.docx, \.markdown, \.md"):
        read_words("script.doc", b"x")
