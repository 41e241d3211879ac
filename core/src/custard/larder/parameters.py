"""The model's parameters: frozen groups built from `data/parameters.csv`, one row a number."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from functools import cache
from typing import get_type_hints

from custard.larder.parameter_groups import (
    Coagulation,
    Cook,
    Enzyme,
    Finish,
    Foam,
    Heat,
    Infuse,
    Keep,
    Later,
    Lethality,
    Losses,
    Oven,
    Serve,
    Spoon,
    Starch,
    Stir,
    Temper,
    Texture,
)
from custard.larder.tables import rows


@dataclass(frozen=True)
class Origin:
    """Where a number comes from. Sources are recalled, not looked up."""

    group: str
    name: str
    unit: str
    value: float
    low: float
    high: float
    source: str
    confidence: str
    note: str


@dataclass(frozen=True)
class Parameters:
    """Every parameter of the model, by group."""

    coagulation: Coagulation
    starch: Starch
    texture: Texture
    spoon: Spoon
    losses: Losses
    cook: Cook
    temper: Temper
    heat: Heat
    enzyme: Enzyme
    lethality: Lethality
    foam: Foam
    oven: Oven
    keep: Keep
    later: Later
    finish: Finish
    infuse: Infuse
    serve: Serve
    stir: Stir

    def as_json(self) -> dict[str, float]:
        """Every value by "group.name"."""
        return {
            name: getattr(getattr(self, name.partition(".")[0]), name.partition(".")[2]) for name in names()
        }

    @property
    def version(self) -> str:
        """A short sum of all values: the same for equal sets, whenever and wherever."""
        written = ";".join(f"{name}={value!r}" for name, value in sorted(self.as_json().items()))
        return hashlib.sha256(written.encode()).hexdigest()[:16]

    def with_value(self, name: str, value: float) -> Parameters:
        """A copy with one parameter changed, named "group.name"."""
        group, _, field = name.partition(".")
        return replace(self, **{group: replace(getattr(self, group), **{field: value})})


@cache
def origins() -> tuple[Origin, ...]:
    """Every parameter with its unit, range, source as remembered and confidence."""
    return tuple(
        Origin(
            group=row["group"],
            name=row["name"],
            unit=row["unit"],
            value=float(row["value"]),
            low=float(row["low"]),
            high=float(row["high"]),
            source=row["source"],
            confidence=row["confidence"],
            note=row["note"],
        )
        for row in rows("parameters")
    )


@cache
def _groups() -> dict[str, type]:
    """The groups of a parameter set, by name."""
    return get_type_hints(Parameters)


@cache
def standard() -> Parameters:
    """The parameter set as shipped.

    Raises
    ------
    TypeError
        when a table row is missing or has no field to go to.
    """
    values: dict[str, dict[str, float]] = {group: {} for group in _groups()}
    for origin in origins():
        values[origin.group][origin.name] = origin.value
    return Parameters(**{group: kind(**values[group]) for group, kind in _groups().items()})


def read_parameters(values: Mapping[str, float]) -> Parameters:
    """A parameter set as it was kept; what it does not hold, as parameters made later, is as shipped.

    Values of parameters that are no more are left out.

    Parameters
    ----------
    values : by name, in their units.
    """
    found = standard()
    for name in names():
        if name in values:
            found = found.with_value(name, float(values[name]))
    return found


def names() -> tuple[str, ...]:
    """Every parameter as "group.name", from the code; a test compares it with the table."""
    return tuple(f"{group}.{field.name}" for group, kind in _groups().items() for field in fields(kind))
