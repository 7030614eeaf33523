"""The catalogue of voices: what people choose by, and what the engine must be told."""

import itertools
import threading
import unicodedata
from collections.abc import Iterable
from pathlib import Path

from fox_cadence.core.languages import LANGUAGES, primary
from fox_cadence.core.scripts import scripts_in, words_in
from fox_cadence.voices.blends import NotABlendError, blend
from fox_cadence.voices.espeak_voices import KINDS, ROWS, SAMPLE_TEXTS, Age, Gender
from fox_cadence.voices.kokoro_voices import KOKORO_ROWS
from fox_cadence.voices.voice import NATURAL_USES, Voice


def _voice(
    voice_id: str, name: str, tag: str, region: str, who: tuple[Gender, Age],
    character: str, engine_voice: str, pitch: int, liveliness: int,
) -> Voice:  # fmt: skip
    return Voice(
        id=voice_id, name=name, language=tag, region=region, gender=who[0], age=who[1], character=character,
        engine_voice=engine_voice, phonemes_by=engine_voice, pitch=pitch, liveliness=liveliness,
    )  # fmt: skip


def _natural(
    voice_id: str, name: str, gender: Gender, character: str, engine: str, engine_voice: str, licence: str
) -> Voice:
    """A grown voice of the United States, as all that come with the application are."""
    return Voice(
        id=voice_id, name=name, language="en-US", region="United States", gender=gender, age="grown",
        character=character, uses=NATURAL_USES, natural=True, engine=engine, engine_voice=engine_voice,
        phonemes_by="gmw/en-US", has_range=False, licence=f"{licence}; commercial use allowed",
    )  # fmt: skip


NATURAL: tuple[Voice, ...] = (
    _natural(
        "wren", "Wren", "woman", "close and easy, as to one listener", "hibari", "hibari:heart", "Apache-2.0"
    ),
    _natural(
        "holt", "Holt", "man", "steady, a teller of stories", "piper", "piper:joe",
        "CC0 voice, GPL-3.0-or-later engine",
    ),
)  # fmt: skip
"""Neural voices with models of their own that come with the application: the quick ones."""


def _many() -> Iterable[Voice]:
    """The voices of the model that has many."""
    for tag, region, phonemes_by, rows in KOKORO_ROWS:
        for row in rows:
            yield Voice(
                id=f"{primary(tag)}-{_plain(row.name)}",
                name=row.name,
                language=tag,
                region=region,
                gender=row.gender,
                age=None,
                character=row.character,
                uses=NATURAL_USES,
                natural=True,
                engine="kokoro",
                engine_voice=f"kokoro:{row.model_name}",
                phonemes_by=phonemes_by,
                licence="Apache-2.0; commercial use allowed",
            )


def _plain(name: str) -> str:
    """A name as part of an id: small letters without marks."""
    return unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()


def _rows() -> Iterable[Voice]:
    for tag, region, engine_voice, names in ROWS:
        for name, (gender, age, character, variant, pitch, liveliness) in zip(names, KINDS, strict=False):
            voice_id = f"{primary(tag)}-{_plain(name)}"
            chosen = f"{engine_voice}+{variant}"
            yield _voice(voice_id, name, tag, region, (gender, age), character, chosen, pitch, liveliness)


