"""What whites can become, by the ratios cooks remember."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.errors import within
from custard.figures import Grams
from custard.larder.tables import rows


@dataclass(frozen=True)
class WhitesUse:
    """What so many grams of white can become, and what goes with them [g]."""

    use: str
    name: str
    sugar_g: Grams
    other: str
    other_g: Grams
    makes_g: Grams
    ratio: str


@cache
def _uses() -> tuple[Mapping[str, str], ...]:
    return tuple(MappingProxyType(row) for row in rows("whites_uses"))


def whites_uses(grams: float) -> tuple[WhitesUse, ...]:
    """What can be made of so many grams of white, by the ratios cooks remember.

    Parameters
    ----------
    grams : raw white [g], 0 and more.

    Raises
    ------
    OutOfRange
        when there is less than nothing, or more than a kitchen has.
    """
    within("grams", grams, 0, 1e6)
    found = []
    for row in _uses():
        sugar, other = float(row["sugar_per_white"]), float(row["other_per_white"])
        ratio = f"1 of white : {sugar:g} of sugar" + (f" : {other:g} of {row['other']}" if other else "")
        found.append(
            WhitesUse(
                row["use"],
                row["name"],
                sugar * grams,
                row["other"],
                other * grams,
                (1 + sugar + other) * grams,
                ratio,
            )
        )
    return tuple(found)
