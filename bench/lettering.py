"""What words on the screen cost: drawing them, painting a frame in which they move, looking at them by the
rules, and an export with all of it against one without."""

import statistics
import tempfile
import time
from pathlib import Path

import numpy as np

from bench.exporting import cpu_of_export
from fox_cadence.actions.proofing import ProofSheet
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.lettering.drawing import letter
from fox_cadence.core.lettering.motion import moments
from fox_cadence.core.lettering.style import CaptionStyle
from fox_cadence.core.lettering.styles import STYLES, TITLES, style_by_id
from fox_cadence.core.screen import Screen, ScreenCaption
from fox_cadence.core.ticks import FrameRate
from fox_cadence.demo.marrow_bay import ensure_demo
from fox_cadence.media.fonts import faces_for
from fox_cadence.media.render import CaptionPainter, plain_colour

TEXT = "An anemone closes like a fist when a shadow crosses it."
SPOKEN = [(4 + 5 * n, 9 + 5 * n) for n in range(11)]
FRAMES = 70
RATE = FrameRate(numerator=30)
LIVELY = "signal"


def rows() -> list[str]:
    found = [*_painting(), *_proving()]
    plain, lively = cpu_of_export(None), cpu_of_export(style_by_id(LIVELY))
    found.append(
        f"export of the sample in {LIVELY} ({lively:.1f} s of CPU) against still plates ({plain:.1f} s): "
        f"{lively / plain:.2f}"
    )
    return found


def _painting() -> list[str]:
    """Milliseconds to paint the frames of a caption at 1080 × 1920, the first one included, which makes its
    outlines."""
    found = ["| style | mean | p95 |", "| --- | --- | --- |"]
    means: list[float] = []
    for style in (*STYLES, *TITLES):
        times = painted(style)
        means.append(statistics.mean(times))
        found.append(f"| {style.name} | {means[-1]:.1f} | {sorted(times)[int(0.95 * len(times))]:.1f} |")
    return [*found, f"The dearest takes {max(means):.1f} ms a frame (aim 6)."]


def painted(style: CaptionStyle) -> list[float]:
    drawing = letter(TEXT, style, faces_for(style, "en"), 1080, 1920)
    when = moments(drawing, style, SPOKEN, 0, FRAMES, RATE)
    words = (ScreenCaption("c", drawing, 0, FRAMES, when),)
    painter = CaptionPainter(Screen(1080, 1920, RATE, (), words))
    times: list[float] = []
    for frame in range(FRAMES):
        y, u, v = (np.array(plane) for plane in plain_colour("#406080", 1080, 1920))
        began = time.perf_counter()
        painter.paint((y, u, v), frame)
        times.append(1000 * (time.perf_counter() - began))
    return times


def _proving() -> list[str]:
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder)) as workspace:
        project_id = ensure_demo(workspace)
        timeline = workspace.timeline(workspace.head(project_id).project)
        times: list[float] = []
        for _ in range(2):
            began = time.perf_counter()
            sheet = ProofSheet(workspace, timeline)
            for words in sheet.words:
                sheet.prove(words)
            times.append(1000 * (time.perf_counter() - began) / len(sheet.words))
    return [f"the rules for one caption: {times[0]:.0f} ms at first, {times[1]:.1f} ms again"]
