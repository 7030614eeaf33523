"""Exports, proofs and what else is made as files, as jobs carry it out (actions/jobs.py)."""

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from fox_cadence.actions.bundling import write_bundle
from fox_cadence.actions.exporting import Exported, export
from fox_cadence.actions.interchange import write_interchange
from fox_cadence.actions.line_sounds import export_lines
from fox_cadence.actions.making import MadeFile
from fox_cadence.actions.proof_report import write_reports
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import Docket, Stretch, VideoRow
from fox_cadence.core.project import Project
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Watcher

Request = Mapping[str, Any]
Result = dict[str, Any]


def export_folder(workspace: Workspace, project_id: str) -> Path:
    """Where the files made of a project are written."""
    return workspace.folder / "exports" / project_id


def export_rows(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """The `docket` whose wanted rows are made; and whether the videos are to be proven then (`prove`)."""
    head = workspace.head(project_id)
    timeline = workspace.timeline(head.project)
    folder = export_folder(workspace, project_id)
    docket = Docket.model_validate(request["docket"])
    before = workspace.results.docket(project_id, "export")

    def kept(made: Exported) -> Result:
        told = made_of(docket, timeline, head.revision, folder, made, before)
        return _keep(workspace, project_id, "export", told)

    if before:
        kept(Exported(()))  # nothing of it is made yet

    def after_a_row(made: Exported) -> None:
        kept(made)

    made = kept(export(workspace, project_id, folder, docket, watcher, after_a_row))
    if request.get("prove"):
        videos = [row.name for row in docket.chosen if isinstance(row, VideoRow) and not row.loop]
        there = {file["product"] for file in made["files"]}
        _prove(workspace, project_id, [name for name in videos if name in there], watcher)
    return made


def made_of(
    docket: Docket,
    timeline: Timeline,
    revision: int,
    folder: Path,
    made: Exported,
    before: Mapping[str, Any],
) -> Result:
    """What an export made, what it could not make, and what is not in the files, as the browser shows it;
    with what earlier exports made of other rows."""
    files = [file_json(file) | {"revision": revision} for file in made.files]
    new = {*made.rows, ""}
    names = {file["name"] for file in files}
    rows = [row for row in docket.chosen if row.name in new]
    old = [
        file
        for file in before.get("files", [])
        if file.get("product", "") not in new
        and file["name"] not in names
        and (folder / file["name"]).is_file()
    ]
    return {
        "revision": revision,
        "folder": str(folder),
        "files": files + old,
        "failed": [{"product": each.product, "reason": each.reason} for each in made.failed],
        "notes": list(made.notes),
        "done": list(made.rows),
        "rows": dict(before.get("rows", {})) | {row.name: row.model_dump() for row in rows},
        "seconds": _lengths(before) | {row.name: _seconds(row, timeline) for row in rows},
    }


def _lengths(before: Mapping[str, Any]) -> dict[str, float]:
    """How long what was made of each row was; dockets of earlier versions had one length for all."""
    lengths = before.get("seconds", {})
    return dict(lengths) if isinstance(lengths, dict) else {}


def _seconds(row: Any, timeline: Timeline) -> float:
    first, last = getattr(row, "part", Stretch()).within(timeline.total_frames)
    return float((last - first) / timeline.project.rate.fraction)


def file_json(file: MadeFile) -> Result:
    """A finished file: its name, size, and its loudness where it has sound (LUFS, dBTP)."""
    heard = file.loudness
    return {
        "name": file.path.name,
        "product": file.product,
        "kind": file.path.suffix.lstrip("."),
        "bytes": file.path.stat().st_size,
        "duration_s": None if file.seconds is None else round(file.seconds, 3),
        "lufs": round(heard.integrated_lufs, 1) if heard else None,
        "peak_db": round(heard.true_peak_db, 1) if heard else None,
    }


# proofs


def proof(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """The videos of some `rows`, or of all that were made, measured against the revision they were made
    of."""
    rows: Sequence[str] | None = request.get("rows")
    return _prove(workspace, project_id, rows, watcher)


def _prove(workspace: Workspace, project_id: str, names: Sequence[str] | None, watcher: Watcher) -> Result:
    """Each report is kept, and written beside its file."""
    made = workspace.results.docket(project_id, "export")
    videos = [file for file in made.get("files", []) if is_whole_video(file)]
    chosen = [file for file in videos if names is None or file.get("product") in names]
    if not chosen:
        raise InputError("No video has been made yet. Make one, then it can be proven.")
    # with all that looks at pictures, which every start would wait for
    from fox_cadence.actions.measuring import measure_video

    proofs = dict(workspace.results.docket(project_id, "proofs"))
    for file in chosen:
        name = str(file.get("product", "video"))
        described = made.get("rows", {}).get(name)
        row = VideoRow.model_validate(described) if described else None
        path = export_folder(workspace, project_id) / file["name"]
        revision = file.get("revision", made["revision"])
        report = measure_video(workspace, path, project_id, watcher, revision, row)
        heard = {"name": file["name"], "lufs": file["lufs"], "peak_db": file["peak_db"]}
        found = report.as_json() | heard | {"revision": revision}
        found["reports"] = write_reports(path, _piece(workspace, project_id, revision), report, found)
        proofs[name] = found
        _keep(workspace, project_id, "proofs", proofs)
    names = [str(file.get("product", "video")) for file in chosen]
    return {"proofs": {name: proofs[name] for name in names}}


def _piece(workspace: Workspace, project_id: str, revision: int) -> Project:
    return workspace.projects.at(project_id, revision)


def is_whole_video(file: Mapping[str, Any]) -> bool:
    """Whether a file of a docket is a video that can be proven: no quick look, no loop."""
    name = str(file["name"])
    looks = file.get("product") in ("look", "quick look") or name.endswith("-look.mp4")
    return name.endswith((".mp4", ".webm")) and not looks


# what is made by itself


def line_sounds(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """`line_ids` and the `format` of their files."""
    revision = workspace.head(project_id).revision
    folder = export_folder(workspace, project_id)
    files = export_lines(workspace, project_id, folder, request["line_ids"], request["format"], watcher)
    made = {
        "revision": revision,
        "folder": str(folder),
        "files": [file_json(MadeFile(file, product="lines")) for file in files],
    }
    return _keep(workspace, project_id, "line sounds", made)


def bundle(workspace: Workspace, project_id: str, _: Request, watcher: Watcher) -> Result:
    """The whole project in one file."""
    path = write_bundle(workspace, project_id, export_folder(workspace, project_id), watcher)
    return _keep(workspace, project_id, "bundle", {"file": path.name, "bytes": path.stat().st_size})


def interchange(workspace: Workspace, project_id: str, _: Request, __: Watcher) -> Result:
    """The timeline for other tools, with the media it names."""
    folder = export_folder(workspace, project_id)
    made = write_interchange(workspace, project_id, folder)
    files = [file_json(MadeFile(file, product="interchange")) for file in made.files]
    told = {"folder": str(folder), "files": files, "left_out": list(made.left_out)}
    return _keep(workspace, project_id, "timeline", told)


def _keep(workspace: Workspace, project_id: str, kind: str, made: Result) -> Result:
    workspace.results.keep_docket(project_id, kind, made)
    return made
