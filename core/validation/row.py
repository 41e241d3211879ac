"""A row of the practice table."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from custard.advice.mix.assess import Assessment, assess
from custard.formula import Formula


@dataclass(frozen=True)
class Row:
    """One thing cooks find: in which range, and how it is computed; `held_out` from fitting.

    `gap` says why what is computed is known to lie outside; empty where it is inside.
    """

    what: str
    unit: str
    low: float
    high: float
    compute: Callable[[], float]
    held_out: bool = False
    gap: str = ""


def of_assessment(formula: Formula, figure: Callable[[Assessment], float]) -> Callable[[], float]:
    """A figure of what a formula is and becomes."""
    return lambda: figure(assess(formula))
