"""How smoothly the page plays 60 shots, plain and with everything done to them: frames drawn, gaps, and how
far the picture is from the sound."""

import random
import tempfile
from itertools import pairwise
from pathlib import Path

from playwright.sync_api import Page

from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.adjustment import Adjustment
from fox_cadence.core.framing import Framing
from fox_cadence.core.project import Project
from fox_cadence.core.shot import Shot
from fox_cadence.core.transition import TRANSITIONS
from fox_cadence.demo.samples import ensure_samples
from tests.browser.application import chromium, served

SHOTS = 60
FRAMES = 45
SECONDS = 20
MOVEMENTS = ("in", "out", "across", "back", "to")

WATCH = """async (seconds) => {
    const { page } = await import("/static/scripts/piece/page.js");
    const seen = [];
    const began = performance.now();
    await new Promise((done) => {
        const look = () => {
            const at = page.player.position();
            seen.push([performance.now() - began, page.stage.painted, at * 30]);
            if (performance.now() - began < seconds * 1000) requestAnimationFrame(look);
            else done();
        };
        requestAnimationFrame(look);
    });
    return seen;
}"""


def piece(base: Project, done: bool) -> Project:
    """Sixty short shots of the sample's clips; `done` with framing, movement, adjustment and transition."""
    chance = random.Random(4)
    clips = [clip for clip in base.clips.values() if clip.kind == "video"]
    shots: list[Shot] = []
    for number in range(SHOTS):
        shot = Shot(
            id=f"s{number + 1}",
            name=f"Shot {number + 1}",
            clip_hash=clips[number % len(clips)].hash,
            length_frames=FRAMES,
            wanted_frames=FRAMES,
        )
        if done:
            shot = shot.changed(
                framing=Framing(
                    x=chance.random(), zoom=1.3, movement=MOVEMENTS[number % 5], amount=0.2, to_zoom=1.8
                ),
                adjustment=Adjustment(
                    exposure=chance.uniform(-0.5, 0.5), warmth=20, look="kelp", vignette=0.4
                ),
                transition_frames=12 if number + 1 < SHOTS else 0,
                transition_kind=TRANSITIONS[number % len(TRANSITIONS)],
            )
        shots.append(shot)
    return base.changed(
        shots=tuple(shots),
        lines=(),
        captions=(),
        scene_texts=(),
        beds=(),
        longest_ticks=None,
        width=1080,
        height=1920,
    )


def rows() -> list[str]:
    """A table: plain shots, then the same with everything."""
    found = [
        f"| {SHOTS} shots, {SECONDS} s of them, 30 a second | frames drawn | gaps over 100 ms | longest gap "
        "| behind the sound: median | p95 |",
        "| --- | --- | --- | --- | --- | --- |",
    ]
    with tempfile.TemporaryDirectory() as folder:
        with Workspace(Path(folder)) as workspace:
            base = workspace.head(ensure_samples(workspace)).project
            ids = [
                (name, workspace.projects.create(piece(base, done), "Made"))
                for name, done in (("plain", False), ("framed, moving, adjusted, in transition", True))
            ]
        with served(Path(folder)) as address, chromium() as browser:
            for name, project_id in ids:
                page = browser.new_page(viewport={"width": 1280, "height": 800})
                page.goto(f"{address}/projects/{project_id}")
                page.locator(".framebox canvas").wait_for()
                page.wait_for_timeout(4000)  # the small frames are fetched
                found.append(_played(page, name))
                page.close()
    return found


def _played(page: Page, name: str) -> str:
    page.locator(".pass[data-pass=picture]").click()
    page.get_by_role("button", name="Play", exact=True).click()
    page.wait_for_timeout(1500)
    seen: list[tuple[float, int, float]] = page.evaluate(WATCH, SECONDS)
    page.keyboard.press("k")
    changes = [seen[0]]
    for row in seen:
        if row[1] != changes[-1][1]:
            changes.append(row)
    gaps = [later[0] - before[0] for before, later in pairwise(changes)]
    behind = sorted((at - painted) / 30 * 1000 for _, painted, at in seen)
    middle, late = behind[len(behind) // 2], behind[int(len(behind) * 0.95)]
    share = len(changes) / (SECONDS * 30)
    return (
        f"| {name} | {share:.0%} | {sum(gap > 100 for gap in gaps)} | {max(gaps):.0f} ms | {middle:.0f} ms "
        f"| {late:.0f} ms |"
    )
