"""What is changed of a shot's picture, as pure numbers: a table of colours, and what is done beside it.

The table is the same in the preview and in the export (static/scripts/frame/adjusting.js,
media/adjuster.py); both find a colour between its points by trilinear interpolation.
"""

import re
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from fox_cadence.core.value import Value

POINTS = 33
"""Of a table along each side."""

Table: TypeAlias = NDArray[np.float32]
"""Colours by red, green and blue, shape (n, n, n, 3); coded values of BT.709 from 0 to 1."""

LUMA = np.array([0.2126, 0.7152, 0.0722], np.float32)
"""Rec. ITU-R BT.709-6, item 3.2."""

_HASH = re.compile(r"[0-9a-f]{64}")
_GAMMA = 2.2
_MIDDLE = 0.45
_WARM_STOPS, _TINT_STOPS = 0.6, 0.5

VIGNETTE = ((0.35, 0.0), (0.5, 0.06), (0.65, 0.24), (0.8, 0.55), (1.0, 1.0))
"""How dark, of what is asked for, at which part of the way from the middle to a corner; straight between."""

SHARP_SIGMA = 0.0012
"""The blur that sharpness takes the details against: standard deviation, of the longer side of the frame."""


class Adjustment(Value):
    """`exposure` in stops; `contrast` and `saturation` as factors; `warmth` (blue to yellow) and `tint`
    (green to magenta) from -100 to 100; `sharpness` is how much of the finest detail is added, `vignette` how
    dark a corner gets. `look` is the id of a shipped look (core/looks.py) or the hash of a clip that is
    one."""

    exposure: float = Field(0.0, ge=-3, le=3)
    contrast: float = Field(1.0, ge=0.4, le=2)
    warmth: float = Field(0.0, ge=-100, le=100)
    tint: float = Field(0.0, ge=-100, le=100)
    saturation: float = Field(1.0, ge=0, le=2)
    sharpness: float = Field(0.0, ge=0, le=2)
    vignette: float = Field(0.0, ge=0, le=1)
    look: str = Field("", max_length=80)
    look_share: float = Field(1.0, ge=0, le=1)

    @property
    def colours(self) -> "Adjustment":
        """What of it the table does: the rest as it is without."""
        return self.changed(sharpness=0.0, vignette=0.0, look_share=self.look_share if self.look else 1.0)

    @property
    def look_hash(self) -> str | None:
        """The clip its look is, None for a shipped one or none."""
        return self.look if _HASH.fullmatch(self.look) else None


UNADJUSTED = Adjustment()
"""Nothing is changed."""


def colours_of(key: str) -> Adjustment:
    """The colours a key stands for: exposure, contrast, warmth, tint, saturation and the share of the look,
    then the look or a hyphen, with low lines between. Raises ValueError for what is none."""
    *values, look = key.split("_")
    exposure, contrast, warmth, tint, saturation, share = (float(value) for value in values)
    return Adjustment(
        exposure=exposure,
        contrast=contrast,
        warmth=warmth,
        tint=tint,
        saturation=saturation,
        look_share=share,
        look="" if look == "-" else look,
    )


def identity(points: int = POINTS) -> Table:
    """The table that changes nothing."""
    steps = np.linspace(0, 1, points, dtype=np.float32)
    return np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1)


def table_of(adjustment: Adjustment, look: Table | None) -> Table:
    """The colours of an adjustment, exposure and white first (on light), then contrast and saturation (on
    coded values), then the look.

    Args:
        look: the table of its look, None without one.
    """
    made = identity()
    light = made**_GAMMA * (2.0**adjustment.exposure * _white(adjustment))
    made = light ** (1 / _GAMMA)
    made = _MIDDLE + (made - _MIDDLE) * adjustment.contrast
    grey = made @ LUMA
    made = np.clip(grey[..., np.newaxis] + (made - grey[..., np.newaxis]) * adjustment.saturation, 0, 1)
    if look is not None and adjustment.look_share:
        made = made + (through(look, made) - made) * adjustment.look_share
    return np.asarray(np.clip(made, 0, 1), dtype=np.float32)


def _white(adjustment: Adjustment) -> NDArray[np.float32]:
    """What light is multiplied with, so that white keeps its luma."""
    warm, tint = adjustment.warmth / 100 * _WARM_STOPS, adjustment.tint / 100 * _TINT_STOPS
    gains = 2 ** np.array([warm + tint / 2, -tint / 2, -warm + tint / 2], np.float32)
    return np.asarray(gains / float(gains @ LUMA), dtype=np.float32)


def through(table: Table, colours: NDArray[np.float32]) -> NDArray[np.float32]:
    """Colours (..., 3) from 0 to 1 as a table has them, trilinear between its points."""
    size = table.shape[0]
    at = np.clip(colours, 0, 1) * np.float32(size - 1)
    low = np.minimum(at.astype(np.int32), size - 2)
    share = at - low
    flat = table.reshape(-1, 3)
    base = (low[..., 0] * size + low[..., 1]) * size + low[..., 2]
    made = np.zeros(colours.shape, np.float32)
    for corner in range(8):
        bits = (corner >> 2 & 1, corner >> 1 & 1, corner & 1)
        weight = np.ones(base.shape, np.float32)
        for axis, bit in enumerate(bits):
            weight = weight * (share[..., axis] if bit else 1 - share[..., axis])
        made += weight[..., np.newaxis] * flat[base + (bits[0] * size + bits[1]) * size + bits[2]]
    return made


def darkness(way: float) -> float:
    """How dark a vignette is, of what is asked for, at a part of the way from the middle to a corner."""
    return float(np.interp(way, [place for place, _ in VIGNETTE], [dark for _, dark in VIGNETTE]))
