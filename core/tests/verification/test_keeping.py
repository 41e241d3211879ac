"""How long what was made keeps: opened, frozen, thawed, warm; and what vulnerable guests ask."""

from __future__ import annotations

import custard
import pytest
from custard import after

MILK, YOLK, SUGAR = (
    {"ingredient": "whole-milk", "amount": "500 ml"},
    {"ingredient": "egg-yolk", "amount": "5"},
    {"ingredient": "white-sugar", "amount": "100 g"},
)
STARCH = {"ingredient": "cornstarch", "amount": "45 g"}
CREAM = {"ingredient": "whipping-cream-36", "amount": "100 g", "when": "folded when cool"}


def life_of(family, *lines, **told):
    content = {"format": "old-spoon/formula", "version": 2, "name": "one", "family": family}
    return after.life(custard.assess(custard.read_formula({**content, "lines": list(lines)})), **told)


@pytest.fixture(scope="module")
def anglaise():
    return life_of("anglaise", MILK, YOLK, SUGAR)


def test_days_are_counted_from_when_it_was_made(anglaise):
    assert after.use_by(anglaise, after.Kept()).hours == 24 * anglaise.days == 72


def test_opening_shortens_and_never_lengthens(anglaise):
    assert after.use_by(anglaise, after.Kept(opened_h=1)) == after.UseBy(49, "opened")
    assert after.use_by(anglaise, after.Kept(opened_h=60)).hours == 72


def test_the_freezer_stops_the_clock_and_thawing_starts_a_shorter_one(anglaise):
    assert after.use_by(anglaise, after.Kept("frozen", frozen_h=12)).hours == 12 + 24 * anglaise.freezes_days
    # Half a day was gone before it was frozen; two and a half are left, of which thawing leaves one.
    assert after.use_by(anglaise, after.Kept(frozen_h=12, out_h=500)) == after.UseBy(524, "thawed")
    # Frozen on its last afternoon it has that afternoon left.
    assert after.use_by(anglaise, after.Kept(frozen_h=68, out_h=500)).hours == pytest.approx(504)
    with pytest.raises(custard.OutOfRange, match="must be after 12 h"):
        after.use_by(anglaise, after.Kept(frozen_h=12, out_h=10))


def test_what_cooled_too_slowly_or_was_not_cooked_keeps_no_longer():
    slow = life_of("anglaise", MILK, YOLK, SUGAR, cooled=False)
    assert after.use_by(slow, after.Kept()).hours == 0
    assert slow.say.startswith("Do not keep it")
    assert slow.freezes_days == 0
    raw = life_of("anglaise", MILK, YOLK, SUGAR, hottest_c=64)
    assert raw.days == 0
    assert 0 < after.use_by(raw, after.Kept()).hours <= 12


@pytest.mark.parametrize("rule", sorted(custard.larder.cooling_rules()))
def test_warm_at_its_rule_s_limit_it_stays_a_while_and_below_it_two_hours(rule, anglaise):
    limit_c = custard.larder.cooling_rules()[rule].from_c
    own = after.Life.of({**custard.plain(anglaise), "warm_c": limit_c, "warm_h": 3.0})
    assert after.use_by(own, after.Kept("warm", warm_h=1, warm_c=limit_c)).hours == 4
    assert after.use_by(own, after.Kept("warm", warm_h=1, warm_c=limit_c - 1)).hours == 3


def test_what_spoils_by_standing_hot_is_kept_so_for_less_long(anglaise):
    """A rich mix with little sugar curdles slowly at a temperature that a lean sweet one bears."""
    hot = custard.Conditions(rule="own", own_rule=custard.larder.own_rule(75, 21, 2, 5, 6))
    lines = [MILK, {**YOLK, "amount": "12"}, {**SUGAR, "amount": "40 g"}]
    content = {"format": "old-spoon/formula", "version": 1, "name": "one", "family": "anglaise"}
    formula = custard.read_formula({**content, "lines": lines})
    assert after.life(custard.assess(formula, hot)).warm_h < anglaise.warm_h


def test_a_starch_cream_weeps_when_thawed_and_loosens_when_whisked():
    cream = life_of("pastry-cream", MILK, YOLK, SUGAR, STARCH)
    assert "lets go" in cream.freezing
    assert "whisk" in cream.stir[0].lower()
    assert not any("thinner" in said for said in cream.stir)
    boiled_too_short = life_of("pastry-cream", MILK, YOLK, SUGAR, STARCH, enzyme=0.02)
    assert any("thinner" in said for said in boiled_too_short.stir)


