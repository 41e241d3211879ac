"""Solvers, remedies, calibration and estimates do what they promise, or say what is nearest."""

from __future__ import annotations

import custard
import numpy as np
import pytest
from custard.advice.bench.solve import texture_pa
from custard.advice.stove.calibrate import FROM_DAY_TO_DAY
from custard.physics.texture import word
from custard.process.heating import kernel
from custard.process.heating.state import on_ramp

PRICES = {"whole-milk": 1.1, "egg-yolk": 9.0, "white-sugar": 1.2, "cornstarch": 2.0}


@pytest.mark.parametrize("wanted", ["thin coat", "heavy coat", "spoonable", "pipeable"])
@pytest.mark.parametrize("at_c", [4.0, 60.0])
@pytest.mark.parametrize("starch_g", [0, 45])
@pytest.mark.parametrize("yolks", [6, 2])
def test_every_way_to_a_texture_is_true_and_keeps_to_the_bounds_of_the_trade(
    make, wanted, at_c, starch_g, yolks
):
    """“Spoonable” was once had of an anglaise with 36 yolks."""
    starch = (("cornstarch", f"{starch_g} g"),) if starch_g else ()
    lines = ("whole-milk", "500 ml"), ("egg-yolk", f"{yolks}"), ("white-sugar", "90 g")
    before = make("pastry-cream" if starch_g else "anglaise", *lines, *starch)
    try:
        ways = custard.bench.ways_to_texture(before, wanted, at_c)
    except custard.bench.OutOfReach as refused:
        ways = {"the nearest": refused.nearest}
    else:
        for found in ways.values():
            if found.lift_c is not None:
                continue
            reached = texture_pa(custard.assess(found.formula), at_c)
            assert reached == pytest.approx(custard.bench.TARGETS[wanted], rel=0.06)
    for found in ways.values():
        mixture = custard.mix(found.formula)
        assert found.formula.yolks() <= 2 * yolks + 0.01
        assert mixture.fractions["starch"] <= 0.10
        for line in found.formula.lines:
            if line.ingredient.id == "egg-yolk" and not line.quantity.unit:
                assert line.quantity.number == int(line.quantity.number)


def lifted(formula, lift_c, at_c):
    """The word for a sauce lifted at a temperature [degC] and served at another."""
    result = custard.assess(formula)
    state = on_ramp(result.pan, result.course(), lift_c, result.conditions.parameters)
    return word(texture_pa(result, at_c, state))


def test_a_sauce_that_is_as_wanted_at_its_stop_is_left_as_it_is(anglaise):
    by, first = next(iter(custard.bench.ways_to_texture(anglaise, "nappe", 4).items()))
    assert (by, first.changes, first.formula) == ("as it is", (), anglaise)
    assert lifted(anglaise, first.lift_c, 4) == "nappe"


@pytest.mark.parametrize(("wanted", "at_c"), [("heavy coat", 4), ("heavy coat", 20)])
def test_cooking_it_on_is_an_answer_where_that_alone_is_enough(anglaise, wanted, at_c):
    ways = custard.bench.ways_to_texture(anglaise, wanted, at_c)
    result = custard.assess(anglaise)
    found = ways["cooked on"]
    assert next(iter(ways)) == "cooked on"
    assert len(ways) > 1
    assert found.formula == anglaise
    assert result.stop.at_c < found.lift_c < result.window.curdles_c - 1.5
    assert lifted(anglaise, found.lift_c, at_c) == wanted


def test_what_is_boiled_or_baked_is_not_cooked_on(make):
    cream = make("pastry-cream", ("whole-milk", "500 ml"), ("egg-yolk", "5"), ("cornstarch", "20 g"))
    cups = make("burnt-cream", ("whole-milk", "500 ml"), ("egg-yolk", "6"), ("white-sugar", "90 g"))
    for formula, wanted in ((cream, "pipeable"), (cups, "spoonable")):
        assert not {"as it is", "cooked on"} & set(custard.bench.ways_to_texture(formula, wanted, 4))


def test_what_is_to_be_thinner_loses_starch_and_what_is_to_be_thicker_has_several_ways(make, anglaise):
    lines = ("whole-milk", "500 ml"), ("egg-yolk", "5"), ("white-sugar", "100 g"), ("cornstarch", "45 g")
    first = custard.bench.for_texture(make("pastry-cream", *lines), "spoonable", 4)
    assert [change.split(":")[0] for change in first.changes] == ["cornstarch"]
    ways = custard.bench.ways_to_texture(anglaise, "spoonable", 4)
    assert len(ways) >= 2
    assert any(found.formula.yolks() < 5 for found in ways.values())
    assert all(
        any("starch" in change or "cream" in change for change in found.changes) for found in ways.values()
    )


