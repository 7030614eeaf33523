"""Direction inside a line on the sound itself, and how figures and pronunciations are said."""

from collections.abc import Iterator

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.marks import Pronunciation
from fox_cadence.core.takes import ProsodySpan, SpanTarget, VoicingRequest, WrittenPause
from fox_cadence.core.words import words_of
from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.ipa_signs import HIBARI_SIGNS, UnsoundedError, letters_of, rewritten
from fox_cadence.voices.known_words import is_guessed
from fox_cadence.voices.prosody import breath_in, directed
from fox_cadence.voices.reading import Reading, Rest
from fox_cadence.voices.script import script_of
from fox_cadence.voices.spoken_forms import spoken_forms
from fox_cadence.voices.takes import make_take

TEXT = "Slowly, the sea comes back to Marrow Bay."
PLAIN = VoicingRequest(text=TEXT, voice_id="orla", pace=1.0, pitch_semitones=0.0)


@pytest.fixture(scope="module")
def engines() -> Iterator[Engines]:
    made = Engines()
    yield made
    made.close()


def reading(lengths: list[int], rests: dict[int, int]) -> Reading:
    """Words of a tone with silences between some; samples count from 1,000."""
    at, words, found, parts = 1000, [], [], [np.zeros(1000, np.float32)]
    for number, length in enumerate(lengths):
        words.append((at, at + length))
        parts.append(np.sin(np.arange(length) * 0.05).astype(np.float32) * 0.3)
        at += length
        if number in rests:
            found.append(Rest(number, at, at + rests[number]))
            parts.append(np.zeros(rests[number], np.float32))
            at += rests[number]
    parts.append(np.zeros(500, np.float32))
    return Reading(np.concatenate(parts), 1000, at, tuple(words), tuple(found))


@given(st.lists(st.integers(2000, 9000), min_size=2, max_size=6), st.data())
def test_only_the_touched_words_change_their_length(lengths: list[int], data: st.DataObject) -> None:
    first = data.draw(st.integers(0, len(lengths) - 1))
    end = data.draw(st.integers(first + 1, len(lengths)))
    pace = data.draw(st.sampled_from([0.5, 0.8, 1.25, 2.0]))
    rests = {0: 3000} if len(lengths) > 2 else {}
    made = directed(reading(lengths, rests), [ProsodySpan(first_word=first, end_word=end, pace=pace)], 1.0)
    for number, (start, stop) in enumerate(made.words):
        wanted = lengths[number] / pace if first <= number < end else lengths[number]
        assert abs((stop - start) - wanted) <= 2
    assert [rest.end - rest.start for rest in made.rests] == list(rests.values())
    assert len(made.sound) == made.end + 500


def test_natural_pauses_are_scaled_and_written_ones_are_not() -> None:
    plain = reading([4000, 4000, 4000], {0: 6000, 1: 6000})
    rests = (plain.rests[0], Rest(1, plain.rests[1].start, plain.rests[1].end, written=True))
    made = directed(Reading(plain.sound, plain.onset, plain.end, plain.words, rests), [], 1.5)
    assert [rest.end - rest.start for rest in made.rests] == [9000, 6000]


def test_words_are_made_louder_where_they_are_and_nowhere_else() -> None:
    made = directed(reading([9600] * 3, {}), [ProsodySpan(first_word=1, end_word=2, gain_db=6.0)], 1.0)
    level = [float(np.sqrt(np.mean(made.sound[a + 2000 : b - 2000] ** 2))) for a, b in made.words]
    assert 20 * np.log10(level[1] / level[0]) == pytest.approx(6, abs=0.2)
    assert level[2] == pytest.approx(level[0], rel=0.02)


def test_a_breath_is_soft_and_lies_inside_its_pause() -> None:
    pause = np.zeros(24_000, np.float32)
    made = breath_in(pause, 0.1)
    assert np.count_nonzero(made[:4000]) == 0
    heard = made[np.flatnonzero(made)]
    assert 0.003 < float(np.sqrt(np.mean(heard**2))) < 0.02


