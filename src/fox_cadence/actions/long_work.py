"""Long work that is known by its name and its request alone, so that it can be taken up again after a restart."""

from collections.abc import Callable
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter

from fox_cadence.actions.bundling import write_bundle
from fox_cadence.actions.exporting import Exported, MadeFile, Wanted, export
from fox_cadence.actions.exporting_sound import export_lines
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Edit
from fox_cadence.jobs.runner import Watcher, Work
from fox_cadence.store.jobs import JobRow

Kind = Callable[[Workspace, str, dict[str, Any], Watcher], dict[str, Any]]

_EDITS: TypeAdapter[list[Edit]] = TypeAdapter(list[Edit])


def _voice(workspace: Workspace, project_id: str, request: dict[str, Any], watcher: Watcher) -> dict[str, Any]:
    """`line_ids` (None for all open lines) and `edits` made in the same step."""
    edits = _EDITS.validate_python(request.get("edits", []))
    result = voice_lines(workspace, project_id, request.get("line_ids"), watcher, edits)
    failed = [{"line": f.line_id, "text": f.text, "reason": f.reason} for f in result.failed]
    return {"made": result.made, "kept": result.kept, "failed": failed}


def _export(workspace: Workspace, project_id: str, request: dict[str, Any], watcher: Watcher) -> dict[str, Any]:
    """What is wanted: `video`, `sound`, `captions`."""
    revision = workspace.head(project_id).revision
    folder = export_folder(workspace, project_id)
    exported = export(workspace, project_id, folder, Wanted(**request), watcher)
    return docket(revision, folder, exported)


def _line_sounds(workspace: Workspace, project_id: str, request: dict[str, Any], watcher: Watcher) -> dict[str, Any]:
    """`line_ids` and the `format` of their files."""
    revision = workspace.head(project_id).revision
    folder = export_folder(workspace, project_id)
    files = export_lines(workspace, project_id, folder, request["line_ids"], request["format"], watcher)
    return docket(revision, folder, Exported(tuple(MadeFile(file) for file in files)))


def _bundle(workspace: Workspace, project_id: str, _: dict[str, Any], watcher: Watcher) -> dict[str, Any]:
    """The whole project in one file."""
    path = write_bundle(workspace, project_id, export_folder(workspace, project_id), watcher)
    return {"file": path.name, "bytes": path.stat().st_size}


KINDS: dict[str, Kind] = {"voice": _voice, "export": _export, "line sounds": _line_sounds, "bundle": _bundle}


def export_folder(workspace: Workspace, project_id: str) -> Path:
    return workspace.folder / "exports" / project_id


def docket(revision: int, folder: Path, exported: Exported) -> dict[str, Any]:
    """What an export made, what it could not make, and what is not in the files, as the browser shows it."""
    return {
        "revision": revision,
        "folder": str(folder),
        "files": [file_json(file) for file in exported.files],
        "failed": [{"product": each.product, "reason": each.reason} for each in exported.failed],
        "notes": list(exported.notes),
    }


def file_json(file: MadeFile) -> dict[str, Any]:
    """A finished file: its name, size, and its loudness where it has sound (LUFS, dBTP)."""
    heard = file.loudness
    return {
        "name": file.path.name,
        "bytes": file.path.stat().st_size,
        "lufs": round(heard.integrated_lufs, 1) if heard else None,
        "peak_db": round(heard.true_peak_db, 1) if heard else None,
    }


def start(workspace: Workspace, project_id: str, kind: str, request: dict[str, Any]) -> JobRow:
    """Queue work of one of the `KINDS`."""
    return workspace.jobs.submit(project_id, kind, _work(workspace, project_id, kind, request), request)


def take_up(workspace: Workspace) -> list[JobRow]:
    """Go on with what an end of the application broke off; what can't be gone on with ends with a clear word."""

    def work_of(job: JobRow) -> Work | None:
        if job.kind not in KINDS or job.request is None or not workspace.projects.exists(job.project_id):
            return None
        return _work(workspace, job.project_id, job.kind, job.request)

    return workspace.jobs.take_up(work_of)


def _work(workspace: Workspace, project_id: str, kind: str, request: dict[str, Any]) -> Work:
    return lambda context: KINDS[kind](workspace, project_id, request, context)
