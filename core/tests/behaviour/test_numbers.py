"""Numbers as people write them, by the table of cases that the browser's tests read as well."""

import json
from pathlib import Path

import pytest
from custard.errors import BadQuantity
from custard.numbers import read_minutes, read_number

CASES = json.loads((Path(__file__).parents[1] / "cases" / "numbers.json").read_text(encoding="utf-8"))


@pytest.mark.parametrize(("text", "number"), CASES["numbers"])
def test_a_number_is_read_as_in_the_browser(text, number):
    _is_read(read_number, text, number)


@pytest.mark.parametrize(("text", "minutes"), CASES["minutes"])
def test_a_length_of_time_is_read_as_in_the_browser(text, minutes):
    _is_read(read_minutes, text, minutes)


def _is_read(read, text, value):
    if value is None:
        with pytest.raises(BadQuantity):
            read(text)
    else:
        assert read(text) == pytest.approx(value, abs=1e-9)
