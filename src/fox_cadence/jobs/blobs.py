"""Files for workers, by the hash of their content: offered by whoever sends tasks, kept by each worker.

A worker asks for what it does not have yet, checks that it is what its name says, and keeps it for the next
task. What is offered is what tasks name, to those who know the key that comes with the tasks.
"""

import hashlib
import hmac
import os
import re
import secrets
import shutil
import tempfile
import threading
import time
import urllib.request
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass, fields, is_dataclass, replace
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path
from typing import Any, BinaryIO

from fox_cadence.errors import MediaError
from fox_cadence.store.library import hash_file

_HASH = re.compile("[0-9a-f]{64}")
_BLOCK = 1 << 20
_PATIENCE_S = 60
_HOUR_S = 3600
MOST_KEPT_BYTES = 20 << 30
"""What a worker keeps at most; what was used longest ago goes first."""


@dataclass(frozen=True, slots=True)
class Blob:
    """A file by the hash of its content, and its ending, by which it is told what kind of file it is."""

    content_hash: str
    suffix: str


@dataclass(frozen=True, slots=True)
class Source:
    """Where files are asked for, and the key that opens it."""

    address: str
    key: str


def swapped(value: Any, kind: type, swap: Callable[[Any], Any]) -> Any:
    """A value with all of a kind in it (in lists, tuples, dicts, dataclasses) replaced by others."""
    if isinstance(value, kind):
        return swap(value)
    if isinstance(value, (list, tuple)):
        inside = [swapped(each, kind, swap) for each in value]
        if all(a is b for a, b in zip(inside, value, strict=True)):
            return value
        return type(value)(*inside) if hasattr(value, "_fields") else type(value)(inside)
    if isinstance(value, dict):
        return {key: swapped(each, kind, swap) for key, each in value.items()}
    if is_dataclass(value) and not isinstance(value, type):
        pairs = [(field.name, getattr(value, field.name)) for field in fields(value) if field.init]
        changed = {name: new for name, each in pairs if (new := swapped(each, kind, swap)) is not each}
        return replace(value, **changed) if changed else value
    return value


class BlobServer:
    """Offers files over HTTP at an address of this machine.

    Args:
        host: the address workers reach this machine at.
    """

    def __init__(self, host: str) -> None:
        self._files: dict[str, list[Path]] = {}
        self._known: dict[tuple[Path, int, int], str] = {}
        self._lock = threading.Lock()
        found, key = self._found, secrets.token_urlsafe(32)

        class Handler(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                given = self.headers.get("authorization", "").encode("latin-1", "replace")
                knows = hmac.compare_digest(given, f"Bearer {key}".encode())
                opened = found(self.path.removeprefix("/")) if knows else None
                if opened is None:
                    self.send_error(404)
                    return
                with opened as file:
                    self.send_response(200)
                    self.send_header("content-length", str(os.fstat(file.fileno()).st_size))
                    self.end_headers()
                    with suppress(ConnectionError):
                        shutil.copyfileobj(file, self.wfile, _BLOCK)

            def log_message(self, format: str, *_: Any) -> None:
                """What is asked for is nobody's business."""

        self._server = ThreadingHTTPServer((host, 0), Handler)
        self._server.daemon_threads = True
        shown = f"[{host}]" if ":" in host else host
        self.source = Source(f"http://{shown}:{self._server.server_address[1]}", key)
        threading.Thread(target=self._server.serve_forever, daemon=True, name="blobs").start()

    def offer(self, path: Path) -> Blob:
        """Offer a file for as long as this is open."""
        stat = path.stat()
        mark = (path, stat.st_mtime_ns, stat.st_size)
        with self._lock:
            known = self._known.get(mark)
        digest = known or hash_file(path)
        with self._lock:
            self._known[mark] = digest
            places = self._files.setdefault(digest, [])
            if path not in places:
                places.append(path)
        return Blob(digest, path.suffix)

    def _found(self, digest: str) -> BinaryIO | None:
        """A file that was offered, opened: the first that is still there of those with the same content, as
        each goes with the work that it was written for."""
        with self._lock:
            places = list(self._files.get(digest, ()))
        for path in places:
            with suppress(OSError):
                return path.open("rb")
        return None

    def close(self) -> None:
        self._server.shutdown()
        self._server.server_close()


def cache_folder() -> Path:
    """Where a worker keeps files (XDG Base Directory Specification; FOX_CADENCE_WORKER is another)."""
    base = os.environ.get("XDG_CACHE_HOME") or str(Path.home() / ".cache")
    return Path(os.environ.get("FOX_CADENCE_WORKER") or Path(base) / "fox-cadence" / "worker")


def fetched(source: Source, blob: Blob, folder: Path) -> Path:
    """The file of a blob in a folder, asked for where it is not there yet.

    Raises:
        MediaError: it can't be had, or what came is something else.
    """
    if not _HASH.fullmatch(blob.content_hash):
        raise MediaError("this is no hash of a file")
    path = folder / f"{blob.content_hash}{blob.suffix}"
    if path.is_file():
        with suppress(OSError):
            os.utime(path)
        return path
    folder.mkdir(parents=True, exist_ok=True)
    request = urllib.request.Request(
        f"{source.address}/{blob.content_hash}", headers={"authorization": f"Bearer {source.key}"}
    )
    digest = hashlib.sha256()
    part = tempfile.NamedTemporaryFile(dir=folder, prefix=".", delete=False)  # noqa: SIM115 # renamed below
    try:
        with part, urllib.request.urlopen(request, timeout=_PATIENCE_S) as answer:
            while block := answer.read(_BLOCK):
                digest.update(block)
                part.write(block)
        if digest.hexdigest() != blob.content_hash:
            raise MediaError("a file came that is not the one that was asked for")
        Path(part.name).rename(path)
    except OSError as error:
        raise MediaError(f"a file could not be had from {source.address} ({error})") from error
    finally:
        Path(part.name).unlink(missing_ok=True)
    _let_go(folder, path)
    return path


def _let_go(folder: Path, newest: Path) -> None:
    """Remove what was used longest ago until the rest is small enough."""
    files = []
    for part in folder.glob(".*"):  # of a worker that died while it asked for a file
        with suppress(OSError):
            if time.time() - part.stat().st_mtime > _HOUR_S:
                part.unlink()
    for path in folder.glob("[0-9a-f]*"):
        with suppress(OSError):
            stat = path.stat()
            files.append((stat.st_mtime, stat.st_size, path))
    total = sum(size for _, size, _ in files)
    for _, size, path in sorted(files):
        if total <= MOST_KEPT_BYTES:
            return
        if path != newest:
            path.unlink(missing_ok=True)
            total -= size
