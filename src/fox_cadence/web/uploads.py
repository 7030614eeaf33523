"""Uploaded files, written once: as they come into the data folder, from where the work on them takes them."""

import os
import shutil
import tempfile
from collections.abc import AsyncGenerator, Callable, Coroutine, Iterator
from contextlib import contextmanager
from functools import cached_property
from pathlib import Path
from typing import Any

from fastapi import Request, Response, UploadFile
from fastapi.routing import APIRoute
from starlette.datastructures import FormData, Headers
from starlette.exceptions import HTTPException
from starlette.formparsers import MultiPartException, MultiPartParser

from fox_cadence.core.names import tidy_name
from fox_cadence.errors import InputError

LONGEST = 200


class _Arriving:
    """A file of a form. It is made when it is first written to, which the framework does off the event
    loop."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    @cached_property
    def _file(self) -> "tempfile._TemporaryFileWrapper[bytes]":
        return tempfile.NamedTemporaryFile(dir=self._folder, prefix="upload-")

    @property
    def name(self) -> str:
        return self._file.name

    def write(self, data: bytes) -> int:
        return self._file.write(data)

    def read(self, size: int = -1) -> bytes:
        return self._file.read(size)

    def seek(self, place: int) -> int:
        return self._file.seek(place)

    def close(self) -> None:
        self._file.close()


class _IntoScratch(MultiPartParser):
    """Reads a form whose files go into a folder at once; by default they go into the system's, which may be
    small."""

    def __init__(self, headers: Headers, stream: AsyncGenerator[bytes, None], folder: Path) -> None:
        super().__init__(headers, stream)
        self._folder = folder

    def on_headers_finished(self) -> None:
        super().on_headers_finished()
        part = self._current_part
        if part.file is not None:
            made = _Arriving(self._folder)
            part.file.file.close()
            self._files_to_close_on_error.append(made)  # type: ignore[arg-type]
            part.file.file = made  # type: ignore[assignment]


class _UploadRequest(Request):
    async def form(self, **_: Any) -> FormData:  # type: ignore[override] # it is awaited only
        folder: Path = self.app.state.workspace.scratch
        try:
            return await _IntoScratch(self.headers, self.stream(), folder).parse()
        except MultiPartException as error:
            raise HTTPException(400, error.message) from error


class UploadRoute(APIRoute):
    """A route whose uploads lie in the data folder's scratch until the request ends, or longer by
    `keep_upload`."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        handle = super().get_route_handler()

        async def handle_upload(request: Request) -> Response:
            if request.headers.get("content-type", "").startswith("multipart/form-data"):
                request = _UploadRequest(request.scope, request.receive)
            return await handle(request)

        return handle_upload


def name_of(upload: UploadFile, otherwise: str = "") -> str:
    """The name an upload was given under, without folders and control characters, its ending kept."""
    path = Path(tidy_name((upload.filename or otherwise).replace("\\", "/")))
    return path.stem[: LONGEST - len(path.suffix[:10])] + path.suffix[:10]


def keep_upload(upload: UploadFile, path: Path, most_bytes: int, what: str = "the file is") -> int:
    """Give an upload of an `UploadRoute` a name of its own in the same folder's reach, without a copy; its
    size.

    Raises:
        InputError: it is larger than `most_bytes`; names the upload.
    """
    size = upload.size or 0
    if size > most_bytes:
        most = f"{most_bytes >> 30} GiB" if most_bytes >> 30 else f"{most_bytes >> 20} MiB"
        raise InputError(f"{what} larger than {most}", name_of(upload))
    os.link(str(upload.file.name), path)
    return size


@contextmanager
def arriving(scratch: Path) -> Iterator[Path]:
    """A folder for uploads, which goes again when taking them in fails. The job that works on them removes
    it."""
    folder = Path(tempfile.mkdtemp(dir=scratch))
    try:
        yield folder
    except BaseException:
        shutil.rmtree(folder, ignore_errors=True)
        raise
