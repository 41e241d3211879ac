"""What is folded into a foam or a cream: how much air is left, and how thick it is, warm and cold.

Each kind of thing brings something else: whipped cream and whipped white bring air, butter and cheese their
fat, a purée thins, and pieces only lie in it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from custard.figures import Grams, Hundredths, Pascals, Share, TenthsCelsius
from custard.larder.ingredients import Ingredient
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.physics import foam, texture
from custard.process.heating.pot import Pot, stirred
from custard.vocabulary import Coat

WHIPS_FROM_FAT = 30.0
"""Cream with less fat than this does not whip [g/100 g]; kitchen practice as remembered."""
WHIPPED, WHITE, BUTTER, CHEESE, PUREE, THIN, NUTS, PIECES = (
    "whipped", "white", "butter", "cheese", "puree", "thin", "nuts", "pieces",
)  # fmt: skip
LEAST_PA = 1e-3
COLD_C = 5.0
BUTTER_AT_C, CHEESE_AT_C = 18.0, 5.0
"""Where the yield stress of beaten butter and of fresh cheese is stated."""
FAT_POWER = {BUTTER: 4.4, CHEESE: 1.0}
"""How steeply their yield stress rises with their solid fat [1]; estimates."""


@dataclass(frozen=True)
class Folded:
    """What folding comes to.

    Attributes
    ----------
    at_c : temperature of the whole [degC].
    volume_ml : its volume with the air that is left [ml]; `volume_ratio` over that without any air.
    air_kept : share of the air of both that is left [1]; `overmixed_kept` when it is mixed too long.
    yield_stress_pa, word : how thick it is [Pa]; `cold_pa`, `cold_word` after a night in the fridge, None
        and "" in plans kept before that was computed.
    """

    at_c: TenthsCelsius
    mass_g: Grams
    volume_ml: Grams
    volume_ratio: Hundredths
    air_kept: Share
    overmixed_kept: Share
    yield_stress_pa: Pascals
    word: Coat
    cold_pa: Pascals | None = None
    cold_word: str = ""


@dataclass(frozen=True)
class Base:
    """What something is folded into.

    Attributes
    ----------
    pot : what it is, and how warm.
    air : air in it over its own volume [1]; 0 for a cream without.
    yield_pa, cold_pa : its yield stress now and in the fridge [Pa].
    """

    pot: Pot
    air: float
    yield_pa: float
    cold_pa: float


def fold_kind(thing: Ingredient) -> str:
    """Which kind of thing it is when it is folded in."""
    if thing.group == "egg":
        return WHITE if thing.composition["white_protein"] > thing.composition["yolk_protein"] else THIN
    if thing.is_milk:
        return WHIPPED if whips(thing) else THIN
    if thing.group == "dairy" and thing.form == "solid":
        return BUTTER if thing.is_butter else CHEESE
    if thing.form == "liquid":
        return PUREE if thing.group == "fruit" else THIN
    return NUTS if thing.group == "dry" else PIECES


def whips(thing: Ingredient) -> bool:
    """Whether it is cream that is whipped before it is folded in."""
    return thing.is_milk and thing.composition["fat"] >= WHIPS_FROM_FAT and not thing.composition["sucrose"]


def cream_holds(at_c: float, p: Parameters) -> float:
    """Share of whipped cream's air that stands the warmth it meets [degC]; its fat carries it, and melts."""
    over = (at_c - p.finish.foam_melts_c) / p.finish.foam_melts_width_k
    least = p.finish.foam_least
    return float(least + (1 - least) / (1 + np.exp(over)))


def air_of(kind: str, into: Mixture, at_c: float, p: Parameters) -> float:
    """Air in it over its own volume once it is whipped or beaten [1]; 0 for what holds none.

    Parameters
    ----------
    into : what is folded in; a white with the sugar it is whipped with.
    at_c : how warm it is [degC].
    """
    if kind == WHIPPED:
        return p.finish.cream_overrun
    if kind == BUTTER:
        return p.finish.butter_air
    if kind == WHITE:
        sugar = float(
            into.sugars / max(float(into.fractions["water"] + into.fractions["white_protein"]), 0.1)
        )
        whipped_g_ml = p.finish.white_g_ml + p.finish.white_sugar_g_ml * sugar
        return max(0.0, float(into.density_kg_m3(at_c)) / 1000 / whipped_g_ml - 1)
    return 0.0


