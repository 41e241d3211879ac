"""What a batch is for, what a dish of layers takes, and what cups take."""

from __future__ import annotations

from dataclasses import replace

import custard
import pytest
from custard.process import Cups

FAST = ("whole-milk", "500 g"), ("egg-yolk", "6"), ("white-sugar", "90 g")


def read(family, *lines, **keys):
    named = [dict(zip(("ingredient", "amount", "when"), line, strict=False)) for line in lines]
    return custard.read_formula(
        {"format": "old-spoon/formula", "version": 2, "name": "x", "family": family, "lines": named, **keys}
    )


def test_the_size_is_the_sum_of_what_it_is_for_and_what_is_lost():
    wanted = [
        {"name": "plates", "count": 14, "amount": "60 g"},
        {"name": "trifle", "amount": "1.2 l"},
        {"name": "churn", "amount": "900 g"},
    ]
    sized = custard.bench.for_destinations(read("anglaise", *FAST, destinations=wanted))
    found = custard.bench.shared(custard.assess(sized))
    assert [part.all_g for part in found.parts][::2] == [840, 900]
    # A litre of cold anglaise weighs a little more than water.
    assert 1200 < found.parts[1].all_g < 1400
    assert found.lost_g == pytest.approx(found.wanted_g / 0.98 - found.wanted_g)
    assert found.left_over_g == pytest.approx(0, abs=0.005 * found.wanted_g)
    larger = custard.bench.shared(custard.assess(sized.times(1.5)))
    assert larger.left_over_g == pytest.approx(0.5 * found.comes_to_g, rel=0.02)


def test_a_foam_fills_a_dish_with_its_air():
    sabayon = ("egg-yolk", "6"), ("white-sugar", "120 g"), ("white-wine-12", "150 ml")
    litre = [{"name": "bowl", "amount": "1 l"}]
    foam = custard.bench.shared(custard.assess(read("sabayon", *sabayon, destinations=litre)))
    still = custard.bench.shared(custard.assess(read("anglaise", *FAST, destinations=litre)))
    assert foam.wanted_g < 0.6 * still.wanted_g


def test_for_nothing_there_is_no_size():
    with pytest.raises(custard.Impossible, match="what it is for"):
        custard.bench.for_destinations(read("anglaise", *FAST))


def test_layers_take_what_fills_their_height_and_wait_for_what_is_below():
    cream = read("pastry-cream", *FAST, ("cornstarch", "40 g"))
    made = custard.assess(cream)
    stack = [
        custard.bench.Course(made, height_mm=30),
        custard.bench.Course(custard.assess(read("anglaise", *FAST)), height_mm=10),
    ]
    below, above = custard.bench.layers(custard.bench.Dish("round", 20.0), stack)
    litre = 3.1416 / 4 * 20**2 * 3 / 1000
    assert below.grams == pytest.approx(1000 * litre * 1.08, rel=0.05)
    assert (below.ready, above.ready) == ("set", "cool")
    assert below.ready_h > above.ready_h > 0
    assert below.batches == pytest.approx(below.grams / made.yield_g)
    twice = custard.bench.layers(custard.bench.Dish("round", 20.0, count=2), stack)
    assert twice[0].grams == pytest.approx(2 * below.grams)
    assert twice[0].ready_h == pytest.approx(below.ready_h)


@pytest.mark.parametrize(
    ("written", "scaled"), [("1 pinch", "0.5953 g"), ("0.5 l", "815 ml"), ("1 l", "1.63 l")]
)
def test_a_scaled_amount_is_one_that_a_kitchen_has(written, scaled):
    name = "salt" if "pinch" in written else "whole-milk"
    [line] = read("anglaise", (name, written)).times(1.63).lines
    assert line.amount == scaled


