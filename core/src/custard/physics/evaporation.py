"""Water lost from an open pan."""

from __future__ import annotations

import numpy as np

from custard.larder.tables import rows
from custard.physics.real import Real

_FLUX = [(float(r["temperature_c"]), float(r["flux_g_m2s"])) for r in rows("evaporation")]
FLUX_C = np.array([t for t, _ in _FLUX])
FLUX_G_M2S = np.array([flux for _, flux in _FLUX])


def flux(temperature: Real) -> Real:
    """Evaporation from an open surface in still air [g/m2s], interpolated; x0.4 to x1.2 in real pans.

    Parameters
    ----------
    temperature : surface temperature [degC], 20 to 100

    >>> float(flux(80.0))
    3.2
    """
    return np.interp(temperature, FLUX_C, FLUX_G_M2S)
