"""Boiling point of a mix at a kitchen's altitude."""

from __future__ import annotations

import numpy as np

from custard.errors import within
from custard.larder.tables import rows
from custard.physics.real import Real

LOWEST_BOIL_C, HIGHEST_BOIL_C = 79.96, 101.64
"""Where water boils at 6000 m, and at 500 m below the sea [degC]."""
_ELEVATION = [
    (float(r["percent"]), float(r["kelvin"])) for r in rows("boiling_shift") if r["solute"] == "sucrose"
]
_DEPRESSION = [
    (float(r["percent"]), float(r["kelvin"])) for r in rows("boiling_shift") if r["solute"] == "ethanol"
]


def pressure_at(altitude: float) -> float:
    """Standard-atmosphere pressure [kPa]; P = 101.325 (1 - 2.25577e-5 h)^5.25588.

    Parameters
    ----------
    altitude : height above the sea [m], -500 to 9000

    >>> round(pressure_at(0), 3)
    101.325
    """
    return float(101.325 * (1 - 2.25577e-5 * altitude) ** 5.25588)


def water_boils_at(altitude: float) -> float:
    """Boiling point of pure water [degC] by Antoine's equation; weather moves it by 0.7 K.

    Parameters
    ----------
    altitude : height above the sea [m], -500 to 9000

    >>> [round(water_boils_at(h), 1) for h in (0, 500, 1500, 3000)]
    [100.0, 98.3, 95.0, 90.0]
    """
    millimetres = pressure_at(altitude) * 7.500617
    return float(1730.63 / (8.07131 - np.log10(millimetres)) - 233.426)


def altitude_boiling_at(celsius: float) -> float:
    """Height above the sea at which pure water boils so [m]: the inverse of `water_boils_at`.

    For a kitchen that knows what its thermometer shows in boiling water, and not how high it stands; weather
    and thermometer make it good to some 300 m.

    Parameters
    ----------
    celsius : boiling point [degC], 79.96 to 101.64

    Raises
    ------
    OutOfRange
        when water boils so nowhere that is cooked at.

    >>> round(altitude_boiling_at(95.0), -2)
    1500.0
    """
    within("boils_c", celsius, LOWEST_BOIL_C, HIGHEST_BOIL_C)
    millimetres = 10 ** (8.07131 - 1730.63 / (celsius + 233.426))
    return float((1 - (millimetres / 7.500617 / 101.325) ** (1 / 5.25588)) / 2.25577e-5)


def sugar_elevation(sugars: Real) -> Real:
    """How much dissolved sugars raise the boiling point [K]; sugar-technology table, interpolated.

    Parameters
    ----------
    sugars : sugars in the aqueous phase [%], 0 to 90
    """
    return np.interp(sugars, [p for p, _ in _ELEVATION], [k for _, k in _ELEVATION])


def ethanol_depression(ethanol: Real) -> Real:
    """How much ethanol lowers the bubble point [K]; vapour-liquid table, interpolated.

    Parameters
    ----------
    ethanol : ethanol in the aqueous phase [%], 0 to 100
    """
    return np.interp(ethanol, [p for p, _ in _DEPRESSION], [k for _, k in _DEPRESSION])


def boiling_point(sugars: Real, ethanol: Real, altitude: float) -> Real:
    """Boiling point of a mix [degC].

    Parameters
    ----------
    sugars : sugars in the aqueous phase [%]
    ethanol : ethanol in the aqueous phase [%]
    altitude : height above the sea [m]

    >>> round(float(boiling_point(20, 0, 0)), 1)
    100.3
    """
    return water_boils_at(altitude) + sugar_elevation(sugars) - ethanol_depression(ethanol)
