"""A mix lying somewhere to cool: its curve at any depth, with plenty of ice or as much as there is."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.errors import OutOfRange, within
from custard.larder.vessels import Cooling
from custard.mixture import Mixture
from custard.physics import conduction

Floats = NDArray[np.float64]
Curve = tuple[Floats, Floats, Floats]

LONGEST_S = 48 * 3600.0
POINTS = 600
MEAN_C = 40.0
"""Where the properties of a mix that cools are read."""
OUTER_C = 20.0
"""Where its conductivity is read: heat leaves through the outer layers, which are colder than the mean."""
ICE_J_G = 333.6
WATER_J_GK = 4.19
TAP_C = 20.0
"""How warm water comes to a bath, on the safe side: part of the ice is spent on it first."""
NOW_AND_THEN_S = 600.0
"""What is stirred now and then is mixed about so often."""
TURNS_OVER, TURNS_MM = 5.0, 100.0
"""What still flows turns over a little by itself: in a shallow bowl heat goes through it so many times as
well again as by conduction; with depth, where the cold lies at the bottom and the warm on top, no better.
Fitted to what kitchens find, as remembered, of 0.7 kg (12 to 30 min to 21 degC), 5 kg 150 mm deep (2 to 5 h)
and 20 kg 400 mm deep (10 to 30 h)."""


@dataclass(frozen=True)
class Ice:
    """What a bath is made of: ice, and water from the tap [g]."""

    ice_g: float
    water_g: float

    def __post_init__(self) -> None:
        within("ice_g", self.ice_g, 0, 10_000_000)
        within("water_g", self.water_g, 0, 10_000_000)
        if self.ice_g + self.water_g <= 0:
            raise OutOfRange("ice_g", self.ice_g, "and no water is no bath", "Say how much ice and water.")

    @property
    def spare_j(self) -> float:
        """Heat it takes until its ice is gone [J]; below 0 where its own water is too much for it."""
        return self.ice_g * ICE_J_G - self.water_g * WATER_J_GK * TAP_C

    @property
    def bath_j_k(self) -> float:
        """Heat that warms it by a kelvin once its ice is gone [J/K]."""
        return (self.ice_g + self.water_g) * WATER_J_GK


@dataclass(frozen=True)
class Cooled:
    """A curve: time [s], warmest spot and mean [degC]; and when the ice is gone [s], None while it lasts, and
    what its bath then comes to with the mix [degC]."""

    t_s: Floats
    core_c: Floats
    mean_c: Floats
    gone_s: float | None = None
    bath_c: float | None = None


@dataclass(frozen=True)
class Resting:
    """A mix lying in a vessel of a width, from a temperature.

    `stirred` says that it is stirred: all the time, or mixed every `every_s` [s].
    """

    mixture: Mixture
    way: Cooling
    from_c: float
    area_m2: float
    stirred: bool
    flowing: bool
    ice: Ice | None = None
    every_s: float | None = None

    def cooled(self, depth_mm: float) -> Cooled:
        """How it cools at a depth.

        Once its ice is gone the medium steps from cold to as warm as bath and mix come to in the end, which
        is on the safe side; what a step does is known, and it adds.
        """
        t, core, mean = self._in_plenty(depth_mm)
        density, cp = self.mixture.density_kg_m3(MEAN_C), self.mixture.heat_capacity_j_kgk(MEAN_C)
        mix_j_k = self.area_m2 * depth_mm / 1000 * density * cp
        if self.way.most_w is not None:
            t = _no_faster(t, mix_j_k * (self.from_c - mean), self.way.most_w)
        if self.ice is None:
            return Cooled(t, core, mean)
        given = mix_j_k * (self.from_c - mean)
        if given[-1] <= self.ice.spare_j:
            return Cooled(t, core, mean)
        gone_s = float(np.interp(max(0.0, self.ice.spare_j), given, t))
        ends_c = (mix_j_k * self.from_c - self.ice.spare_j) / (mix_j_k + self.ice.bath_j_k)
        bath_c = float(max(self.way.medium_c, ends_c))
        warm, step = self.from_c - self.way.medium_c, bath_c - self.way.medium_c

        def stepped(curve: Floats) -> Floats:
            left = np.interp(t - gone_s, t, (curve - self.way.medium_c) / warm, left=1.0)
            return np.asarray(curve + step * (1 - left))

        return Cooled(t, stepped(core), stepped(mean), gone_s, bath_c)

    def _in_plenty(self, depth_mm: float) -> Curve:
        """The same with so much ice that it lasts."""
        depth, bowl = depth_mm / 1000, self.way.faces == "walls"
        if self.stirred and self.every_s is None:
            return self._lumped(depth)
        alone = self._through_a_bowl(depth) if bowl else self._through_a_tray(depth)
        return alone if self.every_s is None or not self.stirred else self._mixed(alone, self.every_s)

    def _mixed(self, alone: Curve, every_s: float) -> Curve:
        """Left alone and mixed in turn, every time to its mean. Nobody knows when that is: the warmest spot
        is drawn through what it has come to just before, as if it were always about to be mixed."""
        t, core, mean = alone
        warm, cold = self.from_c - self.way.medium_c, self.way.medium_c
        warmest, evenly = ((float(np.interp(every_s, t, one)) - cold) / warm for one in (core, mean))
        at = np.concatenate(([0.0], np.geomspace(1.0, LONGEST_S, POINTS)))
        evenly = max(evenly, 1e-9)
        falls = evenly ** (at / every_s)
        lags = max(1.0, warmest / evenly) * falls
        # Mixing never slows it: where it is cold before it is mixed, it is as if left alone.
        return (
            at,
            np.minimum(np.interp(at, t, core), cold + warm * lags),
            np.minimum(np.interp(at, t, mean), cold + warm * falls),
        )

    def _lumped(self, depth: float) -> Curve:
        """One temperature throughout: stirred all the time."""
        way, h = self.way, self.way.stirred_w_m2k if self.flowing else self.way.thick_w_m2k
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
        turns = TURNS_OVER * float(np.exp(-((1000 * depth / TURNS_MM) ** 2))) if self.flowing else 0.0
        step, steps, shares = self._grid(min(depth, radius), h, 1 + turns)
        up, across = shares(depth, h, conduction.SLAB), shares(radius, h, conduction.CYLINDER)
        r = np.linspace(0, 1, across.shape[1])
        mean = np.trapezoid(up, axis=1) / (up.shape[1] - 1) * 2 * np.trapezoid(across * r, r, axis=1)
        return self._degrees(step, steps, up[:, 0] * across[:, 0], mean)

    def _grid(
        self, length: float, h: float, times: float = 1.0
    ) -> tuple[float, int, Callable[[float, float, int], Floats]]:
        """Step [s], steps, and what gives the shares of the heat that are left through a length [m].

        Heat goes through so many `times` as well as by conduction alone [1].
        """
        k = times * self.mixture.conductivity_w_mk(OUTER_C)
        diffusivity = k / self.mixture.density_kg_m3(MEAN_C) / self.mixture.heat_capacity_j_kgk(MEAN_C)
        constant = length**2 / diffusivity * (k / (h * length) + 1 / 3)
        step = min(LONGEST_S / POINTS, constant / 40)
        steps = int(min(POINTS * 4, LONGEST_S / step))

        def shares(through: float, w_m2k: float, shape: int) -> Floats:
            biot = w_m2k * through / k
            return conduction.conduct(
                conduction.Body(through, diffusivity, biot, shape), 1.0, 0.0, step, steps
            )

        return step, steps, shares

    def _degrees(self, step: float, steps: int, core: Floats, mean: Floats) -> Curve:
        warm, cold = self.from_c - self.way.medium_c, self.way.medium_c
        t = np.arange(steps + 1, dtype=np.float64) * step
        return t, np.asarray(cold + warm * core), np.asarray(cold + warm * mean)


def _no_faster(t: Floats, given: Floats, most_w: float) -> Floats:
    """When a curve's points come where no more heat than so much is taken [s].

    Parameters
    ----------
    t, given : when they would come [s], and the heat given by then [J]
    most_w : the most that is taken [W]
    """
    return np.concatenate(([0.0], np.cumsum(np.maximum(np.diff(t), np.diff(given) / most_w))))
