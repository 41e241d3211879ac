"""Remedies for what comes out of the oven or from under the flame."""

from __future__ import annotations

from custard.advice.trouble.remedies.rescued import BURNT, Added, Asked, Rescued, in_g
from custard.larder.ingredients import ingredient
from custard.process.baking.bake import SET_AT, wobble
from custard.process.baking.crust import crust
from custard.process.baking.cups import usual_cups
from custard.process.heating.cook import CURDLED_AT
from custard.vocabulary import When

MARGIN_S = 60.0
IN_C = 50.0
DISH_CM = 10.0
THIN = 0.45
"""Sugar of a crust that was too thin, over the usual, where nobody says [1]."""
SUGAR = "white-sugar"
WATER_BATH = "A bath of boiling water in the oven: slide it out on its rack, never lift it full."


def cups(asked: Asked) -> Rescued:
    """Back into the oven until the middle is set; holes stay."""
    result, story = asked.result, asked.story
    set_now = story.known("set_centre", asked.state.thickened)
    if story.known("cups_look", 0.0) > 0.5:
        edge = max(story.known("curdled", 0.0), asked.state.curdled)
        weeping = edge > CURDLED_AT
        return Rescued(
            saved="perhaps",
            say="The holes stay; cold, with a sauce over it, it can be served",
            steps=(
                "Out of the water at once, so that it stops.",
                "Cold right through before anyone looks: a little of it closes again.",
                "Turn it out, or lay a sauce or a crust over it.",
            ),
            becomes=wobble(min(1.0, set_now)),
            wanted=wobble(min(1.0, set_now)),
            curdled=edge,
            good_for=("bread pudding", "a custard for a trifle") if weeping else (),
        )
    vessel = usual_cups(result.pan, result.formula.card)
    at_bath = story.figure("baths_c")
    cold = asked.cause == "cold-bath"
    bath_c = None if cold or at_bath is None else min(99.0, max(62.0, at_bath))
    then = vessel.baked(result.pan, IN_C, bath_c, result.conditions)
    at = min(int(then.set_centre.searchsorted(set_now)), then.t_s.size - 1)
    more_s = None if then.out_s is None else max(0.0, then.out_s - float(then.t_s[at])) + MARGIN_S
    if more_s is None or asked.cause == "lean":
        return Rescued(
            saved="no",
            say="It does not set: there is too little egg in it",
            steps=("Pour it out, whisk in more egg, sieve and bake it again; or use it as a sauce.",),
            becomes=wobble(set_now),
            wanted=wobble(SET_AT),
            curdled=asked.state.curdled,
            good_for=("a pouring sauce", "bread pudding"),
        )
    minutes = max(1, round(more_s / 60))
    return Rescued(
        saved="yes",
        say=f"It can be saved: back into the oven for about {minutes} min",
        steps=(
            *(("Fill the bath again with boiling water.",) if cold else ()),
            f"Back in for about {minutes} min; nudge one after {max(1, minutes // 2)}.",
            "Out when the middle wobbles no wider than a coin.",
        ),
        heat_to_c=float(then.centre_c[min(then.t_s.size - 1, int(then.t_s.searchsorted(then.out_s or 0.0)))]),
        for_s=more_s,
        becomes=wobble(SET_AT),
        wanted=wobble(SET_AT),
        curdled=asked.state.curdled,
        cautions=(WATER_BATH,),
    )


def crust_again(asked: Asked) -> Rescued:
    """Sugar and flame again, on a dry cold top."""
    p, story = asked.p, asked.story
    usual = crust(DISH_CM, p)
    usual_there = THIN if asked.cause == "thin" else 1.0
    there = story.known("crust_share", usual_there) if asked.cause != "stood" else 0.0
    anew = asked.cause in ("stood", "wet") or there >= 1
    grams = usual.grams if anew else max(0.2, (1 - there) * usual.grams)
    if asked.cause == "pale":
        grams = 0.0
    done = crust(DISH_CM, p, max(grams, 0.2))
    flame_s = usual.flame_s * (1 - story.known("burnt", 0.0)) if asked.cause == "pale" else done.flame_s
    lifted = "Lift the wet crust off, or break it up and leave it under."
    sugar_on = f"{in_g(grams)} of sugar on a dish of {DISH_CM:.0f} cm, turned so that it lies even."
    steps = (
        *((lifted,) if asked.cause == "stood" else ()),
        "Dry the top with a paper; it must be cold.",
        *((sugar_on,) if grams else ()),
        f"About {max(5.0, flame_s):.0f} s under the flame, moving, until it is amber all over.",
        f"Serve it within {usual.crisp_min:.0f} min.",
    )
    sugar = (Added(SUGAR, ingredient(SUGAR).name, grams, When.ON_TOP),) if grams else ()
    return Rescued(
        saved="yes",
        say=f"It can be saved: {in_g(grams)} of sugar a dish, and the flame again"
        if grams
        else f"It can be saved: the flame again, about {max(5.0, flame_s):.0f} s",
        steps=steps,
        add=sugar,
        for_s=flame_s,
        becomes="cracks",
        wanted="cracks",
        cautions=(BURNT,),
    )
