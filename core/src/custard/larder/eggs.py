"""Egg sizes: what one egg gives, separated."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.errors import UnknownName
from custard.larder.tables import rows


@dataclass(frozen=True)
class EggSize:
    """One class of hen's egg: grams of yolk, white and shell."""

    size: str
    name: str
    yolk_g: float
    white_g: float
    shell_g: float
    source: str
    confidence: str

    @property
    def edible_g(self) -> float:
        """Grams of a shelled egg."""
        return self.yolk_g + self.white_g


@cache
def all_sizes() -> Mapping[str, EggSize]:
    """Every egg size of the open format."""
    return MappingProxyType(
        {
            row["size"]: EggSize(
                size=row["size"],
                name=row["name"],
                yolk_g=float(row["yolk_g"]),
                white_g=float(row["white_g"]),
                shell_g=float(row["shell_g"]),
                source=row["source"],
                confidence=row["confidence"],
            )
            for row in rows("eggs")
        }
    )


def egg_size(size: str) -> EggSize:
    """The egg size of that name.

    Parameters
    ----------
    size : as "EU-M" or "US-large".

    Raises
    ------
    UnknownName
        when there is none.
    """
    found = all_sizes().get(size)
    if found is None:
        raise UnknownName("eggs", size, "is not an egg size", f"Write {', '.join(all_sizes())}.")
    return found
