"""The stages, for every family."""

from __future__ import annotations

import re

import custard
import pytest
from custard.vocabulary import StageName

MIXES = {
    "anglaise": [("whole-milk", "500 ml"), ("egg-yolk", "6"), ("white-sugar", "90 g")],
    "sabayon": [("egg-yolk", "6"), ("white-sugar", "100 g"), ("white-wine-12", "150 ml")],
    "pastry-cream": [
        ("whole-milk", "1 l"),
        ("egg-yolk", 9),
        ("white-sugar", "180 g"),
        ("cornstarch", "80 g"),
    ],
    "cold-start-pudding": [("whole-milk", "500 ml"), ("white-sugar", "50 g"), ("cornstarch", "40 g")],
    "baked-custard": [("whole-milk", "500 ml"), ("whole-egg", "4"), ("white-sugar", "80 g")],
    "pouring-custard": [("whole-milk", "500 ml"), ("egg-yolk", "4"), ("white-sugar", "60 g")],
}


def stages(make, family):
    result = custard.assess(make(family, *MIXES.get(family, MIXES["anglaise"])))
    return result, {stage.stage: stage for stage in custard.stove.stages(result)}


@pytest.mark.parametrize("family", custard.FAMILIES)
def test_every_family_has_its_stages_and_leaves_no_gap_in_the_words(make, family):
    _, found = stages(make, family)
    # Nothing joins these after the heat, and a cold start has nothing to temper: such stages are left out.
    left_out = {"finish", "temper"} if family == "cold-start-pudding" else {"finish"}
    assert tuple(found) == tuple(stage for stage in StageName if stage not in left_out)
    for stage in found.values():
        texts = (stage.say, stage.why, *(sign.text for sign in stage.signs), *stage.cautions)
        for text in texts:
            assert re.fullmatch(r"[^{}]*(\{\d+(\.\d)? [Cg]\}[^{}]*)*", text), text
    assert any("code" in caution or "plan" in caution for s in found.values() for caution in s.cautions) or (
        family == "sabayon"
    )


def test_the_cook_is_told_to_lift_below_curdling(make):
    result, found = stages(make, "anglaise")
    assert found["cook"].at_c == result.stop.at_c < result.window.curdles_c
    assert found["temper"].at_c == pytest.approx(
        custard.process.landing_c(result.formula, found["warm"].at_c)
    )


def test_a_starch_cream_is_told_to_boil_and_a_starchless_one_is_not(make):
    assert "hold it there a minute" in stages(make, "pastry-cream")[1]["cook"].say
    assert "boil" not in stages(make, "pouring-custard")[1]["cook"].say


@pytest.mark.parametrize(
    ("family", "stage", "says"),
    [
        ("sabayon", "warm", "bare simmer"),
        ("sabayon", "test", "the ribbon stays"),
        ("pastry-cream", "cook", "hold it there a minute"),
        ("baked-custard", "cook", "hot bath"),
        ("baked-custard", "warm", "through a sieve into the cups"),
        ("baked-custard", "chill", "Out of the bath onto a cloth"),
        ("cold-start-pudding", "warm", "into the pan cold"),
        ("anglaise", "cook", "Stir all the time"),
    ],
)
def test_each_family_is_told_its_own_way(make, family, stage, says):
    result = custard.assess(make(family, *MIXES[family]))
    pours = {"temper": "none"} if family == "baked-custard" and stage == "warm" else {}
    found = {one.stage: one for one in custard.stove.stages(result, pours)}
    assert says in found[stage].say


def test_sabayon_is_neither_tempered_nor_kept(make):
    _, found = stages(make, "sabayon")
    assert found["temper"].at_c is None
    assert "same day" in found["keep"].say


WHIPPED = {"ingredient": "whipping-cream-36", "amount": "200 g", "when": "folded when cool"}
CAKE = {"ingredient": "cake-crumbs", "amount": "100 g", "when": "afterwards"}
CRUST = {"ingredient": "white-sugar", "amount": "40 g", "when": "on top"}
WHITES = {"ingredient": "egg-white", "amount": "120 g", "when": "folded when cool"}
BUTTER = {"ingredient": "butter-unsalted", "amount": "50 g", "when": "off the heat"}


def assessed(family, *more):
    lines = [{"ingredient": name, "amount": amount} for name, amount in MIXES.get(family, MIXES["anglaise"])]
    body = {"format": "old-spoon/formula", "version": 2, "name": "t", "family": family}
    return custard.assess(custard.read_formula({**body, "lines": [*lines, *more]}))


def order(family, *more):
    return [stage.stage for stage in custard.stove.stages(assessed(family, *more))]


@pytest.mark.parametrize(
    ("family", "joins", "before"),
    [
        ("anglaise", (WHIPPED,), "keep"),
        ("anglaise", (CRUST,), "keep"),
        ("anglaise", (BUTTER,), "chill"),
        ("anglaise", (BUTTER, CRUST), "chill"),
        ("pastry-cream", (WHITES,), "chill"),
        ("pastry-cream", (WHIPPED,), "keep"),
        ("sabayon", (WHIPPED,), "chill"),
        ("baked-custard", (CAKE,), "cook"),
        ("baked-custard", (CRUST,), "keep"),
    ],
)
def test_what_joins_late_has_its_place_in_the_order_of_the_work(family, joins, before):
    """Cold once the pan is empty; a crust on what has set; cake before the oven; whites while it is hot."""
    found = order(family, *joins)
    assert found[found.index("finish") + 1] == before


@pytest.mark.parametrize("joins", [WHIPPED, {"ingredient": "dark-chocolate-70", "amount": "100 g"}])
def test_a_foam_that_something_holds_is_chilled_and_kept_a_day(make, joins):
    result = assessed("sabayon", joins)
    assert not result.served_at_once
    assert 0 < result.keeping.days <= 1
    found = {stage.stage: stage for stage in custard.stove.stages(result)}
    assert "Serve at once" not in found["chill"].say
    assert "Do not stir" in found["keep"].say
    plain = custard.assess(make("sabayon", *MIXES["sabayon"]))
    assert plain.served_at_once
    assert plain.keeping.days == 0


@pytest.mark.parametrize("joins", [WHITES, {**WHITES, "ingredient": "berry-puree", "amount": "60 g"}])
def test_what_holds_no_foam_leaves_it_to_be_served_at_once(joins):
    result = assessed("sabayon", joins)
    assert result.served_at_once
    assert result.keeping.days == 0


@pytest.mark.parametrize(("rule", "text"), [("uk", "{63 C} to {8 C}"), ("codex", "{60 C} to {10 C}")])
def test_the_caution_names_the_rule_the_kitchen_goes_by(anglaise, rule, text):
    stages = {
        stage.stage: stage
        for stage in custard.stove.stages(custard.assess(anglaise, custard.Conditions(rule=rule)))
    }
    [caution] = [said for said in stages["chill"].cautions if "local code" in said]
    assert text in caution
