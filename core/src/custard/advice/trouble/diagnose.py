"""What most likely made a fault, how sure that is, and what to change next time."""

from __future__ import annotations

import math
import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from custard.advice.mix.assess import Assessment
from custard.advice.trouble.story import FIGURES, Story
from custard.figures import Hundredths
from custard.larder.vessels import one_of

MOST_FROM_ONE = 6.0
"""No figure alone makes a cause more than so many times as likely, nor less [1, as a logarithm]."""


@dataclass(frozen=True)
class Cause:
    """One cause: what happened, what to do next time, and how sure it is beside the others [1]."""

    cause: str
    say: str
    next: str
    sure: Hundredths


@cache
def troubles() -> Mapping[str, Any]:
    """The faults that a curve can tell of, with their causes, by name.

    Raises
    ------
    KeyError
        when a cause goes by a figure that no story has.
    """
    text = files("custard.larder").joinpath("data", "trouble.toml").read_text(encoding="utf-8")
    found = tomllib.loads(text)
    for fault in found.values():
        for cause in fault["causes"].values():
            for name in cause["tells"]:
                if name not in FIGURES:
                    raise KeyError(name)
    return found


def diagnose(result: Assessment, fault: str, story: Story) -> tuple[Cause, ...]:
    """The causes of a fault that is seen, the likeliest first; they add up to 1.

    Raises
    ------
    UnknownName
        when the fault is none that a curve can tell of.
    """
    one_of("seen", fault, troubles())
    causes = troubles()[fault]["causes"]
    weights = {name: math.log(one["usual"]) + _speaks(one["tells"], story) for name, one in causes.items()}
    most = max(weights.values())
    total = sum(math.exp(weight - most) for weight in weights.values())
    known = _known(result, story)
    found = [
        Cause(
            name,
            causes[name]["say"].format_map(known),
            causes[name]["next"].format_map(known),
            math.exp(weight - most) / total,
        )
        for name, weight in weights.items()
    ]
    return tuple(sorted(found, key=lambda one: -one.sure))


def _speaks(tells: Mapping[str, tuple[float, float]], story: Story) -> float:
    """How far the story speaks for a cause, as a logarithm; what nobody knows says nothing."""
    found = 0.0
    for name, (middle, width) in tells.items():
        value = story.figure(name)
        if value is not None:
            z = max(-30.0, min(30.0, (value - middle) / width))
            found += max(-MOST_FROM_ONE, math.log(2 / (1 + math.exp(-z))))
    return found


def _known(result: Assessment, story: Story) -> dict[str, str]:
    def degrees(value: float | None) -> str:
        return "a temperature nobody read" if value is None else f"{{{value:.1f} C}}"

    def share(value: float | None) -> str:
        return "little" if value is None else f"{100 * value:.0f} %"

    def seconds(value: float | None) -> str:
        return "a while" if value is None else f"{value:.0f} s"

    return {
        "stop": degrees(result.stop.at_c),
        "highest": degrees(story.highest_c),
        "lifted": degrees(story.lifted_c if story.lifted_c is not None else story.highest_c),
        "base": degrees(None if story.base_c is None else 5 * round(story.base_c / 5)),
        "rise": "some degrees" if story.rise_off_k is None else f"{{{story.rise_off_k:.1f} K}}",
        "thickened": share(story.thickened),
        "swollen": share(story.swollen),
        "left": share(story.left),
        "stood": seconds(story.stood_s),
        "gap": seconds(story.gap_s),
    }
