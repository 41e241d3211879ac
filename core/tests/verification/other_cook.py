"""A cook by other code than the product's: what is diagnosed may not be made by what diagnoses it.

The laws are those that `docs/model` writes down, worked out once more in plain floats and stepped by
Runge and Kutta's method. Hob, pan, whisk, steam and probe are its own and drawn by a seed: nothing of
the compiled kernel, its heat transfer or its stand-in stove is used.
"""

from __future__ import annotations

import math

import numpy as np
from custard.conditions import USUAL
from custard.larder.starches import all_kinds
from custard.mixture import Mixture

STEP_S = 0.5
LN10 = math.log(10)
PANS_J_K = {"thin": 260.0, "clad": 520.0, "cast-iron": 2300.0}
"""Of a 20 cm pan: 0.6 kg of thin steel, 1.1 kg with a disc, 4.5 kg of iron."""


def rate(at_c: float, reference_c: float, per_s: float, tenfold_k: float) -> float:
    """A first-order rate [1/s] that grows tenfold every so many kelvin."""
    return per_s * 10 ** ((min(at_c, 140.0) - reference_c) / tenfold_k)


def steam_w(at_c: float) -> float:
    """What a whisked surface as wide as the pan loses by steam [W]: 30 at 60 degC, twice that every 14 K."""
    return 30.0 * 2 ** ((at_c - 60.0) / 14.0)


class OtherCook:
    """One batch on a hob of its own.

    Parameters
    ----------
    mixture : what is in the pan
    power_w : what enters sauce and base after steam, before the hob strays [W]
    pan : thin, clad or cast-iron
    start_c : how warm it goes in [degC]
    seed : draws how hob, pan, whisk and probe stray
    """

    def __init__(self, mixture: Mixture, power_w: float, pan: str, start_c: float, seed: int) -> None:
        dice = np.random.default_rng(seed)
        hob, base, whisk, steam = np.exp(dice.normal(0, (0.25, 0.12, 0.12, 0.15)))
        size = float(mixture.mass_g) / 700
        self.power_w, self.base_j_k = float(power_w * hob), float(PANS_J_K[pan] * base * size ** (2 / 3))
        water, fat = mixture.fractions["water"], mixture.fractions["fat"]
        self.sauce_j_k = float(mixture.mass_g * (4.15 * water + 2.0 * fat + 1.5 * (1 - water - fat)))
        self.stirred_w_k, self.still_w_k = 21.0 * whisk * size ** (2 / 3), 6.0 * size ** (2 / 3)
        self.steam = float(steam * size ** (2 / 3))
        self.boil_c = 100.3
        self.probe_lag_s = float(dice.uniform(2, 7))
        self._reactions(mixture)
        self.t_s = 0.0
        self.y = np.array([start_c, start_c, start_c, 0.0, 0.0, 0.0, 1.0])

    def _reactions(self, mixture: Mixture) -> None:
        """From the composition: where it sets, swells and curdles, and where its enzyme goes."""
        p = USUAL.parameters
        egg, starch = p.coagulation, p.starch
        sugars = float(mixture.sugars_in_aqueous_percent)
        protein = 100 * float(mixture.fractions["yolk_protein"] + mixture.fractions["white_protein"])
        richer = math.log2(protein / egg.reference_protein_percent)
        self.set_c = (
            egg.set_base_c
            + egg.sugar_shift_k * sugars
            - richer * (egg.dilution_shift_k if richer > 0 else egg.lean_shift_k)
            - egg.acid_shift_k * max(0.0, egg.acid_reference_ph - float(mixture.ph))
        )
        self.gap_k = egg.curdle_gap_k + egg.gap_sugar_k * max(0.0, sugars - egg.gap_sugar_from_percent)
        self.egg = egg
        kind = all_kinds()["maize"]
        self.kind = kind
        self.starch_c = kind.reference_c + starch.sugar_shift_k * sugars + starch.sugar_shift_k2 * sugars**2
        self.starch_percent = 100 * float(mixture.fractions["starch"] / mixture.aqueous)
        self.enzyme_c = p.enzyme.reference_c + p.enzyme.sugar_shift_k * sugars
        self.enzyme_z = p.enzyme.z_k

    def _slope(self, y: np.ndarray, heat_w: float, across_w_k: float, steam: float) -> np.ndarray:
        """What changes a second: sauce, base, probe [K/s]; set, curdled, swollen [1/s]; enzyme [1/s]."""
        sauce, base, probe, thick, curdled, swollen, enzyme = y.tolist()
        lost = steam * steam_w(sauce)
        # As it thickens, less heat crosses; where it boils, steam carries off what comes.
        crosses = across_w_k / (1 + 1.2 * min(1.0, thick + swollen)) * (base - sauce)
        given = heat_w + lost if heat_w else 0.0
        warms = (crosses - lost) / self.sauce_j_k if sauce < self.boil_c or crosses < lost else 0.0
        guard = self.egg.starch_guard_k * (
            1 - math.exp(-self.starch_percent * swollen / self.egg.starch_guard_percent)
        )
        curdles_c = self.set_c + self.gap_k + guard
        return np.array(
            [
                warms,
                (given - crosses) / self.base_j_k,
                (sauce - probe) / self.probe_lag_s,
                (1 - thick) * rate(sauce, self.set_c, self.egg.set_rate_per_s, self.egg.set_z_k),
                (1 - curdled)
                * thick
                * min(2.0, rate(sauce, curdles_c, self.egg.curdle_rate_per_s, self.egg.curdle_z_k)),
                (1 - swollen) * min(2.0, rate(sauce, self.starch_c, self.kind.rate_per_s, self.kind.z_k)),
                -enzyme * min(2.0, rate(sauce, self.enzyme_c, LN10 / 60, self.enzyme_z)),
            ]
        )

    def on(self, seconds: float, *, lit: bool = True, stirred: bool = True) -> None:
        """Time passes [s], on the heat or off it."""
        heat_w, across = (self.power_w if lit else 0.0), (self.stirred_w_k if stirred else self.still_w_k)
        if not lit:
            # Nobody whisks, but the sauce goes on turning.
            across = self.stirred_w_k
        steam = self.steam * (1.0 if lit else 0.2)
        steps = max(1, round(seconds / STEP_S))
        dt = seconds / steps
        for _ in range(steps):
            y = self.y
            a = self._slope(y, heat_w, across, steam)
            b = self._slope(y + dt / 2 * a, heat_w, across, steam)
            c = self._slope(y + dt / 2 * b, heat_w, across, steam)
            d = self._slope(y + dt * c, heat_w, across, steam)
            self.y = y + dt / 6 * (a + 2 * b + 2 * c + d)
        self.t_s += seconds

    @property
    def sauce_c(self) -> float:
        return float(self.y[0])

    @property
    def probe_c(self) -> float:
        return float(self.y[2])

    @property
    def thickened(self) -> float:
        return float(self.y[3])

    @property
    def curdled(self) -> float:
        return float(self.y[4])

    @property
    def gelatinised(self) -> float:
        return float(self.y[5])

    @property
    def enzyme(self) -> float:
        return float(self.y[6])
