"""A cook in progress as plain data: what happened to it, what it is cooked on, where it stands."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import asdict, dataclass
from typing import Any

import numpy as np
from numpy.typing import NDArray

from custard.advice.mix.assess import Assessment
from custard.advice.mix.texture import Texture
from custard.advice.mix.window import Window
from custard.figures import (
    Celsius,
    Hundredths,
    Kelvin,
    Pascals,
    Seconds,
    Share,
    Tenths,
    TenthsCelsius,
    Thousandths,
    Watts,
    WholeSeconds,
)
from custard.process.baking.cups import Cups, usual_cups
from custard.process.following.follow import Path
from custard.process.heating import kernel
from custard.process.heating.cook import Stove, usual_stove
from custard.vocabulary import Coat, HeatName, MarkKind, Ribbon

Floats = NDArray[np.float64]

UNKNOWN_POWER = 0.35
"""How far, as a logarithm, a hob that nobody measured may stray from what it is taken for."""
UNKNOWN_PAN = 0.15
"""How far, as a logarithm, a pan that nobody measured may stray from what its kind is."""
UNSURE = (10.0, 90.0)
CURVE_POINTS = 240


@dataclass(frozen=True)
class Spoon:
    """A spoon tested at `t_s` [s], and the cook's word for its coat."""

    t_s: float
    coat: Coat


@dataclass(frozen=True)
class History:
    """What happened to a batch so far; times in seconds from the beginning of its cook.

    Attributes
    ----------
    readings : (time [s], [degC]) of the probe, in any order.
    hands : when somebody began to stir, or stopped.
    off_s, out_s : when it came off the heat for good, and out of the pan [s]; None while it has not.
    bubbles_s : when the cook saw the first bubbles [s].
    breaks : (from [s], to [s]) each time that it was off the heat and went back on.
    """

    readings: Sequence[tuple[float, float]] = ()
    spoons: Sequence[Spoon] = ()
    hands: Sequence[tuple[float, bool]] = ()
    off_s: float | None = None
    out_s: float | None = None
    bubbles_s: float | None = None
    breaks: Sequence[tuple[float, float]] = ()


def off_the_heat(marks: Iterable[tuple[float, str]]) -> tuple[list[tuple[float, float]], float | None]:
    """When a batch was off the heat, by its marks.

    Parameters
    ----------
    marks : when [s] and of what kind, in order.

    Returns
    -------
    from when to when it was off and went back on [s]; when it came off for good [s], None while it has not.
    """
    breaks: list[tuple[float, float]] = []
    off_s: float | None = None
    for at_s, kind in marks:
        if kind == MarkKind.OFF_HEAT and off_s is None:
            off_s = at_s
        elif kind == MarkKind.BACK_ON and off_s is not None:
            breaks.append((off_s, at_s))
            off_s = None
    return breaks, off_s


@dataclass(frozen=True)
class Equipment:
    """What it is cooked on and in: the stove with the power its calibration promises, and how sure that is.

    Attributes
    ----------
    power_spread : uncertainty of the power, as a logarithm [1].
    probe_lag_s : time constant of the probe [s].
    pan_share : heat of this very pan over that of its kind [1]; `pan_spread` its uncertainty, as a logarithm.
    hold_s : how long a boiled mix is to be held [s].
    cups : what is baked, is baked in; None for what is not.
    """

    stove: Stove
    power_spread: float = UNKNOWN_POWER
    probe_lag_s: float = 4.0
    pan_share: float = 1.0
    pan_spread: float = UNKNOWN_PAN
    hold_s: float = 60.0
    cups: Cups | None = None

    def as_json(self) -> dict[str, Any]:
        """As kept beside a batch."""
        return asdict(self)

    @classmethod
    def of(cls, kept: Mapping[str, Any]) -> Equipment:
        """As it was kept."""
        cups = kept.get("cups")
        return cls(
            **{**kept, "stove": Stove(**kept["stove"]), "cups": None if cups is None else Cups.of(cups)}
        )


