"""Words to be translated, out and back: a table of CSV, a table in a document, and XLIFF 2.1.

XLIFF: https://docs.oasis-open.org/xliff/xliff-core/v2.1/. Of a file that comes back only ids, sources and
targets are looked at.
"""

import csv
import io
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import PurePath
from typing import Any

from fox_cadence.errors import InputError
from fox_cadence.formats.csv_rows import rows_of
from fox_cadence.formats.decoding import decode
from fox_cadence.formats.docx import opened
from fox_cadence.formats.xml_tree import name_of, parse

_SPACE = "urn:oasis:names:tc:xliff:document:2.0"
_IDS = ("id", "unit")
_SOURCES = ("first", "source", "original", "from")
_NOTES = ("role", "who", "kind", "speaker", "what")


@dataclass(frozen=True, slots=True)
class Pair:
    """Words and their translation, with the id of their unit where a file names it."""

    source: str
    target: str
    unit_id: str = ""


@dataclass(frozen=True, slots=True)
class Row:
    """A row for a translator: `note` says who speaks, or that it is a heading."""

    unit_id: str
    note: str
    source: str
    target: str


def write_csv(rows: Sequence[Row], languages: tuple[str, str]) -> bytes:
    """A table with a row a unit; a mark at its begin tells programs that it is UTF-8."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["id", "role", languages[0], languages[1]])
    writer.writerows([row.unit_id, row.note, row.source, row.target] for row in rows)
    return out.getvalue().encode("utf-8-sig")


def write_docx(rows: Sequence[Row], languages: tuple[str, str]) -> bytes:
    """A document with a table of two columns: the words there are, and room for those to come."""
    import docx

    document = docx.Document()
    table = document.add_table(rows=1, cols=2)
    table.style = "Table Grid"
    for cell, name in zip(table.rows[0].cells, languages, strict=True):
        cell.text = name
    for row in rows:
        cells = table.add_row().cells
        cells[0].text, cells[1].text = row.source, row.target
    out = io.BytesIO()
    document.save(out)
    return out.getvalue()


def write_xliff(rows: Sequence[Row], languages: tuple[str, str]) -> bytes:
    """An XLIFF document with a unit for each row."""

    from lxml import etree

    def tag(name: str) -> str:
        return f"{{{_SPACE}}}{name}"

    root: Any = etree.Element(tag("xliff"), nsmap={None: _SPACE})
    root.set("version", "2.1")
    root.set("srcLang", languages[0])
    root.set("trgLang", languages[1])
    file = etree.SubElement(root, tag("file"), id="words")
    for row in rows:
        unit = etree.SubElement(file, tag("unit"), id=row.unit_id)
        if row.note:
            notes = etree.SubElement(unit, tag("notes"))
            etree.SubElement(notes, tag("note")).text = row.note
        segment = etree.SubElement(unit, tag("segment"))
        etree.SubElement(segment, tag("source")).text = row.source
        if row.target:
            etree.SubElement(segment, tag("target")).text = row.target
    return bytes(etree.tostring(root, encoding="utf-8", xml_declaration=True, pretty_print=True))


WRITERS = {"csv": write_csv, "docx": write_docx, "xlf": write_xliff}


def read_pairs(name: str, data: bytes) -> list[Pair] | None:
    """The pairs of a file that has words side by side; None where it has none, and is to be read as words.

    Raises:
        InputError: it can't be read.
    """
    suffix = PurePath(name).suffix.lower()
    if suffix in (".xlf", ".xliff"):
        return _of_xliff(decode(data)[0])
    if suffix in (".csv", ".tsv"):
        return _of_table(rows_of(decode(data)[0]))
    if suffix == ".docx":
        return _of_table(_docx_rows(data))
    return None


def _docx_rows(data: bytes) -> list[tuple[str, ...]]:
    document = opened(data)
    return [
        tuple(" ".join(cell.text.split()) for cell in row.cells)
        for table in document.tables
        for row in table.rows
    ]


def _of_table(rows: list[tuple[str, ...]]) -> list[Pair] | None:
    """The columns by their names; without names, the first of two is the source."""
    wide = [row for row in rows if len(row) >= 2]
    if not wide:
        return None
    names = [name.strip().lower() for name in wide[0]]
    id_column = next((n for n, name in enumerate(names) if name in _IDS), None)
    skipped = {n for n, name in enumerate(names) if name in (*_IDS, *_NOTES)}
    columns = [n for n in range(len(names)) if n not in skipped]
    if len(columns) < 2:
        return None
    source = next((n for n in columns if names[n] in _SOURCES), columns[0])
    target = next(n for n in columns if n != source)
    found: list[Pair] = []
    for row in wide:
        if len(row) > max(source, target):
            key = row[id_column].strip() if id_column is not None else ""
            found.append(Pair(" ".join(row[source].split()), " ".join(row[target].split()), key))
    return found


def _of_xliff(text: str) -> list[Pair]:
    root = parse(text, "XLIFF")
    if name_of(root) != "xliff" or not str(root.get("version", "")).startswith("2"):
        raise InputError("it is no XLIFF of version 2; let it be saved as XLIFF 2.1")
    found: list[Pair] = []
    for unit in root.iter(f"{{{_SPACE}}}unit"):
        parts = [
            " ".join("".join("".join(each.itertext()) for each in unit.iter(f"{{{_SPACE}}}{kind}")).split())
            for kind in ("source", "target")
        ]
        found.append(Pair(parts[0], parts[1], str(unit.get("id", ""))))
    return found
