"""What the recipe of a formula says of how it is made, in figures: its temperature, its oven, its hours."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, fields

from custard.errors import within

BOUNDS: Mapping[str, tuple[float, float]] = {
    "cook_to_c": (40.0, 115.0),
    "boil_s": (1.0, 10 * 60.0),
    "oven_c": (80.0, 300.0),
    "bake_min": (1.0, 10 * 60.0),
    "chill_h": (0.0, 7 * 24.0),
    "cup_ml": (5.0, 5000.0),
}
"""Between what each figure lies: what no kitchen does is a slip of the pen. In the unit of its name."""


@dataclass(frozen=True)
class Card:
    """What a recipe says; None where it is silent.

    None of it goes before what is computed: where the recipe and the computation differ, both are shown. The
    oven, the bath and the cups are those that the batch is then planned and begun with; a longer boil than
    usual is held as long as the recipe says.

    Attributes
    ----------
    cook_to_c : to which temperature the sauce is cooked [degC].
    boil_s : how long a sauce with starch is held at the boil [s].
    oven_c : of which temperature the oven is [degC]; `bath` whether the cups stand in water.
    bake_min : how long it is baked [min].
    chill_h : how long it is chilled [h].
    cup_ml : what each of the cups holds that it is baked in [ml].
    """

    cook_to_c: float | None = None
    boil_s: float | None = None
    oven_c: float | None = None
    bake_min: float | None = None
    bath: bool | None = None
    chill_h: float | None = None
    cup_ml: float | None = None

    def __post_init__(self) -> None:
        for name, (low, high) in BOUNDS.items():
            value = getattr(self, name)
            if value is not None:
                within(name, value, low, high)

    def __bool__(self) -> bool:
        """Whether the recipe says anything."""
        return any(getattr(self, one.name) is not None for one in fields(self))


SILENT = Card()
"""A recipe that says nothing in figures."""
