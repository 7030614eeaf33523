"""What every request must pass and every answer carries: Host, Origin, size, content security policy."""

import contextlib
import ipaddress
import json
from urllib.parse import urlsplit

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from fox_cadence.web.problems import CONTENT_TYPE, details

LOOPBACK = frozenset({"127.0.0.1", "localhost", "::1"})

MOST_UPLOAD_BYTES = (8 << 30) + (1 << 20)
"""Of a form with files; each kind of file has a limit of its own beside it."""
MOST_BYTES = 32 << 20
"""Of anything else: a script of ten megabytes as JSON, with room."""

HEADERS = {
    b"content-security-policy": (
        b"default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' blob: data:; media-src "
        b"'self' blob:; "
        b"font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
    ),
    b"x-content-type-options": b"nosniff",
    b"referrer-policy": b"same-origin",  # with no-referrer a browser hides the origin of our own forms too
    b"cross-origin-opener-policy": b"same-origin",
    b"cross-origin-resource-policy": b"same-origin",
    b"permissions-policy": b"camera=(), geolocation=(), microphone=(self)",
}


class TooLargeError(Exception):
    """More bytes came than a request may have."""


class Guard:
    """Refuses a foreign Host (a name that was pointed at this machine), a foreign Origin (another site's
    page) and requests that are too large, and gives every answer its policy.

    Args:
        names: host names it answers to beside this machine's own; with `by_address` it answers to every plain
            IP address too. A page of another site can reach us under a name it controls, never under an
            address.
    """

    def __init__(self, app: ASGIApp, names: frozenset[str] = frozenset(), by_address: bool = False) -> None:
        self._app = app
        self._names = LOOPBACK | names
        self._by_address = by_address

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] == "websocket":
            await send({"type": "websocket.close", "code": 1008})
            return
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = dict(scope["headers"])

        async def send_with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                message["headers"] = [*message["headers"], *HEADERS.items()]
            await send(message)

        reason = self._refusal(scope, headers)
        if reason:
            await _refuse(send_with_headers, 403, reason)
            return
        most = (
            MOST_UPLOAD_BYTES if headers.get(b"content-type", b"").startswith(b"multipart/") else MOST_BYTES
        )
        too_large = f"This is larger than {most >> 20} MiB, the most that can be sent at once."
        if int(headers.get(b"content-length", b"0") or 0) > most:
            await _refuse(send_with_headers, 413, too_large)
            return
        came = 0

        async def receive_counted() -> Message:
            nonlocal came
            message = await receive()
            came += len(message.get("body", b""))
            if came > most:
                raise TooLargeError
            return message

        async def send_unless_too_large(message: Message) -> None:
            if came <= most:
                await send_with_headers(message)

        with contextlib.suppress(TooLargeError):
            await self._app(scope, receive_counted, send_unless_too_large)
        if came > most:  # whatever a form's parser made of the end it met
            await _refuse(send_with_headers, 413, too_large)

    def _refusal(self, scope: Scope, headers: dict[bytes, bytes]) -> str:
        """Why a request is refused, '' when it is not."""
        host = headers.get(b"host", b"").decode("latin-1")
        if not self._ours(_name(f"//{host}")):
            return "This address is not served here. Open Fox Cadence at the address it printed."
        origin = headers.get(b"origin")
        if origin is not None and urlsplit(origin.decode("latin-1")).netloc != host:
            return "A page of another site may not ask for this."
        changes = scope["method"] not in {"GET", "HEAD"}
        inner = scope["path"].startswith(("/api/", "/media/"))  # what only our pages ask for
        from_elsewhere = headers.get(b"sec-fetch-site", b"none") not in {b"same-origin", b"none"}
        if from_elsewhere and ((changes and origin is None) or inner):
            return "A page of another site may not change or read anything here."
        if not headers.get(b"content-length", b"0").isdigit():
            return "The length of this request can't be told."
        return ""

    def _ours(self, name: str) -> bool:
        return name in self._names or (self._by_address and _is_address(name))


async def _refuse(send: Send, status: int, reason: str) -> None:
    body = json.dumps(details("too-large" if status == 413 else "refused", reason)).encode()
    kind = [(b"content-type", CONTENT_TYPE.encode()), (b"connection", b"close")]
    await send({"type": "http.response.start", "status": status, "headers": kind})
    await send({"type": "http.response.body", "body": body})


def _name(address: str) -> str:
    try:
        return urlsplit(address).hostname or ""
    except ValueError:
        return ""


def _is_address(name: str) -> bool:
    try:
        ipaddress.ip_address(name)
    except ValueError:
        return False
    return True
