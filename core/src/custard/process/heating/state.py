"""Where a cook has brought a mix: read off a ramp already run, or held at the boil."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.mixture.setting import curdling_gap_k, setting_c, starch_delay_k
from custard.physics import coagulation, starch
from custard.process.heating import kernel, ramp
from custard.process.heating.pan import LEAST_LEFT


@dataclass(frozen=True)
class State:
    """Where a cook has brought the mix: temperature [degC], degrees [0 to 1].

    `swollen` is the share of its starch's full swelling; `undisturbed`: nobody stirred it while it set.
    `left` is the share of its mass that steam has left of it [1]; a plan counts none.
    """

    at_c: float
    thickened: float
    curdled: float
    gelatinised: float
    swollen: float
    boiled: bool
    undisturbed: bool = False
    left: float = 1.0


def left_of(mass_g: float, steamed_g: float) -> float:
    """Share of a mix that steam has left of it [1]."""
    return max(LEAST_LEFT, 1 - steamed_g / mass_g)


def state_of(y: NDArray[np.float64], mass_g: float, *, boiled: bool, undisturbed: bool = False) -> State:
    """Where a cook of so much [g] stands, read off a state of the kernel."""
    return State(
        at_c=float(y[kernel.SAUCE_C]),
        thickened=float(y[kernel.THICKENED]),
        curdled=float(y[kernel.CURDLED]),
        gelatinised=float(y[kernel.GELATINISED]),
        swollen=float(y[kernel.SWOLLEN]),
        boiled=boiled,
        undisturbed=undisturbed,
        left=left_of(mass_g, float(y[kernel.STEAMED_G])),
    )


def sieve_percent(y: NDArray[np.float64]) -> float:
    """Curdled in the bulk and swept off the wall, percent of the egg: what a sieve would hold."""
    return float(100 * (1 - (1 - y[kernel.CURDLED]) * (1 - y[kernel.BITS])))


def on_ramp(mixture: Mixture, course: ramp.Ramp, at_c: float, p: Parameters) -> State:
    """The state of a mix at a temperature [degC] on a ramp already run."""

    def here(values: ramp.Array) -> float:
        return float(np.interp(at_c, course.temperature_c, values))

    gelatinised = here(course.gelatinised)
    return State(
        at_c=at_c,
        thickened=here(course.thickened),
        curdled=here(course.curdled),
        gelatinised=gelatinised,
        swollen=gelatinised * _capacity(mixture, at_c, p),
        boiled=False,
        undisturbed=course.undisturbed,
    )


def held_at_boil(mixture: Mixture, course: ramp.Ramp, boil_c: float, p: Parameters) -> State:
    """The state of a mix held at its boil [degC] as long as starch creams are."""
    setting = setting_c(mixture, p)
    co, kind, hold = p.coagulation, mixture.starch, p.cook.boil_hold_s
    delay = starch_delay_k(mixture, p)

    def after(degree: float, rate: float) -> float:
        return float(1 - (1 - degree) * np.exp(-rate * hold))

    start = on_ramp(mixture, course, boil_c, p)
    gelatinised = after(
        start.gelatinised, coagulation.rate(boil_c, kind.reference_c + delay, kind.rate_per_s, kind.z_k)
    )
    curdling = coagulation.curdling_temperature(
        setting,
        mixture.starch_in_aqueous_percent * gelatinised,
        curdling_gap_k(mixture, p, undisturbed=course.undisturbed),
        co.starch_guard_k,
        co.starch_guard_percent,
    )
    return State(
        at_c=boil_c,
        thickened=after(start.thickened, coagulation.rate(boil_c, setting, co.set_rate_per_s, co.set_z_k)),
        curdled=after(start.curdled, coagulation.rate(boil_c, curdling, co.curdle_rate_per_s, co.curdle_z_k)),
        gelatinised=gelatinised,
        swollen=gelatinised * _capacity(mixture, boil_c, p),
        boiled=True,
        undisturbed=course.undisturbed,
    )


def _capacity(mixture: Mixture, at_c: float, p: Parameters) -> float:
    kind_shift = mixture.starch.reference_c - starch.MAIZE_REFERENCE_C
    return float(starch.capacity(at_c, starch_delay_k(mixture, p) + kind_shift))
