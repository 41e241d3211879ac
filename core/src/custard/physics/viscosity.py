"""Viscosity of the fluid the network sits in: sugar serum, thickened by globules and casein."""

from __future__ import annotations

import numpy as np

from custard.physics.real import Real

GLASSY_SOLIDS_PERCENT = 75.0
"""The sugar law holds up to here; more concentrated serums are treated as this one."""


def sugar_serum(solids: Real, temperature: Real) -> Real:
    """Newtonian viscosity of a sugar solution [Pa.s]; Mathlouthi & Genotelle 1995 as remembered.

    log10 mu[mPa.s] = 22.46 N - 0.114 + F (1.1 + 43.1 N^1.25), N = B / (1900 - 18 B), F = (30 - t) / (91 + t)

    Parameters
    ----------
    solids : dissolved sugars and dextrins in the serum [%], valid 0 to 75
    temperature : temperature [degC], valid 0 to 100

    >>> [round(1000 * float(sugar_serum(b, 20)), 1) for b in (20, 40, 60)]
    [2.0, 6.4, 59.7]
    """
    bounded = np.minimum(solids, GLASSY_SOLIDS_PERCENT)
    n = bounded / (1900.0 - 18.0 * bounded)
    f = (30.0 - temperature) / (91.0 + temperature)
    return 1e-3 * 10.0 ** (22.46 * n - 0.114 + f * (1.1 + 43.1 * n**1.25))


def suspension(serum: Real, particles: Real, packing: Real, power: Real) -> Real:
    """Viscosity of a suspension [Pa.s]; Krieger & Dougherty: mu = mu_s (1 - phi / phi_m)^-p.

    Parameters
    ----------
    serum : viscosity of the fluid between the particles [Pa.s]
    particles : volume fraction of globules, casein and solids [1]; bounded at 0.95 of the packing
    packing : volume fraction at which it would jam [1]
    power : exponent [1]

    >>> float(suspension(0.001, 0.0, 0.7, 1.7))
    0.001
    """
    return serum * (1.0 - np.minimum(particles / packing, 0.95)) ** -power
