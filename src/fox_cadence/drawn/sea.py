"""The sea, its shores and its ships."""

import math

from fox_cadence.drawn.brush import Brush
from fox_cadence.drawn.catalogue import entered


@entered(
    "sea-waves", "Waves at dusk", "sea", "sea ocean water wave swell evening dusk surf coast calm breathe"
)
def waves(b: Brush) -> None:
    b.sky((0, "#27364f"), (0.4, "#8a6a76"), (0.5, "#e0a178"), (1, "#1d2b3d"))
    b.disc(0.3, 0.44, 0.09, "#ffe2b0", soft=0.03)
    for number in range(7):
        y = 0.5 + 0.07 * number + 0.004 * math.sin(b.t + number)
        code = ("#5b6a83", "#50617d", "#465877", "#3c4f6f", "#324566", "#293b5b", "#20304d")[number]
        b.water(y, code, swell=0.004 + 0.0025 * number, pace=0.7 + 0.15 * number)
    b.glints(5, 40, 0.5, "#ffd9a8")


@entered(
    "sea-storm",
    "Storm at sea",
    "sea",
    "storm sea rough wave danger fear anger wind trouble crisis rain weather",
)
def storm(b: Brush) -> None:
    b.sky((0, "#22272c"), (0.5, "#4a5458"), (1, "#161b1f"))
    flash = max(0.0, 1 - abs((b.t % 3.4) - 1.6) * 9)
    b.block(0, 0, 1, 0.55, "#e8f0ff", 0.5 * flash)
    for number in range(6):
        b.water(
            0.46 + 0.09 * number, ("#4b5a5e", "#435358", "#3a4a50", "#314148", "#28373e", "#1f2d34")[number],
            swell=0.02 + 0.008 * number, pace=1.6 + 0.2 * number, count=36,
        )  # fmt: skip
    for number in range(60):
        x, y = (number * 0.377 + 0.5 * b.t) % 1.2 - 0.1, (number * 0.619 + 1.7 * b.t) % 1.1 - 0.05
        b.stroke([(x, y), (x + 0.012, y + 0.045)], "#c8d6da", 0.003, 0.4)


@entered(
    "sea-lighthouse",
    "Lighthouse",
    "sea",
    "lighthouse light night beam guide warning signal safe harbour coast",
)
def lighthouse(b: Brush) -> None:
    b.sky((0, "#0d1424"), (0.6, "#22304a"), (1, "#101828"))
    with b.square(0.5, 0.5, 1.0) as s:
        turn = b.t * 0.9
        for way in (0.0, math.pi):
            reach = math.cos(turn + way)
            wide = 0.05 + 0.05 * abs(math.sin(turn + way))
            end = 0.5 + 1.6 * reach
            s.shape([(0.5, 0.3), (end, 0.3 - wide), (end, 0.3 + wide)], "#fff1c4", 0.35, smooth=False)
        s.shape([(0.45, 0.34), (0.55, 0.34), (0.6, 0.86), (0.4, 0.86)], "#d8d3c8", smooth=False)
        for band in (0.44, 0.62):
            s.shape(
                [(0.44, band), (0.56, band), (0.572, band + 0.09), (0.428, band + 0.09)],
                "#a4483a",
                smooth=False,
            )
        s.block(0.455, 0.27, 0.09, 0.075, "#3a2f2a")
        s.disc(0.5, 0.305, 0.025, "#fff6d8", soft=0.02)
        s.shape([(0.44, 0.275), (0.5, 0.21), (0.56, 0.275)], "#3a2f2a", smooth=False)
    b.ridge(0.8, [0.06, 0.05, 0.02, 0.0, 0.0, 0.03, 0.07, 0.09, 0.08], "#1b1f24")
    b.water(0.9, "#16233a", swell=0.006, pace=1.0)


@entered(
    "sea-boat",
    "Sailing boat",
    "sea",
    "boat ship sail sailing voyage journey travel wind freedom adventure trip",
)
def boat(b: Brush) -> None:
    b.sky((0, "#9cc9d8"), (0.55, "#d9ecec"), (1, "#5f9db0"))
    b.ridge(0.56, [0.01, -0.02, -0.01, 0.0, -0.025, -0.01, 0.005], "#8aa8a0")
    b.water(0.58, "#5f9db0", swell=0.004, pace=0.8)
    x = 0.2 + 0.085 * b.t
    with b.square(x, 0.56 + 0.006 * math.sin(b.t * 1.6), 0.5, 3 * math.sin(b.t * 1.3)) as s:
        s.stroke([(0.5, 0.1), (0.5, 0.72)], "#6b4a35", 0.02)
        s.shape([(0.52, 0.12), (0.82, 0.62), (0.52, 0.62)], "#fbf5e6", smooth=False)
        s.shape([(0.48, 0.2), (0.48, 0.62), (0.28, 0.62)], "#e98f5b", smooth=False)
        s.shape([(0.2, 0.68), (0.86, 0.68), (0.74, 0.82), (0.3, 0.82)], "#803f2d", smooth=False)
    b.water(0.63, "#3f7f97", swell=0.006, pace=1.1)
    b.water(0.78, "#2f6d86", swell=0.01, pace=1.4)
    b.glints(8, 24, 0.64, "#e8f8f8")


@entered(
    "sea-beach", "Empty beach", "sea", "beach sand shore holiday summer footprints rest alone tide", "still"
)
def beach(b: Brush) -> None:
    b.sky((0, "#8ec5da"), (0.42, "#dcefee"), (1, "#e6cfa1"))
    b.water(0.4, "#4f9fae", swell=0.003, pace=0.7)
    b.ridge(0.56, [0.02, 0.0, -0.01, 0.015, 0.03, 0.01, 0.0, 0.02], "#f6ead0")
    b.ridge(0.6, [0.02, 0.0, -0.01, 0.015, 0.03, 0.01, 0.0, 0.02], "#e2c793")
    for step in range(9):
        x, y = 0.62 - 0.03 * step + (0.03 if step % 2 else 0), 0.68 + 0.035 * step
        with b.square(x, y, 0.04 + 0.006 * step, -18) as s:
            s.shape([(0.3, 0.1), (0.7, 0.1), (0.65, 0.9), (0.35, 0.9)], "#b99664", 0.8)


@entered(
    "sea-deep", "Light under water", "sea", "underwater deep diving blue bubbles silence dream water below"
)
def deep(b: Brush) -> None:
    b.sky((0, "#2f9bb0"), (0.5, "#12607c"), (1, "#06283d"))
    b.shafts(7, "#d5fbff")
    for number in range(26):
        x = (number * 0.381) % 1 + 0.012 * math.sin(b.t * 2 + number)
        y = 1.05 - (number * 0.137 + 0.11 * b.t * (1 + number % 3 * 0.4)) % 1.1
        b.disc(x, y, 0.006 + 0.004 * (number % 3), "#d8f8ff", 0.5)
