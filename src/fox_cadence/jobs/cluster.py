"""Hands that are the workers of a Dask cluster.

A task goes to the scheduler with its plain values; files among them go as the hash of their content, and a
worker asks us for what it does not have yet (blobs.py). A worker that dies costs what it was at: the
scheduler gives it to another. Everybody who can reach a scheduler can have code run by its workers: it stands
in a network of one's own, or behind TLS (docs/scale.md).
"""

import functools
import hashlib
import importlib
import pickle
import socket
import zlib
from collections.abc import Callable
from concurrent.futures import CancelledError as FutureCancelledError
from concurrent.futures import Executor, Future
from dataclasses import dataclass
from importlib.metadata import PackageNotFoundError, version
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from fox_cadence.core.takes import VoicingRequest
from fox_cadence.errors import EngineError, FoxError, InputError, MediaError
from fox_cadence.jobs.blobs import Blob, BlobServer, Source, cache_folder, fetched, swapped
from fox_cadence.jobs.hands import Hands
from fox_cadence.media.isolated import Progress, no_progress, run_isolated
from fox_cadence.voices.engines import Engines
from fox_cadence.voices.making import MadeTake, make
from fox_cadence.voices.voice import Voice

PATIENCE_S = 10
"""How long a scheduler, and then a first worker, is waited for."""
_LIBRARIES = ("av", "numpy", "onnxruntime", "pillow", "skia-python", "uharfbuzz")
"""Of these depends what comes of a task."""


@dataclass(frozen=True, slots=True)
class Call:
    """A task as it is sent: the function by its name, its arguments packed, where their files are had, and
    which version of us it is meant for."""

    module: str
    name: str
    arguments: bytes
    source: Source
    versions: str
    isolated: bool


@functools.lru_cache(maxsize=1)
def versions() -> str:
    """Our code, and the libraries on which the bytes depend, as one word to compare."""
    digest = hashlib.sha256()
    package = Path(__file__).resolve().parent.parent
    for path in sorted(package.rglob("*.py")):
        digest.update(path.relative_to(package).as_posix().encode() + path.read_bytes())
    for name in _LIBRARIES:
        try:
            digest.update(f"{name} {version(name)} ".encode())
        except PackageNotFoundError:
            digest.update(f"{name} missing ".encode())
    return digest.hexdigest()[:16]


def carry_out(call: Call) -> Any:
    """Do a task where it has arrived.

    Raises:
        EngineError: this worker has another version of us.
        FoxError: what the task raises.
    """
    if call.versions != versions():
        raise EngineError(
            f"The worker {socket.gethostname()} has another version of Fox Cadence, or of its libraries. "
            "Install the same there."
        )
    found = getattr(importlib.import_module(call.module), call.name)
    folder = cache_folder()
    arguments = swapped(
        pickle.loads(zlib.decompress(call.arguments)), Blob, lambda blob: fetched(call.source, blob, folder)
    )
    return run_isolated(found, *arguments) if call.isolated else found(*arguments)


