"""The styles that ship. They differ in kind: in what stands behind the words, how they come and how the
spoken word is shown."""

from fox_cadence.core.lettering.style import CaptionStyle, Edge, Ground, Movement, Place

STYLES: tuple[CaptionStyle, ...] = (
    CaptionStyle(id="plate", name="Plate", width=0.9, ground=Ground(kind="plate")),
    CaptionStyle(
        id="contour", name="Contour", size=0.074, line_height=1.16, width=0.86, lit="#ffd98a",
        edge=Edge(kind="contour"), place=Place(y=0.85),
    ),
    CaptionStyle(
        id="ledger", name="Ledger", family="spline-sans-mono", weight=500, size=0.05, line_height=1.5,
        align="start", width=0.8, ink="#1b2320", lit="#b3400f", place=Place(x=0.1, y=0.84),
        ground=Ground(kind="strips", colour="#f4efe2", opacity=0.96, reach=0.014, round=0),
        comes=Movement(kind="type", seconds=0.5, by="line"), spoken="underline",
    ),
    CaptionStyle(
        id="signal", name="Signal", family="oswald", weight=600, size=0.115, line_height=1.06, case="upper",
        width=0.84, lit="#ff8a4a", letter_spacing=0.01, edge=Edge(kind="copy", width=0.008),
        place=Place(y=0.6, hold="middle"), comes=Movement(kind="grow", seconds=0.16, by="word"),
        spoken="swell",
    ),
    CaptionStyle(
        id="chalk", name="Chalk", family="caveat", weight=700, size=0.1, line_height=1.0, width=0.84,
        ink="#fdfbf2", lit="#f3b6a0", edge=Edge(kind="shadow", width=0.016), place=Place(y=0.87),
        comes=Movement(kind="type", seconds=0.7), goes=Movement(kind="fade", seconds=0.2), spoken="none",
    ),
    CaptionStyle(
        id="tide", name="Tide", family="rubik", weight=800, size=0.07, line_height=1.2, ink="#cfe0dd",
        lit="#ffffff", ground=Ground(kind="band", colour="#123c40", opacity=0.72, reach=0.03),
        comes=Movement(kind="rise", seconds=0.25), goes=Movement(kind="sink", seconds=0.2), spoken="fill",
    ),
    CaptionStyle(
        id="ticket", name="Ticket", family="archivo-black", weight=400, size=0.054, line_height=1.26,
        ink="#2a1a12", lit="#c2410c", width=0.74,
        ground=Ground(kind="ticket", colour="#f7d9a8", opacity=1, reach=0.04),
        place=Place(y=0.85), comes=Movement(kind="slide", seconds=0.3), spoken="lit",
    ),
    CaptionStyle(
        id="margin", name="Margin", family="literata", weight=400, size=0.058, line_height=1.32,
        align="start", width=0.72, ink="#ffffff", lit="#ffd27d", place=Place(x=0.12, y=0.8),
        ground=Ground(kind="bar", colour="#e8662a", opacity=1, reach=0.028),
        edge=Edge(kind="shadow", width=0.014),
        comes=Movement(kind="unroll", seconds=0.3), goes=Movement(kind="fade", seconds=0.15), spoken="lit",
    ),
    CaptionStyle(
        id="lantern", name="Lantern", family="fredoka", weight=700, size=0.076, line_height=1.16,
        ink="#fff6df", lit="#ffc861", edge=Edge(kind="glow", colour="#a3400a", width=0.03),
        comes=Movement(kind="fade", seconds=0.25, by="line"), spoken="swell",
    ),
    CaptionStyle(
        id="quarry", name="Quarry", family="unbounded", weight=700, size=0.05, line_height=1.62,
        ink="#182420", lit="#f2b134", width=0.86, place=Place(y=0.8, hold="middle"),
        ground=Ground(kind="blocks", colour="#f3f6f1", opacity=1, reach=0.012, round=0.2),
        comes=Movement(kind="settle", seconds=0.2, by="word"), spoken="box",
    ),
    CaptionStyle(
        id="gazette", name="Gazette", family="playfair-display", weight=800, size=0.085, line_height=1.1,
        ink="#ffffff", lit="#f7c9a9", width=0.84, place=Place(y=0.14, hold="top"),
        ground=Ground(kind="rules", colour="#ffffff", opacity=0.9, reach=0.028),
        edge=Edge(kind="shadow", width=0.018), comes=Movement(kind="rise", seconds=0.3, by="line"),
        spoken="underline",
    ),
    CaptionStyle(
        id="murmur", name="Murmur", family="rubik", weight=500, size=0.042, line_height=1.35, case="lower",
        letter_spacing=0.06, width=0.7, ink="#ffffff", lit="#ffe3b0", place=Place(y=0.93),
        edge=Edge(kind="shadow", width=0.012), comes=Movement(kind="fade", seconds=0.3),
        goes=Movement(kind="fade", seconds=0.3), spoken="none",
    ),
    CaptionStyle(
        id="pebbles", name="Pebbles", family="fredoka", weight=500, size=0.058, line_height=1.5,
        ink="#20302c", lit="#0f766e", width=0.8,
        ground=Ground(kind="strips", colour="#d9efe6", opacity=0.94, reach=0.02, round=1),
        comes=Movement(kind="grow", seconds=0.2, by="line"), goes=Movement(kind="grow", seconds=0.15),
        spoken="lit",
    ),
    CaptionStyle(
        id="billsticker", name="Billsticker", family="anton", weight=400, size=0.125, line_height=1.08,
        case="upper", width=0.88, ink="#fff4e0", lit="#ff7f5c", align="start", place=Place(x=0.07, y=0.82),
        edge=Edge(kind="contour", colour="#3a1a12", width=0.016),
        comes=Movement(kind="tilt", seconds=0.2, by="word"), spoken="lit",
    ),
)  # fmt: skip
"""Of captions. The first is that of a new project."""

