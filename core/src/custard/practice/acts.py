"""What a trainee does: acts with times, read strictly, since an attempt is nothing but its seed and these."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Any

from custard.errors import BadFormula, OutOfRange, UnknownName
from custard.larder.vessels import one_of

STIR, REST, FLAME, OFF, ON, DIP, PROBE, OUT, END = (
    "stir", "rest", "flame", "off", "on", "dip", "probe", "out", "end",
)  # fmt: skip
CREAM, BLEND, THROW = "cream", "blend", "throw"
POUR, STOP, BACK = "pour", "stop", "back"
CHILL, WAIT, ANSWER = "chill", "wait", "answer"

_PLACE = {"x": (-1.5, 1.5), "y": (-1.5, 1.5)}
FIGURES: Mapping[str, Mapping[str, tuple[float, float]]] = MappingProxyType(
    {
        STIR: _PLACE,
        FLAME: {"to": (0.0, 10.0)},
        CREAM: {"g": (1.0, 2000.0)},
        POUR: {"g_s": (1.0, 200.0)},
        CHILL: {"depth_mm": (10.0, 200.0)},
        WAIT: {"s": (10.0, 7200.0)},
    }
)
"""What an act needs to be told, and within what limits."""
WAYS = ("counter", "fridge", "ice-bath", "ice-only")
CHOSEN: Mapping[str, Mapping[str, tuple[str, ...]]] = MappingProxyType({CHILL: {"by": WAYS}})
"""What it must choose by name, and from what: an act that was kept can always be replayed."""
KNOWN = (
    STIR,
    REST,
    FLAME,
    OFF,
    ON,
    DIP,
    PROBE,
    OUT,
    END,
    CREAM,
    BLEND,
    THROW,
    POUR,
    STOP,
    BACK,
    CHILL,
    WAIT,
    ANSWER,
)
LONGEST_S = 3600.0
"""So long an attempt goes on at most [s]; time that is let pass does not count."""
MOST_ANSWERS = 12


@dataclass(frozen=True)
class Act:
    """One thing done: when since the start [s], what, and what it was told.

    `figures` are those of `FIGURES`; `words` what is chosen by name.
    """

    at_s: float
    do: str
    figures: Mapping[str, float] = field(default_factory=dict)
    words: Mapping[str, str] = field(default_factory=dict)

    def as_json(self) -> dict[str, Any]:
        """As it is kept."""
        return {"at": self.at_s, "do": self.do, **self.figures, **self.words}


def read_acts(rows: Sequence[Mapping[str, Any]], from_s: float = 0.0) -> tuple[Act, ...]:
    """Acts as they are kept or sent, in order, none before `from_s` [s].

    Parameters
    ----------
    rows : acts as plain data.
    from_s : none before this [s].

    Raises
    ------
    CustardError
        when one is not known, lacks a figure, is out of its limits or of order.
    """
    acts = []
    for row in rows:
        act = _act(row)
        if act.at_s < from_s - 1e-9:
            raise OutOfRange(
                "at", act.at_s, f"must not be before {from_s:.2f} s", "Send acts in order, once."
            )
        from_s = act.at_s
        acts.append(act)
    return tuple(acts)


def _act(row: Mapping[str, Any]) -> Act:
    do = row.get("do")
    if do not in KNOWN:
        raise UnknownName("do", do, "is nothing one can do here", f"One can: {', '.join(KNOWN)}.")
    needed = FIGURES.get(str(do), {})
    figures = {name: _number(row, name, *limits) for name, limits in needed.items()}
    if do == ANSWER:
        given = [name for name in row if name not in ("at", "do", "words")][:MOST_ANSWERS]
        figures = {name: _number(row, name, -1e6, 1e6) for name in given if not isinstance(row[name], str)}
    for name, known in CHOSEN.get(str(do), {}).items():
        one_of(name, str(row.get(name, "")), known)
    words = {
        name: str(row[name])[:40] for name in row if name not in ("at", "do") and isinstance(row[name], str)
    }
    return Act(_number(row, "at", 0.0, LONGEST_S), str(do), figures, words)


def _number(row: Mapping[str, Any], name: str, low: float, high: float) -> float:
    value = row.get(name)
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
        raise BadFormula(name, value, "must be a number")
    if not low <= value <= high:
        raise OutOfRange(name, value, f"must be from {low:g} to {high:g}")
    return float(value)
