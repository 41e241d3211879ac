"""Yield stress and flow: one number line from milk to paste.

Coagulated egg protein and swollen starch share one network; the fraction of room it fills sets the
yield stress, whichever of the two fills it. Curdled protein leaves the network and becomes grains.
"""

from __future__ import annotations

import numpy as np

from custard.physics.real import Real

WORDS: tuple[tuple[float, str], ...] = (
    (0.4, "runs off"),
    (1.5, "thin coat"),
    (6.0, "nappe"),
    (20.0, "heavy coat"),
    (60.0, "spoonable"),
)
"""Consistency words and the yield stress [Pa] each ends at; above the last it is pipeable."""
NAPPE_PA = 1.5
"""Yield stress [Pa] at which the nappe band begins."""


def word(yield_stress: float) -> str:
    """The cook's word for a yield stress.

    Parameters
    ----------
    yield_stress : yield stress [Pa]

    >>> [word(y) for y in (0.1, 1, 3, 10, 40, 100)]
    ['runs off', 'thin coat', 'nappe', 'heavy coat', 'spoonable', 'pipeable']
    """
    for end, name in WORDS:
        if yield_stress < end:
            return name
    return "pipeable"


def network_fraction(protein: Real, starch: Real, room: Real, crowding: Real, blend: Real) -> Real:
    """Share of the room that the network fills [1]; (v_p^m + v_s^m)^(1/m) / room^c.

    Parameters
    ----------
    protein : volume of the coagulated protein over the whole [1]
    starch : volume of the swollen starch over the whole [1]
    room : what fat, casein and cocoa leave of the whole [1]
    crowding : exponent [1]; at 1 everything is squeezed into the room left, at 0 nothing is
    blend : exponent m [1]; at 1 the two networks add, the higher the more the stronger carries

    >>> network_fraction(0.3, 0.4, 1.0, 0.3, 2.0)
    0.5
    """
    return (protein**blend + starch**blend) ** (1.0 / blend) / room**crowding


def network_yield(fraction: Real, scale: Real, slope: Real, limit: Real) -> Real:
    """Yield stress of the network, hot [Pa]; y = s (exp(b n) - 1), then 1 / (1/y + 1/limit).

    Parameters
    ----------
    fraction : network fraction n [1]
    scale : s [Pa]
    slope : b [1]
    limit : the most a network reaches [Pa]

    >>> float(network_yield(0.0, 0.4, 4.6, 700.0))
    0.0
    """
    grown = scale * np.expm1(slope * np.minimum(fraction, 10.0))
    return grown * limit / (grown + limit)


def setback(temperature: Real, hot: Real, cold: Real, factor: Real) -> Real:
    """How much firmer a network is than at the hot reference [1]; geometric between the two.

    Parameters
    ----------
    temperature : temperature [degC]
    hot : hot reference, where the factor is 1 [degC]
    cold : cold reference, where it is `factor` [degC]
    factor : yield stress cold over hot [1]

    >>> [setback(t, 80.0, 4.0, 4.0) for t in (80.0, 42.0, 4.0)]
    [1.0, 2.0, 4.0]
    """
    return factor ** ((hot - temperature) / (hot - cold))


def solid_milk_fat(temperature: Real) -> Real:
    """Solid share of milk fat [1]; Walstra as remembered, +-0.05 with the season.

    Parameters
    ----------
    temperature : temperature [degC]
    """
    return np.interp(
        temperature,
        np.array([5.0, 10, 15, 20, 25, 30, 35]),
        np.array([0.52, 0.47, 0.34, 0.19, 0.11, 0.05, 0.0]),
    )


def solid_cocoa_butter(temperature: Real) -> Real:
    """Solid share of cocoa butter [1]; Beckett as remembered, +-0.06.

    Parameters
    ----------
    temperature : temperature [degC]
    """
    return np.interp(
        temperature, np.array([5.0, 20, 25, 30, 33, 35]), np.array([0.92, 0.77, 0.70, 0.45, 0.10, 0.0])
    )


def flow_index(yield_stress: Real) -> Real:
    """Herschel-Bulkley flow index [1]: 0.9 for a thin sauce, toward 0.3 for a paste.

    Parameters
    ----------
    yield_stress : yield stress [Pa]
    """
    return 0.9 - 0.6 * yield_stress / (yield_stress + 8.0)


def apparent_viscosity(
    shear_rate: Real, yield_stress: Real, consistency: Real, index: Real, base: Real
) -> Real:
    """Shear stress over shear rate [Pa.s]; (y + K g^n) / g + base.

    Parameters
    ----------
    shear_rate : g [1/s], above 0
    yield_stress : y [Pa]
    consistency : K [Pa.s^n]
    index : n [1]
    base : viscosity of the fluid between the network [Pa.s]
    """
    return yield_stress / shear_rate + consistency * shear_rate ** (index - 1.0) + base
