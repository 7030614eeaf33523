"""The shelf and what fills a stretch of the piece from it."""

import re
from typing import Annotated, Literal

from fastapi import APIRouter, Path, Query, Response
from pydantic import BaseModel, Field

from fox_cadence.actions.filling import StretchPlan, plan_fill
from fox_cadence.actions.jobs import start
from fox_cadence.actions.shelf import OVER, found, keep, may_use, on_shelf
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.fill import FillWish
from fox_cadence.core.project import said_text
from fox_cadence.core.shelf import LOOKS, ShelfItem, Wish, telling_words
from fox_cadence.core.ticks import seconds_to_ticks
from fox_cadence.errors import NotFoundError
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.jobs import job_json
from fox_cadence.web.answers.picture_shapes import FillJson, ShelfItemJson, ShelfJson, StretchPlanJson
from fox_cadence.web.media import FOR_EVER
from fox_cadence.web.pages import InWorkspace

router = APIRouter()

_WIDE, _HIGH = 208, 132
Colour = Annotated[str, Field(pattern=r"^#[0-9a-fA-F]{6}$")]


@router.get("/api/projects/{project_id}/shelf")
def shelf(
    project_id: str,
    workspace: InWorkspace,
    words: Annotated[str, Query(max_length=500)] = "",
    source: Literal["", "piece", "own", "shipped"] = "",
    kind: Literal["", "clip", "still", "background", "over"] = "",
    shape: Literal["", "upright", "lying", "square"] = "",
    longest: Annotated[float | None, Query(gt=0)] = None,
    line: str = "",
) -> Response:
    """What is on the shelf and answers to what is looked for, and the words of a line that may be looked
    up."""
    project = workspace.head(project_id).project
    wish = Wish(words=words, source=source or None, kind=kind or None, shape=shape or None, longest_s=longest)
    answers = found(on_shelf(workspace, project), wish)
    items = [item for item in answers if may_use(project, item)]
    said = next((said_text(project, each) for each in project.lines if each.id == line), "")
    used = {shot.clip_hash for shot in project.shots}
    answer: ShelfJson = {
        "items": [_item_json(item, item.clip_hash in used) for item in items],
        "line_words": list(telling_words(said, project.language)),
        "left_out": len(answers) - len(items),
    }
    return Json(answer)


def _item_json(item: ShelfItem, used: bool) -> ShelfItemJson:
    if item.clip_hash:
        times = [seconds_to_ticks(item.seconds * (place + 0.5) / LOOKS) for place in range(LOOKS)]
        looks = [
            f"/media/clips/{item.clip_hash}/at/{ticks}.jpg" for ticks in (times if item.seconds else [0])
        ]
    else:
        looks = [f"/media/shelf/{item.id}/{place}.jpg" for place in range(LOOKS if item.seconds else 1)]
    return {
        "id": item.id,
        "title": item.title,
        "words": item.words,
        "kind": item.kind,
        "seconds": item.seconds,
        "shape": item.shape,
        "source": item.source,
        "licence": item.licence,
        "commercial": item.commercial,
        "clip": item.clip_hash,
        "sound": item.sound,
        "kept": item.kept,
        "used": used,
        "looks": looks,
    }


@router.get("/media/shelf/{item_id}/{place}.jpg")
def look(
    item_id: Annotated[str, Path(pattern=re.compile("^[a-z-]{3,40}$").pattern)],
    place: Annotated[int, Path(ge=0, lt=LOOKS)],
    colours: Annotated[list[Colour], Query(max_length=3)] = [],  # noqa: B006 # FastAPI copies it
) -> Response:
    """A shipped picture at a moment, small."""
    # it paints with a library that every start would wait for
    from fox_cadence.drawn.catalogue import catalogue
    from fox_cadence.drawn.files import look_at
    from fox_cadence.media.overlay_paint import look_at_overlay

    if item_id.startswith(OVER):
        seen = look_at_overlay(item_id.removeprefix(OVER), _WIDE, _HIGH)
        if seen is None:
            raise NotFoundError("There is no such picture.")
        return Response(seen, media_type="image/jpeg", headers=FOR_EVER)
    item = catalogue().get(item_id)
    if item is None:
        raise NotFoundError("There is no such picture.")
    chosen = (colours[0], colours[1], colours[2]) if len(colours) == 3 else None
    return Response(look_at(item, chosen, (_WIDE, _HIGH), place), media_type="image/jpeg", headers=FOR_EVER)


