"""When a line joins: the nine moments of a sauce, and which is usual for an ingredient in a family."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.larder.families import Family
from custard.larder.ingredients import Ingredient
from custard.larder.tables import rows

PAN, BOWL, TRAY = "pan", "yolk bowl", "finish tray"
"""Where things are laid out before any heat is on."""


@dataclass(frozen=True)
class Join:
    """One moment at which a line joins. Whatever differs between the nine is asked of these.

    Attributes
    ----------
    when : its words in the open format.
    laid : where it is laid out: "pan", "yolk bowl" or "finish tray".
    heated : it is in the pan while the sauce cooks.
    in_the_sauce : it is part of the uniform sauce that is cooled and kept.
    """

    when: str
    laid: str
    heated: bool = False
    in_the_sauce: bool = False

    @property
    def finishes(self) -> bool:
        """Whether it joins after the heat, at the stage of that name."""
        return self.laid == TRAY


INFUSED = "infused"
IN_THE_DAIRY = "in the dairy"
WITH_THE_YOLKS = "with the yolks"
IN_THE_PAN = "in the pan"
OFF_THE_HEAT = "off the heat"
UNDER_IT = "under it"
FOLDED = "folded when cool"
AFTERWARDS = "afterwards"
ON_TOP = "on top"

JOINS: Mapping[str, Join] = MappingProxyType(
    {
        join.when: join
        for join in (
            Join(INFUSED, PAN),
            Join(IN_THE_DAIRY, PAN, heated=True, in_the_sauce=True),
            Join(WITH_THE_YOLKS, BOWL, heated=True, in_the_sauce=True),
            Join(IN_THE_PAN, PAN, heated=True, in_the_sauce=True),
            Join(OFF_THE_HEAT, TRAY, in_the_sauce=True),
            Join(UNDER_IT, TRAY, in_the_sauce=True),
            Join(FOLDED, TRAY),
            Join(AFTERWARDS, TRAY),
            Join(ON_TOP, TRAY),
        )
    }
)
"""Every moment, in the order in which they come."""


@cache
def _usual() -> tuple[dict[str, str], ...]:
    return tuple(rows("joins_usual"))


def usual_when(thing: Ingredient, family: Family) -> str:
    """When an ingredient usually joins a sauce of that family; the first row of the table that fits it."""
    tempered = family.temper not in ("", "none")
    for row in _usual():
        what = row["what"] in (thing.id, thing.group, f"{thing.group} {thing.form}", "*")
        where = row["family"] in (family.family, "*") or (row["family"] == "tempered" and tempered)
        if what and where:
            return row["when"]
    return IN_THE_PAN
