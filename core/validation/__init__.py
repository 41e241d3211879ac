"""The practice table: what cooks find, beside what is computed. Tests, command and docs/model read the same.

Ranges are practice and literature as remembered, not looked up. The parameters were fitted to the rows that
are not held out; those that are were left aside meanwhile and only looked at afterwards.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from custard.figures import Pascals, plain
from custard.larder.words import plain_degrees

from validation import finishes, kitchens, limits, textures, windows
from validation.row import Row

__all__ = ["Found", "Row", "report", "rows", "table"]


@dataclass(frozen=True)
class Found:
    """A row with what was computed of it [its unit], and whether that is what cooks find."""

    what: str
    unit: str
    low: float
    high: float
    held_out: bool
    computed: Pascals
    inside: bool
    gap: str


def table() -> list[Found]:
    """Every row, computed now."""
    return [_found(row) for row in rows()]


def _found(row: Row) -> Found:
    value = float(row.compute())
    inside = row.low <= value <= row.high
    return Found(plain_degrees(row.what), row.unit, row.low, row.high, row.held_out, value, inside, row.gap)


def report() -> dict[str, object]:
    """The table as plain data, and how much of it is inside."""
    found = table()
    held = [row for row in found if row.held_out]
    return {
        "rows": plain(found),
        "inside": sum(row.inside for row in found),
        "of": len(found),
        "held_out_inside": sum(row.inside for row in held),
        "held_out": len(held),
    }


def rows() -> Iterator[Row]:
    """Every row of the table."""
    yield from windows.rows()
    yield from textures.rows()
    yield from kitchens.rows()
    yield from limits.rows()
    yield from finishes.rows()
