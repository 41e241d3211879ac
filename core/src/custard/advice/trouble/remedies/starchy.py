"""Remedies for what starch does: lumps, a raw taste, thinness the next day."""

from __future__ import annotations

from dataclasses import dataclass, replace
from types import MappingProxyType

from custard.advice.mix.texture import texture_at, yield_stress
from custard.advice.trouble.remedies.rescued import (
    HOT_BLENDER,
    MILK,
    SPITS,
    STARCH,
    Added,
    Asked,
    Rescued,
    added,
    in_g,
    least,
)
from custard.mixture import Mixture
from custard.physics.texture import word
from custard.process.cooling.later import aged
from custard.process.following.replay import boiled_on
from custard.process.heating.cook import CURDLED_AT
from custard.process.heating.state import State
from custard.vocabulary import When

HOLD_S, LONGEST_S, STEP_S = 30.0, 900.0, 15.0
SWOLLEN, ENZYME = 0.98, 0.003
"""So much of the starch swollen, and so little of the enzyme left, the boil has done its work [1]."""
WARM_UP_K_PER_MIN = 5.0
LUMP_ML_G = 8.0
"""A lump holds about so much sauce to a gram of its dry starch; an estimate."""
MILK_TO_STARCH = 4.0
"""Cold milk to a gram of starch, so that it is whisked smooth [1]."""
MOST_STARCH, LEAST_G = 0.05, 0.5
LOOSENED = 0.15
"""Share of its starch body that a set cream does not get back once it is whisked long [1]; an estimate."""
NIGHT_H = 20.0
MARGIN = 1.15
"""So far inside its word a sauce is brought, as nobody counts lumps [1]."""


def _less_starch(mixture: Mixture, share: float) -> Mixture:
    """A mix that has lost so much of its starch [1]."""
    gone = share * float(mixture.fractions["starch"])
    left = 1 - gone
    fractions = {name: float(part) / left for name, part in mixture.fractions.items()}
    fractions["starch"] = (float(mixture.fractions["starch"]) - gone) / left
    kinds = {kind: float(part) * (1 - share) / left for kind, part in mixture.starch_by_kind.items()}
    return replace(
        mixture,
        mass_g=float(mixture.mass_g) * left,
        fractions=MappingProxyType(fractions),
        starch_by_kind=MappingProxyType(kinds),
        dextrin=float(mixture.dextrin) / left,
    )


def _boil(asked: Asked, mixture: Mixture, state: State, enzyme: float) -> tuple[State, float, float]:
    """A mix brought to its boil and held until its starch has swollen and the enzyme is gone: how it then is,
    how long it was held [s], and how warm [degC]."""
    result = asked.result
    boil_c = result.boiling_c
    up_s = max(20.0, 60 * (boil_c - min(state.at_c, boil_c - 2)) / WARM_UP_K_PER_MIN)
    state, enzyme = boiled_on(mixture, state, boil_c, up_s, enzyme, result.conditions)
    held_s = 0.0
    while held_s < LONGEST_S and (held_s < HOLD_S or state.gelatinised < SWOLLEN or enzyme > ENZYME):
        state, enzyme = boiled_on(mixture, state, boil_c, STEP_S, enzyme, result.conditions)
        held_s += STEP_S
    return state, held_s, boil_c


def lumps(asked: Asked) -> Rescued:
    """Sieved hot and whisked; where too much of the starch stays in the sieve, slurry and a boil."""
    result, state = asked.result, asked.state
    lost = asked.story.known("lumps_share", 0.04)
    starch_g = float(asked.pan.fractions["starch"]) * asked.mass_g
    keeps_g = min(0.3 * asked.mass_g, lost * starch_g * LUMP_ML_G)
    sieved = _less_starch(replace(asked.pan, mass_g=asked.mass_g - keeps_g), lost)
    steps = (
        f"Sieve it while it is hot, pressing; the lumps, about {in_g(keeps_g)}, stay back.",
        "Whisk it hard until it shines.",
    )
    spoon = asked.spoon(state, sieved)
    firm = spoon.yield_stress_pa >= result.hot.yield_stress_pa and word(spoon.yield_stress_pa / MARGIN) in (
        asked.wanted,
        spoon.word,
    )
    if firm or not result.stop.boiled:
        return Rescued(
            saved="yes",
            say="It can be saved: through the sieve while it is hot, then whisk hard",
            steps=steps,
            takes_g=keeps_g,
            becomes=spoon.word,
            wanted=spoon.word,
            spoon=spoon,
            curdled=state.curdled,
            cautions=(HOT_BLENDER,),
        )
    more = _thickened(asked, sieved, state, MARGIN * result.hot.yield_stress_pa)
    return replace(more, steps=(*steps, *more.steps), takes_g=keeps_g)


@dataclass(frozen=True)
class _Bound:
    """A sauce bound with slurry: its starch [g], what it then is, how long it boiled [s], at what [degC]."""

    starch_g: float
    mixture: Mixture
    state: State
    held_s: float
    boil_c: float

    def steps(self) -> tuple[str, ...]:
        """How that is done."""
        boil = f"To {{{self.boil_c:.0f} C}}, the boil here, whisking, and hold it {self.held_s:.0f} s."
        milk_g = MILK_TO_STARCH * self.starch_g
        slurry = (
            f"Whisk {in_g(self.starch_g)} of maize starch smooth in {in_g(milk_g)} of cold milk; stir it in."
        )
        return (slurry, boil) if self.starch_g >= LEAST_G else (boil,)

    def say(self) -> str:
        """The same in a sentence."""
        if self.starch_g < LEAST_G:
            return f"It can be saved: bring it to the boil and hold it {self.held_s:.0f} s"
        return (
            f"It can be saved: {in_g(self.starch_g)} of starch in cold milk, and boil it for "
            f"{self.held_s:.0f} s"
        )

    def weighed(self) -> tuple[Added, ...]:
        """What is weighed for it."""
        if self.starch_g < LEAST_G:
            return ()
        return (
            *added(STARCH, self.starch_g, When.IN_THE_PAN),
            *added(MILK, MILK_TO_STARCH * self.starch_g, When.IN_THE_PAN),
        )


