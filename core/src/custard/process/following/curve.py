"""A cook whose temperatures were read: the rest of its state follows them, compiled."""

from __future__ import annotations

import numpy as np
from numba import njit  # typed as Any: its decorators do not keep signatures
from numpy.typing import NDArray

from custard.process.heating.kernel import (
    BASE_C,
    REFRESH_S,
    SAUCE_C,
    T_S,
    YIELD_PA,
    react,
    steam_off,
    thicken,
)
from custard.process.heating.pan import Constants, coefficient, losses


@njit(cache=True, error_model="numpy", nogil=True)
def along(
    k: Constants,
    y: NDArray[np.float64],
    celsius: NDArray[np.float64],
    slope_k_s: NDArray[np.float64],
    swept: NDArray[np.float64],
    crossed: NDArray[np.float64],
    dt: float,
    hottest_base_c: float,
) -> tuple[float, float]:
    """Take a state along temperatures that were read, a step of `dt` [s] each.

    Parameters
    ----------
    k, y : the cook as plain numbers, and the state
    celsius, slope_k_s : the sauce [degC], and how fast it rises [K/s]
    swept, crossed : how the film is swept, and how heat crosses, as stirrings
    dt : step [s]
    hottest_base_c : no base is taken to be hotter [degC]

    Returns
    -------
    the hottest the base must have been [degC], how long it boiled [s]
    """
    hottest, boiled, h = celsius[0], 0.0, 0.0
    refresh = max(1, round(REFRESH_S / dt))
    for i in range(celsius.shape[0]):
        y[SAUCE_C] = celsius[i]
        if i % refresh == 0:
            thicken(k, y)
            h = coefficient(k, y[SAUCE_C], y[YIELD_PA], crossed[i])
        crossed_w = max(0.0, k.sauce_j_k * slope_k_s[i] + losses(k, celsius[i]))
        y[BASE_C] = min(hottest_base_c, celsius[i] + crossed_w / (h * k.heated_m2))
        hottest = max(hottest, y[BASE_C])
        steam_off(k, y, dt, celsius[i], 1.0)
        react(k, y, dt, swept[i], h)
        y[T_S] += dt
        if celsius[i] >= k.boil_c - 1.0:
            boiled += dt
    thicken(k, y)
    return hottest, boiled
