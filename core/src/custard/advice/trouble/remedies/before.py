"""Remedies for what is found before it is too late: yolks, the pan, the bath, the dish."""

from __future__ import annotations

from custard.advice.bench.solve import with_missing_yolks
from custard.advice.mix.assess import Assessment, assess
from custard.advice.trouble.remedies.airy import mounts_to
from custard.advice.trouble.remedies.rescued import (
    CREAM,
    RAW_EGG,
    STARCH,
    STEAM,
    YOLK,
    Asked,
    Rescued,
    added,
    in_g,
)
from custard.errors import CustardError
from custard.physics.texture import NAPPE_PA
from custard.process.heating.cook import cook, usual_stove
from custard.process.heating.temper import share_in_bowl
from custard.vocabulary import When

GRAINS_SHARE = 0.06
"""Share of the yolk that stays in the sieve as grains [1]; an estimate."""
HEAD = 0.6
"""Share of a pan that a mix may fill [1]."""
LEAST_BATCH_G = 20.0
COOLER_S = 30.0
COOL_C, NEARLY_K = 30.0, 10.0
"""Where a bowl is taken to be whose bath does nothing [degC], and one that cooks, under its stop [K]."""
HARDLY = 0.8
"""With so many of its yolks nobody finds a difference [1]; kitchen practice."""
NEAR_K = 3.0
"""A sauce that comes nearer to curdling than this wants more than a calm hand [K]."""


def grains(asked: Asked) -> Rescued:
    """New yolks while nothing is on them; the sieve, and the yolk it keeps, once the dairy is."""
    formula, result = asked.result.formula, asked.result
    yolk_g = formula.yolks() * formula.egg_size.yolk_g * asked.share
    if asked.story.known("dairy_on", 0.0) < 0.5:
        sugar = [
            one
            for line, g in zip(formula.lines, formula.weights_g(), strict=True)
            if line.ingredient.group == "sugar" and line.join.heated
            for one in added(
                line.ingredient.id or line.ingredient.name,
                g * share_in_bowl(line) * asked.share,
                When.WITH_THE_YOLKS,
                anew=True,
            )
        ]
        sugars = " and ".join(f"{in_g(one.grams)} of {one.name}" for one in sugar) or "what goes with them"
        return Rescued(
            saved="yes",
            say=f"Those yolks are lost, the rest is not: weigh {in_g(yolk_g)} of yolk again",
            steps=(
                "Throw the grainy yolks away with the sugar on them: the grains do not dissolve.",
                f"{in_g(yolk_g)} of yolk into a clean bowl, the whisk in your hand, then {sugars}.",
            ),
            add=(*added(YOLK, yolk_g, When.WITH_THE_YOLKS, anew=True), *sugar),
            becomes=result.hot.word,
            wanted=result.hot.word,
            spoon=result.hot,
            cautions=(RAW_EGG,),
        )
    lost_g = GRAINS_SHARE * yolk_g
    fewer = assess(formula.with_yolks_times(1 - GRAINS_SHARE), result.conditions)
    more_g = 0.0 if fewer.hot.word == result.hot.word else lost_g
    found = result if more_g else fewer
    return Rescued(
        saved="yes",
        say="It can be saved: through the fine sieve before it is cooked on",
        steps=(
            f"Through the fine sieve: grains hold about {in_g(lost_g)} of yolk; do not press.",
            *((f"Whisk in {in_g(more_g)} of yolk in their place.",) if more_g else ()),
            f"Cook on to {{{found.stop.at_c:.1f} C}}.",
        ),
        add=added(YOLK, more_g, When.WITH_THE_YOLKS, anew=True),
        heat_to_c=found.stop.at_c,
        takes_g=lost_g,
        becomes=found.hot.word,
        wanted=result.hot.word,
        spoon=found.hot,
        cautions=(RAW_EGG,) if more_g else (),
    )


