"""Stirring by place: what a spot of the pan still has of the last pass of the whisk."""

from __future__ import annotations

import numpy as np

from custard.physics.real import Real


def moving(gap: Real, free: Real, fades: Real) -> Real:
    """How much a spot still moves so long after the whisk went through it [0 to 1]; exp(-(g - f) / e).

    Between passes the sauce goes on turning for a while: up to `free` nothing is lost by the whisk being
    elsewhere. A spot never passed does not move at all.

    Parameters
    ----------
    gap : time since the last pass, g [s]
    free : time within which a spot is as if whisked all the time, f [s]
    fades : time constant of coming to rest after that, e [s]

    >>> [round(float(moving(g, 2.0, 4.0)), 2) for g in (1.0, 4.0, 20.0, float("inf"))]
    [1.0, 0.61, 0.01, 0.0]
    """
    return np.exp(-np.maximum(gap - free, 0.0) / fades)


def between(still: Real, stirred: Real, moves: Real) -> Real:
    """A figure of a spot that moves so much, from one at rest to one that is whisked [that of both].

    Exactly the one and the other at the two ends.

    Parameters
    ----------
    still : the figure of a spot at rest [any]
    stirred : the figure of a spot that is whisked all the time [any]
    moves : how much the spot moves [0 to 1]

    >>> between(290.0, 800.0, 0.0), between(290.0, 800.0, 1.0)
    (290.0, 800.0)
    """
    return (1.0 - moves) * still + moves * stirred


def between_powers(still: Real, stirred: Real, moves: Real) -> Real:
    """The same where the two ends are powers of ten apart [that of both]; a^(1 - w) b^w.

    What stands on a base that is passed every few seconds is scraped off long before it browns: one such
    pass is worth far more than its share of the time.

    Parameters
    ----------
    still : the figure of a spot at rest, a [any]
    stirred : the figure of a spot that is whisked all the time, b [any]
    moves : how much the spot moves, w [0 to 1]

    >>> between_powers(1.0, 0.004, 0.0), between_powers(1.0, 0.004, 1.0)
    (1.0, 0.004)
    """
    return still ** (1.0 - moves) * stirred**moves


def trail_closes(stress: Real, viscosity: Real, density: float, depth: float) -> Real:
    """How long the trail of a whisk stays open [s]; l + a mu / (rho g h), or for ever.

    A trail a few centimetres deep is pushed shut by its own head of sauce against its viscosity; what has a
    yield stress above a twelfth of that head does not close. An estimate: the shape is that of a film's
    levelling, and the numbers are set by a nappe that closes in about a second.

    Parameters
    ----------
    stress : yield stress [Pa]
    viscosity : viscosity at slow flow, mu [Pa.s]
    density : rho [kg/m3]
    depth : how deep the trail is, h [m]

    >>> shown = ((0.0, 0.003), (3.0, 0.25), (90.0, 9.0))
    >>> [round(float(trail_closes(y, mu, 1050.0, 0.02)), 1) for y, mu in shown]
    [0.2, 1.2, inf]
    """
    head = density * 9.81 * depth
    closes = 0.2 + 800.0 * viscosity / head
    return np.where(stress >= head / 12.0, np.inf, closes)
