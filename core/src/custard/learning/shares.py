"""What each of some differences is worth: every one exchanged with and without all the others."""

from __future__ import annotations

from collections.abc import Callable
from math import factorial

import numpy as np
from numpy.typing import NDArray

MOST = 8
"""So many differences are told apart: 256 cooks."""


def shares(count: int, outcome: Callable[[tuple[bool, ...]], NDArray[np.float64]]) -> NDArray[np.float64]:
    """Each difference's share of what all of them do together (Shapley 1953 as remembered).

    Parameters
    ----------
    count : how many differences there are, up to `MOST`.
    outcome : what comes of it where these differences are exchanged and the others are not.

    Returns
    -------
    rows that add up to the outcome with all of them less that with none.

    >>> shares(2, lambda given: np.array([3.0 * given[0] + 1.0 * given[1]])).ravel().tolist()
    [3.0, 1.0]
    """
    every = [outcome(tuple(bool(subset >> i & 1) for i in range(count))) for subset in range(2**count)]
    found = np.zeros((count, every[0].size))
    for subset in range(2**count):
        size = subset.bit_count()
        for i in range(count):
            if not subset >> i & 1:
                weight = factorial(size) * factorial(count - size - 1) / factorial(count)
                found[i] += weight * (every[subset | 1 << i] - every[subset])
    return found
