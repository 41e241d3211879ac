"""In what two batches differ: each difference with what puts the other's into a batch."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from custard.larder.ingredients import Ingredient
from custard.learning.cooked import Cooked
from custard.learning.course import Parts, parts_of
from custard.learning.shares import MOST

Floats = NDArray[np.float64]

LEAST_GRAMS_SHARE, LEAST_SIZE_SHARE = 0.01, 0.05
"""Two batches differ in an ingredient, and in size, from such a share on [1]."""
LEAST = {"start": 1.0, "lift": 0.15, "carry-over": 0.2, "hold": 5.0, "stirring": 3.0}
"""From how much on two cooks differ: degrees and seconds."""
LEAST_RATE, LEAST_COOLING = 0.05, 0.15
"""The same for rate and time of cooling, as shares [1]."""


@dataclass(frozen=True)
class Made:
    """One batch, or a mix of two: what is heated, the share of each by its name [1], the size [g], the pan
    and its heat over its kind's [1], the cook in parts."""

    things: Mapping[str, Ingredient]
    shares: Mapping[str, float]
    size_g: float
    pan: tuple[str, float]
    parts: Parts


@dataclass(frozen=True)
class Factor:
    """One difference: its name and values, and what puts the other's into a batch."""

    what: str
    unit: str
    a: float | str
    b: float | str
    put: Callable[[Made, Made], Made]


def made_of(batch: Cooked) -> Made:
    """A batch as something parts of another can be put into."""
    heated = batch.kept.formula.in_the_pan()
    things: dict[str, Ingredient] = {}
    grams: dict[str, float] = {}
    for line, weight in zip(heated.lines, heated.weights_g(), strict=True):
        name = line.ingredient.id or line.ingredient.name
        things[name] = line.ingredient
        grams[name] = grams.get(name, 0.0) + weight
    size = sum(grams.values())
    return Made(
        things,
        {name: weight / size for name, weight in grams.items()},
        size,
        # A pan is learned of with every batch: less than a hundredth is the same pan.
        (batch.stove.pan, round(batch.kept.pan.share, 2)),
        parts_of(batch),
    )


def factors_of(a: Made, b: Made, outcome: Callable[[Made], Floats]) -> tuple[Factor, ...]:
    """In what two batches differ, at most `MOST`: what alone changes least stands together as one.

    Parameters
    ----------
    a, b : two batches.
    outcome : what comes of a batch; its figures weigh alike [1].
    """
    found = [one for one in _of_cook(a.parts, b.parts) if one is not None]
    if a.pan != b.pan:
        found.append(Factor("pan", "", _pan(a.pan), _pan(b.pan), lambda x, y: replace(x, pan=y.pan)))
    if abs(b.size_g / a.size_g - 1) > LEAST_SIZE_SHARE:
        sizes = round(a.size_g, 1), round(b.size_g, 1)
        found.append(Factor("size", "g", *sizes, lambda x, y: replace(x, size_g=y.size_g)))
    found += _of_mix(a, b)
    if len(found) <= MOST:
        return tuple(found)
    plain = outcome(a)
    found.sort(key=lambda one: -float(np.abs(outcome(one.put(a, b)) - plain).sum()))
    return (*found[: MOST - 1], _together(found[MOST - 1 :]))


def _together(rest: list[Factor]) -> Factor:
    """What is left, as one difference."""

    def put(made: Made, other: Made) -> Made:
        for one in rest:
            made = one.put(made, other)
        return made

    return Factor("everything else", "", "", "", put)


def _of_mix(a: Made, b: Made) -> list[Factor]:
    """The ingredients of which there is more in one; as grams in a batch of the first one's size."""
    found = []
    for name in dict.fromkeys([*a.shares, *b.shares]):
        one, other = a.shares.get(name, 0.0), b.shares.get(name, 0.0)
        if abs(one - other) <= LEAST_GRAMS_SHARE * max(one, other):
            continue
        grams = round(one * a.size_g, 1), round(other * a.size_g, 1)
        found.append(Factor(name, "g", *grams, _putting(name, other)))
    return found


def _putting(name: str, share: float) -> Callable[[Made, Made], Made]:
    def put(made: Made, other: Made) -> Made:
        things = {**other.things, **made.things}
        return replace(made, things=things, shares={**made.shares, name: share})

    return put


def _pan(pan: tuple[str, float]) -> str:
    kind, share = pan
    return kind if share == 1 else f"{kind}, {100 * share:.0f} %"


def _of_cook(a: Parts, b: Parts) -> list[Factor | None]:
    def part(what: str, unit: str, one: float, other: float, *fields: str, least: float) -> Factor | None:
        if abs(one - other) < least:
            return None

        def put(made: Made, given: Made) -> Made:
            taken = {name: getattr(given.parts, name) for name in fields}
            return replace(made, parts=replace(made.parts, **taken))

        return Factor(what, unit, round(one, 2), round(other, 2), put)

    rate_a, rate_b = a.rate_k_per_min, b.rate_k_per_min

    def faster(made: Made, given: Made) -> Made:
        # As fast as the other, over its own way from where it starts to where it is lifted.
        theirs = given.parts
        way = (made.parts.lift_c - made.parts.start_c) / max(1.0, theirs.lift_c - theirs.start_c)
        return replace(
            made, parts=replace(made.parts, warming=theirs.warming, warmed_s=max(2.0, theirs.warmed_s * way))
        )

    differs = abs(rate_a - rate_b) > LEAST_RATE * max(rate_a, rate_b)
    cools = abs(a.cooled_s - b.cooled_s) > LEAST_COOLING * max(a.cooled_s, b.cooled_s, 60.0)
    return [
        part("start", "°C", a.start_c, b.start_c, "start_c", least=LEAST["start"]),
        Factor("rate", "K/min", round(rate_a, 2), round(rate_b, 2), faster) if differs else None,
        part("lift", "°C", a.lift_c, b.lift_c, "lift_c", least=LEAST["lift"]),
        part("hold", "s", a.held_s, b.held_s, "held_s", least=LEAST["hold"]),
        part("stirring", "s", a.longest_rest_s, b.longest_rest_s, "still", least=LEAST["stirring"]),
        part(
            "carry-over",
            "K",
            a.highest_rise_k,
            b.highest_rise_k,
            "rise_k",
            "stood_s",
            least=LEAST["carry-over"],
        ),
        part("cooling", "s", a.cooled_s, b.cooled_s, "cooling", "cooled_s", least=0.0) if cools else None,
    ]
