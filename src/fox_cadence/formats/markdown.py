"""Markdown (CommonMark 0.31): headings are headings, paragraphs and items of lists are words; the rest is
named.

What a page can do and a voice can't (code, pictures, HTML, tables) is left out and said so.
"""

from collections.abc import Sequence
from typing import TYPE_CHECKING

from fox_cadence.formats.cues import ReadResult
from fox_cadence.formats.script import ScriptCues

if TYPE_CHECKING:
    from markdown_it.token import Token

_LEFT_OUT = {"fence": "a block of code", "code_block": "a block of code", "html_block": "a block of HTML"}


def read(text: str) -> ReadResult:
    from markdown_it import MarkdownIt

    found = ScriptCues()
    matter = _front_matter_lines(text)
    if matter:
        found.leave_out("line 1", "what stands between --- and --- about the document")
        text = "\n" * matter + text.split("\n", matter)[matter]
    inside: list[str] = []
    for token in MarkdownIt("commonmark").enable("table").parse(text):
        line = token.map[0] + 1 if token.map else 0
        if "table_open" in inside and token.type != "table_close":
            continue
        if token.nesting == 1:
            if token.type == "table_open":
                found.leave_out(f"line {line}", "a table (bring it in as CSV to have its rows said)")
            inside.append(token.type)
        elif token.nesting == -1:
            inside.pop()
        elif token.type in _LEFT_OUT:
            found.leave_out(f"line {line}", _LEFT_OUT[token.type])
        elif token.type == "inline":
            words = _words(token.children or [], found, line)
            if inside and inside[-1] == "heading_open":
                found.heading(words, line)
            else:
                found.paragraph(words, line)
    return found.result()


def _front_matter_lines(text: str) -> int:
    """How many lines at the top are settings between two rules, as many editors write them."""
    lines = text.split("\n")
    if lines[0].rstrip() != "---":
        return 0
    for number, line in enumerate(lines[1:], 2):
        if line.rstrip() in {"---", "..."}:
            return number
        if line and not line[0].isspace() and ":" not in line and not line.startswith(("-", "#")):
            return 0
    return 0


def _words(tokens: "Sequence[Token]", found: ScriptCues, line: int) -> str:
    """The words of a paragraph without its marks; a picture is named as left out."""
    parts: list[str] = []
    for token in tokens:
        if token.type in {"text", "code_inline"}:
            parts.append(token.content)
        elif token.type in {"softbreak", "hardbreak"}:
            parts.append(" ")
        elif token.type == "image":
            found.leave_out(f"line {line}", f"the picture “{token.content}”")
    return "".join(parts)
