"""Words with places put back into a text: rows, columns, sentences, and the mistakes of reading."""

from __future__ import annotations

from collections import Counter

import pytest
from custard.reading import PictureWord, read, text_of
from custard.reading.picture import mend
from hypothesis import given
from hypothesis import strategies as st

LINE, CHARACTER = 30.0, 12.0


def placed(text: str, left: float = 0, top: float = 0, sure: float = 95) -> list[PictureWord]:
    """The words of some lines as a reader of pictures finds them, spaces and empty lines at their places."""
    return [
        PictureWord(word, sure, left + at * CHARACTER, top + row * LINE, len(word) * CHARACTER, 20)
        for row, line in enumerate(text.split("\n"))
        for at, word in _words(line)
    ]


def _words(line: str) -> list[tuple[int, str]]:
    found, at = [], 0
    for word in line.split(" "):
        if word:
            found.append((at, word))
        at += len(word) + 1
    return found


LIST = "Custard\n\n500 ml milk\n90 g sugar\n6 egg yolks"
METHOD = "Heat the milk and pour it over\nthe yolks, whisking all the\ntime. Cook to 82 °C."


def test_a_list_stays_a_list_and_a_sentence_becomes_one_line():
    text = text_of(placed(f"{LIST}\n\n{METHOD}")).text
    assert text.split("\n")[2:5] == ["500 ml milk", "90 g sugar", "6 egg yolks"]
    assert text.endswith("pour it over the yolks, whisking all the time. Cook to 82 °C.")


def test_columns_are_read_one_after_the_other_below_a_title_across_both():
    words = placed("Custard of the house, as it was made for a long time", 100)
    words += placed(LIST.removeprefix("Custard"), 0, 40) + placed(METHOD, 300, 100)
    lines = text_of(words).text.split("\n")
    assert lines[0].startswith("Custard of the house")
    assert lines.index("6 egg yolks") < lines.index(
        "Heat the milk and pour it over the yolks, whisking all the time. Cook to 82 °C."
    )


@pytest.mark.parametrize("amounts_left", [False, True])
def test_a_column_of_amounts_belongs_to_its_names(amounts_left):
    names, amounts = "Milk\nCream 35 %\nEgg yolk\nSugar", "500 g\n250 g\n120 g\n90 g"
    left, right = (amounts, names) if amounts_left else (names, amounts)
    recipe = read(text_of(placed(left) + placed(right, 400)).text, doubtful=())
    assert [line.ingredient for line in recipe.lines] == [
        "whole-milk",
        "whipping-cream-35",
        "egg-yolk",
        "white-sugar",
    ]
    assert [line.grams for line in recipe.lines] == [500, 250, 120, 90]


def test_a_word_cut_at_the_end_of_a_row_is_whole():
    text = text_of(placed("Bring the milk and the cream to-\ngether to the boil and whisk")).text
    assert "cream together to the boil" in text


def test_what_is_hard_to_read_is_named_and_stains_are_left_out():
    words = placed("500 ml milk") + placed("90 g sugar", top=30, sure=50) + placed("|", top=60)
    words += placed("shadow", top=90, sure=10)
    found = text_of(words)
    assert found.text == "500 ml milk\n90 g sugar"
    assert found.doubtful == ("90 g sugar",)
    lines = read(found.text, doubtful=found.doubtful).lines
    assert ["hard to read" in line.assumed[-1] for line in lines] == [False, True]
    assert not any(line.sure for line in lines)


@pytest.mark.parametrize(
    ("found", "meant"),
    [
        ("5OO ml milk", "500 ml milk"),
        ("l50 g sugar", "150 g sugar"),
        ("1l milk", "1l milk"),
        ("250 9 Sahne", "250 g Sahne"),
        ("2509 Sahne", "250 g Sahne"),
        ("6 egg yolks (120 9)", "6 egg yolks (120 g)"),
        ("19 eggs", "19 eggs"),
        ("1% tsp vanilla", "1½ tsp vanilla"),
        ("% cup cream", "½ cup cream"),
        ("35 % cream", "35 % cream"),
        ("12 | de lait entier", "½ l de lait entier"),
        ("Y2 ] de lait", "½ l de lait"),
        ("34 | Milch", "¾ l Milch"),
        ("12 l Milch", "12 l Milch"),
        ("500 mi milk", "500 ml milk"),
        ("250 gSahne", "250 g Sahne"),
        ("¢ 2 egg yolks", "2 egg yolks"),
        ("«500 ml milk", "500 ml milk"),
        ("Oil 10 g", "Oil 10 g"),
        ("cook to 82 °C", "cook to 82 °C"),
    ],
)
def test_the_usual_mistakes_are_mended_and_nothing_else(found, meant):
    assert mend(found) == meant


def test_nothing_found_is_an_empty_text():
    assert text_of([]).text == ""


@given(
    st.lists(
        st.builds(
            PictureWord,
            st.text("abcxyzäé", min_size=2, max_size=8),
            st.floats(25, 100),
            *[st.floats(0, 3000)] * 2,
            *[st.floats(1, 200)] * 2,
        ),
        max_size=40,
    )
)
def test_wherever_words_stand_each_comes_once_into_the_text(words):
    assert Counter(text_of(words).text.split()) == Counter(word.text for word in words)


@given(st.lists(st.builds(PictureWord, st.text(max_size=9), *[st.floats(0, 3000)] * 5), max_size=20))
def test_whatever_is_found_becomes_a_text(words):
    found = text_of(words)
    assert set(found.doubtful) <= set(found.text.split("\n"))
