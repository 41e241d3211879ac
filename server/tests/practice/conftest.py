"""Who practises in these tests."""

from __future__ import annotations

import pytest

from tests.conftest import logged_in


@pytest.fixture
def trainee(here):
    return logged_in("here-viewer")
