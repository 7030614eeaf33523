"""Words into a project: looked over first, then brought in."""

from dataclasses import asdict, dataclass
from typing import Annotated, Any

from fastapi import APIRouter, Depends, File, Form, Response, UploadFile
from pydantic import BaseModel, Field, ValidationError

from fox_cadence.actions.script_import import Choices, How, Plan, Source, bring_words, overview, plan_words
from fox_cadence.core.script_layout import Layout
from fox_cadence.errors import ClashError, InputError
from fox_cadence.formats import LARGEST_BYTES
from fox_cadence.formats.csv_rows import Columns
from fox_cadence.web.answers.answer import InAnswer
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.pages import InWorkspace
from fox_cadence.web.problems import Problem
from fox_cadence.web.uploads import name_of

router = APIRouter(prefix="/api/projects/{project_id}/words")
before = APIRouter(prefix="/api/words")
"""Words before there is a project."""

Place = Annotated[int, Field(ge=0, le=1000)]
MOST_SHOWN = 400


KINDS = r"^\.(txt|md|srt|vtt|sbv|csv|ssml)$"


@dataclass(frozen=True)
class WordsForm:
    """A file of words or pasted ones with how they are to be read, as the page sends them."""

    file: Annotated[UploadFile | None, File()] = None
    pasted: Annotated[str, Form()] = ""
    kind: Annotated[str, Form(pattern=KINDS)] = ".txt"
    columns: Annotated[str, Form()] = ""
    encoding: Annotated[str, Form()] = ""
    names: Annotated[bool, Form()] = False
    descriptions: Annotated[bool, Form()] = False

    def source(self) -> Source:
        """The file, or what was typed as if it were one of that kind."""
        columns = _columns(self.columns) if self.columns else None
        choices = Choices(self.names, self.descriptions)
        if self.file is not None and self.file.filename:
            data = self.file.file.read(LARGEST_BYTES + 1)
            return Source(name_of(self.file), data, columns, self.encoding, choices)
        return Source(f"pasted{self.kind}", self.pasted.encode("utf-8", "replace"), columns, "", choices)


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


@before.post("/overview")
def look_over(
    workspace: InWorkspace, form: Annotated[WordsForm, Depends()], language: Annotated[str, Form()] = "en"
) -> Response:
    """What words hold that shall become a project, how long they last, and how they read."""
    found = overview(workspace, form.source(), language)
    return Json(asdict(found))


@router.post("/plan")
def plan(
    project_id: str,
    workspace: InWorkspace,
    form: Annotated[WordsForm, Depends()],
    how: Annotated[How, Form()] = "compare",
) -> Response:
    """What would be made; nothing is."""
    found = plan_words(workspace, project_id, form.source(), how)
    return Json(plan_json(found))


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
        "offers": asdict(found.offers),
        "table": None
        if table is None
        else {"names": table.names, "rows": table.rows, "count": table.count, "guess": asdict(table.guess)},
    }


@router.post("")
def bring(
    project_id: str,
    workspace: InWorkspace,
    answer: InAnswer,
    based_on: Annotated[int, Form()],
    form: Annotated[WordsForm, Depends()],
    how: Annotated[How, Form()] = "compare",
    layout: Annotated[Layout, Form()] = "order",
) -> Response:
    """Do it, as one step; the new timeline and remarks."""
    try:
        _, remarks = bring_words(workspace, project_id, based_on, form.source(), how, layout)
    except ClashError as error:
        return Problem("clash", str(error), state=answer.project(project_id))
    return Json(
        {
            "state": answer.project(project_id),
            "remarks": [{"place": each.place, "message": each.message} for each in remarks],
        }
    )
