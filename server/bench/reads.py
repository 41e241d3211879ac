"""What the Bench computes of a draft. Nothing here writes."""

from __future__ import annotations

import functools
import json
from collections.abc import Iterable
from typing import TypeVar

import custard
from book import reads as book
from book.drafts import draft_of
from common import database
from common.fair_limiter import in_turn
from custard.vocabulary import StageName
from kitchen.access import Actor
from kitchen.reads import conditions_of, prices_per_kg

from bench.schemas import (
    BandOut,
    Building,
    Compared,
    Crusting,
    DetailsOut,
    FactsOut,
    FittedOut,
    Fitting,
    HandleOut,
    MapOut,
    MeasuresOut,
    QuestionOut,
    TopUpLine,
    TopUpOut,
    TurnedOut,
    Turning,
)

BANDS_KEPT = 500
"""The bands of so many mixes are kept by each process: who comes back to a Bench does not wait for them."""

T = TypeVar("T")


@in_turn
def details(actor: Actor, formula: custard.Formula) -> DetailsOut:
    """Handles, what changes if, the schools, the measures and the facts of one mix."""
    conditions = conditions_of(actor.kitchen)
    database.release_connection()
    result = custard.assess(formula, conditions)
    values = custard.bench.handle_values(formula)
    return DetailsOut(
        handles=[
            HandleOut(
                name=name,
                unit=custard.bench.HANDLES[name].unit,
                value=round(value, 2),
                low=custard.bench.HANDLES[name].low,
                high=round(max(custard.bench.HANDLES[name].high, 1.25 * value), 1),
            )
            for name, value in values.items()
        ],
        sensitivities=custard.plain(custard.bench.sensitivities(result)),
        questions=[QuestionOut.from_orm(one) for one in custard.bench.questions(result)],
        measures=[
            MeasuresOut(
                name=line.ingredient.name,
                mass_g=round(grams, 2),
                **{
                    who: custard.measures.as_measured(grams, line.ingredient, formula.egg_size, who)
                    for who in custard.quantities.MEASURES
                },
            )
            for line, grams in zip(formula.lines, result.weights_g, strict=True)
        ],
        facts=_facts(actor, result),
    )


def _facts(actor: Actor, result: custard.Assessment) -> FactsOut:
    prices = prices_per_kg(actor.kitchen)
    names = [line.ingredient.id or line.ingredient.name for line in result.formula.lines]
    missing = list(dict.fromkeys(name for name in names if name not in prices))
    base = custard.plain(custard.churning(result.whole))
    return FactsOut(
        cost=None if missing else round(custard.bench.cost(result.formula, prices), 2),
        currency=actor.kitchen.currency,
        no_price=missing,
        whites_left_g=round(result.whites_left_g, 1),
        meringue_sugar_g=round(custard.MERINGUE_SUGAR_SHARE * result.whites_left_g),
        keeps_days=result.keeping.days,
        keeps_why=result.keeping.why,
        cooling_text=result.conditions.cooling_rule.text,
        sweetness_per_100g=base["sweetness_per_100g"],
        freezing_point_c=base["freezing_point_c"],
        frozen=base["frozen_share"],
        churned=result.family.churned,
    )


@in_turn
def band(actor: Actor, formula: custard.Formula) -> BandOut:
    """The band of the window, and of how thick it is hot and cold."""
    # Its name is no part of what it becomes, but for what this kitchen learned of it.
    conditions = conditions_of(actor.kitchen).for_sauce(formula.name)
    database.release_connection()
    content = {**custard.write_formula(formula), "name": "a mix"}
    return _band(json.dumps(content, sort_keys=True), conditions)


@functools.lru_cache(maxsize=BANDS_KEPT)
def _band(content: str, conditions: custard.Conditions) -> BandOut:
    formula = custard.read_formula(json.loads(content))
    bands = custard.bands.window_band(formula, conditions)
    thick = custard.bands.texture_band(formula, conditions)
    bands |= {"hot_pa": thick["hot_yield_stress_pa"], "cold_pa": thick["cold_yield_stress_pa"]}
    return BandOut(**{name: None if found is None else list(found) for name, found in bands.items()})


