"""The proof of a finished video as files beside it: one to read (HTML), one for programs (JSON)."""

import json
from collections.abc import Mapping
from html import escape
from pathlib import Path
from typing import TYPE_CHECKING, Any

from fox_cadence.core.project import Project
from fox_cadence.store.library import write_safely

if TYPE_CHECKING:
    from fox_cadence.actions.measuring import Difference, Report

_STYLE = """body{font:16px/1.5 sans-serif;max-width:60rem;margin:2rem auto;padding:0 1rem;color:#17211f}
table{border-collapse:collapse;width:100%}
td,th{text-align:left;padding:.2rem .6rem;border-bottom:1px solid #ccd}
td.n{text-align:right;font-family:monospace}.bad{color:#a31}.good{color:#165}svg{width:100%;height:auto}"""
_KINDS = (("cuts", "Cuts"), ("captions", "Captions"), ("speech", "Speech"), ("sums", "Stems"))
_WIDE = 900


def write_reports(video: Path, project: Project, report: "Report", found: Mapping[str, Any]) -> list[str]:
    """Write both beside a file; their names, which say its kind: files of several rows have the same stem."""
    stem = f"{video.stem}-{video.suffix.lstrip('.')}-proof"
    data, page = video.with_name(f"{stem}.json"), video.with_name(f"{stem}.html")
    write_safely(data, (json.dumps(found, indent=1, ensure_ascii=False) + "\n").encode())
    write_safely(page, _page(video.name, project, report, found).encode())
    return [page.name, data.name]


def _page(name: str, project: Project, report: "Report", found: Mapping[str, Any]) -> str:
    verdict = "in sync" if report.in_sync else "not in sync"
    rate = float(project.rate.fraction)
    parts = [
        f"<h1>{escape(name)}</h1>",
        f"<p>{escape(project.name)}, revision {found['revision']}. What is below was found by decoding the "
        "file, and only then laid beside the plan.</p>",
        f'<p class="{"good" if report.in_sync else "bad"}"><strong>{verdict}</strong></p>',
        _picture(report, rate),
        "<table>",
        f'<tr><td>frames</td><td class="n">{report.frames} of {report.planned_frames}</td></tr>',
    ]
    if found.get("lufs") is not None:
        parts.append(f'<tr><td>loudness</td><td class="n">{found["lufs"]} LUFS</td></tr>')
        parts.append(f'<tr><td>true peak</td><td class="n">{found["peak_db"]} dBTP</td></tr>')
    parts.append("</table>")
    for field, title in _KINDS:
        parts += _table(title, getattr(report, field))
    notes = [f"not looked for: {text}" for text in report.outside]
    if report.unplanned_cuts:
        notes.append(f"cuts that nobody planned, at frames {', '.join(map(str, report.unplanned_cuts))}")
    if report.cuts_inside:
        notes.append(f"cuts of the footage itself, at frames {', '.join(map(str, report.cuts_inside))}")
    if report.transitions:
        notes.append(f"transitions, which have no frame of their own: {report.transitions}")
    if report.hidden_edges:
        notes.append(f"edges of captions within a transition, not looked for: {report.hidden_edges}")
    if notes:
        parts.append("<ul>" + "".join(f"<li>{escape(note)}</li>" for note in notes) + "</ul>")
    body = "\n".join(parts)
    return (
        f'<!doctype html>\n<html lang="en"><meta charset="utf-8"><title>Proof of {escape(name)}</title>'
        f"<style>{_STYLE}</style>\n{body}\n</html>\n"
    )


def _table(title: str, items: "tuple[Difference, ...]") -> list[str]:
    if not items:
        return []
    rows = [f"<h2>{title}</h2>", "<table><tr><th>what<th>planned<th>found<th>off</tr>"]
    for item in items:
        off = item.off
        wrong = off is None or bool(off)
        seen = "not found" if item.found is None else f"{item.found:.1f}"
        by = "" if off is None else f"{off:+.1f} {item.unit}"
        rows.append(
            f'<tr><td>{escape(item.what)}</td><td class="n">{item.planned:.1f}</td><td class="n">{seen}</td>'
            f'<td class="n{" bad" if wrong and item.unit != "ms" else ""}">{by}</td></tr>'
        )
    return [*rows, "</table>"]


def _picture(report: "Report", rate: float) -> str:
    """Cuts, captions and speech along the piece."""
    whole = max(1, report.planned_frames)
    first = min((item.planned for item in report.cuts), default=0) if report.cuts else 0
    shift = 0 if first < whole else first - 1

    def x(frame: float) -> float:
        return max(0.0, min(float(_WIDE), (frame - shift) / whole * _WIDE))

    marks = [
        f'<line x1="{x(item.found):.1f}" x2="{x(item.found):.1f}" y1="4" y2="36" stroke="#17211f"/>'
        for item in report.cuts
        if item.found is not None
    ]
    for items, y, colour, to_frames in (
        (report.captions, 44, "#8aa79c", 1.0),
        (report.speech, 64, "#2f7566", rate / 1000),
    ):
        for start, end in zip(items[::2], items[1::2], strict=False):
            if start.found is None or end.found is None:
                continue
            low, high = x(start.found * to_frames), x(end.found * to_frames)
            marks.append(
                f'<rect x="{low:.1f}" y="{y}" width="{max(1.0, high - low):.1f}" height="12" '
                f'fill="{colour}"/>'
            )
    return (
        f'<svg viewBox="0 0 {_WIDE} 80" role="img" aria-label="Found along the piece">{"".join(marks)}</svg>'
    )
