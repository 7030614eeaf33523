"""Sound: how the mix stands, treatments, beds by their bars, and the shelf of sound."""

import re
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Path, Query, Response
from fastapi.responses import FileResponse
from pydantic import BaseModel, Field, ValidationError

from fox_cadence.actions.jobs import start
from fox_cadence.actions.mix_standing import mix_standing
from fox_cadence.actions.shelf import found
from fox_cadence.actions.sound_shelf import clip_of_sound, lay_sound, sound_item, sounds
from fox_cadence.actions.treating import measured
from fox_cadence.core.names import tidy_name
from fox_cadence.core.sound.cleaning import Cleaning
from fox_cadence.core.sound.shelf import SoundItem, SoundWish
from fox_cadence.core.sound.singing import TUNES, tune_by_id, typed_tune
from fox_cadence.core.treatment import Treatment
from fox_cadence.errors import InputError, NotFoundError
from fox_cadence.media.ingest import SOUND
from fox_cadence.voices.catalogue import voice_by_id
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.answers.jobs import job_json
from fox_cadence.web.answers.sound_shapes import SoundShelfJson
from fox_cadence.web.answers.sounds import sound_item_json, sound_json
from fox_cadence.web.answers.treatments import measured_json, treatments_json
from fox_cadence.web.media import FOR_EVER
from fox_cadence.web.pages import InWorkspace

router = APIRouter()


@router.get("/api/treatments")
def treatments(workspace: InWorkspace) -> Response:
    """The treatments that ship and those the user keeps, and the kinds of stages with their numbers."""
    return Json(treatments_json(workspace.treatments.all()))


class KeepTreatmentFor(BaseModel):
    """A treatment to keep for all projects; without stages the one of its name is forgotten."""

    treatment: Treatment


@router.post("/api/treatments")
def keep_treatment(asked: KeepTreatmentFor, workspace: InWorkspace) -> Response:
    """Keep a treatment for all projects."""
    name = tidy_name(asked.treatment.name)
    if not name:
        raise InputError("give it a name", "treatment")
    if asked.treatment.stages:
        workspace.treatments.keep(asked.treatment.changed(name=name))
    else:
        workspace.treatments.forget(name)
    return Json(treatments_json(workspace.treatments.all()))


@router.get("/api/projects/{project_id}/lines/{line_id}/treatment")
def line_treatment(project_id: str, line_id: str, workspace: InWorkspace) -> Response:
    """What the treatment of a line does to its sound, stage by stage and over the third octaves."""
    return Json(measured_json(measured(workspace, project_id, line_id)))


@router.get("/api/projects/{project_id}/sound")
def standing(project_id: str, workspace: InWorkspace) -> Response:
    """How the mix stands: loudness, speech over the rest, warnings, and the music of its beds."""
    head = workspace.head(project_id)
    timeline = workspace.timeline(head.project)
    return Json(sound_json(workspace, timeline, head.revision, mix_standing(workspace, timeline)))


class CleanRequest(BaseModel):
    """Which lines' recordings are cleaned, and of what."""

    line_ids: list[str] = Field(min_length=1, max_length=2_000)
    cleaning: Cleaning = Cleaning()


@router.post("/api/projects/{project_id}/clean")
def clean(project_id: str, asked: CleanRequest, workspace: InWorkspace) -> Response:
    """A job that cleans the recordings of lines; the takes they have stay."""
    workspace.head(project_id)
    request = {"line_ids": asked.line_ids, "cleaning": asked.cleaning.model_dump()}
    return Json(job_json(start(workspace, project_id, "clean", request)))


class SingRequest(BaseModel):
    """A tune of ours, or typed notes."""

    tune: str = Field("", max_length=40)
    notes: str = Field("", max_length=4_000)


@router.get("/api/tunes")
def tunes() -> Response:
    """The tunes a line can be sung on."""
    return Json({"tunes": [{"id": each.id, "name": each.name, "minor": each.minor} for each in TUNES]})


@router.post("/api/projects/{project_id}/lines/{line_id}/sing")
def sing(project_id: str, line_id: str, asked: SingRequest, workspace: InWorkspace) -> Response:
    """A job: a line sung by its own voice, as a take of its own."""
    line = workspace.head(project_id).project.line(line_id)
    if tune_by_id(asked.tune) is None:
        try:
            typed_tune(asked.notes)
        except ValueError as error:
            raise InputError(str(error), "notes") from error
    request = {"line": line.id, "tune": asked.tune, "notes": asked.notes}
    return Json(job_json(start(workspace, project_id, "sing", request)))