@in_turn
def turned(actor: Actor, formula: custard.Formula, wanted: Turning) -> TurnedOut:
    """The formula with handles turned, what it becomes, and the map on show."""
    changed = custard.bench.turned(formula, {str(name): value for name, value in wanted.values.items()})
    if wanted.starch_kind is not None:
        changed = custard.bench.with_starch_kind(changed, wanted.starch_kind)
    schools = None if wanted.formula_id is None else book.formula(actor, wanted.formula_id).schools
    axes, conditions = wanted.map, conditions_of(actor.kitchen)
    database.release_connection()
    return TurnedOut.model_construct(
        draft=draft_of(changed),
        assessment=book.assessment(changed, conditions, schools),
        map=None if axes is None else _quick_map(changed, axes.x, axes.y, conditions),
    )


def _quick_map(formula: custard.Formula, x: str, y: str, conditions: custard.Conditions) -> MapOut:
    """The map for a moving hand: fewer points; the whole one is asked for when it rests."""
    found = custard.bench.ratio_map(formula, x, y, side=custard.bench.QUICK_SIDE, conditions=conditions)
    return MapOut.model_validate(custard.plain(found))


@in_turn
def ratio_map(actor: Actor, formula: custard.Formula, x: str, y: str, lift_c: float | None) -> MapOut:
    """The ratio map of a formula."""
    conditions = conditions_of(actor.kitchen)
    database.release_connection()
    found = custard.bench.ratio_map(formula, x, y, lift_c, conditions=conditions)
    return MapOut.model_validate(custard.plain(found))


@in_turn
def fitted(actor: Actor, formula: custard.Formula, asked: Fitting) -> FittedOut:
    """The formula at the size a dish takes, or in the batches a pan can be stirred in."""
    holds = custard.bench.dish_ml(asked.shape, asked.length_cm, asked.width_cm, asked.height_cm, asked.count)
    if asked.vessel == "dish":
        conditions = conditions_of(actor.kitchen)
        sized = custard.bench.for_dish(formula, holds, asked.filled, conditions)
        ml = custard.bench.finished_ml(formula, conditions)
        return FittedOut(
            holds_ml=round(holds),
            fills=round(ml / holds, 3),
            batches=1,
            draft=draft_of(sized),
            say=_dish_say(ml, holds, asked.filled),
        )
    fit = custard.bench.fit_pan(formula, holds, asked.head_room)
    say = (
        f"It fits: {100 * fit.fills:.0f} % of the pan, with room to stir."
        if fit.fits
        else f"Too full to stir at {100 * fit.fills:.0f} % of the pan: make {fit.batches} batches of this."
    )
    return FittedOut(
        holds_ml=round(holds),
        fills=round(fit.fills, 3),
        batches=fit.batches,
        draft=draft_of(fit.each),
        say=say,
    )


def _dish_say(ml: float, holds_ml: float, filled: float) -> str:
    """How full a dish is as the batch stands, then what it takes to fill it."""
    now = (
        f"As it stands it fills {100 * ml / holds_ml:.0f} % of the {holds_ml:.0f} ml"
        if ml <= holds_ml
        else f"As it stands it does not go in: {ml - holds_ml:.0f} ml too much for {holds_ml:.0f} ml"
    )
    return f"{now}. Filled to {100 * filled:.0f} %, it takes {filled * holds_ml / ml:.2f} times this batch."


def topped_up(formula: custard.Formula, left_g: float) -> TopUpOut:
    """What brings infused dairy back to its weight."""
    found = custard.bench.top_up(formula, left_g)
    names = {line.ingredient.id or line.ingredient.name: line.ingredient.name for line in formula.lines}
    return TopUpOut(
        missing_g=round(found.missing_g, 1),
        add=[TopUpLine(name=names[name], grams=round(grams, 1)) for name, grams in found.add],
    )