def yolks_short(asked: Asked) -> Rescued:
    """Left as it is where that does not matter; else a little starch, or a smaller batch."""
    result, formula = asked.result, asked.result.formula
    counted, size = formula.yolks(), asked.story.known("yolk_size", 1.0)
    missing = asked.story.known("short", 1.0)
    have = (counted - missing) * size
    if have <= 0.05 * counted:
        return Rescued(
            saved="no",
            say="There is no yolk left to go on with",
            steps=("Leave it until there are eggs, or make something that starch alone thickens.",),
            becomes="runs off",
            wanted=result.hot.word,
            good_for=("a starch pudding",),
        )
    fewer = assess(formula.with_yolks_times(have / counted), result.conditions)
    curdles_c = fewer.window.curdles_c
    calm = curdles_c is None or curdles_c - fewer.stop.at_c >= NEAR_K
    if calm and fewer.hot.word == result.hot.word and fewer.cold.word == result.cold.word:
        return Rescued(
            saved="yes",
            say=("It does not matter: go" if have >= HARDLY * counted else "It still coats: go")
            + f" on with {have:.1f} yolks, to {{{fewer.stop.at_c:.1f} C}}",
            steps=(
                "Weigh out the rest as written.",
                f"It coats at {{{fewer.stop.at_c:.1f} C}} now, instead of {{{result.stop.at_c:.1f} C}}.",
                *(
                    (f"That is {{{curdles_c - fewer.stop.at_c:.1f} K}} under where it curdles.",)
                    if curdles_c
                    else ()
                ),
            ),
            heat_to_c=fewer.stop.at_c,
            becomes=fewer.hot.word,
            wanted=result.hot.word,
            spoon=fewer.hot,
        )
    return _with_starch_or_less(asked, have)


def _with_starch_or_less(asked: Asked, have: float) -> Rescued:
    result, formula = asked.result, asked.result.formula
    factor = have / formula.yolks()
    smaller = assess(formula.times(factor), result.conditions)
    less = (f"Or make {in_g(smaller.yield_g)} of it: the rest at {100 * factor:.0f} % of what is written.",)
    try:
        _, thickened = with_missing_yolks(formula, have, conditions=result.conditions)
        found = assess(thickened.formula, result.conditions)
    except CustardError:
        found = None
    if found is None or found.hot.word != result.hot.word or found.stop.boiled != result.stop.boiled:
        return Rescued(
            saved="yes",
            say=f"Make less of it: {100 * factor:.0f} % of everything, {in_g(smaller.yield_g)} in all",
            steps=(
                *(
                    f"{in_g(g * factor)} of {line.ingredient.name}"
                    for line, g in zip(formula.lines, formula.weights_g(), strict=True)
                ),
            ),
            heat_to_c=smaller.stop.at_c,
            takes_g=max(0.0, 1 - factor) * asked.mass_g,
            becomes=smaller.hot.word,
            wanted=result.hot.word,
            spoon=smaller.hot,
        )
    before = sum(g for line, g in _rows(result) if line == STARCH)
    starch_g = sum(g for line, g in _rows(found) if line == STARCH) - before
    return Rescued(
        saved="yes",
        say=f"It can be made up: {in_g(starch_g * asked.share)} of maize starch with the yolks",
        steps=(
            f"Whisk {in_g(starch_g * asked.share)} of maize starch into the {have:.1f} yolks with the sugar.",
            f"Lift it at {{{found.stop.at_c:.1f} C}}.",
            *less,
        ),
        add=added(STARCH, starch_g * asked.share, When.WITH_THE_YOLKS),
        heat_to_c=found.stop.at_c,
        takes_g=max(0.0, result.weighed_g + starch_g - found.weighed_g) * asked.share,
        becomes=found.hot.word,
        wanted=result.hot.word,
        spoon=found.hot,
        yolks_times=have / formula.yolks(),
    )


def _rows(result: Assessment) -> list[tuple[str, float]]:
    return [
        (line.ingredient.id or "", g) for line, g in zip(result.formula.lines, result.weights_g, strict=True)
    ]


def too_little(asked: Asked) -> Rescued:
    """Stretched with cream while it stays within its word; else a second, smaller batch."""
    result, state = asked.result, asked.state
    lack = asked.story.known("lack_share", 0.25)
    need_g = asked.mass_g * lack / (1 - lack)
    word = asked.spoon(state).word
    floor = NAPPE_PA * 1.1 if word in ("nappe", "heavy coat") else asked.stress(state)
    takes_cream = not result.way.foams and not result.way.undisturbed
    thinned = asked.with_more(CREAM, need_g)
    if takes_cream and asked.stress(state, thinned) >= floor:
        spoon = asked.spoon(state, thinned)
        return Rescued(
            saved="yes",
            say=f"It stretches: whisk in {in_g(need_g)} of cream, and it still coats",
            steps=(
                f"Off the heat, whisk in {in_g(need_g)} of cream, a little at a time.",
                "Look at the spoon.",
            ),
            add=added(CREAM, need_g, When.OFF_THE_HEAT),
            becomes=spoon.word,
            wanted=spoon.word if spoon.yield_stress_pa >= NAPPE_PA else word,
            spoon=spoon,
            curdled=state.curdled,
        )
    factor = max(need_g, LEAST_BATCH_G) / max(result.yield_g, 1e-6)
    second = assess(result.formula.times(factor), result.conditions)
    return Rescued(
        saved="yes",
        say=f"Make a second batch of {in_g(second.yield_g)}: {100 * factor:.0f} % of what is written",
        steps=(
            *(
                f"{in_g(g)} of {line.ingredient.name}"
                for line, g in zip(second.formula.lines, second.weights_g, strict=True)
            ),
            f"Lift it at {{{second.stop.at_c:.1f} C}}; a small batch is there sooner.",
        ),
        heat_to_c=second.stop.at_c,
        becomes=second.hot.word,
        wanted=result.hot.word,
        spoon=second.hot,
    )


