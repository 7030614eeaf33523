"""Caption drawings for SVG."""

from fox_cadence.core.lettering import CaptionDrawing
from fox_cadence.web.answers.shapes import DrawingJson


def drawing_json(drawing: CaptionDrawing) -> DrawingJson:
    """A caption drawing for SVG: the plate, the outlines of each word, and how they are inked."""
    plate = drawing.plate
    return {
        "width": drawing.width,
        "height": drawing.height,
        "plate": {
            "x": round(plate.x, 2), "y": round(plate.y, 2), "width": round(plate.width, 2),
            "height": round(plate.height, 2), "radius": round(plate.radius, 2), "colour": plate.colour,
            "opacity": plate.opacity,
        } if plate else None,
        "words": [word.svg for word in drawing.words],
        "fill": drawing.fill,
        "lit": drawing.lit,
        "stroke": drawing.stroke,
        "stroke_width": round(drawing.stroke_width, 2),
        "missing": drawing.missing,
    }  # fmt: skip