def test_things_as_they_are_bought_are_layers_too_by_height_or_weight():
    """Crumbs lie loose, cream is whipped to about twice its room, fruit is heavy."""
    dish = custard.bench.Dish("round", 20.0)
    names = ("biscuit-crumbs", "soft-fruit", "whipping-cream-36")
    things = [custard.larder.ingredient(name) for name in names]
    by_height = custard.bench.layers(dish, [custard.bench.Course(one, height_mm=20) for one in things])
    litre = 3.1416 / 4 * 20**2 * 2 / 1000
    crumbs, fruit, cream = (one.grams / litre for one in by_height)
    assert 300 < crumbs < fruit < 1000
    assert 380 < cream < 620
    assert all(one.batches is None and one.ready == "" for one in by_height)
    [back] = custard.bench.layers(dish, [custard.bench.Course(things[0], grams=by_height[0].grams)])
    assert back.height_mm == pytest.approx(20)


def test_a_layer_without_a_size_is_refused():
    with pytest.raises(custard.OutOfRange, match="how high it stands"):
        custard.bench.layers(
            custard.bench.Dish("round", 20.0), [custard.bench.Course(custard.larder.ingredient("soft-fruit"))]
        )


@pytest.mark.parametrize(
    ("factor", "amount"), [(1.5653, "158.7 g"), (1.5, "9"), (0.75, "4.5"), (0.5832, "3.5"), (0.01, "1.014 g")]
)
def test_yolks_that_do_not_come_out_whole_are_weighed(factor, amount):
    plain = read("anglaise", *FAST)
    scaled = plain.times(factor)
    yolks = next(line for line in scaled.lines if line.ingredient.id == "egg-yolk")
    assert yolks.amount == amount
    assert sum(scaled.weights_g()) == pytest.approx(
        factor * sum(read("anglaise", *FAST).weights_g()), rel=3e-3
    )


EGGS = ("whole-milk", "500 g"), ("whole-egg", "4"), ("white-sugar", "80 g")


def test_bread_in_the_cups_takes_room_and_drinks():
    mixture = custard.assess(read("baked-custard", *EGGS)).pan
    plain = custard.process.filled(mixture, Cups(6, 150))
    bread = custard.process.filled(mixture, Cups(6, 150, solid="bread-white", solid_share=0.5))
    assert plain.solid_g == plain.drunk_g == 0
    assert plain.all_custard_g == pytest.approx(6 * plain.custard_g)
    assert 0.5 * plain.custard_g < bread.custard_g < plain.custard_g
    assert bread.drunk_g > 0
    assert bread.all_solid_g == pytest.approx(6 * bread.solid_g)
    with pytest.raises(custard.OutOfRange, match="drinks no custard"):
        Cups(solid="white-sugar", solid_share=0.5)
    with pytest.raises(custard.OutOfRange, match="how much of them"):
        Cups(solid="bread-white")


def test_the_deeper_the_water_the_sooner_it_is_set_and_the_drier_the_hotter_its_edge():
    mixture = custard.assess(read("baked-custard", *EGGS)).pan
    deep, usual, shallow = (Cups(water_share=share).baked(mixture, 50.0) for share in (1.0, 0.6, 0.2))
    assert deep.out_s < usual.out_s
    assert usual.out_s == custard.process.bake(mixture).out_s
    assert shallow.edge_c.max() > usual.edge_c.max()
    hot = replace(Cups(), oven_c=190.0).baked(mixture, 50.0)
    assert hot.out_s < usual.out_s


def test_the_live_oven_is_told_what_is_baked_in():
    result = custard.assess(read("baked-custard", *EGGS))
    equipment = custard.stove.unmeasured(result, {})
    assert equipment.cups.count == pytest.approx(result.pan.mass_g / 115, abs=1)
    dish = replace(equipment, cups=Cups(1, 1500))
    history = custard.stove.History(readings=[(60.0 * i, 50.0 + 0.2 * i) for i in range(6)])
    cups, large = (custard.stove.live(result, one, history, 300.0) for one in (equipment, dish))
    assert large.out_in_s is None or large.out_in_s > cups.out_in_s
    assert custard.stove.Equipment.of(dish.as_json()) == dish
