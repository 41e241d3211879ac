"""Remedies for a stirred sauce at the stove: thick, bits, split, caught, eggy."""

from __future__ import annotations

from dataclasses import replace

from custard.advice.trouble.remedies.rescued import (
    BLEND_S,
    CREAM,
    HOT_BLENDER,
    SOFT_PA,
    Asked,
    Rescued,
    added,
    in_g,
    least,
)
from custard.advice.trouble.remedies.thin import WELL, thin
from custard.mixture import Mixture
from custard.physics.texture import NAPPE_PA, word
from custard.process.heating.cook import CURDLED_AT
from custard.process.heating.state import State
from custard.process.heating.surface import clings_g, open_surface_m2

MOST_CREAM = 1.0
"""More cream than sauce is no remedy [1]."""
FOAM_CREAM = 0.3
"""With more cream than that a foam is a sauce [1]; kitchen practice as remembered."""
LEAST_CREAM, MOST_SPLASH = 0.06, 0.15
"""A splash of cream, over the sauce it saves: as little as blends, and as much as is still a splash [1]."""
NOTHING_SHARE = 0.01
"""Less than this of the sauce is nothing to weigh [1]."""
BLENDS_UP_TO = 0.35
"""So much of the egg curdled, a blender still makes it smooth enough to be used [1]; kitchen practice."""
GRAINY = 0.06
"""Curdled egg in a blended sauce from which the tongue finds it [1]; an estimate."""
SIEVED_SHARE = 3.0
"""A curd holds about so many times its egg in sauce, and stays in the sieve with it [1]; an estimate."""
TOO_THICK_PA = 5.8
"""Just inside where nappe ends [Pa]."""
STUCK = 3.0
"""What is left in a pan that is not scraped, over what clings to one that is [1]; an estimate."""
NOT_SAVED = "When in doubt throw it away; nothing brings this many curds back."
BAKED_IN = "bread pudding, where nobody looks for smoothness"


def thick(asked: Asked) -> Rescued:
    """Loosened with cream, to the middle of nappe; a paste to its own word."""
    state = asked.state
    goal = max(SOFT_PA, min(asked.result.hot.yield_stress_pa, asked.stress(state)))
    if asked.wanted == "nappe":
        goal = SOFT_PA
    cream_g, mixture = _loosened(asked, state, goal)
    if cream_g < NOTHING_SHARE * asked.mass_g:
        spoon = asked.spoon(state)
        return Rescued(
            saved="yes",
            say="It is as thick as it was to be: nothing to do",
            steps=(
                "It looks thicker cold than it is: warm it, and stir.",
                "Where it is still too thick for you, a spoonful of cream at a time.",
            ),
            becomes=spoon.word,
            wanted=spoon.word,
            spoon=spoon,
            curdled=state.curdled,
        )
    spoon = asked.spoon(state, mixture)
    return Rescued(
        saved="yes" if spoon.yield_stress_pa <= goal * 1.2 else "perhaps",
        say=f"It can be saved: whisk in {in_g(cream_g)} of cream",
        steps=(
            f"Off the heat, whisk in {in_g(cream_g)} of cream, a little at a time.",
            "Look at the spoon.",
        ),
        add=added(CREAM, cream_g),
        becomes=spoon.word,
        wanted=word(goal),
        spoon=spoon,
        curdled=state.curdled,
    )


def _loosened(asked: Asked, state: State, goal: float) -> tuple[float, Mixture]:
    """Cream that brings a sauce to a yield stress [g], and the mix it then is."""

    def looser(grams: float) -> float:
        return -asked.stress(state, asked.with_more(CREAM, grams))

    most = (FOAM_CREAM if asked.result.way.foams else MOST_CREAM) * asked.mass_g
    found = least(looser, -goal, most)
    grams = most if found is None else found
    return grams, asked.with_more(CREAM, grams)


