"""Captions as people write them: encodings, markup, descriptions of sound, names, times, SBV."""

import pytest

from fox_cadence.errors import InputError
from fox_cadence.formats import read_words
from fox_cadence.formats.caption_words import is_described, spoken_words, without_markup
from fox_cadence.formats.cues import TICKS_PER_MS
from fox_cadence.formats.decoding import ENCODINGS, decode

SAID = (
    ("cp1251", "ru", "Прилив уходит дважды в день, и никогда напоказ."),
    ("koi8_r", "ru", "Прилив уходит дважды в день, и никогда напоказ."),
    ("cp866", "ru", "Прилив уходит дважды в день, и никогда напоказ."),
    ("gb18030", "cmn", "大海每天来去两次，从不为了炫耀。"),
    ("big5", "zh", "大海每天來去兩次，從不為了炫耀。"),
    ("cp932", "ja", "潮が引くと、マローベイの船は静かに眠る。"),
    ("euc_jp", "ja", "潮が引くと、マローベイの船は静かに眠る。"),
    ("cp949", "ko", "바다는 하루에 두 번 왔다가 갑니다."),
    ("cp1250", "pl", "Morze przychodzi i odchodzi, nigdy na pokaz. Żółć gęś łódź."),
    ("iso8859_2", "pl", "Żółć, gęś i łódź, nigdy na pokaz."),
    ("cp1250", "cs", "Moře přichází a odchází dvakrát denně, nikdy pro parádu."),
    ("cp1250", "ro", "Mareea vine şi pleacă de două ori pe zi, niciodată de formă."),
    ("cp1252", "fr", "La marée tourne deux fois par jour, jamais pour la galerie. Où ça ?"),
    ("cp1252", "de", "Die Flut kehrt zweimal am Tag zurück – für große Fische."),
    ("cp1252", "en", "“The tide’s out” – café…"),
    ("cp1254", "tr", "Deniz günde iki kez gelir ve gider, hiçbir zaman gösteriş için değil."),
    ("cp1257", "lt", "Jūra ateina ir išeina du kartus per dieną, niekada dėl vaizdo."),
    ("cp1253", "el", "Η θάλασσα έρχεται και φεύγει δύο φορές τη μέρα."),
    ("cp1255", "he", "הים בא והולך פעמיים ביום."),
    ("cp1256", "ar", "يأتي البحر ويذهب مرتين كل يوم."),
    ("tis_620", "th", "น้ำลงวันละสองครั้ง"),
    ("mac_roman", "fr", "La marée tourne deux fois par jour. Où ça ?"),
    ("utf-16-le", "en", "The tide turns twice a day, and never once for show."),
)


def srt(text: str, count: int = 3) -> str:
    return "".join(f"{n}\n00:00:0{n},000 --> 00:00:0{n},900\n{text}\n\n" for n in range(1, count + 1))


@pytest.mark.parametrize(("encoding", "language", "text"), SAID, ids=[f"{e}-{tag}" for e, tag, _ in SAID])
def test_old_encodings_are_found_out_and_said(encoding: str, language: str, text: str) -> None:
    for count in (1, 3):
        found, remark = decode(srt(text, count).encode(encoding), "", language)
        assert found == srt(text, count)
        assert "was read as" in remark


@pytest.mark.parametrize("encoding", ENCODINGS)
def test_an_encoding_that_is_named_is_taken(encoding: str) -> None:
    assert decode("Tide 12".encode(encoding), encoding) == ("Tide 12", "")


def test_a_name_that_is_no_encoding_is_refused_and_one_that_does_not_fit_is_said() -> None:
    with pytest.raises(InputError, match="encoding: the encoding 'rot13' is not one of utf-8"):
        decode(b"x", "rot13")
    assert "2 signs are not UTF-8" in decode(b"\xff\xfe tide", "utf-8")[1]
    result = read_words("a.srt", srt("Żółć").encode("cp1250"), "cp1252")
    assert result.cues[0].text == "¯ó³æ"  # as it was asked for


