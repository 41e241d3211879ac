"""A remedy, and what every remedy is made with.

Every remedy is carried out in the model first: what it becomes is told with it, and what would not bring it
into its word is not said to save it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

from custard.advice.mix.assess import Assessment
from custard.advice.mix.texture import Texture, texture_at, yield_stress
from custard.advice.trouble.story import Story
from custard.figures import Grams, Hundredths, Share, TenthsCelsius, WholeSeconds
from custard.larder.ingredients import ingredient
from custard.larder.parameters import Parameters
from custard.mixture import Mixture, blend, combined
from custard.physics import kinetics
from custard.process.heating.cook import CURDLED_AT, d60_s, usual_stove
from custard.process.heating.state import State
from custard.vocabulary import When

CREAM, MILK, STARCH, YOLK = "whipping-cream-36", "whole-milk", "cornstarch", "egg-yolk"
SOFT_PA = 5.0
"""Yield stress [Pa] a too thick sauce is loosened to, and a too thin one brought to: well within nappe."""
BLEND_S = 20.0
GUARDED_PERCENT = 0.8
"""Starch in the aqueous phase from which a split sauce comes back when whisked."""
COLD_H = 1.0
"""A sauce that has stood in the cold for longer has been cooled once [h]."""
LOGS = 6.0
"""Decimal reductions that are asked of what is warmed again [1]; the safe side of what rules ask."""
HOT_BLENDER = "Hot liquid climbs in a blender: fill it to a third at most, lid held with a towel."
SPITS = "Thick cream spits at the boil: a long whisk, a sleeve, the face away."
STEAM = "Steam burns: lift the bowl away from you, with a cloth."
RAW_EGG = "Raw egg: hands and tools washed before anything else is touched."
BURNT = "Burnt sugar is far hotter than boiling water and sticks: no fingers, cold water ready."


@dataclass(frozen=True)
class Added:
    """Something to weigh: its name in the open format and in words, how much [g], and when it joins.

    `anew`: it takes the place of what is thrown away, so it adds nothing to what is in the batch.
    """

    ingredient: str
    name: str
    grams: Grams
    when: When
    anew: bool = False


@dataclass(frozen=True)
class Rescued:
    """What to do now.

    Attributes
    ----------
    saved : "yes", "perhaps" or "no".
    say, steps : the answer, and how, with figures as "{40 g}" and "{82.4 C}".
    add : what to weigh.
    heat_to_c, for_s : on the heat to there, for about so long; None where it is not heated.
    flame : times what the flame gave [1]; None where that does not matter.
    takes_g : what the sieve keeps back, is poured off, or is not made [g]; it is gone from the batch.
    aside_g : what is ladled into a second pan [g]; it stays a part of the batch.
    becomes, wanted : what it is after that in a word, and what it was to be.
    spoon : what it then is on the spoon; None where a spoon does not tell.
    curdled : share of its egg that is curdled then, as the tongue finds it [1].
    warmed_again : what a sauce that was cold already must reach, and how long it may take; "" for others.
    good_for : what it can still be used for where it is not saved, or not quite.
    cautions : where they arise.
    yolks_times : the yolks it then has over those that are written [1].
    """

    saved: str
    say: str
    steps: tuple[str, ...]
    add: tuple[Added, ...] = ()
    heat_to_c: TenthsCelsius | None = None
    for_s: WholeSeconds | None = None
    flame: Hundredths | None = None
    takes_g: Grams = 0.0
    aside_g: Grams = 0.0
    becomes: str = ""
    wanted: str = ""
    spoon: Texture | None = None
    curdled: Share = 0.0
    warmed_again: str = ""
    good_for: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    yolks_times: Share = 1.0

    @property
    def lands(self) -> bool:
        """Whether it becomes what it was to be."""
        return self.becomes == self.wanted


@dataclass(frozen=True)
class Asked:
    """What a remedy is asked of: the sauce as it was to be, its story, what likely made it, and how much."""

    result: Assessment
    story: Story
    cause: str
    mass_g: float

    @property
    def state(self) -> State:
        """As it stands now."""
        return self.story.state

    @property
    def p(self) -> Parameters:
        """The model's parameters."""
        return self.result.conditions.parameters

    @property
    def wanted(self) -> str:
        """What it was to be hot, on the spoon."""
        return self.result.hot.word

    @property
    def pan(self) -> Mixture:
        """As much of what was heated as there is now."""
        return replace(self.result.pan, mass_g=self.mass_g)

    @property
    def whole(self) -> Mixture:
        """As much of the finished sauce as there is now."""
        return replace(self.result.whole, mass_g=self.mass_g)

    @property
    def share(self) -> float:
        """How much of the batch there is [1]."""
        return self.mass_g / max(self.result.sauce_g, 1e-6)

    @property
    def starchy(self) -> bool:
        """Whether it has so much starch that it stands a boil, or comes back when it is whisked."""
        return float(self.result.pan.starch_in_aqueous_percent) >= GUARDED_PERCENT

    def watts(self, times: float) -> float:
        """So many times what such a mix is usually cooked on [W]."""
        return times * usual_stove(self.result.pan, self.p).power_w

    def stress(self, state: State, mixture: Mixture | None = None) -> float:
        """Yield stress at the stop [Pa], of its mix or of another."""
        return yield_stress(mixture or self.result.pan, state, self.result.stop.at_c, self.p)

    def spoon(self, state: State, mixture: Mixture | None = None) -> Texture:
        """What it shows on the spoon, hot, of its mix or of another."""
        at_c = self.result.stop.at_c
        on_spoon_c = min(self.p.spoon.spoon_c, at_c)
        return texture_at(mixture or self.result.pan, state, at_c, on_spoon_c, self.p)

    def with_more(self, name: str, grams: float, mixture: Mixture | None = None) -> Mixture:
        """It with so much more of something [g]."""
        base = self.pan if mixture is None else mixture
        return combined(base, blend([(ingredient(name), grams)])) if grams > 0 else base

    @property
    def was_cold(self) -> bool:
        """Whether it has been cooled already."""
        return self.story.known("age_h", 0.0) > COLD_H or self.story.known("frozen_days", 0.0) > 0

    def warmed_again(self, to_c: float) -> str:
        """What a sauce that was cold already must reach, and how long that may take; "" for one that was not.

        Lethality is for the cold germs of a sauce; local rules come first.
        """
        if not self.was_cold:
            return ""
        d_s = float(
            kinetics.decimal_time(to_c, 60.0, float(d60_s(self.result.pan, self.p)), self.p.lethality.z_k)
        )
        needs_s = LOGS * d_s
        reached = (
            f"hold it there for {max(1.0, needs_s):.0f} s at least"
            if needs_s < 1800
            else f"that is too cool to make it safe: it needs {needs_s / 3600:.0f} h there"
        )
        warm_h = self.p.keep.lukewarm_h
        return (
            f"It was cold before: warm it right through to {{{to_c:.0f} C}} in one go, {reached}. Warm it is "
            f"good for {warm_h:g} h; cooled fast once more, for the same day. It is not warmed a second time."
        )


