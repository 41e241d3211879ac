"""The seven stages of one formula: what to do, the temperature and the signs to wait for, and why."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import cache
from importlib.resources import files
from typing import Any

from custard.advice.assess import Assessment
from custard.advice.schools import answers, question_name, school_name
from custard.larder.families import BOILS, COATS, SETS, all_families
from custard.larder.parameters import standard
from custard.larder.vessels import cooling_rules, one_of
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
    ways : the schools chosen for this stage, in words.
    """

    stage: str
    at_c: float | None
    say: str
    signs: tuple[str, ...]
    why: str
    cautions: tuple[str, ...]
    ways: tuple[str, ...] = ()


_ASKED_AT: Mapping[str, tuple[str, ...]] = {
    "weigh": ("sugar",),
    "warm": ("vanilla",),
    "temper": ("temper",),
    "cook": ("heat", "stir", "boil"),
    "chill": ("sieve",),
}
"""The stage at which each thing that cooks disagree about is done."""


@cache
def _texts() -> dict[str, Any]:
    return tomllib.loads(files("custard.larder").joinpath("data", "stages.toml").read_text(encoding="utf-8"))


def plan(
    result: Assessment, chosen_schools: Mapping[str, str] | None = None, rule: str = "us"
) -> tuple[Stage, ...]:
    """The stages of an assessed formula, in order, done as chosen where good cooks disagree.

    `rule` is the cooling rule that the kitchen goes by.

    Raises
    ------
    UnknownName
        when a question, a school or the rule is not one.
    """
    one_of("rule", rule, tuple(cooling_rules()))
    schools = answers(result.formula, chosen_schools or {})
    family = all_families()[result.formula.family]
    mounds = family.family == "sabayon"
    cold_start = family.family == "cold-start-pudding"
    done = "mounds" if mounds else _done(family.done, result.stop.boiled)
    if done == COATS and schools.get("heat") == "steam":
        done = "steams"
    if done == BOILS and schools.get("boil") == "first":
        done = "bubbles"
    hot_c = result.boiling_c - UNDER_THE_BOIL_K
    pours = not (mounds or cold_start) and temper.sides(result.formula) is not None
    tempered = pours and schools.get("temper") != "none"
    landing = _landing_c(result, hot_c, schools) if tempered else None
    keeps = "keep.none" if not family.keeps_days else "keep.cups" if done == SETS else "keep.days"
    warm = "warm.bath" if mounds else "warm.cold" if cold_start or not tempered else "warm.dairy"
    known = {
        **_known(result, hot_c, landing, family.keeps_days),
        "cooling": cooling_rules()[rule].text,
    }
    chosen: tuple[tuple[str, str, float | None], ...] = (
        ("weigh", "weigh", None),
        ("warm", warm, hot_c if warm == "warm.dairy" else None),
        ("temper", _TEMPERED[schools["temper"]] if pours else "temper.none", landing),
        ("cook", f"cook.{done}", result.stop.at_c),
        ("test", f"test.{_TESTED_AS.get(done, done)}", None),
        ("chill", _CHILLED_AS.get(done, "chill.ice"), None),
        ("keep", keeps, standard().texture.cold_reference_c + 1 if family.keeps_days else None),
    )
    return tuple(
        replace(_stage(stage, path, at_c, known), ways=_ways(stage, schools)) for stage, path, at_c in chosen
    )


_TEMPERED = {
    "stream": "temper.pour",
    "ladle": "temper.ladle",
    "reverse": "temper.reverse",
    "none": "temper.cold",
}
_CHILLED_AS = {"mounds": "chill.serve", SETS: "chill.cups"}
_TESTED_AS = {"steams": COATS, "bubbles": BOILS}


def _landing_c(result: Assessment, hot_c: float, schools: Mapping[str, str]) -> float | None:
    """In one sum for the usual stream; pour by pour for the other schools."""
    if schools["temper"] == "stream":
        return temper.landing_c(result.formula, hot_c)
    return temper.temper(result.formula, schools["temper"], hot_c).landing_c


def _ways(stage: str, schools: Mapping[str, str]) -> tuple[str, ...]:
    return tuple(
        f"{question_name(question)}: {school_name(question, schools[question])}"
        for question in _ASKED_AT.get(stage, ())
        if question in schools
    )


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
