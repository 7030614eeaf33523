"""The JSON of fitting: proposals, what they would sound like, reasons, remedies, estimates."""

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fox_cadence.actions.estimating import estimate_line, estimate_words
from fox_cadence.actions.fitting import Fitted, Keep, fit, line_place, remedies_of, try_edits
from fox_cadence.actions.hearing import hear_edits
from fox_cadence.actions.jobs import start
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.edits import Edit
from fox_cadence.core.project import NotInProjectError
from fox_cadence.errors import NotFoundError
from fox_cadence.media.audio import wav_bytes
from fox_cadence.web.answers.answer import InAnswer
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.jobs import job_json
from fox_cadence.web.answers.proposal import line_why, proposal_json, remedy_json, shot_why, trial_json
from fox_cadence.web.answers.units import seconds
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api/projects/{project_id}")

Edits = Annotated[list[Annotated[Edit, Field(discriminator="kind")]], Field(max_length=50)]


class KeepRequest(BaseModel):
    """Lines and shots that the proposal leaves as they are."""

    line_ids: list[str] = []
    shot_ids: list[str] = []

    def keep(self) -> Keep:
        return Keep(frozenset(self.line_ids), frozenset(self.shot_ids))


class ProposalRequest(BaseModel):
    """A proposal that was made, by its key."""

    proposal: str = Field(max_length=40)


class TryRequest(KeepRequest):
    """Edits that are not made, to see what a fit would make of them."""

    based_on: int
    edits: Edits
    line_id: str = ""
    """The line that is chosen."""


class HearRequest(TryRequest):
    line_id: str


class EstimateRequest(BaseModel):
    """Other words for a line; `alone`: words for a new one, that would stand after it (None: before all)."""

    line_id: str | None
    text: str = Field(max_length=5000)
    fitted: bool = True
    alone: bool = False


@router.post("/fit")
def propose_fit(project_id: str, workspace: InWorkspace, request: KeepRequest | None = None) -> Response:
    """A proposal. Nothing is changed; it is kept for a while, to be heard, explained and accepted as it
    is."""
    fitted = fit(workspace, project_id, request.keep() if request else Keep())
    return Json(proposal_json(fitted, workspace.proposals.keep(fitted)))


@router.post("/try")
def try_fit(project_id: str, request: TryRequest, workspace: InWorkspace) -> Response:
    """A proposal for edits that are not made: what a drag shows while it goes on."""
    fitted = try_edits(workspace, project_id, request.based_on, request.edits, request.keep())
    now = workspace.timeline(workspace.head(project_id).project)
    return Json(trial_json(fitted, now, request.line_id))


@router.post("/accept")
def accept_fit(project_id: str, request: ProposalRequest, workspace: InWorkspace) -> Response:
    """Make the takes of a proposal and keep it: a job."""
    _proposal(workspace, project_id, request.proposal)
    return Json(job_json(start(workspace, project_id, "accept", request.model_dump())))


@router.post("/preview")
def preview_fit(project_id: str, request: ProposalRequest, workspace: InWorkspace) -> Response:
    """Make what a proposal sounds and looks like, without keeping it: a job whose result is the key of a
    preview."""
    _proposal(workspace, project_id, request.proposal)
    return Json(job_json(start(workspace, project_id, "preview", request.model_dump())))


@router.get("/previews/{key}")
def preview_state(project_id: str, key: str, workspace: InWorkspace, answer: InAnswer) -> Response:
    """The project as a preview has it."""
    return Json(answer.state(project_id, workspace.previews.get(key)))


@router.get("/lines/{line_id}/why")
def why_line(project_id: str, line_id: str, workspace: InWorkspace, proposal: str = "") -> Response:
    """What binds a line, largest first: in a proposal, or in a fit of the project as it stands."""
    fitted = _proposal(workspace, project_id, proposal)
    return Json({"why": line_why(fitted, line_place(fitted, line_id))})


@router.get("/lines/{line_id}/remedies")
def line_remedies(project_id: str, line_id: str, workspace: InWorkspace, proposal: str = "") -> Response:
    """What would cure a line, each checked by a fit, least harm first."""
    found = remedies_of(workspace, _proposal(workspace, project_id, proposal), line_id)
    return Json({"remedies": [remedy_json(remedy) for remedy in found]})


@router.get("/shots/{shot_id}/why")
def why_shot(project_id: str, shot_id: str, workspace: InWorkspace, proposal: str = "") -> Response:
    """Who uses the time of a shot and what binds it."""
    fitted = _proposal(workspace, project_id, proposal)
    ids = [shot.id for shot in fitted.project.shots]
    if shot_id not in ids:
        raise NotInProjectError("shot", shot_id)
    return Json(shot_why(fitted, ids.index(shot_id)))


def _proposal(workspace: Workspace, project_id: str, key: str) -> Fitted:
    """A kept proposal of this project; without a key a new one of the project as it stands. Raises
    NotFoundError."""
    if not key:
        return fit(workspace, project_id)
    fitted = workspace.proposals.get(key)
    if fitted.project_id != project_id:
        raise NotFoundError("This proposal was made for another project.")
    return fitted


@router.post("/hear")
def hear(project_id: str, request: HearRequest, workspace: InWorkspace) -> Response:
    """A line as it would sound with edits that are not made, with a second of what is around it."""
    sound = hear_edits(
        workspace, project_id, request.based_on, request.edits, request.keep(), request.line_id
    )
    return Response(wav_bytes(sound), media_type="audio/wav", headers={"cache-control": "no-store"})


@router.post("/estimate")
def estimate(project_id: str, request: EstimateRequest, workspace: InWorkspace) -> Response:
    """How long other words of a line would last, and how the line would stand."""
    if request.alone or request.line_id is None:
        found = estimate_words(workspace, project_id, request.line_id, request.text)
    else:
        found = estimate_line(workspace, project_id, request.line_id, request.text, request.fitted)
    return Json(
        {
            "seconds": seconds(found.length_ticks),
            "error": round(found.error, 3),
            "room_s": seconds(found.room_ticks),
            "left_s": seconds(found.room_ticks - found.length_ticks),
            "words_left": found.words_left,
            "state": found.state.value if found.state else None,
        }
    )
