"""Alcohol: how much of it is left after it has been warm for a while."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from custard.larder.parameters import Parameters
from custard.physics.real import Real

VAPOUR_K = 5050.0
"""Heat of vaporisation of ethanol over the gas constant [K]; 42 kJ/mol, a handbook figure from memory."""
STATED_C = 70.0
ZERO_C = 273.15


def loss_per_s(at_c: Real, p: Parameters) -> Real:
    """Share of its alcohol that a stirred sauce loses [1/s], by its vapour pressure at a warmth [degC]."""
    warmer = 1 / (STATED_C + ZERO_C) - 1 / (np.asarray(at_c) + ZERO_C)
    return p.finish.alcohol_loss_per_min / 60 * np.exp(VAPOUR_K * warmer)


def kept(t_s: NDArray[np.float64], at_c: NDArray[np.float64], p: Parameters) -> float:
    """Share of its alcohol that is left after a course of temperatures [1].

    Parameters
    ----------
    t_s : times [s], rising
    at_c : temperature at each [degC]
    p : parameters
    """
    return float(np.exp(-np.trapezoid(loss_per_s(at_c, p), t_s)))


def kept_at(at_c: float, minutes: float, p: Parameters) -> float:
    """Share left after some minutes at one temperature [1]."""
    return float(np.exp(-60 * minutes * loss_per_s(at_c, p)))
