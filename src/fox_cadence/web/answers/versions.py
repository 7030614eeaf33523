"""A piece and its versions side by side: words, lengths, states, and what gave way in each."""

from typing import Literal, TypedDict

from fox_cadence.actions.versions import first_of, versions_of
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.languages import language_name
from fox_cadence.core.pass_status import pass_statuses
from fox_cadence.core.project import Index, Project, voice_of
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.core.timeline import LineSpan, Timeline
from fox_cadence.core.versions import UnitState, compare, picture_differs, units
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.web.answers.units import seconds


class VersionJson(TypedDict):
    """A version, or the first, as a row of the table of all."""

    id: str
    name: str
    language: str
    tag: str
    voices: list[str]
    seconds: float
    open: str
    fits: str
    done: int
    total: int
    out_of_date: int
    cuts: str
    cuts_moved_s: float
    behind: bool
    foreseeing: int


class CellJson(TypedDict):
    """A unit in one version. `how` says how its line stands: its length and what gave way."""

    text: str
    unit: str
    before: str
    seconds: float | None
    state: str
    how: str
    known: bool


class UnitJson(TypedDict):
    """A unit of the piece with its cells, the first's before the versions'."""

    id: str
    kind: Literal["line", "heading", "title"]
    role: str
    cells: list[CellJson]


class VersionsJson(TypedDict):
    """All versions of a piece."""

    versions: list[VersionJson]
    units: list[UnitJson]


def versions_json(workspace: Workspace, project_id: str) -> VersionsJson:
    """The piece a project belongs to with all its versions. Raises NotFoundError."""
    first_id = first_of(workspace, project_id)
    first = workspace.head(first_id).project
    timeline = workspace.timeline(first)
    spans = {span.line.id: span for span in timeline.lines}
    rows: dict[str, UnitJson] = {}
    for unit in units(first):
        cell = _cell(unit.text, "", "", spans.get(unit.id))
        rows[unit.id] = {"id": unit.id, "kind": unit.kind, "role": unit.role, "cells": [cell]}
    found = [_version(workspace, first_id, first, timeline, first)]
    for number, version_id in enumerate(versions_of(workspace, first_id), 1):
        version = workspace.head(version_id).project
        own = workspace.timeline(version)
        own_spans = {span.line.id: span for span in own.lines}
        compared = compare(first, version)
        for each in compared:
            row = rows.setdefault(
                each.unit_id, {"id": each.unit_id, "kind": each.kind, "role": "", "cells": []}
            )
            _fill(row, number)
            row["cells"].append(_cell(each.words, each.state, each.before, own_spans.get(each.unit_id)))
        made = _version(workspace, version_id, version, own, first)
        states = [each.state for each in compared if each.state is not UnitState.OWN]
        made["total"], made["done"] = len(states), states.count(UnitState.DONE)
        made["out_of_date"] = states.count(UnitState.OUT_OF_DATE)
        found.append(made)
    for row in rows.values():
        _fill(row, len(found))
    return {"versions": found, "units": list(rows.values())}


def _fill(row: UnitJson, count: int) -> None:
    while len(row["cells"]) < count:
        row["cells"].append(_cell("", UnitState.MISSING, "", None))


def _cell(text: str, state: str, before: str, span: LineSpan | None) -> CellJson:
    return {
        "text": text,
        "unit": state,
        "before": before,
        "seconds": seconds(span.end_ticks - span.start_ticks) if span else None,
        "state": span.state.value if span else "",
        "how": _how(span) if span else "",
        "known": span is not None and (span.foreseen or (span.take is not None and not span.stale)),
    }


def _how(span: LineSpan) -> str:
    """What gave way in a line, in a few words."""
    parts: list[str] = []
    if abs(span.pace - 1) >= 0.005:
        parts.append(f"pace ×{span.pace:.2f}")
    moved = span.pause_ticks - span.natural_pause_ticks
    if abs(ticks_to_seconds(moved)) >= 0.02:
        parts.append(f"pauses {ticks_to_seconds(moved):+.2f} s")
    if span.spill_ticks > 0:
        parts.append(f"{ticks_to_seconds(span.spill_ticks):.2f} s over")
    return ", ".join(parts)


def _version(
    workspace: Workspace, project_id: str, project: Project, timeline: Timeline, first: Project
) -> VersionJson:
    index = Index(project)
    voices = dict.fromkeys(voice_of(line, index) for line in project.lines)
    names = [voice.name if (voice := voice_by_id(each)) else each for each in voices]
    fits = sum(span.spill_ticks == 0 for span in timeline.lines)
    lengths = {shot.id: shot.length_frames for shot in first.shots}
    moved = [abs(shot.length_frames - lengths.get(shot.id, shot.length_frames)) for shot in project.shots]
    of = project.version_of
    return {
        "id": project_id,
        "name": project.name,
        "language": language_name(project.language),
        "tag": project.language,
        "voices": names,
        "seconds": seconds(timeline.total_ticks),
        "open": pass_statuses(timeline, 0, workspace.faces_of(project))[-1].open_text,
        "fits": f"{fits} of {len(timeline.lines)} fit",
        "done": 0,
        "total": 0,
        "out_of_date": 0,
        "cuts": "" if of is None else of.cuts,
        "cuts_moved_s": seconds(project.rate.ticks(max(moved, default=0))),
        "behind": of is not None and picture_differs(first, project),
        "foreseeing": workspace.foreseeing(timeline),
    }
