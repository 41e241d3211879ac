"""Remedies for a stirred sauce at the stove: thin, thick, bits, split, caught, eggy."""

from __future__ import annotations

from dataclasses import replace

from custard.advice.bench.solve import with_starch
from custard.advice.mix.assess import assess
from custard.advice.mix.window import EGGLESS_PERCENT
from custard.advice.trouble.remedies.rescued import (
    BLEND_S,
    CREAM,
    HOT_BLENDER,
    SOFT_PA,
    STARCH,
    YOLK,
    Asked,
    Rescued,
    added,
    in_g,
    least,
)
from custard.larder.joins import WITH_THE_YOLKS
from custard.mixture import Mixture
from custard.physics.texture import NAPPE_PA, word
from custard.process.cook import CURDLED_AT
from custard.process.replay import went_on
from custard.process.state import State
from custard.process.surface import clings_g, open_surface_m2

MOST_CREAM = 1.0
"""More cream than sauce is no remedy [1]."""
LEAST_CREAM, MOST_SPLASH = 0.06, 0.15
"""A splash of cream, over the sauce it saves: as little as blends, and as much as is still a splash [1]."""
NOTHING_SHARE = 0.01
"""Less than this of the sauce is nothing to weigh [1]."""
BLENDS_UP_TO = 0.35
"""So much of the egg curdled, a blender still makes it smooth enough to be used [1]; kitchen practice."""
GRAINY = 0.06
"""Curdled egg in a blended sauce from which the tongue finds it [1]; an estimate."""
UNDER_CURDLING_K = 1.5
REHEAT_K_PER_MIN = 3.0
FARTHEST_K = 12.0
STEP_K = 0.25
WELL = 1.2
"""So far inside nappe it is brought, over where it begins [1]."""
SIEVED_SHARE = 3.0
"""A curd holds about so many times its egg in sauce, and stays in the sieve with it [1]; an estimate."""
MOST_STARCH_SHARE = 0.05
"""More starch than this of a sauce is another dish [1]."""
MOST_YOLK = 3.0
"""How many times its yolk a thin sauce is given at most."""
YOLK_STEP = 0.05
TOO_THICK_PA = 5.8
"""Just inside where nappe ends [Pa]."""
STUCK = 3.0
"""What is left in a pan that is not scraped, over what clings to one that is [1]; an estimate."""
NOT_SAVED = "When in doubt throw it away; nothing brings this many curds back."
BAKED_IN = "bread pudding, where nobody looks for smoothness"


def thin(asked: Asked) -> Rescued:
    """Back on the heat as this hob gives it, until it coats; not past where it curdles. Else more yolk; what
    has none is given starch."""
    result, story, state = asked.result, asked.story, asked.state
    if result.pan.egg_protein_percent < EGGLESS_PERCENT:
        return _starch_instead(asked)
    usual = result.window.rate_k_per_min
    rate = min(8.0, max(1.0, story.known("rate_k_per_min", usual) if story.read else usual))
    goal = max(NAPPE_PA * WELL, min(SOFT_PA, asked.stress(result.stop)))
    top_c = result.window.curdles_c or result.boiling_c
    start_c = at_c = min(state.at_c, result.stop.at_c - FARTHEST_K / 2)
    best = replace(state, at_c=at_c)
    took_s = 60 * (result.stop.at_c - at_c) / rate
    at_stop = went_on(result.pan, best, result.stop.at_c, took_s, result.conditions)
    if NAPPE_PA * WELL <= asked.stress(at_stop) <= SOFT_PA and at_stop.curdled <= CURDLED_AT:
        # Its own stop does: a cook is told one number for one sauce.
        return _warmed_on(asked, at_stop, start_c, took_s)
    took_s = 0.0
    while at_c < min(top_c - UNDER_CURDLING_K, result.stop.at_c + FARTHEST_K):
        if asked.stress(best) >= goal:
            break
        at_c += STEP_K
        step_s = 60 * STEP_K / rate
        took_s += step_s
        best = went_on(result.pan, best, at_c, step_s, result.conditions)
    if asked.stress(best) < NAPPE_PA or best.curdled > CURDLED_AT:
        return _more_yolk(asked)
    return _warmed_on(asked, best, start_c, took_s)


