"""When a line joins: the nine moments of a sauce, and which is usual for an ingredient in a family."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.larder.families import Family
from custard.larder.ingredients import Ingredient
from custard.larder.tables import rows
from custard.vocabulary import Laid, When


@dataclass(frozen=True)
class Join:
    """One moment at which a line joins. Whatever differs between the nine is asked of these.

    Attributes
    ----------
    when, laid : its words in the open format, and where it is laid out.
    heated : it is in the pan while the sauce cooks.
    in_the_sauce : it is part of the uniform sauce that is cooled and kept.
    """

    when: When
    laid: Laid
    heated: bool = False
    in_the_sauce: bool = False

    @property
    def finishes(self) -> bool:
        """Whether it joins after the heat, at the stage of that name."""
        return self.laid == Laid.TRAY


JOINS: Mapping[When, Join] = MappingProxyType(
    {
        join.when: join
        for join in (
            Join(When.INFUSED, Laid.PAN),
            Join(When.IN_THE_DAIRY, Laid.PAN, heated=True, in_the_sauce=True),
            Join(When.WITH_THE_YOLKS, Laid.BOWL, heated=True, in_the_sauce=True),
            Join(When.IN_THE_PAN, Laid.PAN, heated=True, in_the_sauce=True),
            Join(When.OFF_THE_HEAT, Laid.TRAY, in_the_sauce=True),
            Join(When.UNDER_IT, Laid.TRAY, in_the_sauce=True),
            Join(When.FOLDED, Laid.TRAY),
            Join(When.AFTERWARDS, Laid.TRAY),
            Join(When.ON_TOP, Laid.TRAY),
        )
    }
)
"""Every moment, in the order in which they come."""


@cache
def _usual() -> tuple[dict[str, str], ...]:
    return tuple(rows("joins_usual"))


def usual_when(thing: Ingredient, family: Family) -> When:
    """When an ingredient usually joins a sauce of that family; the first row of the table that fits it.

    Parameters
    ----------
    thing : an ingredient.
    family : the family of the sauce.
    """
    tempered = family.temper not in ("", "none")
    for row in _usual():
        what = row["what"] in (thing.id, thing.group, f"{thing.group} {thing.form}", "*")
        where = row["family"] in (family.family, "*") or (row["family"] == "tempered" and tempered)
        if what and where:
            return When(row["when"])
    return When.IN_THE_PAN
