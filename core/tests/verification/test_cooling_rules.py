"""Every cooling rule at its own edges, from both sides, on curves written down here."""

from __future__ import annotations

import custard
import numpy as np
import pytest
from custard.larder import cooling_rules
from custard.process.cooling.chill import CooledBy, _judge, chill

EDGE_H = 0.02

# What each rule allows, written out again as food codes are remembered: hours from leaving the hot
# temperature to the first, and to the second from where its leg is counted.
LEGS = {
    "us": ((57, 21, 2.0), (57, 5, 6.0)),
    "uk": ((63, 8, 1.5), (63, 8, 1.5)),
    "codex": ((60, 10, 2.0), (60, 4, 24.0)),
    "au": ((60, 21, 2.0), (21, 5, 4.0)),
    "fr": ((63, 10, 2.0), (63, 10, 2.0)),
}


def test_every_rule_has_its_edges_here():
    assert set(LEGS) == set(cooling_rules())


def judged(rule: str, points: list[tuple[float, float]]) -> bool:
    """Whether a curve through (hours, degrees) keeps to a rule."""
    hours, degrees = zip(*points, strict=True)
    t = np.linspace(0, hours[-1] * 3600, 40_001)
    return _judge(t, np.interp(t / 3600, hours, degrees), cooling_rules()[rule])[0]


def curve(rule: str, first_h: float, second_h: float) -> list[tuple[float, float]]:
    """Half an hour hot, the first leg in `first_h`, the second in `second_h` as the rule counts it."""
    (hot, first, _), (second_from, second, _) = LEGS[rule]
    begins = 0.5
    at_first = begins + first_h
    at_second = (at_first if second_from == first else begins) + second_h
    points = [(0.0, hot + 10.0), (begins, hot), (at_first, first)]
    if second < first:
        points.append((max(at_second, at_first + 1e-3), second))
    return [*points, (points[-1][0] + 1.0, second - 1.0)]


@pytest.mark.parametrize("rule", LEGS)
@pytest.mark.parametrize(("off", "keeps"), [(-EDGE_H, True), (EDGE_H, False)])
def test_the_first_leg(rule, off, keeps):
    (_, _, first_h), (_, _, second_h) = LEGS[rule]
    assert judged(rule, curve(rule, first_h + off, second_h - EDGE_H)) is keeps


@pytest.mark.parametrize("rule", [rule for rule, (first, second) in LEGS.items() if second[1] < first[1]])
@pytest.mark.parametrize(("off", "keeps"), [(-EDGE_H, True), (EDGE_H, False)])
def test_the_second_leg(rule, off, keeps):
    (_, _, first_h), (_, _, second_h) = LEGS[rule]
    assert judged(rule, curve(rule, 0.5 * first_h, second_h + off)) is keeps


def test_four_hours_more_are_not_six_in_all():
    """Quick at first and slow after: within six hours of the start, but five hours from 21 to 5."""
    slow = [(0.0, 70.0), (0.5, 60.0), (1.0, 21.0), (6.0, 5.0), (7.0, 4.0)]
    assert not judged("au", slow)
    assert judged("us", slow)


# Unstirred pastry cream in plenty of ice water, bottom and wall cooled: finite differences done elsewhere.
SET_CREAM = [(1.0, 50, 1.2), (3.0, 100, 2.5), (10.0, 150, 5.5)]


@pytest.mark.parametrize(("mass_kg", "depth_mm", "hours"), SET_CREAM)
def test_a_set_cream_in_ice_is_conducted_through_depth_and_width(make, mass_kg, depth_mm, hours):
    made = chill(pastry_cream(make), 95, 5, "ice-bath", 1000 * mass_kg, depth_mm)
    taken = (np.interp(-21, -made.core_c, made.t_s) - np.interp(-57, -made.core_c, made.t_s)) / 3600
    assert taken == pytest.approx(hours, rel=0.15)


def test_ten_kilograms_of_pastry_cream_left_in_ice_pass_no_rule(make):
    """It was told to pass in under an hour, at any depth."""
    cream = pastry_cream(make)
    for rule in cooling_rules():
        made = chill(cream, 95, 5, "ice-bath", 10_000, 150, conditions=custard.Conditions(rule=rule))
        assert made.verdict == "fails"
        assert made.greatest_depth_mm is None or made.greatest_depth_mm < 110


def test_a_stirred_cream_is_slower_than_a_stirred_sauce_and_what_nobody_stirs_slower_still(anglaise, make):
    sauce, cream = custard.mix(anglaise), pastry_cream(make)

    def to_21_s(mixture, **how):
        return chill(mixture, 82, 21, CooledBy("ice-bath", **how), 700, 60).time_to_21_s

    stirred = [to_21_s(one, stirred=True) for one in (sauce, cream)]
    assert 4 * 60 < stirred[0] < 11 * 60
    assert stirred[1] > 1.5 * stirred[0]
    for one, at_best in zip((sauce, cream), stirred, strict=True):
        often, seldom = to_21_s(one, stirred=True, every_s=120), to_21_s(one, stirred=True, every_s=600)
        assert at_best < often < seldom < to_21_s(one)
    # What sets undisturbed is conducted, however little starch is in it.
    assert to_21_s(sauce, sets=True) > to_21_s(sauce)


@pytest.mark.parametrize(
    ("mass_g", "depth_mm", "least_h", "most_h"),
    [(700, 40, 0.2, 0.5), (5000, 150, 2, 5), (20_000, 400, 9, 30)],
)
def test_what_nobody_stirs_in_ice_takes_as_long_as_kitchens_find(anglaise, mass_g, depth_mm, least_h, most_h):
    """The warmest spot, 82 to 21 degC, as remembered; twenty kilograms in a pail are computed half an hour
    too quick and fail their rule by far."""
    found = chill(custard.mix(anglaise), 82, 5, "ice-bath", mass_g, depth_mm)
    assert least_h * 3600 <= found.time_to_21_s <= most_h * 3600
    assert found.verdict == ("passes" if mass_g == 700 else "fails")
    assert (found.greatest_depth_mm < depth_mm) == (mass_g > 700)


def test_deeper_and_more_are_never_quicker(anglaise):
    sauce = custard.mix(anglaise)
    per_mm = [chill(sauce, 82, 5, "ice-bath", 20 * mm, mm).time_to_21_s for mm in range(20, 320, 20)]
    assert per_mm == sorted(per_mm)
    by_mass = [chill(sauce, 82, 5, "blast", 1000 * kg, 50).time_to_21_s for kg in (1, 5, 10, 20, 40)]
    assert by_mass == sorted(by_mass)
    # A chiller has so much power: four times as much takes longer, not as long.
    assert by_mass[3] > 1.5 * by_mass[1]


def test_the_greatest_depth_is_that_of_the_vessel_in_hand(make):
    """Found at its width: a wider bowl of the same cream at the same depth is told much the same."""
    cream = pastry_cream(make)
    bowls = [chill(cream, 70, 5, "ice-bath", mass, 60).greatest_depth_mm for mass in (1500, 6000)]
    assert bowls[1] <= bowls[0]
    for mass, depth in ((1500, bowls[0]), (6000, bowls[1])):
        width = mass / 60
        assert chill(cream, 70, 5, "ice-bath", width * (depth - 1), depth - 1).verdict == "passes"
        assert chill(cream, 70, 5, "ice-bath", width * (depth + 1), depth + 1).verdict == "fails"


def pastry_cream(make):
    lines = ("whole-milk", "1 l"), ("egg-yolk", "8"), ("white-sugar", "200 g"), ("cornstarch", "90 g")
    return custard.mix(make("pastry-cream", *lines))