def unmeasured(result: Assessment, schools: Mapping[str, str]) -> Equipment:
    """What a mix is cooked on and in where nobody has said or measured more.

    `schools` are the answers of this formula: over steam or over a flame, held at the boil or not.

    Parameters
    ----------
    result : an assessed formula.
    schools : what was chosen where good cooks disagree, school by question.
    """
    p = result.conditions.parameters
    stove = usual_stove(result.pan, p, over_steam=schools.get("heat") == HeatName.STEAM)
    cups = usual_cups(result.pan, result.formula.card) if result.way.in_the_oven else None
    return Equipment(stove, hold_s=0.0 if schools.get("boil") == "first" else p.cook.boil_hold_s, cups=cups)


@dataclass(frozen=True)
class Until:
    """Seconds until something [s], with the span most members agree on, and the sauce's temperature then.

    Below 0 it came so long ago.
    """

    in_s: Seconds
    low_s: Seconds
    high_s: Seconds
    at_c: Celsius


@dataclass(frozen=True)
class Lift(Until):
    """When to take it off, so that it lands right once carry-over is done.

    Attributes
    ----------
    reads_c : what the probe will read at that moment [degC].
    lands_c : where it peaks in the pan [degC]; `lands_word` how thick it is then.
    carry_over_k : what the pan still gives after the flame [K].
    """

    reads_c: Celsius
    lands_c: Celsius
    lands_word: Coat
    carry_over_k: Kelvin


@dataclass(frozen=True)
class Curve:
    """A continuation with the span most members agree on: equally long lists, seconds from now."""

    in_s: list[Seconds]
    c: list[Celsius]
    low_c: list[Celsius]
    high_c: list[Celsius]

    @classmethod
    def of(cls, path: Path) -> Curve:
        """The sauce along a path, thinned to what can be drawn."""
        every = max(1, path.t_s.size // CURVE_POINTS)
        sauce = path.column(kernel.SAUCE_C)[::every]
        low, high = np.percentile(sauce, UNSURE, axis=1)
        return cls(path.t_s[::every].tolist(), np.median(sauce, axis=1).tolist(), low.tolist(), high.tolist())

    @classmethod
    def sure(cls, in_s: Floats, c: Floats) -> Curve:
        """One line, with no span."""
        line = c.tolist()
        return cls(in_s.tolist(), line, line, line)


@dataclass(frozen=True)
class Live:
    """A cook now. Every figure is the middle of the ensemble; spreads are one standard deviation.

    Attributes
    ----------
    t_s : now [s].
    sauce_c, sauce_spread_k : the sauce; the probe lags behind it [degC], [K].
    probe_c : what the probe reads, smoothed [degC]; `soon_c` what it will read in 30 s.
    power_w, power_spread_w : what hob and pan really give [W]; `from_readings` once it is read, not promised.
    promised_w : what the calibration promised [W].
    shift_k, shift_spread_k : how much later this batch sets than the model says [K].
    held_s : time at the boil so far [s], of the `hold_s` it is to be held.
    spoon : what a spoon dipped now would show.
    window : where this very cook thickens, coats and curdles, come or still coming, at the heat it gets.
    volume_ratio : volume of a foam over that of its mix [1], and the word for it; None for what is no foam.
    ahead, landing : where it goes from here, and after the lift.
    """

    t_s: Seconds
    sauce_c: Celsius
    sauce_spread_k: Kelvin
    base_c: TenthsCelsius
    probe_c: Celsius
    soon_c: Celsius
    rate_k_per_min: Kelvin
    power_w: Watts
    power_spread_w: Watts
    promised_w: Watts
    from_readings: bool
    shift_k: Kelvin
    shift_spread_k: Kelvin
    thickened: Share
    curdled: Share
    yield_stress_pa: Pascals
    word: Coat
    gelatinised: Thousandths
    amylase: Share
    germ_logs: Tenths
    catches_in_s: WholeSeconds | None
    held_s: Seconds
    hold_s: Seconds
    thickens: Until | None
    nappe: Until | None
    curdles: Until | None
    boils: Until | None
    lift: Lift | None
    ahead: Curve
    landing: Curve | None
    spoon: Texture
    window: Window
    volume_ratio: Hundredths | None
    foam_word: Ribbon | None
