"""Cups, or one dish, for the oven: how much custard each takes, also with bread or cake in it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass, replace
from typing import Any

from custard.card import SILENT, Card
from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange, within
from custard.figures import Grams
from custard.larder.ingredients import ingredient
from custard.mixture import Mixture
from custard.process.baking.bake import LARGE_ML, USUAL_DEEP, USUAL_OVEN_C, Bake, bake
from custard.process.cooling.drinking import thirst

FILLED = 0.9
"""Share of its height a cup is filled to."""
CRUMB_G_ML = 1.3
"""Density of bread and cake without their pores [g/ml]; an estimate."""
POURED_C = 50.0
USUAL_CUP_ML = 120.0
MOST_SOLID = 0.8
MOST_CUPS = 500


@dataclass(frozen=True)
class Cups:
    """What a custard is baked in, and where.

    Attributes
    ----------
    count, cup_ml : how many, and what each holds to its rim [ml]; more than half a litre is a dish.
    oven_c : the oven [degC]; `bath` whether they stand in water, `water_share` how deep, of their height [1].
    solid, solid_share : bread or cake in them, by its name in the open format, and its share of the room [1].
    """

    count: int = 1
    cup_ml: float = USUAL_CUP_ML
    oven_c: float = USUAL_OVEN_C
    bath: bool = True
    water_share: float = USUAL_DEEP
    solid: str = ""
    solid_share: float = 0.0

    def __post_init__(self) -> None:
        within("count", self.count, 1, MOST_CUPS)
        within("cup_ml", self.cup_ml, 5, 5000)
        within("oven_c", self.oven_c, 80, 300)
        within("water_share", self.water_share, 0.1, 1.0)
        within("solid_share", self.solid_share, 0, MOST_SOLID)
        if self.solid and thirst(ingredient(self.solid)).takes_up_g_g <= 0:
            raise OutOfRange("solid", self.solid, "drinks no custard", "Take bread or cake.")
        if bool(self.solid) != (self.solid_share > 0):
            given = self.solid or f"{100 * self.solid_share:g} %"
            raise OutOfRange("solid", given, "needs both what lies in the cups and how much of them it takes")

    @property
    def are_dishes(self) -> bool:
        """Whether each holds so much that it is a dish."""
        return self.cup_ml > LARGE_ML

    def baked(
        self, mixture: Mixture, start_c: float, bath_c: float | None = None, conditions: Conditions = USUAL
    ) -> Bake:
        """A mix baked in them; the bath by default as such an oven makes it [degC]."""
        return bake(
            mixture,
            self.cup_ml,
            start_c,
            bath_c if self.bath else None,
            conditions,
            oven_c=self.oven_c,
            bath=self.bath,
            water_share=self.water_share,
        )

    def as_json(self) -> dict[str, Any]:
        """As kept beside a batch."""
        return asdict(self)

    @classmethod
    def of(cls, kept: Mapping[str, Any]) -> Cups:
        """As it was kept."""
        return cls(**kept)


def usual_cups(mixture: Mixture, card: Card = SILENT) -> Cups:
    """As many cups as a mix fills, of the size and in the oven of its recipe or else the usual ones.

    Parameters
    ----------
    mixture : the uniform mix.
    card : what its recipe says of the cups, the oven and the bath.
    """
    one = Cups(
        cup_ml=USUAL_CUP_ML if card.cup_ml is None else card.cup_ml,
        oven_c=USUAL_OVEN_C if card.oven_c is None else card.oven_c,
        bath=True if card.bath is None else card.bath,
    )
    return replace(one, count=max(1, min(MOST_CUPS, int(mixture.mass_g / filled(mixture, one).custard_g))))


@dataclass(frozen=True)
class Filled:
    """What goes into each cup, and into all [g]: custard, what lies in it, and custard that it drinks."""

    custard_g: Grams
    solid_g: Grams
    drunk_g: Grams
    all_custard_g: Grams
    all_solid_g: Grams


def filled(mixture: Mixture, cups: Cups) -> Filled:
    """How much custard the cups take.

    Parameters
    ----------
    mixture : the uniform mix.
    cups : what it is baked in; None for as many usual cups as it fills.
    """
    g_ml = float(mixture.density_kg_m3(POURED_C)) / 1000
    room_ml = FILLED * cups.cup_ml
    solid_g = drunk_g = 0.0
    if cups.solid:
        thing = ingredient(cups.solid)
        solid_ml = cups.solid_share * room_ml
        solid_g = solid_ml * thing.level_g_ml
        pores_ml = max(0.0, solid_ml - solid_g / CRUMB_G_ML)
        drunk_g = min(solid_g * thirst(thing).takes_up_g_g, pores_ml * g_ml)
        room_ml -= solid_ml
    custard_g = room_ml * g_ml + drunk_g
    return Filled(custard_g, solid_g, drunk_g, cups.count * custard_g, cups.count * solid_g)
