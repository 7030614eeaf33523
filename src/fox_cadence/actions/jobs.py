"""Long work by kind: each is known by its name and a request of plain values, so that it can be kept, sent to
where it is carried out, and taken up again after a restart."""

import shutil
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from pydantic import TypeAdapter

from fox_cadence.actions import batch, export_jobs, sound_jobs
from fox_cadence.actions.adding import add_media
from fox_cadence.actions.bring_in import MadeProject, MediaFile, NewProject, new_project
from fox_cadence.actions.bundling import bring_in_bundle
from fox_cadence.actions.cutting import cuts_of_clip
from fox_cadence.actions.filling import StretchPlan, accept_fill, finish_from_words
from fox_cadence.actions.fitting import accept, preview
from fox_cadence.actions.interchange import project_from_timeline
from fox_cadence.actions.projects import point_to
from fox_cadence.actions.recording import bring_recording, draft_of
from fox_cadence.actions.script_import import Choices, Source
from fox_cadence.actions.shelf import lay
from fox_cadence.actions.takes import Variant, compare
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Edit
from fox_cadence.core.fill import FillWish
from fox_cadence.core.script_layout import Remark
from fox_cadence.core.ticks import FrameRate, ticks_to_seconds
from fox_cadence.errors import FoxError
from fox_cadence.jobs.runner import Watcher, Work
from fox_cadence.media.cut_finding import as_json
from fox_cadence.store.jobs import JobRow

Request = Mapping[str, Any]
Result = dict[str, Any]

_EDITS: TypeAdapter[list[Edit]] = TypeAdapter(list[Edit])
_PLANS: TypeAdapter[list[StretchPlan]] = TypeAdapter(list[StretchPlan])
_VARIANTS: TypeAdapter[list[Variant]] = TypeAdapter(list[Variant])


