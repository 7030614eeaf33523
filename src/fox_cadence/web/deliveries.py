"""Requests about the deliveries the user keeps for all projects."""

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.delivery import Delivery
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.pages import InWorkspace

router = APIRouter(prefix="/api/deliveries")


def _kept(workspace: Workspace) -> Response:
    found = workspace.deliveries.all()
    return Json({"deliveries": [{"name": name, "delivery": each.model_dump()} for name, each in found]})


@router.get("")
def deliveries(workspace: InWorkspace) -> Response:
    """Deliveries that are kept for all projects."""
    return _kept(workspace)


class KeepRequest(BaseModel):
    """A delivery to keep under a name; None forgets the one of that name."""

    name: str = Field(min_length=1, max_length=60)
    delivery: Delivery | None = None


@router.post("")
def keep(request: KeepRequest, workspace: InWorkspace) -> Response:
    """Keep a delivery for all projects."""
    name = " ".join(request.name.split())
    if request.delivery is None:
        workspace.deliveries.forget(name)
    else:
        workspace.deliveries.keep(name, request.delivery)
    return _kept(workspace)
