"""Two labels of one thing next to each other: what the second has more or less of in 100 g."""

from __future__ import annotations

from dataclasses import dataclass

from custard.larder.ingredients import COMPONENTS
from custard.reading.label_composition import FromLabel

ROUNDED_G = 0.05
"""Labels are printed to a tenth of a gram: what differs by less than half of that is equal [g in 100 g]."""


@dataclass(frozen=True, slots=True)
class Difference:
    """What two compositions differ in.

    Attributes
    ----------
    component : its name, as a composition has it.
    a_g, b_g : how much of it the first and the second hold [g in 100 g].
    """

    component: str
    a_g: float
    b_g: float

    @property
    def more_g(self) -> float:
        """How much more of it the second holds [g in 100 g]."""
        return self.b_g - self.a_g


@dataclass(frozen=True, slots=True)
class Comparison:
    """Two labels compared.

    Attributes
    ----------
    differences : the largest first; empty where both hold the same.
    only_a, only_b : allergens that one of them holds.
    """

    differences: tuple[Difference, ...]
    only_a: tuple[str, ...]
    only_b: tuple[str, ...]


def compare_labels(a: FromLabel, b: FromLabel) -> Comparison:
    """What the second of two labels has more or less of than the first.

    Parameters
    ----------
    a, b : as `from_label` returns them.

    >>> from custard.reading.label_composition import from_label
    >>> thin = from_label("Fat 30 g, carbohydrate 3.2 g, protein 2.2 g. Ingredients: cream")
    >>> rich = from_label("Fat 35 g, carbohydrate 3.2 g, protein 2.2 g. Ingredients: cream")
    >>> [(one.component, round(one.more_g, 1)) for one in compare_labels(thin, rich).differences]
    [('fat', 5.0), ('water', -5.0)]
    """
    rows = [
        Difference(name, a.composition.get(name, 0.0), b.composition.get(name, 0.0)) for name in COMPONENTS
    ]
    differing = [row for row in rows if abs(row.more_g) >= ROUNDED_G]
    return Comparison(
        # Water is what a label leaves over: it follows what is as much more or less.
        tuple(sorted(differing, key=lambda row: (-round(abs(row.more_g), 1), row.component == "water"))),
        tuple(one for one in a.allergens if one not in b.allergens),
        tuple(one for one in b.allergens if one not in a.allergens),
    )
