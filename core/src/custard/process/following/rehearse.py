"""A stove that is not there: the same physics, with a hob, a pan and a probe of its own that nobody is told.

A stand-in thermometer is fed by it. What is hidden is drawn once by a seed; the mix itself is as computed.
"""

from __future__ import annotations

from dataclasses import replace
from itertools import accumulate
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from custard.conditions import USUAL, Conditions
from custard.larder.families import Way
from custard.larder.vessels import coolings
from custard.mixture import Mixture
from custard.process.baking.bake import usual_bath_c
from custard.process.baking.cups import Cups
from custard.process.heating import kernel, pan
from custard.process.heating.cook import DT_S, Stove, constants, pan_area_m2, step_s
from custard.process.whisking.whisk import under_foam

HOB_SPREAD, PAN_SPREAD, STIR_SPREAD = 0.25, 0.12, 0.12
"""How far hob, pan and stirring stray from what they are taken for, as logarithms."""
LAG_S = (2.0, 7.0)
FLICKER, FLICKER_S = 0.05, 20.0
"""A flame is never steady: how far it strays as a logarithm, and for about how long [s]."""
CELL_S = 0.5
"""The grid a hidden cook is stepped on [s]."""
LONGEST_S = 4 * 3600.0
BATH_DEPTH_M = 0.05
BATH_SPREAD_K = 3.0
"""How far a bath in the oven strays from what it is taken for [K]."""


class Rehearsal(Protocol):
    """One batch somewhere hidden, and the probe in it."""

    def on(self, seconds: float, *, lit: bool = True, stirred: bool = True, in_ice: bool = False) -> None:
        """Time passes [s]: on the heat or off it, in the pan or in the ice."""

    @property
    def probe_c(self) -> float:
        """What the probe reads [degC]."""

    @property
    def t_s(self) -> float:
        """Since the start [s]."""

    @property
    def sauce_c(self) -> float:
        """What the probe follows [degC]."""


def rehearse(
    way: Way,
    mixture: Mixture,
    stove: Stove,
    start_c: float,
    seed: int,
    conditions: Conditions = USUAL,
    cups: Cups | None = None,
) -> Rehearsal:
    """One batch in the way it is done, on a hidden stove or in a hidden oven that `seed` chooses.

    Parameters
    ----------
    way : how it is done.
    mixture : the uniform mix.
    stove : what it is cooked on and in, as the cook takes it to be.
    start_c : temperature at which it begins [degC], 0 to 105.
    seed : chooses what is left to chance; the same seed gives the same answer.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    cups : what it is baked in, where it is.
    """
    if way.in_the_oven:
        return OvenRehearsal(mixture, start_c, seed, cups, conditions)
    return StoveRehearsal(mixture, stove, start_c, seed, foam=way.foams, conditions=conditions)


