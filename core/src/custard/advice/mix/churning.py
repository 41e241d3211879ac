"""What a base for churning will do: sweetness, freezing point, hardness at serving, what a bowl's cold
freezes of it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from custard.errors import within
from custard.figures import Celsius, Hundredths, Thousandths
from custard.larder.solutes import solutes
from custard.mixture import Mixture
from custard.physics import freezing

SOLIDS_SHARE = 0.92
SERVING_C = -13.0
BOWL_J_KG = 190_000.0
"""Cold in a bowl frozen through, for each kilogram of base it is made for [J/kg]; an estimate, L."""
HALF_COLD_H = 4.0
"""How long a bowl takes to be frozen by half [h]; an estimate, L."""
ICE_J_KG = 334_000.0
DRAWN_C = -5.5
"""Where a base is drawn from the churn [degC]; common practice as remembered."""
FREEZES_SHARE = 0.33
"""Share of its water that is ice when a base stands up in the churn [1]; common practice as remembered, L."""


@dataclass(frozen=True)
class Frozen:
    """Share of the water that is ice [1] at a temperature [degC]."""

    at_c: float
    share: Thousandths


@dataclass(frozen=True)
class Churning:
    """Sweetness [g sucrose-equivalent per 100 g], freezing point [degC], and how much is frozen when."""

    sweetness_per_100g: Hundredths
    freezing_point_c: Celsius
    frozen_share: tuple[Frozen, ...]


def churning(mixture: Mixture) -> Churning:
    """Freezing and sweetness of a mix; water is taken as all freezable.

    Parameters
    ----------
    mixture : the uniform mix.
    """
    f = mixture.fractions
    water = max(f["water"], 1e-6)
    effects = solutes()
    equivalent = sum(f[name] * effect.freezing for name, effect in effects.items())
    solids = (f["milk_protein"] + f["lactose"]) / SOLIDS_SHARE
    lowered = float(freezing.depression(100 * equivalent / water)) + freezing.SALTS_K * solids / water
    point = -max(lowered, 1e-3)
    temperatures = (-2.0, -5.0, -8.0, -10.0, SERVING_C, -15.0, -18.0)
    return Churning(
        sweetness_per_100g=100 * sum(f[name] * effect.sweetness for name, effect in effects.items()),
        freezing_point_c=point,
        frozen_share=tuple(Frozen(t, float(freezing.frozen_share(t, point))) for t in temperatures),
    )


def bowl_j_kg(hours: float) -> float:
    """Cold in a bowl that has been so long in the freezer [J/kg of base]."""
    within("hours", hours, 0, 1000)
    return float(BOWL_J_KG * -np.expm1(-hours * np.log(2) / HALF_COLD_H))


def draws_share(mixture: Mixture, from_c: float, bowl_hours: float) -> float:
    """Share of a base's water that is ice when the bowl's cold is spent, or where it is drawn [1].

    Parameters
    ----------
    from_c : how warm the base goes in [degC].
    bowl_hours : how long the bowl was in the freezer [h].

    Raises
    ------
    OutOfRange
        when a figure cannot be.
    """
    within("from_c", from_c, -5, 90)
    point = churning(mixture).freezing_point_c
    water = float(mixture.fractions["water"])
    to_cool = float(mixture.heat_capacity_j_kgk(10.0)) * max(0.0, from_c - point)
    left = max(0.0, bowl_j_kg(bowl_hours) - to_cool)
    by_cold = left / max(water * ICE_J_KG, 1.0)
    by_sugar = float(freezing.frozen_share(DRAWN_C, point)) if point > DRAWN_C else 0.0
    return min(by_cold, by_sugar)