def test_a_base_rests_before_it_is_churned_and_then_lives_in_the_freezer():
    base = life_of("ice-base", MILK, YOLK, SUGAR)
    assert (base.rests_h, base.rests_to) == (4, "churn")
    churned = after.churned_life(base, custard.larder.standard())
    assert after.use_by(churned, after.Kept("frozen", frozen_h=30)).hours == 30 + 24 * churned.freezes_days
    assert churned.freezes_days == 60


def test_a_life_is_kept_as_plain_data(anglaise):
    assert after.Life.of(custard.plain(anglaise)) == anglaise


def test_whites_by_their_ratios():
    firm, *_ = uses = after.whites_uses(180)
    assert (firm.sugar_g, firm.makes_g) == (180 * custard.MERINGUE_SUGAR_SHARE, 540)
    assert all(one.makes_g == pytest.approx(180 + one.sugar_g + one.other_g) for one in uses)
    life = after.whites_life(custard.USUAL)
    assert after.use_by(life, after.Kept()).hours == 48
    with pytest.raises(custard.OutOfRange) as refused:
        after.whites_uses(-1)
    assert refused.value.field == "grams"


def test_vulnerable_guests_are_told_of_and_never_cleared():
    content = {"format": "old-spoon/formula", "version": 2, "name": "one", "family": "anglaise"}
    plain = custard.assess(custard.read_formula({**content, "lines": [MILK, YOLK, SUGAR]}))
    folded = custard.assess(custard.read_formula({**content, "lines": [MILK, YOLK, SUGAR, CREAM]}))
    assert after.guests(plain, None, None).met is None
    assert after.guests(plain, 9, None).met
    assert after.guests(plain, 2, None).met is False
    assert after.guests(plain, None, True).met
    raw = after.guests(folded, 9, True)
    assert raw.met is False
    assert raw.raw == ("whipping cream",) or "cream" in raw.raw[0]
    for found in (raw, after.guests(plain, 9, None)):
        assert "never clears" in found.say


@pytest.mark.parametrize(
    ("thing", "days", "why"),
    [
        ("egg-white", 1, "raw egg joins"),
        ("egg-yolk", 1, "raw egg joins"),
        ("whipping-cream-36", 2, "raw joins"),
    ],
)
def test_raw_egg_after_the_heat_keeps_a_day_and_raw_cream_two(thing, days, why):
    """A chiboust with raw white folded in was given as long as a cream with cream in it."""
    lines = [
        {"ingredient": "whole-milk", "amount": "500 ml", "when": "in the dairy"},
        {"ingredient": "egg-yolk", "amount": "100 g", "when": "with the yolks"},
        {"ingredient": "white-sugar", "amount": "110 g", "when": "in the pan"},
        {"ingredient": "cornstarch", "amount": "40 g", "when": "with the yolks"},
        {"ingredient": thing, "amount": "120 g", "when": "folded when cool"},
    ]
    head = {"format": "old-spoon/formula", "version": 2, "name": "chiboust", "family": "pastry-cream"}
    result = custard.assess(custard.read_formula({**head, "lines": lines}))
    found = custard.after.life(result)
    assert found.days == days
    assert why in found.why
    assert custard.after.guests(result, 12.0, pasteurised=None).met is False


@pytest.mark.parametrize(
    ("happened", "safe"),
    [
        ({"age_h": 70}, True),
        ({"age_h": 74}, False),
        ({"age_h": 2000}, False),
        ({"age_h": 5, "warm_h": 1.5}, True),
        ({"age_h": 5, "warm_h": 2.5}, False),
        ({"age_h": 5, "frozen_days": 40}, True),
        ({"age_h": 5, "frozen_days": 300}, False),
        # Warm after the freezer: both clocks count.
        ({"age_h": 5, "frozen_days": 40, "warm_h": 1.5}, True),
        ({"age_h": 5, "frozen_days": 40, "warm_h": 2.5}, False),
        ({"age_h": 5, "frozen_days": 300, "warm_h": 0.5}, False),
    ],
)
def test_lengths_of_time_are_judged_from_both_sides_of_each_edge(happened, safe):
    """An anglaise: three days in the fridge, two hours warm, 45 days in the freezer."""
    head = {"format": "old-spoon/formula", "version": 2, "name": "one", "family": "anglaise"}
    plain = custard.assess(custard.read_formula({**head, "lines": [MILK, YOLK, SUGAR]}))
    found = after.judge(after.life(plain), *after.since(**happened))
    assert found.safe == safe
    assert (found.why == "") == safe
    answered = custard.trouble.answer(plain, "too-thick", said=happened)
    assert (answered.unsafe == "") == safe
