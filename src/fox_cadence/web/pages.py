"""Pages: the list of projects, a new project, a project."""

import itertools
import json
import shutil
from pathlib import Path
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import HTMLResponse
from fastapi.templating import Jinja2Templates

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.languages import language_name
from fox_cadence.core.looks import LOOKS
from fox_cadence.core.pass_status import PASSES
from fox_cadence.core.project import Project
from fox_cadence.core.ticks import FRAME_RATES
from fox_cadence.formats.decoding import ENCODINGS
from fox_cadence.store.project_list import ListedProject
from fox_cadence.voices.catalogue import all_voices, languages, voice_by_id
from fox_cadence.voices.voice import Voice
from fox_cadence.web.answers.desk import STYLE_CHOICES, voice_json
from fox_cadence.web.answers.lettering import own_families, shipped_json
from fox_cadence.web.assets import asset

router = APIRouter()
templates = Jinja2Templates(directory=Path(__file__).resolve().parent / "templates")


def _bytes(count: int) -> str:
    """A size as people read it: 3.4 MB."""
    for unit, size in (("GB", 10**9), ("MB", 10**6), ("kB", 10**3)):
        if count >= size:
            return f"{count / size:.1f} {unit}"
    return f"{count} bytes"


templates.env.filters["bytes"] = _bytes
templates.env.globals["asset"] = asset


def workspace_of(request: Request) -> Workspace:
    workspace = request.app.state.workspace
    assert isinstance(workspace, Workspace)
    return workspace


InWorkspace = Annotated[Workspace, Depends(workspace_of)]

SIZES = (
    ("1080x1920", "Portrait, 1080 × 1920"),
    ("1920x1080", "Landscape, 1920 × 1080"),
    ("1080x1080", "Square, 1080 × 1080"),
    ("1080x1350", "Upright, 1080 × 1350"),
)

HOUSE_FIELDS = (
    (
        "Pace and pauses",
        (
            ("slowest_pace", "Slowest pace", 0.01, 0.5, 1),
            ("fastest_pace", "Fastest pace", 0.01, 1, 2),
            ("shortest_pause_s", "Shortest pause, s", 0.01, 0, 2),
        ),
    ),
    (
        "Room",
        (
            ("lead_s", "Lead before the first word, s", 0.05, 0, 5),
            ("tail_s", "Tail after the last word, s", 0.05, 0, 5),
            ("gap_s", "Between lines, s", 0.05, 0, 5),
            ("voice_change_gap_s", "Where the voice changes, s", 0.05, 0, 5),
            ("longest_silence_s", "Longest silence before a line floats, s", 0.1, 0, 60),
            ("longest_j_cut_s", "J-cut up to, s", 0.05, 0, 5),
            ("longest_l_cut_s", "L-cut up to, s", 0.05, 0, 5),
        ),
    ),
    (
        "Shots",
        (("shot_stretch", "May stretch by (0.25 is a quarter)", 0.05, 0, 1),),
    ),
    (
        "Captions",
        (
            ("reading_rate_cps", "Reading rate, characters a second", 1, 5, 60),
            ("shortest_caption_s", "Shortest caption, s", 0.1, 0.1, 10),
            ("caption_lead_s", "In before the word, s", 0.05, 0, 2),
            ("caption_linger_s", "Out after the word, s", 0.05, 0, 5),
            ("caption_snap_s", "To a cut nearer than, s", 0.05, 0, 1),
            ("caption_lines", "Lines", 1, 1, 6),
            ("caption_line_characters", "Characters a line", 1, 8, 80),
            ("caption_gap_s", "Shortest gap between two, s", 0.01, 0, 2),
            ("least_contrast", "Contrast with the picture, at least", 0.5, 1, 21),
        ),
    ),
)
"""House limits in plain words: title, then field of the edit, label, step, least, most."""

STATE_WORDS = (
    ("spills", "too long for its window"),
    ("unvoiced", "no sound yet"),
    ("stale", "words or voice changed since"),
    ("leans", "fits at a changed pace"),
    ("floats", "long silence after it"),
    ("sits", "fits as spoken"),
)

KEYS = (
    ("Space", "Play or stop"),
    ("K", "Stop"),
    ("L", "Play from here"),
    ("J", "Back two seconds"),
    ("← →", "A frame back or on"),
    ("↑ ↓", "The line before or after"),
    ("Enter", "Change the words of the caption that has the focus, or of the chosen line’s"),
    ("H", "Hear the chosen line alone, as its words are now"),
    ("P", "Hear it in its place, with a second before and after"),
    ("R", "Play the chosen shot in a loop"),
    ("V", "Voice all open lines"),
    ("E", "Emphasis on the chosen words: moderate, strong, none"),
    ("W", "Hear the chosen words"),
    ("Y", "Hear the chosen line said by the voice that has the focus in Cast"),
    ("N", "Words: direct the line"),
    ("O", "While it is held: the picture without its adjustments"),
    ("X", "While it is held: the voice without its treatment, where both are compared"),
    ("U", "Picture: split the shot at the frame that is shown"),
    ("F", "Fit everything"),
    ("B", "Flip between now and the proposal, also while it plays"),
    ("A", "Accept the proposal"),
    ("D", "Drop the proposal"),
    (f"1 to {len(PASSES)}", "The passes"),
    ("+ −", "Longer or shorter seconds on the sheet"),
    ("Ctrl Z", "Undo; with Shift, redo"),
    ("Tab, then ↑ ↓", "On a cut, a caption edge or a pause: a frame earlier or later, with Shift ten"),
    ("Shift ↑ ↓", "On a line that has the focus: it starts a frame earlier or later"),
    ("Alt ↑ ↓", "Picture, on the name of a shot: it moves before or after its neighbour"),
    (
        "← →, Shift, Alt",
        "Picture, on the part of a clip: another part, by a frame or ten; with Alt more or less of it",
    ),
    ("Alt while dragging", "No snapping"),
    ("Esc", "Stop typing, undo a drag, close a message"),
    ("?", "This list"),
)

