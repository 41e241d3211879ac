"""The figures of a recipe's method, as a formula keeps them."""

from __future__ import annotations

from custard.card import BOUNDS, Card
from custard.reading.recipe import Recipe


def card_of(recipe: Recipe) -> Card:
    """What a recipe says of its temperature, its oven and its hours; what cannot be is left out.

    Parameters
    ----------
    recipe : as it was read.
    """
    said = {setting.what: setting.value for setting in recipe.settings}
    return Card(
        cook_to_c=_figure("cook_to_c", said.get("cook_to_c")),
        boil_s=_figure("boil_s", said.get("boil_s")),
        oven_c=_figure("oven_c", said.get("oven_c")),
        bake_min=_figure("bake_min", said.get("bake_min")),
        bath=True if "bath" in said else None,
        chill_h=_figure("chill_h", said.get("chill_h")),
        cup_ml=_figure("cup_ml", said.get("cup_ml")),
    )


def _figure(name: str, value: float | str | None) -> float | None:
    low, high = BOUNDS[name]
    return float(value) if isinstance(value, float | int) and low <= value <= high else None