def added(
    name: str, grams: float, when: When = When.OFF_THE_HEAT, *, anew: bool = False
) -> tuple[Added, ...]:
    """One thing to weigh; nothing of it when there is too little to weigh."""
    return (Added(name, ingredient(name).name, grams, when, anew),) if grams >= 0.05 else ()


def in_g(grams: float) -> str:
    """A weight in a text, as finely as a scale shows it [g]."""
    return f"{{{grams:.0f} g}}" if grams >= 10 else f"{{{grams:.1f} g}}"


def least(rises: Callable[[float], float], goal: float, most: float) -> float | None:
    """The least amount at which a rising function comes to a goal; None when `most` is not enough."""
    if rises(0.0) >= goal:
        return 0.0
    if rises(most) < goal:
        return None
    from scipy.optimize import brentq  # noqa: PLC0415 loading it takes half a second, and few need it

    return float(brentq(lambda amount: rises(amount) - goal, 0.0, most, xtol=0.01))


def curds(curdled: float, starch_percent: float) -> str:
    """What becomes of the curds of a sauce when it is whisked off the heat: none, whisk out, or stay.

    Parameters
    ----------
    curdled : share of the egg in curds [0 to 1].
    starch_percent : starch in the water phase [%].
    """
    if curdled < CURDLED_AT:
        return "none"
    return "whisk out" if starch_percent >= GUARDED_PERCENT else "stay"
