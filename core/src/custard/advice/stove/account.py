"""A cook in progress as plain data: what happened to it, what it is cooked on, where it stands."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field
from typing import Any

import numpy as np

from custard.advice.mix.assess import Assessment
from custard.advice.mix.texture import Texture
from custard.advice.mix.window import Window
from custard.larder.families import STEAM
from custard.physics.foam import foam_word
from custard.physics.texture import word
from custard.process import kernel
from custard.process.cook import Stove
from custard.process.follow import Path

W_A_KG = 500.0
"""What an unmeasured hob is taken to give a kilogram of sauce [W]; an estimate."""
STEAM_W = 1500.0
"""The most that an unmeasured flame gives to a bath [W]; an estimate."""
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
    coat: str


@dataclass(frozen=True)
class History:
    """What happened to a batch so far; times in seconds from the beginning of its cook.

    Attributes
    ----------
    readings : (time [s], [degC]) of the probe, in any order.
    hands : when somebody began to stir, or stopped.
    off_s, out_s : when it came off the heat, and out of the pan [s]; None while it has not.
    bubbles_s : when the cook saw the first bubbles [s].
    """

    readings: Sequence[tuple[float, float]] = ()
    spoons: Sequence[Spoon] = ()
    hands: Sequence[tuple[float, bool]] = ()
    off_s: float | None = None
    out_s: float | None = None
    bubbles_s: float | None = None


@dataclass(frozen=True)
class Equipment:
    """What it is cooked on and in: the stove with the power its calibration promises, and how sure that is.

    Attributes
    ----------
    power_spread : uncertainty of the power, as a logarithm [1].
    probe_lag_s : time constant of the probe [s].
    pan_share : heat of this very pan over that of its kind [1]; `pan_spread` its uncertainty, as a logarithm.
    hold_s : how long a boiled mix is to be held [s].
    """

    stove: Stove
    power_spread: float = UNKNOWN_POWER
    probe_lag_s: float = 4.0
    pan_share: float = 1.0
    pan_spread: float = UNKNOWN_PAN
    hold_s: float = 60.0

    def as_json(self) -> dict[str, Any]:
        """As kept beside a batch."""
        return asdict(self)

    @classmethod
    def of(cls, kept: Mapping[str, Any]) -> Equipment:
        """As it was kept."""
        return cls(**{**kept, "stove": Stove(**kept["stove"])})


def unmeasured(result: Assessment, schools: Mapping[str, str]) -> Equipment:
    """What a mix is cooked on and in where nobody has said or measured more.

    `schools` are the answers of this formula: over steam or over a flame, held at the boil or not.
    """
    steams = schools.get("heat") == STEAM
    power = STEAM_W if steams else W_A_KG * result.pan.mass_g / 1000
    held = result.conditions.parameters.cook.boil_hold_s
    return Equipment(
        Stove(power_w=power, over_steam=steams), hold_s=0.0 if schools.get("boil") == "first" else held
    )


@dataclass(frozen=True)
class When:
    """Seconds until something [s], with the span most members agree on, and the sauce's temperature then.

    Below 0 it came so long ago.
    """

    in_s: float
    low_s: float
    high_s: float
    at_c: float

    def as_json(self) -> dict[str, float]:
        """Plain data."""
        return {
            "in_s": round(self.in_s, 1),
            "low_s": round(self.low_s, 1),
            "high_s": round(self.high_s, 1),
            "at_c": round(self.at_c, 2),
        }


@dataclass(frozen=True)
class Lift:
    """When to take it off, so that it lands right once carry-over is done.

    Attributes
    ----------
    when : until then; `reads_c` is what the probe will read at that moment [degC].
    lands_c : where it peaks in the pan [degC]; `lands_pa` how thick it is then [Pa].
    """

    when: When
    reads_c: float
    lands_c: float
    lands_pa: float

    @property
    def carry_over_k(self) -> float:
        """What the pan still gives after the flame [K]."""
        return self.lands_c - self.when.at_c

    def as_json(self) -> dict[str, Any]:
        """Plain data."""
        return {
            **self.when.as_json(),
            "reads_c": round(self.reads_c, 2),
            "lands_c": round(self.lands_c, 2),
            "lands_word": word(self.lands_pa),
            "carry_over_k": round(self.carry_over_k, 2),
        }


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
    held_s : time at the boil so far [s].
    texture : what a spoon dipped now would show.
    window : where this very cook thickens, coats and curdles, come or still coming, at the heat it gets.
    overrun : air whisked into a foam over the volume of the mix [1]; None for what is no foam.
    """

    t_s: float
    sauce_c: float
    sauce_spread_k: float
    base_c: float
    probe_c: float
    soon_c: float
    rate_k_per_min: float
    power_w: float
    power_spread_w: float
    promised_w: float
    from_readings: bool
    shift_k: float
    shift_spread_k: float
    thickened: float
    curdled: float
    yield_pa: float
    gelatinised: float
    amylase: float
    germ_logs: float
    caught: float
    catches_in_s: float | None
    held_s: float
    thickens: When | None
    nappe: When | None
    curdles: When | None
    boils: When | None
    lift: Lift | None
    path: Path = field(repr=False)
    landing: Path | None = field(repr=False)
    texture: Texture
    window: Window
    overrun: float | None = None

    def as_json(self) -> dict[str, Any]:
        """Plain data, with the continuation and its band."""
        return {
            "t_s": round(self.t_s, 1),
            "sauce_c": round(self.sauce_c, 2),
            "sauce_spread_k": round(self.sauce_spread_k, 2),
            "base_c": round(self.base_c, 1),
            "probe_c": round(self.probe_c, 2),
            "soon_c": round(self.soon_c, 2),
            "rate_k_per_min": round(self.rate_k_per_min, 2),
            "power_w": round(self.power_w),
            "power_spread_w": round(self.power_spread_w),
            "promised_w": round(self.promised_w),
            "from_readings": self.from_readings,
            "shift_k": round(self.shift_k, 2),
            "shift_spread_k": round(self.shift_spread_k, 2),
            "thickened": round(self.thickened, 4),
            "curdled": round(self.curdled, 4),
            "yield_stress_pa": float(f"{self.yield_pa:.3g}"),
            "word": word(self.yield_pa),
            "spoon": self.texture.as_json(),
            "window": self.window.as_json(),
            "gelatinised": round(self.gelatinised, 3),
            "amylase": round(self.amylase, 4),
            "germ_logs": round(self.germ_logs, 1),
            "catches_in_s": None if self.catches_in_s is None else round(self.catches_in_s),
            "held_s": round(self.held_s, 1),
            "volume_ratio": None if self.overrun is None else round(1 + self.overrun, 2),
            "foam_word": None if self.overrun is None else foam_word(self.overrun, self.yield_pa),
            **{
                name: None if when is None else when.as_json()
                for name, when in (
                    ("thickens", self.thickens),
                    ("nappe", self.nappe),
                    ("curdles", self.curdles),
                    ("boils", self.boils),
                )
            },
            "lift": None if self.lift is None else self.lift.as_json(),
            "ahead": _curve(self.path),
            "landing": None if self.landing is None else _curve(self.landing),
        }


def _curve(path: Path) -> dict[str, list[float]]:
    every = max(1, path.t_s.size // CURVE_POINTS)
    sauce = path.column(kernel.SAUCE_C)[::every]
    low, high = np.percentile(sauce, UNSURE, axis=1)
    return {
        "in_s": [round(float(v), 1) for v in path.t_s[::every]],
        "c": [round(float(v), 2) for v in np.median(sauce, axis=1)],
        "low_c": [round(float(v), 2) for v in low],
        "high_c": [round(float(v), 2) for v in high],
    }
