"""What becomes of a sauce after it has been cooked: ageing, waiting warm, reheating, freezing.

Laws of low confidence: each is one time constant or one share, as remembered, with its range in the table.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from custard.conditions import USUAL, Conditions
from custard.errors import within
from custard.figures import Hundredths, Share
from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.mixture.setting import curdling_gap_k, setting_c
from custard.physics import coagulation, kinetics
from custard.process.heating.cook import d60_s
from custard.process.heating.state import State

LONGEST_H = 24.0 * 90


@dataclass(frozen=True)
class Aged:
    """A sauce that has stood in the cold.

    Attributes
    ----------
    crystals : share of its solid fat that has crystallised by now [1].
    gelled : share of its gelatine that has set by now [1].
    firmer : its starch network over that of the first hours, by setting back [1].
    thinned : share of the starch network that the yolk's enzyme has eaten [1].
    """

    crystals: Share
    gelled: Share
    firmer: Hundredths
    thinned: Share

    @property
    def starch(self) -> float:
        """What is left of the firmness of its starch [1]."""
        return self.firmer * (1 - self.thinned)


def aged(hours: float, enzyme: float, p: Parameters) -> Aged:
    """What standing cold does.

    Parameters
    ----------
    hours : time in the cold [h]
    enzyme : what the cook left of the yolk's enzyme [1]
    p : parameters

    Raises
    ------
    OutOfRange
        when the time cannot be.
    """
    within("hours", hours, 0, LONGEST_H)
    crystals = -np.expm1(-hours / p.later.crystals_h)
    firmer = 1 + p.later.setback_gain * -np.expm1(-hours / p.later.setback_h)
    gelled = -np.expm1(-hours / p.texture.gelatine_h)
    return Aged(
        float(crystals),
        float(gelled),
        float(firmer),
        kinetics.thinning(enzyme, p.enzyme.thinning_per_h, hours),
    )


@dataclass(frozen=True)
class Held:
    """A sauce that was kept warm: its state, and the logs of Salmonella it then has behind it [1].

    `safe` says whether it was warm enough for the hot-holding of the kitchen's rule; information, never
    clearance.
    """

    state: State
    salmonella_logs: Hundredths
    safe: bool


def held_warm(
    mixture: Mixture, state: State, at_c: float, hours: float, conditions: Conditions = USUAL
) -> Held:
    """A sauce kept at a temperature [degC]: it goes on setting, and in the end curdles.

    Parameters
    ----------
    mixture : the uniform mix.
    state : how far it is cooked.
    at_c : temperature at which it is looked at [degC], 0 to 100.
    hours : how long [h], 0 and more.
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.

    Raises
    ------
    OutOfRange
        when a figure cannot be.
    """
    within("at_c", at_c, 20, 100)
    within("hours", hours, 0, 24)
    p = conditions.parameters
    co, setting = p.coagulation, setting_c(mixture, p)
    curdling = coagulation.curdling_temperature(
        setting,
        mixture.starch_in_aqueous_percent * state.gelatinised,
        curdling_gap_k(mixture, p, undisturbed=state.undisturbed),
        co.starch_guard_k,
        co.starch_guard_percent,
    )
    seconds = 3600 * hours
    set_rate = float(coagulation.rate(at_c, setting, co.set_rate_per_s, co.set_z_k))
    thickened = 1 - (1 - state.thickened) * np.exp(-set_rate * seconds)
    curdle_rate = float(coagulation.rate(at_c, curdling, co.curdle_rate_per_s, co.curdle_z_k))
    curdled = 1 - (1 - state.curdled) * np.exp(-curdle_rate * thickened * seconds)
    d_s = kinetics.decimal_time(at_c, 60.0, d60_s(mixture, p), p.lethality.z_k)
    after = replace(state, at_c=at_c, thickened=float(thickened), curdled=float(curdled))
    return Held(after, float(seconds / d_s), at_c >= conditions.cooling_rule.from_c)


def reheated(
    mixture: Mixture, state: State, to_c: float, minutes: float = 2.0, conditions: Conditions = USUAL
) -> Held:
    """A cold sauce warmed again [degC] and kept there some minutes: what has set stays set, and sets on.

    Parameters
    ----------
    mixture : the uniform mix.
    state : how far it is cooked.
    to_c : temperature at which it ends [degC], -5 to 100.
    minutes : time kept there [min].
    conditions : of the kitchen: its height above the sea [m], its eggs, its cooling rule, the model's
        parameters.
    """
    within("minutes", minutes, 0, 240)
    return held_warm(mixture, state, to_c, minutes / 60, conditions)


@dataclass(frozen=True)
class Thawed:
    """A sauce out of the freezer: the water that weeps from it [1 of its mass], and its firmness then [1]."""

    weeps: Share
    firmness: Hundredths


def thawed(mixture: Mixture, days: float, p: Parameters) -> Thawed:
    """What freezing does: starch sets back round the ice and lets water go, by its kind, the more the longer.

    Parameters
    ----------
    mixture : the uniform mix.
    days : how long [d], 0 and more.
    p : the model's parameters.

    Raises
    ------
    OutOfRange
        when the time cannot be.
    """
    within("days", days, 0, 365)
    starchy = min(1.0, mixture.starch_in_aqueous_percent / p.later.weeps_from_percent)
    held = float(np.exp(-mixture.sugars_in_aqueous_percent / p.later.sugar_holds_percent))
    longer = 1 + days / (days + p.later.frozen_half_days)
    weeps = (p.later.weeps_share * starchy * mixture.starch.weeps + p.later.egg_weeps_share) * held * longer
    return Thawed(float(weeps), float(1 - 2 * weeps))