@in_turn
def built(actor: Actor, wanted: Building) -> list[custard.bench.Layer]:
    """The layers of a dish, each of a formula's latest version, from the bottom up."""
    conditions = conditions_of(actor.kitchen)
    formulas = {
        one.formula_id: custard.read_formula(book.version(actor, one.formula_id).content)
        for one in wanted.layers
        if one.formula_id is not None
    }
    database.release_connection()
    stack = []
    for index, one in enumerate(wanted.layers):
        try:
            made = (
                custard.larder.ingredient(one.ingredient or "")
                if one.formula_id is None
                else custard.assess(formulas[one.formula_id], conditions)
            )
        except custard.CustardError as error:
            raise error.at(f"layers[{index}]") from None
        stack.append(custard.bench.Course(made, one.height_mm, one.grams))
    dish = custard.bench.Dish(wanted.shape, wanted.length_cm, wanted.width_cm, wanted.count)
    built = custard.bench.layers(dish, stack, conditions)
    return [custard.bench.Layer(**custard.plain(one)) for one in built]


def crusted(actor: Actor, wanted: Crusting) -> custard.finish.Crust:
    """The burnt crust of a dish."""
    found = custard.finish.crust(wanted.diameter_cm, conditions_of(actor.kitchen).parameters, wanted.grams)
    return custard.finish.Crust(**custard.plain(found))


@in_turn
def compared(actor: Actor, a: tuple[int, int | None], b: tuple[int, int | None]) -> Compared:
    """Two formulas, or two versions of one, side by side with what differs in words."""
    conditions = conditions_of(actor.kitchen)
    formulas = [custard.read_formula(book.version(actor, *which).content) for which in (a, b)]
    opened = book.opened(actor, *a), book.opened(actor, *b)
    database.release_connection()
    results = [custard.assess(formula, conditions) for formula in formulas]
    return Compared(
        a=opened[0],
        b=opened[1],
        a_is=book.assessment(formulas[0], conditions),
        b_is=book.assessment(formulas[1], conditions),
        lines=list(custard.bench.changed_lines(*formulas)),
        differences=list(custard.bench.differences(*results)),
    )


def _steps(stages: Iterable[custard.stove.Stage], done: custard.finish.Finishing) -> tuple[str, ...]:
    """The method as sentences, with every addition where it joins."""
    told: list[str] = []
    for stage in stages:
        told.append(stage.say)
        if stage.stage == StageName.FINISH:
            told += [one.say for one in done.additions]
    return tuple(custard.plain_degrees(text) for text in told)


def exported(actor: Actor, formula_id: int, number: int, kind: str) -> tuple[str, str, str]:
    """A version as a file: its text, its content type and its name."""
    version = book.version(actor, formula_id, number)
    formula = custard.read_formula(version.content)
    stem = "".join(c if c.isalnum() else "-" for c in formula.name.lower()).strip("-")[:60] or "formula"
    if kind == "slip":
        slip = custard.formats.write_slip(formula, custard.bench.weighings(formula, version.formula.schools))
        return slip, "text/csv; charset=utf-8", f"{stem}-slip.csv"
    if kind == "recipe":
        result = custard.assess(formula, conditions_of(actor.kitchen))
        stages = custard.stove.stages(result, version.formula.schools)
        steps = _steps(stages, custard.finish.finishing(result))
        data = custard.formats.write_recipe(formula, steps, f"{result.yield_g:.0f} g")
        text = json.dumps(data, ensure_ascii=False, indent=2)
        return text, "application/ld+json; charset=utf-8", f"{stem}-recipe.json"
    text = json.dumps(custard.write_formula(formula), ensure_ascii=False, indent=2)
    return text, "application/json; charset=utf-8", f"{stem}.json"
