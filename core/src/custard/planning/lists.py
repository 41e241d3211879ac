"""The lists of a day: what to pull and buy, eggs, ice, bowls, labels, allergens."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import ceil
from typing import NamedTuple

from custard.advice.mix.assess import Assessment
from custard.advice.mix.keeping import joins_raw
from custard.figures import Grams, Hundredths, Tenths
from custard.larder.eggs import EggSize
from custard.planning.day import BOWL, ICE, Day, Plan

YOLK, WHITE, WHOLE = "egg-yolk", "egg-white", "whole-egg"


class Price(NamedTuple):
    """What a package costs, how much is in it [g], and how it was written ("1 l")."""

    price: float
    grams: float
    per: str


@dataclass(frozen=True)
class Pull:
    """One thing to have at hand.

    Attributes
    ----------
    ingredient, name : what.
    grams, house_g, missing_g : how much is wanted, there, and missing [g].
    batches : the names of what it is for.
    packages, per : how many packages to buy, and what one is ("1 l"); None where nobody said what one holds.
    cost : what those cost; None where that is not known.
    """

    ingredient: str
    name: str
    grams: Grams
    house_g: Grams
    missing_g: Grams
    batches: tuple[str, ...]
    packages: int | None
    per: str
    cost: Hundredths | None


@dataclass(frozen=True)
class Eggs:
    """The ledger of eggs.

    Attributes
    ----------
    size, name : the class of the eggs in the house.
    yolks, whites, whole : how many are wanted of each [pieces].
    to_break : how many eggs that takes, with whole ones [pieces].
    whites_left_g : white that is left over of them [g], and `yolks_left` yolks [pieces].
    """

    size: str
    name: str
    yolks: Tenths
    whites: Tenths
    whole: Tenths
    to_break: int
    whites_left_g: Grams
    yolks_left: Tenths


@dataclass(frozen=True)
class ToLabel:
    """A label to print: of what, what it contains, what of it is not heated, for how long it keeps [d]."""

    job: str
    name: str
    allergens: tuple[str, ...]
    unheated: tuple[str, ...]
    days: Tenths


@dataclass(frozen=True)
class Lists:
    """All of them.

    Attributes
    ----------
    cost : what is to be bought, in all; None where a price is missing.
    ice_g, ice_house_g : ice that the day needs, and what there is of it at its beginning [g].
    bowls : how many churn bowls it needs, and `bowl_by` when they must be in the freezer [min].
    allergens : every allergen of the day with the names of what contains it.
    """

    pull: tuple[Pull, ...]
    cost: Hundredths | None
    eggs: Eggs | None
    ice_g: Grams
    ice_house_g: Grams | None
    bowls: int
    bowl_by: int | None
    labels: tuple[ToLabel, ...]
    allergens: Mapping[str, tuple[str, ...]]


def lists(
    day: Day,
    plan: Plan,
    batches: Mapping[str, Assessment],
    house_g: Mapping[str, float],
    prices: Mapping[str, Price],
    eggs: EggSize,
) -> Lists:
    """The lists of a day.

    Parameters
    ----------
    day : a day of work: its jobs, its people, its room.
    plan : when each step is done, and by whom.
    batches : what is still to be weighed, scaled as it is made, by the key of its job.
    house_g : what is in the house [g], by ingredient; whole eggs by the gram without their shells.
    prices : what packages cost, by ingredient.
    eggs : the class of the eggs in the house.
    """
    wanted = _wanted(batches)
    pull = tuple(
        _pull(ingredient, name, grams, names, house_g, prices.get(ingredient))
        for ingredient, (name, grams, names) in wanted.items()
    )
    costs = [one.cost for one in pull]
    bowls, bowl_by = _bowls(day, plan)
    return Lists(
        pull=pull,
        cost=None if any(one is None for one in costs) else float(sum(one or 0.0 for one in costs)),
        eggs=_eggs(wanted, house_g, eggs),
        ice_g=sum(step.needs.get(ICE, 0.0) for job in day.jobs for step in job.steps),
        ice_house_g=day.room.ice_g,
        bowls=bowls,
        bowl_by=bowl_by,
        labels=tuple(
            ToLabel(key, one.formula.name, one.allergens, joins_raw(one.formula), one.keeping.days)
            for key, one in batches.items()
            if one.keeping.days > 0
        ),
        allergens=_allergens(batches),
    )


_Wanted = dict[str, tuple[str, float, tuple[str, ...]]]


def _wanted(batches: Mapping[str, Assessment]) -> _Wanted:
    """Every ingredient with its name, grams, and the names of what it is for; the most first."""
    found: _Wanted = {}
    for one in batches.values():
        for line, grams in zip(one.formula.lines, one.weights_g, strict=True):
            thing = line.ingredient
            key = thing.id or thing.name
            _, before, names = found.get(key, (thing.name, 0.0, ()))
            names = names if one.formula.name in names else (*names, one.formula.name)
            found[key] = (thing.name, before + grams, names)
    return dict(sorted(found.items(), key=lambda item: -item[1][1]))


def _pull(
    ingredient: str,
    name: str,
    grams: float,
    names: tuple[str, ...],
    house_g: Mapping[str, float],
    price: Price | None,
) -> Pull:
    house = house_g.get(ingredient, 0.0)
    missing = max(0.0, grams - house)
    packages = cost = None
    if price is not None and price.grams > 0:
        packages = ceil(missing / price.grams - 1e-6)
        cost = packages * price.price
    elif missing == 0:
        packages, cost = 0, 0.0
    return Pull(ingredient, name, grams, house, missing, names, packages, price.per if price else "", cost)


def _eggs(wanted: _Wanted, house_g: Mapping[str, float], eggs: EggSize) -> Eggs | None:
    """Eggs to break, once separated yolks and whites that are in the house are used."""

    def pieces(ingredient: str, each_g: float) -> tuple[float, float]:
        grams = wanted.get(ingredient, ("", 0.0, ()))[1]
        return grams / each_g, max(0.0, grams - house_g.get(ingredient, 0.0)) / each_g

    yolks, yolks_out = pieces(YOLK, eggs.yolk_g)
    whites, whites_out = pieces(WHITE, eggs.white_g)
    whole, _ = pieces(WHOLE, eggs.edible_g)
    if yolks + whites + whole <= 0:
        return None
    separated = ceil(max(yolks_out, whites_out) - 1e-6)
    return Eggs(
        size=eggs.size,
        name=eggs.name,
        yolks=yolks,
        whites=whites,
        whole=whole,
        to_break=separated + ceil(whole - 1e-6),
        whites_left_g=max(0.0, (separated - whites_out) * eggs.white_g),
        yolks_left=max(0.0, separated - yolks_out),
    )


def _bowls(day: Day, plan: Plan) -> tuple[int, int | None]:
    """How many frozen bowls a plan needs, and when the first must be in the freezer [min]."""
    jobs = {job.key: job for job in day.jobs}
    churns = [one for one in plan.steps if BOWL in jobs[one.job].steps[one.place].needs]
    if not churns:
        return 0, None
    many = sum(jobs[one.job].steps[one.place].needs[BOWL] for one in churns)
    return round(many), min(one.start for one in churns) - round(60 * day.room.bowl_h)


def _allergens(batches: Mapping[str, Assessment]) -> dict[str, tuple[str, ...]]:
    found: dict[str, tuple[str, ...]] = {}
    for one in batches.values():
        for word in one.allergens:
            found[word] = tuple(dict.fromkeys((*found.get(word, ()), one.formula.name)))
    return dict(sorted(found.items()))
