"""Exports, proofs and what else is made as files, as jobs carry it out (actions/jobs.py)."""

from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from typing import TYPE_CHECKING, Any

from pydantic import TypeAdapter

from fox_cadence.actions.bundling import write_bundle
from fox_cadence.actions.exporting import Exported, export
from fox_cadence.actions.line_sounds import export_lines
from fox_cadence.actions.making import MadeFile
from fox_cadence.actions.proof_report import write_reports
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket import CaptionsRow, Docket, Row, SoundRow, StemsRow, Stretch, VideoRow
from fox_cadence.core.docket.shipped import usual
from fox_cadence.core.docket.work import Part
from fox_cadence.core.timeline import Timeline
from fox_cadence.errors import InputError
from fox_cadence.jobs.runner import Watcher

if TYPE_CHECKING:
    from fox_cadence.actions.measuring import Report

_ROWS: TypeAdapter[Row] = TypeAdapter(Row)
Request = Mapping[str, Any]
Result = dict[str, Any]


def export_folder(workspace: Workspace, project_id: str) -> Path:
    """Where the files made of a project are written."""
    return workspace.folder / "exports" / project_id


def export_rows(
    workspace: Workspace,
    project_id: str,
    request: Request,
    watcher: Watcher,
    told: Callable[[Result], None] | None = None,
) -> Result:
    """The `docket` whose wanted rows are made; whether they are to be proven then (`prove`), videos made in
    segments (`segmented`), and what `work` the piece is a part of.

    Args:
        told: what is made so far, after each row.
    """
    head = workspace.head(project_id)
    timeline = workspace.timeline(head.project)
    folder = export_folder(workspace, project_id)
    docket = _asked(request)
    before = workspace.results.docket(project_id, "export")
    work = Part.model_validate(request["work"]) if request.get("work") else None

    def kept(made: Exported) -> Result:
        now = made_of(docket, timeline, head.revision, folder, made, before, work)
        _drop_proofs(workspace, project_id, made.rows)
        return _keep(workspace, project_id, "export", now)

    if before:
        kept(Exported(()))  # nothing of it is made yet

    def after_a_row(made: Exported) -> None:
        now = kept(made)
        if told is not None:
            told(now)

    segmented = bool(request.get("segmented"))
    made = kept(export(workspace, project_id, folder, docket, watcher, after_a_row, segmented, work))
    if request.get("prove"):
        new = [row.name for row in docket.chosen if row.name in made["done"]]
        if any(_can_be_proven(made, file) for file in made["files"] if file["product"] in new):
            _prove(workspace, project_id, new, watcher)
    return made


def _asked(request: Request) -> Docket:
    """What is wanted; work that an earlier version left going on names the four things there were."""
    if "docket" in request:
        return Docket.model_validate(request["docket"])
    usually = {"video": True, "sound": True, "captions": True, "look": False}
    return usual(**{name: bool(request.get(name, wanted)) for name, wanted in usually.items()})


def made_of(
    docket: Docket,
    timeline: Timeline,
    revision: int,
    folder: Path,
    made: Exported,
    before: Mapping[str, Any],
    work: Part | None = None,
) -> Result:
    """What an export made, what it could not make, and what is not in the files, as the browser shows it;
    with what earlier exports made of other rows."""
    files = [file_json(file) | {"revision": revision} for file in made.files]
    new = {*made.rows, ""}
    names = {file["name"] for file in files}
    described = work.model_dump() if work else None
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
        "works": dict(before.get("works", {})) | {row.name: described for row in rows},
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


def _drop_proofs(workspace: Workspace, project_id: str, rows: Sequence[str]) -> None:
    """What was found in files that were made anew since says nothing of those that are there now."""
    proofs = workspace.results.docket(project_id, "proofs")
    left = {name: each for name, each in proofs.items() if name not in rows}
    if len(left) < len(proofs):
        for name in proofs.keys() - left.keys():
            for report in proofs[name].get("reports", []):
                (export_folder(workspace, project_id) / report).unlink(missing_ok=True)
        _keep(workspace, project_id, "proofs", left)