@pytest.mark.parametrize("voice_id", ["orla", "wren"])
def test_a_directed_line_has_what_was_asked_of_each_word(engines: Engines, voice_id: str) -> None:
    voice = voice_by_id(voice_id)
    assert voice is not None
    plain, _ = make_take(engines.of(voice), voice, PLAIN.changed(voice_id=voice_id))
    asked = PLAIN.changed(
        voice_id=voice_id,
        touches=(ProsodySpan(first_word=3, end_word=4, pace=0.5),),
        written=(WrittenPause(after_word=4, samples=24_000),),
        breaths=(4,),
    )
    take, sound = make_take(engines.of(voice), voice, asked)
    length = [word.end_sample - word.start_sample for word in take.words]
    before = [word.end_sample - word.start_sample for word in plain.words]
    assert length[3] == pytest.approx(2 * before[3], rel=0.06)
    written = [pause for pause in take.pauses if pause.written]
    assert [pause.end_sample - pause.start_sample for pause in written] == [24_000]
    assert np.abs(sound[written[0].start_sample + 6000 : written[0].end_sample - 6000]).max() > 0
    assert take.request == asked


def test_a_directed_line_still_lands_on_the_length_of_a_fit(engines: Engines) -> None:
    voice = voice_by_id("orla")
    assert voice is not None
    target = SpanTarget(end_word=8, voiced_samples=130_000)
    asked = PLAIN.changed(touches=(ProsodySpan(first_word=2, end_word=4, pace=0.8),), targets=(target,))
    take, _ = make_take(engines.of(voice), voice, asked)
    assert (
        take.end_sample - take.onset_sample - sum(p.end_sample - p.start_sample for p in take.pauses)
        == 130_000
    )
    assert take.stretch <= 0.025


@pytest.mark.parametrize("voice_id", ["orla", "remi", "cmn-meilin", "wren", "holt"])
def test_a_pronunciation_in_ipa_changes_the_word_and_keeps_its_place(engines: Engines, voice_id: str) -> None:
    voice = voice_by_id(voice_id)
    assert voice is not None
    takes = []
    for ipa in ("ma", "mamamama"):
        mark = Pronunciation(first_word=6, end_word=7, ipa=ipa)
        request = PLAIN.changed(voice_id=voice_id, pronunciations=(mark,))
        takes.append(make_take(engines.of(voice), voice, request)[0])
    short, long = ([word.end_sample - word.start_sample for word in take.words] for take in takes)
    assert long[6] > 1.8 * short[6]
    assert sum(long[:5]) == pytest.approx(sum(short[:5]), rel=0.15)


def test_a_sound_no_voice_has_is_said_so(engines: Engines) -> None:
    for voice_id in ("orla", "wren"):
        voice = voice_by_id(voice_id)
        assert voice is not None
        mark = Pronunciation(first_word=6, end_word=7, ipa="ǂa")
        request = PLAIN.changed(voice_id=voice_id, pronunciations=(mark,))
        with pytest.raises(EngineError, match="no sound for “ǂ”"):
            make_take(engines.of(voice), voice, request)


def test_brackets_of_the_editor_s_own_are_no_phonemes(engines: Engines) -> None:
    voice = voice_by_id("orla")
    assert voice is not None
    text = "See [[tide]] and Marrow."
    mark = Pronunciation(first_word=3, end_word=4, spelled="maro")
    request = PLAIN.changed(text=text, pronunciations=(mark,))
    take, _ = make_take(engines.of(voice), voice, request)
    assert [word.text for word in take.words] == [word.text for word in words_of(text)]


