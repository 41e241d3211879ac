"""Whipped cream and fruit folded into a cool foam or cream: how much air is left, and how thick it is."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from custard.figures import Grams, Hundredths, Pascals, Share, TenthsCelsius
from custard.larder.ingredients import Ingredient
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.physics import foam, texture
from custard.process.pot import Pot, stirred

WHIPS_FROM_FAT = 30.0
"""Cream with less fat than this does not whip [g/100 g]; kitchen practice as remembered."""
LEAST_PA = 1e-3


@dataclass(frozen=True)
class Folded:
    """What folding comes to.

    Attributes
    ----------
    at_c : temperature of the whole [degC].
    volume_ml : its volume with the air that is left [ml]; `volume_ratio` over that without any air.
    air_kept : share of the air of both that is left [1]; `overmixed_kept` when it is mixed too long.
    yield_stress_pa, word : how thick it is [Pa].
    """

    at_c: TenthsCelsius
    mass_g: Grams
    volume_ml: Grams
    volume_ratio: Hundredths
    air_kept: Share
    overmixed_kept: Share
    yield_stress_pa: Pascals
    word: str


def whips(thing: Ingredient) -> bool:
    """Whether it is cream that is whipped before it is folded in."""
    return thing.is_milk and thing.composition["fat"] >= WHIPS_FROM_FAT and not thing.composition["sucrose"]


def cream_holds(at_c: float, p: Parameters) -> float:
    """Share of whipped cream's air that stands the warmth it meets [degC]; its fat carries it, and melts."""
    over = (at_c - p.finish.foam_melts_c) / p.finish.foam_melts_width_k
    return float(1 / (1 + np.exp(over)))


def folded(
    base: Pot, base_air: float, base_pa: float, into: Pot, whipped_share: float, p: Parameters
) -> Folded:
    """Something cold folded into a foam or a cream.

    Parameters
    ----------
    base : what it is folded into.
    base_air : air in that over its own volume [1]; 0 for a cream without.
    base_pa : its yield stress [Pa].
    into : what is folded in, at its own temperature.
    whipped_share : share of that which is whipped cream [1]; the rest, fruit, has no air.
    p : parameters.
    """
    both = stirred(base, into)
    base_ml = _ml(base.mixture, base.at_c)
    into_ml = _ml(into.mixture, into.at_c)
    cream_air = p.finish.cream_overrun * whipped_share
    stands = cream_holds(base.at_c, p)
    before = base_ml * base_air + into_ml * cream_air
    left = (1 - p.finish.fold_loss) * (base_ml * base_air + stands * into_ml * cream_air)
    worse = max(0.0, 1 - p.finish.overmix_loss) * left
    liquid_ml = base_ml + into_ml
    # Each part carries by the room it takes; whipped cream that has melted carries nothing.
    shares = np.array([base_ml * (1 + base_air), into_ml * (1 + cream_air * stands)])
    firm = whipped_share * stands * p.finish.whipped_pa
    parts = np.maximum([base_pa, firm], LEAST_PA)
    carried = float(np.exp(np.log(parts) @ (shares / shares.sum())))
    bubbles = foam.foam_yield(
        left / (left + liquid_ml), p.foam.tension_n_m, p.foam.bubble_m, p.foam.wide_pa_scale
    )
    stress = carried + float(bubbles)
    return Folded(
        at_c=both.at_c,
        mass_g=both.mass_g,
        volume_ml=liquid_ml + left,
        volume_ratio=1 + left / liquid_ml,
        air_kept=1.0 if before <= 0 else left / before,
        overmixed_kept=1.0 if before <= 0 else worse / before,
        yield_stress_pa=stress,
        word=texture.word(stress),
    )


def _ml(mixture: Mixture, at_c: float) -> float:
    return float(1000 * mixture.mass_g / mixture.density_kg_m3(at_c))


def broken_by_fat(air: float, fat_share: float, p: Parameters) -> float:
    """Air of a foam once melted chocolate is whisked into it [1]; `fat_share` of the whole is its fat [1]."""
    return float(air * np.exp(-p.finish.fat_breaks_foam * fat_share))
