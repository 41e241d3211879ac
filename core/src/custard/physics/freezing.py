"""Freezing and sweetness of a base that will be churned."""

from __future__ import annotations

import numpy as np

from custard.larder.tables import rows
from custard.physics.real import Real

_POINTS = [(float(r["sucrose_g_per_100g_water"]), float(r["depression_k"])) for r in rows("freezing")]
SALTS_K = 1.35
"""Depression by milk salts [K] per gram of milk solids non-fat and gram of water, times 1/100: 2.37 as books
on ice cream have it, as remembered, less the common salt of milk, which is counted by its own two ions."""


def depression(sucrose_equivalent: Real) -> Real:
    """Freezing point depression of sugars [K]; Leighton's table as remembered.

    Parameters
    ----------
    sucrose_equivalent : sugars as sucrose, by freezing factor, in the water [g/100g]

    >>> float(depression(30.0))
    1.86
    """
    return np.interp(sucrose_equivalent, [g for g, _ in _POINTS], [k for _, k in _POINTS])


def frozen_share(temperature: Real, freezing_point: Real) -> Real:
    """Share of the water that is ice [1]; 1 - Tf / T, nil above the freezing point.

    Parameters
    ----------
    temperature : temperature [degC]
    freezing_point : initial freezing point, Tf [degC], below 0

    >>> [round(float(frozen_share(t, -2.8)), 2) for t in (-5.0, -10.0, -18.0)]
    [0.44, 0.72, 0.84]
    """
    cold = np.minimum(temperature, freezing_point)
    return 1.0 - freezing_point / cold
