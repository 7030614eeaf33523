"""Long work about sound, as jobs carry it out (actions/jobs.py)."""

from collections.abc import Mapping
from typing import Any

from fox_cadence.actions.cleaning import clean_takes
from fox_cadence.actions.mix_standing import duck_for_words
from fox_cadence.actions.music import beats_for_cuts, cut_bed, loop_bed
from fox_cadence.actions.performing import at_tempo, say_as_recorded, sing_line
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.sound.cleaning import Cleaning
from fox_cadence.core.sound.singing import tune_by_id, typed_tune
from fox_cadence.jobs.runner import Watcher

Request = Mapping[str, Any]
Result = dict[str, Any]


def clean(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """`line_ids`, and what is taken away (`cleaning`)."""
    cleaning = Cleaning.model_validate(request["cleaning"])
    made = clean_takes(workspace, project_id, request["line_ids"], cleaning, watcher)
    return {"lines": list(made.lines), "quieter_db": made.quieter_db}


def bed(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """`what` is to be done with a `bed` by its music."""
    bed_id, what = request["bed"], request["what"]
    if what == "cut":
        cut = cut_bed(workspace, project_id, bed_id, watcher)
        return {"jumps": cut.jumps, "cost": round(cut.cost, 2), "hit_s": round(cut.hit_s, 3)}
    if what == "loop":
        first, end = loop_bed(workspace, project_id, bed_id, watcher)
        return {"from_s": round(first, 3), "to_s": round(end, 3)}
    if what == "duck":
        made = duck_for_words(workspace, project_id, bed_id, watcher)
        return {
            "duck_db": made.duck_db,
            "understood": None if made.understood is None else round(made.understood, 3),
        }
    return {"count": beats_for_cuts(workspace, project_id, bed_id, what == "bars", watcher)}


def sing(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """`line`, and the `tune` by its id, or else typed `notes`."""
    tune = tune_by_id(request["tune"]) or typed_tune(request["notes"])
    made = sing_line(workspace, project_id, request["line"], tune, watcher)
    return {"tempo_bpm": round(made.tempo_bpm, 1), "tonic": made.tonic, "with_bed": made.with_bed}


def say(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """`line`, by which `voice` it is said as it was recorded."""
    return {"take": say_as_recorded(workspace, project_id, request["line"], request["voice"], watcher).id}


def tempo(workspace: Workspace, project_id: str, request: Request, watcher: Watcher) -> Result:
    """The recording of a `line` at so many `percent` of its tempo."""
    return {"take": at_tempo(workspace, project_id, request["line"], request["percent"], watcher).id}
