"""Pictures and sounds for the browser. What is named by its content may be kept by the browser for ever."""

import json
import re
from typing import Annotated

import numpy as np
from fastapi import APIRouter, Path, Query, Response
from fastapi.responses import FileResponse

from fox_cadence.actions.drafting import in_draft
from fox_cadence.actions.mixing import mix, part
from fox_cadence.actions.treating import line_treatment
from fox_cadence.actions.voicing import take_for
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.adjustment import colours_of, identity
from fox_cadence.core.mix import SPEECH_LUFS
from fox_cadence.core.takes import Take, VoicingRequest, natural_request
from fox_cadence.core.ticks import SAMPLE_RATE_HZ
from fox_cadence.core.treatment import Treatment
from fox_cadence.errors import NotFoundError
from fox_cadence.media.audio import peaks, read_wav, wav_bytes
from fox_cadence.media.colours import adjusted_table
from fox_cadence.media.ingest import PEAKS, PROXY, SOUND
from fox_cadence.media.proxies import read_frame, read_header
from fox_cadence.media.treating import treated
from fox_cadence.voices.catalogue import sample_text, voice_by_id
from fox_cadence.web.answers.fast_json import Json
from fox_cadence.web.pages import InWorkspace

router = APIRouter()

Hash = Annotated[str, Path(pattern=re.compile("^[0-9a-f]{64}$").pattern)]
FOR_EVER = {"cache-control": "private, max-age=31536000, immutable"}
_PART_EDGE = 480
_MOST_AT_ONCE = 30 * SAMPLE_RATE_HZ
_LATEST_S = 1_000_000.0
"""What is asked for past the end of a piece is silence of no length; past this it is no moment."""
NOT_KEPT = {"cache-control": "no-store"}


@router.get("/media/clips/{content_hash}/pack")
def pack(content_hash: Hash, workspace: InWorkspace) -> FileResponse:
    """All small frames of a clip (media/proxies.py has the format)."""
    path = workspace.library.clip_file(content_hash, PROXY)
    return FileResponse(path, media_type="application/octet-stream", headers=FOR_EVER)


@router.get("/media/clips/{content_hash}/at/{ticks}.jpg")
def picture(content_hash: Hash, ticks: int, workspace: InWorkspace) -> Response:
    """The small frame on the screen at a time of the clip; the poster of a clip that is still prepared."""
    poster = workspace.preparing.poster(content_hash)
    if poster is not None:
        return FileResponse(poster, media_type="image/jpeg", headers=NOT_KEPT)
    path = workspace.library.clip_file(content_hash, PROXY)
    header = read_header(path)
    return Response(
        read_frame(path, header, header.index_at(ticks)), media_type="image/jpeg", headers=FOR_EVER
    )


@router.get("/media/clips/{content_hash}/sound.wav")
def clip_sound(content_hash: Hash, workspace: InWorkspace) -> FileResponse:
    """A clip's own sound."""
    path = workspace.library.clip_file(content_hash, SOUND)
    return FileResponse(path, media_type="audio/wav", headers=FOR_EVER)


@router.get("/media/clips/{content_hash}/peaks")
def clip_peaks(content_hash: Hash, workspace: InWorkspace) -> Response:
    """The peaks of a clip's own sound, a hundred a second."""
    path = workspace.library.clip_file(content_hash, PEAKS)
    return Json({"per_second": 100, "peaks": json.loads(path.read_text())}, headers=FOR_EVER)


@router.get("/api/projects/{project_id}/preparing")
def preparing(project_id: str, workspace: InWorkspace) -> Response:
    """The clips of a project whose small frames and sound are still being made: until then they show their
    posters."""
    clips = workspace.head(project_id).project.clips.values()
    return Json({"waiting": [clip.hash for clip in workspace.preparing.waiting(clips)], "clips": len(clips)})


@router.get("/media/colours/{key}/table")
def colours(key: Annotated[str, Path(max_length=200)], workspace: InWorkspace) -> Response:
    """The table of colours of an adjustment, 33 points a side: red, green and blue as bytes, blue fastest."""
    try:
        adjustment = colours_of(key)
    except ValueError as error:
        raise NotFoundError("There are no such colours.") from error
    look = adjustment.look_hash
    table = adjusted_table(adjustment, workspace.library.original(look) if look else None)
    points = identity() if table is None else table
    return Response(
        np.rint(points * 255).astype(np.uint8).tobytes(),
        media_type="application/octet-stream",
        headers=FOR_EVER,
    )


