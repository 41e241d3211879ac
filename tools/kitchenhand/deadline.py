"""A plugin of pytest for `./spoon test quick`: tests that the time does not reach are skipped and counted."""

from __future__ import annotations

import os
import time

import pytest

from kitchenhand.places import TESTS_END, TIME_UP


def pytest_runtest_setup() -> None:
    """Skip what begins too late."""
    if time.time() > float(os.environ.get(TESTS_END, "inf")):
        pytest.skip(TIME_UP)