def pan_full(asked: Asked) -> Rescued:
    """So much of it taken out that it can be stirred."""
    fill = asked.story.known("pan_fill", 0.9)
    out = max(0.0, 1 - HEAD / fill)
    out_g = out * asked.mass_g
    result = asked.result
    rest = assess(result.formula.times(max(0.05, 1 - out)), result.conditions)
    if out_g < 1:
        return Rescued(
            saved="yes",
            say="It can be stirred as it is",
            steps=("Keep it under two thirds of the pan.",),
            becomes=result.hot.word,
            wanted=result.hot.word,
            spoon=result.hot,
        )
    return Rescued(
        saved="yes",
        say=f"Take {in_g(out_g)} out into a second pan before it is hot",
        steps=(
            f"Ladle {in_g(out_g)} out, whisked first so that both are the same; what stays fills "
            f"{100 * HEAD:.0f} % of the pan.",
            f"Each to {{{rest.stop.at_c:.1f} C}}, this one on {100 * (1 - out):.0f} % of the flame; the "
            "smaller one is there first, so begin it last.",
        ),
        heat_to_c=rest.stop.at_c,
        flame=1 - out,
        aside_g=out_g,
        becomes=rest.hot.word,
        wanted=result.hot.word,
        spoon=rest.hot,
        cautions=("A full pan of hot milk boils over and slops: two hands, a cloth, nobody in the way.",),
    )


def bath(asked: Asked) -> Rescued:
    """The flame and the water put right; how long it then takes from where it is."""
    result, state = asked.result, asked.state
    usual_c = COOL_C if asked.cause in ("still", "far") else result.stop.at_c - NEARLY_K
    at_c = asked.story.known("highest_c", usual_c) if asked.story.read else usual_c
    stove = usual_stove(result.pan, asked.p, over_steam=True)
    ahead = cook(
        result.pan,
        min(at_c, result.stop.at_c - 2),
        result.stop.at_c,
        stove,
        longest_s=3600,
        conditions=result.conditions,
    )
    takes_s = 1800.0 if ahead.lift_s is None else ahead.lift_s
    on = f"Then to {{{result.stop.at_c:.1f} C}}, about {max(1.0, takes_s / 60):.0f} min, whisking."
    do, flame = {
        "still": (("Flame up until the water simmers, then the bowl on.",), 3.0),
        "far": (("Two fingers of hot water, a bowl that closes the pot; a lively simmer.",), 2.0),
        "touches": (
            (f"Bowl off, whisk for {COOLER_S:.0f} s.", "Pour water off until a finger of air is under it."),
            0.5,
        ),
        "hard": ((f"Bowl off, whisk for {COOLER_S:.0f} s.", "Flame down to a bare simmer."), 0.5),
    }.get(asked.cause, (("A bare simmer, two fingers of water, a finger of air under the bowl.",), 1.0))
    cooked = flame < 1
    sieve = ("Through the sieve if there are bits.",) if cooked else ()
    return Rescued(
        saved="yes",
        say="Take the bowl off and put the bath right" if cooked else "Put the bath right, and go on",
        steps=(*do, *sieve, on),
        heat_to_c=result.stop.at_c,
        for_s=takes_s,
        flame=flame,
        becomes=mounts_to(result) if result.way.foams else result.hot.word,
        wanted=mounts_to(result) if result.way.foams else result.hot.word,
        spoon=None if result.way.foams else result.hot,
        curdled=state.curdled if cooked else 0.0,
        cautions=(STEAM,),
    )
