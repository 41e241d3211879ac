"""The families of sauces, and the four ways in which a sauce is done."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from types import MappingProxyType

from custard.larder.tables import document, rows
from custard.vocabulary import HeatName, WayName


@dataclass(frozen=True)
class Way:
    """How a sauce is done. Everything that differs between the four is asked of these, not of families.

    Attributes
    ----------
    vessel : what it is cooked in: "pan", "bowl" or "cups".
    tested_by : "spoon" or "nudge".
    may_boil : it may be taken to the boil when the mix stands that.
    foams : air is whisked into it.
    undisturbed : it sets without being stirred.
    """

    name: WayName
    vessel: str
    tested_by: str
    may_boil: bool = False
    foams: bool = False
    undisturbed: bool = False

    @property
    def in_the_oven(self) -> bool:
        """Whether it is set in cups in the oven rather than cooked at the stove."""
        return self.vessel == "cups"


COATS = Way(WayName.COATS, "pan", "spoon", may_boil=True)
BOILS = Way(WayName.BOILS, "pan", "spoon", may_boil=True)
MOUNDS = Way(WayName.MOUNDS, "bowl", "spoon", foams=True)
SETS = Way(WayName.SETS, "cups", "nudge", undisturbed=True)
WAYS: Mapping[WayName, Way] = MappingProxyType({way.name: way for way in (COATS, BOILS, MOUNDS, SETS)})


@dataclass(frozen=True)
class Family:
    """One family of egg-thickened sauces.

    Attributes
    ----------
    way : how it is usually done; `way_when` says how a mix of it is.
    heat : what it is usually heated by.
    temper : the usual school of tempering; "" where there is nothing to temper.
    churned : it goes into an ice-cream machine.
    target_pa : yield stress to stop at when it is not boiled [Pa].
    keeps_days : days it keeps chilled, at most; local rules come first.
    freezes_days : days it keeps its quality frozen; 0 where freezing spoils it.
    rests_h, rests_to : hours it must be cold before it is what it is to be, and for what: "churn" or "set".
    rate_k_per_min : how fast it usually warms where it sets [K/min]; a cup in its bath creeps.
    cooked_on_min : how long it is stirred over the flame in a wide pan to lose water [min]; mostly 0.
    """

    family: str
    name: str
    way: Way
    heat: HeatName
    temper: str
    churned: bool
    target_pa: float
    keeps_days: float
    freezes_days: float
    rests_h: float
    rests_to: str
    rate_k_per_min: float
    cooked_on_min: float
    source: str
    confidence: str

    def way_when(self, *, boiled: bool) -> Way:
        """How a mix is done: whether it can be boiled goes before what its family is used to."""
        if not self.way.may_boil:
            return self.way
        return BOILS if boiled else COATS


@cache
def all_families() -> Mapping[str, Family]:
    """Every family of the open format, in the order of the table."""
    return MappingProxyType(
        {
            row["family"]: Family(
                family=row["family"],
                name=row["name"],
                way=WAYS[WayName(row["way"])],
                heat=HeatName(row["heat"]),
                temper=row["temper"],
                churned=row["churned"] == "yes",
                target_pa=float(row["target_pa"]),
                keeps_days=float(row["keeps_days"]),
                freezes_days=float(row["freezes_days"]),
                rests_h=float(row["rests_h"]),
                rests_to=row["rests_to"],
                rate_k_per_min=float(row["rate_k_per_min"]),
                cooked_on_min=float(row["cooked_on_min"]),
                source=row["source"],
                confidence=row["confidence"],
            )
            for row in rows("families")
        }
    )


@cache
def patterns() -> Mapping[str, tuple[tuple[str, str], ...]]:
    """One plain formula of each family to start from: what goes in by id, and how much as it is written."""
    return MappingProxyType(
        {
            family: tuple((name, amount) for name, amount in found["lines"])
            for family, found in document("patterns").items()
        }
    )
