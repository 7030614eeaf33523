"""What every request must pass and every answer carries: Host, Origin, content security policy."""

from urllib.parse import urlsplit

from starlette.types import ASGIApp, Message, Receive, Scope, Send

LOOPBACK = frozenset({"127.0.0.1", "localhost", "::1"})

HEADERS = {
    b"content-security-policy": (
        b"default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' blob: data:; media-src 'self' blob:; "
        b"font-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'"
    ),
    b"x-content-type-options": b"nosniff",
    b"referrer-policy": b"no-referrer",
    b"cross-origin-opener-policy": b"same-origin",
    b"cross-origin-resource-policy": b"same-origin",
}


class Guard:
    """Refuses a foreign Host (a name that was pointed at this machine) and a foreign Origin (another site's page)."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = dict(scope["headers"])
        reason = _refusal(scope["method"], headers)
        if reason:
            await send(
                {
                    "type": "http.response.start",
                    "status": 403,
                    "headers": [(b"content-type", b"text/plain; charset=utf-8")],
                }
            )
            await send({"type": "http.response.body", "body": reason.encode()})
            return

        async def send_with_headers(message: Message) -> None:
            if message["type"] == "http.response.start":
                message["headers"] = [*message["headers"], *HEADERS.items()]
            await send(message)

        await self._app(scope, receive, send_with_headers)


def _refusal(method: str, headers: dict[bytes, bytes]) -> str:
    """Why a request is refused, '' when it is not."""
    host = headers.get(b"host", b"").decode("latin-1")
    if _name(f"//{host}") not in LOOPBACK:
        return "This address is not served here. Open Fox Cadence at the address it printed."
    origin = headers.get(b"origin")
    if origin is not None and urlsplit(origin.decode("latin-1")).netloc != host:
        return "A page of another site may not ask for this."
    if (
        method not in {"GET", "HEAD"}
        and origin is None
        and headers.get(b"sec-fetch-site", b"none")
        not in {
            b"same-origin",
            b"none",
        }
    ):
        return "A page of another site may not change anything here."
    return ""


def _name(address: str) -> str:
    try:
        return urlsplit(address).hostname or ""
    except ValueError:
        return ""
