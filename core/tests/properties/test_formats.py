"""The open format: faithful for whatever is a formula, one clear refusal for whatever is not."""

from __future__ import annotations

import json

import custard
from custard.quantities import units
from hypothesis import given, settings
from hypothesis import strategies as st

NAMES = sorted(custard.larder.all_ingredients())
SPELLINGS = sorted(spelling for spelling, unit in units().items() if unit.dimension != "stick")
amounts = st.builds(
    lambda number, unit: f"{number:.4g} {unit}", st.floats(0.001, 15), st.sampled_from(SPELLINGS)
)
words = st.text(st.characters(categories=["L", "N", "P", "Zs"]), max_size=40)
lines = st.fixed_dictionaries(
    {"ingredient": st.sampled_from(NAMES), "amount": amounts},
    optional={"note": words, "when": st.sampled_from(["in the pan", "off the heat"])},
)
formulas = st.fixed_dictionaries(
    {
        "format": st.just("old-spoon/formula"),
        "version": st.just(1),
        "name": words.map(lambda text: f"A{text}"),
        "family": st.sampled_from(custard.FAMILIES),
        "lines": st.lists(lines, min_size=1, max_size=8),
    },
    optional={
        "eggs": st.sampled_from(sorted(custard.larder.all_sizes())),
        "measures": st.sampled_from(custard.quantities.MEASURES),
    },
)
junk = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=20),
    lambda inner: st.lists(inner, max_size=4) | st.dictionaries(st.text(max_size=12), inner, max_size=4),
    max_leaves=12,
)


@given(formulas)
@settings(max_examples=150, deadline=None)
def test_written_and_read_again_it_is_the_same(data):
    formula = custard.read_formula(data)
    text = json.dumps(custard.write_formula(formula))
    again = custard.read_formula(json.loads(text))
    assert again == formula
    assert again.weights_g() == formula.weights_g()


@given(formulas, st.floats(0.01, 15))
@settings(max_examples=100, deadline=None)
def test_scaling_keeps_every_ratio(data, factor):
    formula = custard.read_formula(data)
    scaled = formula.times(factor)
    for before, after in zip(formula.weights_g(), scaled.weights_g(), strict=True):
        assert abs(after / before / factor - 1) < 2e-3


@given(formulas, st.sampled_from(["name", "family", "eggs", "measures", "lines", "version", "extra"]), junk)
@settings(max_examples=200, deadline=None)
def test_one_thing_wrong_is_named_or_was_not_wrong(data, key, value):
    try:
        custard.assess(custard.read_formula({**data, key: value}))
    except custard.CustardError as refused:
        assert refused.field.split("[")[0].split(".")[0] in (key, *data, "lines", "name")
        assert len(refused.line().splitlines()) == 1


@given(junk)
@settings(max_examples=200, deadline=None)
def test_junk_is_refused_not_crashed_on(data):
    try:
        custard.read_formula(data)
    except custard.CustardError as refused:
        assert refused.sentence()
    else:
        raise AssertionError("junk was read as a formula")


@given(st.text(max_size=30))
@settings(max_examples=300, deadline=None)
def test_any_text_is_an_amount_or_a_refusal(text):
    try:
        quantity = custard.quantities.read_quantity(text)
    except custard.CustardError as refused:
        assert refused.field == "amount"
    else:
        assert quantity.number > 0
        assert custard.quantities.read_quantity(quantity.text()).unit == quantity.unit