@pytest.mark.parametrize(
    ("language", "text", "said"),
    [
        ("en", "It is 5 km and 12%.", ["five", "kilometres", "twelve percent."]),
        ("en", "1,250 pools; $3.50.", ["one thousand two hundred and fifty", "three dollars fifty."]),
        ("en", "Dr. Moss, at 7:05 in 1987.", ["Doctor", "seven oh five", "nineteen eighty-seven."]),
        ("en", "On 2026-11-25.", ["the twenty-fifth of November, twenty twenty-six."]),
        ("en", "The 3rd at 20°C.", ["third", "twenty degrees Celsius."]),
        ("es", "Son 1.250 m y 3,5 kg.", ["mil doscientos cincuenta", "metros", "tres coma cinco", "kilos."]),
        ("fr", "Il y a 21 km, env. 2 h.", ["vingt et un", "kilomètres,", "environ", "deux", "heures."]),
        ("de", "Es sind ca. 1 km bzw. 2 Stunden.", ["circa", "ein", "Kilometer", "beziehungsweise", "zwei"]),
        ("ru", "Их 25.", ["двадцать пять."]),
        ("es", "1 km, 21 h y 31 m.", ["un", "kilómetro,", "veintiuna", "horas", "treinta y un", "metros."]),
        ("fr", "21 h et 1 km, 1€.", ["vingt et une", "heures", "un", "kilomètre,", "un euro."]),
        ("de", "1 h und 1 km, 1.", ["eine", "Stunde", "ein", "Kilometer,", "eins."]),
        ("en-US", "5 km/h at 0.5 mi.", ["five", "kilometers per hour", "zero point five", "miles."]),
        ("pl", "To 5 km, 12%.", ["pięć", "kilometrów,", "dwanaście procent."]),
        ("ru", "До берега 2 км, 21°C.", ["два", "километра,", "двадцать один градус Цельсия."]),
        ("it", "Il 2026-03-01, 1 km e 5 h.", ["1 marzo 2026,", "un", "chilometro", "cinque", "ore."]),
        ("pt-BR", "2 h e 21 km.", ["duas", "horas", "vinte e um", "quilômetros."]),
        ("ko", "20°C", ["섭씨 이십도"]),
        ("sw", "Kuna 25.", []),
        ("en", "v2.0, A113, 10:99 and 1..2 stay.", []),
    ],
)  # fmt: skip
def test_figures_are_said_in_the_language_of_the_line(language: str, text: str, said: list[str]) -> None:
    assert [form.said for form in spoken_forms(text, language)] == said


@given(st.text(max_size=60), st.sampled_from(["en", "de", "es", "fr", "ru", "xx"]))
def test_any_text_becomes_a_script_with_each_word_in_its_place(text: str, language: str) -> None:
    script = script_of(text, language, ())
    assert len(script.begins) == len(words_of(text))
    assert [script.word_at(begin) for begin in script.begins] == list(range(len(script.begins)))


def test_a_pronunciation_stands_in_the_place_of_the_word_and_its_signs_stay() -> None:
    marks = (
        Pronunciation(first_word=0, end_word=1, spelled="five long words here"),
        Pronunciation(first_word=1, end_word=3, spelled="maro bey"),
        Pronunciation(first_word=3, end_word=4, ipa="ˈa"),
    )
    script = script_of("5km, “Marrow Bay” now!", "en", marks)
    assert script.text == "five long words here, “maro bey” now!"
    assert [script.text[a:b] for a, b, _ in script.sounds] == ["now"]
    assert script.word_at(12) == 0


def test_ipa_is_written_in_an_engine_s_own_letters() -> None:
    assert rewritten("dʒeɪ", HIBARI_SIGNS) == "ʤA"
    assert letters_of("ˈtʃa ra", {"tʃ": "tS", "a": "a", "ɾ": "R"}) == "'tS|a R|a"
    with pytest.raises(UnsoundedError):
        letters_of("ǂ", {"a": "a"})


@pytest.mark.parametrize(
    ("word", "guessed"), [("anemone", False), ("Tide’s", False), ("Vraxholm", True), ("a-b", False)]
)
def test_words_no_dictionary_has_are_told(word: str, guessed: bool) -> None:
    assert is_guessed(word, "en-GB") is guessed
    assert is_guessed(word, "fr") is None
