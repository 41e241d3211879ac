"""How long what was made is kept: chilled, opened, frozen, thawed or warm, and what to do before it is used.

The core has no clock: times are hours since it was made [h]. Every life is the shorter of what could hold;
local rules and a kitchen's own plan come first.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from custard.advice.finish.additions import finishing
from custard.advice.mix.assess import Assessment
from custard.advice.mix.keeping import Keeping, keeping
from custard.conditions import Conditions
from custard.errors import OutOfRange
from custard.figures import Celsius, Hundredths, Tenths
from custard.larder.parameters import Parameters
from custard.process.cooling.later import aged, held_warm, thawed
from custard.vocabulary import Place

DAY_H = 24.0
TELLS_SHARE = 0.05
"""Thinner or thicker by less than this, nobody sees it."""
WARM_STEPS = 8
FIRMER = 1.5
"""A sauce so many times as thick tomorrow is worth a word."""


@dataclass(frozen=True)
class Life:
    """What is known of how something keeps, from when it was made.

    Attributes
    ----------
    say : the one thing to do.
    days, chilled_h, why : chilled and closed, at most: in days as they are told [d], where 0 is the same day,
        in hours [h], and why no longer.
    opened_days, thawed_days : from when it is opened, or taken out of the freezer, at most [d].
    freezes_days, freezing : days in the freezer, 0 where freezing spoils it; what freezing does, in words.
    rests_h, rests_to : hours it is to be cold before it is used, and for what: "churn", "set" or "".
    warm_c, warm_h, lukewarm_h : it may be kept at that or warmer so long [degC], [h]; cooler, so long only.
    stir : what it does as it stands, and what to do before use.
    missing : what the record lacks for it to be given a life, a sentence each; empty where nothing does.
    """

    say: str
    days: Tenths
    chilled_h: Tenths
    why: str
    opened_days: Tenths
    thawed_days: Tenths
    freezes_days: Tenths
    freezing: str
    rests_h: Tenths
    rests_to: str
    warm_c: Celsius
    warm_h: Hundredths
    lukewarm_h: Hundredths
    stir: tuple[str, ...]
    missing: tuple[str, ...] = ()

    @staticmethod
    def of(kept: Mapping[str, Any]) -> Life:
        """A life as it was kept as plain data."""
        lists = {name: tuple(kept.get(name, ())) for name in ("stir", "missing")}
        return Life(**{"say": "", **kept, **lists})


@dataclass(frozen=True)
class Kept:
    """What has happened to it, in hours since it was made [h]; None for what has not.

    Attributes
    ----------
    place : where it is.
    frozen_h, out_h : when it went into the freezer, and when it was taken out again.
    opened_h : when it was first opened.
    warm_h, warm_c : since when it is kept warm, and how warm [degC].
    """

    place: Place = Place.FRIDGE
    frozen_h: float | None = None
    out_h: float | None = None
    opened_h: float | None = None
    warm_h: float | None = None
    warm_c: float | None = None


@dataclass(frozen=True)
class UseBy:
    """Until when, in hours since it was made [h], and what sets that."""

    hours: float
    why: str


def life(
    result: Assessment, *, cooled: bool = True, hottest_c: float | None = None, enzyme: float = 0.0
) -> Life:
    """How a batch keeps, by its family and by what was really done to it.

    Parameters
    ----------
    result : what it is.
    cooled : whether it kept the limits of its cooling rule.
    hottest_c : the warmest it was all through [degC]; its planned stop where nobody knows.
    enzyme : what its cook left of the yolk's enzyme [1]; a plan counts none.

    Raises
    ------
    OutOfRange
        when the temperature cannot be.
    """
    p, family = result.conditions.parameters, result.family
    hottest = result.stop.at_c if hottest_c is None else hottest_c
    sugars = result.whole.sugars_in_aqueous_percent
    chilled = keeping(result.formula, family, hottest, sugars, cooled=cooled)
    freezes = family.freezes_days if chilled.days > 0 else 0.0
    return Life(
        say=_say(chilled, cooled=cooled),
        days=chilled.days,
        chilled_h=max(DAY_H * chilled.days, p.keep.same_day_h) if cooled else 0.0,
        why=chilled.why,
        opened_days=p.keep.opened_days,
        thawed_days=p.keep.thawed_days,
        freezes_days=freezes,
        freezing=_freezing(result, freezes),
        rests_h=family.rests_h,
        rests_to=family.rests_to,
        warm_c=result.conditions.cooling_rule.from_c,
        warm_h=_warm_h(result),
        lukewarm_h=p.keep.lukewarm_h,
        stir=_stir(result, enzyme),
    )


def _say(chilled: Keeping, *, cooled: bool) -> str:
    if not cooled:
        return "Do not keep it: it cooled too slowly"
    if chilled.days <= 0:
        return "It does not keep: use it the same day"
    return (
        f"Label it; use it within {chilled.days:.0f} days"
        if chilled.days > 1
        else "Label it; use it within a day"
    )


def churned_life(base: Life, p: Parameters) -> Life:
    """How a base keeps once it has been churned: in the freezer only.

    Parameters
    ----------
    base : how the base keeps before it is churned.
    p : the model's parameters.
    """
    return replace(
        base,
        say="Into the freezer, film right on it",
        days=0.0,
        chilled_h=0.0,
        why="churned: it lives in the freezer",
        freezes_days=p.keep.churned_days,
        freezing="",
        rests_h=0.0,
        rests_to="",
        stir=(),
    )


def discarded(known: Life) -> Life:
    """What is left to say of what was thrown away, whatever it might have kept: it keeps nowhere.

    Parameters
    ----------
    known : how it would have kept.
    """
    return replace(
        known,
        say="Discarded: none of it is used",
        days=0.0,
        chilled_h=0.0,
        why="it was discarded",
        opened_days=0.0,
        thawed_days=0.0,
        freezes_days=0.0,
        freezing="Do not freeze it.",
        rests_h=0.0,
        rests_to="",
        warm_h=0.0,
        lukewarm_h=0.0,
        stir=(),
    )


def undecided(known: Life, missing: tuple[str, ...]) -> Life:
    """What is not used until somebody decides it: its record does not show that it was cooked and cooled.

    Parameters
    ----------
    known : how it would keep if it was.
    missing : what the record lacks, a sentence each.
    """
    return replace(
        discarded(known),
        say="Not to be used until somebody decides",
        why="; ".join(missing),
        freezing="Do not freeze it before somebody decides.",
        missing=missing,
    )


def _chilled_h(one: Life) -> float:
    return one.chilled_h


def mended(known: Life, becomes: Life, age_h: float, p: Parameters, *, warmed: bool) -> Life:
    """How it keeps once it has been mended: never longer than before, and warmed again only that day.

    Parameters
    ----------
    p : the model's parameters.
    known : how it kept until now.
    becomes : how a batch keeps that was made so from the beginning.
    age_h : how long ago it was made [h].
    warmed : whether it was cold and is warmed again; then it is not cooled a second time to be kept.
    """
    hours = min(known.chilled_h, becomes.chilled_h)
    why = known.why if known.chilled_h <= becomes.chilled_h else becomes.why
    if warmed and age_h + p.keep.same_day_h < hours:
        hours, why = age_h + p.keep.same_day_h, "warmed again: it is used the same day"
    freezes = 0.0 if warmed else min(known.freezes_days, becomes.freezes_days)
    return replace(
        becomes,
        say="Label it; use it the same day" if warmed else min((known, becomes), key=_chilled_h).say,
        days=min(known.days, becomes.days, hours / DAY_H),
        chilled_h=hours,
        why=why,
        freezes_days=freezes,
        freezing=becomes.freezing if freezes else "Do not freeze it: it has been warmed and cooled already.",
    )


def whites_life(conditions: Conditions) -> Life:
    """How raw whites keep.

    Parameters
    ----------
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    keep = conditions.parameters.keep
    return Life(
        say="Label them; use them or freeze them",
        days=keep.whites_days,
        chilled_h=DAY_H * keep.whites_days,
        why="raw whites",
        opened_days=keep.opened_days,
        thawed_days=keep.thawed_days,
        freezes_days=keep.whites_frozen_days,
        freezing="Frozen whites whip as well as fresh ones once they have thawed.",
        rests_h=0.0,
        rests_to="",
        warm_c=conditions.cooling_rule.from_c,
        warm_h=0.0,
        lukewarm_h=keep.lukewarm_h,
        stir=(),
    )


