"""What sides a frame can have, in pixels. Apart from the edits: what only paints has no use for these."""

LEAST_SIDE, MOST_SIDE = 64, 4096


def even(length: int) -> int:
    """A side of a frame as it can be: video stores colour for pairs of pixels."""
    return length // 2 * 2
