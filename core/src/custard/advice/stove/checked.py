"""A probe checked in ice and water, and in boiling water."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from custard.errors import Impossible, OutOfRange
from custard.figures import Kelvin

ICE_C, ICE_SPREAD_K = 0.0, 0.15
"""Crushed ice in water that is stirred [degC], and how far that strays in a kitchen [K]; as remembered,
0 to 0.3 K, sure."""
BOIL_SPREAD_K = 0.35
"""Weather moves where water boils: so far, one day in three [K]; as remembered, 0.2 to 0.5 K, fairly sure."""
READ_SPREAD_K = 0.2
"""How far the same probe strays from one reading to the next [K]; an estimate, 0.1 to 0.3."""
SETS_C = 82.0
"""Where it matters what it reads [degC]."""
ALONE_SPREAD_K = 0.6
"""What is not known at the other end, where only one was read [K]; an estimate, 0.4 to 1."""
MOST_OFF_K = 4.0
"""A probe that is off by more is no probe to cook an egg by [K]; an estimate on the safe side."""


@dataclass(frozen=True)
class CheckedProbe:
    """What a check says of a probe.

    Attributes
    ----------
    reads_high_k : how far it reads too high where sauces set [K].
    error_k : how far it may still be off after that is taken off, two times in three [K].
    """

    reads_high_k: Kelvin
    error_k: Kelvin


def probe_checked(ice_c: float | None, boil_c: float | None, boils_c: float) -> CheckedProbe:
    """What a probe's readings in ice and water and in boiling water say of it.

    Between the two its error is taken to go straight from one to the other.

    Parameters
    ----------
    ice_c, boil_c : what it read in ice and water, and in water at a full boil [degC]; None where nobody did.
    boils_c : where water boils in this kitchen [degC].

    Raises
    ------
    Impossible
        when neither was read.
    OutOfRange
        when it is off by so much that it is not to be used.

    >>> probe_checked(0.5, 101.0, 100.0).reads_high_k
    0.91
    """
    found = [
        (at, read - at, spread, field)
        for at, read, spread, field in (
            (ICE_C, ice_c, ICE_SPREAD_K, "ice_c"),
            (boils_c, boil_c, BOIL_SPREAD_K, "boil_c"),
        )
        if read is not None
    ]
    if not found:
        raise Impossible("check", "", "has no reading", "Read it in ice and water, or in boiling water.")
    for at, off, _, field in found:
        if abs(off) > MOST_OFF_K:
            raise OutOfRange(
                field,
                f"{{{at + off:.1f} C}}",
                f"is too far from {{{at:.1f} C}}, which it is to read",
                "Look whether it was in the middle and the water right; a probe so far off is replaced.",
            )
    share = SETS_C / boils_c
    if len(found) == 1:
        _, off, spread, _ = found[0]
        error = np.hypot(np.hypot(spread, READ_SPREAD_K), ALONE_SPREAD_K)
        return CheckedProbe(round(off, 2), round(float(error), 2))
    (_, cold, cold_spread, _), (_, hot, hot_spread, _) = found
    off = cold + share * (hot - cold)
    error = np.hypot(np.hypot((1 - share) * cold_spread, share * hot_spread), READ_SPREAD_K)
    return CheckedProbe(round(off, 2), round(float(error), 2))
