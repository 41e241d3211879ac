"""Yield stress and flow: one number line from milk to paste.

Coagulated egg protein and swollen starch each build a network; the fraction of room the two fill sets the
yield stress. Stirring breaks that of the egg into a fluid gel. Curdled protein leaves it and becomes grains.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from custard.physics.real import Real
from custard.vocabulary import Coat

WORDS: tuple[tuple[float, Coat], ...] = (
    (0.4, Coat.RUNS_OFF),
    (1.5, Coat.THIN),
    (6.0, Coat.NAPPE),
    (20.0, Coat.HEAVY),
    (60.0, Coat.SPOONABLE),
)
"""Consistency words and the yield stress [Pa] each ends at; above the last it is pipeable."""
MOST_FILLED = 10.0
"""A network fraction far beyond any there is, where the exponential is cut."""
LEAST_PA, MOST_PA = 1e-3, 1e4
"""Nothing is told apart below and above [Pa]."""
NAPPE_PA = 1.5
"""Yield stress [Pa] at which the nappe band begins."""


def word(yield_stress: float) -> Coat:
    """The cook's word for a yield stress.

    Parameters
    ----------
    yield_stress : yield stress [Pa]

    >>> [str(word(y)) for y in (0.1, 1, 3, 10, 40, 100)]
    ['runs off', 'thin coat', 'nappe', 'heavy coat', 'spoonable', 'pipeable']
    """
    for end, name in WORDS:
        if yield_stress < end:
            return name
    return Coat.PIPEABLE


def log_interval(coat: Coat) -> tuple[float, float]:
    """The yield stress that a cook's word stands for, from and to, as logarithms [log Pa].

    Parameters
    ----------
    coat : the word [word]

    >>> [round(float(np.exp(end)), 1) for end in log_interval(Coat.NAPPE)]
    [1.5, 6.0]
    """
    ends = [end for end, _ in WORDS]
    at = list(Coat).index(coat)
    low = ends[at - 1] if at else LEAST_PA
    high = ends[at] if at < len(ends) else MOST_PA
    return float(np.log(low)), float(np.log(high))


class Network(NamedTuple):
    """What a network of egg or starch is like.

    Attributes
    ----------
    crowding : exponent of the room [1]; at 1 all is squeezed into what is left, at 0 nothing is.
    blend : m [1]; at 1 the two add, the higher the more the stronger carries.
    scale, slope : s [Pa] and b [1].
    limit : the most any network reaches [Pa].
    """

    crowding: Real
    blend: Real
    scale: Real
    slope: Real
    limit: Real


def network_yield(
    egg: Real,
    starch: Real,
    room: Real,
    stirred_limit: Real,
    network: Network,
) -> Real:
    """Yield stress of the two networks together, hot [Pa].

    Alone, a network that fills the fraction n has y = s (exp(b n) - 1). Stirring breaks that of the egg as
    fast as it grows into a fluid gel of 1 / (1/y + 1/L), which comes near L and no further; it counts as the
    fraction of an unbroken one as weak. Both together fill (n_e^m + n_s^m)^(1/m).

    Parameters
    ----------
    egg : volume of the coagulated protein over the whole [1]
    starch : volume of the swollen starch over the whole [1]
    room : what fat, casein and cocoa leave of the whole [1]
    stirred_limit : L, the most that stirring leaves of the egg's network [Pa]; infinite undisturbed
    network : what both are made of

    >>> float(network_yield(0.0, 0.0, 1.0, 10.0, Network(0.3, 2.0, 0.7, 4.6, 700.0)))
    0.0
    >>> network = Network(0.3, 2.0, 0.7, 4.6, 700.0)
    >>> stirred, cup = (network_yield(0.9, 0.0, 1.0, most, network) for most in (10, np.inf))
    >>> float(stirred) < 10 < float(cup)
    True
    """
    crowding, blend, scale, slope, limit = network
    squeezed = room**crowding
    alone = scale * np.expm1(slope * np.minimum(egg / squeezed, MOST_FILLED))
    left = np.log1p(alone / (1.0 + alone / stirred_limit) / scale) / slope
    filled = (left**blend + (starch / squeezed) ** blend) ** (1.0 / blend)
    grown = scale * np.expm1(slope * np.minimum(filled, MOST_FILLED))
    return grown / (1.0 + grown / limit)


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


def gelatine_yield(percent: Real, temperature: Real, scale: Real, sets_c: Real, width_k: Real) -> Real:
    """Yield stress of a gelatine gel [Pa]; s c^2 / (1 + exp((t - t_0) / w)).

    Parameters
    ----------
    percent : gelatine of 200 bloom over the whole, c [%]
    temperature : t [degC]
    scale : yield stress of 1 % in the cold, s [Pa]
    sets_c : where half of it is there, t_0 [degC]
    width_k : how sharply, w [K]

    >>> [round(float(gelatine_yield(0.6, t, 200.0, 17.0, 1.5))) for t in (4.0, 17.0, 40.0)]
    [72, 36, 0]
    """
    return scale * percent**2 / (1.0 + np.exp(np.minimum(50.0, (temperature - sets_c) / width_k)))


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
