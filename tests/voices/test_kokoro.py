"""The natural voices of one model: their table, their symbols in each language, lengths that land, takes."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.core.takes import ProsodySpan, VoicingRequest
from fox_cadence.core.words import words_of
from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import VOICES, voice_by_id
from fox_cadence.voices.duration_graph import run, session
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.kokoro import KokoroVoice, _at_pace, _pieces, style
from fox_cadence.voices.kokoro_model import model, whole_model
from fox_cadence.voices.kokoro_voices import KOKORO_ROWS
from fox_cadence.voices.reading import Reading
from fox_cadence.voices.takes import foresee_take, make_take

ROWS = [row for _, _, _, rows in KOKORO_ROWS for row in rows]
LINES = {
    "af_bella": "What it forgets, it keeps in pools.",
    "bf_emma": "What it forgets, it keeps in pools.",
    "ef_dora": "Lo que olvida, lo guarda en pozas.",
    "ff_siwis": "Ce qu'elle oublie, elle le garde.",
    "if_sara": "Quello che dimentica, lo conserva.",
    "hf_beta": "जो वह भूल जाता है, उसे रखता है।",
    "pf_dora": "O que esquece, guarda em poças.",
    "jf_alpha": "忘れたものを、潮だまりにしまう。",
    "zf_xiaobei": "它忘记的，就留在潮池里。",
}


def test_every_voice_of_the_table_has_a_row_of_ours_and_a_style_of_its_own() -> None:
    assert len({row.model_name for row in ROWS}) == len(ROWS) == 54
    first = [style(row.model_name, 20).tobytes() for row in ROWS]
    assert len(set(first)) == len(ROWS)
    for row in ROWS:
        for symbols in (1, 2, 77, 509, 900):
            found = style(row.model_name, symbols)
            assert found.shape == (1, 256)
            assert np.isfinite(found).all()
    with pytest.raises(KeyError):
        KokoroVoice("xx_nobody")


def test_styles_change_smoothly_with_the_length_of_a_text() -> None:
    steps = [np.abs(style("bf_emma", n + 1) - style("bf_emma", n)).max() for n in range(10, 400)]
    assert max(steps) < 0.05


@given(st.lists(st.floats(0.2, 6), min_size=5, max_size=60), st.integers(6, 24), st.floats(0.7, 1.5))
def test_lengths_at_a_pace_land_within_half_a_step_and_keep_both_ends(
    inner: list[float], lead: int, pace: float
) -> None:
    exact = np.array([[lead, *inner, 3.0, 2.0, 4.0]])
    natural = np.maximum(np.rint(exact), 1).astype(np.int64)
    made = _at_pace(natural, exact, pace)
    assert made.shape == natural.shape
    assert (made >= 1).all()
    assert made[0, 0] == natural[0, 0]
    assert (made[0, -3:] == natural[0, -3:]).all()
    wanted = max(natural[0, 1:-3].sum() / pace, len(inner))
    assert abs(made[0, 1:-3].sum() - wanted) <= 0.51


@pytest.mark.parametrize("name", LINES)
def test_a_line_becomes_symbols_the_model_knows_with_its_punctuation(name: str) -> None:
    voice = KokoroVoice(name)
    (symbols,) = voice.symbols(LINES[name])
    assert "," in symbols
    assert symbols[-1] == "."
    assert not set("()^-") & set(symbols)
    assert sum(sign == " " for sign in symbols) >= len(words_of(LINES[name])) - 2  # words may run together


def test_a_number_with_a_point_is_no_end_of_a_sentence_and_foreign_words_leave_no_flag() -> None:
    voice = KokoroVoice("ef_dora")
    assert len(voice.symbols("Son 3.5 metros, dijo Mr. Whitfield. Nada.")) >= 2
    flat = "".join(sign for part in voice.symbols("El weekend fue cool.") for sign in part)
    assert "(" not in flat
    assert "en" not in flat.split()


@given(st.lists(st.text("abcdef", min_size=1, max_size=30), min_size=1, max_size=120), st.integers(0, 3))
def test_a_sentence_too_long_for_the_model_is_divided_and_nothing_is_lost(
    words: list[str], every: int
) -> None:
    signs = " ".join(f"{word}," if every and n % (every * 9) == 0 else word for n, word in enumerate(words))
    pieces = _pieces(signs)
    assert all(len(piece) <= 480 for piece in pieces)
    assert " ".join(pieces).split() == signs.split()


def test_the_model_cut_in_parts_says_just_what_the_whole_one_does() -> None:
    voice = KokoroVoice("ef_dora")
    inputs = voice._inputs(voice.numbered(("o", "l", "a", ".")))
    steps, _ = model().lengths(inputs)
    (whole,) = run(session(whole_model()), inputs)
    parts = model().sound(inputs, steps, model().melody(inputs, steps))
    assert np.array_equal(whole.reshape(-1), parts)


@pytest.fixture(scope="module")
def engines() -> Engines:
    return Engines()


@pytest.mark.parametrize("voice_id", ["en-maren", "es-alba", "hi-kiran"])
def test_a_take_has_its_words_in_order_is_no_silence_and_comes_out_the_same_again(
    engines: Engines, voice_id: str
) -> None:
    voice = voice_by_id(voice_id)
    assert voice is not None
    assert voice.natural
    text = LINES[voice.engine_voice.removeprefix("kokoro:").replace("hm_omega", "hf_beta")]
    request = VoicingRequest(text=text, voice_id=voice_id, pace=1, pitch_semitones=0)
    take, sound = make_take(engines.of(voice), voice, request)
    assert [word.text for word in take.words] == [word.text for word in words_of(text)]
    starts = [word.start_sample for word in take.words]
    assert starts == sorted(starts)
    assert take.words[-1].end_sample <= take.sample_count
    assert np.isfinite(sound).all()
    assert 0.1 < np.abs(sound).max() <= 1
    assert take.onset_sample < 4_800  # silence at both ends is cut off
    again, same = make_take(engines.of(voice), voice, request)
    assert np.array_equal(sound, same)
    assert again.words == take.words


@pytest.mark.parametrize("voice_id", ["en-maren", "es-alba"])
def test_a_line_lasts_as_long_as_was_foreseen_and_so_do_its_words(engines: Engines, voice_id: str) -> None:
    voice = voice_by_id(voice_id)
    assert voice is not None
    text = LINES[voice.engine_voice.removeprefix("kokoro:")]
    request = VoicingRequest(text=text, voice_id=voice_id, pace=1, pitch_semitones=0)
    take, _ = make_take(engines.of(voice), voice, request)
    seen = foresee_take(engines.of(voice), voice, request)
    assert len(seen.sound) == 0
    length = take.end_sample - take.onset_sample
    assert abs(seen.end - seen.onset - length) < 0.04 * 48_000
    for (start, _), word in zip(seen.words, take.words, strict=True):
        assert abs(start - seen.onset - (word.start_sample - take.onset_sample)) < 0.04 * 48_000


def test_words_are_directed_by_the_model_itself_and_the_others_stay(engines: Engines) -> None:
    voice = voice_by_id("en-maren")
    assert voice is not None
    plain = VoicingRequest(text=LINES["bf_emma"], voice_id=voice.id, pace=1, pitch_semitones=0)
    slow = plain.changed(touches=(ProsodySpan(first_word=1, end_word=3, pace=0.7, pitch_semitones=3),))
    before, after = (foresee_take(engines.of(voice), voice, each) for each in (plain, slow))

    def lengths(reading: Reading) -> list[int]:
        return [end - start for start, end in reading.words]

    longer = [b / a for a, b in zip(lengths(before), lengths(after), strict=True)]
    assert min(longer[1:3]) > 1.2
    assert 0.85 < longer[-1] < 1.15
    take, _ = make_take(engines.of(voice), voice, slow)
    assert take.stretch == 0
    assert abs(take.end_sample - take.onset_sample - (after.end - after.onset)) < 0.05 * 48_000


def test_the_catalogue_offers_them_first_in_their_language_and_says_what_was_measured() -> None:
    spanish = [voice for voice in VOICES if voice.language == "es-ES"]
    assert spanish[0].natural
    found = spanish[0].measured
    assert found is not None
    assert 150 < found.pitch_hz < 190
    assert len(found.shape) == 12
    assert {voice.age for voice in VOICES if voice.engine == "kokoro"} == {None}


ODD = {
    "an emoji among words": "Look 🦀 here 👩‍🚀.",
    "figures alone": "4711 2026 0.5",
    "scripts mixed": "Low water, 潮だまり, море, بحر.",
    "four hundred words without a stop": "and then the sea " * 100,
    "markup and controls": "a\0b <break time='9s'/> [[h@l'oU]] ˈ",
    "signs of the model itself": "ʤʧʦ ↓↗↘→ ꭧ (x) “y”",
}


@pytest.mark.parametrize("voice_id", ["en-maren", "ja-akane", "cmn-anqi", "hi-kiran"])
@pytest.mark.parametrize("case", ODD)
def test_odd_text_has_a_length_or_is_refused_in_words(engines: Engines, voice_id: str, case: str) -> None:
    voice = voice_by_id(voice_id)
    assert voice is not None
    request = VoicingRequest(text=ODD[case], voice_id=voice_id, pace=1, pitch_semitones=0)
    try:
        found = foresee_take(engines.of(voice), voice, request)
    except EngineError as error:
        if voice.name not in str(error):
            raise
        return
    assert found.end > found.onset
    starts = [start for start, _ in found.words]
    assert len(starts) == len(words_of(ODD[case]))
    assert starts == sorted(starts)


@pytest.mark.parametrize("text", ["☃", "🦀", "—"])
def test_a_text_of_one_sign_nobody_says_is_refused(engines: Engines, text: str) -> None:
    voice = voice_by_id("en-maren")
    assert voice is not None
    request = VoicingRequest(text=text, voice_id="en-maren", pace=1, pitch_semitones=0)
    with pytest.raises(EngineError):
        foresee_take(engines.of(voice), voice, request)
