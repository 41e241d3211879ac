"""How thick a sauce is with dry things in it, now and tomorrow."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from custard.advice.mix.texture import yield_stress
from custard.figures import Grams, Pascals
from custard.larder.ingredients import Ingredient
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.physics import texture
from custard.process.cooling.drinking import drunk_g
from custard.process.heating.state import State
from custard.vocabulary import Coat

PACKING = 0.62
"""Share of the whole at which bits jam [1]; random close packing, rounded down."""
LEAST_LEFT = 0.2


@dataclass(frozen=True)
class Drunk:
    """A sauce with dry things in it after a while [h]: what they took up [g], and how thick it is [Pa]."""

    hours: float
    taken_g: Grams
    yield_stress_pa: Pascals
    word: Coat


def drunk(
    sauce: Mixture,
    state: State,
    at_c: float,
    things: tuple[tuple[Ingredient, float], ...],
    hours: float,
    p: Parameters,
) -> Drunk:
    """How thick a sauce is with dry things in it after some hours, at a temperature [degC].

    What they take up is gone from the sauce as steam would be; swollen, they stiffen it as bits in a paste do
    (Chateau and Ovarlez, as remembered).

    Parameters
    ----------
    sauce : the mix.
    state : how far it is cooked.
    at_c : temperature at which it is looked at [degC], 0 to 100.
    things : what stands in it, and how much of each [g].
    hours : how long [h], 0 and more.
    p : the model's parameters.
    """
    mass_g = float(sauce.mass_g)
    taken_g = drunk_g(things, float(sauce.fractions["water"]) * mass_g, hours)
    left = max(LEAST_LEFT, state.left * (1 - taken_g / mass_g))
    paste = yield_stress(sauce, replace(state, left=left), at_c, p)
    bits_ml = taken_g + sum(g / thing.density_g_ml for thing, g in things)
    sauce_ml = (mass_g - taken_g) / (float(sauce.density_kg_m3(at_c)) / 1000)
    bits = min(0.9 * PACKING, bits_ml / (bits_ml + sauce_ml))
    stiffer = np.sqrt((1 - bits) * (1 - bits / PACKING) ** (-2.5 * PACKING))
    stress = float(paste * stiffer)
    return Drunk(hours, taken_g, stress, texture.word(stress))
