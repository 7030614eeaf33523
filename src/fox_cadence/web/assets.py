"""Styles and scripts under addresses with a hash of their contents, which the browser keeps for a year."""

import hashlib
import os
import re
from functools import lru_cache
from pathlib import Path

from fastapi.staticfiles import StaticFiles
from starlette.responses import Response
from starlette.types import Scope

STATIC = Path(__file__).resolve().parent / "static"
FONTS = Path(__file__).resolve().parent.parent / "fonts"

FOR_A_YEAR = "public, max-age=31536000, immutable"
FOR_A_DAY = "public, max-age=86400"
"""Fonts have the same names for long; the styles that ask for them can't name their hash."""

_HASHED = re.compile(r"(?P<stem>.+)\.(?P<hash>[0-9a-f]{12})(?P<suffix>\.[a-z]+)")

SOURCES = "FOX_CADENCE_SOURCES"
"""Set in the environment, pages load the scripts as they are written, not as they are bundled: for work on
them, and to look into them."""

_SOURCE_OF = {"dist/main.js": "scripts/main.js", "dist/review.js": "scripts/review.js"}


def asset(name: str) -> str:
    """The address of a file in `static`, such as `dist/app.css`, with the hash of its contents."""
    if os.environ.get(SOURCES) and name in _SOURCE_OF:
        return f"/static/{_SOURCE_OF[name]}"
    stem, dot, suffix = name.rpartition(".")
    return f"/static/{stem}.{_hash(STATIC / name)}{dot}{suffix}"


def _hash(path: Path) -> str:
    found = path.stat()
    return _hash_of(path, found.st_mtime_ns, found.st_size)


@lru_cache(maxsize=64)
def _hash_of(path: Path, mtime_ns: int, size: int) -> str:
    """By when it was written and its size: read again only when it has changed."""
    return hashlib.sha256(path.read_bytes()).hexdigest()[:12]


class Assets(StaticFiles):
    """The files of `static`, by their own names and by those that `asset` gives them."""

    async def get_response(self, path: str, scope: Scope) -> Response:
        named = _HASHED.fullmatch(path)
        plain = f"{named['stem']}{named['suffix']}" if named else path
        response = await super().get_response(plain, scope)
        # a page of an older version that is still open gets what there is now, and asks again next time
        right = named is not None and response.status_code == 200 and _hash(STATIC / plain) == named["hash"]
        response.headers["cache-control"] = FOR_A_YEAR if right else "no-cache"
        return response


class Fonts(StaticFiles):
    async def get_response(self, path: str, scope: Scope) -> Response:
        response = await super().get_response(path, scope)
        response.headers["cache-control"] = FOR_A_DAY
        return response
