"""A sauce that is too thin: back on the heat, or more of what thickens it."""

from __future__ import annotations

from dataclasses import replace

from custard.advice.bench.solve import with_starch
from custard.advice.mix.assess import assess
from custard.advice.mix.window import EGGLESS_PERCENT
from custard.advice.trouble.remedies.rescued import SOFT_PA, STARCH, YOLK, Asked, Rescued, added, in_g, least
from custard.physics.texture import NAPPE_PA
from custard.process.following.replay import went_on
from custard.process.heating.cook import CURDLED_AT
from custard.process.heating.state import State
from custard.vocabulary import When

WELL = 1.2
"""So far inside nappe it is brought, over where it begins [1]."""
UNDER_CURDLING_K = 1.5
REHEAT_K_PER_MIN = 3.0
FARTHEST_K = 12.0
STEP_K = 0.25
MOST_STARCH_SHARE = 0.05
"""More starch than this of a sauce is another dish [1]."""
MOST_YOLK = 3.0
"""How many times its yolk a thin sauce is given at most."""
YOLK_STEP = 0.05


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
    """So much more yolk that it coats, cooked again to where that mix stops."""
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
        add=added(YOLK, yolk_g, When.WITH_THE_YOLKS),
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
        add=added(STARCH, starch_g, When.WITH_THE_YOLKS),
        heat_to_c=found.stop.at_c,
        for_s=60.0,
        becomes=found.hot.word,
        wanted="nappe",
        spoon=found.hot,
        warmed_again=asked.warmed_again(found.stop.at_c),
    )
