"""Stirring by place has today's cook for its limits; a spot left alone goes ahead by itself."""

from __future__ import annotations

import custard
import numpy as np
import pytest
from custard.process.heating import kernel, pan, zones
from custard.process.heating.cook import constants, step_s, usual_stove
from custard.process.whisking.whisk import under_foam

MIXES = {
    "anglaise": (("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g")),
    "starch": (("whole-milk", "500 ml"), ("egg-yolk", 5), ("white-sugar", "90 g"), ("cornstarch", "30 g")),
}
TICK_S, SECONDS = 0.2, 300.0
LOCAL = zones.local(custard.USUAL.parameters, foams=False)
ALL = tuple(range(zones.ZONES))


def stove(make, name="anglaise", power=400.0, **more):
    mixture = custard.mix(make("anglaise", *MIXES[name]))
    return constants(mixture, custard.process.Stove(power_w=power, **more))


def cooked(k, passed, seconds=SECONDS, lit=1.0):
    """A pan of which the spots named by `passed(t)` are passed at every tick."""
    y, spots = zones.at_rest(60.0)
    for tick in range(round(seconds / TICK_S)):
        spots[list(passed(tick * TICK_S)), zones.GAP_S] = 0.0
        zones.advance(k, LOCAL, y, spots, TICK_S, step_s(k), lit)
    return y, spots


def as_today(k, stirring, seconds=SECONDS):
    y = kernel.at_rest(60.0)
    for _ in range(round(seconds / TICK_S)):
        kernel.advance(k, y, TICK_S, step_s(k), 1.0, float(stirring))
    return y


@pytest.mark.parametrize("name", MIXES)
@pytest.mark.parametrize("heat", [{}, {"over_steam": True, "power": 1500.0}, {"gross": True}])
@pytest.mark.parametrize(("passed", "stirring"), [(ALL, pan.WHISK), ((), pan.STILL)])
def test_the_limits_are_todays_cook(make, name, heat, passed, stirring):
    k = stove(make, name, **heat)
    y, spots = cooked(k, lambda _: passed)
    assert y[: kernel.COLUMNS + 2] == pytest.approx(as_today(k, stirring), rel=1e-7, abs=1e-9)
    assert np.ptp(spots[:, zones.HOT_C]) < 1e-9


def test_between_the_limits_heat_crosses_between_them(make):
    k = stove(make)
    half, _ = cooked(k, lambda t: ALL if t % 8 < 0.1 else ())
    still, all_over = as_today(k, pan.STILL), as_today(k, pan.WHISK)
    assert still[kernel.SAUCE_C] < half[kernel.SAUCE_C] < all_over[kernel.SAUCE_C]
    assert all_over[kernel.BASE_C] < half[kernel.BASE_C] < still[kernel.BASE_C]


def test_a_spot_left_alone_goes_ahead_by_itself(make):
    k = stove(make)
    left = zones.ZONES - 1
    _, spots = cooked(k, lambda _: ALL[:-1], 200.0)
    others = np.delete(spots, left, axis=0)
    assert spots[left, zones.HOT_C] > others[:, zones.HOT_C].max() + 5
    assert spots[left, zones.LYING] > 10 * others[:, zones.LYING].max()
    assert spots[left, zones.BROWNED] > 10 * others[:, zones.BROWNED].max()
    assert spots[left, zones.LONGEST_S] > 100  # never passed at all
    assert others[:, zones.LONGEST_S].max() <= TICK_S + 1e-9


def test_what_lay_there_comes_off_as_bits_when_it_is_passed(make):
    k, seconds = stove(make), 220.0
    never, _ = cooked(k, lambda _: ALL[:-1], seconds)
    late, _ = cooked(k, lambda t: ALL if t > seconds - 4 else ALL[:-1], seconds)
    always, _ = cooked(k, lambda _: ALL, seconds)
    assert late[kernel.BITS] > never[kernel.BITS]
    assert late[kernel.BITS] > always[kernel.BITS]


@pytest.mark.parametrize("every_s", [3.0, 6.0, 12.0, 24.0])
def test_the_less_often_it_is_passed_the_more_it_browns_and_lumps(make, every_s):
    k = stove(make, "starch", 900.0)
    often, more = (
        cooked(k, lambda t, e=e: ALL if t % e < 0.1 else (), 200.0) for e in (every_s, 2 * every_s)
    )
    assert more[0][kernel.CAUGHT] >= often[0][kernel.CAUGHT]
    assert more[0][zones.LUMPS] >= often[0][zones.LUMPS]


def test_every_degree_stays_between_none_and_all(make):
    k = stove(make, power=3000.0)
    draw = np.random.default_rng(3)
    y, spots = cooked(k, lambda _: np.flatnonzero(draw.random(zones.ZONES) < 0.1), 900.0)
    degrees = [kernel.THICKENED, kernel.CURDLED, kernel.BITS, zones.LUMPS]
    assert np.all((y[degrees] >= 0) & (y[degrees] <= 1))
    assert np.all((spots[:, zones.LYING] >= 0) & (spots[:, zones.LYING] <= 1))


def test_spots_have_one_area_and_a_stroke_passes_those_it_touches():
    draw = np.random.default_rng(1)
    radius, turn = np.sqrt(draw.random(40_000)), 2 * np.pi * draw.random(40_000)
    found = [zones.zone_at(x, y) for x, y in zip(radius * np.cos(turn), radius * np.sin(turn), strict=True)]
    shares = np.bincount(found, minlength=zones.ZONES) / len(found)
    assert shares == pytest.approx(1 / zones.ZONES, abs=0.01)
    assert [zones.zone_at(x, y) for x, y in zones.centres()] == list(ALL)
    _, spots = zones.at_rest(60.0)
    zones.stroke(spots, -0.9, 0.0, 0.9, 0.0, 0.1)
    passed = set(np.flatnonzero(spots[:, zones.GAP_S] == 0).tolist())
    assert {0, 1, 3, 5, 9} <= passed
    assert not passed & {7, 11}


def test_air_goes_in_as_by_whisking_all_the_time(make):
    """Whisked everywhere it is the foam that `whisk` makes."""
    formula = make("sabayon", ("egg-yolk", 6), ("white-sugar", "110 g"), ("white-wine-12", "120 ml"))
    mixture = custard.mix(formula)
    done = custard.process.whisk(mixture, start_c=25.0, lift_c=72.0)
    p = under_foam(custard.USUAL.parameters)
    k = constants(mixture, usual_stove(mixture, p, over_steam=True), custard.USUAL.by(p))
    y, spots = zones.at_rest(25.0)
    at = zones.local(p, foams=True)
    while y[kernel.SAUCE_C] < 72.0:
        spots[:, zones.GAP_S] = 0.0
        zones.advance(k, at, y, spots, TICK_S, step_s(k), 1.0)
    assert y[kernel.T_S] == pytest.approx(done.t_s[-1], rel=0.01)
    assert y[zones.AIR] == pytest.approx(done.overrun[-1], rel=0.02)


def test_compiled_equals_plain(make):
    k = stove(make)
    fast, slow = zones.at_rest(78.0), zones.at_rest(78.0)
    for _, spots in (fast, slow):
        spots[:6, zones.GAP_S] = 0.0
    zones.advance(k, LOCAL, *fast, 5.0, step_s(k), 1.0, 1.0)
    zones.advance.py_func(k, LOCAL, *slow, 5.0, step_s(k), 1.0, 1.0)
    for quick, plain in zip(fast, slow, strict=True):
        assert quick == pytest.approx(plain, rel=1e-9, abs=1e-12)