def use_by(known: Life, kept: Kept) -> UseBy:
    """Until when it may be used, after what has happened to it.

    The freezer stops the clock of the fridge, which goes on where it stood; thawing starts a shorter one
    when it is taken out, not when it has thawed.

    Parameters
    ----------
    known : how it keeps.
    kept : what has happened to it since.

    Raises
    ------
    OutOfRange
        when it came out of the freezer before it went in.
    """
    chilled = UseBy(known.chilled_h, known.why)
    if kept.place == "frozen":
        return UseBy(_or_0(kept.frozen_h) + DAY_H * known.freezes_days, "frozen")
    found = [chilled]
    if kept.frozen_h is not None and kept.out_h is not None:
        if kept.out_h < kept.frozen_h:
            raise OutOfRange("out_h", f"{kept.out_h:g}", f"must be after {kept.frozen_h:g} h")
        left = max(0.0, chilled.hours - kept.frozen_h)
        if kept.out_h - kept.frozen_h > DAY_H * known.freezes_days:
            # Taking it out does not make it good again.
            return UseBy(kept.frozen_h + DAY_H * known.freezes_days, "frozen for too long")
        found = [
            UseBy(kept.out_h + left, "its days in the fridge before it was frozen count"),
            UseBy(kept.out_h + DAY_H * known.thawed_days, "thawed"),
        ]
    if kept.opened_h is not None:
        found.append(UseBy(kept.opened_h + DAY_H * known.opened_days, "opened"))
    if kept.place == "warm":
        hot = kept.warm_c is not None and kept.warm_c >= known.warm_c
        why = "kept warm" if hot else f"kept at less than {{{known.warm_c:g} C}}"
        found.append(UseBy(_or_0(kept.warm_h) + (known.warm_h if hot else known.lukewarm_h), why))
    return min(found, key=lambda one: one.hours)


