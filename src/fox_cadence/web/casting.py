"""Voices for roles: how the piece would stand in each, blends of them, and the melody of a line."""

from dataclasses import asdict
from typing import Annotated

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from fox_cadence.actions.blending import forget_blend, keep_blend, mixed
from fox_cadence.actions.melody import melody_of
from fox_cadence.actions.voice_standing import MOST_VOICES, voice_standings
from fox_cadence.core.delivery import Delivery
from fox_cadence.voices.blends import MOST_PARTS, Part
from fox_cadence.web.answers.desk import voice_json
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.units import seconds
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api")


@router.get("/projects/{project_id}/standings")
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
                "known": each.known,
            }
            for each in voice_standings(workspace, project_id, role, voice)
        ]
    )


class DeliveryAsked(BaseModel):
    """A delivery that a melody is asked for; None asks for the melody as it is."""

    delivery: Delivery | None = None


@router.post("/projects/{project_id}/lines/{line_id}/melody")
def melody(project_id: str, line_id: str, asked: DeliveryAsked, workspace: InWorkspace) -> Response:
    """The pitch of a line's take, and as a delivery would have it."""
    return Json(asdict(melody_of(workspace, project_id, line_id, asked.delivery)))


class PartAsked(BaseModel):
    voice_id: str = Field(max_length=80)
    percent: int = Field(ge=1, le=99)


class BlendAsked(BaseModel):
    """Voices to mix; with a name the blend is kept."""

    parts: list[PartAsked] = Field(max_length=MOST_PARTS)
    name: str = Field("", max_length=60)


@router.post("/blends")
def mix_voices(asked: BlendAsked, workspace: InWorkspace) -> Response:
    """The voice a mix of others is, for hearing; kept where it has a name."""
    parts = [Part(part.voice_id, part.percent) for part in asked.parts]
    found = keep_blend(workspace, parts, asked.name) if asked.name else mixed(parts)
    return Json({"voice": voice_json(found)})


@router.post("/blends/{voice_id}/forget")
def drop_blend(voice_id: str, workspace: InWorkspace) -> Response:
    """A blend is no longer kept."""
    forget_blend(workspace, voice_id)
    return Json({})
