"""What words and figures on the screen cost: drawing them, painting a frame in which they move, looking at
them by the rules, and an export with all of it against one without."""

import math
import statistics
import tempfile
import time
from pathlib import Path

import numpy as np

from bench.exporting import cpu_of_export
from fox_cadence.actions.proofing import ProofSheet
from fox_cadence.actions.workspace import Workspace
from fox_cadence.core.acting import Acted
from fox_cadence.core.figures.characters import CHARACTERS, drawn
from fox_cadence.core.figures.drawing import Pose, standing
from fox_cadence.core.figures.figure import CharacterId, Figure
from fox_cadence.core.lettering.drawing import letter
from fox_cadence.core.lettering.motion import moments
from fox_cadence.core.lettering.style import CaptionStyle
from fox_cadence.core.lettering.styles import STYLES, TITLES, style_by_id
from fox_cadence.core.screen import Screen, ScreenCaption
from fox_cadence.core.ticks import FrameRate
from fox_cadence.demo.samples import ensure_samples
from fox_cadence.media.figure_paint import FigurePainter
from fox_cadence.media.fonts import faces_for
from fox_cadence.media.render import CaptionPainter, plain_colour

TEXT = "An anemone closes like a fist when a shadow crosses it."
SPOKEN = [(4 + 5 * n, 9 + 5 * n) for n in range(11)]
FRAMES = 70
RATE = FrameRate(numerator=30)
LIVELY = "signal"


def rows() -> list[str]:
    found = [*_painting(), *_figures(), *_proving()]
    plain, lively = cpu_of_export(None), cpu_of_export(style_by_id(LIVELY))
    found.append(
        f"export of the sample in {LIVELY} with its title and a figure ({lively:.1f} s of CPU) against "
        f"still plates ({plain:.1f} s): "
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
    return _timed(painter)


def _timed(painter: CaptionPainter | FigurePainter) -> list[float]:
    """Milliseconds of each frame that is painted."""
    times: list[float] = []
    for frame in range(FRAMES):
        y, u, v = (np.array(plane) for plane in plain_colour("#406080", 1080, 1920))
        began = time.perf_counter()
        painter.paint((y, u, v), frame)
        times.append(1000 * (time.perf_counter() - began))
    return times


def _figures() -> list[str]:
    """Milliseconds to paint a figure that speaks, at half the frame's shorter side and at all of it."""
    found = ["| figure | half | whole |", "| --- | --- | --- |"]
    for character, each in CHARACTERS.items():
        means = [statistics.mean(_acted(character, size)) for size in (0.5, 1.0)]
        found.append(f"| {each.name} | {means[0]:.1f} | {means[1]:.1f} |")
    return found


def _acted(character: CharacterId, size: float) -> list[float]:
    poses = tuple(
        Pose()._replace(jaw=round(50 + 50 * math.sin(n)), wide=n % 60, teeth=20, tongue=20, nod=n % 30)
        for n in range(FRAMES)
    )
    figure = Figure(id="g1", role_id="r1", character=character)
    stands = standing(0.5, 0.6, size, (1080, 1920))
    painter = FigurePainter([Acted(figure, drawn(character, "right", {}), stands, 0, poses)])
    return _timed(painter)


def _proving() -> list[str]:
    with tempfile.TemporaryDirectory() as folder, Workspace(Path(folder)) as workspace:
        project_id = ensure_samples(workspace)
        timeline = workspace.timeline(workspace.head(project_id).project)
        times: list[float] = []
        for _ in range(2):
            began = time.perf_counter()
            sheet = ProofSheet(workspace, timeline)
            for words in sheet.words:
                sheet.prove(words)
            times.append(1000 * (time.perf_counter() - began) / len(sheet.words))
    return [f"the rules for one caption: {times[0]:.0f} ms at first, {times[1]:.1f} ms again"]
