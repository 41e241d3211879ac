"""Everything the Bench says about one formula."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from custard.advice.finish import Texture, texture_at, yield_g
from custard.advice.window import State, Window, boiling_c, stop_state, window_of
from custard.formula import OFF_THE_HEAT, Formula
from custard.larder.families import all_families
from custard.larder.parameters import Origin, Parameters, origins, standard
from custard.mixture import Mixture, mix
from custard.process import ramp


@dataclass(frozen=True)
class Assessment:
    """What a formula is and becomes.

    `whole` is everything weighed out; `pan` is what is heated, which governs the window. They are the
    same mix unless a line joins off the heat.
    """

    formula: Formula
    weights_g: tuple[float, ...]
    whole: Mixture
    pan: Mixture
    boiling_c: float
    window: Window
    stop: State
    hot: Texture
    cold: Texture
    yield_g: float
    whites_left_g: float
    allergens: tuple[str, ...]
    parameters: tuple[Origin, ...]

    def as_json(self) -> dict[str, Any]:
        """Plain data, as the command prints it."""
        return {
            "name": self.formula.name,
            "family": self.formula.family,
            "mass_g": round(self.whole.mass_g, 2),
            "fractions": {name: round(part, 6) for name, part in self.whole.fractions.items()},
            "starch_by_kind": {kind: round(part, 6) for kind, part in self.whole.starch_by_kind.items()},
            "sugars_in_aqueous_percent": round(self.pan.sugars_in_aqueous_percent, 3),
            "ethanol_in_aqueous_percent": round(self.pan.ethanol_in_aqueous_percent, 3),
            "egg_protein_percent": round(self.pan.egg_protein_percent, 4),
            "starch_in_aqueous_percent": round(self.pan.starch_in_aqueous_percent, 3),
            "ph": round(self.pan.ph, 2),
            "boiling_c": round(self.boiling_c, 2),
            "window": self.window.as_json(),
            "stop_c": round(self.stop.at_c, 2),
            "texture": {"hot": self.hot.as_json(), "cold": self.cold.as_json()},
            "yield_g": round(self.yield_g, 1),
            "whites_left_g": round(self.whites_left_g, 1),
            "allergens": list(self.allergens),
            "parameters_used": [origin.as_json() for origin in self.parameters],
        }


def assess(
    formula: Formula,
    altitude_m: float = 0.0,
    rate_k_per_min: float | None = None,
    parameters: Parameters | None = None,
) -> Assessment:
    """Where a formula thickens, curdles and boils, how thick it gets, and what comes of it.

    Parameters
    ----------
    formula : what is weighed out.
    altitude_m : height of the kitchen above the sea [m].
    rate_k_per_min : heating rate at which the window is stated [K/min]; the standard cook's by default.
    parameters : the model's parameters; as shipped by default.

    Raises
    ------
    CustardError
        when an amount does not fit its ingredient.
    """
    p = parameters or standard()
    rate = rate_k_per_min or p.cook.rate_k_per_min
    whole = mix(formula)
    pan = mix(formula.in_the_pan()) if _joins_later(formula) else whole
    boil = boiling_c(pan, altitude_m)
    course = ramp.run(pan, p, rate, boil)
    window = window_of(pan, course, rate)
    stop = stop_state(pan, course, window, boil, formula.family, p)
    return Assessment(
        formula=formula,
        weights_g=formula.weights_g(),
        whole=whole,
        pan=pan,
        boiling_c=boil,
        window=window,
        stop=stop,
        hot=texture_at(pan, stop, stop.at_c, min(p.spoon.spoon_c, stop.at_c), p),
        cold=texture_at(whole, stop, p.texture.cold_reference_c, p.texture.cold_reference_c, p),
        yield_g=yield_g(whole, pan.mass_g, stop, p),
        whites_left_g=whites_left_g(formula),
        allergens=allergens(formula),
        parameters=origins(),
    )


def assess_as_made(formula: Formula, altitude_m: float = 0.0) -> Assessment:
    """`assess`, at the rate at which a sauce of its family usually warms."""
    return assess(formula, altitude_m, all_families()[formula.family].rate_k_per_min)


def _joins_later(formula: Formula) -> bool:
    return any(line.when == OFF_THE_HEAT for line in formula.lines)


MERINGUE_SUGAR_SHARE = 2.0
"""Sugar to one part of white in a firm meringue, by mass; common practice as remembered."""


def whites_left_g(formula: Formula) -> float:
    """Grams of white left over from separating this formula's yolks, less what it uses itself."""
    left = formula.yolks() * formula.egg_size.white_g
    pairs = zip(formula.lines, formula.weights_g(), strict=True)
    return max(0.0, left - sum(g for line, g in pairs if line.ingredient.id == "egg-white"))


def allergens(formula: Formula) -> tuple[str, ...]:
    """Allergens of all lines, each once, in the order they are met."""
    return tuple(dict.fromkeys(word for line in formula.lines for word in line.ingredient.allergens))
