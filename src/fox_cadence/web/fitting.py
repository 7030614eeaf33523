"""The JSON of fitting: proposals, what they would sound like, reasons, remedies, estimates."""

from typing import Annotated, Any

from fastapi import APIRouter, Response
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field

from fox_cadence.actions.estimating import estimate_line
from fox_cadence.actions.fitting import Keep, accept, fit, preview, remedies_of, try_edits
from fox_cadence.actions.hearing import hear_edits
from fox_cadence.core.edits import Edit
from fox_cadence.core.project import NotInProjectError
from fox_cadence.core.ticks import ticks_to_seconds
from fox_cadence.jobs.runner import JobContext
from fox_cadence.media.audio import wav_bytes
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.proposal_view import line_why, proposal_json, remedy_json, shot_why, trial_json
from fox_cadence.web.timeline_view import seconds, timeline_json
from fox_cadence.web.work import job_json

router = APIRouter(prefix="/api/projects/{project_id}")

Edits = Annotated[list[Annotated[Edit, Field(discriminator="kind")]], Field(max_length=50)]


class KeepRequest(BaseModel):
    """Lines and shots that the proposal leaves as they are."""

    line_ids: list[str] = []
    shot_ids: list[str] = []

    def keep(self) -> Keep:
        return Keep(frozenset(self.line_ids), frozenset(self.shot_ids))


class AcceptRequest(KeepRequest):
    based_on: int


class TryRequest(KeepRequest):
    """Edits that are not made, to see what a fit would make of them."""

    based_on: int
    edits: Edits
    line_id: str = ""
    """The line that is chosen."""


class HearRequest(TryRequest):
    line_id: str


class EstimateRequest(BaseModel):
    line_id: str
    text: str = Field(max_length=5000)


@router.post("/fit")
def propose_fit(project_id: str, workspace: InWorkspace, request: KeepRequest | None = None) -> JSONResponse:
    """A proposal. Nothing is changed."""
    keep = request.keep() if request else Keep()
    return JSONResponse(proposal_json(fit(workspace, project_id, keep)))


@router.post("/try")
def try_fit(project_id: str, request: TryRequest, workspace: InWorkspace) -> JSONResponse:
    """A proposal for edits that are not made: what a drag shows while it goes on."""
    fitted = try_edits(workspace, project_id, request.based_on, request.edits, request.keep())
    return JSONResponse(trial_json(fitted, request.line_id))


@router.post("/accept")
def accept_fit(project_id: str, request: AcceptRequest, workspace: InWorkspace) -> JSONResponse:
    """Make the takes of the proposal and keep it: a job."""

    def work(context: JobContext) -> dict[str, Any]:
        accepted = accept(workspace, project_id, request.based_on, request.keep(), context)
        off = [abs(line.off_ticks) for line in accepted.lines]
        return {
            "paced": len(accepted.lines),
            "rounds": accepted.rounds,
            "worst_miss_ms": round(ticks_to_seconds(max(off, default=0)) * 1000, 3),
            "worst_stretch": round(max((abs(line.stretch) for line in accepted.lines), default=0.0), 4),
            "failed": [{"line": line, "reason": reason} for line, reason in accepted.failed],
        }

    return JSONResponse(job_json(workspace.jobs.submit(project_id, "accept", work)))


@router.post("/preview")
def preview_fit(project_id: str, request: AcceptRequest, workspace: InWorkspace) -> JSONResponse:
    """Make what the proposal sounds and looks like, without keeping it: a job whose result is its timeline."""

    def work(context: JobContext) -> dict[str, Any]:
        realised = preview(workspace, project_id, request.based_on, request.keep(), context)
        key = workspace.previews.keep(realised.project)
        head = workspace.head(project_id)
        return {"preview": key, "timeline": timeline_json(head, workspace.timeline(realised.project), 0)}

    return JSONResponse(job_json(workspace.jobs.submit(project_id, "preview", work)))


@router.get("/lines/{line_id}/why")
def why_line(project_id: str, line_id: str, workspace: InWorkspace) -> JSONResponse:
    """What binds a line, largest first."""
    fitted = fit(workspace, project_id)
    ids = [line.id for line in fitted.project.lines]
    if line_id not in ids:
        raise NotInProjectError("line", line_id)
    return JSONResponse({"why": line_why(fitted, ids.index(line_id))})


@router.get("/lines/{line_id}/remedies")
def line_remedies(project_id: str, line_id: str, workspace: InWorkspace) -> JSONResponse:
    """What would cure a line, each checked by a fit, least harm first."""
    found = remedies_of(workspace, project_id, line_id)
    return JSONResponse({"remedies": [remedy_json(remedy) for remedy in found]})


@router.get("/shots/{shot_id}/why")
def why_shot(project_id: str, shot_id: str, workspace: InWorkspace) -> JSONResponse:
    """Who uses the time of a shot and what binds it."""
    fitted = fit(workspace, project_id)
    ids = [shot.id for shot in fitted.project.shots]
    if shot_id not in ids:
        raise NotInProjectError("shot", shot_id)
    return JSONResponse(shot_why(fitted, ids.index(shot_id)))


@router.post("/hear")
def hear(project_id: str, request: HearRequest, workspace: InWorkspace) -> Response:
    """A line as it would sound with edits that are not made, with a second of what is around it."""
    sound = hear_edits(workspace, project_id, request.based_on, request.edits, request.keep(), request.line_id)
    return Response(wav_bytes(sound), media_type="audio/wav", headers={"cache-control": "no-store"})


@router.post("/estimate")
def estimate(project_id: str, request: EstimateRequest, workspace: InWorkspace) -> JSONResponse:
    """How long other words of a line would last, and how the line would stand."""
    found = estimate_line(workspace, project_id, request.line_id, request.text)
    return JSONResponse(
        {
            "seconds": seconds(found.length_ticks),
            "error": round(found.error, 3),
            "room_s": seconds(found.room_ticks),
            "left_s": seconds(found.room_ticks - found.length_ticks),
            "words_left": found.words_left,
            "state": found.state.value if found.state else None,
        }
    )