def _or_0(hours: float | None) -> float:
    return 0.0 if hours is None else hours


def _warm_h(result: Assessment) -> float:
    """Hours at its rule's hot-holding limit until it spoils, and no longer than usual [h]."""
    p = result.conditions.parameters
    at_c, step = result.conditions.cooling_rule.from_c, p.keep.warm_h / WARM_STEPS
    for number in range(WARM_STEPS):
        hours = step * (number + 1)
        stood = held_warm(result.whole, result.stop, at_c, hours, result.conditions).state
        if stood.curdled > max(p.keep.warm_curdled, 2 * result.stop.curdled):
            return step * number
    return p.keep.warm_h


def _freezing(result: Assessment, days: float) -> str:
    if days <= 0:
        return "Do not freeze it: it would not come back."
    p = result.conditions.parameters
    came = thawed(result.whole, days, p)
    film = "Film right on it against ice crystals."
    if came.weeps <= p.keep.weeps_share:
        return f"{film} Thaw it in the fridge overnight and stir."
    share = f"about {100 * came.weeps:.0f} % of it as water"
    return f"{film} Thawed it lets go {share}: whisk or blend it, or use it in something baked."


def _stir(result: Assessment, enzyme: float) -> tuple[str, ...]:
    """What it does as it stands in the cold, and what to do about that before it is used."""
    p, said = result.conditions.parameters, []
    if result.way.foams:
        if result.served_at_once:
            return ("A foam does not wait: look at it before it is served.",)
        return ("It holds its air while it is cold and still: do not stir it.",)
    hot, cold = result.hot.yield_stress_pa, result.cold.yield_stress_pa
    if result.whisked is not None:
        became = result.whisked.word
        same = became == result.cold.word
        said.append(
            f"It sets: {result.cold.word}. Whisk it smooth"
            + (f": it loosens and stays {became}." if same else f": {became} then.")
        )
    elif result.way.undisturbed:
        said.append("It sets in its cup: do not stir it.")
    elif result.family.rests_to == "set":
        said.append(f"It sets in the cold: {result.cold.word}.")
    elif cold > FIRMER * hot:
        said.append(f"It thickens in the cold: {result.cold.word}. Stir it before use.")
    if result.whole.starch_in_aqueous_percent > 0:
        thins = aged(DAY_H, enzyme, p).thinned
        if thins > TELLS_SHARE:
            said.append(
                f"It grows thinner, by about {100 * thins:.0f} % a day: an enzyme of the yolk is left in it."
            )
    drinks = finishing(result).drinks
    if drinks and drinks[-1].yield_stress_pa > FIRMER * max(drinks[0].yield_stress_pa, 1e-9):
        said.append("What is in it goes on drinking: it is thicker tomorrow. Thin it with a little milk.")
    return tuple(said)
