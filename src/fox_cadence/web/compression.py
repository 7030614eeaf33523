"""Answers made smaller where the browser takes it. Pictures and sounds are left alone: they are small as they
are."""

from starlette.middleware.gzip import GZipMiddleware
from starlette.types import ASGIApp, Receive, Scope, Send

LEAST_BYTES = 8_000
"""A smaller answer is on its way sooner as it is."""

LEVEL = 5
_TEXT = ("/static/", "/fonts/", "/projects/", "/new", "/api/")
_NOT_TEXT = (".wav", ".jpg", "/pack")


class Compression:
    """Passes what is text through gzip, all else straight on."""

    def __init__(self, app: ASGIApp) -> None:
        self._plain = app
        self._compressed = GZipMiddleware(app, minimum_size=LEAST_BYTES, compresslevel=LEVEL)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        path = str(scope.get("path", ""))
        text = path.startswith(_TEXT) and not path.endswith(_NOT_TEXT) and not _is_file(path)
        await (self._compressed if text else self._plain)(scope, receive, send)


def _is_file(path: str) -> bool:
    """A finished export or a bundle: large, and compressed already."""
    return "/exports/" in path or "/bundle/" in path
