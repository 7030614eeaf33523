"""1,332 captions brought in on a clip of a minute: laid, shown and fitted."""

import itertools
import tempfile
import time
from fractions import Fraction
from pathlib import Path

from fox_cadence.actions.bring_in import MediaFile, NewProject, new_project
from fox_cadence.actions.fitting import fit
from fox_cadence.actions.script_import import Source
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.ticks import FrameRate, seconds_to_ticks
from fox_cadence.formats.cues import Cue
from fox_cadence.formats.srt import write
from fox_cadence.web.answers.answer import Answer, Answers
from fox_cadence.web.answers.proposal import proposal_json
from tests.media import files

CAPTIONS, STEP_S, SHOWN_S = 1332, 2.4, 2.2
WORDS = ("The tide", "goes out", "over the pools", "and a crab", "waits under weed", "until it turns again.")


def rows() -> list[str]:
    cues = [
        Cue(
            f"{WORDS[n % 6]} {WORDS[(n * 7 + 1) % 6]} number {n}.",
            seconds_to_ticks(n * STEP_S),
            seconds_to_ticks(n * STEP_S + SHOWN_S),
        )
        for n in range(CAPTIONS)
    ]
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder) / "data") as workspace:
        clip = files.video(Path(folder) / "clip.mp4", 60.0, Fraction(30), (160, 120))
        wanted = NewProject("Long", 1080, 1920, FrameRate(numerator=30))
        times = [time.perf_counter()]
        words = Source("a.srt", write(cues).encode())
        made = new_project(workspace, wanted, [MediaFile(clip, "clip.mp4")], words)
        times.append(time.perf_counter())
        answer = Answer(Answers(workspace), workspace, "")
        for _ in range(2):
            answer.project(made.project_id)
            times.append(time.perf_counter())
        fitted = fit(workspace, made.project_id)
        times.append(time.perf_counter())
        proposal_json(fitted)
        times.append(time.perf_counter())
        outside = len(fitted.proposal.outside)
    names = ("brought in, with its clip", "the page's JSON", "the same again", "the fit", "its JSON")
    lasted = [after - before for before, after in itertools.pairwise(times)]
    return [
        f"{CAPTIONS} captions on a clip of a minute; {outside} lines or captions are left outside the piece:",
        "",
        "| what | seconds |",
        "| --- | --- |",
        *(f"| {name} | {seconds:.2f} |" for name, seconds in zip(names, lasted, strict=True)),
    ]
