"""The open surface from which a sauce steams."""

from __future__ import annotations

import numpy as np

from custard.larder.parameters import Parameters
from custard.mixture import Mixture

HOT_C = 80.0


def open_surface_m2(mixture: Mixture, p: Parameters) -> float:
    """Surface [m2] of a mix in a pan in which it lies as deep as is usual."""
    volume_m3 = float(mixture.mass_g) / 1000 / float(mixture.density_kg_m3(HOT_C))
    return volume_m3 / p.losses.pan_depth_m


def cooked_on_share(minutes: float, p: Parameters) -> float:
    """Share of a filling that steams off while it is stirred over the flame in a wide pan [1].

    Parameters
    ----------
    minutes : how long [min]
    p : parameters
    """
    return 60 * minutes * p.losses.wide_g_m2s * p.losses.wide_m2_kg / 1000


def clings_g(area_m2: float, p: Parameters) -> float:
    """What stays on pan and sieve when it is poured through [g]."""
    walls = area_m2 + 2 * np.sqrt(np.pi * area_m2) * p.losses.pan_depth_m
    return float(walls * p.losses.wall_film_g_m2)
