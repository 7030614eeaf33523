"""Our own table of voices: what people choose by, and what the engine must be told."""

import itertools
from typing import Literal, TypeAlias

from pydantic import BaseModel, ConfigDict

Gender: TypeAlias = Literal["woman", "man"]
Age: TypeAlias = Literal["young", "grown", "old"]


class Voice(BaseModel):
    """A voice of the catalogue.

    `natural`: it sounds like a person rather than a machine. `engine_voice`, `pitch` and `liveliness` (0 to 99) are for
    the engine only; `phonemes_by` is the espeak-ng voice that counts its phonemes.
    """

    model_config = ConfigDict(frozen=True)

    id: str
    name: str
    language: str
    region: str
    gender: Gender
    age: Age
    character: str
    natural: bool = False
    engine: str = "espeak-ng"
    engine_voice: str
    phonemes_by: str
    pitch: int = 50
    liveliness: int = 50
    licence: str = "GPL-3.0-or-later engine; commercial use allowed"


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
        character=character, natural=True, engine=engine, engine_voice=engine_voice, phonemes_by="gmw/en-US",
        licence=f"{licence}; commercial use allowed",
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
"""Neural voices whose models come with the application."""

VOICES: tuple[Voice, ...] = (
    *NATURAL,
    _voice("orla", "Orla", "en-GB", "Britain", ("woman", "grown"), "clear and even", "gmw/en+f3", 46, 52),
    _voice("pell", "Pell", "en-GB", "Britain", ("man", "old"), "low and unhurried", "gmw/en+m7", 30, 38),
    _voice("tamsin", "Tamsin", "en-GB", "Britain", ("woman", "young"), "light, quick to rise", "gmw/en+f2", 60, 66),
    _voice("corin", "Corin", "en-GB", "Britain", ("man", "grown"), "plain and firm", "gmw/en+m3", 44, 48),
    _voice(
        "maeve", "Maeve", "en-US", "United States", ("woman", "grown"), "warm, wide in range", "gmw/en-US+f4", 44, 62
    ),
    _voice("wade", "Wade", "en-US", "United States", ("man", "grown"), "level and close", "gmw/en-US+m1", 40, 44),
    _voice("ines", "Inés", "es-ES", "Spain", ("woman", "grown"), "clear and even", "roa/es+f3", 46, 52),
    _voice("bruno", "Bruno", "es-419", "Latin America", ("man", "grown"), "round and calm", "roa/es-419+m3", 42, 46),
    _voice("elodie", "Élodie", "fr-FR", "France", ("woman", "grown"), "light and even", "roa/fr+f3", 48, 52),
    _voice("remi", "Rémi", "fr-FR", "France", ("man", "grown"), "dry and firm", "roa/fr+m3", 42, 46),
    _voice("greta", "Greta", "de-DE", "Germany", ("woman", "grown"), "clear and firm", "gmw/de+f3", 46, 50),
    _voice("jannis", "Jannis", "de-DE", "Germany", ("man", "grown"), "low and plain", "gmw/de+m3", 40, 44),
)

_BY_ID = {voice.id: voice for voice in VOICES}

SAMPLE_TEXTS = {
    "en": "The tide turns twice a day, and never once for show.",
    "es": "La marea cambia dos veces al día, y nunca por lucirse.",
    "fr": "La marée tourne deux fois par jour, jamais pour la galerie.",
    "de": "Die Flut kehrt zweimal am Tag, und niemals nur zum Schein.",
}


def voice_by_id(voice_id: str) -> Voice | None:
    return _BY_ID.get(voice_id)


def voices_of_language(language: str) -> list[Voice]:
    """Voices of a language, women and men by turns, so that those who speak to one another are told apart."""
    tag = language.lower().split("-")[0]
    known = [voice for voice in VOICES if voice.language.split("-")[0] == tag] or list(VOICES)
    women = [voice for voice in known if voice.gender == "woman"]
    men = [voice for voice in known if voice.gender != "woman"]
    pairs = itertools.chain.from_iterable(itertools.zip_longest(women, men))
    return [voice for voice in pairs if voice is not None]


def voice_for_language(language: str) -> Voice:
    """The first voice of a language, of its region before others; English where we have none."""
    tag = language.lower()
    just = [voice for voice in VOICES if voice.language.lower() == tag]
    near = [voice for voice in VOICES if voice.language.split("-")[0] == tag.split("-")[0]]
    return [*just, *near, *VOICES][0]
