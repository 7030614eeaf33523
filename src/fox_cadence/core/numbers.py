"""Numbers in sentences."""

from collections.abc import Sequence


def counted(count: int, one: str) -> str:
    """A number with its noun: 1 shot, 2 shots."""
    return f"{count} {one}" if count == 1 else f"{count} {one}s"


def numbered(one: str, numbers: Sequence[int], most: int) -> str:
    """A noun with the numbers it is about, the first `most` of them: shot 2, shots 2, 3 and 5 more."""
    noun = one if len(numbers) == 1 else f"{one}s"
    more = f" and {len(numbers) - most} more" if len(numbers) > most else ""
    return f"{noun} {', '.join(map(str, numbers[:most]))}{more}"
