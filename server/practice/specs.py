"""An exercise as it is kept beside an attempt, and as core knows it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import custard
from book import reads as book
from custard import practice
from kitchen.access import Actor

from practice.schemas import Hidden

Spec = dict[str, Any]


def exercise_of(spec: Mapping[str, Any]) -> practice.Exercise:
    """The exercise of a kept specification: one of core's own by its key, or a formula on a hidden hob."""
    if spec.get("key"):
        return practice.exercise(spec["key"])
    return practice.of_formula(
        custard.read_formula(spec["formula"]),
        spec["difficulty"],
        spec["pan"],
        spec["surprise"],
        spec["probe"],
        spec["name"],
        spec["tell"],
    )


def conditions_of(kept: Mapping[str, Any]) -> custard.Conditions:
    """The conditions an attempt was begun under."""
    return custard.Conditions.of(kept, custard.USUAL.parameters)


def spec_of(actor: Actor, formula_id: int, how: Hidden, name: str = "", tell: str = "") -> Spec:
    """A formula of the Book as it is now, and how it is practised, as it is kept."""
    latest = book.version(actor, formula_id)
    return {
        "formula": latest.content,
        "difficulty": how.difficulty,
        "pan": how.pan,
        "surprise": how.surprise,
        "probe": how.probe,
        "name": name or latest.content["name"],
        "tell": tell,
    }
