"""The looks that come with the application: each a few numbers, made into a table of colours."""

from dataclasses import dataclass

import numpy as np

from fox_cadence.core.adjustment import LUMA, Table, identity

Three = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Look:
    """Slope, offset and power of red, green and blue, then saturation: out = (in · slope + offset) ^ power,
    the primary correction of the ASC Color Decision List, version 1.2."""

    id: str
    name: str
    slope: Three
    offset: Three
    power: Three
    saturation: float

    def table(self) -> Table:
        """Its colours, with as many points as an adjustment has."""
        made = identity() * np.array(self.slope, np.float32) + np.array(self.offset, np.float32)
        made = np.clip(made, 0, 1) ** np.array(self.power, np.float32)
        grey = (made @ LUMA)[..., np.newaxis]
        return np.asarray(np.clip(grey + (made - grey) * self.saturation, 0, 1), dtype=np.float32)


LOOKS: tuple[Look, ...] = (
    Look("slack-water", "Slack water", (1.08, 1.0, 0.9), (-0.03, 0.0, 0.05), (1.05, 1.0, 0.98), 1.05),
    Look("sea-fog", "Sea fog", (0.82, 0.84, 0.86), (0.1, 0.1, 0.11), (0.95, 0.95, 0.93), 0.65),
    Look("lamp-oil", "Lamp oil", (1.1, 1.0, 0.82), (0.02, 0.0, -0.02), (0.95, 1.0, 1.1), 0.95),
    Look("wet-stone", "Wet stone", (0.96, 1.0, 1.04), (-0.02, -0.01, 0.01), (1.1, 1.06, 1.0), 0.55),
    Look("ink", "Ink", (1.15, 1.15, 1.15), (-0.08, -0.08, -0.08), (1.0, 1.0, 1.0), 0.0),
    Look("left-in-the-sun", "Left in the sun", (0.9, 0.88, 0.8), (0.1, 0.08, 0.06), (0.9, 0.95, 1.05), 0.75),
    Look("kelp", "Kelp", (0.94, 1.05, 0.92), (-0.02, 0.01, -0.01), (1.08, 0.95, 1.08), 0.9),
    Look("after-dusk", "After dusk", (0.8, 0.86, 1.02), (-0.02, -0.01, 0.04), (1.15, 1.1, 0.98), 0.85),
    Look("noon", "Noon", (1.12, 1.1, 1.06), (-0.04, -0.04, -0.04), (0.95, 0.95, 0.95), 1.2),
    Look("old-plate", "Old plate", (1.02, 0.94, 0.8), (0.06, 0.04, 0.02), (1.0, 1.02, 1.06), 0.25),
)


def shipped_look(look_id: str) -> Look | None:
    """None for what is no shipped look."""
    return next((look for look in LOOKS if look.id == look_id), None)