def test_a_swap_that_cannot_be_exact_says_how_much_sweeter_it_is(make):
    lines = ("whole-milk", "500 ml"), ("egg-yolk", 5), ("white-sugar", "30 g"), ("dark-chocolate-70", "150 g")
    found = custard.bench.swap_chocolate(make("cremeux", *lines), "milk-chocolate")
    assert all(line.ingredient.id != "white-sugar" for line in found.formula.lines)
    assert "sweeter: " in found.reached
    condensed = custard.bench.swap_dairy(make("cremeux", *lines[:3]), "condensed-milk", 60.0)
    assert "sweeter: " in condensed.reached
    assert all(line.ingredient.id != "white-sugar" for line in condensed.formula.lines)


def test_with_few_yolks_starch_makes_up_for_them(anglaise):
    found = custard.bench.for_texture(anglaise, "pipeable", 4, custard.bench.Limits(max_yolks=6))
    assert found.formula.yolks() <= 6.01
    assert any(change.startswith("cornstarch") for change in found.changes)
    assert texture_pa(custard.assess(found.formula), 4) == pytest.approx(120, rel=0.06)


def test_the_impossible_is_said_with_the_nearest(anglaise):
    with pytest.raises(custard.bench.OutOfReach, match="The nearest is") as refused:
        custard.bench.for_texture(anglaise, "pipeable", 4, custard.bench.Limits(max_yolks=6, max_starch_g=0))
    assert refused.value.nearest.formula.yolks() == pytest.approx(6, rel=1e-3)
    assert refused.value.nearest.binds == "at most 0 g of starch"
    with pytest.raises(custard.Impossible, match="fat"):
        custard.bench.for_texture(anglaise, "spoonable", 4, custard.bench.Limits(max_fat_percent=2))


def test_fat_and_cost_hold_the_yolk_back_and_starch_does_the_rest(anglaise):
    asked = custard.bench.cost(anglaise, PRICES) + 0.05
    limits = custard.bench.Limits(max_fat_percent=5, max_cost=asked, prices_per_kg=PRICES)
    found = custard.bench.for_texture(anglaise, "spoonable", 4, limits).formula
    fractions = custard.mix(found).fractions
    assert 100 * fractions["fat"] <= 5 + 1e-4
    assert custard.bench.cost(found, PRICES) <= asked + 1e-4
    assert fractions["starch"] > 0
    assert texture_pa(custard.assess(found), 4) == pytest.approx(35, rel=0.06)


def test_a_limit_no_mix_can_keep_is_named(anglaise):
    with pytest.raises(custard.Impossible) as refused:
        custard.bench.for_texture(
            anglaise, "nappe", 4, custard.bench.Limits(max_cost=0.01, prices_per_kg=PRICES)
        )
    assert refused.value.field == "max_cost"
    with pytest.raises(custard.Impossible, match="has no price"):
        custard.bench.cost(anglaise, {"whole-milk": 1.0})


def test_a_pan_is_filled_to_its_head_room(anglaise):
    found = custard.bench.for_pan(anglaise, 2000, 0.4)
    mixture = custard.mix(found)
    assert mixture.mass_g / mixture.density_kg_m3(80) == pytest.approx(1.2, rel=2e-3)


def test_cream_for_milk_keeps_the_thickness(anglaise):
    found = custard.bench.swap_dairy(anglaise, "double-cream-48")
    before, after = (texture_pa(custard.assess(f), 4) for f in (anglaise, found.formula))
    assert after == pytest.approx(before, rel=0.06)
    assert found.formula.yolks() < anglaise.yolks()


def test_a_chocolate_swap_keeps_cocoa_and_sugar(make):
    formula = make(
        "cremeux",
        ("whole-milk", "500 ml"),
        ("egg-yolk", 5),
        ("white-sugar", "60 g"),
        ("dark-chocolate-70", "150 g"),
    )
    found = custard.bench.swap_chocolate(formula, "dark-chocolate-54").formula
    old, new = custard.mix(formula), custard.mix(found)

    def grams(mixture, *parts):
        return mixture.mass_g * sum(mixture.fractions[part] for part in parts)

    cocoa = ("cocoa_solids", "cocoa_butter")
    assert grams(new, *cocoa) == pytest.approx(grams(old, *cocoa), rel=1e-3)
    assert grams(new, "sucrose") == pytest.approx(grams(old, "sucrose"), rel=2e-3)


