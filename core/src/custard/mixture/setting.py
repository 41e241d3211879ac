"""Where a mix sets and curdles, and how far sugar puts off its starch."""

from __future__ import annotations

from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.physics import coagulation, starch
from custard.physics.real import Real


def setting_c(mixture: Mixture, p: Parameters) -> Real:
    """Setting temperature of a mix [degC]."""
    return coagulation.setting_temperature(
        mixture.egg_protein_percent,
        mixture.sugars_in_aqueous_percent,
        mixture.ethanol_in_aqueous_percent,
        mixture.ph,
        p.coagulation,
    )


def starch_delay_k(mixture: Mixture, p: Parameters) -> Real:
    """How much sugar delays the starch of a mix [K]."""
    s = mixture.sugars_in_aqueous_percent
    return starch.sugar_shift(s, p.starch.sugar_shift_k, p.starch.sugar_shift_k2)


def curdling_gap_k(mixture: Mixture, p: Parameters, *, undisturbed: bool = False) -> Real:
    """How far above setting a mix curdles without starch [K]."""
    return coagulation.curdling_gap(mixture.sugars_in_aqueous_percent, p.coagulation, undisturbed=undisturbed)
