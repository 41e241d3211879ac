"""The stages, for every family."""

from __future__ import annotations

import re

import custard
import pytest

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
    # Nothing joins these after the heat, so that stage is left out.
    assert tuple(found) == tuple(stage for stage in custard.stove.STAGES if stage != "finish")
    for stage in found.values():
        texts = (stage.say, stage.why, *stage.signs.values(), *stage.cautions)
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


def test_sabayon_is_neither_tempered_nor_kept(make):
    _, found = stages(make, "sabayon")
    assert found["temper"].at_c is None
    assert "same day" in found["keep"].say


@pytest.mark.parametrize(("rule", "text"), [("uk", "{63 C} to {8 C}"), ("codex", "{60 C} to {10 C}")])
def test_the_caution_names_the_rule_the_kitchen_goes_by(anglaise, rule, text):
    stages = {
        stage.stage: stage
        for stage in custard.stove.stages(custard.assess(anglaise, custard.Conditions(rule=rule)))
    }
    [caution] = [said for said in stages["chill"].cautions if "local code" in said]
    assert text in caution