def _voice(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """`line_ids` (None for all open lines) and `edits` made in the same step."""
    edits = _EDITS.validate_python(request.get("edits", []))
    result = voice_lines(workspace, project_id, request.get("line_ids"), watcher, edits)
    failed = [{"line": f.line_id, "text": f.text, "reason": f.reason} for f in result.failed]
    return {"made": result.made, "kept": result.kept, "failed": failed}


def _accept(workspace: Workspace, _: str, request: Request, watcher: Watcher) -> Result:
    """`proposal`: the key of the one to be accepted."""
    accepted = accept(workspace, workspace.proposals.get(request["proposal"]), watcher)
    off = [abs(line.off_ticks) for line in accepted.lines]
    return {
        "paced": len(accepted.lines),
        "rounds": accepted.rounds,
        "worst_miss_ms": round(ticks_to_seconds(max(off, default=0)) * 1000, 3),
        "worst_stretch": round(max((abs(line.stretch) for line in accepted.lines), default=0.0), 4),
        "failed": [{"line": line, "reason": reason} for line, reason in accepted.failed],
    }


def _preview(workspace: Workspace, _: str, request: Request, watcher: Watcher) -> Result:
    """`proposal`: the key of the one to be heard. The result has the key of the preview."""
    realised = preview(workspace, workspace.proposals.get(request["proposal"]), watcher)
    return {"preview": workspace.previews.keep(realised.project)}


def _compare(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """`line_id` and `variants`, the ways to say it. The result has the ids of their takes."""
    variants = _VARIANTS.validate_python(request["variants"])
    found = compare(workspace, project_id, request["line_id"], variants, watcher)
    return {
        "ways": [
            {
                "place": place,
                "variant": each.variant.model_dump(),
                "take_id": each.take.id if each.take else None,
                "reason": each.reason,
            }
            for place, each in enumerate(found)
        ]
    }


def _record(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """`files`: one recording, `line_ids` those that were spoken; without any its words are drafted."""
    (file,) = _files(request)
    line_ids = request["line_ids"]
    if not line_ids:
        text, words = draft_of(file.path, file.name, watcher)
        return {"draft": text, "words": len(words)}
    made = bring_recording(workspace, project_id, line_ids, file.path, file.name, watcher)
    return {
        "checked": made.checked,
        "lines": [
            {"line": each.line_id, "seconds": round(each.seconds, 2), "doubtful": list(each.doubtful)}
            for each in made.lines
        ],
    }


def _add_media(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """`files`, what they are for (`use`), and for shots the one they come `after` or `before`; None for
    both is the end."""
    return add_media(
        workspace, project_id, _files(request), request["after"], request["use"], watcher, request["before"]
    ).as_json()


def _cuts(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """Those of the `clip`."""
    return {"cuts": as_json(cuts_of_clip(workspace, project_id, request["clip"], watcher))}


def _lay(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """The `item` of the shelf, where (`after`, `before`), and for a background its `colours`."""
    where = {"after_shot_id": request["after"], "before_shot_id": request["before"]}
    colours = tuple(request["colours"]) if request["colours"] else None
    return {"shot": lay(workspace, project_id, request["item"], where, colours, watcher)}


def _fill(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """The `plans` as they were proposed and changed."""
    plans = _PLANS.validate_python(request["plans"])
    return {"shots": accept_fill(workspace, project_id, plans, watcher)}


def _point_to(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """`files`: the one that stands in for the vanished clip `clip`."""
    (file,) = _files(request)
    point_to(workspace, project_id, request["clip"], file, watcher)
    return {}


def _new_project(workspace: Workspace, _: str, request: Request, watcher: Watcher) -> Result:
    """`project` as the editor chose it, `files` of pictures and music, `words` (a file and how to read it, or
    None), and whether it is to be `finished`: pictures from the shelf, fitted and voiced."""
    chosen = dict(request["project"])
    wanted = NewProject(**chosen | {"rate": FrameRate.model_validate(chosen["rate"])})
    words = request["words"]
    source = None
    if words is not None:
        data = Path(words["path"]).read_bytes()
        source = Source(
            words["name"], data, None, words["encoding"], Choices(words["names"], words["descriptions"])
        )
    made = new_project(workspace, wanted, _files(request), source, watcher)
    remarks = made.remarks
    shown = any(shot.clip_hash for shot in workspace.head(made.project_id).project.shots)
    if request.get("finished") and source is not None and shown:
        remarks = (
            *remarks,
            Remark("finish", "it has pictures of its own, so none were laid; voice and fit it there"),
        )
    elif request.get("finished") and source is not None:
        try:
            finish_from_words(workspace, made.project_id, FillWish(), watcher)
        except FoxError as error:  # the project is there, as far as it came
            remarks = (*remarks, Remark("finish", str(error)))
    return MadeProject(made.project_id, remarks).as_json()


def _timeline_in(workspace: Workspace, _: str, request: Request, watcher: Watcher) -> Result:
    """`project` as the editor chose it, the `timeline` (path and name), and `files` its media is among."""
    chosen = dict(request["project"])
    wanted = NewProject(**chosen | {"rate": FrameRate.model_validate(chosen["rate"])})
    timeline = request["timeline"]
    data = Path(timeline["path"]).read_bytes()
    return project_from_timeline(
        workspace, wanted, data, timeline["name"], _files(request), watcher
    ).as_json()


def _bring_in_bundle(workspace: Workspace, _: str, request: Request, watcher: Watcher) -> Result:
    """`files`: the one bundle."""
    (file,) = _files(request)
    return bring_in_bundle(workspace, file.path, file.name, watcher).as_json()


@dataclass(frozen=True, slots=True)
class Kind:
    """A kind of job. One that is `taken_up` goes on after a restart; the others need what is gone by then."""

    work: Callable[[Workspace, str, Request, Watcher], Result]
    taken_up: bool = False


KINDS: dict[str, Kind] = {
    "voice": Kind(_voice, taken_up=True),
    "export": Kind(export_jobs.export_rows, taken_up=True),
    "proof": Kind(export_jobs.proof, taken_up=True),
    "batch": Kind(batch.carry_on, taken_up=True),
    "line sounds": Kind(export_jobs.line_sounds, taken_up=True),
    "bundle": Kind(export_jobs.bundle, taken_up=True),
    "accept": Kind(_accept),
    "preview": Kind(_preview),
    "compare": Kind(_compare),
    "record": Kind(_record),
    "media": Kind(_add_media),
    "cuts": Kind(_cuts),
    "clean": Kind(sound_jobs.clean),
    "bed": Kind(sound_jobs.bed),
    "sing": Kind(sound_jobs.sing),
    "say": Kind(sound_jobs.say),
    "tempo": Kind(sound_jobs.tempo),
    "lay": Kind(_lay),
    "fill": Kind(_fill),
    "vanished media": Kind(_point_to),
    "new project": Kind(_new_project),
    "timeline in": Kind(_timeline_in),
    "bundle in": Kind(_bring_in_bundle),
}


def start(
    workspace: Workspace, project_id: str, kind: str, request: Request, folder: Path | None = None
) -> JobRow:
    """Queue work of one of the `KINDS`.

    Args:
        request: plain values, as its kind describes them.
        folder: uploads the work is done on; it is removed when the work ends, however it ends.
    """
    whole = dict(request) if folder is None else {**request, "folder": str(folder)}
    kept = whole if KINDS[kind].taken_up else None
    return workspace.jobs.submit(project_id, kind, _work(workspace, project_id, kind, whole), kept)


def resume(workspace: Workspace) -> list[JobRow]:
    """Go on with what an end of the application broke off; what can't be gone on with ends with a clear
    word."""

    def work_of(job: JobRow) -> Work | None:
        kind = KINDS.get(job.kind)
        gone = job.project_id and not workspace.projects.exists(job.project_id)
        if kind is None or job.request is None or gone:
            return None
        return _work(workspace, job.project_id, job.kind, job.request)

    return workspace.jobs.take_up(work_of)


def _work(workspace: Workspace, project_id: str, kind: str, request: Request) -> Work:
    def work(watcher: Watcher) -> Result:
        try:
            return KINDS[kind].work(workspace, project_id, request, watcher)
        finally:
            if "folder" in request:
                shutil.rmtree(request["folder"], ignore_errors=True)

    return work


def files_request(files: list[MediaFile]) -> list[dict[str, str]]:
    """Files as a request has them."""
    return [{"path": str(file.path), "name": file.name} for file in files]


def _files(request: Request) -> list[MediaFile]:
    ours = "folder" in request
    return [MediaFile(Path(file["path"]), file["name"], ours) for file in request["files"]]
