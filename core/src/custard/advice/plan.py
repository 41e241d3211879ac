"""The seven stages of one formula: what to do, the temperature and the signs to wait for, and why."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from importlib.resources import files
from typing import Any

from custard.advice.assess import Assessment
from custard.larder.families import BOILS, COATS, all_families
from custard.larder.parameters import standard
from custard.process import temper

STAGES: tuple[str, ...] = ("weigh", "warm", "temper", "cook", "test", "chill", "keep")
UNDER_THE_BOIL_K = 8.0
"""How far under the boil dairy is called hot: bubbles at the rim."""


@dataclass(frozen=True)
class Stage:
    """One stage of a batch.

    Attributes
    ----------
    stage : one of `STAGES`.
    at_c : temperature to wait for [degC]; None when there is none.
    say, why : what to do, then the reason. Temperatures in them are written as "{82.4 C}", for the
        reader to put into their own unit.
    signs, cautions : what to look for, in order; what to beware of.
    """

    stage: str
    at_c: float | None
    say: str
    signs: tuple[str, ...]
    why: str
    cautions: tuple[str, ...]


@cache
def _texts() -> dict[str, Any]:
    return tomllib.loads(files("custard.larder").joinpath("data", "stages.toml").read_text(encoding="utf-8"))


def plan(result: Assessment) -> tuple[Stage, ...]:
    """The stages of an assessed formula, in order."""
    family = all_families()[result.formula.family]
    mounds = family.family == "sabayon"
    cold_start = family.family == "cold-start-pudding"
    done = "mounds" if mounds else _done(family.done, result.stop.boiled)
    hot_c = result.boiling_c - UNDER_THE_BOIL_K
    tempered = not (mounds or cold_start) and temper.sides(result.formula) is not None
    landing = temper.landing_c(result.formula, hot_c) if tempered else None
    keeps = "keep.days" if family.keeps_days else "keep.none"
    warm = "warm.bath" if mounds else "warm.cold" if cold_start or not tempered else "warm.dairy"
    known = _known(result, hot_c, landing, family.keeps_days)
    chosen: tuple[tuple[str, str, float | None], ...] = (
        ("weigh", "weigh", None),
        ("warm", warm, hot_c if warm == "warm.dairy" else None),
        ("temper", "temper.pour" if tempered else "temper.none", landing),
        ("cook", f"cook.{done}", result.stop.at_c),
        ("test", f"test.{done}", None),
        ("chill", "chill.serve" if mounds else "chill.ice", None),
        ("keep", keeps, standard().texture.cold_reference_c + 1 if family.keeps_days else None),
    )
    return tuple(_stage(stage, path, at_c, known) for stage, path, at_c in chosen)


def _done(by_family: str, boiled: bool) -> str:
    """How this mix is done: what it can stand goes before what its family is used to."""
    if boiled:
        return BOILS
    return COATS if by_family == BOILS else by_family


def _stage(stage: str, path: str, at_c: float | None, known: Mapping[str, str]) -> Stage:
    text = _texts()
    for part in path.split("."):
        text = text[part]
    return Stage(
        stage=stage,
        at_c=at_c,
        say=_filled(text["say"], known),
        signs=tuple(_filled(sign, known) for sign in text["signs"]),
        why=_filled(text["why"], known),
        cautions=tuple(_filled(caution, known) for caution in text["cautions"]),
    )


def _filled(text: str, known: Mapping[str, str]) -> str:
    return text.format_map(known)


def degrees(value: float | None) -> str:
    """A temperature [degC] as it stands in a text, for the reader to show in their own unit."""
    return "no heat below the boil" if value is None else f"{{{value:.1f} C}}"


def _known(result: Assessment, hot_c: float, landing: float | None, keeps_days: float) -> dict[str, str]:
    days = f"{keeps_days:.0f} days" if keeps_days > 1 else "a day"
    return {
        "allergens": ", ".join(result.allergens) or "no declared allergen",
        "warm": degrees(hot_c),
        "landing": degrees(landing),
        "stop": degrees(result.stop.at_c),
        "nappe": degrees(result.window.nappe_c),
        "thickens": degrees(result.window.thickens_c),
        "curdles": degrees(result.window.curdles_c),
        "film": f"{result.hot.film_mm:.2f} mm",
        "line": result.hot.line,
        "word": result.hot.word,
        "cold": result.cold.word,
        "keeps": days,
    }
