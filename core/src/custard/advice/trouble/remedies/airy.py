"""Remedies for foams, for what is folded in, and for chocolate."""

from __future__ import annotations

from dataclasses import replace

from custard.advice.finish.additions import finishing
from custard.advice.finish.bowl import FRIDGE_C
from custard.advice.finish.kinds import kind_of
from custard.advice.finish.waiting import waits_s
from custard.advice.mix.assess import Assessment, assess
from custard.advice.mix.texture import yield_stress
from custard.advice.trouble.remedies.rescued import (
    CREAM,
    MILK,
    STEAM,
    YOLK,
    Asked,
    Rescued,
    added,
    in_g,
    least,
)
from custard.errors import Impossible, OutOfRange
from custard.larder.ingredients import Ingredient, ingredient
from custard.mixture import Mixture, blend, combined
from custard.physics import foam
from custard.physics.texture import NAPPE_PA
from custard.process.cooling.chocolate import MELTED_C, ROOM_C, SHINES, look, milk_to_shine_g, wetted
from custard.process.heating.pot import laid_out
from custard.process.whisking.folding import WHIPPED, Base, Folded, folded
from custard.process.whisking.whisk import whisk
from custard.vocabulary import When

LEAST_MIN = 1.0
WARM_C = 45.0
"""Where chocolate is worked smooth: all of it is melted, and none of it is burnt [degC]."""
MILK_C = 40.0
SAUCE_CREAM = 0.3
"""Soft cream folded into a sabayon that has lost its foam, of its mass [1]; kitchen practice."""
MOST_YOLK, YOLK_STEP = 4.0, 0.1
MOST_CREAM = 0.8
FALLEN_AIR = 0.15
"""Air that is left in a foam that has fallen, of what it had [1]; an estimate."""
MARGIN = 1.02
LIGHTENED = "light"
LIGHT = 1.3
"""Volume over that of what is in it from which a cream is light enough for a spoon [1]; kitchen practice."""


def sinks(asked: Asked) -> Rescued:
    """Whisked to where it holds; with more yolk where it is too slack; cold, as a sauce, where it is lost."""
    result = asked.result
    if asked.cause == "hot":
        return _as_a_sauce(asked)
    formula, factor = result.formula, 1.0
    if asked.cause == "slack":
        found = result
        while not _holds(found) and factor < MOST_YOLK and formula.yolks() > 0:
            factor += YOLK_STEP
            found = assess(formula.with_yolks_times(factor), result.conditions)
        result = found
    starts_c = min(asked.state.at_c, result.stop.at_c - 5) if asked.cause == "cool" else 45.0
    try:
        done = whisk(result.pan, max(ROOM_C, starts_c), result.stop.at_c, conditions=result.conditions)
    except (Impossible, OutOfRange):
        return _as_a_sauce(asked)
    # What never got hot has the air of all its whisking still; what has stood begins again.
    fresh = foam.foam_word(float(done.overrun[-1]), float(done.yield_stress_pa[-1]))
    word = fresh if asked.cause == "stood" else mounts_to(result)
    yolk_g = (factor - 1) * formula.yolks() * formula.egg_size.yolk_g * asked.share
    took_s = float(done.t_s[-1])
    yolk = (f"Whisk in {in_g(yolk_g)} of yolk, off the heat.",) if factor > 1 else ()
    again = asked.cause == "stood"
    return Rescued(
        saved="yes" if word in ("mounds", "ribbons") else "perhaps",
        say=f"It can be saved: whisk it over the steam to {{{result.stop.at_c:.0f} C}}"
        + (f", with {in_g(yolk_g)} more yolk" if factor > 1 else ""),
        steps=(
            *yolk,
            f"Back over the steam, whisking all the time, to {{{result.stop.at_c:.0f} C}}, about "
            f"{max(LEAST_MIN, took_s / 60):.0f} min.",
            "Off when the whisk leaves ribbons; onto the plate at once.",
            *(("It is a little less light than the first time.",) if again else ()),
        ),
        add=added(YOLK, yolk_g, When.WITH_THE_YOLKS),
        heat_to_c=result.stop.at_c,
        for_s=took_s,
        becomes=word,
        wanted=word if word == "ribbons" and asked.cause == "stood" else mounts_to(result),
        curdled=float(done.curdled[-1]),
        warmed_again=asked.warmed_again(result.stop.at_c),
        cautions=(STEAM,),
    )


def mounts_to(result: Assessment) -> str:
    """What a mix mounts to at its stop."""
    try:
        done = whisk(result.pan, ROOM_C, result.stop.at_c, conditions=result.conditions)
    except (Impossible, OutOfRange):
        return "liquid"
    return foam.foam_word(float(done.overrun[-1]), float(done.yield_stress_pa[-1]))


def _holds(result: Assessment) -> bool:
    """Whether its films, once set, carry it."""
    return result.hot.yield_stress_pa >= NAPPE_PA * 1.1 and mounts_to(result) == "mounds"


