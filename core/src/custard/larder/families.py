"""The families of sauces: when each is done, and how long it keeps cold."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.larder.tables import rows

COATS = "coats"
BOILS = "boils"
SETS = "sets"


@dataclass(frozen=True)
class Family:
    """One family of egg-thickened sauces.

    Attributes
    ----------
    done : what ends the cook: it coats a spoon, it boils, or it sets in its cup.
    target_pa : yield stress to stop at when it is not boiled [Pa].
    keeps_days : days it keeps chilled, at most; local rules come first.
    rate_k_per_min : how fast it usually warms where it sets [K/min]; a cup in its bath creeps.
    """

    family: str
    name: str
    done: str
    target_pa: float
    keeps_days: float
    rate_k_per_min: float
    source: str
    confidence: str


@cache
def all_families() -> Mapping[str, Family]:
    """Every family of the open format, in the order of the table."""
    return MappingProxyType(
        {
            row["family"]: Family(
                family=row["family"],
                name=row["name"],
                done=row["done"],
                target_pa=float(row["target_pa"]),
                keeps_days=float(row["keeps_days"]),
                rate_k_per_min=float(row["rate_k_per_min"]),
                source=row["source"],
                confidence=row["confidence"],
            )
            for row in rows("families")
        }
    )
