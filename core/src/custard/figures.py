"""From what is computed to plain data, once for the command, the server and the screens.

A figure's kind says how finely it is told: a dataclass names the kind in its field, and `plain` rounds by it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, fields, is_dataclass
from functools import lru_cache
from typing import Annotated, Any, get_args, get_type_hints

import numpy as np


@dataclass(frozen=True)
class Rounding:
    """How finely a figure is told: to so many decimals, or to so many significant figures."""

    decimals: int = 0
    figures: int | None = None

    def of(self, value: float) -> float | None:
        """A figure as it is told; None for what is not a number.

        >>> Rounding(2).of(82.4449), Rounding(figures=3).of(0.012345), Rounding(0).of(351.4)
        (82.44, 0.0123, 351)
        """
        if math.isnan(value):
            return None
        if self.figures is not None:
            return float(f"{value:.{self.figures}g}")
        return round(value, self.decimals) if self.decimals else round(value)


Celsius = Annotated[float, Rounding(2)]
TenthsCelsius = Annotated[float, Rounding(1)]
Kelvin = Annotated[float, Rounding(2)]
Seconds = Annotated[float, Rounding(1)]
WholeSeconds = Annotated[float, Rounding(0)]
Watts = Annotated[float, Rounding(0)]
TenthsWatt = Annotated[float, Rounding(1)]
JoulesKelvin = Annotated[float, Rounding(0)]
Pascals = Annotated[float, Rounding(figures=3)]
PascalSeconds = Annotated[float, Rounding(figures=3)]
Millimetres = Annotated[float, Rounding(3)]
Grams = Annotated[float, Rounding(1)]
WholeGrams = Annotated[float, Rounding(0)]
Percent = Annotated[float, Rounding(1)]
Share = Annotated[float, Rounding(4)]
FineShare = Annotated[float, Rounding(6)]
Thousandths = Annotated[float, Rounding(3)]
Hundredths = Annotated[float, Rounding(2)]
Tenths = Annotated[float, Rounding(1)]


def plain(value: Any) -> Any:
    """A value as plain data: mappings, lists, texts and numbers, each figure as finely as its kind is told.

    Parameters
    ----------
    value : a dataclass, mapping, list, array, text or number.

    >>> @dataclass
    ... class Reading:
    ...     at_s: Seconds
    ...     celsius: list[Celsius] | None
    >>> plain(Reading(1.04, [82.4449, math.nan]))
    {'at_s': 1.0, 'celsius': [82.44, None]}
    """
    return _plain(value, None)


def _plain(value: Any, rounding: Rounding | None) -> Any:
    if is_dataclass(value) and not isinstance(value, type):
        known = _roundings(type(value))
        return {name: _plain(getattr(value, name), fine) for name, fine in known.items()}
    if isinstance(value, np.ndarray | np.generic):
        return _plain(value.tolist(), rounding)
    if isinstance(value, Mapping):
        return {key: _plain(part, rounding) for key, part in value.items()}
    if isinstance(value, list | tuple):
        return [_plain(part, rounding) for part in value]
    if isinstance(value, float) and rounding is not None:
        return rounding.of(value)
    return value


@lru_cache
def _roundings(kind: type[Any]) -> dict[str, Rounding | None]:
    """How finely each field of a dataclass is told."""
    hints = get_type_hints(kind, include_extras=True)
    return {one.name: _rounding(hints[one.name]) for one in fields(kind)}


def _rounding(hint: Any) -> Rounding | None:
    for part in get_args(hint):
        found = part if isinstance(part, Rounding) else _rounding(part)
        if found is not None:
            return found
    return None