VOICES: tuple[Voice, ...] = (
    *NATURAL,
    *_many(),
    _voice("orla", "Orla", "en-GB", "Britain", ("woman", "grown"), "clear and even", "gmw/en+f3", 46, 52),
    _voice("pell", "Pell", "en-GB", "Britain", ("man", "old"), "low and unhurried", "gmw/en+m7", 30, 38),
    _voice(
        "tamsin",
        "Tamsin",
        "en-GB",
        "Britain",
        ("woman", "young"),
        "light, quick to rise",
        "gmw/en+f2",
        60,
        66,
    ),
    _voice("corin", "Corin", "en-GB", "Britain", ("man", "grown"), "plain and firm", "gmw/en+m3", 44, 48),
    _voice(
        "maeve",
        "Maeve",
        "en-US",
        "United States",
        ("woman", "grown"),
        "warm, wide in range",
        "gmw/en-US+f4",
        44,
        62,
    ),
    _voice(
        "wade", "Wade", "en-US", "United States", ("man", "grown"), "level and close", "gmw/en-US+m1", 40, 44
    ),
    _voice("ines", "Inés", "es-ES", "Spain", ("woman", "grown"), "clear and even", "roa/es+f3", 46, 52),
    _voice(
        "bruno",
        "Bruno",
        "es-419",
        "Latin America",
        ("man", "grown"),
        "round and calm",
        "roa/es-419+m3",
        42,
        46,
    ),
    _voice(
        "pilar",
        "Pilar",
        "es-419",
        "Latin America",
        ("woman", "young"),
        "light, quick",
        "roa/es-419+f2",
        60,
        66,
    ),
    _voice("anselmo", "Anselmo", "es-ES", "Spain", ("man", "old"), "low and unhurried", "roa/es+m7", 30, 38),
    _voice("elodie", "Élodie", "fr-FR", "France", ("woman", "grown"), "light and even", "roa/fr+f3", 48, 52),
    _voice("remi", "Rémi", "fr-FR", "France", ("man", "grown"), "dry and firm", "roa/fr+m3", 42, 46),
    _voice(
        "margaux",
        "Margaux",
        "fr-FR",
        "France",
        ("woman", "young"),
        "bright, quick to rise",
        "roa/fr+f2",
        60,
        66,
    ),
    _voice("gaspard", "Gaspard", "fr-FR", "France", ("man", "old"), "low and unhurried", "roa/fr+m7", 30, 38),
    _voice("greta", "Greta", "de-DE", "Germany", ("woman", "grown"), "clear and firm", "gmw/de+f3", 46, 50),
    _voice("jannis", "Jannis", "de-DE", "Germany", ("man", "grown"), "low and plain", "gmw/de+m3", 40, 44),
    *_rows(),
)
"""All voices that come with the application."""

_BY_ID = {voice.id: voice for voice in VOICES}
_found: dict[Path, tuple[Voice, ...]] = {}
_found_lock = threading.Lock()


def offer(folder: Path, voices: Iterable[Voice]) -> None:
    """Let voices found in a folder be known by their ids; those found there before are forgotten."""
    with _found_lock:
        _found[folder] = tuple(voices)


def all_voices() -> tuple[Voice, ...]:
    """Those that come with the application and those found in folders."""
    with _found_lock:
        return (*VOICES, *itertools.chain.from_iterable(_found.values()))


def voice_by_id(voice_id: str) -> Voice | None:
    """The voice of that id, None where there is none now."""
    known = _BY_ID.get(voice_id)
    return known or next((voice for voice in all_voices() if voice.id == voice_id), None) or _blend(voice_id)


def _blend(voice_id: str) -> Voice | None:
    """The mix of voices an id tells, whether somebody keeps it or not; None where it tells none."""
    try:
        return blend(voice_id, _BY_ID)
    except NotABlendError:
        return None


def sample_text(voice: Voice) -> str:
    """Our sample in the voice's language; in English where we have none."""
    return SAMPLE_TEXTS.get(primary(voice.language), SAMPLE_TEXTS["en"])


def unread(voice: Voice, text: str) -> tuple[str, str]:
    """Which scripts of a text a voice does not read ('reads no Han script') and the words in them; else ''
    and ''."""
    foreign = scripts_in(text) - scripts_in(sample_text(voice))
    if not foreign:
        return "", ""
    return f"reads no {' or '.join(sorted(foreign))} script", words_in(text, foreign)


def phonemes_by(language: str) -> str | None:
    """The voice of espeak-ng that has the phonemes of a language, None where there is none."""
    return next((each.phonemes_by for each in VOICES if primary(each.language) == primary(language)), None)


def voices_of_language(language: str) -> list[Voice]:
    """Voices of a language, women and men by turns, so that those who speak to one another are told apart."""
    tag = primary(language)
    known = [voice for voice in VOICES if primary(voice.language) == tag] or list(VOICES)
    women = [voice for voice in known if voice.gender == "woman"]
    men = [voice for voice in known if voice.gender != "woman"]
    pairs = itertools.chain.from_iterable(itertools.zip_longest(women, men))
    return [voice for voice in pairs if voice is not None]


def voice_for_language(language: str) -> Voice:
    """The first voice of a language, of its region before others; English where we have none."""
    tag = language.lower()
    just = [voice for voice in VOICES if voice.language.lower() == tag]
    near = [voice for voice in VOICES if primary(voice.language) == primary(tag)]
    return [*just, *near, *VOICES][0]


def languages() -> list[tuple[str, str]]:
    """Tags and names of the languages there are voices for."""
    spoken = {primary(voice.language) for voice in all_voices()}
    return [(tag, name) for tag, name in LANGUAGES.items() if tag in spoken]
