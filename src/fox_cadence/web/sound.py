"""Sound: the treatments there are, and what that of a line does."""

from fastapi import APIRouter, Response

from fox_cadence.actions.treating import measured
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.treatments import measured_json, treatments_json
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api")


@router.get("/treatments")
def treatments() -> Response:
    """The treatments that ship, and the kinds of stages with their numbers."""
    return Json(treatments_json(), headers={"Cache-Control": "max-age=3600"})


@router.get("/projects/{project_id}/lines/{line_id}/treatment")
def line_treatment(project_id: str, line_id: str, workspace: InWorkspace) -> Response:
    """What the treatment of a line does to its sound, stage by stage and over the third octaves."""
    return Json(measured_json(measured(workspace, project_id, line_id)))