def proof(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """The videos, sound and captions of some `rows`, or all videos that were made, measured against the
    revision they were made of."""
    rows: Sequence[str] | None = request.get("rows")
    return _prove(workspace, project_id, rows, watcher)


def prove_if_not_yet(workspace: Workspace, project_id: str, rows: Sequence[str], watcher: Watcher) -> None:
    """Measure what of some rows can be proven and has no proof."""
    made = workspace.results.docket(project_id, "export")
    proven = workspace.results.docket(project_id, "proofs").keys()
    files = [file for file in made.get("files", []) if file.get("product") in rows]
    open_rows = {str(file["product"]) for file in files if _can_be_proven(made, file)} - proven
    if open_rows:
        _prove(workspace, project_id, sorted(open_rows), watcher)


def _prove(workspace: Workspace, project_id: str, names: Sequence[str] | None, watcher: Watcher) -> Result:
    """Each report is kept, and written beside its file."""
    made = workspace.results.docket(project_id, "export")
    chosen = [
        file
        for file in made.get("files", [])
        if (is_whole_video(file) if names is None else file.get("product") in names)
        and _can_be_proven(made, file)
    ]
    if not chosen:
        raise InputError("Nothing that can be proven has been made yet. Make a video, then it can be proven.")
    proofs = dict(workspace.results.docket(project_id, "proofs"))
    new: dict[str, Any] = {}
    for file in chosen:
        path = export_folder(workspace, project_id) / file["name"]
        revision = file.get("revision", made["revision"])
        report = _measured(workspace, project_id, made, file, path, watcher)
        heard = {"name": file["name"], "lufs": file["lufs"], "peak_db": file["peak_db"]}
        found = report.as_json() | heard | {"revision": revision}
        piece = workspace.projects.at(project_id, revision)
        reports = write_reports(path, piece, report, found)
        name = str(file.get("product", "video"))
        if name in new:  # of several files of a row the first that is not as planned stands for it
            reports = new[name]["reports"] + reports
            found = found if new[name]["in_sync"] and not found["in_sync"] else new[name]
        new[name] = proofs[name] = found | {"reports": reports}
        _keep(workspace, project_id, "proofs", proofs)
    return {"proofs": new}


def _measured(
    workspace: Workspace,
    project_id: str,
    made: Mapping[str, Any],
    file: Mapping[str, Any],
    path: Path,
    watcher: Watcher,
) -> "Report":
    # with all that looks at pictures, which every start would wait for
    from fox_cadence.actions.measuring import measure_video
    from fox_cadence.actions.measuring_rows import measure_captions, measure_sound, measure_stems

    row, revision = row_of(made, file), file.get("revision", made["revision"])
    if isinstance(row, SoundRow):
        return measure_sound(
            workspace, path, project_id, revision, row, _content_of(made, file, row), watcher
        )
    if isinstance(row, StemsRow):
        stems = [path.with_name(name) for name in _files_of(made, row)[1:]]
        return measure_stems(workspace, path, stems, project_id, revision, row, watcher)
    if isinstance(row, CaptionsRow):
        return measure_captions(workspace, path, project_id, revision)
    return measure_video(
        workspace, path, project_id, watcher, revision, row if isinstance(row, VideoRow) else None
    )


def row_of(made: Mapping[str, Any], file: Mapping[str, Any]) -> Row | None:
    """The row a file was made of; None for files of earlier versions."""
    described = made.get("rows", {}).get(file.get("product", "video"))
    return _ROWS.validate_python(described) if described else None


def _content_of(made: Mapping[str, Any], file: Mapping[str, Any], row: SoundRow) -> str:
    """What is in a file of a row, whose files come in its order."""
    place = _files_of(made, row).index(file["name"])
    return row.of[place] if place < len(row.of) else "mix"


def provable(workspace: Workspace, project_id: str) -> list[str]:
    """The names of the files of a project that can be proven."""
    made = workspace.results.docket(project_id, "export")
    return [file["name"] for file in made.get("files", []) if _can_be_proven(made, file)]


def _can_be_proven(made: Mapping[str, Any], file: Mapping[str, Any]) -> bool:
    """Whether there is something in a file that could be looked for: cuts, speech, captions."""
    row = row_of(made, file)
    if isinstance(row, SoundRow):
        return _content_of(made, file, row) not in ("bed", "own", "effects")
    if isinstance(row, StemsRow):
        return bool(file["name"] == _files_of(made, row)[0])  # the mix, which the others are summed against
    if isinstance(row, CaptionsRow):
        own = not row.versions or file["name"] in _first_of_each_kind(made, row)
        return own and str(file["name"]).endswith((".srt", ".vtt", ".ttml"))
    return isinstance(row, VideoRow) or is_whole_video(file)


def _first_of_each_kind(made: Mapping[str, Any], row: CaptionsRow) -> set[str]:
    """The files of the piece itself: they come before those of its versions."""
    return set(_files_of(made, row)[: len(row.files)])


def _files_of(made: Mapping[str, Any], row: Row) -> list[str]:
    """The names of what was made of a row, in the order it was made in."""
    return [str(each["name"]) for each in made["files"] if each.get("product") == row.name]


def is_whole_video(file: Mapping[str, Any]) -> bool:
    """Whether a file of a docket is a video to be handed on: no quick look, no loop."""
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
        "files": [file_json(MadeFile(each.path, product="lines", seconds=each.seconds)) for each in files],
    }
    return _keep(workspace, project_id, "line sounds", made)


def bundle(workspace: Workspace, project_id: str, _: Request, watcher: Watcher) -> Result:
    """The whole project in one file."""
    path = write_bundle(workspace, project_id, export_folder(workspace, project_id), watcher)
    return _keep(workspace, project_id, "bundle", {"file": path.name, "bytes": path.stat().st_size})


def _keep(workspace: Workspace, project_id: str, kind: str, made: Result) -> Result:
    workspace.results.keep_docket(project_id, kind, made)
    return made
