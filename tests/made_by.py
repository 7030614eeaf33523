"""What something is made by: a digest of modules, of all they import of ours, and of data. What was made is
kept between runs under it."""

import ast
import hashlib
from collections.abc import Iterable
from functools import lru_cache
from pathlib import Path

SRC = Path(__file__).resolve().parent.parent / "src"


def digest_of(modules: Iterable[str], data: Iterable[Path] = ()) -> str:
    """A short digest of modules of ours with all they import, and of files and folders."""
    digest = hashlib.sha256()
    for path in sorted({path for name in modules for path in closure(name)}):
        digest.update(path.read_bytes())
    for place in data:
        for file in sorted(place.rglob("*")) if place.is_dir() else (place,):
            if file.is_file() and file.suffix != ".pyc":
                digest.update(file.read_bytes())
    return digest.hexdigest()[:16]


@lru_cache(maxsize=64)
def closure(module: str) -> frozenset[Path]:
    """The files of a module and of all that it imports of ours."""
    found: set[Path] = set()
    waiting = [module]
    while waiting:
        path = _file(waiting.pop())
        if path is None or path in found:
            continue
        found.add(path)
        for node in ast.walk(ast.parse(path.read_bytes())):
            if isinstance(node, ast.Import):
                waiting += [each.name for each in node.names]
            elif isinstance(node, ast.ImportFrom) and node.module:
                waiting += [node.module, *(f"{node.module}.{each.name}" for each in node.names)]
    return frozenset(found)


def _file(module: str) -> Path | None:
    if not module.startswith("fox_cadence"):
        return None
    path = SRC / module.replace(".", "/")
    for each in (path.with_suffix(".py"), path / "__init__.py"):
        if each.is_file():
            return each
    return None
