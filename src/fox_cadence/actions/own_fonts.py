"""Typefaces of the user's own."""

from pathlib import Path

from fox_cadence.actions.workspace import Workspace
from fox_cadence.errors import InputError
from fox_cadence.media.font_files import LARGEST_BYTES, FontFile, look_into
from fox_cadence.media.isolated import run_isolated


def bring_font(workspace: Workspace, path: Path, name: str) -> FontFile:
    """Keep a font file for all projects.

    Raises:
        InputError: words can't be set in it, or it is too large; names the file.
    """
    if path.stat().st_size > LARGEST_BYTES:
        raise InputError(f"the font is larger than {LARGEST_BYTES >> 20} MiB", name)
    try:
        found: FontFile = run_isolated(look_into, path)
    except InputError as error:
        raise InputError(str(error), name) from error
    workspace.own_fonts.keep(path.read_bytes(), found)
    return found
