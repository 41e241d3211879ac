"""Everything the Bench says about one formula."""

from __future__ import annotations

from dataclasses import dataclass, replace

from custard.advice.mix.keeping import Keeping, keeping, served_at_once
from custard.advice.mix.stop import stop_state
from custard.advice.mix.texture import Texture, Whisked, texture_at, whisked, yield_g
from custard.advice.mix.warnings import warnings
from custard.advice.mix.window import Window, boiling_c, window_of
from custard.conditions import USUAL, Conditions
from custard.formula import Formula
from custard.larder.families import Family, Way, all_families
from custard.larder.ingredients import MILK_KG_L
from custard.mixture import Mixture, dried, mix
from custard.process.heating import ramp
from custard.process.heating.state import State
from custard.process.heating.surface import cooked_on_share
from custard.vocabulary import When


@dataclass(frozen=True)
class Assessment:
    """What a formula is and becomes.

    `whole` is the sauce that is cooled and kept; `pan` is what of it is heated, which governs the window.
    They are the same mix unless a line joins after the heat. What is infused, folded in, stirred in dry or
    put on top is in neither. `sauce_g` is what of the sauce reaches the jug, `yield_g` with what joins it.
    """

    formula: Formula
    conditions: Conditions
    weights_g: tuple[float, ...]
    whole: Mixture
    pan: Mixture
    boiling_c: float
    window: Window
    stop: State
    hot: Texture
    cold: Texture
    whisked: Whisked | None
    warnings: tuple[str, ...]
    keeping: Keeping
    sauce_g: float
    yield_g: float
    whites_left_g: float
    allergens: tuple[str, ...]

    @property
    def family(self) -> Family:
        """What kind of sauce it is."""
        return all_families()[self.formula.family]

    @property
    def finished(self) -> Mixture:
        """The sauce as it is once cooked: `whole` less the water that a filling gives off."""
        return dried(self.whole, self.stop.left)

    @property
    def way(self) -> Way:
        """How this mix is done."""
        return self.family.way_when(boiled=self.stop.boiled)

    @property
    def served_at_once(self) -> bool:
        """Whether it is a foam that nothing holds, which is neither cooled nor kept."""
        return served_at_once(self.formula, self.family)

    @property
    def weighed_g(self) -> float:
        """All that is weighed out [g]."""
        return sum(self.weights_g)

    @property
    def yolk_g_per_l(self) -> float | None:
        """Grams of yolk to a litre of dairy, as cooks compare formulas; None without dairy."""
        dairy_l = self.formula.dairy_g() / 1000 / MILK_KG_L
        return self.formula.yolks() * self.formula.egg_size.yolk_g / dairy_l if dairy_l > 0 else None

    def course(self) -> ramp.Ramp:
        """The mix warmed to its boil at the rate its window is stated at."""
        p, still = self.conditions.parameters, self.way.undisturbed
        return ramp.run(self.pan, p, self.window.rate_k_per_min, self.boiling_c, undisturbed=still)


def assess(formula: Formula, conditions: Conditions = USUAL) -> Assessment:
    """Where a formula thickens, curdles and boils, how thick it gets, and what comes of it.

    Parameters
    ----------
    formula : what is weighed out.
    conditions : where and by what it is made; its window is stated at their heating rate.

    Raises
    ------
    CustardError
        when an amount does not fit its ingredient.
    """
    formula = formula.under(conditions)
    conditions = held_as_its_recipe_says(conditions.for_sauce(formula.name), formula.card.boil_s)
    p = conditions.parameters
    family = all_families()[formula.family]
    rate = conditions.rate_k_per_min or family.rate_k_per_min
    whole = mix(formula.sauce())
    heated = formula.in_the_pan()
    pan = whole if heated is formula else mix(heated)
    boil = boiling_c(pan, conditions.altitude_m)
    course = ramp.run(pan, p, rate, boil, undisturbed=family.way.undisturbed)
    window = window_of(pan, course, rate)
    stop = stop_state(pan, course, window, boil, family, p)
    stop = replace(stop, left=1 - cooked_on_share(family.cooked_on_min, p))
    cold = texture_at(whole, stop, p.texture.cold_reference_c, p.texture.cold_reference_c, p)
    sauce_g = yield_g(whole, pan.mass_g, stop, p, topped_up=bool(formula.joining(When.INFUSED)))
    return Assessment(
        formula=formula,
        conditions=conditions,
        weights_g=formula.weights_g(),
        whole=whole,
        pan=pan,
        boiling_c=boil,
        window=window,
        stop=stop,
        hot=texture_at(pan, stop, stop.at_c, min(p.spoon.spoon_c, stop.at_c), p),
        cold=cold,
        whisked=whisked(whole, cold, p),
        warnings=warnings(whole, pan, p, boil, boiled=stop.boiled),
        keeping=keeping(formula, family, stop.at_c, whole.sugars_in_aqueous_percent),
        sauce_g=sauce_g,
        yield_g=sauce_g + sum(mass for _, _, mass in formula.joining(When.FOLDED, When.AFTERWARDS)),
        whites_left_g=whites_left_g(formula),
        allergens=allergens(formula),
    )


def held_as_its_recipe_says(conditions: Conditions, boil_s: float | None) -> Conditions:
    """The same conditions, with the boil held as long as a recipe says.

    A shorter boil than usual does not count, to be on the safe side: the amylase of the yolk outlives it, and
    thins the cream in the fridge. Who wants no more than the first bubbles chooses that school.

    Parameters
    ----------
    conditions : those of the kitchen.
    boil_s : how long the recipe of a formula holds it at the boil [s]; None where it is silent.
    """
    name, usual_s = "cook.boil_hold_s", conditions.parameters.cook.boil_hold_s
    if boil_s is None or boil_s <= usual_s:
        return conditions
    return conditions.by(conditions.parameters.with_value(name, boil_s))


MERINGUE_SUGAR_SHARE = 2.0
"""Sugar to one part of white in a firm meringue, by mass; common practice as remembered."""


def whites_left_g(formula: Formula) -> float:
    """Grams of white left over from separating this formula's yolks, less what it uses itself.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    """
    left = formula.yolks() * formula.egg_size.white_g
    pairs = zip(formula.lines, formula.weights_g(), strict=True)
    return max(0.0, left - sum(g for line, g in pairs if line.ingredient.id == "egg-white"))


def allergens(formula: Formula) -> tuple[str, ...]:
    """Allergens of all lines with the cereal or the nut, each once, in the order they are met.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    """
    return tuple(dict.fromkeys(word for line in formula.lines for word in line.ingredient.allergens))
