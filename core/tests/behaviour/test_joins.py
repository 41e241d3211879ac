"""When a line joins: the usual moments, the format that keeps them, what is refused, how it is laid out."""

from __future__ import annotations

import copy
import json
from pathlib import Path

import custard
import jsonschema_rs
import pytest
from custard.larder import JOINS, all_families, ingredient, usual_when

FORMATS = Path(__file__).parents[3] / "docs" / "formats"


def read(family, *lines, **keys):
    named = [dict(zip(("ingredient", "amount", "when", "minutes"), line, strict=False)) for line in lines]
    return custard.read_formula(
        {"format": "old-spoon/formula", "version": 2, "name": "x", "family": family, "lines": named, **keys}
    )


PASTRY = (
    ("whole-milk", "500 g"),
    ("egg-yolk", "6"),
    ("white-sugar", "90 g"),
    ("cornstarch", "40 g"),
    ("butter-unsalted", "40 g"),
    ("vanilla-extract", "1 tsp"),
)


@pytest.mark.parametrize(
    ("thing", "family", "when"),
    [
        ("egg-yolk", "anglaise", "with the yolks"),
        ("egg-yolk", "sabayon", "in the pan"),
        ("whole-milk", "pastry-cream", "in the dairy"),
        ("white-sugar", "anglaise", "in the pan"),
        ("cornstarch", "cold-start-pudding", "in the pan"),
        ("butter-unsalted", "pastry-cream", "off the heat"),
        ("butter-unsalted", "baked-custard", "in the dairy"),
        ("dark-chocolate-65", "cremeux", "under it"),
        ("fortified-wine-sweet", "sabayon", "in the pan"),
        ("brandy-40", "anglaise", "off the heat"),
        ("vanilla-pod", "anglaise", "infused"),
        ("vanilla-extract", "ice-base", "off the heat"),
        ("meadow-hay", "baked-custard", "infused"),
        ("desiccated-coconut", "milk-filling", "afterwards"),
        ("soft-fruit", "sabayon", "folded when cool"),
    ],
)
def test_the_usual_moment(thing, family, when):
    assert usual_when(ingredient(thing), all_families()[family]) == when


def test_a_line_that_says_nothing_joins_as_usual_and_the_first_version_as_it_always_did():
    second = read("pastry-cream", *PASTRY)
    assert [line.when for line in second.lines][-2:] == ["off the heat", "off the heat"]
    data = custard.write_formula(second) | {"version": 1}
    data["lines"] = [{key: line[key] for key in ("ingredient", "amount")} for line in data["lines"]]
    first = custard.read_formula(data)
    assert {line.when for line in first.lines} == {"in the pan"}
    data["lines"][0]["minutes"] = 20
    with pytest.raises(custard.BadFormula) as refused:
        custard.read_formula(data)
    assert refused.value.field == "lines[0].minutes"


def test_the_second_version_keeps_everything_and_fits_its_schema():
    formula = read(
        "anglaise",
        *PASTRY[:3],
        ("bay-leaf", "3", "infused", 25),
        ("brandy-40", "20 ml"),
        destinations=[
            {"name": "plates", "count": 14, "amount": "60 g"},
            {"name": "trifle", "amount": "1.2 l"},
        ],
        other_work=[{"name": "caramel", "minutes": 12, "needs": "ring"}, {"name": "tuiles", "minutes": 9.5}],
    )
    written = json.loads(json.dumps(custard.write_formula(formula)))
    assert custard.read_formula(written) == formula
    jsonschema_rs.validate(json.loads((FORMATS / "formula-2.schema.json").read_text("utf-8")), written)


def test_every_moment_can_be_written_and_the_published_first_version_still_reads():
    lines = [("whole-milk", "500 g", "in the dairy"), ("egg-yolk", "6", "with the yolks")]
    lines += [("white-sugar", "20 g", when) for when in JOINS if when != "infused"]
    formula = read("anglaise", *lines, ("bay-leaf", "2", "infused"))
    assert {line.when for line in formula.lines} == set(JOINS)
    assert custard.assess(formula).yield_g > 500
    schema = json.loads((FORMATS / "formula-1.schema.json").read_text(encoding="utf-8"))
    old = {
        "format": "old-spoon/formula",
        "version": 1,
        "name": "old",
        "family": "anglaise",
        "lines": [
            {"ingredient": "whole-milk", "amount": "500 ml"},
            {"ingredient": "brandy-40", "amount": "20 ml", "when": "off the heat"},
        ],
    }
    jsonschema_rs.validate(schema, old)
    assert custard.read_formula(old).lines[1].when == "off the heat"


