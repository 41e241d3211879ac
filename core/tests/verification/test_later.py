"""What becomes of a sauce after it was cooked, against what is remembered of it."""

from __future__ import annotations

from dataclasses import replace

import custard
import pytest
from custard.advice.mix.keeping import keeping
from custard.advice.mix.texture import texture_at, yield_stress
from custard.process.heating import kernel
from custard.process.heating.state import state_of

P = custard.larder.standard()
SIX = ("whole-milk", "500 ml"), ("egg-yolk", 6), ("white-sugar", "90 g")
BASE = ("whole-milk", "500 ml"), ("whipping-cream-36", "250 ml"), ("egg-yolk", 6), ("white-sugar", "150 g")


def cold(result, hours, enzyme=0.0):
    stood = custard.process.aged(hours, enzyme, P)
    return yield_stress(result.whole, result.stop, 4.0, P, stood)


def test_a_base_ages_for_hours_and_then_no_more(make):
    """Ageing for 4 to 12 h at 4 degC is common practice: most of its fat has set by then."""
    base = custard.assess(make("ice-base", *BASE))
    fresh, four, twelve, day = (cold(base, hours) for hours in (0, 4, 12, 24))
    assert fresh < four < twelve < day
    assert (four - fresh) / (day - fresh) > 0.6
    assert day == pytest.approx(base.cold.yield_stress_pa, rel=0.02)


def test_a_starch_cream_sets_back_unless_its_enzyme_is_alive(make):
    cream = custard.assess(make("pastry-cream", *SIX, ("cornstarch", "45 g")))
    assert cold(cream, 48) > cold(cream, 1)
    assert cold(cream, 24, enzyme=0.05) < 0.6 * cold(cream, 24)


def test_kept_warm_it_goes_on_setting_and_too_warm_it_curdles(anglaise):
    result = custard.assess(anglaise)
    mild, hot = (custard.process.held_warm(result.pan, result.stop, at_c, 2) for at_c in (63, 84))
    assert mild.state.thickened > result.stop.thickened
    assert mild.state.curdled < 0.01
    assert hot.state.curdled > 0.3


@pytest.mark.parametrize(("rule", "edge"), [("us", 57), ("au", 60), ("uk", 63)])
def test_hot_holding_is_that_of_the_rule(anglaise, rule, edge):
    result, conditions = custard.assess(anglaise), custard.Conditions(rule=rule)
    below, above = (
        custard.process.held_warm(result.pan, result.stop, edge + by, 1, conditions).safe for by in (-0.1, 0)
    )
    assert (below, above) == (False, True)


def test_the_freezer_makes_starch_weep_and_sugar_holds_it(make):
    cream, sauce = (
        custard.mix(make(family, *SIX, *more))
        for family, more in (("pastry-cream", (("cornstarch", "45 g"),)), ("anglaise", ()))
    )
    assert custard.process.thawed(cream, 30, P).weeps > 2 * custard.process.thawed(sauce, 30, P).weeps
    assert custard.process.thawed(cream, 60, P).weeps > custard.process.thawed(cream, 7, P).weeps
    sweet = custard.mix(make("pastry-cream", *SIX, ("white-sugar", "150 g"), ("cornstarch", "45 g")))
    assert custard.process.thawed(sweet, 30, P).weeps < custard.process.thawed(cream, 30, P).weeps


def keeps(family, *lines):
    written = [dict(zip(("ingredient", "amount", "when"), line, strict=False)) for line in lines]
    written = [{**line, "amount": str(line["amount"])} for line in written]
    head = {"format": "old-spoon/formula", "version": 1, "name": "keeps", "family": family}
    return custard.assess(custard.read_formula({**head, "lines": written})).keeping


