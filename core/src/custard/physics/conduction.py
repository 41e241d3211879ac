"""Conduction into a slab or a cylinder, with a coefficient at the surface."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

SLAB, CYLINDER = 0, 1
SMALL_STEPS = 256
"""How many implicit steps one step is made of; first order each, so a 256th of its error."""


def cool_lumped(
    start: float, medium: float, time: NDArray[np.float64], constant: float
) -> NDArray[np.float64]:
    """Temperature of a stirred body [degC]; T = Tm + (T0 - Tm) exp(-t / tau).

    Parameters
    ----------
    start : T0 [degC]
    medium : Tm [degC]
    time : t [s]
    constant : tau = m c / (U A) [s]
    """
    return np.asarray(medium + (start - medium) * np.exp(-time / constant))


class Body(NamedTuple):
    """What heat goes through.

    Attributes
    ----------
    half : half thickness of the slab, or radius of the cylinder [m].
    diffusivity : thermal diffusivity [m2/s].
    biot : h L / k at the surface [1].
    shape : SLAB or CYLINDER [1].
    """

    half: float
    diffusivity: float
    biot: float
    shape: int


def conduct(
    body: Body,
    start: float,
    medium: float,
    step: float,
    steps: int,
    nodes: int = 61,
) -> NDArray[np.float64]:
    """Temperatures through the half thickness (or radius) in time [degC]; implicit finite volumes.

    Rows are times from 0, columns nodes from the middle to the surface.

    Parameters
    ----------
    body : what it goes through
    start : even temperature at the start [degC]
    medium : temperature outside [degC]
    step : time step [s]
    steps : how many [1]
    nodes : nodes from the middle to the surface [1]
    """
    half, diffusivity, biot, shape = body
    x = np.linspace(0.0, 1.0, nodes)
    dx = x[1]
    faces = ((x[:-1] + x[1:]) / 2) ** shape
    inner = np.concatenate(([0.0], faces))
    outer = np.concatenate((faces, [0.0]))
    edges = np.concatenate(([0.0], (x[:-1] + x[1:]) / 2, [1.0]))
    volume = (edges[1:] ** (shape + 1) - edges[:-1] ** (shape + 1)) / (shape + 1)
    low, high = inner / dx / volume, outer / dx / volume
    surface = np.zeros(nodes)
    surface[-1] = biot / volume[-1]
    main = -(low + high + surface)
    fourier = diffusivity * step / half**2
    spread = np.diag(main) + np.diag(high[:-1], 1) + np.diag(low[1:], -1)
    same = np.eye(nodes)
    # Everything is linear and constant in time, so one matrix carries every step: many small implicit ones in
    # a row, of which each only ever averages, so that nothing overshoots however thin the layer.
    once = np.linalg.inv(same - fourier / SMALL_STEPS * spread)
    onward = np.linalg.matrix_power(once, SMALL_STEPS)
    t = np.empty((steps + 1, nodes))
    t[0] = float(start) - medium
    # What is known already gives as many rows again, until there are enough.
    known = 1
    while known <= steps:
        more = min(known, steps + 1 - known)
        t[known : known + more] = t[:more] @ onward.T
        onward, known = onward @ onward, known + more
    t += medium
    return t
