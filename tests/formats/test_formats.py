import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.errors import InputError
from fox_cadence.formats import Cue, read_words, srt, ttml, webvtt
from fox_cadence.formats.cues import TICKS_PER_MS
from fox_cadence.formats.decoding import decode
from tests.formats.ttml_schema import faults

plain = st.text(st.characters(codec="utf-8", exclude_categories=("C", "Z")), min_size=1, max_size=12)
words = (
    st.lists(plain, min_size=1, max_size=5)
    .map(" ".join)
    .filter(lambda t: "-->" not in t and any(c.isalnum() for c in t))
)
# what looks like markup is markup to a reader, in SRT as in the wild
unmarked = words.filter(lambda text: not set(text) & set("<>{}&"))


def timed(texts: list[str]) -> list[Cue]:
    step = 1500 * TICKS_PER_MS
    return [Cue(text, n * step, n * step + 1200 * TICKS_PER_MS) for n, text in enumerate(texts)]


def kept(cues: object) -> list[tuple[str, int | None, int | None]]:
    return [(cue.text, cue.start_ticks, cue.end_ticks) for cue in cues]  # type: ignore[attr-defined]


def read_or_refuse(name: str, data: bytes) -> tuple[tuple[Cue, ...], str]:
    try:
        return read_words(name, data).cues, ""
    except InputError as error:
        return (), str(error)


@given(st.lists(unmarked, min_size=1, max_size=6))
def test_srt_survives_the_round_trip(texts: list[str]) -> None:
    cues = timed(texts)
    result = srt.read(srt.write(cues))
    assert kept(result.cues) == kept(cues)
    assert result.problems == ()


@given(st.lists(words, min_size=1, max_size=6))
def test_webvtt_survives_the_round_trip_with_signs_that_could_be_markup(texts: list[str]) -> None:
    cues = timed(texts)
    written = webvtt.write(cues)
    result = webvtt.read(written)
    assert kept(result.cues) == kept(cues)
    body = written.split("\n", 1)[1]
    assert "<" not in body
    assert body.count(">") == body.count("-->")


@given(st.text(max_size=400), st.sampled_from(["a.srt", "a.vtt", "a.txt"]))
def test_no_text_crashes_a_reader(text: str, name: str) -> None:
    cues, refusal = read_or_refuse(name, text.encode("utf-8", "surrogatepass"))
    assert cues or name in refusal


@given(st.binary(max_size=300), st.sampled_from(["a.srt", "a.vtt", "a.txt"]))
def test_no_bytes_crash_a_reader(data: bytes, name: str) -> None:
    cues, refusal = read_or_refuse(name, data)
    assert cues or name in refusal


MESSY = """\ufeff1
00:00:01,000 --> 00:00:02,500
<i>First</i> line
and {\\an8}second

two
00:00:05,000 --> 00:00:04,000
Ends before it begins

00:00:06.000 --> 00:00:07.000
No number, dots

4
00:00:xx,000 --> 00:00:09,000
Broken time

5
00:00:10,000 --> 00:00:11,000

stray words
6
00:00:12,000 --> 00:00:13,000
Last
7
00:00:13,500 --> 00:00:14,000
Without a blank line
"""


@pytest.mark.parametrize("ending", ["\n", "\r\n", "\r"])
@pytest.mark.parametrize("encoding", ["utf-8", "utf-16"])
def test_srt_as_it_is_found_is_read_and_what_is_left_out_is_named(ending: str, encoding: str) -> None:
    text = MESSY if encoding == "utf-8" else MESSY.lstrip("\ufeff")
    result = read_words("wild.srt", text.replace("\n", ending).encode(encoding))
    assert [cue.text for cue in result.cues] == [
        "First line\nand second", "Ends before it begins", "No number, dots", "Last", "Without a blank line",
    ]  # fmt: skip
    assert [problem.place for problem in result.problems] == [
        "line 6",
        "line 7",
        "line 14",
        "line 18",
        "line 20",
    ]


