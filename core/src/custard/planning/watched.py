"""Stopping a solver that looks for longer than anybody waits."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from threading import Event, Thread
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from ortools.sat.python import cp_model

ASKED_S = 0.2
"""How often it is asked whether to look no further [s]."""


@contextmanager
def watched(solver: cp_model.CpSolver, stop: Callable[[], bool] | None) -> Iterator[None]:
    """Asks now and then, while a solver looks, whether it is to look no further."""
    if stop is None:
        yield
        return
    over = Event()

    def watch() -> None:
        while not over.wait(ASKED_S):
            if stop():
                solver.stop_search()
                return

    watching = Thread(target=watch, name="stop-search")
    watching.start()
    try:
        yield
    finally:
        over.set()
        watching.join()
