"""A recipe as people have it, taken apart line by line; what is unclear is asked, never guessed."""

from __future__ import annotations

import custard
import pytest

read = custard.formats.read_text


def open_of(found):
    return {line.text: line.why for line in found.lines if line.why}


def test_a_running_sentence():
    found = read("2 cups whole milk, 5 yolks, ½ cup sugar, 2 tbsp cornflour, a knob of butter")
    assert [(line.amount, line.ingredient) for line in found.lines] == [
        ("2 cups", "whole-milk"),
        ("5", "egg-yolk"),
        ("½ cup", "white-sugar"),
        ("2 tbsp", "cornstarch"),
        ("", ""),
    ]
    assert open_of(found) == {"a knob of butter": "a knob has no weight; say how much"}
    assert found.lines[-1].candidates == ("butter-unsalted", "butter-salted")


PASTED = """Aunt's Tuesday cream

Serves 8

Ingredients:
- 2 cups whole milk
• five egg yolks, lightly beaten
* ½ cup caster sugar
1 ½ tbsp cornflour
[ ] a pinch of salt
- 1 vanilla pod (split)
some brandy
100-120 g sugar

Method
1. Heat the milk with the pod. Whisk the yolks.
2) Pour 2 cups of it over them.
"""


def test_a_whole_page_of_text():
    found = read(PASTED)
    assert found.name == "Aunt's Tuesday cream"
    assert found.serves == "8"
    assert found.formula is None
    assert [line.ingredient for line in found.lines[:6]] == [
        "whole-milk", "egg-yolk", "white-sugar", "cornstarch", "salt", "vanilla-pod",
    ]  # fmt: skip
    assert [line.amount for line in found.lines[:6]] == ["2 cups", "5", "½ cup", "1 ½ tbsp", "1 pinch", "1"]
    assert found.lines[1].note == "lightly beaten"
    assert set(open_of(found)) == {"some brandy", "100-120 g sugar"}
    assert found.method == (
        "Heat the milk with the pod.",
        "Whisk the yolks.",
        "Pour 2 cups of it over them.",
    )


def test_without_headings_the_method_begins_with_what_to_do():
    found = read("500ml whole milk\n6 yolks\n90g sugar\nWarm the milk. Whisk yolks and sugar.")
    assert len(found.lines) == 3
    assert not open_of(found)
    assert found.method == ("Warm the milk.", "Whisk yolks and sugar.")


def test_take_so_much_and_then_do_so():
    found = read("Take 1,5 dl double cream and 3 egg yolks; 40 g sugar. Whisk it all until it coats a spoon.")
    assert [line.amount for line in found.lines] == ["1,5 dl", "3", "40 g"]
    assert found.method == ("Whisk it all until it coats a spoon.",)


def test_milk_alone_may_be_any_milk():
    (line,) = read("500 ml milk").lines
    assert (line.ingredient, line.why) == ("", "say which ingredient this is")
    assert "whole-milk" in line.candidates


def test_a_saved_page_gives_its_structured_data():
    page = (
        "<!doctype html><html><head><script type='application/ld+json'>not json</script>"
        '<script type="application/ld+json">{"@graph": [{"@type": "Recipe", "name": "Cream",'
        ' "recipeIngredient": ["500 ml whole milk", "6 egg yolks"], "recipeInstructions": "Cook."}]}</script>'
        "</head><body><p>7 cups of nonsense</p></body></html>"
    )
    found = read(page)
    assert (found.name, len(found.lines), found.method) == ("Cream", 2, ("Cook.",))


@pytest.mark.parametrize(
    "text", ["", "hello world", "Heat the milk.\nServe.", "<html><body>6 yolks</body></html>", "\x00"]
)
def test_what_is_no_recipe_is_said_to_be_none(text):
    with pytest.raises(custard.BadFormula) as refused:
        read(text)
    assert refused.value.field == "text"


def test_a_hundred_lines_are_enough():
    with pytest.raises(custard.BadFormula, match="100"):
        read("\n".join(["5 g salt"] * 101))


@pytest.mark.parametrize(
    "title",
    [
        "The best custard",
        "The very best",
        "A sauce for Sunday",
        "Two-minute custard",
        "Some recipe of an aunt",
    ],
)
def test_a_title_that_begins_like_an_amount_is_no_line(title):
    read = custard.formats.read_text(f"{title}\n500 g whole milk\n6 egg yolks")
    assert read.name == title
    assert len(read.lines) == 2


@pytest.mark.parametrize(
    "line", ["The zest of a lemon", "A pint of cream for the custard", "A pinch of salt", "Six egg yolks"]
)
def test_a_first_line_that_is_an_amount_is_no_title(line):
    read = custard.formats.read_text(f"{line}\n500 g whole milk\n100 g white sugar")
    assert read.name != line
    assert len(read.lines) == 3