TITLES: tuple[CaptionStyle, ...] = (
    CaptionStyle(
        id="landfall", name="Landfall", family="bricolage-grotesque", weight=700, size=0.12, line_height=1.02,
        align="start", width=0.84, ink="#ffffff", place=Place(x=0.08, y=0.12, hold="top"),
        ground=Ground(kind="bar", colour="#e8662a", opacity=1, reach=0.03),
        edge=Edge(kind="shadow", width=0.016), comes=Movement(kind="rise", seconds=0.5, by="line"),
        goes=Movement(kind="fade", seconds=0.3), spoken="none", for_titles=True,
    ),
    CaptionStyle(
        id="nameplate", name="Nameplate", family="instrument-sans", weight=600, size=0.048, first_line=1.35,
        line_height=1.25, align="start", width=0.7, ink="#17211d", place=Place(x=0.08, y=0.76),
        ground=Ground(kind="plate", colour="#f5f7f2", opacity=0.95, reach=0.03, round=0.05),
        comes=Movement(kind="unroll", seconds=0.4), goes=Movement(kind="unroll", seconds=0.25),
        spoken="none", for_titles=True,
    ),
    CaptionStyle(
        id="chapter", name="Chapter", family="playfair-display", weight=500, size=0.1, first_line=0.5,
        line_height=1.15, width=0.8, ink="#ffffff", place=Place(y=0.42, hold="middle"),
        ground=Ground(kind="rules", colour="#ffffff", opacity=0.85, reach=0.04),
        edge=Edge(kind="shadow", width=0.018), comes=Movement(kind="fade", seconds=0.6, by="line"),
        goes=Movement(kind="fade", seconds=0.4), spoken="none", for_titles=True,
    ),
    CaptionStyle(
        id="number", name="Number", family="bebas-neue", weight=400, size=0.09, first_line=3.0,
        line_height=0.95, width=0.86, ink="#ffffff", place=Place(y=0.36, hold="middle"),
        edge=Edge(kind="copy", colour="#0f3d3a", width=0.01), comes=Movement(kind="grow", seconds=0.35),
        goes=Movement(kind="fade", seconds=0.2), spoken="none", for_titles=True,
    ),
    CaptionStyle(
        id="viewfinder", name="Viewfinder", family="spline-sans-mono", weight=500, size=0.05,
        line_height=1.4, letter_spacing=0.08, case="upper", width=0.66, ink="#ffffff",
        place=Place(y=0.3, hold="middle"),
        ground=Ground(kind="corners", colour="#ffffff", opacity=0.95, reach=0.06),
        edge=Edge(kind="shadow", width=0.012), comes=Movement(kind="type", seconds=0.8),
        goes=Movement(kind="fade", seconds=0.2), spoken="none", for_titles=True,
    ),
    CaptionStyle(
        id="seal", name="Seal", family="lilita-one", weight=400, size=0.085, line_height=1.05, width=0.5,
        ink="#fff7e6", place=Place(x=0.5, y=0.36, hold="middle"),
        ground=Ground(kind="disc", colour="#b3400f", opacity=0.96, reach=0.06),
        comes=Movement(kind="grow", seconds=0.3), goes=Movement(kind="grow", seconds=0.2), spoken="none",
        for_titles=True,
    ),
    CaptionStyle(
        id="placard", name="Placard", family="anton", weight=400, size=0.13, line_height=1.2, case="upper",
        width=0.86, ink="#17211d", place=Place(y=0.4, hold="middle"),
        ground=Ground(kind="strips", colour="#f2b134", opacity=1, reach=0.016, round=0),
        comes=Movement(kind="slide", seconds=0.35, by="line"), goes=Movement(kind="slide", seconds=0.25),
        spoken="none", for_titles=True,
    ),
    CaptionStyle(
        id="signature", name="Signature", family="pacifico", weight=400, size=0.1, line_height=1.25,
        width=0.84, ink="#ffffff", place=Place(y=0.46, hold="middle"),
        edge=Edge(kind="shadow", width=0.018), comes=Movement(kind="unroll", seconds=0.9),
        goes=Movement(kind="fade", seconds=0.3), spoken="none", for_titles=True,
    ),
    CaptionStyle(
        id="notice", name="Notice", family="bricolage-grotesque", weight=600, size=0.06, line_height=1.25,
        width=0.7, ink="#ffffff", place=Place(y=0.3, hold="middle"),
        ground=Ground(kind="box", colour="#ffffff", opacity=0.95, reach=0.05, round=0.1),
        edge=Edge(kind="shadow", width=0.012), comes=Movement(kind="settle", seconds=0.3),
        goes=Movement(kind="fade", seconds=0.2), spoken="none", for_titles=True,
    ),
)  # fmt: skip
"""Of titles."""

_BY_ID = {style.id: style for style in (*STYLES, *TITLES)}


def style_by_id(style_id: str) -> CaptionStyle:
    """The shipped style of that id, the first where there is none."""
    return _BY_ID.get(style_id, STYLES[0])
