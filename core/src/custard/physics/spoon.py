"""The spoon test: the film left on a metal spoon, and whether a finger line holds in it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from custard.physics.real import Real
from custard.vocabulary import FingerLine

GRAVITY = 9.81


@dataclass(frozen=True)
class Film:
    """The film on the back of the spoon.

    Attributes
    ----------
    film_mm : thickness after draining [mm].
    yield_film_mm : the part the yield stress carries for good [mm].
    line : what a line drawn through it does.
    closes_s : seconds until a drawn line has closed; None when it holds.
    """

    film_mm: float
    yield_film_mm: float
    line: FingerLine
    closes_s: float | None


def yield_film(yield_stress: Real, density: Real) -> Real:
    """Thickness of a film that never drains off a vertical spoon [m]; y / (rho g).

    Parameters
    ----------
    yield_stress : yield stress [Pa]
    density : density [kg/m3]

    >>> round(1000 * yield_film(3.0, 1060.0), 2)
    0.29
    """
    return yield_stress / (density * GRAVITY)


def drained_film(viscosity: Real, density: Real, length: Real, time: Real) -> Real:
    """Thickness of a film draining for a time [m]; sqrt(mu z / (rho g t)).

    Parameters
    ----------
    viscosity : viscosity at the slow flow of draining [Pa.s]
    density : density [kg/m3]
    length : distance from the upper edge [m]
    time : draining time [s]

    >>> [round(1000 * float(drained_film(mu, 1060.0, 0.03, 10.0)), 2) for mu in (0.01, 0.1, 0.3)]
    [0.05, 0.17, 0.29]
    """
    return np.sqrt(viscosity * length / (density * GRAVITY * time))


def left_film(
    yield_stress: Real, viscosity: Real, density: Real, length: float, time: float, most: float
) -> Real:
    """Thickness of the film a spoon keeps [m]: drained and carried film, added as squares.

    Parameters
    ----------
    yield_stress : yield stress at spoon temperature [Pa]
    viscosity : viscosity at the slow flow of draining [Pa.s]
    density : density [kg/m3]
    length : length over which it drains [m]
    time : draining time [s]
    most : the thickest that stays on a spoon [m]

    >>> round(1000 * float(left_film(3.0, 0.3, 1060.0, 0.03, 10.0, 0.004)), 2)
    0.41
    """
    carried = np.minimum(most, yield_film(yield_stress, density))
    return np.minimum(most, np.hypot(carried, drained_film(viscosity, density, length, time)))


def line_closing_time(viscosity: float, film: float, line: float, tension: float, length: float) -> float:
    """Time for surface tension and drainage to close a line [s]; the faster of the two.

    3 mu L^4 / (16 pi^4 gamma h^3), and the run-in of the drained edge, L / (z / 3 t) with t = 10 s.

    Parameters
    ----------
    viscosity : viscosity [Pa.s]
    film : film thickness [m]
    line : width of the line [m]
    tension : surface tension [N/m]
    length : distance from the upper edge [m]
    """
    by_tension = 3 * viscosity * line**4 / (16 * np.pi**4 * tension * film**3)
    by_drainage = line / (length / 30.0)
    return float(min(by_tension, by_drainage))


class SpoonTest(NamedTuple):
    """How a spoon is dipped and looked at.

    Attributes
    ----------
    length : length over which it drains [m].
    time : draining time [s].
    line : width of the finger line [m].
    tension : surface tension [N/m].
    hold_share : share of the film that must be carried for the line to hold [1].
    most : the thickest that stays on a spoon [m].
    """

    length: float
    time: float
    line: float
    tension: float
    hold_share: float
    most: float


def spoon_film(
    yield_stress: float,
    viscosity: float,
    density: float,
    test: SpoonTest,
) -> Film:
    """What a dipped spoon shows after draining.

    The drained film and the film that the yield stress carries add as squares, up to what a spoon
    holds at all. The line holds when the carried film is at least that share of the whole.

    Parameters
    ----------
    yield_stress : yield stress at spoon temperature [Pa]
    viscosity : viscosity at the slow flow of draining [Pa.s]
    density : density [kg/m3]
    test : how it is tested
    """
    length, time, line, tension, hold_share, most = test
    carried = min(most, float(yield_film(yield_stress, density)))
    film = float(left_film(yield_stress, viscosity, density, length, time, most))
    if carried >= hold_share * film:
        return Film(1000 * film, 1000 * carried, FingerLine.HOLDS, None)
    seconds = line_closing_time(viscosity, film, line, tension, length)
    return Film(1000 * film, 1000 * carried, FingerLine.CLOSES if seconds >= 1 else FingerLine.RUNS, seconds)
