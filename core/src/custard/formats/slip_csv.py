"""The Slip as CSV: what to weigh, bowl by bowl, with the amount as it was written."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable
from typing import Protocol

from custard.formula import Formula

COLUMNS = ("ingredient", "name", "as written", "into", "grams", "tare grams", "when", "note")
FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r", "＝", "＋", "－", "＠")
"""A cell that starts so would be run by a spreadsheet."""


class Weighed(Protocol):
    """One thing to weigh, as `bench.Weighing` has it: whose line, into what, grams and tare there [g]."""

    @property
    def line(self) -> int:
        """Its place in the formula."""

    @property
    def laid(self) -> str:
        """What it goes into."""

    @property
    def grams(self) -> float:
        """What is weighed [g]."""

    @property
    def tare_g(self) -> float:
        """What stands there with it [g]."""


def write_slip(formula: Formula, weighings: Iterable[Weighed]) -> str:
    """The Slip, a weighing each, with a header; commas and quotes are escaped.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    weighings : what is weighed, and where.
    """
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    for one in weighings:
        line = formula.lines[one.line]
        what = (line.ingredient.id, line.ingredient.name, line.amount)
        cells = (*what, one.laid, f"{one.grams:.2f}", f"{one.tare_g:.2f}", line.when, line.note)
        writer.writerow([_inert(cell) for cell in cells])
    return out.getvalue()


def _inert(cell: str) -> str:
    return f"'{cell}" if cell.startswith(FORMULA_STARTS) else cell
