"""Words into a project: looked over first, then brought in."""

from dataclasses import asdict
from typing import Annotated, Any

from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import JSONResponse
from pydantic import BaseModel, Field, ValidationError
from starlette.concurrency import run_in_threadpool

from fox_cadence.actions.writing import How, Plan, Source, bring_words, plan_words
from fox_cadence.core.arrange import Layout
from fox_cadence.errors import ClashError, InputError
from fox_cadence.formats import LARGEST_BYTES
from fox_cadence.formats.csv_rows import Columns
from fox_cadence.web.editing import current
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.uploads import name_of

router = APIRouter(prefix="/api/projects/{project_id}/words")

Place = Annotated[int, Field(ge=0, le=1000)]
MOST_SHOWN = 400


async def _source(file: UploadFile | None, pasted: str, kind: str, columns: str) -> Source:
    """The file, or what was typed as if it were one of that kind."""
    if file is not None and file.filename:
        data = await file.read(LARGEST_BYTES + 1)
        name = name_of(file)
    else:
        data, name = pasted.encode("utf-8", "replace"), f"pasted{kind}"
    return Source(name, data, _columns(columns) if columns else None)


class _ColumnsRequest(BaseModel):
    """Columns counted from 0."""

    text: Place
    role: Place | None = None
    start: Place | None = None
    end: Place | None = None
    heading: Place | None = None
    first_row_names: bool = True


def _columns(text: str) -> Columns:
    try:
        return Columns(**_ColumnsRequest.model_validate_json(text).model_dump())
    except ValidationError as error:
        raise InputError("choose which column holds the words", "columns") from error


@router.post("/plan")
async def plan(
    project_id: str,
    workspace: InWorkspace,
    file: Annotated[UploadFile | None, File()] = None,
    pasted: Annotated[str, Form()] = "",
    kind: Annotated[str, Form(pattern=r"^\.(txt|md|srt|vtt|csv|ssml)$")] = ".txt",
    columns: Annotated[str, Form()] = "",
    how: Annotated[How, Form()] = "compare",
) -> JSONResponse:
    """What would be made; nothing is."""
    source = await _source(file, pasted, kind, columns)
    found = await run_in_threadpool(plan_words, workspace, project_id, source, how)
    return JSONResponse(plan_json(found))


def plan_json(found: Plan) -> dict[str, Any]:
    table = found.table
    return {
        "lines": [asdict(line) for line in found.lines[:MOST_SHOWN]],
        "line_count": len(found.lines),
        "headings": found.headings,
        "new_roles": list(found.new_roles),
        "counts": found.counts,
        "words": found.words,
        "characters": found.characters,
        "seconds": found.seconds,
        "longest_s": found.longest_s,
        "character_budget": found.character_budget,
        "problems": [{"place": each.place, "message": each.message} for each in found.problems],
        "warnings": list(found.warnings),
        "table": None
        if table is None
        else {"names": table.names, "rows": table.rows, "count": table.count, "guess": asdict(table.guess)},
    }


@router.post("")
async def bring(
    project_id: str,
    workspace: InWorkspace,
    based_on: Annotated[int, Form()],
    file: Annotated[UploadFile | None, File()] = None,
    pasted: Annotated[str, Form()] = "",
    kind: Annotated[str, Form(pattern=r"^\.(txt|md|srt|vtt|csv|ssml)$")] = ".txt",
    columns: Annotated[str, Form()] = "",
    how: Annotated[How, Form()] = "compare",
    layout: Annotated[Layout, Form()] = "order",
) -> JSONResponse:
    """Do it, as one step; the new timeline and remarks."""
    source = await _source(file, pasted, kind, columns)
    try:
        _, remarks = await run_in_threadpool(bring_words, workspace, project_id, based_on, source, how, layout)
    except ClashError as error:
        return JSONResponse({"message": str(error), "timeline": current(workspace, project_id)}, 409)
    return JSONResponse(
        {
            "timeline": current(workspace, project_id),
            "remarks": [{"place": each.place, "message": each.message} for each in remarks],
        }
    )