def bits(asked: Asked) -> Rescued:
    """Through the sieve; loosened, or warmed on, where it is too thick or too thin as well.

    Where the sauce itself has begun to curdle it is treated as one that has split.
    """
    state = asked.state
    if state.curdled > CURDLED_AT:
        return split(asked)
    seen = max(state.curdled, asked.story.known("curdled", 0.01), 0.01)
    lost_g = min(0.2, SIEVED_SHARE * seen) * asked.mass_g
    strained = replace(asked, mass_g=asked.mass_g - lost_g)
    foams = asked.result.way.foams
    over = not foams and asked.wanted == "nappe" and asked.stress(state) > TOO_THICK_PA
    cream_g, mixture = _loosened(strained, state, SOFT_PA) if over else (0.0, strained.pan)
    spoon = asked.spoon(state, mixture)
    sieve = f"Through a fine sieve into a cold bowl, do not press; it keeps back about {in_g(lost_g)}."
    if asked.wanted == "nappe" and spoon.yield_stress_pa < NAPPE_PA * WELL:
        # A high flame curdles what touches the base before the rest has set.
        on = thin(strained)
        if on.saved == "yes" and not on.add:
            return replace(
                on,
                say=f"It can be saved: through the fine sieve, then gently on to {{{on.heat_to_c:.1f} C}}",
                steps=(sieve, *on.steps),
                takes_g=lost_g,
            )
    cream = f"It is too thick as well: whisk in {in_g(cream_g)} of cold cream."
    return Rescued(
        saved="yes",
        say="It can be saved: through the fine sieve at once"
        + (f", then {in_g(cream_g)} of cream" if cream_g else ""),
        steps=(
            sieve,
            *((cream,) if cream_g else ()),
            "Taste it: if it is eggy, use it cold and flavoured.",
        ),
        add=added(CREAM, cream_g),
        takes_g=lost_g,
        becomes=spoon.word,
        wanted=asked.wanted,
        spoon=spoon,
        curdled=state.curdled / 4,
    )


def split(asked: Asked) -> Rescued:
    """Whisked back by its starch, blended with cold cream, or nothing more than a flavour."""
    result, state = asked.result, asked.state
    sour = float(result.pan.ph) < asked.p.coagulation.casein_splits_ph
    if sour and not asked.starchy:
        return _lost(asked, "It cannot be saved: its milk has turned", ())
    if asked.starchy:
        spoon = asked.spoon(replace(state, curdled=min(state.curdled, GRAINY)))
        return Rescued(
            saved="yes",
            say="It can be saved: whisk it hard off the heat",
            steps=(f"Off the heat, whisk hard or blend {BLEND_S:.0f} s; the starch holds the curds small.",),
            for_s=BLEND_S,
            becomes=spoon.word,
            wanted=asked.wanted,
            spoon=spoon,
            curdled=min(state.curdled, GRAINY),
            cautions=(HOT_BLENDER,),
        )
    if state.curdled > BLENDS_UP_TO:
        return _lost(asked, "It is past saving", (BAKED_IN,))
    # Blended, a part of the curds is broken so small that it thickens again.
    smooth = replace(state, curdled=state.curdled / 2)
    thinner_g, _ = _loosened(asked, smooth, SOFT_PA)
    # So much that the tongue finds no grains, and where that is too much, as much as is usual.
    ungrained_g = asked.mass_g * (state.curdled / 2 / GRAINY - 1)
    usual_g = asked.mass_g * state.curdled / BLENDS_UP_TO / 2
    # The least that saves it comes first; what brings it to the coat that was meant is a choice.
    wanted_g = max(LEAST_CREAM * asked.mass_g, min(ungrained_g, usual_g))
    cream_g = min(MOST_SPLASH * asked.mass_g, wanted_g)
    spoon = asked.spoon(smooth, asked.with_more(CREAM, cream_g))
    grains = state.curdled / 2 * asked.mass_g / (asked.mass_g + cream_g)
    sieve_g = min(0.2, SIEVED_SHARE * state.curdled / 4) * asked.mass_g
    coats = spoon.yield_stress_pa >= NAPPE_PA
    return Rescued(
        saved="yes" if grains <= GRAINY and coats else "perhaps",
        say=f"It can be saved: sieve it, then blend it with {in_g(cream_g)} of cold cream",
        steps=(
            f"Off the heat at once, through the fine sieve into a cold bowl, do not press; it keeps back "
            f"about {in_g(sieve_g)}.",
            f"{in_g(cream_g)} of cold cream, {BLEND_S:.0f} s in the blender.",
            f"Look at the spoon; it should show: {spoon.word}."
            + (
                f" If it is to be a nappe as it was meant, {in_g(thinner_g)} of cream in all."
                if thinner_g > cream_g + NOTHING_SHARE * asked.mass_g
                else ""
            ),
        ),
        add=added(CREAM, cream_g),
        for_s=BLEND_S,
        takes_g=sieve_g,
        becomes=spoon.word,
        wanted=spoon.word if coats else "nappe",
        spoon=spoon,
        curdled=grains,
        good_for=("ice base", "bread pudding") if grains > GRAINY or not coats else (),
        cautions=(HOT_BLENDER,),
    )


