"""How far an archive is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

EVERY = 5000
Report = Callable[[str, int], None]
"""Is told which part is written or read now, and how many rows so far."""


def nothing_said(part: str, rows: int) -> None:
    """Tell nobody."""


@dataclass
class Told:
    """Counts rows over all parts, and tells of them now and then."""

    report: Report
    rows: int = 0
    said: int = 0

    def more(self, part: str, rows: int = 1) -> None:
        """So many rows more, of a part."""
        self.rows += rows
        if self.rows - self.said >= EVERY or self.said == 0:
            self.said = self.rows
            self.report(part, self.rows)