def stands(kind: str, base_c: float, p: Parameters) -> float:
    """Share of its air that stands the warmth of what it is folded into [1]; heat sets a white."""
    return 1.0 if kind == WHITE else cream_holds(base_c, p)


def firmness_pa(kind: str, at_c: float, p: Parameters) -> float:
    """Its own yield stress at a temperature [Pa]."""
    if kind in FAT_POWER:
        stated_pa, stated_c = {
            BUTTER: (p.finish.butter_pa, BUTTER_AT_C),
            CHEESE: (p.finish.cheese_pa, CHEESE_AT_C),
        }[kind]
        solid = float(texture.solid_milk_fat(at_c) / texture.solid_milk_fat(stated_c))
        return float(stated_pa * solid ** FAT_POWER[kind])
    return {WHIPPED: p.finish.whipped_pa, WHITE: p.finish.white_pa, PUREE: p.finish.puree_pa}.get(
        kind, LEAST_PA
    )


def folded(base: Base, into: Pot, kind: str, p: Parameters) -> Folded:
    """Something folded into a foam or a cream.

    Parameters
    ----------
    base : what it is folded into.
    into : what is folded in, at its own temperature.
    kind : which kind of thing that is, as `fold_kind` says.
    p : parameters.
    """
    both = stirred(base.pot, into)
    base_ml, into_ml = _ml(base.pot.mixture, base.pot.at_c), _ml(into.mixture, into.at_c)
    own_air = air_of(kind, into.mixture, into.at_c, p)
    held = stands(kind, base.pot.at_c, p)
    before = base_ml * base.air + into_ml * own_air
    left = (1 - p.finish.fold_loss) * (base_ml * base.air + held * into_ml * own_air)
    worse = max(0.0, 1 - p.finish.overmix_loss) * left
    liquid_ml = base_ml + into_ml
    # Each part carries by the room it takes; pieces lie in it, and whipped cream that melted carries nothing.
    room = np.array(
        [base_ml * (1 + base.air), 0.0 if kind in (NUTS, PIECES) else into_ml * (1 + own_air * held)]
    )
    shares = room / room.sum()
    bubbles = foam.foam_yield(
        left / (left + liquid_ml), p.foam.tension_n_m, p.foam.bubble_m, p.foam.wide_pa_scale
    )

    def carried(base_pa: float, at_c: float) -> float:
        firm = firmness_pa(kind, at_c, p) * (held if kind == WHIPPED else 1.0)
        parts = np.maximum([base_pa, firm], LEAST_PA)
        return float(np.exp(np.log(parts) @ shares)) + float(bubbles)

    stress, cold = carried(base.yield_pa, both.at_c), carried(base.cold_pa, COLD_C)
    return Folded(
        at_c=both.at_c,
        mass_g=both.mass_g,
        volume_ml=liquid_ml + left,
        volume_ratio=1 + left / liquid_ml,
        air_kept=1.0 if before <= 0 else left / before,
        overmixed_kept=1.0 if before <= 0 else worse / before,
        yield_stress_pa=stress,
        word=texture.word(stress),
        cold_pa=cold,
        cold_word=texture.word(cold),
    )


def _ml(mixture: Mixture, at_c: float) -> float:
    return float(1000 * mixture.mass_g / mixture.density_kg_m3(at_c))


def broken_by_fat(air: float, fat_share: float, p: Parameters) -> float:
    """Air of a foam once melted chocolate is whisked into it [1]; `fat_share` of the whole is its fat [1]."""
    return float(air * np.exp(-p.finish.fat_breaks_foam * fat_share))
