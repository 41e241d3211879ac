"""An ingredient from its label: as the larder has it where that knows it; assumptions are listed."""

from __future__ import annotations

import custard
import pytest
from custard.reading import compare_labels, from_label
from hypothesis import given
from hypothesis import strategies as st

LARDER = custard.larder.all_ingredients()

CREAM = """Nutrition per 100 g / per 30 ml serving
Energy 1390 kJ / 337 kcal   417 kJ
Fat 36.0 g 10.8 g
of which saturates 23 g 7 g
Carbohydrate 3.1 g 1 g
of which sugars 3.1 g 1 g
Protein 2.2 g 0.7 g
Salt 0.08 g
Ingredients: cream (milk)."""
DARK = (
    "Valeurs nutritionnelles pour 100 g : Matières grasses 41 g dont acides gras saturés 25 g, "
    "Glucides 33 g dont sucres 29 g, Protéines 8,5 g, Sel 0,02 g. "
    "Ingrédients : pâte de cacao, sucre, beurre de cacao, lécithine de soja. Peut contenir : lait, noisettes."
)
CONDENSED = (
    "Je 100 g: Fett 8,5 g; Kohlenhydrate 55 g; davon Zucker 55 g; Eiweiß 7,8 g; Salz 0,3 g. "
    "Zutaten: Milch, Zucker."
)


@pytest.mark.parametrize(
    ("text", "like", "parts"),
    [
        (CREAM, "whipping-cream-36", ("water", "fat", "milk_protein", "lactose")),
        (DARK, "dark-chocolate-70", ("cocoa_butter", "sucrose", "cocoa_solids")),
        (CONDENSED, "condensed-milk", ("water", "fat", "milk_protein", "sucrose", "lactose")),
    ],
)
def test_what_the_larder_knows_is_read_alike(text, like, parts):
    found = from_label(text)
    assert sum(found.composition.values()) == pytest.approx(100)
    for part in parts:
        assert found.composition[part] == pytest.approx(LARDER[like].composition[part], abs=3), part
    own = custard.larder.own_ingredient("x", found.composition, found.allergens, found.density_g_ml)
    assert own.density_g_ml == pytest.approx(LARDER[like].density_g_ml, rel=0.12)


def test_allergens_are_those_it_holds_not_those_it_may():
    found = from_label(DARK)
    assert found.allergens == ("soya",)
    assert found.label.may_contain == ("milk", "nuts (hazelnuts)")
    assert from_label(CREAM).allergens == ("milk",)


@pytest.mark.parametrize(
    ("listed", "allergens"),
    [
        ("wheat flour, sugar, butter, egg", {"gluten (wheat)", "milk", "egg"}),
        ("Weizenmehl, Zucker, Haselnüsse, Magermilchpulver", {"gluten (wheat)", "nuts (hazelnuts)", "milk"}),
        ("latte, zucchero, tuorli, mandorle", {"milk", "egg", "nuts (almonds)"}),
        ("coconut milk, guar gum", set()),
        ("leche, azúcar, lecitina de soja", {"milk", "soya"}),
        ("avoine, eau, sésame", {"gluten (oats)", "sesame"}),
        ("cacahuètes, sulfites", {"peanuts", "sulphites"}),
    ],
)
def test_allergens_in_six_languages(listed, allergens):
    found = from_label(f"fat 5 g, carbohydrate 20 g, sugars 10 g, protein 4 g. Ingredients: {listed}")
    assert set(found.allergens) == allergens


def test_what_is_assumed_is_said():
    assert any("guess" in one for one in from_label("fat 12 g, carbohydrate 20 g, protein 3 g").assumed)
    mixed = from_label(
        "fat 3 g carbohydrate 15 g of which sugars 14 g protein 3 g. Ingredients: milk, sugar, starch"
    )
    assert any("lactose" in one for one in mixed.assumed)
    assert mixed.composition["lactose"] == pytest.approx(1.45 * 3, rel=0.02)
    odd = from_label("Energy 300 kJ, fat 36 g, carbohydrate 3 g, protein 2 g. Ingredients: cream")
    assert any("300 kJ does not fit" in one for one in odd.assumed)
    assert not any("does not fit" in one for one in from_label(CREAM).assumed)


def test_a_table_of_a_volume_is_turned_into_weight():
    found = from_label(
        "per 100 ml: fat 13 g, carbohydrate 25 g, of which sugars 20 g, protein 3 g, alcohol 17 % vol. "
        "Ingredients: cream (milk), sugar, whisky"
    )
    assert found.density_g_ml > 1
    assert found.composition["ethanol"] == pytest.approx(17 * 0.789 / found.density_g_ml, rel=0.01)
    assert {"milk", "alcohol"} == set(found.allergens)


def test_salt_comes_from_sodium_and_a_second_column_is_not_taken():
    found = from_label(
        "per 30 g / per 100 g. Fat 3 g 10 g. Protein 1 g 3.3 g. Sodium 60 mg 200 mg. Ingredients: milk"
    )
    assert found.composition["fat"] == pytest.approx(10, rel=0.01)
    assert found.composition["salt"] == pytest.approx(0.5, rel=0.01)


@pytest.mark.parametrize("text", ["", "hello", "fat free", "12345", "\x00"])
def test_what_is_no_label_is_refused(text):
    with pytest.raises(custard.BadFormula, match="no table"):
        from_label(text)


def test_more_than_there_is_in_100_g_is_refused():
    with pytest.raises(custard.OutOfRange, match="more than there is"):
        from_label("fat 90 g, carbohydrate 50 g, protein 2 g")


@given(
    st.lists(
        st.tuples(st.integers(0, len(CREAM) - 1), st.sampled_from("0123456789/.,-%() gml\nper½∞E")),
        max_size=12,
    )
)
def test_a_label_with_typing_errors_is_read_or_refused(changes):
    text = list(CREAM)
    for at, char in changes:
        text[at] = char
    try:
        found = from_label("".join(text))
    except custard.CustardError:
        return
    assert sum(found.composition.values()) == pytest.approx(100)


def test_numbers_that_cannot_be_do_not_hurt():
    assert from_label("Alcohol 1/2 % vol, sugars 3 g").label.nutrients["alcohol"] == 0.5
    assert from_label("per serving (000 g): fat 3 g").label.per == 100


def test_two_labels_differ_in_what_the_second_has_more_of_and_in_their_allergens():
    plain = from_label("fat 35 g, carbohydrate 3.2 g, protein 2.2 g. Ingredients: cream")
    other = from_label("fat 30 g, carbohydrate 3.2 g, protein 2.2 g. Ingredients: cream, wheat flour, almond")
    compared = compare_labels(plain, other)
    assert compared.differences[0].component == "fat"
    assert compared.differences[0].more_g == pytest.approx(-5)
    assert compared.only_a == ()
    assert any("wheat" in one for one in compared.only_b)
    assert compare_labels(plain, plain).differences == ()
