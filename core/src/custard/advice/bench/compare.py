"""Two formulas side by side: what differs, line by line and in what comes of it."""

from __future__ import annotations

from math import log

from custard.advice.mix.assess import Assessment
from custard.formula import Formula

SAME_SHARE = 0.005
SCALED_SHARE = 0.02
"""Weights are rounded when a formula is scaled; a smaller difference is that."""
LEAST_K, LEAST_MM = 0.1, 0.02
"""Smaller differences are not told: nobody could see them."""


def grams_by_name(formula: Formula) -> dict[str, float]:
    """What each ingredient weighs in all [g], in the order of the lines."""
    sums: dict[str, float] = {}
    for line, grams in zip(formula.lines, formula.weights_g(), strict=True):
        sums[line.ingredient.name] = sums.get(line.ingredient.name, 0.0) + grams
    return sums


def changed_lines(before: Formula, after: Formula) -> tuple[str, ...]:
    """The lines that differ, as "egg yolk: 85 g to 101 g".

    Parameters
    ----------
    before : as it was before.
    after : as it is after the change.
    """
    was = grams_by_name(before)
    changes = []
    for name, grams in grams_by_name(after).items():
        old = was.pop(name, 0.0)
        if abs(grams - old) > SAME_SHARE * max(old, 1.0):
            changes.append(f"{name}: {_shown(old)} to {_shown(grams)}")
    changes += [f"{name}: {_shown(old)} to none" for name, old in was.items()]
    return tuple(changes)


def changed_from(before: Formula, after: Formula) -> tuple[str, ...]:
    """What differs once one is scaled to the other, as "white sugar 100 g for 90 g".

    The scale is the one that leaves most lines as they were, the nearest to one of those: a formula that is
    only made larger has not changed.

    Parameters
    ----------
    before, after : the formula as it stands in the Book, and as it is weighed.
    """
    was, now = grams_by_name(before), grams_by_name(after)
    times = [now[name] / was[name] for name in was if was[name] > 0 and now.get(name, 0.0) > 0]

    def leaves(scale: float) -> tuple[int, float]:
        return sum(abs(one / scale - 1) <= SCALED_SHARE for one in times), -abs(log(scale))

    scale = max(times, key=leaves, default=1.0)
    changes = []
    for name, grams in now.items():
        old = scale * was.pop(name, 0.0)
        if abs(grams - old) > SCALED_SHARE * max(old, 1.0):
            changes.append(f"{name} {_shown(grams)} for {_shown(old)}")
    changes += [f"no {name} for {_shown(scale * old)}" for name, old in was.items() if old > 0]
    if before.family != after.family:
        changes.append(f"as {after.family} for {before.family}")
    return tuple(changes)


def _shown(grams: float) -> str:
    if grams == 0:
        return "none"
    return f"{int(grams + 0.5)} g" if grams >= 10 else f"{grams:.2g} g"


def differences(before: Assessment, after: Assessment) -> tuple[str, ...]:
    """What comes of the change, in words. Temperature differences stand as "{1.2 K}".

    Parameters
    ----------
    before : assessed before the change.
    after : assessed after it.
    """
    return (
        *_rates(before, after),
        *_temperatures(before, after),
        *_textures(before, after),
        *_allergens(before, after),
    )


def _rates(before: Assessment, after: Assessment) -> list[str]:
    """A cup that creeps and a sauce on a flame are not on one scale: that is said before the temperatures."""
    old, new = before.window.rate_k_per_min, after.window.rate_k_per_min
    if old == new:
        return []
    return [f"it warms at {{{new:g} K}} a minute instead of {{{old:g} K}}, and slower heat sets lower"]


def _temperatures(before: Assessment, after: Assessment) -> list[str]:
    said = []
    for name, old, new in (
        ("nappe", before.window.nappe_c, after.window.nappe_c),
        ("curdling", before.window.curdles_c, after.window.curdles_c),
        ("the stop", before.stop.at_c, after.stop.at_c),
    ):
        if old is not None and new is not None:
            if abs(new - old) >= LEAST_K:
                said.append(f"{name} {{{abs(new - old):.1f} K}} {'higher' if new > old else 'lower'}")
        elif old is not None:
            said.append(f"{name} no longer comes below the boil")
        elif new is not None:
            said.append(f"{name} now comes below the boil")
    return said


def _textures(before: Assessment, after: Assessment) -> list[str]:
    said = [
        f"{when}: {new} instead of {old}"
        for when, old, new in (
            ("hot", before.hot.word, after.hot.word),
            ("cold", before.cold.word, after.cold.word),
        )
        if old != new
    ]
    if abs(after.hot.film_mm - before.hot.film_mm) >= LEAST_MM:
        said.append(f"coat {after.hot.film_mm - before.hot.film_mm:+.2f} mm")
    more = after.yield_g - before.yield_g
    if abs(more) >= 1:
        said.append(f"{abs(more):.0f} g {'more' if more > 0 else 'less'} in the jug")
    return said


def _allergens(before: Assessment, after: Assessment) -> list[str]:
    new = [f"now contains {word}" for word in after.allergens if word not in before.allergens]
    gone = [f"no longer contains {word}" for word in before.allergens if word not in after.allergens]
    return new + gone
