"""The unit of numbers that stand without one: said once for a recipe, or shown by how they are written."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence

from custard.reading.tokens import fold, says
from custard.reading.words import lists

_THREE_DECIMALS = re.compile(r"^[0-4][.,]\d{3}\s+[^\W\d]|\s[0-4][.,]\d{3}$")
_SHARE_BEHIND = re.compile(r"(\d\s*(?:g|kg|ml|l))\s+\d+(?:[.,]\d+)?\s*%$", re.IGNORECASE)
LEAST_SHARES = 3
"""So many lines with a share of the whole make it a column."""


def unit_of_all(line: str) -> str:
    """The unit that a line gives to every bare number: "all in g"; else empty.

    Parameters
    ----------
    line : one line of a recipe.
    """
    words = fold(line).split()
    said = lists("layout")["grams"] | lists("layout")["all"] | {"in", "en", "em", "unless", "noted"}
    if words and set(words) <= said:
        return "g" if set(words) & lists("layout")["grams"] else ""
    for at, word in enumerate(words[1:-1], 1):
        unit = words[at + 1]
        before = " ".join(words[:at])
        if word in ("in", "en", "em") and (unit in lists("layout")["grams"] or unit == "ml"):
            of_all = says(before, lists("layout")["all"])
            return ("ml" if unit == "ml" else "g") if of_all else ""
    return ""


def kilos_of(lines: Iterable[str]) -> str:
    """The unit of bare numbers where most lines have one with three decimals, as "latte 0,560"; else empty.

    Parameters
    ----------
    lines : of ingredients.
    """
    bare = [bool(_THREE_DECIMALS.search(line)) for line in lines]
    return "kg" if sum(bare) > max(1, len(bare) / 2) else ""


def without_shares(lines: Sequence[str]) -> tuple[str, ...]:
    """Lines without the percentage of the whole behind each amount, "Sugar 220 g 22%", where most have one.

    Parameters
    ----------
    lines : of ingredients.
    """
    behind = [bool(_SHARE_BEHIND.search(line)) for line in lines]
    if sum(behind) < LEAST_SHARES or 2 * sum(behind) <= len(behind):
        return tuple(lines)
    return tuple(_SHARE_BEHIND.sub(r"\1", line) for line in lines)
