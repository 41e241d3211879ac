"""How far the writing or the reading of an archive is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

EVERY = 5000
"""After so many rows it is reported again."""
Report = Callable[[str, int], None]
"""Takes which part is written or read now, and how many rows are done in all."""


def no_report(part: str, rows: int) -> None:
    """Report to nobody."""


@dataclass
class Progress:
    """Counts rows over all parts, and reports now and then."""

    report: Report
    rows: int = 0
    reported: int = 0

    def add(self, part: str, rows: int = 1) -> None:
        """So many rows of a part are done."""
        self.rows += rows
        if self.rows - self.reported >= EVERY or self.reported == 0:
            self.reported = self.rows
            self.report(part, self.rows)
