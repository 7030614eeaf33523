"""Figures: the characters there are, and what those of a project do in its frames."""

from typing import Annotated

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fox_cadence.actions.acting import phonemes_of
from fox_cadence.core.acting import acted
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.figures import acting_json, characters_json
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api")

_MOST_FRAMES = 2_000


@router.get("/characters")
def characters() -> Response:
    """The characters that ship, with their pictures and what of them can be coloured."""
    return Json(characters_json(), headers={"Cache-Control": "max-age=3600"})


class ActingRequest(BaseModel):
    """Frames [first, end) of a project; `known` are keys of drawings the page has."""

    first: int = Field(ge=0)
    end: int = Field(ge=0)
    known: list[Annotated[str, Field(max_length=400)]] = Field([], max_length=100)


@router.post("/projects/{project_id}/acting")
def acting(project_id: str, request: ActingRequest, workspace: InWorkspace) -> Response:
    """What the figures of a project do in some of its frames, at most 2,000 of them."""
    timeline = workspace.timeline(workspace.head(project_id).project)
    end = min(request.end, request.first + _MOST_FRAMES, timeline.total_frames)
    found = acted(
        timeline, phonemes_of(workspace, timeline.project), (request.first, max(request.first, end))
    )
    return Json(acting_json(found, request.known))