SCRIPT_KEYS = (
    ("Enter", "Begin the next line, or split this one where the caret is"),
    ("Backspace", "At the beginning of a line: join it to the one before"),
    ("Tab", "To what is said; with Shift, back"),
    ("Alt ↑ ↓", "Move the line, or from a heading the whole section"),
    ("Esc", "Stop typing; the keys above act on the line then"),
)
"""Keys while the script is typed (static/scripts/surfaces/words/typing.js)."""


SAMPLE_ID = "marrow-bay"
"""The sample on which the first steps are shown (demo/marrow_bay.py)."""


def error_page(request: Request, status: int, message: str) -> Response:
    return templates.TemplateResponse(request, "error.html", {"message": message}, status_code=status)


@router.get("/", response_class=HTMLResponse)
def projects_page(request: Request, workspace: InWorkspace) -> Response:
    """The list of projects."""
    listed = workspace.projects.list()
    context = {
        "projects": listed,
        "projects_json": _listed_json(listed),
        "deleted": workspace.projects.list(deleted=True),
        "signed_in": request.app.state.network,
    }
    return templates.TemplateResponse(request, "projects.html", context)


def _listed_json(listed: list[ListedProject]) -> str:
    rows = [
        {
            "id": item.project_id,
            "name": item.name,
            "series": item.series,
            "language": language_name(item.language),
            "picture": f"/media/clips/{item.picture[0]}/at/{item.picture[1]}.jpg" if item.picture else "",
            "colour": item.colour,
            "seconds": item.seconds,
            "lines": item.lines,
            "changed": item.changed_at,
        }
        for item in listed
    ]
    return json.dumps(rows).replace("<", "\\u003c")


@router.get("/kept", response_class=HTMLResponse)
def kept_page(request: Request, workspace: InWorkspace) -> Response:
    """What the data folder holds, what of it nothing uses, and what was cleaned up."""
    kept = workspace.cleaning.kept()
    sizes = [
        ("Clips as imported, with small frames for the page", kept.clips),
        ("Takes", kept.takes),
        ("Exports", kept.exports),
        ("Videos that review links show", kept.reviews),
        ("Projects with all their revisions", kept.database),
        ("Cleaned up, can be restored", kept.discarded),
    ]
    context = {
        "folder": workspace.folder,
        "sizes": sizes,
        "free": shutil.disk_usage(workspace.folder).free,
        "unused": workspace.cleaning.unused(),
        "discarded": workspace.cleaning.discarded(),
    }
    return templates.TemplateResponse(request, "kept.html", context)


@router.get("/new", response_class=HTMLResponse)
def new_page(request: Request, workspace: InWorkspace) -> Response:
    """What a new project is made from."""
    context = {
        "others": [(each.project_id, each.name) for each in workspace.projects.list()],
        "rates": list(FRAME_RATES),
        "sizes": SIZES,
        "languages": languages(),
        "encodings": list(ENCODINGS.items()),
    }
    return templates.TemplateResponse(request, "new.html", context)


def _voices_for(project: Project) -> list[Voice]:
    """All voices there are, and the blends that a project uses though nobody here keeps them."""
    known = {voice.id: voice for voice in all_voices()}
    used = {role.voice_id for role in project.roles} | {line.voice_id or "" for line in project.lines}
    own = [voice for each in sorted(used - known.keys()) if (voice := voice_by_id(each)) is not None]
    return [*known.values(), *own]


@router.get("/projects/{project_id}", response_class=HTMLResponse)
def project_page(request: Request, project_id: str, workspace: InWorkspace) -> Response:
    """A project."""
    head = workspace.head(project_id)
    workspace.own_voices.rescan()
    offered = _voices_for(head.project)
    voices = json.dumps([voice_json(voice) for voice in offered])
    of_languages = [voice for voice in offered if not voice.blend_of]  # blends are drawn by the page
    by_language = itertools.groupby(
        sorted(of_languages, key=lambda v: v.language_name), key=lambda v: v.language_name
    )
    context = {
        "project_id": project_id,
        "project": head.project,
        "sample": project_id == SAMPLE_ID,
        "waiting": [clip.hash for clip in workspace.preparing.waiting(head.project.clips.values())],
        "voices_json": voices.replace("<", "\\u003c"),
        "states": STATE_WORDS,
        "lettering_json": json.dumps(
            shipped_json(own_families(workspace.own_fonts.kept()), workspace.caption_styles.all())
        ).replace("<", "\\u003c"),
        "keys": KEYS,
        "looks": LOOKS,
        "script_keys": SCRIPT_KEYS,
        "house_fields": HOUSE_FIELDS,
        "delivery_styles": STYLE_CHOICES,
        "own_voices": workspace.own_voices,
        "encodings": list(ENCODINGS.items()),
        "sizes": SIZES,
        "rates": list(FRAME_RATES),
        "passes": PASSES,
        "languages": languages(),
        "voices_by_language": [(language, list(voices)) for language, voices in by_language],
    }
    return templates.TemplateResponse(request, "project.html", context)
