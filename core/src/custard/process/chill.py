"""Cooling: how fast, whether in time, and how deep it may be."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange, within
from custard.figures import Fineness, Tenths, WholeGrams, WholeSeconds
from custard.larder.vessels import Cooling, CoolingRule, coolings, one_of
from custard.mixture import Mixture
from custard.physics import conduction, thermal

Floats = NDArray[np.float64]

LONGEST_S = 48 * 3600.0
POINTS = 600
MEAN_C = 40.0
ICE_J_G = 333.6
DEEPEST_MM, SHALLOWEST_MM = 400.0, 1.0
PASSES, FAILS = "passes", "fails"


@dataclass(frozen=True)
class Ice:
    """What a bath is made of: ice and water [g]."""

    ice_g: float
    water_g: float

    def __post_init__(self) -> None:
        within("ice_g", self.ice_g, 0, 10_000_000)
        within("water_g", self.water_g, 0, 10_000_000)
        if self.ice_g + self.water_g <= 0:
            raise OutOfRange("ice_g", self.ice_g, "and no water is no bath", "Say how much ice and water.")


@dataclass(frozen=True)
class Chill:
    """A cooling, with its warmest spot judged.

    Attributes
    ----------
    t_s, core_c, mean_c : the curve: time [s], warmest spot and mean [degC].
    verdict : "passes" or "fails" the rule; `why` says it in words, temperatures as "{21 C}".
    greatest_depth_mm : the deepest that passes [mm]; None when none does.
    ice_g : ice that melts if there is plenty [g], and what to have at hand [g]; None without ice.
    ice_gone_s : when the ice that was there has melted [s], and what its bath then comes to [degC]; None
        while some is left, or where nobody said how much there was.
    """

    t_s: Annotated[Floats, Fineness(1)]
    core_c: Annotated[Floats, Fineness(3)]
    mean_c: Annotated[Floats, Fineness(3)]
    time_to_21_s: WholeSeconds | None
    time_to_5_s: WholeSeconds | None
    time_to_goal_s: WholeSeconds | None
    verdict: str
    why: str
    greatest_depth_mm: Tenths | None
    ice_g: WholeGrams | None
    ice_to_have_g: WholeGrams | None
    ice_gone_s: WholeSeconds | None
    bath_ends_c: Tenths | None
    rule: CoolingRule


def chill(
    mixture: Mixture,
    from_c: float,
    to_c: float,
    by: str,
    mass_g: float,
    depth_mm: float,
    stirred: bool = False,
    conditions: Conditions = USUAL,
    way: Cooling | None = None,
    *,
    sets: bool = False,
    ice: Ice | None = None,
) -> Chill:
    """Cool `mass_g` of a mix lying `depth_mm` deep.

    A sauce in a bowl is one temperature throughout, with a better or worse coefficient. What does not flow by
    itself, a starch or chocolate cream or whatever `sets` undisturbed, is conducted unless it is stirred: in
    a bowl through its depth to the bottom and through its width to the wall, in a tray through its depth to
    both faces. The warmest spot is what is judged. `way` stands in for the table's own figures of `by`, when
    a kitchen has measured its own. Heat that leaves a bowl by its open top is left out, on the safe side.
    With `ice` the bath holds only so much: once that has melted it is taken to be at once as warm as bath and
    mix come to in the end, which is on the safe side too; without, there is plenty.

    Raises
    ------
    OutOfRange, UnknownName
        when a figure or a name cannot be.
    """
    one_of("by", by, tuple(coolings()))
    within("from_c", from_c, 10, 110)
    within("to_c", to_c, -5, 100)
    within("mass_g", mass_g, 1, 1_000_000)
    within("depth_mm", depth_mm, SHALLOWEST_MM, DEEPEST_MM)
    if to_c >= from_c:
        raise OutOfRange("to_c", to_c, "must be below the temperature it comes from")
    way, law = way or coolings()[by], conditions.cooling_rule
    flowing = not sets and flows(mixture)
    area_m2 = mass_g / 1000 / mixture.density_kg_m3(MEAN_C) / (depth_mm / 1000)
    if ice is not None and way.faces != "walls":
        raise OutOfRange("ice_g", by, "has no ice in it", "Leave it out, or cool in an ice bath.")
    lies = _Lying(mixture, way, from_c, area_m2, stirred, flowing, ice)
    t, core, mean = lies.curve(depth_mm)
    gone_s, bath_c = lies.runs_out(depth_mm)
    passes, why = _judge(t, core, law)
    if gone_s is not None:
        why += f"; the ice is gone after {gone_s / 60:.0f} min, and its bath comes to {{{bath_c:.0f} C}}"
    melts_g = _melts_g(mixture, mass_g, from_c, to_c) if way.faces == "walls" else None
    return Chill(
        t_s=t,
        core_c=core,
        mean_c=mean,
        time_to_21_s=_reach(t, core, 21.0),
        time_to_5_s=_reach(t, core, 5.0),
        time_to_goal_s=_reach(t, core, to_c),
        verdict=PASSES if passes else FAILS,
        why=why,
        greatest_depth_mm=_deepest(lies, law),
        ice_g=melts_g,
        ice_to_have_g=None if melts_g is None else ICE_MARGIN * melts_g,
        ice_gone_s=gone_s,
        bath_ends_c=None if gone_s is None else bath_c,
        rule=law,
    )


def chill_on(
    mixture: Mixture,
    before: Chill,
    after_s: float,
    to_c: float,
    by: str,
    mass_g: float,
    depth_mm: float,
    stirred: bool = False,
    conditions: Conditions = USUAL,
    *,
    sets: bool = False,
    ice: Ice | None = None,
) -> Chill:
    """Cooled one way until `after_s` [s], and by another from then on: the counter, then the fridge.

    The second way starts from the warmest spot as if all were as warm, which is on the safe side. The whole
    is judged from the beginning.

    Raises
    ------
    OutOfRange, UnknownName
        when a figure or a name cannot be.
    """
    within("after_s", after_s, 0, LONGEST_S)
    begun = before.t_s < after_s
    core_c, mean_c = (float(np.interp(after_s, before.t_s, one)) for one in (before.core_c, before.mean_c))
    if core_c <= to_c:
        return before
    then = chill(mixture, core_c, to_c, by, mass_g, depth_mm, stirred, conditions, sets=sets, ice=ice)
    t = np.concatenate((before.t_s[begun], after_s + then.t_s))
    core = np.concatenate((before.core_c[begun], then.core_c))
    mean = np.concatenate((before.mean_c[begun], np.minimum(then.mean_c, mean_c)))
    passes, why = _judge(t, core, conditions.cooling_rule)
    return replace(
        then,
        t_s=t,
        core_c=core,
        mean_c=mean,
        time_to_21_s=_reach(t, core, 21.0),
        time_to_5_s=_reach(t, core, 5.0),
        time_to_goal_s=_reach(t, core, to_c),
        verdict=PASSES if passes else FAILS,
        why=why,
        greatest_depth_mm=None,
        ice_gone_s=None if then.ice_gone_s is None else after_s + then.ice_gone_s,
    )


ICE_MARGIN = 2.0
"""So many times as much ice as melts is to be at hand: some melts in the kitchen, and some never touches."""
WATER_J_GK = 4.19
STARCHY_PERCENT = 2.0
"""Starch in the aqueous phase from which a mix sets when it is left alone."""
CHOCOLATE_SHARE = 0.04
"""Cocoa butter in the whole from which it does; an estimate, on the safe side."""


def _melts_g(mixture: Mixture, mass_g: float, from_c: float, to_c: float) -> float:
    heat = thermal.enthalpy(mixture.proximate, from_c) - thermal.enthalpy(mixture.proximate, max(0.0, to_c))
    return float(mass_g / 1000 * heat / ICE_J_G)


def ice_to_have_g(mixture: Mixture, from_c: float, to_c: float) -> float:
    """Ice to have at hand for cooling a whole mix in an ice bath [g]: what melts, with a margin."""
    return ICE_MARGIN * _melts_g(mixture, mixture.mass_g, from_c, to_c)


def flows(mixture: Mixture) -> bool:
    """Whether a mix still flows by itself in its bowl while it cools; what sets as it cools does not."""
    starchy = mixture.starch_in_aqueous_percent >= STARCHY_PERCENT
    return not starchy and mixture.fractions["cocoa_butter"] < CHOCOLATE_SHARE


Curve = tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]


@dataclass(frozen=True)
class _Lying:
    """A mix lying in a vessel of a width, from a temperature: its curve at any depth."""

    mixture: Mixture
    way: Cooling
    from_c: float
    area_m2: float
    stirred: bool
    flowing: bool
    ice: Ice | None = None

    def curve(self, depth_mm: float) -> Curve:
        """Time [s], warmest spot and mean [degC]."""
        t, core, mean = self._in_plenty(depth_mm)
        gone_s, bath_c = self._gone(depth_mm, t, mean)
        if gone_s is None:
            return t, core, mean
        # The medium steps from cold to warm at that moment; what a step does is known, and it adds.
        warm, step = self.from_c - self.way.medium_c, bath_c - self.way.medium_c

        def stepped(curve: Floats) -> Floats:
            left = np.interp(t - gone_s, t, (curve - self.way.medium_c) / warm, left=1.0)
            return np.asarray(curve + step * (1 - left))

        return t, stepped(core), stepped(mean)

    def runs_out(self, depth_mm: float) -> tuple[float | None, float]:
        """When the ice is gone [s], None while it lasts, and what its bath comes to with the mix [degC]."""
        t, _, mean = self._in_plenty(depth_mm)
        return self._gone(depth_mm, t, mean)

    def _gone(self, depth_mm: float, t: Floats, mean: Floats) -> tuple[float | None, float]:
        if self.ice is None:
            return None, self.way.medium_c
        density, cp = self.mixture.density_kg_m3(MEAN_C), self.mixture.heat_capacity_j_kgk(MEAN_C)
        mix_j_k = self.area_m2 * depth_mm / 1000 * density * cp
        given = mix_j_k * (self.from_c - mean)
        melts = self.ice.ice_g * ICE_J_G
        if given[-1] <= melts:
            return None, self.way.medium_c
        bath_j_k = (self.ice.ice_g + self.ice.water_g) * WATER_J_GK
        ends_c = (mix_j_k * self.from_c - melts + bath_j_k * self.way.medium_c) / (mix_j_k + bath_j_k)
        return float(np.interp(melts, given, t)), float(max(self.way.medium_c, ends_c))

    def _in_plenty(self, depth_mm: float) -> Curve:
        """The same with so much ice that it lasts."""
        depth, bowl = depth_mm / 1000, self.way.faces == "walls"
        if self.stirred or (bowl and self.flowing):
            return self._lumped(depth)
        return self._through_a_bowl(depth) if bowl else self._through_a_tray(depth)

    def _lumped(self, depth: float) -> Curve:
        """One temperature throughout."""
        way, stirs = self.way, self.way.stirred_w_m2k if self.flowing else self.way.thick_w_m2k
        h = stirs if self.stirred else way.still_w_m2k
        walls = 2 * np.sqrt(np.pi * self.area_m2) * depth
        cooled = self.area_m2 + walls if way.faces == "walls" else 2 * self.area_m2 + walls
        density, cp = self.mixture.density_kg_m3(MEAN_C), self.mixture.heat_capacity_j_kgk(MEAN_C)
        constant = self.area_m2 * depth * density * cp / (h * cooled)
        t = np.concatenate(([0.0], np.geomspace(1.0, LONGEST_S, POINTS)))
        core = conduction.cool_lumped(self.from_c, way.medium_c, t, constant)
        return t, core, core

    def _through_a_tray(self, depth: float) -> Curve:
        """Through the depth to both faces; what leaves by the rim is left out."""
        step, steps, shares = self._grid(depth / 2, self.way.still_w_m2k)
        field = shares(depth / 2, self.way.still_w_m2k, conduction.SLAB)
        return self._degrees(step, steps, field[:, 0], np.trapezoid(field, axis=1) / (field.shape[1] - 1))

    def _through_a_bowl(self, depth: float) -> Curve:
        """Through the depth to the bottom, and through the width to the wall: the product of the two, as the
        medium is the same on both. The warmest spot is on top in the middle."""
        radius, h = float(np.sqrt(self.area_m2 / np.pi)), self.way.outside_w_m2k
        step, steps, shares = self._grid(min(depth, radius), h)
        up, across = shares(depth, h, conduction.SLAB), shares(radius, h, conduction.CYLINDER)
        r = np.linspace(0, 1, across.shape[1])
        mean = np.trapezoid(up, axis=1) / (up.shape[1] - 1) * 2 * np.trapezoid(across * r, r, axis=1)
        return self._degrees(step, steps, up[:, 0] * across[:, 0], mean)

    def _grid(self, length: float, h: float) -> tuple[float, int, Callable[[float, float, int], Floats]]:
        """Step [s], steps, and what gives the shares of the heat that are left through a length [m]."""
        k = self.mixture.conductivity_w_mk(MEAN_C)
        diffusivity = k / self.mixture.density_kg_m3(MEAN_C) / self.mixture.heat_capacity_j_kgk(MEAN_C)
        constant = length**2 / diffusivity * (k / (h * length) + 1 / 3)
        step = min(LONGEST_S / POINTS, constant / 40)
        steps = int(min(POINTS * 4, LONGEST_S / step))

        def shares(through: float, w_m2k: float, shape: int) -> Floats:
            biot = w_m2k * through / k
            return conduction.conduct(through, diffusivity, biot, 1.0, 0.0, step, steps, shape)

        return step, steps, shares

    def _degrees(self, step: float, steps: int, core: Floats, mean: Floats) -> Curve:
        warm, cold = self.from_c - self.way.medium_c, self.way.medium_c
        t = np.arange(steps + 1, dtype=np.float64) * step
        return t, np.asarray(cold + warm * core), np.asarray(cold + warm * mean)


def _reach(t: NDArray[np.float64], core: NDArray[np.float64], level: float) -> float | None:
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
    begins = _reach(t, core, law.from_c)
    if begins is None:
        return False, f"stays above {{{law.from_c:g} C}}"
    legs = [(law.from_c, law.first_c, law.first_h)]
    starts_c = law.first_c if law.second_from == "first" else law.from_c
    legs.append((starts_c, law.second_c, law.second_h))
    for left_c, level, hours in legs:
        left, reached = _reach(t, core, left_c), _reach(t, core, level)
        if left is None or reached is None:
            return False, f"does not reach {{{level:g} C}}"
        taken = (reached - left) / 3600
        if taken > hours:
            span = f"from {{{left_c:g} C}} to {{{level:g} C}}"
            return False, f"takes {taken:.1f} h {span}, {hours:g} h are allowed"
    return True, f"keeps to {law.text}"


def _deepest(lies: _Lying, law: CoolingRule) -> float | None:
    """The greatest depth [mm] in that vessel that keeps to the rule; deeper is always slower."""

    def passes(depth_mm: float) -> bool:
        t, core, _ = lies.curve(depth_mm)
        return _judge(t, core, law)[0]

    if not passes(SHALLOWEST_MM):
        return None
    low, high = SHALLOWEST_MM, DEEPEST_MM
    if passes(high):
        return high
    while high - low > 0.25:
        middle = (low + high) / 2
        low, high = (middle, high) if passes(middle) else (low, middle)
    return low
