"""Swelling of starch: when the granules open, and how much room they take at a temperature."""

from __future__ import annotations

import numpy as np

from custard.larder.tables import rows
from custard.physics.real import Real

_CAPACITY = [(float(r["temperature_c"]), float(r["share"])) for r in rows("swelling_capacity")]
CAPACITY_C = np.array([t for t, _ in _CAPACITY])
CAPACITY_SHARE = np.array([share for _, share in _CAPACITY])
MAIZE_REFERENCE_C = 80.0
"""Gelatinisation reference of maize, for which the capacity table is stated."""


def sugar_shift(sugars: Real, linear: Real, quadratic: Real) -> Real:
    """How much sugar delays swelling [K]; a S + b S^2.

    Parameters
    ----------
    sugars : sugars in the aqueous phase [%], 0 to 60
    linear : a [K/%]
    quadratic : b [K/%2]

    >>> [round(sugar_shift(s, 0.15, 0.005)) for s in (20, 40, 50)]
    [5, 14, 20]
    """
    return linear * sugars + quadratic * sugars * sugars


def capacity(temperature: Real, shift: Real) -> Real:
    """Share of its full swelling that an open granule reaches at a temperature [1].

    Maize by Leach 1959 as remembered, linear between the points; other kinds are moved by the
    difference of their gelatinisation temperature.

    Parameters
    ----------
    temperature : highest temperature the granule has seen [degC]
    shift : delay by sugar and by kind [K]
    """
    return np.interp(temperature - shift, CAPACITY_C, CAPACITY_SHARE)