BAD = {
    "lines[4].amount": lambda data: data["lines"].append(
        {"ingredient": "butter-unsalted", "amount": "40 kg", "when": "folded when cool"}
    ),
    "lines[4].minutes": lambda data: data["lines"].append(
        {"ingredient": "bay-leaf", "amount": "2", "when": "infused", "minutes": 2000}
    ),
    "lines[0].minutes": lambda data: data["lines"][0].update(minutes=5),
    "lines[4].when": lambda data: data.update(
        lines=[
            *({**line, "when": "off the heat"} for line in data["lines"]),
            {"ingredient": "dark-chocolate-65", "amount": "90 g", "when": "under it"},
        ]
    ),
    "lines[1].when": lambda data: data["lines"][1].update(when="some day"),
    "destinations[0].amount": lambda data: data.update(
        destinations=[{"name": "plates", "amount": "6 yolks"}]
    ),
    "destinations[0].count": lambda data: data.update(
        destinations=[{"name": "plates", "count": 0, "amount": "6 g"}]
    ),
    "destinations[0].name": lambda data: data.update(destinations=[{"name": "…", "amount": "6 g"}]),
    "other_work[0].minutes": lambda data: data.update(other_work=[{"name": "glaze", "minutes": 0}]),
    "other_work[0].needs": lambda data: data.update(
        other_work=[{"name": "glaze", "minutes": 5, "needs": "a wand"}]
    ),
    "other_work[0].hands": lambda data: data.update(
        other_work=[{"name": "glaze", "minutes": 5, "hands": "two"}]
    ),
}


@pytest.mark.parametrize("field", BAD)
def test_what_cannot_be_is_refused_by_the_field(field):
    data = copy.deepcopy(custard.write_formula(read("pastry-cream", *PASTRY[:4])))
    BAD[field](data)
    with pytest.raises(custard.CustardError) as refused:
        custard.assess(custard.read_formula(data))
    assert refused.value.field == field
    assert refused.value.sentence().endswith(".")


def test_leaves_with_no_milk_to_lie_in_are_refused():
    with pytest.raises(custard.OutOfRange, match="nothing to infuse in"):
        custard.assess(read("sabayon", ("egg-yolk", "6", "off the heat"), ("bay-leaf", "2", "infused")))


def test_the_slip_is_laid_out_bowl_by_bowl_as_the_schools_say():
    formula = read("pastry-cream", *PASTRY)
    laid = custard.bench.weighings(formula)
    grams = {(one.line, one.laid): one.grams for one in laid}
    assert grams[2, "pan"] == grams[2, "yolk bowl"] == pytest.approx(45)
    assert {one.laid for one in laid if one.line in (4, 5)} == {"finish tray"}
    assert [one.laid for one in laid] == sorted(
        (one.laid for one in laid), key=["pan", "yolk bowl", "finish tray"].index
    )
    for place in ("pan", "yolk bowl", "finish tray"):
        here = [one for one in laid if one.laid == place]
        assert here[-1].tare_g == pytest.approx(sum(one.grams for one in here))
    assert sum(one.grams for one in laid) == pytest.approx(formula.mass_g())
    yolks = custard.bench.weighings(formula, {"sugar": "yolks"})
    assert [one.laid for one in yolks if one.line == 2] == ["yolk bowl"]
    cold = custard.bench.weighings(formula, {"temper": "none"})
    assert {one.laid for one in cold} == {"pan", "finish tray"}


def test_the_school_of_sugar_moves_where_tempering_lands():
    result = custard.assess(read("pastry-cream", *PASTRY))

    def landing(school):
        found = custard.stove.stages(result, {"sugar": school})
        return custard.stove.landing_of(found)

    assert landing("yolks") < landing("split")
