"""What is dissolved in a base: how much each lowers the freezing point, and how sweet it is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.larder.tables import rows


@dataclass(frozen=True)
class Solute:
    """Over sucrose's, by mass: freezing effect [1] and sweetness [1]."""

    freezing: float
    sweetness: float


@cache
def solutes() -> Mapping[str, Solute]:
    """Every dissolved component of a mix."""
    return MappingProxyType(
        {
            row["component"]: Solute(float(row["freezing_factor"]), float(row["sweetness"]))
            for row in rows("sweetness")
        }
    )
