"""Writes the types of what the pages are told, for the type checker of their scripts, from the shapes in
Python.

`python -m scripts.page_types` writes the file, `--check` fails where it is out of date.
"""

import inspect
import sys
import types
from dataclasses import is_dataclass
from pathlib import Path
from typing import Any, Literal, NotRequired, Union, get_args, get_origin, get_type_hints, is_typeddict

from fox_cadence.web.answers import (
    figures,
    lettering_shapes,
    picture_shapes,
    proposal_shapes,
    shapes,
    sound_shapes,
    treatments,
    versions,
)

TARGET = Path(shapes.__file__).parents[1] / "static" / "scripts" / "answers.d.ts"
_PLAIN: dict[Any, str] = {
    str: "string",
    int: "number",
    float: "number",
    bool: "boolean",
    Any: "any",
    type(None): "null",
}


def type_of(hint: Any) -> str:
    """A Python type as a type of the page. Raises TypeError for one that JSON has nothing for."""
    if hint in _PLAIN:
        return _PLAIN[hint]
    if is_typeddict(hint) or is_dataclass(hint):
        return str(hint.__name__)
    origin, inner = get_origin(hint), get_args(hint)
    if origin is Literal:
        return " | ".join(f'"{value}"' for value in inner)
    if origin in (Union, types.UnionType):
        return " | ".join(type_of(each) for each in inner)
    if origin is dict:
        return f"Record<string, {type_of(inner[1])}>"
    if origin is list or (origin is tuple and inner[-1] is Ellipsis):
        item = type_of(inner[0])
        return f"({item})[]" if "|" in item else f"{item}[]"
    if origin is tuple:
        return f"[{', '.join(type_of(each) for each in inner)}]"
    raise TypeError(f"{hint} has no type in the page")


def interface(shape: Any) -> list[str]:
    """One shape as an interface, with what it takes over from others written out."""
    doc = inspect.cleandoc(shape.__doc__ or "") if shape.__doc__ and "dict(" not in shape.__doc__ else ""
    lines = [f"/** {' '.join(doc.split())} */"] if doc else []
    lines.append(f"export interface {shape.__name__} {{")
    for name, hint in get_type_hints(shape, include_extras=True).items():
        optional = get_origin(hint) is NotRequired
        lines.append(
            f"  {name}{'?' if optional else ''}: {type_of(get_args(hint)[0] if optional else hint)};"
        )
    return [*lines, "}"]


def text() -> str:
    """The whole file."""
    found = [
        shape
        for module in (
            picture_shapes,
            sound_shapes,
            lettering_shapes,
            figures,
            treatments,
            shapes,
            proposal_shapes,
            versions,
        )
        for shape in vars(module).values()
        if (is_typeddict(shape) and shape.__module__ == module.__name__)
        or (module is shapes and is_dataclass(shape))
    ]
    head = "// Made by scripts/page_types.py from the shapes in web/answers: change those, not this."
    return "\n".join([head, *(line for shape in found for line in ["", *interface(shape)]), ""])


def main(arguments: list[str]) -> int:
    if arguments == ["--check"]:
        if TARGET.read_text() == text():
            return 0
        print(f"{TARGET} is out of date: python -m scripts.page_types", file=sys.stderr)
        return 1
    TARGET.write_text(text())
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
