"""Yolk foam: how much air it takes, and how stiff it stands."""

from __future__ import annotations

import numpy as np

from custard.larder.tables import rows
from custard.physics.real import Real
from custard.physics.texture import NAPPE_PA
from custard.vocabulary import Ribbon

_SHARE = [(float(r["temperature_c"]), float(r["share"])) for r in rows("foam")]
LOOSE = 0.62
"""Volume fraction of air below which bubbles do not touch and the foam adds no stiffness."""


def most_overrun(temperature: Real, best: Real) -> Real:
    """Most overrun a yolk mix reaches at a temperature [1]; tabulated share of the best.

    Parameters
    ----------
    temperature : temperature [degC]
    best : overrun at the best temperature [1]

    >>> [float(most_overrun(t, 2.5)) for t in (20.0, 65.0, 75.0)]
    [1.0, 2.5, 2.0]
    """
    return best * np.interp(temperature, [t for t, _ in _SHARE], [s for _, s in _SHARE])


def air_after(
    air: float,
    most: float,
    thickened: float,
    curdled: float,
    seconds: float,
    whisk_s: float,
    collapse: float,
    collapse_s: float,
) -> float:
    """Overrun after a time of whisking [1]; O_k + (O - O_k) exp(-t / t_w), slower or faster as it falls.

    O_k is the larger of what the temperature allows, O_most exp(-c x), and of what a set film keeps,
    O tau (1 - c).

    Parameters
    ----------
    air : overrun before, O [1]
    most : most overrun at that temperature, O_most [1]
    thickened : degree of setting, tau [1]
    curdled : curdled degree, c [1]
    seconds : time, t [s]
    whisk_s : time constant of the whisk, t_w [s]
    collapse : how strongly curdling breaks the films, x [1]
    collapse_s : time constant of a foam that falls [s]

    >>> round(air_after(0.0, 3.0, 0.0, 0.0, 150.0, 150.0, 6.0, 25.0), 2)
    1.9
    """
    # A set film holds the air it has: what is already fixed does not fall back with the temperature.
    kept = max(most * np.exp(-collapse * curdled), air * thickened * (1 - curdled))
    slow = whisk_s if kept >= air else collapse_s
    return float(kept + (air - kept) * np.exp(-seconds / slow))


def air_fraction(overrun: Real) -> Real:
    """Volume fraction of air [1]; O / (1 + O).

    Parameters
    ----------
    overrun : added volume over that of the mix [1]

    >>> air_fraction(3.0)
    0.75
    """
    return overrun / (1.0 + overrun)


def foam_yield(air: Real, tension: Real, radius: Real, scale: Real) -> Real:
    """Yield stress of packed bubbles [Pa]; s (gamma / R) (phi - 0.62)^2, nil below.

    Parameters
    ----------
    air : volume fraction of air, phi [1]
    tension : surface tension, gamma [N/m]
    radius : mean bubble radius, R [m]
    scale : s [1]

    >>> [round(float(foam_yield(p, 0.045, 5e-5, 0.5)), 1) for p in (0.70, 0.75, 0.80)]
    [2.9, 7.6, 14.6]
    """
    return scale * tension / radius * np.maximum(air - LOOSE, 0.0) ** 2


def weeping(thickened: float, film_degree: float, raw: float, least: float) -> float:
    """Share of its liquid a standing foam loses in an hour [1/h]; l + (r - l) exp(-tau / tau_f).

    The films round the bubbles are the richest in yolk and set long before the whole does.

    Parameters
    ----------
    thickened : degree of the whole, tau [1]
    film_degree : tau_f, degree of the whole at which the films have mostly set [1]
    raw : what an unheated foam loses, r [1/h]
    least : what a set one loses, l [1/h]

    >>> [round(weeping(tau, 0.02, 0.8, 0.05), 2) for tau in (0.0, 0.02, 0.1)]
    [0.8, 0.33, 0.06]
    """
    return float(least + (raw - least) * np.exp(-thickened / film_degree))


def foam_word(overrun: float, stress: float) -> Ribbon:
    """What the whisk shows: liquid, froth, ribbons or mounds.

    Parameters
    ----------
    overrun : added volume over that of the mix [1]
    stress : yield stress of foam and set film together [Pa]
    """
    if overrun < 0.3:
        return Ribbon.LIQUID
    if overrun < 1.0:
        return Ribbon.FROTH
    return Ribbon.MOUNDS if stress >= NAPPE_PA else Ribbon.RIBBONS
