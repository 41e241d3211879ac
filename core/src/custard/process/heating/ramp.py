"""The standard cook: a mix warmed at a steady rate, seen at every temperature on the way.

On a ramp every first-order law integrates in closed form, so the whole of it is a few array
expressions; anything with a pan, a flame and a cook is simulated instead.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from custard.larder.parameters import Parameters
from custard.mixture import Mixture
from custard.mixture.body import body_of, hot_yield
from custard.mixture.setting import curdling_gap_k, setting_c, starch_delay_k
from custard.physics import coagulation, starch

START_C = 20.0
STEP_K = 0.05
Array = NDArray[np.float64]


@dataclass(frozen=True)
class Ramp:
    """State of the mix along the ramp; equally long arrays.

    Attributes
    ----------
    temperature_c : temperature [degC].
    thickened, curdled, gelatinised : degrees [0 to 1].
    yield_pa : yield stress at that temperature [Pa].
    undisturbed : it sets without being stirred.
    """

    temperature_c: Array
    thickened: Array
    curdled: Array
    gelatinised: Array
    yield_pa: Array
    undisturbed: bool


def run(
    mixture: Mixture,
    p: Parameters,
    rate_k_per_min: float,
    to_c: float,
    step_k: float = STEP_K,
    *,
    undisturbed: bool = False,
) -> Ramp:
    """The mix warmed from 20 degC to `to_c` [degC] at a steady rate [K/min], stirred or not."""
    t = np.arange(START_C, max(to_c, START_C + 1) + step_k / 2, step_k)
    per_s = rate_k_per_min / 60
    co, kind = p.coagulation, mixture.starch
    delay = starch_delay_k(mixture, p)

    def exposure(reference: float, rate: float, z: float) -> Array:
        """Integral of a first-order rate from the start of time to each temperature [1]."""
        return np.asarray(coagulation.rate(t, reference, rate, z) * z / (np.log(10) * per_s))

    setting = setting_c(mixture, p)
    thickened = -np.expm1(-exposure(setting, co.set_rate_per_s, co.set_z_k))
    gelatinised = -np.expm1(-exposure(kind.reference_c + delay, kind.rate_per_s, kind.z_k))
    swollen_percent = mixture.starch_in_aqueous_percent * gelatinised
    curdling = coagulation.curdling_temperature(
        setting,
        swollen_percent,
        curdling_gap_k(mixture, p, undisturbed=undisturbed),
        co.starch_guard_k,
        co.starch_guard_percent,
    )
    speed = thickened * coagulation.rate(t, curdling, co.curdle_rate_per_s, co.curdle_z_k) / per_s
    spent = np.concatenate(([0.0], np.cumsum((speed[1:] + speed[:-1]) / 2 * step_k)))
    curdled = -np.expm1(-spent)
    swollen = gelatinised * starch.capacity(t, delay + kind.reference_c - starch.MAIZE_REFERENCE_C)
    vol = body_of(mixture, p)
    stress = hot_yield(mixture, vol, thickened, curdled, swollen, t, p, undisturbed=undisturbed)
    return Ramp(t, thickened, curdled, gelatinised, stress, undisturbed)


def first_reach(t: Array, values: Array, level: float) -> float | None:
    """Temperature at which `values` first reaches `level`, interpolated; None when it never does."""
    above = values >= level
    if not above.any():
        return None
    i = int(np.argmax(above))
    if i == 0:
        return float(t[0])
    share = (level - values[i - 1]) / (values[i] - values[i - 1])
    return float(t[i - 1] + share * (t[i] - t[i - 1]))
