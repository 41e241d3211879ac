"""A search that has no time ends with the best it has seen, and what is solved says so."""

from __future__ import annotations

import custard
import pytest
from custard.advice.bench.search import Search


def allowed(times: int):
    """Time for so many more looks."""
    left = iter(range(times))
    return lambda: next(left, None) is not None


def test_with_time_it_finds_the_least_that_is_enough():
    search = Search()
    assert search.where(lambda at: at * at, 2.0, 0.0, 8.0) == pytest.approx(2**0.5, abs=1e-3)
    assert not search.cut_short


@pytest.mark.parametrize("times", range(12))
def test_cut_short_it_gives_the_nearest_of_what_it_saw(times):
    search, seen = Search(allowed(times)), {}

    def value(at: float) -> float:
        seen[at] = at * at
        return seen[at]

    found = search.where(value, 2.0, 0.0, 8.0)
    assert search.cut_short
    assert len(seen) == times + 1
    assert abs(seen[found] - 2.0) == min(abs(got - 2.0) for got in seen.values())


def test_what_is_solved_without_time_says_that_it_is_the_best_so_far(anglaise):
    for found in (
        custard.bench.for_texture(anglaise, "pipeable", 4.0, go_on=allowed(3)),
        custard.bench.swap_dairy(anglaise, "single-cream-18", go_on=allowed(3)),
    ):
        assert found.reached.startswith("the best so far")
    assert "best so far" not in custard.bench.for_texture(anglaise, "pipeable", 4.0).reached


def test_without_time_what_is_there_already_is_no_answer(anglaise):
    with pytest.raises(custard.NoTime) as refusal:
        custard.bench.for_texture(anglaise, "pipeable", 4.0, go_on=allowed(0))
    assert "Ask again" in refusal.value.sentence()
