"""Many cooks at once, their rows shared between the machine's cores by a bounded pool of our own threads.

The compiled code lets go of Python's lock, so plain threads are enough: nothing depends on which threading
library a machine happens to have, and any number of callers may ask at once.
"""

from __future__ import annotations

import os
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import cache

import numpy as np
from numba import njit  # typed as Any: its decorators do not keep signatures
from numpy.typing import NDArray

from custard.process.heating import kernel

PIECES_A_THREAD = 4
"""Rows differ in how long they cook; with several pieces a thread none ends up with all the long ones."""
FEWEST_ROWS = 16
"""A smaller piece costs more to hand over than to cook."""


def threads() -> int:
    """How many cooks may run at once: as many as this process has cores."""
    return len(os.sched_getaffinity(0)) if hasattr(os, "sched_getaffinity") else os.cpu_count() or 1


@cache
def _pool(workers: int) -> ThreadPoolExecutor:
    return ThreadPoolExecutor(workers, thread_name_prefix="cook")


if hasattr(os, "register_at_fork"):
    # A forked child has the pool but not its threads, and would wait for them for ever.
    os.register_at_fork(after_in_child=_pool.cache_clear)


def share(rows: int, work: Callable[[slice], None], workers: int | None = None) -> None:
    """Call `work` with slices that together hold each of `rows` once, on at most `workers` threads.

    Returns when all is done; raises what a piece raised.
    """
    workers = workers or threads()
    size = max(FEWEST_ROWS, -(-rows // (workers * PIECES_A_THREAD)))
    pieces = [slice(start, min(rows, start + size)) for start in range(0, rows, size)]
    if workers == 1 or len(pieces) == 1:
        for piece in pieces:
            work(piece)
        return
    for done in [_pool(workers).submit(work, piece) for piece in pieces]:
        done.result()


@njit(cache=True, error_model="numpy", nogil=True)
def simulate_rows(
    rows: NDArray[np.void],
    start_c: NDArray[np.float64],
    lift_c: NDArray[np.float64],
    hold_s: float,
    left_s: float,
    longest_s: float,
    dt: float,
    ends: NDArray[np.float64],
) -> None:
    """Cook by cook; a row of `rows` has the fields of a `Constants`, one of `ends` is filled with its end."""
    nothing = np.empty((0, kernel.COLUMNS))
    for i in range(rows.shape[0]):
        asked = kernel.Asked(start_c[i], lift_c[i], hold_s, left_s, longest_s)
        _, _, y = kernel.simulate(rows[i], asked, dt, 1 << 30, nothing)
        ends[i] = y


def simulate_many(
    rows: NDArray[np.void],
    start_c: NDArray[np.float64],
    lift_c: NDArray[np.float64],
    hold_s: float,
    left_s: float,
    longest_s: float,
    dt: float,
    workers: int | None = None,
) -> NDArray[np.float64]:
    """Many cooks; the same to the bit whatever the number of threads.

    Parameters
    ----------
    rows : a row a cook, as `pan.rows_of` makes them
    start_c, lift_c : where each cook starts and is lifted [degC]
    hold_s, left_s, longest_s, dt : as for `kernel.simulate` [s], the same for all
    workers : threads to use; by default one a core

    Returns
    -------
    final states, a row a cook, columns as named in `kernel`
    """
    ends = np.empty((rows.shape[0], kernel.COLUMNS))

    def work(piece: slice) -> None:
        simulate_rows(rows[piece], start_c[piece], lift_c[piece], hold_s, left_s, longest_s, dt, ends[piece])

    share(rows.shape[0], work, workers)
    return ends
