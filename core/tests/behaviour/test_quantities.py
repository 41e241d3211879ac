"""Amounts as cooks write them."""

from __future__ import annotations

import custard
import pytest
from custard.quantities import units

MILK, YOLK, SUGAR = (custard.larder.ingredient(name) for name in ("whole-milk", "egg-yolk", "white-sugar"))
EGGS = custard.larder.egg_size("EU-M")


@pytest.mark.parametrize(
    ("text", "number", "unit"),
    [
        ("500 ml", 500, "ml"),
        ("1 1/2 cups", 1.5, "cup"),
        ("½ tsp", 0.5, "tsp"),
        ("1½ pints", 1.5, "pint"),
        ("1 ½ Pints", 1.5, "pint"),
        ("2/3 cup", 2 / 3, "cup"),
        ("1,5 dl", 1.5, "dl"),
        (".25 l", 0.25, "l"),
        ("90g", 90, "g"),
        ("6", 6, ""),
        (6, 6, ""),
        ("6 yolks", 6, "yolk"),
        ("1 pod", 1, "pod"),
        ("8 fl. oz.", 8, "fl oz"),
        ("2 dessert spoons", 2, "dsp"),
        ("3 Tbsp.", 3, "tbsp"),
        ("12 fluid oz", 12, "fl oz"),
        ("10 000 g", 10_000, "g"),
        ("1 level tbsp", 1, "tbsp"),
    ],
)
def test_reads(text, number, unit):
    quantity = custard.quantities.read_quantity(text)
    assert (quantity.number, quantity.unit) == (pytest.approx(number), unit)


@pytest.mark.parametrize(
    "text",
    ["", " ", "some", "2-3 cups", "2 to 3 cups", "2–3 g", "-5 g", "0 g", "3 blobs", "1,000 g", "1/0 cup",
     "1,500,5 g", "🥚", "nan g", "1e9 g", "9" * 80, True, None, [], float("nan"), float("inf"), -1],
)  # fmt: skip
def test_refuses_and_says_what(text):
    with pytest.raises(custard.CustardError) as refused:
        custard.quantities.read_quantity(text)
    assert refused.value.field == "amount"
    assert len(refused.value.line().splitlines()) == 1


@pytest.mark.parametrize(
    ("amount", "thing", "measures", "expected_g"),
    [
        ("1 cup", MILK, "us", 243.9),
        ("1 cup", MILK, "metric", 257.8),
        ("1 cup", MILK, "imperial", 292.9),
        ("1 pint", MILK, "us", 487.8),
        ("1 pint", MILK, "imperial", 585.9),
        ("1 tbsp", MILK, "au", 20.6),
        ("1 cup", SUGAR, "us", 200.0),
        ("1 lb", SUGAR, "metric", 453.6),
        ("6 yolks", YOLK, "metric", 101.4),
        ("6", YOLK, "us", 101.4),
        ("1 stick", custard.larder.ingredient("butter-unsalted"), "us", 113.4),
        ("1 heaped tbsp", custard.larder.ingredient("cornstarch"), "us", 15.6),
        ("1 tbsp", custard.larder.ingredient("cornstarch"), "us", 7.8),
        ("1 pinch", custard.larder.ingredient("salt"), "metric", 0.37),
    ],
)
def test_weighs(amount, thing, measures, expected_g):
    """Unit sizes are definitions; densities are the ingredient table's."""
    weight = custard.quantities.grams(custard.quantities.read_quantity(amount), thing, EGGS, measures)
    assert weight == pytest.approx(expected_g, rel=0.02)


@pytest.mark.parametrize(
    ("amount", "thing"),
    [
        ("6", MILK),
        ("6 eggs", YOLK),
        ("1 stick", SUGAR),
        ("1 heaped cup", MILK),
        ("10000", YOLK),
        ("900 kg", MILK),
    ],
)
def test_a_unit_that_does_not_fit_is_refused(amount, thing):
    with pytest.raises(custard.CustardError):
        custard.quantities.grams(custard.quantities.read_quantity(amount), thing, EGGS, "metric")


def test_every_spelling_is_read_in_every_kitchen():
    for spelling, unit in units().items():
        thing = custard.larder.ingredient("butter-salted") if unit.dimension == "stick" else SUGAR
        for measures in custard.quantities.MEASURES:
            assert (
                custard.quantities.grams(
                    custard.quantities.read_quantity(f"2 {spelling}"), thing, EGGS, measures
                )
                > 0
            )