def test_a_mix_is_solved_for_the_height_of_the_kitchen(anglaise):
    """At 4500 m it boils before it is well set: what is enough at the sea is not enough there."""
    high, low = (
        custard.bench.ways_to_texture(anglaise, "heavy coat", 4, conditions=custard.Conditions(altitude_m=m))[
            "with yolk"
        ]
        for m in (4500, 0)
    )
    there = [
        texture_pa(custard.assess(found.formula, custard.Conditions(altitude_m=4500)), 4)
        for found in (high, low)
    ]
    assert there[0] == pytest.approx(11, rel=0.06)
    assert there[1] < 0.9 * there[0]


@pytest.mark.parametrize("thing", ["white-sugar", "egg-yolk", "butter-unsalted"])
def test_only_milk_or_cream_stands_in_for_milk(anglaise, thing):
    with pytest.raises(custard.OutOfRange, match="not a milk or cream"):
        custard.bench.swap_dairy(anglaise, thing)


def test_two_ways_on_with_missing_yolks(anglaise):
    smaller, thickened = custard.bench.with_missing_yolks(anglaise, 4)
    assert smaller.formula.yolks() == pytest.approx(4, rel=1e-3)
    assert smaller.formula.mass_g() == pytest.approx(anglaise.mass_g() * 4 / 6, rel=1e-3)
    wanted = texture_pa(custard.assess(anglaise), 60)
    assert texture_pa(custard.assess(thickened.formula), 60) == pytest.approx(wanted, rel=0.06)


@pytest.mark.parametrize("fault", custard.trouble.faults())
def test_every_fault_that_a_mix_can_have_has_a_remedy_or_an_honest_no(make, fault):
    """What it cannot have is refused: no raw starch without starch, no bits of egg without egg."""
    can = [formula for formula in every_family(make) if met_in(formula, fault)]
    assert can
    for formula in can:
        remedy = custard.trouble.rescue(formula, fault).now
        assert remedy.steps
        assert remedy.saved in ("yes", "perhaps", "no")
        assert all(one.grams > 0 for one in remedy.add)
    for formula in every_family(make):
        if formula not in can:
            with pytest.raises(custard.Impossible, match="cannot be in"):
                custard.trouble.rescue(formula, fault)


def met_in(formula, fault):
    return custard.trouble.met(custard.assess(formula), custard.trouble.faults()[fault])


def every_family(make):
    """A formula for each kind of fault, and one without egg."""
    milk, yolk, sugar = ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g")
    return [
        make("anglaise", milk, yolk, sugar),
        make("anglaise", milk, sugar),
        make("pastry-cream", milk, yolk, sugar, ("cornstarch", "40 g")),
        custard.read_formula(
            {
                "format": "old-spoon/formula",
                "version": 2,
                "name": "folded",
                "family": "sabayon",
                "lines": [
                    {"ingredient": "egg-yolk", "amount": 6},
                    {"ingredient": "white-sugar", "amount": "100 g"},
                    {"ingredient": "white-wine-12", "amount": "120 g"},
                    {"ingredient": "whipping-cream-36", "amount": "200 g", "when": "folded when cool"},
                ],
            }
        ),
        custard.read_formula(
            {
                "format": "old-spoon/formula",
                "version": 2,
                "name": "onto chocolate",
                "family": "cremeux",
                "lines": [
                    {"ingredient": "whole-milk", "amount": "500 g"},
                    {"ingredient": "egg-yolk", "amount": 6},
                    {"ingredient": "dark-chocolate-70", "amount": "150 g", "when": "under it"},
                ],
            }
        ),
        make("ice-base", milk, yolk, sugar),
        make("baked-custard", milk, ("whole-egg", 4), sugar),
        make("burnt-cream", ("whipping-cream-36", "500 g"), yolk, sugar),
    ]


