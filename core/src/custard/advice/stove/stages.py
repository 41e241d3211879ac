"""The eight stages of one formula: what to do, the temperature and the signs to wait for, and why."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
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
from custard.figures import Celsius
from custard.larder.families import BOILS, COATS, MOUNDS, SETS, Way
from custard.larder.stage_table import stage_records, stage_texts
from custard.process.cooling.chill import ice_to_have_g
from custard.process.heating.infusing import Infusing, infusing
from custard.process.heating.temper import landing_c, temper
from custard.vocabulary import HeatName, StageName, When


@dataclass(frozen=True)
class Sign:
    """Something to look for, by the name by which it is ticked."""

    sign: str
    text: str


@dataclass(frozen=True)
class Stage:
    """One stage of a batch.

    Attributes
    ----------
    label, typed : what it is called, and the temperature typed at its end, as in its record.
    at_c : temperature to wait for [degC]; None when there is none.
    say, why : what to do, then the reason. Temperatures in them are written as "{82.4 C}", for the
        reader to put into their own unit.
    signs : what to look for, in order, by the names by which they are ticked.
    cautions : what to beware of.
    ways : the schools chosen for this stage, in words.
    """

    stage: StageName
    label: str
    typed: str
    at_c: Celsius | None
    say: str
    signs: tuple[Sign, ...]
    why: str
    cautions: tuple[str, ...]
    ways: tuple[str, ...] = ()


def stages(result: Assessment, chosen_schools: Mapping[str, str] | None = None) -> tuple[Stage, ...]:
    """The stages of an assessed formula, in order, done as chosen where good cooks disagree.

    Where nothing joins after the heat there is no stage for it, and none for tempering where nothing is
    poured or whisked pale. What is folded in cool, or stands on top, comes after the cold; what a raw mix is
    poured over comes before the oven.

    Parameters
    ----------
    result : an assessed formula.
    chosen_schools : school by question; what is left out is as we advise.

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
    chosen: list[tuple[StageName, str, float | None]] = [
        (StageName.WEIGH, "weigh.plain", None),
        (StageName.WARM, warm, hot_c if warm in ("warm.dairy", "warm.infused") else None),
        (StageName.COOK, f"cook.{cooked}", result.stop.at_c),
        (StageName.TEST, f"test.{way.name}", None),
        (StageName.CHILL, chilled, None),
        (StageName.KEEP, keeps, cold_c + 1 if result.keeping.days else None),
    ]

    def before(next_stage: StageName, stage: StageName, path: str, at_c: float | None = None) -> None:
        place = [name for name, _, _ in chosen].index(next_stage)
        chosen.insert(place, (stage, path, at_c))

    if way is MOUNDS:
        before(StageName.COOK, StageName.TEMPER, "temper.none")
    elif pours and landing is not None:
        before(StageName.COOK, StageName.TEMPER, _TEMPERED[school or "none"], landing)
    if finish is not None:
        before(finish, StageName.FINISH, _finished_as(finish, way))
    return tuple(
        replace(_stage(stage, path, at_c, known), ways=_answered(stage, way, schools))
        for stage, path, at_c in chosen
    )


def landing_of(found: Sequence[Stage]) -> float | None:
    """Where tempering lands by these stages [degC]; None where nothing is poured.

    Parameters
    ----------
    found : the stages of a formula.
    """
    return next((stage.at_c for stage in found if stage.stage == StageName.TEMPER), None)


def _finished_as(next_stage: StageName, way: Way) -> str:
    """The words of what joins after the heat, by the stage that it comes before."""
    if next_stage == StageName.COOK:
        return "finish.raw"
    if next_stage == StageName.KEEP:
        return "finish.cold"
    return "finish.foam" if way is MOUNDS else "finish.row"


def finish_before(result: Assessment) -> StageName | None:
    """The stage before which what joins after the heat has its place; None where nothing does.

    Egg whites go into a boiled cream while it is hot, and a foam is folded before it stands in the cold.
    """
    late = [line for line in result.formula.lines if line.join.finishes]
    if not late:
        return None
    if result.way.in_the_oven and all(line.when in (When.UNDER_IT, When.AFTERWARDS) for line in late):
        return StageName.COOK
    hot = result.stop.boiled and any(kind_of(line) == "fold-white" for line in late)
    cool = all(line.when in (When.FOLDED, When.ON_TOP) for line in late)
    return StageName.KEEP if cool and not hot and not result.way.foams else StageName.CHILL


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


def _answered(stage: StageName, way: Way, schools: Mapping[str, str]) -> tuple[str, ...]:
    # What sets in cups goes through the sieve before the oven, never after.
    sieved = StageName.COOK if way is SETS else StageName.CHILL
    asked = [*stage_records()[stage].schools, *(("sieve",) if stage == sieved else ())]
    return tuple(
        f"{question_name(question)}: {school_name(question, schools[question])}"
        for question in asked
        if question in schools
    )


def _cooked_as(way: Way, schools: Mapping[str, str]) -> str:
    """The text of the cook: its way, told apart by schools of heat and boil."""
    if way is COATS and schools.get("heat") == HeatName.STEAM:
        return "steams"
    return "bubbles" if way is BOILS and schools.get("boil") == "first" else way.name


def stage_words(path: str) -> Mapping[str, Any]:
    """The words of a stage by their path in the table, as "chill.elsewhere", before anything is filled in.

    Parameters
    ----------
    path : stage and variant, as "chill.elsewhere".

    Raises
    ------
    KeyError
        when the table has no such words.
    """
    found: Mapping[str, Any] = stage_texts()
    for part in path.split("."):
        found = found[part]
    return found


def _stage(stage: StageName, path: str, at_c: float | None, known: Mapping[str, str]) -> Stage:
    text, record = stage_words(path), stage_records()[stage]
    return Stage(
        stage=stage,
        label=record.label,
        typed=record.typed,
        at_c=at_c,
        say=_filled(text["say"], known),
        signs=tuple(Sign(sign, _filled(shown, known)) for sign, shown in text["signs"].items()),
        why=_filled(text["why"], known),
        cautions=tuple(_filled(caution, known) for caution in text["cautions"]),
    )


def _filled(text: str, known: Mapping[str, str]) -> str:
    return text.format_map(known)


def degrees(value: float | None) -> str:
    """A temperature [degC] as it stands in a text, for the reader to show in their own unit."""
    return "no heat below the boil" if value is None else f"{{{value:.1f} C}}"


def _for_so_long(seconds: float) -> str:
    """A length of time [s] in words: in minutes and halves where it is so many, else in seconds."""
    if seconds < 60 or seconds % 30:
        return f"{seconds:.0f} seconds"
    return "a minute" if seconds == 60 else f"{seconds / 60:g} minutes"


def _known(result: Assessment, hot_c: float, landing: float | None, keeps_days: float) -> dict[str, str]:
    days = f"{keeps_days:.0f} days" if keeps_days > 1 else "a day"
    return {
        "allergens": ", ".join(result.allergens) or "no declared allergen",
        "warm": degrees(hot_c),
        "landing": degrees(landing),
        "stop": degrees(result.stop.at_c),
        "held": _for_so_long(result.conditions.parameters.cook.boil_hold_s),
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
