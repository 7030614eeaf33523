"""Word processor documents (DOCX, ECMA-376): paragraphs by their styles; the archive is checked before it is
opened.

Nothing outside the document is ever read: links and pictures are not followed, macros are not looked at.
"""

import io
import zipfile
from collections.abc import Sequence
from typing import Any

from fox_cadence.errors import InputError
from fox_cadence.formats.cues import ReadResult
from fox_cadence.formats.script import ScriptCues

MOST_UNPACKED_BYTES = 100_000_000
MOST_PARTS = 5_000
_TITLES = ("heading", "title", "subtitle")


def _damaged() -> tuple[type[Exception], ...]:
    """What the library answers when parts of a document are missing or are not what they should be."""
    from docx.opc.exceptions import PackageNotFoundError

    return (
        PackageNotFoundError, zipfile.BadZipFile, SyntaxError, OSError, LookupError, ValueError,
        AttributeError, TypeError,
    )  # fmt: skip


def read(data: bytes) -> ReadResult:
    """Headings and paragraphs in their order, those of tables row by row.

    Raises:
        InputError: it is no DOCX, or would unpack to more than a text can be.
    """
    document = opened(data)
    try:
        found = ScriptCues()
        for number, block in enumerate(document.iter_inner_content(), 1):
            _block(block, number, found)
    except _damaged() as error:
        raise InputError("it is damaged, or no document that can be read") from error
    return found.result()


def opened(data: bytes) -> Any:
    """A document, after its archive was checked. Raises InputError."""
    import docx

    _check_archive(data)
    try:
        return docx.Document(io.BytesIO(data))
    except _damaged() as error:
        raise InputError("it is damaged, or no document that can be read") from error


def _check_archive(data: bytes) -> None:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            parts = archive.infolist()
    except zipfile.BadZipFile as error:
        raise InputError("it is no DOCX document (an older .doc can be saved as .docx)") from error
    unpacked = sum(part.file_size for part in parts)
    if len(parts) > MOST_PARTS or unpacked > MOST_UNPACKED_BYTES:
        raise InputError(
            f"it would unpack to {unpacked:,} bytes in {len(parts):,} parts; a text may have "
            f"{MOST_UNPACKED_BYTES:,}"
        )


def _block(block: Any, number: int, found: ScriptCues) -> None:
    place = f"paragraph {number}"
    if hasattr(block, "rows"):
        for row in block.rows:
            # merged cells come twice
            cells = list({id(cell._tc): cell.text.strip() for cell in row.cells}.values())
            said = [text for text in cells if text]
            if len(said) == 2 and said[0] == said[0].upper():
                found.paragraph(f"{said[0].rstrip(':')}: {said[1]}", number, place)  # who, and what they say
            else:
                for text in said:
                    found.paragraph(text, number, place)
        return
    style = (block.style.name or "").lower() if block.style is not None else ""
    if style.startswith(_TITLES):
        found.heading(block.text, number)
        return
    for text in block.text.split("\n"):
        found.paragraph(text, number, place)


def write(title: str, blocks: Sequence[tuple[str, str]], with_names: bool) -> bytes:
    """A script as a document that `read` takes again.

    Args:
        blocks: who says what; a heading for a name that is empty.
        with_names: whether it is written who speaks.
    """
    import docx

    document = docx.Document()
    document.core_properties.title = title
    for name, text in blocks:
        if not name:
            document.add_heading(_on_one_line(text), level=1)
        else:
            document.add_paragraph(_on_one_line(f"{name.upper()}: {text}" if with_names else text))
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


def _on_one_line(text: str) -> str:
    """Text on one line, without signs that XML can't hold."""
    return " ".join("".join(sign if sign.isprintable() else " " for sign in text).split())
