"""Many callers at once, on a machine with no threading library at all, get what one alone gets."""

from __future__ import annotations

import subprocess
import sys
import textwrap
import threading

import custard
import numpy as np
import pytest
from custard.process.heating import pan
from custard.process.heating.cook import constants
from custard.process.heating.many import FEWEST_ROWS, share, simulate_many


def test_results_are_equal_to_the_bit_whatever_the_number_of_threads(make):
    rows = []
    for grams in np.linspace(40, 260, 200):
        mixture = custard.mix(make("anglaise", ("whole-milk", "1 l"), ("egg-yolk", f"{grams:.2f} g")))
        rows.append(pan.rows_of(constants(mixture, custard.process.Stove(power_w=400.0))))
    table, starts, lifts = np.concatenate(rows), np.full(200, 60.0), np.full(200, 83.0)
    alone, *shared = (simulate_many(table, starts, lifts, 5.0, 5.0, 900.0, 2.0, n) for n in (1, 2, 3, 8))
    assert np.ptp(alone, axis=0).max() > 1
    for ends in shared:
        assert ends.tobytes() == alone.tobytes()


@pytest.mark.parametrize("rows", [0, 1, FEWEST_ROWS, 5 * FEWEST_ROWS + 3])
@pytest.mark.parametrize("workers", [1, 2, 7])
def test_every_row_is_worked_on_once(rows, workers):
    worked = np.zeros(rows, dtype=int)

    def work(piece: slice) -> None:
        worked[piece] += 1

    share(rows, work, workers)
    assert (worked == 1).all()


def test_a_piece_that_fails_is_heard_and_the_pool_goes_on():
    def fail(piece: slice) -> None:
        if piece.start:
            raise ValueError(piece.start)

    with pytest.raises(ValueError, match=str(FEWEST_ROWS)):
        share(4 * FEWEST_ROWS, fail, 2)
    seen: set[int] = set()
    share(4 * FEWEST_ROWS, lambda piece: seen.add(piece.start), 2)
    assert len(seen) == 4


def test_no_more_threads_than_were_asked_for():
    names: set[str] = set()
    share(64 * FEWEST_ROWS, lambda _: names.add(threading.current_thread().name), 3)
    assert 1 <= len(names) <= 3


ALL_AT_ONCE = """
    import sys
    from concurrent.futures import ThreadPoolExecutor

    for layer in ("omppool", "tbbpool"):
        sys.modules["numba.np.ufunc." + layer] = None  # importing it now fails, as where it is not installed

    import custard

    formula = custard.read_formula({
        "format": "old-spoon/formula", "version": 1, "name": "custard", "family": "pouring-custard",
        "lines": [
            {"ingredient": "whole-milk", "amount": "500 g"}, {"ingredient": "egg-yolk", "amount": "5"},
            {"ingredient": "white-sugar", "amount": "90 g"}, {"ingredient": "cornstarch", "amount": "6 g"},
        ],
    })
    mixture = custard.mix(formula)
    asked = [
        lambda: custard.plain(custard.bench.ratio_map(formula, side=17)),
        lambda: custard.bands.cook_band(mixture, 60.0, 82.0, custard.process.Stove()),
        lambda: custard.bench.for_texture(formula, "heavy coat", 4.0),
    ]
    alone = [ask() for ask in asked]
    with ThreadPoolExecutor(24) as people:
        answers = [[people.submit(ask) for ask in asked] for _ in range(4)]
        assert all([answer.result() for answer in three] == alone for three in answers)
    loaded = open("/proc/self/maps").read()
    assert "gomp" not in loaded and "libtbb" not in loaded, "a threading library was loaded after all"
    print("all as alone")
"""


def test_eight_maps_bands_and_solves_at_once_where_no_threading_library_can_be_loaded():
    done = subprocess.run(
        [sys.executable, "-c", textwrap.dedent(ALL_AT_ONCE)], capture_output=True, text=True, check=False
    )
    assert done.stdout.strip() == "all as alone", done.stderr[-2000:]
    assert done.returncode == 0
