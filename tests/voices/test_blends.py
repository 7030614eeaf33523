"""Voices mixed of others, and what was measured of voices."""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fox_cadence.voices.blends import NotABlendError, Part, blend, blend_id
from fox_cadence.voices.catalogue import VOICES, voice_by_id
from fox_cadence.voices.kokoro import KokoroVoice, style
from fox_cadence.voices.measured import BANDS, band_levels, blended, measured

BY_ID = {voice.id: voice for voice in VOICES}
MIXABLE = sorted(voice.id for voice in VOICES if voice.engine == "kokoro")


@st.composite
def mixes(draw: st.DrawFn) -> list[Part]:
    ids = draw(st.lists(st.sampled_from(MIXABLE), min_size=2, max_size=3, unique=True))
    cuts = sorted(draw(st.sets(st.integers(1, 99), min_size=len(ids) - 1, max_size=len(ids) - 1)))
    shares = np.diff([0, *cuts, 100])
    return [Part(voice_id, int(share)) for voice_id, share in zip(ids, shares, strict=True)]


@given(mixes())
def test_the_id_of_a_blend_tells_all_of_it(parts: list[Part]) -> None:
    found = voice_by_id(blend_id(parts))
    assert found is not None
    assert {(part.voice_id, part.percent / 100) for part in parts} == set(found.blend_of)
    largest = max(parts, key=lambda part: part.percent)
    assert found.language == BY_ID[blend(found.id, BY_ID).blend_of[0][0]].language
    assert largest.percent / 100 == found.blend_of[0][1]
    expected = found.measured
    assert expected is not None
    pitches = [measured()[part.voice_id].pitch_hz for part in parts]
    assert min(pitches) - 1 <= expected.pitch_hz <= max(pitches) + 1


def test_the_style_of_a_blend_lies_between_those_of_its_voices() -> None:
    mixed = style("bf_emma*60+bf_lily*40", 20)
    assert mixed.shape == (1, 256)
    assert mixed.dtype == np.float32
    assert np.allclose(mixed, 0.6 * style("bf_emma", 20) + 0.4 * style("bf_lily", 20), atol=1e-6)
    assert KokoroVoice("bf_emma*60+bf_lily*40").symbols("Mind the gap.") == KokoroVoice("bf_emma").symbols(
        "Mind the gap."
    )
    with pytest.raises(KeyError):
        KokoroVoice("bf_emma*60+xx_none*40")


@pytest.mark.parametrize(
    "parts",
    [
        [("en-maren", 100)],
        [("en-maren", 50), ("en-maren", 50)],
        [("en-maren", 60), ("en-quill", 30)],
        [("en-maren", 100), ("en-quill", 0)],
        [("en-maren", 25), ("en-quill", 25), ("en-finch", 25), ("es-alba", 25)],
        [("en-maren", 50), ("orla", 50)],
    ],
)
def test_what_is_no_blend_is_refused(parts: list[tuple[str, int]]) -> None:
    with pytest.raises(NotABlendError):
        blend_id([Part(*part) for part in parts])


@pytest.mark.parametrize("voice_id", ["mix", "mix-en-maren-40-en-quill-60", "mix-en-maren-50-en-nobody-50"])
def test_ids_that_tell_no_blend_name_no_voice(voice_id: str) -> None:
    assert voice_by_id(voice_id) is None


def test_every_voice_of_the_application_was_measured() -> None:
    assert set(measured()) == set(BY_ID)
    for voice_id, found in measured().items():
        assert 60 < found.pitch_hz < 400, voice_id
        assert 0 <= found.spread_st < 9, voice_id
        assert len(found.shape) == BANDS
        assert all(0 <= value <= 1 for value in found.shape)
    assert blended([]) is None


def test_bands_tell_a_dark_sound_from_a_bright_one() -> None:
    at = np.arange(48_000) / 48_000
    dark = np.sin(2 * np.pi * 200 * at).astype(np.float32)
    bright = np.sin(2 * np.pi * 5000 * at).astype(np.float32)
    assert int(band_levels(dark, 48_000).argmax()) == 1
    assert int(band_levels(bright, 48_000).argmax()) == 10
    assert not band_levels(np.zeros(10, np.float32), 48_000).any()