class StoveRehearsal:
    """One batch on one hidden stove.

    Parameters
    ----------
    mixture : what is in the pan
    stove : what hob and pan are taken for
    start_c : where it starts [degC]
    seed : chooses what is hidden
    foam : it is whisked into a foam
    """

    def __init__(
        self,
        mixture: Mixture,
        stove: Stove,
        start_c: float,
        seed: int,
        *,
        foam: bool = False,
        conditions: Conditions = USUAL,
    ) -> None:
        p = under_foam(conditions.parameters) if foam else conditions.parameters
        draw = np.random.default_rng(seed)
        power, base, whisk = np.exp(draw.standard_normal(3) * (HOB_SPREAD, PAN_SPREAD, STIR_SPREAD))
        self._conditions, self._mixture, self._stove = conditions.by(p), mixture, stove
        taken = constants(mixture, stove, self._conditions)
        self._taken = taken._replace(
            power_w=float(taken.power_w * power),
            steam_w_k=float(taken.steam_w_k * power),
            base_j_k=float(taken.base_j_k * base),
            whisk=float(taken.whisk * whisk),
        )
        self._dt = step_s(self._taken, DT_S)
        self._state = kernel.at_rest(start_c)
        self._lag_s = float(draw.uniform(*LAG_S))
        self._flicker = _flicker(draw)
        self._cells, self._t = 0, 0.0
        self._probe_c = start_c
        self._shown = self._now()
        self._before = self._shown
        area = float(pan_area_m2(mixture, p))
        walls = area + 2 * np.sqrt(np.pi * area) * BATH_DEPTH_M
        ice = coolings()["ice-bath"]
        self._ice_c = ice.medium_c
        self._ice_s = float(self._taken.sauce_j_k / (ice.stirred_w_m2k * walls))

    def on(self, seconds: float, *, lit: bool = True, stirred: bool = True, in_ice: bool = False) -> None:
        """Time passes [s]: on the heat or off it, in the pan or in the ice.

        It is stepped on a grid of its own, so that the same acts give the same cook whatever the steps it is
        asked in; between two points of the grid it is read off a straight line.
        """
        self._t += max(0.0, seconds)
        while self._cells * CELL_S < self._t - 1e-9:
            self._before = self._now()
            self._cell(lit=lit, stirred=stirred, in_ice=in_ice)
            self._cells += 1
        share = 1 - (self._cells - self._t / CELL_S)
        self._shown = self._before + share * (self._now() - self._before)

    def _cell(self, *, lit: bool, stirred: bool, in_ice: bool) -> None:
        if in_ice:
            off = self._state[kernel.SAUCE_C] - self._ice_c
            self._state[kernel.SAUCE_C] = self._ice_c + off * np.exp(-CELL_S / self._ice_s)
            self._state[kernel.T_S] += CELL_S
        else:
            flicker = self._flicker[self._cells % self._flicker.size]
            power = float(self._taken.power_w * np.exp(flicker))
            k = self._taken._replace(power_w=power)
            stirring = k.stirring if stirred else float(pan.STILL)
            kernel.advance(k, self._state, CELL_S, self._dt, float(lit), stirring)
        sauce = self._state[kernel.SAUCE_C]
        self._probe_c += (sauce - self._probe_c) * (1 - np.exp(-CELL_S / self._lag_s))

    def _now(self) -> NDArray[np.float64]:
        """What can be read at a point of the grid."""
        seen = self._state[[kernel.SAUCE_C, kernel.YIELD_PA, kernel.CURDLED]]
        return np.append(seen, self._probe_c)

    def turned(self, by: float) -> None:
        """Somebody turned the flame: from now on `by` times as much [1]."""
        before = constants(self._mixture, self._stove, self._conditions)
        self._stove = replace(self._stove, power_w=self._stove.power_w * by)
        now = constants(self._mixture, self._stove, self._conditions)
        self._taken = self._taken._replace(
            power_w=float(self._taken.power_w * now.power_w / before.power_w),
            steam_w_k=self._taken.steam_w_k
            if before.steam_w_k <= 0
            else float(self._taken.steam_w_k * now.steam_w_k / before.steam_w_k),
        )

    @property
    def t_s(self) -> float:
        """Since the start [s]."""
        return self._t

    @property
    def probe_c(self) -> float:
        """What the probe reads [degC]."""
        return float(self._shown[3])

    @property
    def sauce_c(self) -> float:
        """The sauce, which the probe follows [degC]."""
        return float(self._shown[0])

    @property
    def yield_pa(self) -> float:
        """Yield stress in the pan [Pa]."""
        return float(self._shown[1])

    @property
    def curdled(self) -> float:
        """Share of the egg that has curdled [1]."""
        return float(self._shown[2])

    @property
    def power_w(self) -> float:
        """What the hob really gives [W]."""
        return float(self._taken.power_w)


def _flicker(draw: np.random.Generator) -> NDArray[np.float64]:
    """How far the flame strays in each cell, as a logarithm; each is a little like the one before."""
    kept = np.exp(-CELL_S / FLICKER_S)
    noise = FLICKER * np.sqrt(1 - kept**2) * draw.standard_normal(int(LONGEST_S / CELL_S))
    return np.array(list(accumulate(noise, lambda before, new: kept * before + new)))


class OvenRehearsal:
    """Cups in a hidden bath, with a probe in the middle of one; what is done with the flame is not felt.

    Parameters
    ----------
    mixture : what is in the cups
    start_c : where it starts [degC]
    seed : chooses what is hidden
    cups : what it is baked in, and how
    """

    def __init__(
        self,
        mixture: Mixture,
        start_c: float,
        seed: int,
        cups: Cups | None = None,
        conditions: Conditions = USUAL,
    ) -> None:
        draw = np.random.default_rng(seed)
        cups = cups or Cups()
        usual_c = usual_bath_c(cups.oven_c, conditions.parameters)
        self.bath_c = float(np.clip(usual_c + BATH_SPREAD_K * draw.standard_normal(), 70.0, 96.0))
        self.baked = cups.baked(mixture, start_c, self.bath_c, conditions)
        self.t_s = 0.0

    def on(self, seconds: float, *, lit: bool = True, stirred: bool = True, in_ice: bool = False) -> None:
        """Time passes [s]; once out of the oven the cup only stands."""
        if lit and not in_ice:
            self.t_s += max(0.0, seconds)

    @property
    def sauce_c(self) -> float:
        """The middle of the cup [degC]."""
        return float(np.interp(self.t_s, self.baked.t_s, self.baked.centre_c))

    @property
    def probe_c(self) -> float:
        """A cup warms so slowly that a probe keeps up [degC]."""
        return self.sauce_c

    @property
    def set_centre(self) -> float:
        """Set degree of the middle [0 to 1]."""
        return float(np.interp(self.t_s, self.baked.t_s, self.baked.set_centre))
