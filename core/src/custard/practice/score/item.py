"""What an attempt is worth, point by point: a hundred in all, and why points were lost."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from custard.figures import Tenths
from custard.practice.exercises import PASS_AT

MUST_KEEP = 1 / 3


@dataclass(frozen=True)
class Item:
    """One thing that counts: how much of its points was lost, what was got, what the best run got, and why.

    `values` fills the sentence of the reason.
    """

    key: str
    name: str
    of: Tenths
    lost: Tenths
    yours: str
    best: str
    reason: str = ""
    values: Mapping[str, str] = field(default_factory=dict)
    at_s: Tenths | None = None


@dataclass(frozen=True)
class Why:
    """Why points were lost: the name of the reason, what fills its sentence, and when it happened [s]."""

    reason: str
    values: Mapping[str, str] = field(default_factory=dict)
    at_s: float | None = None


CAUSES = ("cautions", "gaps")
"""A cause goes before its effects: what was not minded, and where nobody stirred."""


@dataclass(frozen=True)
class Score:
    """Points of a hundred, whether it passes, and what it is made of."""

    points: int
    passed: bool
    items: tuple[Item, ...]
    must: tuple[str, ...] = ()

    @property
    def most(self) -> Item | None:
        """What mattered most; None where hardly anything was lost."""
        causes = [one for one in self.items if one.key in CAUSES and one.lost >= one.of / 2]
        missed = [one for one in self.items if one.key in self.must and _missed(one)]
        worst = max(causes or missed or self.items, key=lambda one: one.lost, default=None)
        named = worst is not None and worst.reason != "" and (worst.lost >= 2 or not self.passed)
        return worst if named else None


def _missed(one: Item) -> bool:
    return one.lost > one.of * MUST_KEEP


def scored(items: list[Item], *, spoiled: bool, must: tuple[str, ...] = ()) -> Score:
    """The sum; what is spoiled does not pass, nor what misses its lesson, whatever else was right."""
    points = max(0, round(100 - sum(one.lost for one in items)))
    missed = any(one.key in must and _missed(one) for one in items)
    return Score(points, points >= PASS_AT and not spoiled and not missed, tuple(items), must)


def item(
    key: str,
    name: str,
    of: float,
    lost: float,
    yours: str,
    best: str,
    why: Why | None = None,
) -> Item:
    """One thing that counts, with no more lost than it has points; a reason only where something was."""
    lost = float(np.clip(lost, 0.0, of))
    why = why or Why("")
    reason = why.reason if lost > 0 else ""
    return Item(key, name, of, round(lost, 1), yours, best, reason, why.values, why.at_s)


def clock(seconds: float) -> str:
    """A time since the start, as a clock shows it."""
    return f"{int(seconds) // 60}:{int(seconds) % 60:02d}"


def in_g(grams: float) -> str:
    """A weight in a text, for the reader's unit [g]."""
    return f"{{{grams:.0f} g}}"
