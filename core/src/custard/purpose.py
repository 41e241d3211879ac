"""What a sauce is made for, and the other work that stands beside it."""

from __future__ import annotations

from dataclasses import dataclass

from custard.errors import BadQuantity, OutOfRange, within
from custard.quantities import Quantity, units
from custard.vocabulary import Need

MAX_DESTINATIONS = 20
MAX_OTHER_WORK = 20
MAX_WORK_NAME = 80
MOST_COUNT = 10_000.0
MOST_EACH_G = 500_000.0
LONGEST_WORK_MIN = 24 * 60.0


def _named(name: str) -> None:
    if not any(char.isalnum() for char in name):
        raise OutOfRange("name", name, "has no letter or number, so nobody could call for it")
    if len(name) > MAX_WORK_NAME:
        raise OutOfRange("name", name, f"is longer than {MAX_WORK_NAME} characters")


@dataclass(frozen=True)
class Destination:
    """Where a part of a batch goes: so many of so much each, by weight or by volume.

    Attributes
    ----------
    amount : as the cook wrote it; `quantity` is what was read from it.
    """

    name: str
    count: float
    amount: str
    quantity: Quantity

    def __post_init__(self) -> None:
        _named(self.name)
        if not 0 < self.count <= MOST_COUNT:
            raise OutOfRange("count", f"{self.count:g}", f"must be more than 0 and at most {MOST_COUNT:.0f}")
        unit = units().get(self.quantity.unit)
        if unit is None or unit.dimension not in ("g", "ml"):
            raise BadQuantity(
                "amount", self.amount, "is neither a weight nor a volume", "Write it as “60 g” or “1.2 l”."
            )

    def each(self, measures: str) -> tuple[float, str]:
        """How much one of them takes, and whether that is "g" or "ml".

        Raises
        ------
        OutOfRange
            when it is more than anyone makes.
        """
        unit = units()[self.quantity.unit]
        amount = self.quantity.number * unit.size[measures]
        if amount > MOST_EACH_G:
            raise OutOfRange("amount", self.amount, f"is more than {MOST_EACH_G / 1000:.0f} kg for one")
        return amount, unit.dimension


@dataclass(frozen=True)
class OtherWork:
    """Work beside the sauce that a day must find room for: a meringue, a caramel, whipped cream.

    Attributes
    ----------
    minutes : how long it takes [min].
    hands : whether somebody stands at it all the while.
    needs : what of the kitchen it takes up.
    """

    name: str
    minutes: float
    hands: bool = True
    needs: Need = Need.NOTHING

    def __post_init__(self) -> None:
        _named(self.name)
        within("minutes", self.minutes, 1, LONGEST_WORK_MIN)
