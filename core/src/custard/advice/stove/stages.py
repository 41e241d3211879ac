"""The eight stages of one formula: what to do, the temperature and the signs to wait for, and why."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from custard.advice.bench.schools import (
    HOT_UNDER_BOIL_K,
    answers,
    question_name,
    school_name,
    sugar_in_bowl,
)
from custard.advice.finish.kinds import kind_of
from custard.advice.mix.assess import Assessment
from custard.larder.families import BOILS, COATS, MOUNDS, SETS, STEAM, Way
from custard.larder.joins import AFTERWARDS, FOLDED, ON_TOP, UNDER_IT
from custard.larder.tables import document
from custard.process.chill import ice_to_have_g
from custard.process.infusing import Infusing, infusing
from custard.process.temper import landing_c, temper

STAGES: tuple[str, ...] = ("weigh", "warm", "temper", "cook", "test", "finish", "chill", "keep")
"""In their usual order. A formula leaves out those that it has nothing to do in, and what joins late has its
place before the oven, before the cold or after it."""


@dataclass(frozen=True)
class Stage:
    """One stage of a batch.

    Attributes
    ----------
    stage : one of `STAGES`.
    at_c : temperature to wait for [degC]; None when there is none.
    say, why : what to do, then the reason. Temperatures in them are written as "{82.4 C}", for the
        reader to put into their own unit.
    signs : what to look for, in order, by the names by which they are ticked.
    cautions : what to beware of.
    ways : the schools chosen for this stage, in words.
    """

    stage: str
    at_c: float | None
    say: str
    signs: Mapping[str, str]
    why: str
    cautions: tuple[str, ...]
    ways: tuple[str, ...] = ()


_ASKED_AT: Mapping[str, tuple[str, ...]] = {
    "weigh": ("sugar",),
    "warm": ("vanilla",),
    "temper": ("temper",),
    "cook": ("heat", "stir", "boil"),
}
"""The stage at which each thing that cooks disagree about is done; when it is sieved depends on its way."""


@cache
def _texts() -> dict[str, Any]:
    return document("stages")


def stages(result: Assessment, chosen_schools: Mapping[str, str] | None = None) -> tuple[Stage, ...]:
    """The stages of an assessed formula, in order, done as chosen where good cooks disagree.

    Where nothing joins after the heat there is no stage for it, and none for tempering where nothing is
    poured or whisked pale. What is folded in cool, or stands on top, comes after the cold; what a raw mix is
    poured over comes before the oven.

    Raises
    ------
    UnknownName
        when a question or a school is not one.
    """
    schools = answers(result.formula, chosen_schools or {})
    family, way = result.family, result.way
    cooked = _cooked_as(way, schools)
    hot_c = result.boiling_c - HOT_UNDER_BOIL_K
    school = schools.get("temper")
    pours = school is not None and family.temper != "none"
    landing = _landing_c(result, hot_c, schools) if pours and school not in (None, "none") else None
    keeps = "keep.none" if not result.keeping.days else _KEPT_AS.get(way, "keep.days")
    chilled = "chill.serve" if result.served_at_once else _CHILLED_AS.get(way, "chill.ice")
    cold = "warm.mixed" if way is SETS else "warm.cold"
    warm = "warm.bath" if way is MOUNDS else cold if landing is None else "warm.dairy"
    infusion = infusing(result.formula, result.conditions)
    if infusion is not None:
        warm = "warm.infused"
    cold_c = result.conditions.parameters.texture.cold_reference_c
    known = {
        **_known(result, hot_c, landing, result.keeping.days),
        "cooling": result.conditions.cooling_rule.text,
        **_infused(infusion),
    }
    finish = finish_before(result)
    chosen: tuple[tuple[str, str, float | None], ...] = (
        ("weigh", "weigh", None),
        ("warm", warm, hot_c if warm in ("warm.dairy", "warm.infused") else None),
        *((("temper", _TEMPERED[school or "none"], landing),) if pours and landing is not None else ()),
        *((("temper", "temper.none", None),) if way is MOUNDS else ()),
        *((("finish", "finish.raw", None),) if finish == "cook" else ()),
        ("cook", f"cook.{cooked}", result.stop.at_c),
        ("test", f"test.{way.name}", None),
        *((("finish", "finish.foam" if way is MOUNDS else "finish.row", None),) if finish == "chill" else ()),
        ("chill", chilled, None),
        *((("finish", "finish.cold", None),) if finish == "keep" else ()),
        ("keep", keeps, cold_c + 1 if result.keeping.days else None),
    )
    return tuple(
        replace(_stage(stage, path, at_c, known), ways=_answered(stage, way, schools))
        for stage, path, at_c in chosen
    )


def landing_of(found: Sequence[Stage]) -> float | None:
    """Where tempering lands by these stages [degC]; None where nothing is poured."""
    return next((stage.at_c for stage in found if stage.stage == "temper"), None)


def finish_before(result: Assessment) -> str:
    """The stage before which what joins after the heat has its place; "" where nothing does.

    Egg whites go into a boiled cream while it is hot, and a foam is folded before it stands in the cold.
    """
    late = [line for line in result.formula.lines if line.join.finishes]
    if not late:
        return ""
    if result.way.in_the_oven and all(line.when in (UNDER_IT, AFTERWARDS) for line in late):
        return "cook"
    hot = result.stop.boiled and any(kind_of(line) == "fold-white" for line in late)
    cool = all(line.when in (FOLDED, ON_TOP) for line in late)
    return "keep" if cool and not hot and not result.way.foams else "chill"


_TEMPERED = {
    "stream": "temper.pour",
    "ladle": "temper.ladle",
    "reverse": "temper.reverse",
    "none": "temper.cold",
}
_CHILLED_AS = {MOUNDS: "chill.foam", SETS: "chill.cups"}
_KEPT_AS = {MOUNDS: "keep.foam", SETS: "keep.cups"}


def _infused(infusion: Infusing | None) -> dict[str, str]:
    if infusion is None:
        return {}
    return {
        "infused": " and ".join(infusion.names),
        "minutes": f"{infusion.seconds / 60:.0f} minutes",
        "dairy": f"{{{infusion.dairy_g:.0f} g}}",
        "taken": f"{{{infusion.top_up_g:.0f} g}}",
    }


def _landing_c(result: Assessment, hot_c: float, schools: Mapping[str, str]) -> float | None:
    """In one sum for the usual stream; pour by pour for the other schools."""
    school, share = schools["temper"], sugar_in_bowl(schools)
    if school == "stream":
        return landing_c(result.formula, hot_c, conditions=result.conditions, sugar_in_bowl=share)
    return temper(result.formula, school, hot_c, conditions=result.conditions, sugar_in_bowl=share).landing_c


def _answered(stage: str, way: Way, schools: Mapping[str, str]) -> tuple[str, ...]:
    # What sets in cups goes through the sieve before the oven, never after.
    sieved = "cook" if way is SETS else "chill"
    asked = [*_ASKED_AT.get(stage, ()), *(("sieve",) if stage == sieved else ())]
    return tuple(
        f"{question_name(question)}: {school_name(question, schools[question])}"
        for question in asked
        if question in schools
    )


def _cooked_as(way: Way, schools: Mapping[str, str]) -> str:
    """The text of the cook: its way, told apart by schools of heat and boil."""
    if way is COATS and schools.get("heat") == STEAM:
        return "steams"
    return "bubbles" if way is BOILS and schools.get("boil") == "first" else way.name


def stage_words(path: str) -> Mapping[str, Any]:
    """The words of a stage by their path in the table, as "chill.elsewhere", before anything is filled in.

    Raises
    ------
    KeyError
        when the table has no such words.
    """
    found = _texts()
    for part in path.split("."):
        found = found[part]
    return found


def _stage(stage: str, path: str, at_c: float | None, known: Mapping[str, str]) -> Stage:
    text = stage_words(path)
    return Stage(
        stage=stage,
        at_c=at_c,
        say=_filled(text["say"], known),
        signs={sign: _filled(shown, known) for sign, shown in text["signs"].items()},
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
        "ice": f"{{{_ice_g(result):.0f} g}}",
    }


def _ice_g(result: Assessment) -> float:
    """Ice to have at hand for a whole batch [g]."""
    cold_c = result.conditions.parameters.texture.cold_reference_c
    return ice_to_have_g(result.whole, result.stop.at_c, cold_c)