def _as_a_sauce(asked: Asked) -> Rescued:
    """Sieved, turned over ice and loosened into soft cream: no foam any more, and good."""
    cream_g = SAUCE_CREAM * asked.mass_g
    base = laid_out(asked.pan, FRIDGE_C + 5)
    stiff = yield_stress(asked.result.pan, asked.state, base.at_c, asked.p)
    into = laid_out(blend([(ingredient(CREAM), cream_g)]), FRIDGE_C)
    became = folded(Base(base, 0.0, stiff, stiff), into, WHIPPED, asked.p)
    wait_s = waits_s(laid_out(asked.pan, asked.state.at_c), base.at_c)
    return Rescued(
        saved="perhaps",
        say=f"The foam is lost; as a cold sauce with {in_g(cream_g)} of soft cream it is good",
        steps=(
            "Off the steam at once, through the fine sieve.",
            f"Whisk it over ice to {{{base.at_c:.0f} C}}, about {max(1.0, wait_s / 60):.0f} min.",
            f"Fold in {in_g(cream_g)} of cream, whipped to soft peaks. Serve it cold.",
        ),
        add=added(CREAM, cream_g, When.FOLDED),
        becomes=became.word,
        wanted=became.word,
        curdled=asked.state.curdled,
        good_for=("a cold sauce", "a gratin, browned at once"),
    )


def falls(asked: Asked) -> Rescued:
    """Cooled, and so much new cream folded in that it is as light again as it was to be."""
    result, p = asked.result, asked.p
    planned = finishing(result).folded
    goal = LIGHT if planned is None else min(LIGHT, planned.volume_ratio)
    cream = _cream(asked)
    at_c = p.finish.fold_c - 5
    fallen = _with_what_fell(asked)
    stiff = yield_stress(result.whole, result.stop, at_c, p)

    def lighter(grams: float) -> Folded:
        into = laid_out(blend([(cream, max(grams, 0.1))]), FRIDGE_C)
        left = FALLEN_AIR * (goal - 1)
        return folded(Base(laid_out(fallen, at_c), left, stiff, stiff), into, WHIPPED, p)

    most_g = MOST_CREAM * asked.mass_g
    found = least(lambda grams: lighter(grams).volume_ratio, goal, most_g)
    cream_g = most_g if found is None else MARGIN * found
    became = lighter(cream_g)
    from_c = asked.story.known("fold_c", 30.0)
    wait_s = waits_s(laid_out(fallen, from_c), at_c) if from_c > at_c else 0.0
    cool = (
        (f"Whisk the base over ice to {{{at_c:.0f} C}}, about {max(1.0, wait_s / 60):.0f} min.",)
        if wait_s
        else ()
    )
    light = became.volume_ratio >= goal - 0.02
    return Rescued(
        saved="yes" if light and asked.cause != "butter" else "perhaps",
        say=f"It can be saved: {'cool it, and ' if wait_s else ''}fold in {in_g(cream_g)} of new cream",
        steps=(
            *(("Through the fine sieve: what has clumped stays back.",) if asked.cause == "butter" else ()),
            *cool,
            f"Whip {in_g(cream_g)} of cold cream to soft peaks: it keeps a trail, and bends.",
            "A third of it stirred in, the rest folded from the middle up; stop at the last streak.",
        ),
        add=added(cream.id or CREAM, cream_g, When.FOLDED),
        becomes=LIGHTENED if light else "flat",
        wanted=LIGHTENED,
        curdled=asked.state.curdled,
        good_for=() if light else ("a sauce, as it is",),
    )


def _cream(asked: Asked) -> Ingredient:
    """What is folded in, or whipping cream."""
    rows = asked.result.formula.joining(When.FOLDED)
    return next(
        (line.ingredient for _, line, _ in rows if kind_of(line) == "fold-whipped"), ingredient(CREAM)
    )


def _with_what_fell(asked: Asked) -> Mixture:
    """The base with the cream that fell in it, as much as there is."""
    result = asked.result
    rows = [(line.ingredient, g) for _, line, g in result.formula.joining(When.FOLDED)]
    both = combined(result.whole, blend(rows)) if rows else result.whole
    return replace(both, mass_g=asked.mass_g)


def chocolate(asked: Asked) -> Rescued:
    """Warm milk for what has too little water; warmth for lumps; the blender for what was only hurried."""
    whole = asked.whole
    more_g = milk_to_shine_g(whole, asked.p)
    if more_g > 0:
        more_g *= MARGIN
    cold = asked.story.known("lands_c", 99.0) < MELTED_C
    lumpy = cold or asked.story.known("chocolate_look", 0.0) > 1
    became = look(wetted(asked.with_more(MILK, more_g, whole), asked.p))
    warm = f"Over steam to {{{WARM_C:.0f} C}}, no water near it, stirring slowly until all of it has melted."
    milk = (
        f"{in_g(more_g)} of milk at {{{MILK_C:.0f} C}}, a spoonful at a time from the middle, each "
        "stirred smooth."
    )
    warms = lumpy or more_g <= 0
    return Rescued(
        saved="yes",
        say=f"It can be saved: {in_g(more_g)} of warm milk, a spoonful at a time"
        if more_g > 0
        else f"It can be saved: warm it to {{{WARM_C:.0f} C}}, stir, and blend it smooth",
        steps=(
            *((warm,) if warms else ()),
            *((milk,) if more_g > 0 else ()),
            "Blend it without drawing air in, if it is not quite smooth.",
        ),
        add=added(MILK, more_g, When.OFF_THE_HEAT),
        heat_to_c=WARM_C if warms else None,
        becomes=became,
        wanted=SHINES,
        curdled=asked.state.curdled,
        cautions=(STEAM,) if warms else (),
    )
