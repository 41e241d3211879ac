"""Where good cooks disagree: each school with its reason, and what it would do to this very mix."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from typing import Any

from custard.advice.mix.assess import Assessment
from custard.errors import UnknownName
from custard.formula import Formula
from custard.larder.families import all_families
from custard.larder.tables import document
from custard.mixture.setting import setting_c
from custard.physics import kinetics
from custard.process.heating import kernel
from custard.process.heating.cook import LONGEST_S, Cook, cook, usual_stove
from custard.process.heating.temper import HALF_IN_THE_BOWL, landing_c, sides, temper
from custard.vocabulary import HeatName

HOT_UNDER_BOIL_K = 8.0
"""How far under the boil dairy is called hot: bubbles at the rim."""
FIRST_BUBBLES_K = 7.0
"""How far under the boil the middle of a thick cream is when the first bubbles break through at the base."""
NEXT_DAY_H = 24.0
COLD_C = 20.0
"""Where a mix starts that nothing hot is poured into."""
LEAST_PERCENT = 0.05
"""Less than this of the egg is nothing a cook could see."""


@dataclass(frozen=True)
class School:
    """One way of doing a thing. `consequence` holds temperatures as "{82.4 C}"."""

    school: str
    name: str
    reason: str
    consequence: str


@dataclass(frozen=True)
class Question:
    """One thing cooks disagree about; `usual` is what we advise for this family."""

    question: str
    name: str
    usual: str
    schools: tuple[School, ...]


@cache
def _texts() -> dict[str, Any]:
    return document("schools")


def usual(formula: Formula) -> dict[str, str]:
    """The school we advise for each question this formula raises.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    """
    family = all_families()[formula.family]
    starchy = any(line.ingredient.group == "starch" for line in formula.lines)
    stirred = not family.way.undisturbed
    advice: dict[str, str] = {}
    if family.heat != HeatName.OVEN:
        advice["heat"] = family.heat
    if family.temper and sides(formula) is not None:
        advice["temper"] = family.temper
        advice["sugar"] = "split"
    if stirred:
        advice["stir"] = "whisk" if starchy or family.way.foams else "spatula"
    if starchy and family.way.may_boil:
        advice["boil"] = "held"
    if not family.way.foams and formula.dairy_g() > 0:
        advice["vanilla"] = "early"
        advice["sieve"] = "always"
    return advice


def answers(formula: Formula, chosen: Mapping[str, str]) -> dict[str, str]:
    """Every question this formula raises with its answer: as chosen, or as we advise.

    Parameters
    ----------
    formula : what a sauce is made of, as written.
    chosen : school by question, where somebody chose.

    Raises
    ------
    UnknownName
        when a question or a school is not one.
    """
    texts, found = _texts(), usual(formula)
    for question, school in chosen.items():
        if question not in texts:
            raise UnknownName("schools", question, "is not a question", f"Write {', '.join(texts)}.")
        known = [name for name in texts[question] if name != "name"]
        if school not in known:
            raise UnknownName(f"schools.{question}", school, "is not a school", f"Write {', '.join(known)}.")
        if question in found:
            found[question] = school
    return found


def sugar_in_bowl(schools: Mapping[str, str]) -> float:
    """Share of the sugar that is whisked with the yolks [1], by the school of sugar.

    Parameters
    ----------
    schools : what was chosen where good cooks disagree, school by question.
    """
    return 1.0 if schools.get("sugar") == "yolks" else HALF_IN_THE_BOWL


def question_name(question: str) -> str:
    """What a question is called."""
    return str(_texts()[question]["name"])


def school_name(question: str, school: str) -> str:
    """What a school is called."""
    return str(_texts()[question][school]["name"])


def questions(result: Assessment) -> tuple[Question, ...]:
    """Every question this formula raises, with each school's computed consequence.

    Parameters
    ----------
    result : an assessed formula.
    """
    advised = usual(result.formula)
    consequences = _Consequences(result)
    found = []
    for question, advice in advised.items():
        texts = _texts()[question]
        schools = tuple(
            School(
                name,
                text["name"],
                text["reason"],
                text["consequence"].format_map(consequences(question, name)),
            )
            for name, text in texts.items()
            if name != "name"
        )
        found.append(Question(question, texts["name"], advice, schools))
    return tuple(found)


class _Consequences:
    """What each school's text is filled with, computed once a formula."""

    def __init__(self, result: Assessment) -> None:
        self.result, self.conditions = result, result.conditions
        self.hot_c = result.boiling_c - HOT_UNDER_BOIL_K
        self.start_c = landing_c(result.formula, self.hot_c, conditions=self.conditions) or COLD_C
        self.cooks: dict[tuple[str, bool, float], Cook] = {}

    def __call__(self, question: str, school: str) -> dict[str, str]:
        known: dict[str, str] = getattr(self, f"_{question}")(school)
        return known

    def _cooked(self, stir: str = "whisk", *, steam: bool = False, start_c: float | None = None) -> Cook:
        start = min(self.start_c if start_c is None else start_c, self.result.stop.at_c - 1)
        key = (stir, steam, start)
        if key not in self.cooks:
            p = self.conditions.parameters
            stove = usual_stove(self.result.pan, p, over_steam=steam, stir=stir)
            self.cooks[key] = cook(
                self.result.pan, start, self.result.stop.at_c, stove, conditions=self.conditions
            )
        return self.cooks[key]

    def _heat(self, school: str) -> dict[str, str]:
        done = self._cooked(steam=school == HeatName.STEAM)
        never = f"never, or more than {LONGEST_S / 60:.0f}"
        minutes = never if done.lift_s is None else f"{done.lift_s / 60:.1f}"
        base = float(done.column(kernel.BASE_C).max())
        return {"minutes": minutes, "base": f"{{{base:.0f} C}}"}

    def _temper(self, school: str) -> dict[str, str]:
        done = temper(self.result.formula, school, self.hot_c, conditions=self.conditions)
        share = 100 * done.worst_local_curdling
        curdling = "nothing curdles" if share < LEAST_PERCENT else f"{share:.1f} % curdles"
        later, now = self._cooked(start_c=done.landing_c), self._cooked()
        more = ((later.lift_s or 0) - (now.lift_s or 0)) / 60
        return {"landing": f"{{{done.landing_c:.1f} C}}", "curdling": curdling, "minutes": f"{more:.1f}"}

    def _sugar(self, school: str) -> dict[str, str]:
        parts = sides(self.result.formula, sugar_in_bowl({"sugar": school}))
        setting = setting_c(parts.bowl, self.conditions.parameters) if parts else self.result.stop.at_c
        return {"setting": f"{{{setting:.0f} C}}"}

    def _stir(self, school: str) -> dict[str, str]:
        bits = self._cooked(school).bits_percent
        return {"bits": "Next to none" if bits < LEAST_PERCENT else f"Some {bits:.1f} %"}

    def _sieve(self, _: str) -> dict[str, str]:
        return self._stir("whisk")

    def _vanilla(self, _: str) -> dict[str, str]:
        return {}

    def _boil(self, school: str) -> dict[str, str]:
        boil, p = self.result.boiling_c, self.conditions.parameters
        lift, hold = (boil + 1, p.cook.boil_hold_s) if school == "held" else (boil - FIRST_BUBBLES_K, 0.0)
        start = min(self.start_c, lift - 1)
        stove = usual_stove(self.result.pan, self.conditions.parameters)
        done = cook(self.result.pan, start, lift, stove, hold, conditions=self.conditions)
        if self.result.pan.fractions["yolk_protein"] <= 0:
            return {"thins": "nothing"}
        lost = kinetics.thinning(float(done.final[kernel.AMYLASE]), p.enzyme.thinning_per_h, NEXT_DAY_H)
        return {"thins": "nothing" if lost < 0.005 else f"{100 * lost:.0f} %"}
