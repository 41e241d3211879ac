"""What a batch is for: its destinations together are its size, with what is lost on the way."""

from __future__ import annotations

from dataclasses import dataclass

from custard.advice.bench.scale import for_finished_g
from custard.advice.finish.additions import finishing
from custard.advice.finish.room import finished_g_ml
from custard.advice.mix.assess import Assessment, assess
from custard.conditions import USUAL, Conditions
from custard.errors import CustardError, Impossible
from custard.figures import Grams
from custard.formula import Formula


@dataclass(frozen=True)
class Part:
    """One destination: so many of so much each [g], and all of them."""

    name: str
    count: float
    each_g: Grams
    all_g: Grams


@dataclass(frozen=True)
class Shared:
    """A batch shared out.

    Attributes
    ----------
    wanted_g : what all destinations take [g]; `lost_g` what stays in jugs and bags meanwhile [g].
    comes_to_g : what the batch gives [g]; `left_over_g` the rest [g], below 0 what is missing.
    """

    parts: tuple[Part, ...]
    wanted_g: Grams
    lost_g: Grams
    comes_to_g: Grams
    left_over_g: Grams


def shared(result: Assessment) -> Shared:
    """What the destinations of an assessed formula take of it.

    Parameters
    ----------
    result : an assessed formula.

    Raises
    ------
    OutOfRange
        when one takes more than anyone makes.
    """
    parts = _parts(result)
    wanted = sum(part.all_g for part in parts)
    lost = wanted * _more(result) - wanted
    return Shared(parts, wanted, lost, result.yield_g, result.yield_g - wanted - lost)


def for_destinations(formula: Formula, conditions: Conditions = USUAL) -> Formula:
    """Rescaled so that it is just enough for all its destinations.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.

    Raises
    ------
    Impossible
        when it has none.
    """
    needed = made_g(formula, conditions)
    return for_finished_g(formula, needed, conditions)


def made_g(formula: Formula, conditions: Conditions = USUAL) -> float:
    """What must be made for all its destinations, with what is lost on the way [g].

    Raises
    ------
    Impossible
        when it has none.
    """
    if not formula.destinations:
        raise Impossible("destinations", formula.name, "is for nothing yet", "Say what it is for.")
    result = assess(formula, conditions)
    return sum(part.all_g for part in _parts(result)) * _more(result)


def _more(result: Assessment) -> float:
    """How much more is made than reaches the plates [1]."""
    return 1 / (1 - result.conditions.parameters.serve.lost_share)


def _parts(result: Assessment) -> tuple[Part, ...]:
    formula = result.formula
    g_ml: float | None = None
    found = []
    for index, one in enumerate(formula.destinations):
        try:
            amount, dimension = one.each(formula.measures)
        except CustardError as error:
            raise error.at(f"destinations[{index}]") from None
        if dimension == "ml":
            g_ml = finished_g_ml(result, finishing(result)) if g_ml is None else g_ml
            amount *= g_ml
        found.append(Part(one.name, one.count, amount, one.count * amount))
    return tuple(found)
