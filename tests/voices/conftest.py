from collections.abc import Iterator

import pytest

from fox_cadence.voices.engines import Engines


@pytest.fixture(scope="package")
def engines() -> Iterator[Engines]:
    """All engines, their processes kept from one test to the next."""
    made = Engines()
    yield made
    made.close()
