"""The steps of a formula: what is done, how long it takes, whose hands and what else it needs.

Minutes at the stove, in the oven and in the ice are those of the same cook, bake and chill as everywhere
else; minutes of hands are estimates of `larder/data/steps.csv`, which a kitchen's own batches correct.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cache
from math import ceil, sqrt

from custard.advice.bench.schools import (
    FIRST_BUBBLES_K,
    HOT_UNDER_BOIL_K,
    answers,
    sugar_in_bowl,
)
from custard.advice.mix.assess import Assessment
from custard.errors import Impossible
from custard.larder.tables import rows
from custard.planning.day import (
    BATH,
    BOWL,
    BUSY,
    CHURN,
    DAY_MIN,
    FULL,
    ICE,
    LOOKS,
    OVEN,
    RING,
    STEAM,
    Minutes,
    Step,
)
from custard.process.baking.cups import POURED_C, Cups, usual_cups
from custard.process.cooling.chill import CooledBy, chill, ice_to_have_g
from custard.process.cooling.resting import NOW_AND_THEN_S
from custard.process.heating.cook import cook, usual_stove
from custard.process.heating.infusing import infusing
from custard.process.heating.temper import landing_c, temper
from custard.vocabulary import HeatName, StageName, When

COLD_C = 20.0
"""Where a mix starts that nothing hot is poured into [degC]."""
MOST_TURNS = 8
"""In so many turns at most are cups baked on one day."""
TURN_WAITS_MIN = 120
"""How long the next turn may wait for the oven: its mix is in the cold, and unfilled [min]."""
FRIDGE_C = 4.5


@cache
def figures() -> Mapping[str, float]:
    """The estimates behind the minutes, by name; units and origin stand in the table."""
    return {row["figure"]: float(row["value"]) for row in rows("steps")}


@dataclass(frozen=True)
class Learned:
    """What a kitchen's own batches say of a step: how many times as long, how far it strays, from how many.

    Attributes
    ----------
    times : over what is computed [1].
    spread : as the standard deviation of the logarithm [1].
    """

    times: float
    spread: float
    batches: int


@dataclass(frozen=True)
class Made:
    """How a formula is made on a day: as chosen, in what, and what this kitchen knows of its own pace.

    Attributes
    ----------
    schools : the answers where cooks disagree.
    cups : what it is baked in; None for as many usual cups as it fills.
    own_cold : the churn cools by itself and needs no frozen bowl.
    churn_g : a charge of the churn [g].
    ovens : how many ovens there are to bake in at once.
    learned : by stage.
    """

    schools: Mapping[str, str]
    cups: Cups | None = None
    own_cold: bool = False
    churn_g: float | None = None
    ovens: int = 1
    learned: Mapping[StageName, Learned] = field(default_factory=dict)


def life_min(result: Assessment) -> int:
    """How long it is good once it is ready [min]: a foam stands for minutes, the rest keeps as it keeps.

    Parameters
    ----------
    result : an assessed formula.
    """
    if result.served_at_once:
        return round(figures()["foam_life_min"])
    p = result.conditions.parameters
    return round(max(result.keeping.days * DAY_MIN, 60 * p.keep.same_day_h))


def fades_min(result: Assessment) -> int:
    """Age from which it differs from just made [min].

    Parameters
    ----------
    result : an assessed formula.
    """
    life = life_min(result)
    return 0 if life < 60 else round(figures()["fades_share"] * life)


def steps_of(result: Assessment, made: Made | None = None) -> tuple[Step, ...]:
    """The steps from weighing out to ready, in order.

    Parameters
    ----------
    result : an assessed formula.
    made : how it is made; None for the usual.

    Raises
    ------
    Impossible
        when it never gets there: it does not set in its oven, or no usual heat brings it to its stop.
    """
    one = _Steps(result, made or Made(answers(result.formula, {})))
    return tuple(one.learn(step) for step in one.all())


def _folds(result: Assessment) -> bool:
    return any(line.when == When.FOLDED for line in result.formula.lines)


class _Steps:
    def __init__(self, result: Assessment, made: Made) -> None:
        self.result, self.made, self.f = result, made, figures()
        self.schools = answers(result.formula, made.schools)
        # By hand it takes longer when there is more of it, but far from as many times as long.
        self.more = 1 + 0.1 * result.weighed_g / 1000 / self.f["more_weight_kg"]

    def learn(self, step: Step) -> Step:
        known = None if step.stage is None else self.made.learned.get(step.stage)
        if known is None:
            return step
        minutes = Minutes(step.minutes.usual * known.times, known.spread, known.batches)
        return replace(step, minutes=minutes)

    def hand(self, minutes: float) -> Minutes:
        return Minutes(minutes * self.more, self.f["hand_spread"])

    def all(self) -> list[Step]:
        way = self.result.way
        if way.in_the_oven:
            return [self.weigh(), *self.warm(), *self.baked()]
        if way.foams:
            return [self.weigh(), *self.foamed(), *self.finish(), *self.folded()]
        return [self.weigh(), *self.warm(), self.cooked(), *self.finish(), *self.chilled()]

    def weigh(self) -> Step:
        formula, f = self.result.formula, self.f
        eggs = formula.yolks() if any(line.ingredient.id == "egg-yolk" for line in formula.lines) else 0.0
        minutes = f["weigh_first_min"] + f["weigh_line_min"] * len(formula.lines) + f["separate_min"] * eggs
        return Step("weigh", "Weigh out", self.hand(minutes), BUSY, stage=StageName.WEIGH)

    def waits(self) -> int:
        return round(self.f["weighed_waits_min"])

    @property
    def hot_c(self) -> float:
        return self.result.boiling_c - HOT_UNDER_BOIL_K

    def pours(self) -> bool:
        return self.schools.get("temper", "none") != "none" and self.result.family.temper not in ("", "none")

    def warm(self) -> list[Step]:
        """The dairy brought to just under the boil; where something is infused, twice."""
        if not self.pours():
            return []
        formula, f = self.result.formula, self.f
        dairy_kg = sum(g for _, g in formula.poured()) / 1000
        rise = self.hot_c - f["cold_dairy_c"]
        heat_kj_k = dairy_kg * float(self.result.pan.heat_capacity_j_kgk(40)) / 1000
        minutes = max(rise / f["warm_k_per_min"], heat_kj_k * rise / (60 * f["warm_w"] / 1000))
        warm = Minutes(minutes, f["heat_spread"])
        first = Step(
            "warm", "Warm the dairy", warm, LOOKS, {RING: 1}, most=self.waits(), stage=StageName.WARM
        )
        infusion = infusing(formula, self.result.conditions)
        if infusion is None:
            return [first]
        return [
            first,
            Step("infuse", "Infusing, lid on", Minutes(infusion.seconds / 60)),
            Step("again", "Strain, top up, hot again", self.hand(f["again_min"]), BUSY, {RING: 1}, most=10),
        ]

    def _starts_c(self) -> float:
        if not self.pours():
            return COLD_C
        school, share = self.schools["temper"], sugar_in_bowl(self.schools)
        formula, conditions = self.result.formula, self.result.conditions
        if school == "stream":
            return landing_c(formula, self.hot_c, conditions=conditions, sugar_in_bowl=share) or COLD_C
        done = temper(formula, school, self.hot_c, conditions=conditions, sugar_in_bowl=share)
        return done.landing_c

    def _cook_min(self, *, steam: bool) -> float:
        result, p = self.result, self.result.conditions.parameters
        held = result.stop.boiled and self.schools.get("boil") != "first"
        lift_c, hold_s = result.stop.at_c, 0.0
        if result.stop.boiled:
            boil = result.boiling_c
            lift_c, hold_s = (boil + 1, p.cook.boil_hold_s) if held else (boil - FIRST_BUBBLES_K, 0.0)
        stove = usual_stove(result.pan, p, over_steam=steam, stir=self.schools.get("stir", "whisk"))
        start_c = min(self._starts_c(), lift_c - 1)
        done = cook(result.pan, start_c, lift_c, stove, hold_s, conditions=result.conditions)
        if done.lift_s is None:
            stop = f"{{{lift_c:.1f} C}}"
            if steam:
                raise Impossible(
                    "formula", result.formula.name, f"cannot be brought to {stop} by steam", "Use the flame."
                )
            raise Impossible("formula", result.formula.name, f"never comes to {stop} on the usual heat")
        cooked_min = (done.lift_s + (hold_s if result.stop.boiled else 0.0)) / 60
        return max(cooked_min, result.family.cooked_on_min)

    def cooked(self) -> Step:
        """Temper, cook, sieve: one piece of work in which nobody can look away."""
        f, steam = self.f, self.schools.get("heat") == HeatName.STEAM
        cook_min = self._cook_min(steam=steam)
        by_hand = self.more * (f["sieve_min"] + f["whisk_min"] + (f["temper_min"] if self.pours() else 0.0))
        spread = _together((cook_min, f["heat_spread"]), (by_hand, f["hand_spread"]))
        say = "Temper, cook, sieve" if self.pours() else "Cook and sieve"
        if self.result.stop.boiled:
            say = "Temper, boil, sieve" if self.pours() else "Boil and sieve"
        most = 0 if self.pours() else self.waits()
        need = STEAM if steam else RING
        minutes = Minutes(cook_min + by_hand, spread)
        return Step("cook", say, minutes, FULL, {need: 1}, most=most, stage=StageName.COOK)

    def finish(self) -> list[Step]:
        """What joins off the heat follows at once."""
        lines = [
            line
            for line in self.result.formula.lines
            if line.join.finishes and line.when not in (When.FOLDED, When.ON_TOP)
        ]
        if not lines:
            return []
        minutes = self.hand(self.f["addition_min"] * len(lines))
        return [Step("finish", "Stir in what joins off the heat", minutes, FULL, stage=StageName.FINISH)]

    def foamed(self) -> list[Step]:
        f = self.f
        bath = Minutes(f["bath_min"], f["heat_spread"])
        cook_min = self._cook_min(steam=True)
        minutes = Minutes(cook_min + f["whisk_min"], f["heat_spread"])
        return [
            Step(
                "bath", "Bath to a simmer", bath, LOOKS, {STEAM: 1}, most=self.waits(), stage=StageName.WARM
            ),
            Step("cook", "Whisk over steam", minutes, FULL, {STEAM: 1}, stage=StageName.COOK),
        ]

    def folded(self) -> list[Step]:
        if not _folds(self.result):
            return []
        minutes = self.hand(self.f["fold_min"])
        return [
            *self.in_ice(stays=True),
            Step("fold", "Fold in", minutes, FULL, most=30, stage=StageName.FINISH),
        ]

    def _cools_min(self, depth_mm: float, to_c: float) -> float:
        result, from_c = self.result, min(self.result.stop.at_c, 95.0)
        how = CooledBy("ice-bath", stirred=True, every_s=NOW_AND_THEN_S)
        mass_g = result.whole.mass_g
        done = chill(result.whole, from_c, to_c, how, mass_g, depth_mm, result.conditions, deepest=False)
        return (done.time_to_goal_s or 60 * self.f["ice_most_min"]) / 60

    def in_ice(self, *, stays: bool = False) -> list[Step]:
        """Straight into ice and water, until it is cold enough for the fridge, or to be folded."""
        to_c = 20.0 if stays else FRIDGE_C + 3.5
        minutes = min(self.f["ice_most_min"], self._cools_min(self.f["bowl_mm"], to_c))
        ice_g = ice_to_have_g(self.result.whole, self.result.stop.at_c, to_c)
        spread = self.f["cold_spread"]
        needs = {BATH: 1.0, ICE: ice_g}
        return [
            Step("chill", "In ice and water", Minutes(minutes, spread), 0.0, needs, stage=StageName.CHILL)
        ]

    def chilled(self) -> list[Step]:
        """In ice, then in the cold as long as it must before it is what it is to be."""
        found = self.in_ice()
        if _folds(self.result):
            fold = self.hand(self.f["fold_min"])
            found.append(Step("fold", "Fold in, cool", fold, FULL, most=60, stage=StageName.FINISH))
        rests = self._rest()
        found += rests
        if self.result.family.churned:
            found += self.churned()
        return [*found, *self.crusted()]

    def _rest(self) -> list[Step]:
        family = self.result.family
        if not family.rests_h:
            return []
        say = "Ageing, cold" if family.rests_to == "churn" else "Setting, cold"
        return [Step("rest", say, Minutes(60 * family.rests_h), most=round(self.f["into_fridge_min"]))]

    def churned(self) -> list[Step]:
        f = self.f
        charges = max(1, ceil(self.result.yield_g / (self.made.churn_g or f["churn_g"]) - 0.05))
        needs = {CHURN: 1.0, **({} if self.made.own_cold else {BOWL: float(charges)})}
        minutes = Minutes(f["churn_min"] * charges, f["cold_spread"])
        say = "Churn" if charges == 1 else f"Churn, {charges} charges"
        return [
            Step("churn", say, minutes, LOOKS, needs, most=None),
            Step("harden", "Hardening, frozen", Minutes(f["harden_min"]), most=2),
        ]

    def crusted(self) -> list[Step]:
        if not any(line.when == When.ON_TOP for line in self.result.formula.lines):
            return []
        cups = usual_cups(self.result.whole, self.result.formula.card).count
        minutes = self.hand(2 + self.f["crust_cup_min"] * cups)
        return [Step("crust", "Sugar on, caramelise", minutes, FULL, most=None)]

    def baked(self) -> list[Step]:
        """In as many turns as the ovens take; what waits for a later turn waits in the cold, unfilled."""
        f, cups = self.f, self.made.cups or usual_cups(self.result.whole, self.result.formula.card)
        holds = round(f["oven_cups"]) * max(1, self.made.ovens)
        turns = max(1, ceil(cups.count / holds))
        if turns > MOST_TURNS:
            raise Impossible(
                "formula",
                self.result.formula.name,
                f"fills {cups.count} cups, {turns} times what the oven holds at once ({holds})",
                f"At most {MOST_TURNS} turns are planned: make less of it, or bake it on two days.",
            )
        poured_c = min(POURED_C, self._starts_c()) if self.pours() else None
        first_min = self._bake_min(cups, poured_c)
        later_min = self._bake_min(cups, None) if turns > 1 else first_min
        found: list[Step] = []
        for turn in range(turns):
            count = min(holds, cups.count - turn * holds)
            found += self._turn(cups, turn, turns, count, later_min if turn else first_min)
        rest = [replace(step, most=round(f["out_of_fridge_min"])) for step in self._rest()]
        return [*found, *rest, *self.crusted()]

    def _bake_min(self, cups: Cups, poured_c: float | None) -> float:
        """How long cups bake that go in so warm [degC], or cold [min]."""
        start_c = self.f["cold_dairy_c"] + 3 if poured_c is None else poured_c
        done = cups.baked(self.result.whole, start_c, None, self.result.conditions)
        if done.out_s is None:
            raise Impossible("formula", self.result.formula.name, "never sets in its oven")
        return done.out_s / 60

    def _turn(self, cups: Cups, turn: int, turns: int, count: int, minutes: float) -> list[Step]:
        """One turn in the oven: filled, baked, and out."""
        f = self.f
        share = ceil(100 * count / f["oven_cups"])
        fill = self.hand((0.0 if turn else f["whisk_min"]) + f["fill_first_min"] + f["fill_cup_min"] * count)
        out = self.hand(f["out_first_min"] + f["out_cup_min"] * count)
        of = f"{count} of {cups.cup_ml:.0f} ml"
        of += f", turn {turn + 1} of {turns}" if turns > 1 else ""
        mix, number = ("Fill the cups" if turn else "Mix and fill the cups"), f"-{turn + 1}" if turn else ""
        bake_min = Minutes(minutes, f["oven_spread"])
        waits = TURN_WAITS_MIN if turn else 0 if self.pours() else self.waits()
        return [
            Step(f"fill{number}", f"{mix}, {of}", fill, FULL, most=waits, stage=StageName.TEMPER),
            Step(f"bake{number}", f"In the oven, {of}", bake_min, 0.0, {OVEN: float(share)}, cups.oven_c,
                 most=round(f["cups_wait_min"]), stage=StageName.COOK),
            Step(f"out{number}", "Cups out, onto a cloth", out, BUSY, stage=StageName.TEST),
        ]  # fmt: skip


def _together(*parts: tuple[float, float]) -> float:
    """Spread of a sum of parts, each a median and its spread."""
    whole = sum(usual for usual, _ in parts)
    return sqrt(sum((usual * spread) ** 2 for usual, spread in parts)) / max(whole, 1e-9)
