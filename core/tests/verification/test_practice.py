"""Kitchen practice, row by row: the same table that docs/model shows."""

from __future__ import annotations

import pytest
import validation

ROWS = list(validation.rows())
HELD_OUT = [row for row in ROWS if row.held_out]


@pytest.mark.parametrize("row", ROWS, ids=lambda row: row.what)
def test_what_is_computed_is_what_cooks_find_or_a_known_gap(row):
    """A gap is told where there is one, and no longer once it is closed."""
    inside = row.low <= row.compute() <= row.high
    assert inside == (not row.gap)


def test_a_third_was_held_out_and_most_of_it_is_inside():
    assert 3 * len(HELD_OUT) >= len(ROWS)
    assert all(row.low < row.high or row.unit == "yes" for row in ROWS)
    gaps = [row for row in ROWS if row.gap]
    assert all(row.held_out for row in gaps)
    assert 9 * len(gaps) <= len(HELD_OUT)