def test_a_base_without_egg_stops_where_dairy_does_and_is_thickened_without_yolk(make):
    base = make("ice-base", ("whole-milk", "500 ml"), ("white-sugar", "90 g"))
    assert custard.assess(base).stop.at_c == pytest.approx(82, abs=3)
    remedy = custard.trouble.rescue(base, "too-thin").now
    assert [one.ingredient for one in remedy.add] == ["cornstarch"]


@pytest.mark.parametrize(("eggs", "sets"), [(0, False), (0.2, False), (1.5, True)])
def test_cups_set_only_with_enough_in_them_to_set(make, eggs, sets):
    egg = (("whole-egg", f"{50 * eggs:g} g"),) if eggs else ()
    cups = make("baked-custard", ("whole-milk", "250 ml"), ("white-sugar", "25 g"), *egg)
    assert (custard.process.bake(custard.mix(cups)).out_s is not None) == sets


@pytest.mark.parametrize("wet", ["water", "whole-milk"])
def test_what_has_no_egg_does_not_whip(make, wet):
    with pytest.raises(custard.Impossible, match="does not whip"):
        custard.process.whisk(custard.mix(make("sabayon", (wet, "200 g"), ("white-sugar", "50 g"))), 20, 60)


def test_past_its_stop_is_no_cause_where_it_is_boiled_on_purpose(make):
    lines = ("whole-milk", "500 ml"), ("egg-yolk", 5), ("white-sugar", "100 g"), ("cornstarch", "45 g")
    result = custard.assess(make("pastry-cream", *lines))
    for fault in ("too-thick", "bits", "split", "cooked-egg-taste"):
        causes = [one.cause for one in custard.trouble.answer(result, fault).causes]
        assert causes
        assert "late" not in causes


def test_a_split_sauce_with_starch_comes_back_and_without_depends_on_how_far(make, anglaise):
    lines = ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g"), ("cornstarch", "8 g")
    assert custard.trouble.rescue(make("pouring-custard", *lines), "split").now.saved == "yes"
    assert custard.trouble.rescue(anglaise, "split", over_k=2).now.saved == "perhaps"
    assert custard.trouble.rescue(anglaise, "split", over_k=9).now.saved == "no"


def test_half_as_much_sauce_needs_half_the_cream(anglaise):
    whole, half = (
        custard.trouble.rescue(anglaise, "too-thick", have_g=g).now.add[0].grams for g in (600, 300)
    )
    assert half == pytest.approx(whole / 2, rel=0.02)


@pytest.mark.parametrize("seed", range(4))
def test_a_noisy_curve_gives_back_the_hob_within_its_error(anglaise, seed):
    rng = np.random.default_rng(seed)
    mixture, power = custard.mix(anglaise), float(rng.uniform(200, 700))
    done = custard.process.cook(mixture, 45, 80, custard.process.Stove(power_w=power))
    t = done.column(kernel.T_S)
    noisy = done.column(kernel.SAUCE_C) + rng.normal(0, 0.2, t.size)
    found = custard.stove.calibrate(mixture, list(t), list(noisy))
    assert found.power_w == pytest.approx(power, rel=0.08)
    assert abs(found.power_w - power) < 4 * found.power_error_w + 1


@pytest.mark.parametrize("seed", [0, 5, 6, 9])
@pytest.mark.parametrize(("starch", "until_c"), [("1 g", 82.0), ("19 g", 99.4)])
def test_a_hob_is_found_though_pan_and_stirring_are_hidden_too(make, starch, until_c, seed):
    """Stirring unlike its kind, in a cream that thickens, looks like a stronger hob under a heavier pan."""
    formula = make(
        "pouring-custard",
        ("whole-milk", "586 g"),
        ("egg-yolk", "4 yolks"),
        ("white-sugar", "57 g"),
        ("cornstarch", starch),
    )
    mixture = custard.mix(formula)
    noise = np.random.default_rng(seed)
    real = custard.process.StoveRehearsal(mixture, custard.process.Stove(power_w=300), 74, seed)
    t, read = [], []
    while real.sauce_c < until_c:
        real.on(2)
        t.append(real.t_s)
        read.append(real.probe_c + noise.normal(0, 0.2))
    found = custard.stove.calibrate(mixture, t, read, custard.process.Stove(power_w=300))
    error = np.hypot(found.power_error_w / found.power_w, FROM_DAY_TO_DAY)
    assert abs(np.log(found.power_w / real.power_w)) < 2 * error
    assert error < 0.3


