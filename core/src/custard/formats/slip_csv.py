"""The Slip as CSV: what to weigh, in order, with the amount as it was written."""

from __future__ import annotations

import csv
import io

from custard.formula import Formula

COLUMNS = ("ingredient", "name", "as written", "grams", "tare grams", "when", "note")
FORMULA_STARTS = ("=", "+", "-", "@", "\t", "\r", "＝", "＋", "－", "＠")
"""A cell that starts so would be run by a spreadsheet."""


def write_slip(formula: Formula) -> str:
    """The Slip, a line each, with a header; commas and quotes are escaped."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(COLUMNS)
    tare = 0.0
    for line, grams in zip(formula.lines, formula.weights_g(), strict=True):
        tare += grams
        cells = (line.ingredient.id, line.ingredient.name, line.amount, f"{grams:.2f}", f"{tare:.2f}")
        writer.writerow([_inert(cell) for cell in (*cells, line.when, line.note)])
    return out.getvalue()


def _inert(cell: str) -> str:
    return f"'{cell}" if cell.startswith(FORMULA_STARTS) else cell