class SayRequest(BaseModel):
    voice_id: str = Field(max_length=100)


@router.post("/api/projects/{project_id}/lines/{line_id}/say-as-recorded")
def say(project_id: str, line_id: str, asked: SayRequest, workspace: InWorkspace) -> Response:
    """A job: a voice says a line that plays a recording, each word where the person said it."""
    if voice_by_id(asked.voice_id) is None:
        raise NotFoundError("There is no such voice.")
    line = workspace.head(project_id).project.line(line_id)
    return Json(job_json(start(workspace, project_id, "say", {"line": line.id, "voice": asked.voice_id})))


class TempoRequest(BaseModel):
    percent: float = Field(ge=50, le=200)


@router.post("/api/projects/{project_id}/lines/{line_id}/tempo")
def tempo(project_id: str, line_id: str, asked: TempoRequest, workspace: InWorkspace) -> Response:
    """A job: the recording of a line slower or quicker, at its pitch, as a take of its own."""
    line = workspace.head(project_id).project.line(line_id)
    request = {"line": line.id, "percent": asked.percent}
    return Json(job_json(start(workspace, project_id, "tempo", request)))


# beds by their bars


@router.post("/api/projects/{project_id}/beds/{bed_id}/{what}")
def work_on_bed(
    project_id: str,
    bed_id: str,
    what: Literal["cut", "loop", "beats", "bars", "duck"],
    workspace: InWorkspace,
) -> Response:
    """A job: the bed cut to the piece by whole bars, its best bars repeated, its beats or the beginnings of
    its bars given to the fit, or turned down under speech just so far that the words are understood."""
    bed = workspace.head(project_id).project.bed(bed_id)
    return Json(job_json(start(workspace, project_id, "bed", {"bed": bed.id, "what": what})))


# the shelf of sound


@router.get("/api/projects/{project_id}/sounds")
def shelf(
    project_id: str,
    workspace: InWorkspace,
    words: Annotated[str, Query(max_length=500)] = "",
    kind: Literal["", "bed", "effect"] = "",
    source: Literal["", "piece", "own", "shipped"] = "",
) -> Response:
    """What is on the shelf of sound and answers to what is looked for."""
    project = workspace.head(project_id).project
    wish = SoundWish(words=words, kind=kind or None, source=source or None)
    answers = found(sounds(workspace, project), wish)
    items = [item for item in answers if item.commercial or not project.commercial]
    used = {bed.clip_hash for bed in project.beds} | {each.clip_hash for each in project.effects}
    answer: SoundShelfJson = {
        "items": [sound_item_json(item, item.clip_hash in used) for item in items],
        "left_out": len(answers) - len(items),
    }
    return Json(answer)


ItemId = Annotated[str, Path(pattern=re.compile("^[a-z0-9:-]{3,80}$").pattern)]


@router.get("/media/projects/{project_id}/sounds/{item_id}.wav")
def hear(project_id: str, item_id: ItemId, workspace: InWorkspace) -> FileResponse:
    """A sound of the shelf, before it is used."""
    item: SoundItem = sound_item(workspace, workspace.head(project_id).project, item_id)
    clip = clip_of_sound(workspace, item)
    path = workspace.library.clip_file(clip.hash, SOUND)
    return FileResponse(path, media_type="audio/wav", headers=FOR_EVER)


class LaySound(BaseModel):
    """A sound of the shelf, laid as a bed, instead of one, or as an effect; `where` as the edit takes it."""

    item: str = Field(max_length=100)
    use: Literal["bed", "instead", "effect"]
    where: dict[str, Any] = Field(default_factory=dict, max_length=8)


@router.post("/api/projects/{project_id}/sounds")
def lay(project_id: str, asked: LaySound, workspace: InWorkspace) -> Response:
    """Lay a sound of the shelf; the answer has the id of the bed or of the effect."""
    try:
        made = lay_sound(workspace, project_id, asked.item, asked.use, asked.where)
    except ValidationError as error:
        raise InputError("it can't be laid there", "where") from error
    return Json({"id": made})