def _warmed_on(asked: Asked, best: State, start_c: float, took_s: float) -> Rescued:
    """Warmed on to where it then is."""
    spoon, at_c = asked.spoon(best), best.at_c
    return Rescued(
        saved="yes",
        say=f"It can be saved: back on gentle heat, stirring, to {{{at_c:.1f} C}}",
        steps=(
            f"From {{{start_c:.0f} C}} to {{{at_c:.1f} C}} on about {asked.watts(1.0):.0f} W, "
            f"{max(1, round(took_s / 60))} min, stirring.",
            "Out of the pan at once, and look at the spoon again.",
        ),
        heat_to_c=at_c,
        for_s=took_s,
        becomes=spoon.word,
        wanted=asked.wanted,
        spoon=spoon,
        curdled=best.curdled,
        warmed_again=asked.warmed_again(at_c),
    )


def _more_yolk(asked: Asked) -> Rescued:
    """So much more yolk that it coats, cooked anew to where that mix stops."""
    formula, factor = asked.result.formula, 1.0
    found = asked.result
    while found.hot.yield_stress_pa < NAPPE_PA * WELL and factor < MOST_YOLK and formula.yolks() > 0:
        factor += YOLK_STEP
        found = assess(formula.with_yolks_times(factor), asked.result.conditions)
    yolk_g = (factor - 1) * formula.yolks() * formula.egg_size.yolk_g * asked.share
    lands = found.hot.yield_stress_pa >= NAPPE_PA
    return Rescued(
        saved="yes" if lands else "perhaps",
        say=f"It can be saved: {in_g(yolk_g)} more yolk, cooked again to {{{found.stop.at_c:.1f} C}}",
        steps=(
            f"Whisk {in_g(yolk_g)} of yolk with a ladle of the warm sauce, pour it back, stirring.",
            f"On gentle heat to {{{found.stop.at_c:.1f} C}}, stirring; out of the pan at once.",
            "Look at the spoon again.",
        ),
        add=added(YOLK, yolk_g, WITH_THE_YOLKS),
        heat_to_c=found.stop.at_c,
        for_s=60
        * max(1.0, (found.stop.at_c - min(asked.state.at_c, found.stop.at_c - 10)) / REHEAT_K_PER_MIN),
        becomes=found.hot.word,
        wanted="nappe",
        spoon=found.hot,
        curdled=found.stop.curdled,
        warmed_again=asked.warmed_again(found.stop.at_c),
        good_for=() if lands else ("a flavour for butter cream or an icing",),
        cautions=("Raw egg: what is added now is cooked like the rest.",),
    )


def _starch_instead(asked: Asked) -> Rescued:
    """So much starch that a sauce without egg coats, boiled in it."""
    formula, conditions = asked.result.formula, asked.result.conditions

    def coats(grams: float) -> float:
        return assess(with_starch(formula, grams), conditions).hot.yield_stress_pa

    grams = least(coats, NAPPE_PA * WELL, MOST_STARCH_SHARE * formula.mass_g())
    given_g = MOST_STARCH_SHARE * formula.mass_g() if grams is None else grams
    found = assess(with_starch(formula, given_g), conditions)
    starch_g = given_g * asked.share
    return Rescued(
        saved="yes" if found.hot.yield_stress_pa >= NAPPE_PA else "perhaps",
        say=f"There is no egg in it to thicken: {in_g(starch_g)} of cornstarch, and boil it",
        steps=(
            f"{in_g(starch_g)} of cornstarch, stirred smooth in a little cold milk, whisked in.",
            f"To {{{found.stop.at_c:.0f} C}}, whisking, and look at the spoon.",
        ),
        add=added(STARCH, starch_g, WITH_THE_YOLKS),
        heat_to_c=found.stop.at_c,
        for_s=60.0,
        becomes=found.hot.word,
        wanted="nappe",
        spoon=found.hot,
        warmed_again=asked.warmed_again(found.stop.at_c),
    )


def thick(asked: Asked) -> Rescued:
    """Loosened with cream, to the middle of nappe; a paste to its own word."""
    state = asked.state
    goal = max(SOFT_PA, min(asked.result.hot.yield_stress_pa, asked.stress(state)))
    if asked.wanted == "nappe":
        goal = SOFT_PA
    cream_g, mixture = _loosened(asked, state, goal)
    if cream_g < NOTHING_SHARE * asked.mass_g:
        mixture = asked.pan
    spoon = asked.spoon(state, mixture)
    if cream_g < NOTHING_SHARE * asked.mass_g:
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

    most = MOST_CREAM * asked.mass_g
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
    over = asked.wanted == "nappe" and asked.stress(state) > TOO_THICK_PA
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
            f"Look at the spoon: it is a {spoon.word} then."
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
