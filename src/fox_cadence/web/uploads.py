"""Uploaded files written to disk as they come, up to a size, and gone when the work on them ends."""

import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from fastapi import UploadFile

from fox_cadence.core.names import tidy_name
from fox_cadence.errors import InputError

LONGEST = 200
_BLOCK = 1 << 20


def name_of(upload: UploadFile, otherwise: str = "") -> str:
    """The name an upload was given under, without folders and control characters, its ending kept."""
    path = Path(tidy_name((upload.filename or otherwise).replace("\\", "/")))
    return path.stem[: LONGEST - len(path.suffix[:10])] + path.suffix[:10]


async def write_upload(upload: UploadFile, path: Path, most_bytes: int, what: str = "the file is") -> int:
    """Write an upload to a file; its size.

    Raises:
        InputError: it is larger than `most_bytes`; names the upload.
    """
    total = 0
    with path.open("wb") as out:
        while block := await upload.read(_BLOCK):
            total += len(block)
            if total > most_bytes:
                most = f"{most_bytes >> 30} GiB" if most_bytes >> 30 else f"{most_bytes >> 20} MiB"
                raise InputError(f"{what} larger than {most}", name_of(upload))
            out.write(block)
    return total


@contextmanager
def arriving(scratch: Path) -> Iterator[Path]:
    """A folder for uploads, which goes again when taking them in fails. The job that works on them removes it."""
    folder = Path(tempfile.mkdtemp(dir=scratch))
    try:
        yield folder
    except BaseException:
        shutil.rmtree(folder, ignore_errors=True)
        raise