@router.get("/media/takes/{sound_hash}/peaks")
def take_peaks(sound_hash: Hash, workspace: InWorkspace) -> Response:
    """The peaks of a take, a hundred a second."""
    sound = read_wav(workspace.library.take_sound(sound_hash))
    return Json({"per_second": 100, "peaks": peaks(sound)}, headers=FOR_EVER)


@router.get("/api/takes/{take_id}/sound.wav")
def take_sound(take_id: str, workspace: InWorkspace) -> Response:
    """A take alone, as loud as every other, so that takes can be compared."""
    take = workspace.library.takes([take_id]).get(take_id)
    if take is None:
        raise NotFoundError("This take is no longer there.")
    return take_response(workspace, take)


@router.get("/api/projects/{project_id}/mix.wav")
def mix_sound(
    project_id: str,
    workspace: InWorkspace,
    preview: str = "",
    revision: int | None = None,
    start: Annotated[float, Query(ge=0, le=_LATEST_S)] = 0.0,
    end: Annotated[float | None, Query(ge=0, le=_LATEST_S)] = None,
    draft: bool = False,
    at_once: bool = False,
) -> Response:
    """The full mix of the project, the same samples as the export: as it stands, at a revision, or as a
    preview has it.

    With `start` and `end` (seconds) only that part of it: a long piece is played stretch by stretch. With
    `draft` quick voices say the lines that have no sound yet. A part `at_once` does not wait for the mix of
    the
    whole: it has the gain that is expected of it.
    """
    if preview:
        project = workspace.previews.get(preview)
    else:
        head = workspace.head(project_id)
        now = revision is None or revision == head.revision
        project = head.project if now else workspace.projects.at(project_id, int(revision or 0))
    timeline = workspace.timeline(project)
    if draft:
        timeline = in_draft(workspace, timeline)
    first = round(start * SAMPLE_RATE_HZ)
    if at_once and end is not None:
        sound = part(
            workspace, timeline, first, max(0, min(round(end * SAMPLE_RATE_HZ) - first, _MOST_AT_ONCE))
        )
    else:
        made = mix(workspace, timeline)
        last = made.total_samples if end is None else round(end * SAMPLE_RATE_HZ)
        last = min(last, made.total_samples)
        sound = made.read(min(first, last), max(0, last - first))
    return Response(wav_bytes(sound), media_type="audio/wav", headers=NOT_KEPT)


@router.get("/api/projects/{project_id}/lines/{line_id}/sound.wav")
def line_sound(project_id: str, line_id: str, workspace: InWorkspace, plain: bool = False) -> Response:
    """A line as its words stand now, voiced for the hearing if need be, treated as in the mix unless it is to
    be `plain`: as loud either way. The project is not changed."""
    take, treatment = line_treatment(workspace, project_id, line_id)
    return take_response(workspace, take, treatment=None if plain else treatment)


@router.get("/api/voices/{voice_id}/sample.wav")
def voice_sample(voice_id: str, workspace: InWorkspace, project: str = "", line: str = "") -> Response:
    """A voice saying our sample, or a line of a project as it would say it if it were cast."""
    voice = voice_by_id(voice_id)
    if voice is None:
        raise NotFoundError("There is no such voice.")
    text = sample_text(voice)
    request = VoicingRequest(text=text, voice_id=voice.id, pace=1.0, pitch_semitones=0)
    if project and line:
        head = workspace.head(project).project
        request = natural_request(head, head.line(line)).changed(voice_id=voice.id)
    take, _ = take_for(workspace, request)
    return take_response(workspace, take)


def take_response(
    workspace: Workspace,
    take: Take,
    part: tuple[int, int] | None = None,
    treatment: Treatment | None = None,
) -> Response:
    """A take alone, at the level all takes have in the mix; only some of its samples where told."""
    sound = read_wav(workspace.library.take_sound(take.sound_hash))
    if treatment is not None:
        sound = treated(take.sound_hash, sound, treatment).sound
    if part is not None:
        sound = sound[max(0, part[0] - _PART_EDGE) : part[1] + _PART_EDGE].copy()
        ramp = np.linspace(0, 1, min(_PART_EDGE, len(sound) // 2), dtype=np.float32)
        sound[: len(ramp)] *= ramp
        sound[len(sound) - len(ramp) :] *= ramp[::-1]
    level = 10 ** ((SPEECH_LUFS + 3 - take.loudness_lufs) / 20)
    return Response(wav_bytes(sound * np.float32(level)), media_type="audio/wav", headers=NOT_KEPT)
