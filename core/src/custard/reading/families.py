"""The family of sauces that a recipe belongs to, by name, lines and method; and what is not computed."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from custard.larder.ingredients import ingredient
from custard.reading.line import ReadLine
from custard.reading.method import Step
from custard.reading.tokens import fold
from custard.reading.words import lists

PASTRY_STARCH, ANY_STARCH = 0.032, 0.002
"""Starch over everything that is heated [1]: a paste above the first, none below the second."""
PASTE_STARCH = 0.05
"""With so much starch a "custard" is a paste to pipe, not a sauce to pour."""
MUCH_CHOCOLATE, MUCH_MILK = 0.08, 0.25


@dataclass(frozen=True, slots=True)
class Found:
    """A family with its reason.

    Attributes
    ----------
    family : its id; empty where nothing in the recipe sets by egg or starch.
    nearest : the family that it is computed as.
    why : what speaks for it.
    missing : what will not be computed; empty where it is one of ours.
    """

    family: str
    nearest: str
    why: str
    missing: str = ""


def family_of(name: str, lines: Sequence[ReadLine], steps: Sequence[Step]) -> Found:
    """The family of a recipe.

    Parameters
    ----------
    name : of the recipe.
    lines : its lines, as read.
    steps : its method, as read.
    """
    shares = _Shares(lines)
    settings = {setting.what: setting.value for step in steps for setting in step.settings}
    names = _all_named(name)
    named = max(names, key=lambda family: names[family]) if names else ""
    if not shares.egg and not shares.starch and named in ("", "none"):
        return _no_egg("there is no egg in it")
    if "none" in names and named == "none":
        return _foreign(name, shares, oven=_in_oven(settings))
    if "burnt_top" in settings and shares.egg and not _in_oven(settings) and named in _MAY_BE_BURNT:
        return _found("burnt-cream", "stirred, and burnt on top")
    return (
        _in_the_oven(named, shares, settings)
        or _by_name(named, shares, settings)
        or _by_lines(shares, settings)
    )


_MAY_BE_BURNT = ("", "anglaise", "pouring-custard")


def _no_egg(why: str) -> Found:
    missing = "nothing in it sets by egg: only weight, cost and keeping are computed"
    return Found("", "anglaise", why, missing)


def _found(family: str, why: str) -> Found:
    return Found(family, family, why)


def _in_oven(settings: Mapping[str, float | str]) -> bool:
    return bool({"oven_c", "bake_min", "bath"} & set(settings))


def _in_the_oven(named: str, shares: _Shares, settings: Mapping[str, float | str]) -> Found | None:
    """What sets in the oven, whatever its name."""
    if not _in_oven(settings):
        return None
    if named == "burnt-cream":
        return _found("baked-custard", "it sets in the oven and is burnt on top")
    soft = ("", "anglaise", "pouring-custard", "cremeux", "cold-start-pudding")
    if named == "baked-custard" or (shares.egg and named in soft):
        return _found("baked-custard", "it sets in the oven")
    return None


def _by_name(named: str, shares: _Shares, settings: Mapping[str, float | str]) -> Found | None:
    """The family that the name says, where what is in it allows that."""
    churned = "churn" in settings and shares.egg and not _in_oven(settings)
    if named == "ice-base" or churned:
        return _found("ice-base", "it goes into the ice-cream machine" if churned else "by its name")
    if named == "pouring-custard" and shares.starch > PASTE_STARCH:
        return _found("pastry-cream", f"{100 * shares.starch:.0f} % starch: a paste, whatever its name")
    if named in ("pouring-custard", "anglaise") and shares.egg:
        little = shares.starch >= ANY_STARCH
        by_yolk = _found("anglaise", "thickened by yolk alone")
        return _found("pouring-custard", "yolks and a little starch") if little else by_yolk
    if named in ("", "none") or (named == "cold-start-pudding" and not shares.starch):
        return None
    return _found(named, "by its name")


def _by_lines(shares: _Shares, settings: Mapping[str, float | str]) -> Found:
    """The family of a recipe that its name does not tell: the first that fits."""
    pasty = shares.starch >= PASTRY_STARCH
    fits = (
        (
            shares.wine and shares.egg and not shares.dairy_heated,
            "sabayon",
            "yolks and wine, whisked without milk",
        ),
        (shares.concentrated > MUCH_MILK, "milk-filling", "evaporated or condensed milk with egg"),
        (shares.chocolate > MUCH_CHOCOLATE and not pasty, "cremeux", "a custard on chocolate"),
        (
            pasty and settings.get("together") == "cold",
            "cold-start-pudding",
            "starch and egg, put together cold",
        ),
        (pasty, "pastry-cream", f"{100 * shares.starch:.0f} % starch, boiled"),
        (shares.starch >= ANY_STARCH, "pouring-custard", "yolks and a little starch"),
        (shares.egg, "anglaise", "thickened by yolk alone"),
    )
    return next((_found(family, why) for fit, family, why in fits if fit), _no_egg("there is no egg in it"))


def _foreign(name: str, shares: _Shares, *, oven: bool) -> Found:
    """A sauce outside the ten families: the nearest one, and what is left out."""
    if not shares.egg:
        return _no_egg(f"{name} is no sauce thickened by egg")
    chocolate = shares.chocolate > MUCH_CHOCOLATE
    nearest = (
        "baked-custard"
        if oven
        else "pastry-cream"
        if shares.thick
        else "cremeux"
        if chocolate
        else "anglaise"
    )
    left_out = "its egg and starch are computed; whipping, gelling by acid and setting of fat are not"
    return Found("", nearest, f"{name} is none of the ten families", left_out)


def _all_named(name: str) -> dict[str, int]:
    """The families whose words stand in a name, with the length of the longest."""
    folded = f" {fold(name)} "
    found = {}
    for family, words in lists("families").items():
        longest = max(
            (len(word.split()) * 100 + len(word) for word in words if f" {word} " in folded), default=0
        )
        if longest:
            found[family] = longest
    return found


class _Shares:
    """What a recipe is made of [1 of all that is heated]."""

    def __init__(self, lines: Sequence[ReadLine]) -> None:
        known = [(ingredient(line.ingredient), line.grams or 0.0, line) for line in lines if line.ingredient]
        total = sum(grams for _, grams, _ in known) or 1.0

        def share(*groups: str) -> float:
            return sum(grams for thing, grams, _ in known if thing.group in groups) / total

        self.egg = any(thing.group == "egg" for thing, _, _ in known)
        self.starch = sum(
            grams * thing.composition["starch"] / 85 for thing, grams, _ in known if thing.group == "starch"
        ) / total  # fmt: skip
        self.thick = self.starch >= PASTRY_STARCH
        self.chocolate = sum(grams for thing, grams, _ in known if thing.is_chocolate) / total
        self.wine = share("alcohol") > 0.1 or (
            share("flavour") > 0.15 and share("dairy", "dairy-free") < 0.05
        )
        self.dairy_heated = sum(
            grams for thing, grams, line in known if thing.is_milk and "whip" not in fold(line.text)
        ) / total > 0.25  # fmt: skip
        self.concentrated = sum(
            grams for thing, grams, _ in known if thing.id.startswith(("condensed-milk", "evaporated-milk"))
        ) / total  # fmt: skip