class ClusterHands(Hands):
    """Tasks done by the workers of a scheduler.

    Args:
        scheduler: its address, tcp://HOST:PORT or tls://HOST:PORT.
        engines, makers: for voices that only this machine has.
        here: the address workers reach this machine at; found out where it is not told.

    Raises:
        InputError: no scheduler answers there, or it has no worker.
    """

    def __init__(self, scheduler: str, engines: Engines, makers: Executor, here: str = "") -> None:
        # loads half a second of libraries that nothing else needs
        from distributed import Client

        place = "--scheduler"
        parts = urlsplit(scheduler)
        if parts.scheme not in ("tcp", "tls") or not parts.hostname or not _port(scheduler):
            raise InputError("give it as tcp://HOST:PORT or tls://HOST:PORT", place)
        if parts.scheme == "tls":
            _check_certificates()
        try:
            self._client: Any = Client(scheduler, timeout=PATIENCE_S, set_as_default=False)
        except (OSError, TimeoutError, ValueError) as error:
            matched = ", and do its certificates match yours" if parts.scheme == "tls" else ""
            raise InputError(
                f"no scheduler answers at {scheduler}. Is it running{matched}?", place
            ) from error
        try:
            self._client.wait_for_workers(1, timeout=PATIENCE_S)
        except (OSError, TimeoutError) as error:
            self._client.close()
            raise InputError(f"the scheduler at {scheduler} has no worker. Start one.", place) from error
        self._executor = self._client.get_executor(pure=False)
        self._engines, self._makers = engines, makers
        self._blobs = BlobServer(here or _our_address(parts.hostname, _port(scheduler)))

    def wait_for(self, workers: int) -> None:
        """Wait until so many workers are there."""
        self._client.wait_for_workers(workers)

    @property
    def at_once(self) -> int:
        """Threads of all workers that are there now."""
        return max(1, sum(int(count) for count in self._client.nthreads().values()))

    @property
    def voices_at_once(self) -> int:
        return self.at_once

    def submit(
        self,
        function: Callable[..., Any],
        *arguments: Any,
        progress: Progress = no_progress,
        cancelled: Callable[[], bool] = lambda: False,
    ) -> Future[Any]:
        return self._sent(function, arguments, isolated=True, failed=MediaError)

    def voice(self, voice: Voice, request: VoicingRequest) -> Future[MadeTake]:
        if "/" in voice.engine_voice:  # a model of the user's own, which is a file of this machine
            return self._makers.submit(make, self._engines, voice, request)
        return self._sent(make, (self._engines, voice, request), isolated=False, failed=EngineError)

    def _sent(
        self,
        function: Callable[..., Any],
        arguments: tuple[Any, ...],
        isolated: bool,
        failed: type[MediaError | EngineError],
    ) -> Future[Any]:
        packed = swapped(arguments, Path, self._blobs.offer)
        call = Call(
            function.__module__,
            function.__qualname__,
            zlib.compress(pickle.dumps(packed), 1),
            self._blobs.source,
            versions(),
            isolated,
        )
        told: Future[Any] = Future()
        sent: Future[Any] = self._executor.submit(carry_out, call)
        sent.add_done_callback(functools.partial(_pass_on, told, failed))
        told.add_done_callback(lambda task: sent.cancel() if task.cancelled() else None)
        return told

    def close(self) -> None:
        self._executor.shutdown(wait=False)
        self._client.close()
        self._blobs.close()


def _pass_on(told: Future[Any], failed: type[MediaError | EngineError], sent: Future[Any]) -> None:
    """The answer of a task in our words: what a cluster raises of its own says nothing to an editor.

    Args:
        failed: what it is raised as, so that the trouble of a line is told from that of a file.
    """
    if not told.set_running_or_notify_cancel():
        return
    try:
        told.set_result(sent.result())
    except FoxError as error:
        told.set_exception(error)
    except FutureCancelledError:
        told.set_exception(failed("The cluster let go of this task. Is its scheduler still running?"))
    except Exception as error:
        told.set_exception(failed(f"The cluster could not carry this out ({type(error).__name__}: {error})."))


def _port(scheduler: str) -> int:
    """The port of an address; 0 where it has none that can be."""
    try:
        return urlsplit(scheduler).port or 0
    except ValueError:
        return 0


def _check_certificates() -> None:
    """Raises InputError where there are no certificates to come to a scheduler with, or unreadable ones."""
    from distributed.security import Security

    place = "--scheduler"
    names = "DASK_DISTRIBUTED__COMM__TLS__CA_FILE, …__CLIENT__CERT and …__CLIENT__KEY (docs/scale.md)"
    try:
        security: Any = Security()  # type: ignore[no-untyped-call]
        context = security.get_connection_args("client").get("ssl_context")
    except OSError as error:  # an SSLError is one
        raise InputError(
            f"a certificate can't be read ({error}). They are named by {names}", place
        ) from error
    if context is None:
        raise InputError(f"tls:// needs certificates. Name them by {names}", place)


def _our_address(host: str, port: int) -> str:
    """The address of this machine on the way to another; nothing is sent for that."""
    family = socket.getaddrinfo(host, port)[0][0]
    with socket.socket(family, socket.SOCK_DGRAM) as probe:
        probe.connect((host, port))
        return str(probe.getsockname()[0])
