"""A year of the demo kitchen: four hundred batches made by its own core, in which something is to be found.

A ring weakens from summer on; the hens change in spring, and with them where a sauce sets; one cook lifts
late; for a week the probe reads too high. It is made by a command, not at the first start.
"""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass

from demo.fortnight import Tale, Went

SEED, BATCHES, DAYS = 20, 400, 364.0
WEAKENS_FROM, WEAKENED = 150.0, 0.7
"""Days ago, and what is left of the ring today [1]."""
HENS_CHANGED, BEFORE_K, SINCE_K = 240.0, 0.2, 1.4
"""Days ago, and how much later eggs set before and since [K]."""
OVER_K, LATE_K, LATE_SPREAD_K = 0.5, 1.6, 1.2
"""How far lifts lie from the plan, and how much later, and less surely, one cook lifts [K]."""
ODD_PROBE, ODD_PROBE_K = (96.0, 103.0), 2.5
"""From when to when [days ago] the probe read so much too high [K]."""
DISCARDED_K = 3.4
"""Lifted so much too late it is thrown away, unless it boils anyway [K]."""


@dataclass(frozen=True)
class Usual:
    """What is made again and again, on which ring, and for what."""

    formula: str
    ring: str
    often: int
    dish: str
    boiled: bool = False


USUAL = (
    Usual("Bay leaf anglaise", "front ring", 9, "poached quince"),
    Usual("Barley ice base", "back ring", 4, "malted ice"),
    Usual("Saffron pouring custard", "back ring", 3, "plum cobbler", boiled=True),
    Usual("Rye pastry cream", "induction", 3, "choux", boiled=True),
    Usual("Bitter chocolate crémeux", "induction", 2, "tart"),
)
COOKS = ("pastry", "section", "trainee")


def year(count: int = BATCHES) -> tuple[Tale, ...]:
    """So many batches, evenly over a year, the oldest first; the same each time."""
    return tuple(_tales(count, random.Random(SEED)))  # noqa: S311 chance, not a secret


def _tales(count: int, dice: random.Random) -> Iterator[Tale]:
    often = [one.often for one in USUAL]
    for number in range(count):
        ago = DAYS * (1 - number / count) + 1
        what = dice.choices(USUAL, often)[0]
        by = dice.choice(COOKS)
        late = by == "trainee"
        over_k = dice.gauss(LATE_K, LATE_SPREAD_K) if late else dice.gauss(0.0, OVER_K)
        weakened = max(0.0, 1 - ago / WEAKENS_FROM)
        low, high = ODD_PROBE
        spoiled = over_k > DISCARDED_K and not what.boiled
        yield Tale(
            formula=what.formula,
            days_ago=round(ago, 3),
            by=by,
            ring=what.ring,
            verdict="discarded" if spoiled else "good",
            note="curdled: lifted much too late" if spoiled else "",
            over_k=round(over_k, 2),
            stood_s=float(dice.choice((10, 12, 15, 20))),
            turned=round(1 - (1 - WEAKENED) * weakened, 3) if what.ring == "front ring" else 1.0,
            set_k=round((SINCE_K if ago < HENS_CHANGED else BEFORE_K) + dice.gauss(0, 0.4), 2),
            probe_k=ODD_PROBE_K if low < ago < high else 0.0,
            went=() if spoiled else _went(what.dish, dice),
        )


def _went(dish: str, dice: random.Random) -> tuple[Went, ...]:
    """Nearly all of it is used on its day and the next; what stays behind grows too old."""
    today = round(dice.uniform(0.4, 0.6), 2)
    next_day = round(dice.uniform(0.75, 1.0) - today, 2)
    return (
        Went("labelled", 1, 0.0),
        Went("used", 5 + 2 * dice.random(), today, dish),
        Went("used", 27 + 2 * dice.random(), next_day, f"{dish}, the day after"),
    )
