"""What every test of the day begins with."""

from __future__ import annotations

import pytest
from common import clock

from tests.day.days import DAY, MORNING, ok, want


@pytest.fixture(autouse=True)
def morning():
    """It is seven in the morning of that day."""
    with clock.at(MORNING):
        yield


@pytest.fixture
def wanted(cook, version):
    """A dish at half past twelve, planned."""
    return ok(cook("POST", f"{DAY}/wants", want(version, name="poached quince", covers=20, each="60 g")))
