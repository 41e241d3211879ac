"""Tempering: hot dairy into cold yolks, by enthalpy."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from custard.conditions import USUAL, Conditions
from custard.errors import Impossible, within
from custard.figures import Celsius, FineShare, Grams, Seconds, WholeSeconds
from custard.formula import Formula, Line
from custard.larder.ingredients import Ingredient
from custard.larder.parameters import Parameters
from custard.larder.vessels import one_of
from custard.mixture import Mixture, blend, combined
from custard.mixture.setting import curdling_gap_k, setting_c
from custard.physics import boiling, coagulation, thermal
from custard.vocabulary import When

BOWL_GROUPS = ("egg", "starch", "sugar")
"""What is whisked in the bowl before the dairy goes in, where nobody says otherwise."""
HALF_IN_THE_BOWL = 0.5
"""Of the sugar, by the commonest school."""


@dataclass(frozen=True)
class Sides:
    """The two things that meet: the bowl (yolks, half the sugar, starch) and the hot dairy."""

    bowl: Mixture
    dairy: Mixture


def share_in_bowl(line: Line, sugar_in_bowl: float = HALF_IN_THE_BOWL) -> float:
    """Share of a line that is whisked with the yolks [1]: as it says, else as is usual for what it is.

    `sugar_in_bowl` is the share of sugar that the school of sugar puts there [1].
    """
    if line.when == When.WITH_THE_YOLKS:
        return 1.0
    if line.when == When.IN_THE_DAIRY:
        return 0.0
    group = line.ingredient.group
    return sugar_in_bowl if group == "sugar" else float(group in BOWL_GROUPS)


def sides(formula: Formula, sugar_in_bowl: float = HALF_IN_THE_BOWL) -> Sides | None:
    """How a formula divides for tempering; None when there is nothing to pour, or nothing to pour into."""
    bowl: list[tuple[Ingredient, float]] = []
    dairy: list[tuple[Ingredient, float]] = []
    for line, mass in zip(formula.lines, formula.weights_g(), strict=True):
        if not line.join.heated:
            continue
        share = share_in_bowl(line, sugar_in_bowl)
        bowl.append((line.ingredient, share * mass))
        dairy.append((line.ingredient, (1 - share) * mass))
    has_egg = any(ingredient.group == "egg" and mass > 0 for ingredient, mass in bowl)
    has_dairy = any(ingredient.group != "sugar" and mass > 0 for ingredient, mass in dairy)
    return Sides(blend(bowl), blend(dairy)) if has_egg and has_dairy else None


def mixed_c(first: Mixture, first_c: float, second: Mixture, second_c: float) -> float:
    """Temperature [degC] after mixing two mixes, conserving mass and enthalpy."""
    mass = first.mass_g + second.mass_g
    heat = first.mass_g * thermal.enthalpy(first.proximate, first_c)
    heat += second.mass_g * thermal.enthalpy(second.proximate, second_c)
    return float(thermal.temperature_at(combined(first, second).proximate, heat / mass))


def landing_c(
    formula: Formula,
    hot_c: float,
    bowl_c: float = 20.0,
    conditions: Conditions = USUAL,
    *,
    sugar_in_bowl: float = HALF_IN_THE_BOWL,
) -> float | None:
    """Where the mix lands [degC] once all the dairy at `hot_c` has run into the bowl at `bowl_c`.

    The dairy cools while it waits, and the bowl itself is warmed: the stream of `temper`, whose heat adds
    up the same in one sum as pour by pour. None when the formula has nothing to temper.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    hot_c : temperature of the dairy as it is poured [degC], up to 105.
    bowl_c : temperature of the yolks in their bowl [degC].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    sugar_in_bowl : share of the sugar that is whisked with the yolks [0 to 1].
    """
    parts = sides(formula.under(conditions), sugar_in_bowl)
    if parts is None:
        return None
    p = conditions.parameters
    hot_c = min(hot_c, boils_at_c(parts.dairy, conditions.altitude_m))
    kept = _kept(p, p.temper.pour_s)
    mean = (1 - kept**STREAM_POURS) / (STREAM_POURS * (1 - kept))
    poured_c = max(bowl_c, p.heat.air_c + (hot_c - p.heat.air_c) * mean)
    met_c = mixed_c(parts.bowl, bowl_c, parts.dairy, poured_c)
    mix_j_kgk = thermal.heat_capacity(combined(parts.bowl, parts.dairy).proximate, met_c)
    return float((mix_j_kgk * met_c + p.temper.bowl_j_kgk * bowl_c) / (mix_j_kgk + p.temper.bowl_j_kgk))


def boils_at_c(dairy: Mixture, altitude_m: float) -> float:
    """Where the dairy that is poured boils [degC] at a height [m]: no hotter does it come to the bowl."""
    sugars, ethanol = dairy.sugars_in_aqueous_percent, dairy.ethanol_in_aqueous_percent
    return float(boiling.boiling_point(sugars, ethanol, altitude_m))


def _kept(p: Parameters, seconds: float) -> float:
    """Share of its warmth over the room that waiting dairy keeps [1]."""
    return float(np.exp(-p.temper.dairy_cooling_k_per_min / 60 * seconds / COOLING_FROM_K))


SCHOOLS: tuple[str, ...] = ("ladle", "stream", "reverse", "none")
STREAM_POURS = 24
MOST_LADLES = 12
"""A larger batch is ladled with a larger ladle: so many would take in all of the dairy."""
MAX_POURS = 400
COOLING_FROM_K = 70.0
"""How far above the room hot dairy is when it cools at its stated rate."""
SUGAR_WAITS_S = 180.0
"""How long sugar may lie on yolks before it leaves hard grains [s]; an estimate, it begins within minutes."""
LADLES_SHARE = 0.5
"""Ladle by ladle stops when this much of the dairy is in; then all goes back into the pan."""


@dataclass(frozen=True)
class Pour:
    """One pour: what went in [g], when [s], where it left the bowl and the spot it fell on [degC].

    `local_curdling` is the share of egg that curdles in that spot before it is whisked in.
    """

    poured_g: Grams
    at_s: Seconds
    bowl_c: Celsius
    local_c: Celsius
    local_curdling: FineShare


@dataclass(frozen=True)
class Temper:
    """A tempering by one school, and what of the egg curdles at worst in the spot that is poured onto [1]."""

    school: str
    pours: tuple[Pour, ...]
    landing_c: Celsius
    worst_local_curdling: FineShare
    seconds: WholeSeconds


def temper(
    formula: Formula,
    school: str,
    hot_c: float,
    ladle_g: float = 80.0,
    bowl_c: float = 20.0,
    conditions: Conditions = USUAL,
    *,
    sugar_in_bowl: float = HALF_IN_THE_BOWL,
) -> Temper:
    """Bring yolks and hot dairy together by one school.

    ladle : ladle by ladle until half is in, then all back into the hot pan; stream : the whole in a thin
    stream; reverse : the yolks in a stream into the hot dairy; none : everything cold together.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    school : how it is poured: "stream", "ladle", "reverse" or "none".
    hot_c : temperature of the dairy as it is poured [degC], up to 105.
    ladle_g : what one ladle holds [g].
    bowl_c : temperature of the yolks in their bowl [degC].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    sugar_in_bowl : share of the sugar that is whisked with the yolks [0 to 1].

    Raises
    ------
    Impossible
        when the formula has nothing to pour, or nothing to pour into.
    """
    one_of("school", school, SCHOOLS)
    within("hot_c", hot_c, 30, 105)
    within("ladle_g", ladle_g, 1, 100_000)
    within("bowl_c", bowl_c, 0, 60)
    parts = sides(formula.under(conditions), sugar_in_bowl)
    if parts is None:
        raise Impossible("school", school, "needs both egg and dairy", "There is nothing to temper here.")
    p = conditions.parameters
    # Dairy is no hotter than it boils, which up a mountain is well under what is asked.
    hot_c = min(hot_c, boils_at_c(parts.dairy, conditions.altitude_m))
    if school == "none":
        cold = mixed_c(parts.bowl, bowl_c, parts.dairy, bowl_c)
        return Temper(school, (), cold, 0.0, 0.0)
    if school == "reverse":
        return _pour_into(
            parts.dairy, hot_c, parts.bowl, bowl_c, parts.bowl.mass_g / STREAM_POURS, 1.0, school, p
        )
    # Nobody ladles a large batch with a small ladle.
    size = max(ladle_g, parts.dairy.mass_g / MOST_LADLES)
    if school != "ladle":
        size = parts.dairy.mass_g / STREAM_POURS
    share = LADLES_SHARE if school == "ladle" else 1.0
    return _pour_into(parts.bowl, bowl_c, parts.dairy, hot_c, size, share, school, p)


def _pour_into(
    into: Mixture,
    into_c: float,
    poured: Mixture,
    poured_c: float,
    size_g: float,
    share: float,
    school: str,
    p: Parameters,
) -> Temper:
    """Pour by pour, conserving heat; what waits cools, and the cold vessel takes its part of the heat."""
    hot_waits = poured_c > into_c
    # A cold bowl is warmed by every pour; a pan that held the hot dairy is as warm as it already.
    vessel_j_k = p.temper.bowl_j_kgk * (into.mass_g + poured.mass_g) / 1000 if hot_waits else 0.0
    left_g, seconds, now = poured.mass_g, 0.0, into
    pace = p.temper.pour_s + (p.temper.between_s if school == "ladle" else 0.0)
    kept = _kept(p, pace)
    pours: list[Pour] = []
    while left_g > (1 - share) * poured.mass_g + 1e-6 and len(pours) < MAX_POURS:
        portion = min(size_g, left_g)
        piece = replace(poured, mass_g=portion)
        spot_c, spot = _spot(now, into_c, piece, poured_c, p)
        met_c = mixed_c(now, into_c, piece, poured_c)
        now = combined(now, piece)
        met_j_k = now.mass_g / 1000 * float(thermal.heat_capacity(now.proximate, met_c))
        into_c = (met_j_k * met_c + vessel_j_k * into_c) / (met_j_k + vessel_j_k)
        pours.append(Pour(portion, seconds, into_c, spot_c, spot))
        left_g -= portion
        seconds += pace
        if hot_waits:
            poured_c = float(p.heat.air_c + (poured_c - p.heat.air_c) * kept)
        else:
            into_c = float(p.heat.air_c + (into_c - p.heat.air_c) * kept)
    if left_g > 1e-6:
        into_c = mixed_c(now, into_c, replace(poured, mass_g=left_g), poured_c)
    worst = max((pour.local_curdling for pour in pours), default=0.0)
    return Temper(school, tuple(pours), into_c, worst, seconds)


def _spot(
    bowl: Mixture, bowl_c: float, piece: Mixture, poured_c: float, p: Parameters
) -> tuple[float, float]:
    """Temperature of the spot a pour falls on [degC], and what curdles there before it is whisked in [1].

    The egg in the spot is judged as it was whisked, before the milk has thinned it: yolk with sugar stands
    far more heat than the sauce, yolk alone far less.
    """
    reach = min(1.0, p.temper.whisk_s / p.temper.pour_s)
    fallen = replace(piece, mass_g=reach * piece.mass_g)
    return spot(bowl, bowl_c, fallen, poured_c, p.temper.whisk_s, p)


def spot(
    bowl: Mixture, bowl_c: float, fallen: Mixture, poured_c: float, whisk_s: float, p: Parameters
) -> tuple[float, float]:
    """Temperature of the spot that something falls on [degC], and what curdles there meanwhile [1].

    Parameters
    ----------
    bowl, bowl_c : what is in the bowl, and how warm it is [degC]
    fallen, poured_c : what falls before the whisk has mixed it in, and how warm that is [degC]
    whisk_s : how long the whisk takes for that [s]
    """
    near = replace(bowl, mass_g=p.temper.near_share * bowl.mass_g)
    spot_c = mixed_c(near, bowl_c, fallen, poured_c)
    egg = max((bowl, fallen), key=lambda side: side.egg_protein_percent)
    co, setting = p.coagulation, setting_c(egg, p)
    curdling = setting + curdling_gap_k(egg, p)
    tau = -np.expm1(-coagulation.rate(spot_c, setting, co.set_rate_per_s, co.set_z_k) * whisk_s)
    rate = coagulation.rate(spot_c, curdling, co.curdle_rate_per_s, co.curdle_z_k)
    return spot_c, float(-np.expm1(-tau * rate * whisk_s))
