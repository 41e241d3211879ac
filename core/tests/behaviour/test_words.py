"""What else cooks call a thing: by which it is found when it is typed."""

from __future__ import annotations

import custard
import pytest


@pytest.mark.parametrize(
    ("word", "name"),
    [
        ("Sahne", "whipping-cream-30"),
        ("milk", "whole-milk"),
        ("lait", "whole-milk"),
        ("double cream", "double-cream-48"),
        ("cream", "whipping-cream-36"),
        ("panna", "whipping-cream-35"),
        ("maicena", "cornstarch"),
    ],
)
def test_a_word_finds_what_it_usually_is(word, name):
    assert word in custard.larder.also_called(name)


def test_no_word_is_told_twice_and_what_is_no_ingredient_has_none():
    for name in custard.larder.all_ingredients():
        also = custard.larder.also_called(name)
        assert len(set(also)) == len(also)
    assert custard.larder.also_called("no such thing") == ()
