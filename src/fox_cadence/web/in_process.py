"""Requests to the application without a server: how a terminal does what the page does."""

import asyncio
import json
import secrets
from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any
from urllib.parse import quote, urlencode

from fastapi import FastAPI

from fox_cadence.errors import InputError


@dataclass(frozen=True, slots=True)
class Answered:
    """What was answered: its status, its media type, its bytes."""

    status: int
    kind: str
    body: bytes

    @property
    def value(self) -> Any:
        """The answer where it is JSON, else None."""
        return json.loads(self.body) if self.kind.endswith("json") and self.body else None


def call(app: FastAPI, operation: Mapping[str, Any], given: Mapping[str, Any], body: Any = None) -> Answered:
    """Ask for an operation (interface.py's `operations`) with some of its fields.

    Args:
        given: fields by name; of a file, its Path.
        body: the whole body as a value, in the place of its fields.

    Raises:
        InputError: a field is missing, or there is none of that name.
    """
    places = {field["name"]: field["place"] for field in operation["fields"]}
    for name in given:
        if name not in places:
            known = ", ".join(places) or "none"
            raise InputError(f"{operation['name']} has no field {name}; there are: {known}", name)
    for field in operation["fields"]:
        inside = field["place"] in ("body", "form")
        if field["needed"] and field["name"] not in given and not (inside and body is not None):
            raise InputError("it is missing", field["name"])
    of = {place: {n: v for n, v in given.items() if places[n] == place} for place in set(places.values())}
    path = operation["path"]
    for name, value in of.get("path", {}).items():
        path = path.replace(f"{{{name}}}", quote(str(value), safe=""))
    query = urlencode({name: _as_text(value) for name, value in of.get("query", {}).items()})
    sent, kind = _encoded(operation["kind"], of, body)
    return asyncio.run(_ask(app, operation["method"], path, query, sent, kind))


def _encoded(kind: str, of: Mapping[str, Mapping[str, Any]], body: Any) -> tuple[bytes, str]:
    if kind == "application/json":
        whole = body if body is not None else dict(of.get("body", {}))
        return json.dumps(whole).encode(), kind
    form = of.get("form", {})
    if kind == "multipart/form-data":
        return _multipart(form)
    return urlencode({name: _as_text(value) for name, value in form.items()}).encode(), kind


def _multipart(form: Mapping[str, Any]) -> tuple[bytes, str]:
    border = secrets.token_hex(16)
    parts: list[bytes] = []
    for name, value in form.items():
        for each in value if isinstance(value, list) else [value]:
            head = f'--{border}\r\ncontent-disposition: form-data; name="{name}"'
            if isinstance(each, Path):
                plain = each.name.replace('"', "%22")
                parts += [f'{head}; filename="{plain}"\r\n\r\n'.encode(), each.read_bytes(), b"\r\n"]
            else:
                parts.append(f"{head}\r\n\r\n{_as_text(each)}\r\n".encode())
    return b"".join([*parts, f"--{border}--\r\n".encode()]), f"multipart/form-data; boundary={border}"


def _as_text(value: Any) -> str:
    return value if isinstance(value, str) else json.dumps(value)


async def _ask(app: FastAPI, method: str, path: str, query: str, body: bytes, kind: str) -> Answered:
    headers = [(b"host", b"localhost"), (b"content-length", str(len(body)).encode())]
    if kind:
        headers.append((b"content-type", kind.encode()))
    scope = {
        "type": "http",
        "asgi": {"version": "3.0"},
        "http_version": "1.1",
        "method": method,
        "scheme": "http",
        "path": path,
        "raw_path": path.encode(),
        "root_path": "",
        "query_string": query.encode(),
        "headers": headers,
        "client": ("127.0.0.1", 0),
        "server": ("localhost", 80),
    }
    waiting = [{"type": "http.request", "body": body, "more_body": False}]
    status, answered, gathered = 500, "", bytearray()

    async def receive() -> dict[str, Any]:
        if not waiting:
            await asyncio.Event().wait()  # whoever asked stays until all is answered
        return waiting.pop()

    async def send(message: Mapping[str, Any]) -> None:
        nonlocal status, answered
        if message["type"] == "http.response.start":
            status = message["status"]
            answered = dict(message["headers"]).get(b"content-type", b"").decode().split(";")[0]
        gathered.extend(message.get("body", b""))

    await app(scope, receive, send)
    return Answered(status, answered, bytes(gathered))
