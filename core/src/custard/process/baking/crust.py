"""Sugar burnt on top: how much, how long under a flame or a grill, and how long it stays crisp."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from custard.errors import within
from custard.figures import Tenths, WholeSeconds
from custard.larder.parameters import Parameters

CARAMEL_C, COLD_C = 170.0, 5.0
SUGAR_J_KGK, MELTING_J_KG = 1500.0, 135_000.0
"""Heat capacity and melting heat of sugar; handbook figures from memory."""
BELOW_J_M2 = 200_000.0
"""What runs into the cream below meanwhile; an estimate: some 2 mm of it come near the boil."""


@dataclass(frozen=True)
class Crust:
    """A burnt crust on a dish so wide [cm]: its sugar [g], time under a flame or a grill [s], and how long it
    stays crisp [min]."""

    diameter_cm: Tenths
    grams: Tenths
    flame_s: WholeSeconds
    grill_s: WholeSeconds
    crisp_min: WholeSeconds


def crust(diameter_cm: float, p: Parameters, grams: float | None = None) -> Crust:
    """The crust of a round dish; as much sugar as is usual for its size where nobody says how much.

    Parameters
    ----------
    diameter_cm : across the dish [cm].
    p : the model's parameters.
    grams : sugar on top [g]; None for as much as is usual.

    Raises
    ------
    OutOfRange
        when a size cannot be a dish's.
    """
    within("diameter_cm", diameter_cm, 3, 60)
    area_cm2 = np.pi / 4 * diameter_cm**2
    usual_g = float(p.finish.crust_g_cm2 * area_cm2)
    sugar_g = usual_g if grams is None else grams
    within("grams", sugar_g, 0.1, 2000)
    kg_m2 = sugar_g / area_cm2 * 10
    heat = kg_m2 * (SUGAR_J_KGK * (CARAMEL_C - COLD_C) + MELTING_J_KG) + BELOW_J_M2
    # A thicker glass takes longer to be wetted through by the cream below.
    crisp = p.finish.crust_crisp_min * sugar_g / usual_g
    return Crust(diameter_cm, sugar_g, heat / p.finish.flame_w_m2, heat / p.finish.grill_w_m2, crisp)
