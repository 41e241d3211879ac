"""The window of a mix: where it thickens, reaches nappe, is fully set, curdles and boils."""

from __future__ import annotations

from dataclasses import dataclass

from custard.figures import Celsius
from custard.mixture import Mixture
from custard.physics import boiling
from custard.physics.texture import NAPPE_PA
from custard.process.heating import ramp
from custard.process.heating.cook import CURDLED_AT, THICKENED_AT

SET_AT = 0.95
EGGLESS_PERCENT = 0.05
"""Below this egg protein there is no egg network: the window speaks of the starch instead."""


@dataclass(frozen=True)
class Window:
    """Temperatures [degC] on a ramp of `rate_k_per_min`; None when not reached below the boil."""

    rate_k_per_min: float
    thickens_c: Celsius | None
    nappe_c: Celsius | None
    heavy_c: Celsius | None
    curdles_c: Celsius | None


def boiling_c(mixture: Mixture, altitude_m: float) -> float:
    """Boiling point of a mix [degC] at a kitchen's altitude [m]."""
    sugars, ethanol = mixture.sugars_in_aqueous_percent, mixture.ethanol_in_aqueous_percent
    return float(boiling.boiling_point(sugars, ethanol, altitude_m))


def window_of(mixture: Mixture, course: ramp.Ramp, rate_k_per_min: float) -> Window:
    """The window words on a ramp already run to the boil."""
    t = course.temperature_c
    eggless = mixture.egg_protein_percent < EGGLESS_PERCENT
    if eggless and mixture.starch_in_aqueous_percent <= 0:
        return Window(rate_k_per_min, None, None, None, None)
    network = course.gelatinised if eggless else course.thickened
    thickens = ramp.first_reach(t, network, THICKENED_AT)
    return Window(
        rate_k_per_min=rate_k_per_min,
        thickens_c=thickens,
        nappe_c=_not_before(thickens, ramp.first_reach(t, course.yield_pa, NAPPE_PA)),
        heavy_c=ramp.first_reach(t, network, SET_AT),
        curdles_c=None if eggless else ramp.first_reach(t, course.curdled, CURDLED_AT),
    )


def _not_before(thickens: float | None, coats: float | None) -> float | None:
    """A mix so rich that it would coat when hardly any of it has set coats when it thickens."""
    return coats if coats is None or thickens is None else max(thickens, coats)