def _lost(asked: Asked, say: str, good_for: tuple[str, ...]) -> Rescued:
    spoon = asked.spoon(asked.state)
    return Rescued(
        saved="no",
        say=say,
        steps=(NOT_SAVED, "Start again; what went wrong stands beside this."),
        becomes=spoon.word,
        wanted=asked.wanted,
        spoon=spoon,
        curdled=asked.state.curdled,
        good_for=good_for,
    )


def caught(asked: Asked) -> Rescued:
    """Poured off what sticks, tasted, and finished in a clean pan where it is not done."""
    result, state = asked.result, asked.state
    mass_g = float(result.pan.mass_g)
    stays_g = STUCK * clings_g(open_surface_m2(result.pan, asked.p), asked.p) * asked.mass_g / mass_g
    steps = (
        f"Do not scrape: pour it into a clean pan; leave what sticks, about {in_g(stays_g)}.",
        "Taste it before you go on. Through the fine sieve if there are flecks.",
        f"Where it goes on, half the flame: about {asked.watts(0.5):.0f} W.",
    )
    heat = thin(asked) if asked.stress(state) < NAPPE_PA and not result.stop.boiled else None
    on = heat is not None and heat.saved == "yes" and not heat.add
    spoon = heat.spoon if on and heat is not None and heat.spoon is not None else asked.spoon(state)
    return Rescued(
        saved="perhaps",
        say="It may be saved, if it does not taste of it: into a clean pan, and do not scrape",
        steps=(*steps, *(heat.steps if on and heat is not None else ())),
        heat_to_c=heat.heat_to_c if on and heat is not None else None,
        for_s=heat.for_s if on and heat is not None else None,
        flame=0.5,
        takes_g=stays_g,
        becomes=spoon.word,
        wanted=asked.wanted,
        spoon=spoon,
        curdled=state.curdled,
        good_for=("a caramel or coffee sauce, where the taste is meant",),
    )


def eggy(asked: Asked) -> Rescued:
    """Nothing takes the taste out; cold, sugar and a strong flavour hide it."""
    spoon = asked.spoon(asked.state)
    return Rescued(
        saved="perhaps",
        say="The taste stays; cold, sweet and strongly flavoured it is hardly found",
        steps=(
            "Cool it at once: warm it tastes most.",
            "Coffee, caramel, chocolate or spirit in it; taste it cold.",
            "Not for a plain sauce.",
        ),
        becomes=spoon.word,
        wanted=spoon.word,
        spoon=spoon,
        curdled=asked.state.curdled,
        good_for=("ice base, flavoured", "bread pudding", "a flavour for butter cream"),
    )
