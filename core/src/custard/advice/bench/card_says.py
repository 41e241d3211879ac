"""What the temperature that a recipe names does to the very mix that it describes."""

from __future__ import annotations

from dataclasses import dataclass

from custard.advice.mix.assess import Assessment
from custard.figures import Celsius

NEARLY_K = 0.5
"""So near the stop a card means it [K]."""


@dataclass(frozen=True)
class CardSays:
    """A temperature that a recipe names, judged.

    Attributes
    ----------
    at_c : the temperature [degC].
    say : what it does to this mix, a sentence; differences in it stand as "{2.1 K}".
    """

    at_c: Celsius
    say: str


def card_says(result: Assessment) -> CardSays | None:
    """What the temperature of a formula's recipe does to it; None where the recipe names none.

    Parameters
    ----------
    result : an assessed formula.
    """
    at_c = result.formula.card.cook_to_c
    return None if at_c is None else CardSays(at_c, _judged(at_c, result))


def _judged(at_c: float, result: Assessment) -> str:
    window, stop_c = result.window, result.stop.at_c
    if window.curdles_c is not None and at_c >= window.curdles_c:
        return f"That is {{{at_c - window.curdles_c:.1f} K}} past where this mix curdles."
    if window.thickens_c is not None and at_c < window.thickens_c:
        return f"That is {{{window.thickens_c - at_c:.1f} K}} before this mix thickens at all."
    if abs(at_c - stop_c) <= NEARLY_K:
        return "That is where this mix is to stop."
    if at_c > stop_c:
        return f"That is {{{at_c - stop_c:.1f} K}} past its stop: a heavier coat, not yet curdled."
    return f"That is {{{stop_c - at_c:.1f} K}} under its stop: a thinner coat."
