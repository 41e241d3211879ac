"""Dishes and pans: how much they take, and what to do when the batch does not fit."""

from __future__ import annotations

import math
from dataclasses import dataclass

from custard.advice.bench.scale import HEAD_ROOM, hot_ml
from custard.errors import OutOfRange, within
from custard.formula import MAX_TOTAL_G, Formula

SHAPES: tuple[str, ...] = ("round", "oval", "rectangle", "cups")


def dish_ml(shape: str, length_cm: float, width_cm: float, height_cm: float, count: float = 1.0) -> float:
    """What dishes hold to the rim [ml].

    A round dish is `length_cm` across; an oval one `length_cm` by `width_cm`; of cups, `length_cm` is
    across and `height_cm` deep.

    Parameters
    ----------
    shape : "round", "oval", "rectangle" or "cups".
    length_cm : length, or diameter where it is round [cm].
    width_cm : width where it is not round [cm].
    height_cm : height inside [cm].
    count : how many of them [1].

    Raises
    ------
    OutOfRange
        when a size cannot be a dish's.
    """
    if shape not in SHAPES:
        raise OutOfRange("shape", shape, f"must be one of {', '.join(SHAPES)}")
    within("length_cm", length_cm, 1, 200)
    within("height_cm", height_cm, 0.5, 60)
    within("count", count, 1, 500)
    if shape in ("oval", "rectangle"):
        within("width_cm", width_cm, 1, 200)
    base = {
        "round": math.pi / 4 * length_cm**2,
        "cups": math.pi / 4 * length_cm**2,
        "oval": math.pi / 4 * length_cm * width_cm,
        "rectangle": length_cm * width_cm,
    }[shape]
    return base * height_cm * count


@dataclass(frozen=True)
class PanFit:
    """Whether a formula fits a pan; `batches` of `each` when it does not.

    `fills` is the share of the pan that the whole formula would fill, hot [1].
    """

    fits: bool
    fills: float
    batches: int
    each: Formula


def fit_pan(formula: Formula, pan_ml: float, head_room: float = HEAD_ROOM) -> PanFit:
    """Whether a formula can be stirred in a pan of `pan_ml`, else in how many batches.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    pan_ml : what the pan holds to the rim [ml], above 0.
    head_room : share of the pan left free [0 to 1].
    """
    within("pan_ml", pan_ml, 1, MAX_TOTAL_G)
    within("head_room", head_room, 0, 0.9)
    fills = hot_ml(formula) / pan_ml
    batches = max(1, math.ceil(fills / (1 - head_room) - 1e-9))
    each = formula if batches == 1 else formula.times(1 / batches)
    return PanFit(fits=batches == 1, fills=fills, batches=batches, each=each)


@dataclass(frozen=True)
class TopUp:
    """What brings infused dairy back to its weight: grams of each liquid, in proportion."""

    missing_g: float
    add: tuple[tuple[str, float], ...]


def top_up(formula: Formula, left_g: float) -> TopUp:
    """After infusing or poaching: `left_g` grams of milk and the like are left of what was weighed.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    left_g : what is left of the dairy [g].

    Raises
    ------
    OutOfRange
        when more is left than there was, or the formula has no such liquid.
    """
    dairy = [(line.ingredient.id or line.ingredient.name, grams) for line, grams in formula.poured()]
    total = sum(grams for _, grams in dairy)
    if total <= 0:
        raise OutOfRange("left_g", left_g, "cannot be topped up: the formula has nothing to infuse in")
    if not 0 <= left_g <= total:
        raise OutOfRange("left_g", left_g, f"must be from 0 to the {total:.0f} g that were weighed")
    missing = total - left_g
    return TopUp(missing, tuple((name, missing * grams / total) for name, grams in dairy))
