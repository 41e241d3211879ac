"""Cooling: how fast, whether in time, and how deep it may be."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from math import ceil
from typing import Annotated, Any

import numpy as np
from numpy.typing import NDArray

from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange, within
from custard.figures import Rounding, Tenths, WholeGrams, WholeSeconds
from custard.larder.vessels import Cooling, CoolingRule, coolings, one_of
from custard.mixture import Mixture
from custard.physics import thermal
from custard.process.cooling.resting import ICE_J_G, LONGEST_S, MEAN_C, Cooled, Ice, Resting

Floats = NDArray[np.float64]

DEEPEST_MM, SHALLOWEST_MM = 2000.0, 1.0
EVERY_S = (30.0, 2 * 3600.0)
"""How often what is stirred now and then can be [s]."""
PASSES, FAILS = "passes", "fails"


@dataclass(frozen=True)
class Chill:
    """A cooling, with its warmest spot judged.

    Attributes
    ----------
    t_s, core_c, mean_c : the curve: time [s], warmest spot and mean [degC].
    verdict : "passes" or "fails" the rule; `why` says it in words, temperatures as "{21 C}".
    greatest_depth_mm : the deepest that passes [mm]; None when none does, nor for two ways.
    ice_g : ice that melts if there is plenty [g], and what to have at hand [g]; None without ice.
    mixing : how it is kept moving, in words.
    ice_gone_s : when the ice that was there has melted [s], and what its bath then comes to [degC]; None
        while some is left, or where nobody said how much there was.
    """

    t_s: Annotated[Floats, Rounding(1)]
    core_c: Annotated[Floats, Rounding(3)]
    mean_c: Annotated[Floats, Rounding(3)]
    time_to_21_s: WholeSeconds | None
    time_to_5_s: WholeSeconds | None
    time_to_goal_s: WholeSeconds | None
    mixing: str
    verdict: str
    why: str
    greatest_depth_mm: Tenths | None
    ice_g: WholeGrams | None
    ice_to_have_g: WholeGrams | None
    ice_gone_s: WholeSeconds | None
    bath_ends_c: Tenths | None
    rule: CoolingRule


@dataclass(frozen=True)
class CooledBy:
    """How something is cooled.

    Attributes
    ----------
    by : a way of `larder.coolings`.
    stirred : whether it is mixed at all; every `every_s` [s], or all the time where that is None.
    sets : it sets undisturbed, as a starch or a chocolate cream does, and turns over no more.
    ice : what the bath holds of it; None for plenty.
    own : a kitchen's own figures, in place of the table's.
    """

    by: str
    stirred: bool = False
    every_s: float | None = None
    sets: bool = False
    ice: Ice | None = None
    own: Cooling | None = None

    def __post_init__(self) -> None:
        one_of("by", self.by, tuple(coolings()))
        if self.every_s is not None:
            within("every_s", self.every_s, *EVERY_S)
        if self.ice is not None and self.way.faces != "walls":
            raise OutOfRange("ice_g", self.by, "has no ice in it", "Leave it out, or cool in an ice bath.")

    @property
    def way(self) -> Cooling:
        """The figures it is computed with."""
        return self.own or coolings()[self.by]


def chill(
    mixture: Mixture,
    from_c: float,
    to_c: float,
    how: CooledBy | str,
    mass_g: float,
    depth_mm: float,
    conditions: Conditions = USUAL,
    *,
    deepest: bool = True,
) -> Chill:
    """Cool a mix.

    What is stirred all the time is one temperature throughout; mixed only now and then, it is left alone in
    between. What nobody stirs is conducted: in a bowl through its depth to the bottom and through its width
    to the wall, in a tray through its depth to both faces; what still flows turns over a little in a shallow
    bowl, and what sets undisturbed does not. The warmest spot is what is judged. Heat that leaves a bowl by
    its open top is left out, on the safe side. A machine takes no more heat than it has power for, however
    much is put in.
    Once the ice of a bath has melted it is taken to be at once as warm as bath and mix come to in the end,
    which is on the safe side too.

    Parameters
    ----------
    mixture : the uniform mix.
    from_c, to_c : temperatures at which it begins and is to end [degC].
    how : how it is cooled; a name alone stands for that way, unstirred.
    mass_g, depth_mm : how much it is [g], and how deep it lies [mm].
    conditions : of the kitchen, whose rule judges it.
    deepest : how deep it may be is looked for as well, which takes longer than all the rest.

    Raises
    ------
    OutOfRange, UnknownName
        when a figure or a name cannot be.
    """
    how = CooledBy(how) if isinstance(how, str) else how
    within("from_c", from_c, 1, 110)
    within("to_c", to_c, -5, 100)
    within("mass_g", mass_g, 1, 1_000_000)
    within("depth_mm", depth_mm, SHALLOWEST_MM, DEEPEST_MM)
    if to_c >= from_c:
        raise OutOfRange("to_c", to_c, "must be below the temperature it comes from")
    way, law = how.way, conditions.cooling_rule
    flowing = not how.sets and flows(mixture)
    area_m2 = mass_g / 1000 / mixture.density_kg_m3(MEAN_C) / (depth_mm / 1000)
    lies = Resting(mixture, way, from_c, area_m2, how.stirred, flowing, how.ice, how.every_s)
    found = lies.cooled(depth_mm)
    melts_g = _melts_g(mixture, mass_g, from_c, to_c) if way.faces == "walls" else None
    return Chill(
        **_judged(found, to_c, law),
        mixing=_mixing(how.every_s) if how.stirred else "nobody stirs it",
        greatest_depth_mm=_deepest(lies, law) if deepest else None,
        ice_g=melts_g,
        ice_to_have_g=None if melts_g is None else _to_fetch_g(melts_g),
        rule=law,
    )


def _mixing(every_s: float | None) -> str:
    return "stirred all the time" if every_s is None else f"mixed every {every_s / 60:.0f} min"


def chill_on(
    before: Chill,
    after_s: float,
    then: Callable[[float], Chill],
    to_c: float,
    *,
    mixes: bool = False,
) -> Chill:
    """Cooled one way until `after_s` [s], and by another from then on: the counter, then the fridge.

    `then` cools from a temperature [degC] by the other way. It starts from the warmest spot as if all were as
    warm, which is on the safe side; with `mixes` it is stirred as it is moved, and starts at its mean. The
    whole is judged from the beginning; how deep it may be is not asked.

    Parameters
    ----------
    before : cooled the first way.
    after_s : when the way changes [s].
    then : cools from a temperature [degC] by the other way.
    to_c : temperature at which it ends [degC], -5 to 100.
    mixes : it is stirred as it is moved.

    Raises
    ------
    OutOfRange
        when the time cannot be.
    """
    within("after_s", after_s, 0, LONGEST_S)
    begun = before.t_s < after_s
    core_c = float(np.interp(after_s, before.t_s, before.mean_c if mixes else before.core_c))
    if core_c <= to_c:
        return before
    second = then(core_c)
    t = np.concatenate((before.t_s[begun], after_s + second.t_s))
    core = np.concatenate((before.core_c[begun], second.core_c))
    mean = np.concatenate((before.mean_c[begun], second.mean_c))
    # Ice that was gone before the change is told of; the second way's own counts from then on.
    gone_s, bath_c = before.ice_gone_s, before.bath_ends_c
    if gone_s is None or gone_s > after_s:
        gone_s = None if second.ice_gone_s is None else after_s + second.ice_gone_s
        bath_c = second.bath_ends_c
    whole = Cooled(t, core, mean, gone_s, bath_c)
    mixing = first_then(before.mixing, second.mixing)
    return replace(second, **_judged(whole, to_c, second.rule), mixing=mixing, greatest_depth_mm=None)


def first_then(first: str, then: str) -> str:
    """Two ways of moving it, one after the other, in words."""
    return first if first == then else f"{first}, then {then}"


ICE_STEP_G = 100.0
"""Ice is fetched in so much at a time [g]."""
ICE_MARGIN = 2.0
"""So many times as much ice as melts is to be at hand: some melts in the kitchen, and some never touches."""
STARCHY_PERCENT = 2.0
"""Starch in the aqueous phase from which a mix sets when it is left alone."""
CHOCOLATE_SHARE = 0.04
"""Cocoa butter in the whole from which it does; an estimate, on the safe side."""


def _melts_g(mixture: Mixture, mass_g: float, from_c: float, to_c: float) -> float:
    heat = thermal.enthalpy(mixture.proximate, from_c) - thermal.enthalpy(mixture.proximate, max(0.0, to_c))
    return float(mass_g / 1000 * heat / ICE_J_G)


def ice_to_have_g(mixture: Mixture, from_c: float, to_c: float) -> float:
    """Ice to have at hand for cooling a whole mix in an ice bath [g]: what melts, with a margin, as it is
    fetched: in tenths of a kilogram, and never less."""
    return _to_fetch_g(_melts_g(mixture, mixture.mass_g, from_c, to_c))


def _to_fetch_g(melts_g: float) -> float:
    return ICE_STEP_G * max(1, ceil(ICE_MARGIN * melts_g / ICE_STEP_G))


def flows(mixture: Mixture) -> bool:
    """Whether a mix still flows by itself in its bowl while it cools; what sets as it cools does not."""
    starchy = mixture.starch_in_aqueous_percent >= STARCHY_PERCENT
    return not starchy and mixture.fractions["cocoa_butter"] < CHOCOLATE_SHARE


def _judged(found: Cooled, to_c: float, law: CoolingRule) -> dict[str, Any]:
    """A curve, when it comes where, and what its rule says of it."""
    t, core = found.t_s, found.core_c
    passes, why = _judge(t, core, law)
    if found.gone_s is not None:
        gone = (
            f"the ice is gone after {found.gone_s / 60:.0f} min" if found.gone_s else "there is no ice left"
        )
        why += f"; {gone}, and its bath comes to {{{found.bath_c:.0f} C}}"
    return {
        "t_s": t,
        "core_c": core,
        "mean_c": found.mean_c,
        "time_to_21_s": reach(t, core, 21.0),
        "time_to_5_s": reach(t, core, 5.0),
        "time_to_goal_s": reach(t, core, to_c),
        "verdict": PASSES if passes else FAILS,
        "why": why,
        "ice_gone_s": found.gone_s,
        "bath_ends_c": found.bath_c,
    }


def reach(t: NDArray[np.float64], core: NDArray[np.float64], level: float) -> float | None:
    """When a cooling curve first is that cold [s]; None when it never is.

    Parameters
    ----------
    t, core : time [s], temperature [degC]
    level : the temperature to reach [degC]
    """
    below = core <= level
    if not below.any():
        return None
    i = int(np.argmax(below))
    if i == 0:
        return 0.0
    share = (core[i - 1] - level) / (core[i - 1] - core[i])
    return float(t[i - 1] + share * (t[i] - t[i - 1]))


def _judge(t: NDArray[np.float64], core: NDArray[np.float64], law: CoolingRule) -> tuple[bool, str]:
    """Whether the warmest spot keeps to a rule; its clock starts on leaving the hot temperature."""
    begins = reach(t, core, law.from_c)
    if begins is None:
        return False, f"stays above {{{law.from_c:g} C}}"
    for left_c, level, hours in law.legs:
        left, reached = reach(t, core, left_c), reach(t, core, level)
        if left is None or reached is None:
            return False, f"does not reach {{{level:g} C}}"
        taken = (reached - left) / 3600
        if taken > hours:
            span = f"from {{{left_c:g} C}} to {{{level:g} C}}"
            return False, f"takes {taken:.1f} h {span}, {hours:g} h are allowed"
    return True, f"keeps to {law.text}"


@dataclass(frozen=True)
class Leg:
    """One limit of a rule on a cooling's own clock: below `limit_c` [degC] by `due_s` [s].

    Its time begins at `begins_s`, and it is reached at `reached_s` [s]; each None where that never comes.
    """

    limit_c: float
    begins_s: float | None
    due_s: float | None
    reached_s: float | None


def legs_of(done: Chill) -> tuple[Leg, ...]:
    """Every limit of the rule that a cooling is judged by, in order."""
    found = []
    for left_c, limit_c, hours in done.rule.legs:
        begins = reach(done.t_s, done.core_c, left_c)
        due = None if begins is None else begins + 3600 * hours
        found.append(Leg(limit_c, begins, due, reach(done.t_s, done.core_c, limit_c)))
    return tuple(found)


def _deepest(lies: Resting, law: CoolingRule) -> float | None:
    """The greatest depth [mm] in that vessel that keeps to the rule; deeper is always slower."""

    def passes(depth_mm: float) -> bool:
        found = lies.cooled(depth_mm)
        return _judge(found.t_s, found.core_c, law)[0]

    return most(passes, SHALLOWEST_MM, DEEPEST_MM, 0.25)


def most(passes: Callable[[float], bool], low: float, high: float, to: float) -> float | None:
    """The most that still passes, by halving down to a width; None where the least does not."""
    if not passes(low):
        return None
    if passes(high):
        return high
    while high - low > to:
        middle = (low + high) / 2
        low, high = (middle, high) if passes(middle) else (low, middle)
    return low
