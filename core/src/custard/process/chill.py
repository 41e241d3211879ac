"""Cooling: how fast, whether in time, and how deep it may be."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from custard.conditions import USUAL, Conditions
from custard.errors import OutOfRange, within
from custard.larder.vessels import Cooling, CoolingRule, coolings, one_of
from custard.larder.words import plain_degrees
from custard.mixture import Mixture
from custard.physics import conduction, thermal

LONGEST_S = 48 * 3600.0
POINTS = 600
MEAN_C = 40.0
ICE_J_G = 333.6
DEEPEST_MM, SHALLOWEST_MM = 400.0, 1.0
PASSES, FAILS = "passes", "fails"


@dataclass(frozen=True)
class Chill:
    """A cooling, with its warmest spot judged.

    Attributes
    ----------
    t_s, core_c, mean_c : the curve: time [s], warmest spot and mean [degC].
    verdict : "passes" or "fails" the rule; `why` says it in words, temperatures as "{21 C}".
    greatest_depth_mm : the deepest that passes [mm]; None when none does.
    ice_g : ice that melts [g]; None without ice.
    """

    t_s: NDArray[np.float64]
    core_c: NDArray[np.float64]
    mean_c: NDArray[np.float64]
    time_to_21_s: float | None
    time_to_5_s: float | None
    time_to_goal_s: float | None
    verdict: str
    why: str
    greatest_depth_mm: float | None
    ice_g: float | None
    rule: CoolingRule

    def as_json(self) -> dict[str, Any]:
        """Plain data, as the command prints it."""
        return {
            "curve": {
                "t_s": [round(float(v), 1) for v in self.t_s],
                "core_c": [round(float(v), 3) for v in self.core_c],
                "mean_c": [round(float(v), 3) for v in self.mean_c],
            },
            "time_to_21_s": _seconds(self.time_to_21_s),
            "time_to_5_s": _seconds(self.time_to_5_s),
            "time_to_goal_s": _seconds(self.time_to_goal_s),
            "rule": plain_degrees(self.rule.text),
            "verdict": self.verdict,
            "why": plain_degrees(self.why),
            "greatest_depth_mm": None if self.greatest_depth_mm is None else round(self.greatest_depth_mm, 1),
            "ice_g": None if self.ice_g is None else round(self.ice_g),
            "caution": "Local food codes and trained people come first.",
        }


def _seconds(value: float | None) -> float | None:
    return None if value is None else round(value, 1)


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
) -> Chill:
    """Cool `mass_g` of a mix lying `depth_mm` deep.

    A bowl in ice is one temperature throughout, with a better or worse coefficient; a tray is conducted
    through its depth unless it is stirred. The warmest spot is what is judged. `way` stands in for the
    table's own figures of `by`, when a kitchen has measured its own.

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
    t, core, mean = _curve(mixture, way, from_c, mass_g, depth_mm, stirred)
    passes, why = _judge(t, core, law)
    heat = thermal.enthalpy(mixture.proximate, from_c) - thermal.enthalpy(mixture.proximate, max(0.0, to_c))
    return Chill(
        t_s=t,
        core_c=core,
        mean_c=mean,
        time_to_21_s=_reach(t, core, 21.0),
        time_to_5_s=_reach(t, core, 5.0),
        time_to_goal_s=_reach(t, core, to_c),
        verdict=PASSES if passes else FAILS,
        why=why,
        greatest_depth_mm=_deepest(mixture, way, from_c, mass_g, stirred, law),
        ice_g=mass_g / 1000 * heat / ICE_J_G if way.faces == "walls" else None,
        rule=law,
    )


def _curve(
    mixture: Mixture, way: Cooling, from_c: float, mass_g: float, depth_mm: float, stirred: bool
) -> tuple[NDArray[np.float64], NDArray[np.float64], NDArray[np.float64]]:
    density, cp = mixture.density_kg_m3(MEAN_C), mixture.heat_capacity_j_kgk(MEAN_C)
    depth = depth_mm / 1000
    area = mass_g / 1000 / density / depth
    h = way.stirred_w_m2k if stirred else way.still_w_m2k
    if way.faces == "walls" or stirred:
        walls = 2 * np.sqrt(np.pi * area) * depth
        cooled = area + walls if way.faces == "walls" else 2 * area + walls
        constant = mass_g / 1000 * cp / (h * cooled)
        t = np.concatenate(([0.0], np.geomspace(1.0, LONGEST_S, POINTS)))
        core = conduction.cool_lumped(from_c, way.medium_c, t, constant)
        return t, core, core
    k = mixture.conductivity_w_mk(MEAN_C)
    half, diffusivity = depth / 2, k / density / cp
    biot = h * half / k
    constant = half**2 / diffusivity * (1 / biot + 1 / 3)
    step = min(LONGEST_S / POINTS, constant / 40)
    steps = int(min(POINTS * 4, LONGEST_S / step))
    field = conduction.conduct(half, diffusivity, biot, from_c, way.medium_c, step, steps, conduction.SLAB)
    mean = np.asarray(np.trapezoid(field, axis=1) / (field.shape[1] - 1))
    return np.arange(steps + 1, dtype=np.float64) * step, field[:, 0], mean


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
    for level, hours in ((law.first_c, law.first_h), (law.second_c, law.second_h)):
        reached = _reach(t, core, level)
        if reached is None:
            return False, f"does not reach {{{level:g} C}}"
        taken = (reached - begins) / 3600
        if taken > hours:
            span = f"from {{{law.from_c:g} C}} to {{{level:g} C}}"
            return False, f"takes {taken:.1f} h {span}, {hours:g} h are allowed"
    return True, f"keeps to {law.text}"


def _deepest(
    mixture: Mixture, way: Cooling, from_c: float, mass_g: float, stirred: bool, law: CoolingRule
) -> float | None:
    """The greatest depth [mm] that keeps to the rule, by bisection."""

    def passes(depth_mm: float) -> bool:
        t, core, _ = _curve(mixture, way, from_c, mass_g, depth_mm, stirred)
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
