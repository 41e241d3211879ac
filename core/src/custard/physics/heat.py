"""Heat transfer between base, sauce and air. Scalars or arrays; compiles under numba."""

from __future__ import annotations

import numpy as np

from custard.physics.real import Real

THIN_PA_S = 0.003
"""Viscosity of an unthickened custard mix [Pa.s], where the stirred coefficient is stated."""
STILL_PA_S = 0.010
"""Viscosity [Pa.s] at which the unstirred coefficient is stated."""
STILL_MOST = 800.0
"""Natural convection of milk [W/m2K], the most without stirring."""


def stirred_coefficient(viscosity: Real, thin: Real, least: Real, power: Real) -> Real:
    """Coefficient from base to a whisked sauce [W/m2K]; thin (mu / mu_thin)^-p, not below `least`.

    Parameters
    ----------
    viscosity : mu at stirring [Pa.s]
    thin : coefficient of a thin sauce [W/m2K]
    least : coefficient of a stiff cream [W/m2K]
    power : p [1]

    >>> float(stirred_coefficient(0.003, 1200.0, 300.0, 0.25))
    1200.0
    """
    return np.maximum(least, thin * np.maximum(viscosity / THIN_PA_S, 1.0) ** -power)


def still_coefficient(viscosity: Real, reference: Real) -> Real:
    """Coefficient from base to a sauce nobody stirs [W/m2K]; natural convection, as mu^-1/3.

    Parameters
    ----------
    viscosity : mu [Pa.s]
    reference : coefficient at 10 mPa.s [W/m2K]

    >>> [round(float(still_coefficient(mu, 290.0))) for mu in (0.01, 0.1, 1.0)]
    [290, 135, 62]
    """
    return np.minimum(STILL_MOST, reference * (viscosity / STILL_PA_S) ** (-1.0 / 3.0))


def steam_coefficient(flux: Real, with_air: Real, without_air: Real, drives: Real) -> Real:
    """Coefficient from steam to a bowl above it [W/m2K]; U = U_air max(1, q / q_0), at most U_steam.

    Air under the bowl keeps steam from the wall. Up to `drives` it stays; more steam drives it out, in
    proportion. Steam that condenses out of air: 300 to 900 W/m2K, handbooks as remembered.

    Parameters
    ----------
    flux : steam that rises under the bowl, as the heat it carries over the bowl's area, q [W/m2]
    with_air : coefficient over a bare simmer, U_air [W/m2K]
    without_air : coefficient once the air is driven out, U_steam [W/m2K]
    drives : steam from which air is driven out, q_0 [W/m2]

    >>> [float(steam_coefficient(q, 330.0, 900.0, 30_000.0)) for q in (10_000.0, 60_000.0, 200_000.0)]
    [330.0, 660.0, 900.0]
    """
    return np.minimum(without_air, with_air * np.maximum(1.0, flux / drives))


def latent_heat(temperature: Real) -> Real:
    """Latent heat of evaporation of water [J/kg]; 2501 - 2.361 t kJ/kg, steam tables.

    Parameters
    ----------
    temperature : temperature [degC], 0 to 110

    >>> float(latent_heat(100.0))
    2264900.0
    """
    return 1000.0 * (2501.0 - 2.361 * temperature)
