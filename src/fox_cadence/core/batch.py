"""A batch: several pieces made by one docket, as it is written down, and what became of each."""

import json
import tomllib
from collections.abc import Mapping
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator

from fox_cadence.core.docket.work import Work

State = Literal["waiting", "made", "kept", "failed"]


class _Written(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class Piece(_Written):
    """A project by its id, or all of a series in the order of their names; in some languages, or as it is.

    A language is that of a version of the project.
    """

    project: str = Field("", max_length=80)
    series: str = Field("", max_length=80)
    languages: tuple[str, ...] = Field((), max_length=100)

    @model_validator(mode="after")
    def _one_of_both(self) -> "Piece":
        if bool(self.project) == bool(self.series):
            raise ValueError("name a project or a series")
        return self


class Batch(_Written):
    """What is made of which pieces.

    `products` are rows of a docket by their names: of the one that is kept as `docket`, or of each project's
    own. `out` is a folder the files are put into too. With `voice` open lines are voiced first, with `prove`
    every file is proven.
    """

    piece: tuple[Piece, ...] = Field(min_length=1, max_length=2000)
    products: tuple[str, ...] = Field((), max_length=60)
    docket: str = Field("", max_length=60)
    out: str = Field("", max_length=1000)
    voice: bool = True
    prove: bool = False
    work: Work | None = None

    @model_validator(mode="after")
    def _something(self) -> "Batch":
        if not self.products and not self.docket:
            raise ValueError("say what is made: products, or the name of a docket")
        return self


class Outcome(BaseModel):
    """A row of the table: what became of a product of a piece."""

    model_config = ConfigDict(frozen=True)

    project: str
    piece: str
    language: str
    product: str
    state: State
    files: tuple[Mapping[str, Any], ...] = ()
    in_sync: bool | None = None
    reason: str = ""


def read_batch(text: str) -> Batch:
    """A batch from TOML.

    Raises:
        ValueError: it is not TOML, or not a batch; says where.
    """
    try:
        return Batch.model_validate(tomllib.loads(text))
    except tomllib.TOMLDecodeError as error:
        raise ValueError(f"this is not TOML: {error}") from error
    except ValidationError as error:
        first = error.errors()[0]
        place = ".".join(str(part + 1) if isinstance(part, int) else part for part in first["loc"])
        words = {"missing": "it is missing", "extra_forbidden": "there is no such setting"}
        said = words.get(first["type"], first["msg"].removeprefix("Value error, "))
        raise ValueError(f"{place}: {said}" if place else said) from error


def write_batch(batch: Batch) -> str:
    """A batch as TOML, which `read_batch` reads again. Strings of JSON are strings of TOML too."""
    top = batch.model_dump(exclude={"piece", "work"}, exclude_defaults=True)
    lines = [_setting(name, value) for name, value in top.items()]
    if batch.work is not None:
        lines += ["", "[work]"]
        lines += [
            _setting(name, value) for name, value in batch.work.model_dump(exclude_defaults=True).items()
        ]
    for piece in batch.piece:
        lines += ["", "[[piece]]"]
        lines += [_setting(name, value) for name, value in piece.model_dump(exclude_defaults=True).items()]
    return "\n".join(lines) + "\n"


def _setting(name: str, value: Any) -> str:
    written = json.dumps(value, ensure_ascii=False).replace(
        "\x7f", "\\u007f"
    )  # the one sign TOML escapes besides
    return f"{name} = {written}"