class LayRequest(BaseModel):
    """What is laid where; `colours` are those of a background."""

    item: str = Field(max_length=200)
    after_shot_id: str | None = None
    before_shot_id: str | None = None
    colours: list[Colour] | None = Field(None, min_length=3, max_length=3)


@router.post("/api/projects/{project_id}/shelf")
def lay_item(project_id: str, asked: LayRequest, workspace: InWorkspace) -> Response:
    """A job that lays something of the shelf between shots."""
    workspace.head(project_id)
    request = {
        "item": asked.item,
        "after": asked.after_shot_id,
        "before": asked.before_shot_id,
        "colours": asked.colours,
    }
    return Json(job_json(start(workspace, project_id, "lay", request)))


class KeepRequest(BaseModel):
    """What the user says of a clip that is kept for all projects."""

    clip: str = Field(pattern="^[0-9a-f]{64}$")
    title: str = Field(max_length=500)
    words: str = Field("", max_length=500)
    licence: str = Field("", max_length=500)
    commercial: bool = True


@router.post("/api/shelf")
def keep_item(asked: KeepRequest, workspace: InWorkspace) -> Response:
    """Keep a clip for all projects, or say something else of it."""
    keep(workspace, asked.clip, asked.title, asked.words, asked.licence, asked.commercial)
    return Json({})


@router.post("/api/shelf/{content_hash}/forget")
def forget_item(content_hash: str, workspace: InWorkspace) -> Response:
    """Take a clip off the user's shelf; where a piece shows it, it stays."""
    workspace.shelf.forget(content_hash)
    return Json({})


class FillRequest(BaseModel):
    """What is to be filled: a line, a section (from 1), or with neither the whole piece."""

    wish: FillWish = FillWish()
    section: int | None = None
    line: str | None = None


@router.post("/api/projects/{project_id}/fill/plan")
def plan(project_id: str, asked: FillRequest, workspace: InWorkspace) -> Response:
    """Shots that would fill it; nothing is changed."""
    plans = plan_fill(workspace, project_id, asked.wish, asked.section, asked.line)
    return Json(_fill_json(workspace, project_id, plans))


def _fill_json(workspace: Workspace, project_id: str, plans: tuple[StretchPlan, ...]) -> FillJson:
    project = workspace.head(project_id).project
    named = {shot.item for each in plans for shot in each.shots}
    named |= {other for each in plans for shot in each.shots for other in shot.others}
    items = {item.id: item for item in on_shelf(workspace, project) if item.id in named}
    return {
        "plans": [_plan_json(each) for each in plans],
        "items": {item_id: _item_json(item, False) for item_id, item in items.items()},
    }


def _plan_json(plan: StretchPlan) -> StretchPlanJson:
    return {
        "name": plan.name,
        "first_shot_id": plan.first_shot_id,
        "last_shot_id": plan.last_shot_id,
        "shots": [
            {
                "start": shot.start,
                "end": shot.end,
                "item": shot.item,
                "words": shot.words,
                "others": list(shot.others),
            }
            for shot in plan.shots
        ],
        "cost": plan.cost,
    }


class AcceptFill(BaseModel):
    plans: list[StretchPlan] = Field(min_length=1, max_length=400)


@router.post("/api/projects/{project_id}/fill")
def accept(project_id: str, asked: AcceptFill, workspace: InWorkspace) -> Response:
    """A job that lays the shots of a plan in one step."""
    workspace.head(project_id)
    request = {"plans": [each.model_dump() for each in asked.plans]}
    return Json(job_json(start(workspace, project_id, "fill", request)))
