"""The table of colours of an adjustment, its look read from where it is."""

from pathlib import Path

from fox_cadence.core.adjustment import UNADJUSTED, Adjustment, Table, table_of
from fox_cadence.core.looks import shipped_look
from fox_cadence.media.cube import read_cube


def adjusted_table(adjustment: Adjustment, look_file: Path | None) -> Table | None:
    """None where the colours stay as they are; a shipped look that this version does not have changes
    nothing.

    Args:
        look_file: the .cube file of a look that is one.

    Raises:
        InputError: the file is none.
    """
    if adjustment.colours == UNADJUSTED:
        return None
    shipped = shipped_look(adjustment.look)
    look = read_cube(look_file.read_bytes()) if look_file else shipped.table() if shipped else None
    return table_of(adjustment, look)
