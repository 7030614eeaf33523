"""Voices of the user's own: Piper models dropped into a folder, each an .onnx file with its .onnx.json beside
it.

Only the description is read here; the model is opened in the worker when somebody speaks with it. A file
`<name>.about.json` beside it may say what the description does not: name, gender, age, character, licence,
commercial.
"""

import json
import re
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated, Any, TypeVar

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from fox_cadence.voices.catalogue import VOICES, offer, phonemes_by
from fox_cadence.voices.espeak_voices import Age, Gender
from fox_cadence.voices.voice import NATURAL_USES, Voice

LARGEST_DESCRIPTION_BYTES = 1 << 20
MOST_SPEAKERS = 40
M = TypeVar("M", bound=BaseModel)
_NO_LICENCE = "licence not stated; see where the voice came from"


class _Part(BaseModel):
    model_config = ConfigDict(extra="ignore")


class _Language(_Part):
    code: str = Field("en_US", max_length=20)
    country_english: str = Field("", max_length=60)


class _Espeak(_Part):
    voice: str = Field(max_length=20)


class _Audio(_Part):
    sample_rate: int = Field(ge=8000, le=96_000)


class _Description(_Part):
    """What we use of a Piper description."""

    audio: _Audio
    espeak: _Espeak
    phoneme_id_map: dict[str, list[int]]
    language: _Language = _Language()
    dataset: str = Field("", max_length=80)
    num_speakers: int = 1
    speaker_id_map: dict[str, int] = {}


class _About(_Part):
    name: str = Field("", max_length=60)
    gender: Gender | None = None
    age: Age | None = None
    character: str = Field("a voice of your own", max_length=120)
    licence: Annotated[str, Field(max_length=200)] = _NO_LICENCE
    commercial: bool = False


@dataclass(frozen=True, slots=True)
class Unusable:
    """A file in the folder that is no voice, and why."""

    file: str
    reason: str


class OwnVoices:
    """A folder that is looked at again whenever its files have changed."""

    def __init__(self, folder: Path) -> None:
        folder.mkdir(parents=True, exist_ok=True)
        self.folder = folder
        self.unusable: tuple[Unusable, ...] = ()
        self._seen: tuple[tuple[str, int, int], ...] | None = None

    def rescan(self) -> None:
        """Offer what is there now."""
        seen = tuple(
            (path.name, path.stat().st_mtime_ns, path.stat().st_size)
            for path in sorted(self.folder.iterdir())
            if path.is_file()
        )
        if seen == self._seen:
            return
        voices: list[Voice] = []
        unusable: list[Unusable] = []
        for path in sorted(self.folder.glob("*.onnx")):
            try:
                voices += _voices_of(path)
            except ValueError as error:
                unusable.append(Unusable(path.name, str(error)))
        self._seen, self.unusable = seen, tuple(unusable)
        offer(self.folder, voices)


def _voices_of(model: Path) -> list[Voice]:
    """The voices of a model, one a speaker.

    Raises:
        ValueError: its description is missing or is none; the text says so.
    """
    described = model.with_name(model.name + ".json")
    if not described.is_file():
        raise ValueError(f"its description {described.name} is missing; put it beside the model")
    found = _read(described, _Description)
    about_file = model.with_name(model.stem + ".about.json")
    about = _read(about_file, _About) if about_file.is_file() else _About()
    tag = found.language.code.replace("_", "-")
    speakers = list(found.speaker_id_map.items())[:MOST_SPEAKERS] if found.num_speakers > 1 else [("", 0)]
    base = about.name or found.dataset.replace("_", " ").title() or model.stem
    slug = re.sub(r"[^\w]+", "-", model.stem.lower()).strip("-")
    return [
        Voice(
            id=f"own-{slug}" + (f"-{number}" if speaker else ""),
            name=f"{base} {speaker}".strip(),
            language=tag,
            region=found.language.country_english or tag,
            gender=about.gender,
            age=about.age,
            character=about.character,
            uses=NATURAL_USES,
            natural=True,
            engine="piper",
            engine_voice=f"piper:{model}" + (f"#{number}" if speaker else ""),
            phonemes_by=phonemes_by(tag) or VOICES[0].phonemes_by,
            has_range=False,
            licence=about.licence,
            commercial=about.commercial,
        )
        for speaker, number in speakers
    ]


def _read(path: Path, kind: type[M]) -> M:
    if path.stat().st_size > LARGEST_DESCRIPTION_BYTES:
        raise ValueError(f"{path.name} is too large for the description of a voice")
    try:
        document: Any = json.loads(path.read_text("utf-8"))
        return kind.model_validate(document)
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError) as error:
        raise ValueError(f"{path.name} is not JSON") from error
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(part) for part in first["loc"])
        raise ValueError(
            f"{path.name} does not describe a voice we can use ({where}: {first['msg']})"
        ) from error
