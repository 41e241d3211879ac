"""One house for all tests here."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from house import House


@pytest.fixture(scope="session")
def house() -> Iterator[House]:
    made = House()
    yield made
    made.close()