@pytest.mark.parametrize(
    ("written", "shown"),
    [
        ("<LAUGHING & WHOOPS!>", "<LAUGHING & WHOOPS!>"),
        ("<i>Tide</i> <b>out</b> <u>now</u>", "Tide out now"),
        ('<font color="#ff0000" size=4>Red</font>', "Red"),
        ("<FONT COLOR=red>Red</FONT>", "Red"),
        ("{\\an8}Above {b}bold{/b} {y:i}", "Above bold {y:i}"),
        ("a < b and b > a, <3", "a < b and b > a, <3"),
        ("x\\hy\\Nz", "x y\nz"),
        ("Fish &amp; chips &lt;b&gt; &quot;x&quot; &#39;y&#39;", "Fish & chips <b> \"x\" 'y'"),
        ("R&D, AT&T; Q&A &unknown;", "R&D, AT&T; Q&A &unknown;"),
        ("<00:01.500>karaoke", "karaoke"),
    ],
)
def test_markup_is_what_people_mean_by_it_and_the_rest_is_text(written: str, shown: str) -> None:
    assert without_markup(written) == shown


@pytest.mark.parametrize(
    ("shown", "said"),
    [
        ("[door creaks]", ""),
        ("♪♪", ""),
        ("♪ The tide comes in ♪", "The tide comes in"),
        ("(WHISPERS) Not so loud.", "Not so loud."),
        ("Five (5) pools (and a crab)", "Five (5) pools (and a crab)"),
        ("(sighs)", ""),
        ("Wait [music] here\n[thunder]", "Wait here"),
        ("［ドアの音］ 待って", "待って"),
        ("Nothing of it.", "Nothing of it."),
    ],
)
def test_descriptions_and_music_are_shown_and_not_said(shown: str, said: str) -> None:
    assert spoken_words(shown) == said
    assert is_described(shown) == (said != " ".join(shown.split()))


@pytest.mark.parametrize(
    ("times", "start_ms", "end_ms", "remark"),
    [
        ("0:1.5 --> 0:03.000", 1500, 3000, "0:1.5 was taken for 00:00:01.500"),
        ("00:01,5 --> 00:02,25", 1500, 2250, "00:01,5 was taken for"),
        ("1:2:3,004 --> 1:02:05,000", 3_723_004, 3_725_000, "1:2:3,004 was taken for 01:02:03.004"),
        ("00:00:01,000 --> 00:00:02,000", 1000, 2000, ""),
    ],
)
def test_sloppy_times_are_taken_with_a_remark(times: str, start_ms: int, end_ms: int, remark: str) -> None:
    result = read_words("a.srt", f"1\n{times}\nTide.\n".encode())
    cue = result.cues[0]
    assert (cue.start_ticks, cue.end_ticks) == (start_ms * TICKS_PER_MS, end_ms * TICKS_PER_MS)
    told = [each.message for each in result.problems]
    assert any(remark in each for each in told) if remark else told == []


def test_sbv_comes_in_and_what_is_no_cue_is_reported() -> None:
    text = (
        "0:00:01.000,0:00:02.500\nThe tide\n<i>goes</i> out.\n\n"
        "0:00:03.000,0:00:04.000\n\nno times at all\nwords\n\n0:00:5.5,0:00:07.000\nA crab[br]waits.\n"
    )
    result = read_words("a.sbv", text.encode())
    assert [(cue.text, cue.start_ticks) for cue in result.cues] == [
        ("The tide\ngoes out.", 1000 * TICKS_PER_MS),
        ("A crab\nwaits.", 5500 * TICKS_PER_MS),
    ]
    told = [f"{each.place}: {each.message}" for each in result.problems]
    assert any("line 5: the caption has no words" in each for each in told)
    assert any("line 7: no times such as" in each for each in told)
    assert any("0:00:5.5 was taken for" in each for each in told)


def test_a_table_in_markdown_and_how_ssml_wants_figures_said_are_named() -> None:
    table = "# Pools\n\nThe tide goes out.\n\n| pool | crabs |\n| --- | --- |\n| north | 4 |\n\nAnd in.\n"
    result = read_words("a.md", table.encode())
    assert [cue.text for cue in result.cues if not cue.heading] == ["The tide goes out.", "And in."]
    assert [f"{each.place}: {each.message}" for each in result.problems] == [
        "line 5: a table (bring it in as CSV to have its rows said); left out"
    ]
    ssml = (
        '<speak>Call <say-as interpret-as="telephone">555 1234</say-as> on '
        '<say-as interpret-as="date">3 May</say-as>.</speak>'
    )
    result = read_words("a.ssml", ssml.encode())
    assert result.cues[0].text == "Call 555 1234 on 3 May."
    assert [each.message for each in result.problems] == [
        "it asks to be said as 'telephone', which is left out; the words were taken as written"
    ]