def _bound(asked: Asked, mixture: Mixture, state: State, goal: float, at_c: float) -> _Bound:
    """So much slurry, boiled, that a sauce comes to a yield stress [Pa] read at a temperature [degC]."""
    enzyme = asked.story.known("enzyme_left", 1.0)
    done: dict[float, _Bound] = {}

    def boiled(grams: float) -> _Bound:
        if grams not in done:
            slurried = asked.with_more(MILK, MILK_TO_STARCH * grams, asked.with_more(STARCH, grams, mixture))
            done[grams] = _Bound(grams, slurried, *_boil(asked, slurried, state, enzyme))
        return done[grams]

    def thicker(grams: float) -> float:
        bound = boiled(grams)
        return yield_stress(bound.mixture, bound.state, at_c, asked.p)

    most = MOST_STARCH * asked.mass_g
    found = least(thicker, goal, most)
    return boiled(most if found is None else found)


def _thickened(asked: Asked, mixture: Mixture, state: State, goal: float) -> Rescued:
    """Brought to a yield stress at its stop [Pa] by slurry, boiled."""
    bound = _bound(asked, mixture, state, goal, asked.result.stop.at_c)
    spoon = asked.spoon(bound.state, bound.mixture)
    return Rescued(
        saved="yes" if spoon.word == asked.wanted else "perhaps",
        say=bound.say(),
        steps=bound.steps(),
        add=bound.weighed(),
        heat_to_c=bound.boil_c,
        for_s=bound.held_s,
        becomes=spoon.word,
        wanted=asked.wanted,
        spoon=spoon,
        curdled=bound.state.curdled,
        warmed_again=asked.warmed_again(bound.boil_c),
        cautions=(SPITS,),
    )


def raw(asked: Asked) -> Rescued:
    """Boiled on until the starch has swollen; flour tastes for longer."""
    result, state = asked.result, asked.state
    became, held_s, boil_c = _boil(asked, asked.pan, state, asked.story.known("enzyme_left", 1.0))
    spoon = asked.spoon(became)
    if became.curdled > CURDLED_AT and not asked.starchy:
        return Rescued(
            saved="no",
            say="It cannot be boiled: with so little starch its egg would curdle first",
            steps=(
                "Use it where its taste is hidden, or start again with the starch boiled in the milk first.",
            ),
            becomes=asked.spoon(state).word,
            wanted=asked.wanted,
            spoon=asked.spoon(state),
            curdled=state.curdled,
            good_for=("bread pudding",),
        )
    much = asked.cause == "much"
    boil = f"Back to {{{boil_c:.0f} C}}, the boil here, whisking hard, and hold it {held_s:.0f} s."
    taste = "Taste it; flour takes some minutes more, and thickens on." if much else "Taste it."
    return Rescued(
        saved="perhaps" if much else "yes",
        say="It may be saved: flour tastes for long; boil it on and taste"
        if much
        else f"It can be saved: boil it again, whisking, for {held_s:.0f} s",
        steps=(boil, taste),
        heat_to_c=boil_c,
        for_s=held_s,
        becomes=spoon.word,
        wanted=asked.wanted if result.stop.boiled else spoon.word,
        spoon=spoon,
        curdled=became.curdled,
        warmed_again=asked.warmed_again(boil_c),
        good_for=("a cream with a strong flavour",) if much else (),
        cautions=(SPITS,),
    )


def thin_next_day(asked: Asked) -> Rescued:
    """Slurry for what the enzyme ate, or the whisk broke, and a boil that ends it; or used as it is."""
    result, p, story = asked.result, asked.p, asked.story
    hours = story.known("age_h", NIGHT_H)
    eaten = aged(hours, story.known("enzyme_left", 0.0), p).thinned
    if asked.cause == "whisked":
        eaten = max(eaten, LOOSENED)
    thinned = _less_starch(asked.whole, min(0.9, eaten))
    cold = replace(story.state, at_c=p.texture.cold_reference_c)
    bound = _bound(asked, thinned, cold, result.cold.yield_stress_pa, cold.at_c)
    spoon = texture_at(bound.mixture, bound.state, cold.at_c, cold.at_c, p)
    cooled = replace(asked, story=replace(story, figures={**story.figures, "age_h": hours}))
    return Rescued(
        saved="yes" if spoon.word == result.cold.word else "perhaps",
        say=bound.say(),
        steps=(*bound.steps(), "Film right on it, cool it fast, and whisk it once, just before use."),
        add=bound.weighed(),
        heat_to_c=bound.boil_c,
        for_s=bound.held_s,
        becomes=spoon.word,
        wanted=result.cold.word,
        spoon=spoon,
        curdled=bound.state.curdled,
        warmed_again=cooled.warmed_again(bound.boil_c),
        good_for=("a sauce, as it is",),
        cautions=(SPITS,),
    )
