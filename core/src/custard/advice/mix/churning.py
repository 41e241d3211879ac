"""What a base for churning will do: sweetness, freezing point, hardness at serving."""

from __future__ import annotations

from dataclasses import dataclass

from custard.figures import Celsius, Hundredths, Thousandths
from custard.larder.solutes import solutes
from custard.mixture import Mixture
from custard.physics import freezing

SOLIDS_SHARE = 0.92
SERVING_C = -13.0


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
    """Freezing and sweetness of a mix; water is taken as all freezable."""
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
