"""Files of timed words as they are found: a table of what goes wrong, and laws under damage."""

import re
import time

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from fox_cadence.errors import InputError
from fox_cadence.formats import MOST_PROBLEMS, read_words
from fox_cadence.formats.cues import TICKS_PER_MS, ReadResult

Shown = list[tuple[str, int, int]]


def shown(result: ReadResult) -> Shown:
    """Text, in and out in milliseconds of each cue."""
    ms = TICKS_PER_MS
    return [(cue.text, (cue.start_ticks or 0) // ms, (cue.end_ticks or 0) // ms) for cue in result.cues]


ONE = "1\n00:00:01,000 --> 00:00:02,000\nOne.\n\n"
TWO = "2\n00:00:03,000 --> 00:00:04,000\nTwo.\n"
BOTH: Shown = [("One.", 1000, 2000), ("Two.", 3000, 4000)]

SRT: dict[str, tuple[bytes, Shown, str]] = {
    "as it should be": ((ONE + TWO).encode(), BOTH, ""),
    "byte order mark": (b"\xef\xbb\xbf" + (ONE + TWO).encode(), BOTH, ""),
    "UTF-16": ((ONE + TWO).encode("utf-16"), BOTH, ""),
    "carriage returns": ((ONE + TWO).replace("\n", "\r\n").encode(), BOTH, ""),
    "Windows-1252": (ONE.replace("One", "Élan").encode("cp1252"), [("Élan.", 1000, 2000)], "Windows-1252"),
    "no numbers": (re.sub(r"^\d\n", "", ONE + TWO, flags=re.M).encode(), BOTH, ""),
    "no blank line between": ((ONE.rstrip() + "\n" + TWO).encode(), BOTH, ""),
    "points for commas": ((ONE + TWO).replace(",", ".").encode(), BOTH, ""),
    "no hours": ((ONE + TWO).replace("00:00:0", "00:0").encode(), BOTH, ""),
    "unsorted": ((TWO + "\n" + ONE).encode(), BOTH, "line 6: it stands after a later caption"),
    "overlapping": (
        ONE.replace("02,000", "03,500").encode() + TWO.encode(),
        [("One.", 1000, 3500), ("Two.", 3000, 4000)],
        "line 6: it begins 0.50 s before",
    ),
    "end before start": (
        ONE.replace("02,000", "00,500").encode(), [("One.", 1000, 2000)], "line 2: the caption ends before it begins",
    ),
    "broken times": (
        (ONE.replace("01,000", "0x,000") + TWO).encode(), BOTH[1:], "line 2: the times",
    ),
    "markup": (
        ONE.replace("One.", "<i>One</i><font color=red>.</font>{\\an8}").encode(), BOTH[:1], "",
    ),
    "no words": ((ONE.replace("One.", "<i></i>") + TWO).encode(), BOTH[1:], "line 2: the caption has no words"),
}  # fmt: skip


@pytest.mark.parametrize("case", SRT)
def test_srt_in_the_wild(case: str) -> None:
    data, cues, problem = SRT[case]
    result = read_words("wild.srt", data)
    assert shown(result) == cues
    told = [f"{each.place}: {each.message}" for each in result.problems]
    assert any(problem in each for each in told) if problem else told == []


HEAD = "WEBVTT\n\n"
CUE = "00:01.000 --> 00:02.000\nOne.\n"
VTT: dict[str, tuple[str, Shown, str]] = {
    "as it should be": (HEAD + CUE, BOTH[:1], ""),
    "a title": ("WEBVTT tides\n\n" + CUE, BOTH[:1], ""),
    "lines under the head": ("WEBVTT\nKind: captions\nLanguage: en\n\n" + CUE, BOTH[:1], ""),
    "a cue at once under the head": ("WEBVTT\n" + CUE, BOTH[:1], ""),
    "not its head": ("WEBVTTX\n\n" + CUE, BOTH[:1], "line 1: the file does not begin with WEBVTT"),
    "an id": (HEAD + "first one\n" + CUE, BOTH[:1], ""),
    "two lines before the times": (HEAD + "a\nb\n" + CUE, BOTH[:1], "line 3: no time line; left out"),
    "the next times without a blank line": (
        HEAD + CUE + "00:03.000 --> 00:04.000\nTwo.\n", BOTH, "",
    ),
    "a note": (HEAD + "NOTE\nnot shown\n\n" + CUE, BOTH[:1], ""),
    "a note of one line": (HEAD + "NOTE not shown\n\n" + CUE, BOTH[:1], ""),
    "a style": (HEAD + "STYLE\n::cue { color: red }\n\n" + CUE, BOTH[:1], "line 3: STYLE block left out"),
    "a region": (HEAD + "REGION\nid:fred\nwidth:40%\n\n" + CUE, BOTH[:1], "line 3: REGION block left out"),
    "a place": (HEAD + CUE.replace("2.000", "2.000 line:0 align:start"), BOTH[:1], "settings 'line:0 align:start'"),
    "no spaces about the arrow": (HEAD + CUE.replace(" --> ", "-->"), BOTH[:1], ""),
    "hours of three digits": (HEAD + CUE.replace("00:02", "100:00:02"), [("One.", 1000, 360_002_000)], ""),
    "seconds over 59": (HEAD + CUE.replace("02.000", "72.000") + "\n" + CUE, BOTH[:1], "can't be read"),
    "two digits of milliseconds": (HEAD + CUE.replace("2.000", "2.00"), BOTH[:1], "02.00 was taken for 00:00:02.000"),
    "a comma": (HEAD + CUE.replace("2.000", "2,000"), BOTH[:1], "are not as WebVTT has them; they were taken"),
    "no zeros before": (HEAD + CUE.replace("00:01.000", "0:1.5"), [("One.", 1500, 2000)], "0:1.5 was taken for"),
    "entities": (HEAD + CUE.replace("One.", "One &lt;b&gt; &amp; &nbsp; two"), [("One <b> & two", 1000, 2000)], ""),
    "tags": (
        HEAD + CUE.replace("One.", "<c.loud><b>On</b>e</c><00:01.500>."), BOTH[:1], "",
    ),
    "a sign that is taken for a tag": (
        HEAD + CUE.replace("One.", "One < two."), [("One", 1000, 2000)], "'< two.' is no tag of WebVTT",
    ),
    "unsorted": (HEAD + CUE.replace("1.000", "5.000").replace("2.000", "6.000").replace("One", "Two") + "\n" + CUE,
                 [("One.", 1000, 2000), ("Two.", 5000, 6000)], "after a later caption"),
}  # fmt: skip


@pytest.mark.parametrize("case", VTT)
def test_webvtt_as_the_standard_reads_it(case: str) -> None:
    text, cues, problem = VTT[case]
    result = read_words("x.vtt", text.encode())
    assert shown(result) == cues
    told = [f"{each.place}: {each.message}" for each in result.problems]
    assert any(problem in each for each in told) if problem else told == []


def test_who_speaks_is_a_role() -> None:
    result = read_words(
        "x.vtt", (HEAD + CUE.replace("One.", "<v.loud Old Limpet>Home.</v> <v Crab>Mine.")).encode()
    )
    assert [(cue.role, cue.text) for cue in result.cues] == [("Old Limpet", "Home. Mine.")]
    assert "2 people speak" in result.problems[0].message


def test_ten_thousand_cues_are_read_at_once_and_their_problems_told_in_few_words() -> None:
    def clock(ms: int) -> str:
        return f"{ms // 3_600_000:02d}:{ms // 60_000 % 60:02d}:{ms // 1000 % 60:02d},{ms % 1000:03d}"

    text = "\n".join(f"{n}\n{clock(n * 900)} --> {clock(n * 900 + 1000)}\nCue {n}.\n" for n in range(10_000))
    began = time.monotonic()
    result = read_words("long.srt", text.encode())
    assert len(result.cues) == 10_000
    assert len(result.problems) == MOST_PROBLEMS + 1
    assert "9,899 more" in result.problems[-1].message
    assert time.monotonic() - began < 20  # a guard against squares, not a measurement


def words_in(text: str) -> set[str]:
    return set(re.findall(r"word\d+", text))


@example(place=0.02734375, bits=b"", gone=15, name="a.vtt")  # the first time line is half gone
@given(
    place=st.floats(0, 1),
    bits=st.binary(max_size=6),
    gone=st.integers(0, 30),
    name=st.sampled_from(["a.srt", "a.vtt"]),
)
def test_no_damage_loses_a_caption_silently(place: float, bits: bytes, gone: int, name: str) -> None:
    """Each word that is still there after the damage is in a cue, or its caption is reported as left out."""
    times = [f"00:00:{n * 2:02d}.000 --> 00:00:{n * 2 + 1:02d}.000\nword{n} is said\n" for n in range(10, 16)]
    whole = ("WEBVTT\n\n" if name == "a.vtt" else "") + "\n".join(times)
    at = int(place * len(whole))
    damaged = whole.encode()[:at] + bits + whole.encode()[at + gone :]
    left = words_in(damaged.decode(errors="replace"))
    try:
        result = read_words(name, damaged)
    except InputError:
        return  # nothing of it could be used, and that is said
    kept = words_in(" ".join(cue.text for cue in result.cues))
    lost = left - kept
    assert len(lost) <= len(result.problems), (damaged, result)
