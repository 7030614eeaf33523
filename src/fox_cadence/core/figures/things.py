"""Things with a face, drawn by code; sides as in people.py."""

from fox_cadence.core.figures.shapes import (
    Shape,
    about,
    along,
    bowed,
    corners,
    curve,
    eye,
    mouth,
    oval,
    stroke,
)


def limpet(side: float) -> list[Shape]:
    near, far = 36 * side, 14 * side
    x = 400 + near
    foot = [
        curve(
            "foot",
            [(70, 1010), (96, 930), (220, 880), (400, 868), (580, 880), (704, 930), (730, 1010)],
            sharp=(0, 6),
        ),
        oval("shade", 400, 930, 270, 34),
    ]
    shell = [
        curve(
            "shell",
            [
                (92, 880),
                (150, 640),
                (268, 360),
                (372 - far, 190),
                (430 - far, 190),
                (532, 360),
                (650, 640),
                (708, 880),
                (560, 936),
                (400, 950),
                (240, 936),
            ],
            sharp=(0, 7),
        ),
        curve(
            "stripe",
            [(372 - far, 196), (392 - far, 192), (330, 480), (262, 920), (214, 906), (276, 480)],
            sharp=(0, 1, 3, 4),
        ),
        curve(
            "stripe",
            [(410 - far, 192), (430 - far, 196), (524, 480), (586, 906), (538, 920), (470, 480)],
            sharp=(0, 1, 3, 4),
        ),
        oval("stripe", 400 - far, 206, 40, 30),
    ]
    face = [
        curve(
            "face",
            [
                (226 + near, 640),
                (290 + near, 520),
                (400 + near, 484),
                (510 + near, 520),
                (574 + near, 640),
                (540 + near, 790),
                (400 + near, 850),
                (260 + near, 790),
            ],
        ),
        *eye(322 + near, 612, 44, 48, "line", 12),
        *eye(478 + near, 612, 44, 48, "line", 12),
        oval("blush", 276 + far, 708, 36, 24),
        oval("blush", 524 + far, 708, 36, 24),
        *mouth(x + far, 740, 62, 80, "lips", 9, 8),
    ]
    return [*foot, *bowed(shell, 400, 940, 1.2, 10), *bowed(face, 400, 940, 1.2, 16)]


def bell(side: float) -> list[Shape]:
    near, far = 36 * side, 14 * side
    x = 400 + near
    water = [
        curve(
            "water",
            [
                (20, 1010),
                (40, 920),
                (150, 890),
                (280, 916),
                (400, 890),
                (520, 916),
                (650, 890),
                (760, 920),
                (780, 1010),
            ],
            sharp=(0, 8),
        ),
    ]
    tower = [
        stroke("frame", [(276, 470), (310, 360), (344, 250), (372, 160)], 26),
        stroke("frame", [(524, 470), (490, 360), (456, 250), (428, 160)], 26),
        corners("frame", [(318, 330), (482, 330), (486, 352), (314, 352)]),
        oval("lamp", 400, 130, 46, 52),
        corners("frame", [(350, 168), (450, 168), (456, 192), (344, 192)]),
        curve("frame", [(352, 96), (400, 60), (448, 96), (440, 108), (360, 108)], sharp=(0, 2, 3, 4)),
        curve("trim", [(372, 352), (428, 352), (452, 430), (348, 430)], sharp=(0, 1, 2, 3)),
    ]
    drum = [
        curve(
            "body",
            [(196, 470), (400, 440), (604, 470), (640, 880), (400, 960), (160, 880)],
            sharp=(0, 2, 3, 5),
        ),
        curve(
            "trim",
            [(190, 540), (400, 512), (610, 540), (602, 466), (400, 438), (198, 466)],
            sharp=(0, 2, 3, 5),
        ),
        curve(
            "trim",
            [(166, 800), (400, 850), (634, 800), (640, 872), (400, 930), (160, 872)],
            sharp=(0, 2, 3, 5),
        ),
    ]
    face = [
        *eye(312 + near, 620, 44, 48, "line", 12),
        *eye(488 + near, 620, 44, 48, "line", 12),
        stroke("line", [(268 + near, 552), (296 + near, 540), (322 + near, 540), (350 + near, 552)], 14),
        stroke("line", [(450 + near, 552), (478 + near, 540), (504 + near, 540), (532 + near, 552)], 14),
        *mouth(x + far, 734, 70, 76, "lips", 9, 8),
    ]
    sway = about(400, 960, 1.6)
    return [
        *(shape.moved("nod", sway) for shape in (*tower, *drum)),
        *(shape.moved("nod", along(0, 16)) for shape in face),
        *water,
    ]
