"""The standard cook against closed-form and numerically integrated kinetics."""

from __future__ import annotations

import custard
import numpy as np
import pytest
from custard.larder.parameters import standard
from custard.mixture.setting import setting_c
from custard.process.heating import ramp
from scipy.integrate import solve_ivp


def test_thickening_on_a_ramp_is_the_analytic_integral(anglaise):
    """tau = 1 - exp(-k(T) z / (ln 10 r)) for a first-order law on a ramp."""
    p = standard()
    mixture = custard.mix(anglaise)
    course = ramp.run(mixture, p, 4.0, 95.0)
    setting = setting_c(mixture, p)
    k = p.coagulation.set_rate_per_s * 10 ** ((90.0 - setting) / p.coagulation.set_z_k)
    expected = 1 - np.exp(-k * p.coagulation.set_z_k / np.log(10) / (4 / 60))
    assert np.interp(90.0, course.temperature_c, course.thickened) == pytest.approx(expected, abs=1e-6)


def test_the_whole_ramp_agrees_with_an_independent_integrator(make):
    """Thickening, starch and curdling together, LSODA at 1e-9, written out again from the equations."""
    p = standard()
    mixture = custard.mix(
        make(
            "pouring-custard",
            ("whole-milk", "500 ml"),
            ("egg-yolk", 5),
            ("white-sugar", "80 g"),
            ("cornstarch", "6 g"),
        )
    )
    co, kind = p.coagulation, mixture.starch
    setting, s = setting_c(mixture, p), mixture.sugars_in_aqueous_percent
    swells = kind.reference_c + 0.15 * s + 0.005 * s * s

    def slope(time, y):
        t = 20 + 4 / 60 * time
        tau, c, g = y
        w = mixture.starch_in_aqueous_percent * g
        curdles = setting + co.curdle_gap_k + co.starch_guard_k * (1 - np.exp(-w / co.starch_guard_percent))
        return [
            (1 - tau) * co.set_rate_per_s * 10 ** ((t - setting) / co.set_z_k),
            tau * (1 - c) * co.curdle_rate_per_s * 10 ** ((t - curdles) / co.curdle_z_k),
            (1 - g) * kind.rate_per_s * 10 ** ((t - swells) / kind.z_k),
        ]

    end = (98 - 20) / (4 / 60)
    truth = solve_ivp(slope, (0, end), [0, 0, 0], method="LSODA", rtol=1e-9, atol=1e-12).y[:, -1]
    course = ramp.run(mixture, p, 4.0, 98.0)
    ours = [course.thickened[-1], course.curdled[-1], course.gelatinised[-1]]
    assert ours == pytest.approx(list(truth), abs=2e-3)