def test_the_time_left_is_estimated_from_a_cook_in_progress(anglaise):
    mixture, stove = custard.mix(anglaise), custard.process.Stove(power_w=500)
    done = custard.process.cook(mixture, 45, 80, stove)
    t, sauce = done.column(kernel.T_S), done.column(kernel.SAUCE_C)
    part = int(0.6 * t.size)
    estimate = custard.stove.time_to(
        mixture, list(t[:part]), list(sauce[:part]), 80, custard.process.Stove(power_w=300)
    )
    assert estimate.from_readings
    assert estimate.seconds == pytest.approx(done.lift_s - t[part - 1], abs=12)


def test_before_there_are_readings_the_known_hob_is_believed(anglaise):
    mixture, stove = custard.mix(anglaise), custard.process.Stove(power_w=400)
    estimate = custard.stove.time_to(mixture, [0.0], [60.0], 80, stove)
    assert not estimate.from_readings
    assert estimate.seconds_error > 10


@pytest.mark.parametrize(
    ("t", "y"),
    [
        ([0, 1], [20, 21]),
        ([0] * 10, [20] * 10),
        (range(10), [20] * 9),
        (range(10), [float("nan")] * 10),
        (range(10), [400] * 10),
    ],
)
def test_curves_that_cannot_be_are_refused(anglaise, t, y):
    with pytest.raises(custard.CustardError):
        custard.stove.calibrate(custard.mix(anglaise), list(t), list(y))


def test_the_band_holds_the_window_and_is_the_same_each_time(anglaise):
    result = custard.assess(anglaise)
    bands = custard.bands.window_band(anglaise)
    assert bands == custard.bands.window_band(anglaise)
    for name, (low, high) in bands.items():
        assert low <= getattr(result.window, name) <= high
        assert 1 < high - low < 12


def test_bigger_ladles_are_riskier(make):
    plain = make("anglaise", ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "5 g"))
    small, large = (custard.process.temper(plain, "ladle", 95, g).worst_local_curdling for g in (30, 300))
    assert small < 0.05 < large


def test_sugar_in_the_bowl_lets_yolk_stand_the_pour(make):
    def worst(sugar):
        formula = make("anglaise", ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", f"{sugar} g"))
        return custard.process.temper(formula, "ladle", 95, 250).worst_local_curdling

    assert worst(120) < 0.1 * worst(5)


def test_a_cook_carries_its_band(anglaise):
    mixture, stove = custard.mix(anglaise), custard.process.Stove()
    bands = custard.bands.cook_band(mixture, 65, 82, stove)
    plain = custard.process.cook(mixture, 65, 82, stove)
    low, high = bands["lift_s"]
    assert low < plain.lift_s < high
    assert bands["thickened"][1] - bands["thickened"][0] > 0.1
    assert bands == custard.bands.cook_band(mixture, 65, 82, stove)


def test_texture_is_told_with_its_band(make):
    cream = make(
        "pastry-cream",
        ("whole-milk", "500 ml"),
        ("egg-yolk", 5),
        ("white-sugar", "100 g"),
        ("cornstarch", "40 g"),
    )
    bands = custard.bands.texture_band(cream)
    low, high = bands["cold_yield_stress_pa"]
    assert low < custard.assess(cream).cold.yield_stress_pa < high
    assert high > 1.5 * low


def cremeux(chocolate_g):
    lines = [
        {"ingredient": "whole-milk", "amount": "250 g"},
        {"ingredient": "egg-yolk", "amount": "60 g"},
        {"ingredient": "dark-chocolate-70", "amount": f"{chocolate_g} g", "when": "off the heat"},
    ]
    head = {"format": "old-spoon/formula", "version": 1, "name": "crémeux", "family": "cremeux"}
    return custard.read_formula({**head, "lines": lines})


def test_sauce_onto_chocolate_lands_lower_the_more_there_is(anglaise):
    little, much = (custard.process.onto_chocolate(cremeux(g), 82) for g in (80, 900))
    assert 60 < little.landing_c < 75
    assert little.melts
    assert not much.melts
    assert much.least_sauce_c > 82
    assert custard.process.onto_chocolate(anglaise, 82) is None


def test_the_least_sauce_temperature_just_melts_it():
    least = custard.process.onto_chocolate(cremeux(250), 82).least_sauce_c
    assert custard.process.onto_chocolate(cremeux(250), least + 0.5).melts
    assert not custard.process.onto_chocolate(cremeux(250), least - 0.5).melts