@given(
    st.lists(
        st.text(st.characters(blacklist_categories=("Cs", "Cc")), min_size=1).filter(str.strip), max_size=5
    )
)
def test_ttml_survives_the_round_trip(texts: list[str]) -> None:
    cues = [
        Cue(f"{text}\n{text[::-1]}", number * 2_000 * TICKS_PER_MS, (number * 2_000 + 1_234) * TICKS_PER_MS)
        for number, text in enumerate(texts)
    ]
    written = ttml.write(cues, "en")
    assert faults(written) == []
    read = ttml.read(written)
    assert [(cue.text, cue.start_ticks, cue.end_ticks) for cue in read] == [
        (cue.text, cue.start_ticks, cue.end_ticks) for cue in cues
    ]


@pytest.mark.parametrize(
    ("right", "wrong"),
    [
        (b' xml:lang="en-GB"', b""),
        (b'region="below"', b'region="above"'),
        (b'style="words"', b'style="shadows"'),
        (b'begin="00:', b'begin="0:'),
        (b'="center"', b'="middle"'),
        (b"10% 70%", b"10% low"),
        (b"<br/>", b"<br>x</br>"),
        (b'"media"', b'"smpte"'),
        (b"tts:color=", b"tts:colour="),
    ],
)
def test_the_schema_of_ttml_knows_what_is_wrong(right: bytes, wrong: bytes) -> None:
    written = ttml.write([Cue("The tide\ngoes out.", 0, 2_000 * TICKS_PER_MS)], "en-GB")
    assert faults(written) == []
    assert right in written
    assert faults(written.replace(right, wrong)) != []


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"<tt/>",
        b"\xff\xfe",
        b'<tt xmlns="http://www.w3.org/ns/ttml"><body><div><p begin="1s" end="2s">A</p></div></body></tt>',
        b'<!DOCTYPE a [<!ENTITY b SYSTEM "file:///etc/passwd">]><tt xmlns="http://www.w3.org/ns/ttml">&b;</tt>',
    ],
)
def test_what_is_no_ttml_of_ours_is_refused(data: bytes) -> None:
    with pytest.raises(InputError):
        ttml.read(data)


def test_webvtt_with_all_its_parts() -> None:
    text = (
        "WEBVTT - a title\n\nNOTE\nnot shown\n\nSTYLE\n::cue { color: red }\n\nREGION\nid:x\n\n"
        "intro\n00:01.000 --> 00:02.000 align:start line:0\n<v Orla>Fish &amp; <b>ships</b>\n\n"
        "01:00:00.000 --> 01:00:01.000\nAn hour in\n"
    )
    result = read_words("x.vtt", text.encode())
    assert [cue.text for cue in result.cues] == ["Fish & ships", "An hour in"]
    assert result.cues[0].start_ticks == 1000 * TICKS_PER_MS
    assert result.cues[1].start_ticks == 3_600_000 * TICKS_PER_MS
    assert [problem.place for problem in result.problems] == ["line 6", "line 9", "line 13"]


def test_plain_text_gives_a_caption_for_each_line() -> None:
    result = read_words("words.txt", b"One tide.\n\n  Two   tides. \n***\n")
    assert [cue.text for cue in result.cues] == ["One tide.", "Two tides."]
    assert result.problems[0].place == "line 4"


def test_an_old_encoding_is_read_and_said() -> None:
    text, remark = decode("Élan".encode("cp1252"))
    assert text == "Élan"
    assert "Windows-1252" in remark


@pytest.mark.parametrize(
    ("name", "data", "why"),
    [
        ("a.srt", b"", "empty"),
        ("a.pdf", b"x", ".pdf"),
        ("a.srt", b"hello\n\nthere", "no words"),
        ("a.txt", b"\n \n", "empty"),
    ],
)
def test_a_file_without_words_is_refused_by_name(name: str, data: bytes, why: str) -> None:
    with pytest.raises(InputError, match=why) as refused:
        read_words(name, data)
    assert str(refused.value).startswith(name)