def test_how_long_it_keeps_follows_what_was_done_to_it():
    assert keeps("anglaise", *SIX).days == 3
    raw = keeps("anglaise", *SIX, ("whipping-cream-36", "200 g", "off the heat"))
    assert raw.days == 2
    assert "raw" in raw.why
    assert keeps("anglaise", *SIX, ("orange-juice", "40 g", "off the heat")).days == 2
    for harmless in ("butter-unsalted", "vanilla-extract", "brandy-40", "white-sugar"):
        assert keeps("anglaise", *SIX, (harmless, "20 g", "off the heat")).days == 3
    sweet = ("evaporated-milk", "400 g"), ("egg-yolk", 5), ("white-sugar", "235 g")
    assert keeps("milk-filling", *sweet).days == 6
    assert keeps("milk-filling", *sweet[:2], ("white-sugar", "40 g")).days == 3
    assert keeps("sabayon", ("egg-yolk", 6), ("white-sugar", "100 g"), ("white-wine-12", "150 ml")).days == 0


def test_what_was_cooled_too_slowly_keeps_no_time(anglaise):
    family = custard.larder.all_families()["anglaise"]
    found = keeping(anglaise, family, 82, 17, cooled=False)
    assert found.days == 0
    assert "discard" in found.why


def test_a_filling_that_reduces_is_thicker_for_it(make):
    made = custard.assess(
        make("milk-filling", ("evaporated-milk", "400 g"), ("egg-yolk", 5), ("white-sugar", "235 g"))
    )
    p = custard.USUAL.parameters
    cold = [
        texture_at(made.whole, replace(made.stop, left=left), 4, 4, p).yield_stress_pa
        for left in (1, 0.9, 0.8)
    ]
    assert cold[0] < cold[1] < cold[2]
    # A tenth less of it is a tenth more network in it, which counts at least in proportion.
    assert cold[1] > cold[0] / 0.9


@pytest.mark.parametrize(
    ("family", "more", "within"),
    # In the pan starch is taken to set back as if it were all swollen, which is a little less.
    [("anglaise", (), 1e-6), ("milk-filling", (("cornstarch", "12 g"),), 0.005)],
)
def test_steam_that_left_counts_in_the_pan_as_on_the_spoon(make, family, more, within):
    """The cook's own curve and what it is said to be like at its end are one number."""
    pan = custard.mix(make(family, ("whole-milk", "400 g"), ("egg-yolk", 5), *more))
    done = custard.process.cook(pan, 60, 84, custard.process.Stove(power_w=400), hold_s=600)
    state = state_of(done.final, float(pan.mass_g), boiled=False)
    assert state.left < 0.95
    told = texture_at(pan, state, state.at_c, state.at_c, custard.USUAL.parameters)
    assert told.yield_stress_pa == pytest.approx(done.final[kernel.YIELD_PA], rel=within)


def test_first_the_counter_then_the_fridge_is_later_than_the_fridge_alone(anglaise):
    mixture = custard.mix(anglaise)

    def by_fan(from_c):
        return custard.process.chill(mixture, from_c, 5, "fan-fridge", 700, 20)

    first = custard.process.chill(mixture, 80, 5, "counter", 700, 20)
    both = custard.process.chill_on(first, 3600, by_fan, 5)
    alone = by_fan(80)
    assert both.time_to_5_s > alone.time_to_5_s
    assert both.core_c[0] == first.core_c[0]
    covered, still, fan = (
        custard.process.chill(mixture, 80, 5, by, 700, 20).time_to_21_s
        for by in ("fridge-covered", "fridge", "fan-fridge")
    )
    assert covered > still > fan


def test_own_ingredients_may_declare_fibre_and_other_protein():
    oats = custard.larder.own_ingredient(
        "oat drink",
        {"water": 90, "other_sugars": 4, "fibre": 1.5, "other_protein": 1, "fat": 1.5, "starch": 2},
    )
    assert oats.composition["rest"] == pytest.approx(2.5)
    with pytest.raises(custard.UnknownName, match="fibre"):
        custard.larder.own_ingredient("x", {"water": 90, "gluten": 10})
