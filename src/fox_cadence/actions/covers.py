"""Covers of works: a picture beside a docket or from the page, kept by its hash for a month, and for as long
as something was made with it (store/cleaning.py)."""

import hashlib
from pathlib import Path

from fox_cadence.actions.workspace import Workspace
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.media.covers import cover_picture
from fox_cadence.media.isolated import run_isolated
from fox_cadence.store.library import write_safely


def keep_cover(workspace: Workspace, file: Path) -> str:
    """Keep a picture as a cover; its hash.

    Raises:
        InputError: it is not there, or no picture.
    """
    if not file.is_file():
        raise InputError("there is no such file", str(file))
    picture: bytes = run_isolated(cover_picture, file.resolve())
    cover_hash = hashlib.sha256(picture).hexdigest()
    path = _path(workspace, cover_hash)
    path.parent.mkdir(parents=True, exist_ok=True)
    write_safely(path, picture)
    return cover_hash


def cover_file(workspace: Workspace, cover_hash: str) -> Path:
    """The JPEG of a cover.

    Raises:
        NotFoundError: it is not there any more.
    """
    path = _path(workspace, cover_hash)
    if not path.is_file():
        raise NotFoundError("The cover of the work is not there any more. Choose it again.")
    return path


def _path(workspace: Workspace, cover_hash: str) -> Path:
    return workspace.folder / "covers" / f"{cover_hash}.jpg"
