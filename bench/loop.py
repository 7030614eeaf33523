"""The loop into sound: what the fit planned against what is heard in the exported file."""

import tempfile
from pathlib import Path

import numpy as np
import skia

from bench.clock import quantile
from bench.corpus import WRITTEN, built
from fox_cadence.actions.bring_in import MediaFile, NewProject, new_project
from fox_cadence.actions.editing import make_edits
from fox_cadence.actions.exporting import export
from fox_cadence.actions.fitting import Accepted, accept, fit
from fox_cadence.actions.measuring import Report, measure_video
from fox_cadence.actions.script_import import Source
from fox_cadence.actions.voicing import voice_lines
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.docket.shipped import usual
from fox_cadence.core.edits import Applied, SetFrame, SetFraming, SetRole, SetTransition
from fox_cadence.core.framing import Framing
from fox_cadence.core.ticks import FrameRate, ticks_to_seconds
from fox_cadence.core.transition import TRANSITIONS
from fox_cadence.demo.samples import ensure_samples
from fox_cadence.voices.catalogue import NATURAL

LINES = 60
WIDTH, HEIGHT = 270, 480

FRAMED: list[Applied] = [
    SetFrame(width=540, height=540),
    *(SetTransition(shot_id=f"s{number}", frames=14, how=how) for number, how in enumerate(TRANSITIONS, 2)),
    SetFraming(shot_id="s3", framing=Framing(zoom=1.2, movement="in")),
    SetFraming(shot_id="s4", framing=Framing(zoom=1.2, movement="out")),
    SetFraming(shot_id="s5", framing=Framing(zoom=1.2, movement="across")),
    SetFraming(shot_id="s6", framing=Framing(fit="blur")),
    SetFraming(shot_id="s7", framing=Framing(fit="blur", movement="in")),
    SetFraming(shot_id="s8", framing=Framing(fit="colour")),
]


def rows() -> list[str]:
    """A table: the sample, in each natural voice, the same framed and joined in all ways, and a piece of 60
    lines over 60 stills."""
    found = [
        "| piece | lines | rounds | ends off plan, worst | stretch, worst | speech found off plan: worst | "
        "p95 "
        "| within 10 ms | cuts, captions off |",
        "| --- | --- | --- | --- | --- | --- | --- | --- | --- |",
    ]
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder)) as workspace:
        sample = ensure_samples(workspace)
        found.append(_row("the sample", workspace, sample))
        for voice in NATURAL:
            head = workspace.head(sample)
            edits = [SetRole(role_id=role.id, voice_id=voice.id) for role in head.project.roles]
            make_edits(workspace, sample, head, edits)
            found.append(_row(f"the sample by {voice.name}", workspace, sample))
        make_edits(workspace, sample, workspace.head(sample), FRAMED)
        found.append(_row("the same, square, framed, with transitions", workspace, sample))
        found.append(_row(f"{LINES} lines", workspace, sixty_lines(workspace, Path(folder))))
    return found


def sixty_lines(workspace: Workspace, folder: Path) -> str:
    """A new project of 60 texts on 60 stills that change colour, so that cuts are found; stills lie in a
    folder."""
    chance = np.random.default_rng(5)
    stills = []
    for number in range(LINES):
        colour = (255 * ((number % 2) * 0.5 + chance.random(3) * 0.4)).astype(np.uint8)
        pixels = np.empty((HEIGHT, WIDTH, 4), np.uint8)
        pixels[..., :3], pixels[..., 3] = colour, 255
        path = folder / f"{number:02}.png"
        skia.Image.fromarray(pixels).save(str(path), skia.kPNG)
        stills.append(MediaFile(path, path.name))
    texts = [*WRITTEN["en"], *built("en", LINES)][:LINES]
    wanted = NewProject("Sixty", WIDTH, HEIGHT, FrameRate(numerator=30))
    return new_project(workspace, wanted, stills, Source("words.txt", "\n\n".join(texts).encode())).project_id


def _row(name: str, workspace: Workspace, project_id: str) -> str:
    voice_lines(workspace, project_id)
    accepted = accept(workspace, fit(workspace, project_id))
    assert not accepted.failed
    with tempfile.TemporaryDirectory() as out:
        files = export(workspace, project_id, Path(out), usual(sound=False, captions=False)).paths
        report = measure_video(workspace, files[0], project_id)
    return _summary(name, accepted, report)


def _summary(name: str, accepted: Accepted, report: Report) -> str:
    planned = [
        ticks_to_seconds(ticks) * 1000
        for plan in accepted.proposal.lines
        for ticks in (plan.start_ticks, plan.end_ticks)
    ]
    assert all(item.found is not None for item in report.speech)
    off = [abs((item.found or 0.0) - plan) for item, plan in zip(report.speech, planned, strict=True)]
    ends = max(abs(ticks_to_seconds(result.off_ticks)) * 1000 for result in accepted.lines)
    share = sum(value <= 10 for value in off) / len(off)
    stretch = max(abs(result.stretch) for result in accepted.lines)
    pictures = [
        abs(item.off) if item.off is not None else float("inf") for item in (*report.cuts, *report.captions)
    ]
    return (
        f"| {name} | {len(accepted.proposal.lines)} ({len(accepted.lines)} made anew) | {accepted.rounds} "
        f"| {ends:.1f} ms | {stretch:.2%} | {max(off):.1f} ms "
        f"| {quantile(off, 0.95):.1f} ms | {share:.0%} | {max(pictures):.0f} frames |"
    )
