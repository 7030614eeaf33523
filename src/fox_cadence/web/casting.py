"""Voices for roles: how the piece would stand in each."""

from typing import Annotated

from fastapi import APIRouter, Query, Response

from fox_cadence.actions.voice_standing import MOST_VOICES, voice_standings
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.units import seconds
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api/projects/{project_id}")


@router.get("/standings")
def standings(
    project_id: str,
    role: str,
    voice: Annotated[list[str], Query(max_length=MOST_VOICES)],
    workspace: InWorkspace,
) -> Response:
    """How the lines of a role would stand in each of some voices, before anything is voiced."""
    return Json(
        [
            {
                "voice": each.voice_id,
                "natural_s": seconds(each.natural_ticks),
                "states": [state.value for state in each.states],
                "slowest": round(each.slowest, 3),
                "fastest": round(each.fastest, 3),
                "total_s": seconds(each.total_ticks),
            }
            for each in voice_standings(workspace, project_id, role, voice)
        ]
    )
