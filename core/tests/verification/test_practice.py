"""Kitchen practice, row by row: the same table that docs/model shows."""

from __future__ import annotations

import pytest
from custard import practice

ROWS = list(practice.rows())


@pytest.mark.parametrize("row", ROWS, ids=lambda row: row.what)
def test_what_is_computed_is_what_cooks_find(row):
    assert row.low <= row.compute() <= row.high


def test_a_third_was_held_out():
    held = [row for row in ROWS if row.held_out]
    assert 3 * len(held) >= len(ROWS)
    assert all(row.low < row.high or row.unit == "yes" for row in ROWS)
