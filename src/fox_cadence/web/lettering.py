"""Lettering: the drawings of captions and titles, and how they move."""

import time
from typing import Annotated

from fastapi import APIRouter, File, Response, UploadFile
from pydantic import BaseModel, Field

from fox_cadence.actions.own_fonts import bring_font
from fox_cadence.actions.proofing import ProofSheet
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.kept import Kept
from fox_cadence.core.lettering.drawing import CaptionDrawing
from fox_cadence.core.lettering.motion import moments
from fox_cadence.core.lettering.style import CaptionStyle
from fox_cadence.core.names import tidy_name
from fox_cadence.core.standing import drawn
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.media.font_files import LARGEST_BYTES
from fox_cadence.media.fonts import faces_of
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.lettering import (
    drawing_json,
    moments_json,
    movements_json,
    own_families,
    style_json,
)
from fox_cadence.web.answers.lettering_shapes import CureJson, DrawingJson, DrawnJson, ProofJson
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.uploads import UploadRoute, arriving, keep_upload, name_of

router = APIRouter(prefix="/api", route_class=UploadRoute)

_LONGEST_FRAMES = 2_000_000
_kept: Kept[CaptionDrawing, DrawingJson] = Kept(most=600)
"""Outlines are 30 times as long as all else there is to say of a caption."""


class DrawnWords(BaseModel):
    """Words to be drawn: in one of the styles of the request, and when they are on the screen and spoken, in
    frames from their in frame on. `known` tells that the page has the drawing."""

    text: str = Field(max_length=5000)
    style: str = Field(max_length=40)
    breaks: tuple[Annotated[int, Field(ge=0, le=5000)], ...] = Field((), max_length=60)
    frames: int = Field(1, ge=0, le=_LONGEST_FRAMES)
    spoken: tuple[tuple[int, int], ...] = Field((), max_length=2000)
    known: bool = False


class DrawingsRequest(BaseModel):
    """Captions and titles of whichever state of the project, with their styles."""

    styles: dict[str, CaptionStyle] = Field(max_length=200)
    words: list[DrawnWords] = Field(max_length=60)


@router.post("/projects/{project_id}/drawings")
def drawings(project_id: str, request: DrawingsRequest, workspace: InWorkspace) -> Response:
    """The drawings of some words and the moments they move at, in their order; null for those without any."""
    project = workspace.head(project_id).project
    setter = faces_of(project.language, workspace.own_fonts.folder)
    frame = (project.width, project.height)
    found: list[DrawnJson | None] = []
    for words in request.words:
        style = request.styles.get(words.style)
        if style is None:
            raise InputError("there is no style of that key", "styles")
        if not words.text.strip():
            found.append(None)
            continue
        drawing = drawn(words.text, style, setter, frame, words.breaks)
        when = moments(drawing, style, words.spoken, 0, words.frames, project.rate)
        made: DrawnJson = {"moments": moments_json(when, 0)}
        if not words.known:
            made["drawing"] = _kept.get(drawing) or _kept.keep(drawing, (), drawing_json(drawing))
        found.append(made)
    return Json(found)


_PATIENCE_S = 1.5
"""A request looks at words for so long; the page asks for the rest again."""


class ProofRequest(BaseModel):
    """Words on the screen to be looked at, by their ids."""

    ids: list[Annotated[str, Field(max_length=60)]] = Field(max_length=5000)


@router.post("/projects/{project_id}/proofs")
def proofs(project_id: str, request: ProofRequest, workspace: InWorkspace) -> Response:
    """The rules that words break, as many as can be looked at in a moment, in the order of their ids."""
    sheet = ProofSheet(workspace, workspace.timeline(workspace.head(project_id).project))
    known = {each.id: each for each in sheet.words}
    until = time.monotonic() + _PATIENCE_S
    found: dict[str, ProofJson] = {}
    for each in request.ids:
        if each in known:
            proved = sheet.prove(known[each])
            found[each] = {
                "faults": [
                    {"rule": f.rule, "text": f.text, "value": f.value, "limit": f.limit}
                    for f in proved.faults
                ],
                "contrast": None if proved.contrast is None else round(proved.contrast, 1),
            }
        if time.monotonic() > until:
            break
    return Json(found)


@router.get("/projects/{project_id}/proofs/{words_id}/cures/{rule}")
def proof_cures(project_id: str, words_id: str, rule: str, workspace: InWorkspace) -> Response:
    """Changes that cure a fault of some words; each was tried."""
    sheet = ProofSheet(workspace, workspace.timeline(workspace.head(project_id).project))
    words = next((each for each in sheet.words if each.id == words_id), None)
    if words is None:
        raise NotFoundError("these words are no longer on the screen")
    fault = next((each for each in sheet.prove(words).faults if each.rule == rule), None)
    cures = sheet.cures(words, fault) if fault else []
    made: list[CureJson] = [{"text": cure.text, "edit": cure.edit.model_dump()} for cure in cures]
    return Json(made)


@router.post("/fonts")
def bring(workspace: InWorkspace, file: Annotated[UploadFile, File()]) -> Response:
    """Keep a font file for all projects; the families there are now. 422 where words can't be set in it."""
    with arriving(workspace.scratch) as folder:
        path = folder / "font"
        keep_upload(file, path, LARGEST_BYTES, "the font is")
        bring_font(workspace, path, name_of(file, "font"))
        path.unlink()
        folder.rmdir()
    return Json(own_families(workspace.own_fonts.kept()))


@router.delete("/fonts/{content_hash}")
def forget(content_hash: str, workspace: InWorkspace) -> Response:
    """No longer offer a font of the user's; the families of their own that are left."""
    workspace.own_fonts.forget(content_hash)
    return Json(own_families(workspace.own_fonts.kept()))


@router.post("/caption-styles")
def keep_style(style: CaptionStyle, workspace: InWorkspace) -> Response:
    """Keep a style under its name for all projects; those there are."""
    name = tidy_name(style.name)
    if not name:
        raise InputError("a style needs a name to be kept under", "name")
    workspace.caption_styles.keep(style.changed(name=name, id=f"mine-{name.casefold()}"[:60]))
    return _styles(workspace)


class StyleName(BaseModel):
    name: str = Field(max_length=60)


@router.post("/caption-styles/forget")
def forget_style(request: StyleName, workspace: InWorkspace) -> Response:
    """No longer keep a style for all projects; words that have it keep their looks."""
    workspace.caption_styles.forget(request.name)
    return _styles(workspace)


def _styles(workspace: Workspace) -> Response:
    return Json([style_json(style) for style in workspace.caption_styles.all()])


@router.get("/movements")
def movements() -> Response:
    """How words come in, go out and swell, as rows of poses."""
    return Json(movements_json(), headers={"Cache-Control": "max-age=3600"})
