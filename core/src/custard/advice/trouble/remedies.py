"""What to do about a fault now, weighed for the batch as it stands, and tried before it is said.

Every remedy is carried out in the model first: what it becomes is told with it, and one that would not bring
the sauce into its word is not offered.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from scipy.optimize import brentq

from custard.advice.mix.assess import Assessment
from custard.advice.mix.texture import yield_stress
from custard.advice.trouble.rescue import GUARDED_PERCENT, SOFT_PA
from custard.advice.trouble.story import Story
from custard.errors import within
from custard.figures import Grams, Pascals, TenthsCelsius, WholeSeconds
from custard.larder.ingredients import ingredient
from custard.mixture import Mixture, blend, combined
from custard.physics.texture import NAPPE_PA, word
from custard.process.cook import CURDLED_AT
from custard.process.replay import went_on
from custard.process.state import State

CREAM = "whipping-cream-36"
MOST_CREAM = 1.0
"""More cream than sauce is no remedy [1]."""
LEAST_CREAM = 0.06
BLENDS_UP_TO = 0.35
"""So much of the egg curdled, a blender still makes it smooth enough to be used [1]; kitchen practice."""
GRAINY = 0.06
"""Curdled egg in a blended sauce from which the tongue finds it [1]; an estimate."""
UNDER_CURDLING_K = 1.5
REHEAT_K_PER_MIN = 3.0
FARTHEST_K = 12.0
STEP_K = 0.25
BLEND_S = 20.0
SIEVED_SHARE = 3.0
"""A curd holds about so many times its egg in sauce, and stays in the sieve with it [1]; an estimate."""
HOT_BLENDER = "Hot liquid climbs in a blender: fill it to a third at most, lid held with a towel."
NOT_SAVED = "When in doubt throw it away; nothing brings this many curds back."


@dataclass(frozen=True)
class Rescued:
    """What to do now.

    Attributes
    ----------
    saved : "yes", "perhaps" or "no".
    say, steps : the answer, and how, with figures as "{40 g}" and "{82.4 C}".
    add : what to weigh in, ingredient and grams.
    heat_to_c, for_s : back on the heat to there, for about so long; None where it is not heated.
    sieve_g : what stays in the sieve.
    becomes, becomes_pa : what it is after that, hot, by its word and yield stress.
    curdled : share of its egg that is curdled then, as the tongue finds it [1].
    good_for : what it can still be used for where it is not saved.
    cautions : where they arise.
    """

    saved: str
    say: str
    steps: tuple[str, ...]
    add: tuple[tuple[str, Grams], ...]
    heat_to_c: TenthsCelsius | None
    for_s: WholeSeconds | None
    sieve_g: Grams | None
    becomes: str
    becomes_pa: Pascals
    curdled: float
    good_for: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()


def rescued(result: Assessment, fault: str, story: Story, have_g: float | None = None) -> Rescued | None:
    """The remedy for a sauce that is too thin, too thick, has bits or has split, as it stands now.

    None for a fault whose remedy is not weighed (`rescue` has its words).

    Raises
    ------
    OutOfRange
        when there is less than nothing of it.
    """
    mass_g = result.sauce_g if have_g is None else have_g
    within("have_g", mass_g, 1, 1_000_000)
    remedy = {"too-thin": _thin, "too-thick": _thick, "bits": _bits, "split": _split}.get(fault)
    return None if remedy is None else remedy(result, story, mass_g)


def _stress(result: Assessment, state: State, mixture: Mixture | None = None) -> float:
    return yield_stress(mixture or result.pan, state, result.stop.at_c, result.conditions.parameters)


def _thin(result: Assessment, story: Story, mass_g: float) -> Rescued | None:
    """Back on the heat as this hob gives it, until it coats; not past where it curdles."""
    state = story.state
    rate = min(8.0, max(1.0, story.rate_k_per_min or REHEAT_K_PER_MIN))
    goal = max(NAPPE_PA * 1.2, min(SOFT_PA, _stress(result, result.stop)))
    top_c = result.window.curdles_c or result.boiling_c
    at_c = min(state.at_c, result.stop.at_c - FARTHEST_K / 2)
    best = replace(state, at_c=at_c)
    start_c, seconds = at_c, 0.0
    while at_c < min(top_c - UNDER_CURDLING_K, result.stop.at_c + FARTHEST_K):
        if _stress(result, best) >= goal:
            break
        at_c += STEP_K
        step_s = 60 * STEP_K / rate
        seconds += step_s
        best = went_on(result.pan, best, at_c, step_s, result.conditions)
    became, minutes = _stress(result, best), max(1, round(seconds / 60))
    if became < NAPPE_PA or best.curdled > CURDLED_AT:
        return None
    return Rescued(
        saved="yes",
        say=f"It can be saved: back on gentle heat, stirring, to {{{at_c:.1f} C}}",
        steps=(
            f"From {{{start_c:.0f} C}} to {{{at_c:.1f} C}}, about {minutes} min, stirring.",
            "Out of the pan at once, and look at the spoon again.",
            "Once it has been cooled, use it cold rather than heat it twice.",
        ),
        add=(),
        heat_to_c=at_c,
        for_s=seconds,
        sieve_g=None,
        becomes=word(became),
        becomes_pa=became,
        curdled=best.curdled,
    )


def _thick(result: Assessment, story: Story, mass_g: float) -> Rescued:
    """Loosened with cream, to the middle of nappe."""
    state = story.state
    cream_g, mixture = _loosened(result, state, mass_g)
    became = _stress(result, state, mixture)
    steps = (
        f"Off the heat, whisk in {{{cream_g:.0f} g}} of cream, a little at a time.",
        "Look at the spoon.",
    )
    return Rescued(
        saved="yes" if became <= SOFT_PA * 1.2 else "perhaps",
        say=f"It can be saved: whisk in {{{cream_g:.0f} g}} of cream" if cream_g else "It is nappe already",
        steps=steps if cream_g else ("It looks thicker cold than it is: warm it, and stir.",),
        add=((CREAM, cream_g),) if cream_g else (),
        heat_to_c=None,
        for_s=None,
        sieve_g=None,
        becomes=word(became),
        becomes_pa=became,
        curdled=state.curdled,
    )


def _loosened(result: Assessment, state: State, mass_g: float) -> tuple[float, Mixture]:
    """Cream that brings a sauce to the middle of nappe [g], and the mix it then is."""
    sauce, cream = replace(result.pan, mass_g=mass_g), ingredient(CREAM)

    def mixed(grams: float) -> Mixture:
        return combined(sauce, blend([(cream, grams)])) if grams > 0 else sauce

    def over(grams: float) -> float:
        return _stress(result, state, mixed(grams)) - SOFT_PA

    if over(0.0) <= 0:
        return 0.0, sauce
    most = MOST_CREAM * mass_g
    grams = most if over(most) > 0 else float(brentq(over, 0.0, most, xtol=0.01))
    return grams, mixed(grams)


def _bits(result: Assessment, story: Story, mass_g: float) -> Rescued:
    """Through the sieve; where the sauce itself has begun to curdle, as one that has split."""
    state = story.state
    if state.curdled > CURDLED_AT:
        return _split(result, story, mass_g)
    lost_g = min(0.2, SIEVED_SHARE * max(state.curdled, 0.01)) * mass_g
    became = _stress(result, state)
    return Rescued(
        saved="yes",
        say="It can be saved: through the fine sieve at once",
        steps=(
            f"Through a fine sieve into a cold bowl, do not press; it keeps back about {{{lost_g:.0f} g}}.",
            "Taste it: if it is eggy, use it cold and flavoured.",
        ),
        add=(),
        heat_to_c=None,
        for_s=None,
        sieve_g=lost_g,
        becomes=word(became),
        becomes_pa=became,
        curdled=state.curdled / 4,
    )


def _split(result: Assessment, story: Story, mass_g: float) -> Rescued:
    """Whisked back by its starch, blended with cold cream, or nothing more than a flavour."""
    state = story.state
    starchy = result.pan.starch_in_aqueous_percent >= GUARDED_PERCENT
    if result.pan.ph < result.conditions.parameters.coagulation.casein_splits_ph and not starchy:
        return _lost(result, state, "It cannot be saved: its milk has turned", ())
    if starchy:
        became = _stress(result, state)
        return Rescued(
            saved="yes",
            say="It can be saved: whisk it hard off the heat",
            steps=("Off the heat, whisk hard or blend; the starch holds the curds small.",),
            add=(),
            heat_to_c=None,
            for_s=BLEND_S,
            sieve_g=None,
            becomes=word(became),
            becomes_pa=became,
            curdled=min(state.curdled, GRAINY),
            cautions=(HOT_BLENDER,),
        )
    if state.curdled > BLENDS_UP_TO:
        return _lost(
            result, state, "It is past saving", ("bread pudding, where nobody looks for smoothness",)
        )
    thinner_g, _ = _loosened(result, replace(state, curdled=0.0), mass_g)
    wanted_g = max(LEAST_CREAM * mass_g, thinner_g, mass_g * state.curdled / BLENDS_UP_TO)
    cream_g = min(MOST_CREAM * mass_g, wanted_g)
    mixture = combined(replace(result.pan, mass_g=mass_g), blend([(ingredient(CREAM), cream_g)]))
    # Blended, a part of the curds is broken so small that it thickens again.
    smooth = replace(state, curdled=state.curdled / 2)
    became = _stress(result, smooth, mixture)
    grains = state.curdled / 2 * mass_g / (mass_g + cream_g)
    return Rescued(
        saved="yes" if grains <= GRAINY else "perhaps",
        say=f"It can be saved: sieve it, then blend it with {{{cream_g:.0f} g}} of cold cream",
        steps=(
            "Off the heat at once, through the fine sieve into a cold bowl; do not press.",
            f"{{{cream_g:.0f} g}} of cold cream, {BLEND_S:.0f} s in the blender.",
            "Look at the spoon again.",
        ),
        add=((CREAM, cream_g),),
        heat_to_c=None,
        for_s=BLEND_S,
        sieve_g=min(0.2, SIEVED_SHARE * state.curdled / 4) * mass_g,
        becomes=word(became),
        becomes_pa=became,
        curdled=grains,
        good_for=("ice base", "bread pudding") if grains > GRAINY else (),
        cautions=(HOT_BLENDER,),
    )


def _lost(result: Assessment, state: State, say: str, good_for: tuple[str, ...]) -> Rescued:
    became = _stress(result, state)
    return Rescued(
        saved="no",
        say=say,
        steps=(NOT_SAVED, "Start again; what went wrong stands beside this."),
        add=(),
        heat_to_c=None,
        for_s=None,
        sieve_g=None,
        becomes=word(became),
        becomes_pa=became,
        curdled=state.curdled,
        good_for=good_for,
    )
