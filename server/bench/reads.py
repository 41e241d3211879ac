"""What the Bench computes of a draft. Nothing here writes."""

from __future__ import annotations

import base64
import binascii
import functools
import json
import re
from collections.abc import Iterable
from typing import Any, TypeVar

import custard
from book import reads as book
from book.drafts import draft_of
from common import database
from common.fair_limiter import in_turn
from common.refusals import Refusal
from custard.vocabulary import StageName
from kitchen.access import Actor
from kitchen.reads import conditions_of, prices_per_kg

from bench.schemas import (
    BandOut,
    Building,
    Bundle,
    BundledOut,
    Compared,
    Crusting,
    DetailsOut,
    FactsOut,
    FittedOut,
    Fitting,
    HandleOut,
    ImportOut,
    MapOut,
    MeasuresOut,
    QuestionOut,
    ReadLineOut,
    ReadOption,
    ReadSetting,
    ReadStep,
    TopUpLine,
    TopUpOut,
    TurnedOut,
    Turning,
)

BANDS_KEPT = 500
"""The bands of so many mixes are kept by each process: who comes back to a Bench does not wait for them."""

T = TypeVar("T")
BOXES = re.compile(r"\s*\[[ xX✓]?\]")
"""A box before each line, as in a list to be ticked."""


@in_turn
def details(actor: Actor, formula: custard.Formula) -> DetailsOut:
    """Handles, what changes if, the schools, the measures and the facts of one mix."""
    database.release_connection()
    result = custard.assess(formula, conditions_of(actor.kitchen))
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
    conditions = conditions_of(actor.kitchen)
    database.release_connection()
    # Its name is no part of what it becomes.
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
    axes = wanted.map
    database.release_connection()
    return TurnedOut.model_construct(
        draft=draft_of(changed),
        assessment=book.assessment(changed, conditions_of(actor.kitchen), schools),
        map=None if axes is None else _quick_map(actor, changed, axes.x, axes.y),
    )


def _quick_map(actor: Actor, formula: custard.Formula, x: str, y: str) -> MapOut:
    """The map for a moving hand: fewer points; the whole one is asked for when it rests."""
    found = custard.bench.ratio_map(
        formula, x, y, side=custard.bench.QUICK_SIDE, conditions=conditions_of(actor.kitchen)
    )
    return MapOut.model_validate(custard.plain(found))


@in_turn
def ratio_map(actor: Actor, formula: custard.Formula, x: str, y: str, lift_c: float | None) -> MapOut:
    """The ratio map of a formula."""
    database.release_connection()
    found = custard.bench.ratio_map(formula, x, y, lift_c, conditions=conditions_of(actor.kitchen))
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


def imported(actor: Actor, text: str) -> ImportOut:
    """What a pasted or chosen text says: our own formula whole, or a recipe's lines to settle.

    Raises
    ------
    Refusal, CustardError
        when it is none of these.
    """
    data = _json(text)
    if isinstance(data, dict) and str(data.get("format", "")).startswith("old-spoon/"):
        formula = custard.read_formula(data)
        formula.weights_g()
        return _whole(formula)
    kitchen = actor.kitchen
    usual = custard.reading.Usual(kitchen.measures, eggs=kitchen.eggs, used=tuple(book.last_used(actor)))
    database.release_connection()
    recipe = custard.reading.read(text, usual)
    said = {setting.what: setting.value for setting in recipe.settings}
    card = said.get("cook_to_c")
    return ImportOut(
        name=recipe.name,
        draft=draft_of(recipe.formula) if recipe.formula else None,
        family=recipe.nearest,
        ours=bool(recipe.family),
        why=recipe.why,
        missing=recipe.missing,
        eggs=recipe.eggs,
        measures=recipe.measures,
        lines=[_read_line(line) for line in recipe.lines],
        method=[
            ReadStep(
                text=step.text,
                settings=[ReadSetting(what=one.what, value=str(one.value)) for one in step.settings],
            )
            for step in recipe.method
        ],
        notes=list(recipe.notes),
        serves=recipe.serves,
        schools=custard.reading.schools_of(recipe),
        card_c=card if isinstance(card, float | int) else None,
    )


def unbundled(wanted: Bundle) -> list[BundledOut]:
    """The texts that a file holds, one a recipe.

    Raises
    ------
    Refusal, CustardError
        when it is no base64, or a zip that is damaged or holds too much.
    """
    try:
        data = base64.b64decode(wanted.content, validate=True)
    except binascii.Error:
        raise Refusal(
            422, "This file did not arrive whole.", fields=[("content", "Choose it again.")]
        ) from None
    found = custard.reading.unbundle(wanted.name, data)
    return [BundledOut(name=one.name, text=one.text, why=one.why) for one in found]


def _whole(formula: custard.Formula) -> ImportOut:
    """Our own formula: nothing of it is to be settled."""
    return ImportOut(
        name=formula.name,
        draft=draft_of(formula),
        family=formula.family,
        ours=True,
        why="",
        missing="",
        eggs=formula.eggs,
        measures=formula.measures,
        lines=[],
        method=[],
        notes=[],
        serves="",
        schools={},
        card_c=None,
    )


def _read_line(line: custard.reading.ReadLine) -> ReadLineOut:
    """A line as it was read, with what it may mean instead and what the model leaves out of it."""
    larder = custard.larder.all_ingredients()
    thing = larder.get(line.ingredient)
    return ReadLineOut(
        text=line.text,
        ingredient=line.ingredient,
        amount=line.amount,
        grams=line.grams,
        when=line.when,
        minutes=line.minutes,
        note=line.note,
        assumed=list(line.assumed),
        why=line.why,
        as_note=line.as_note,
        optional=line.optional,
        unmodelled="" if thing is None else thing.unmodelled,
        options=[
            ReadOption(ingredient=one.ingredient, name=larder[one.ingredient].name, amount=one.amount)
            for one in line.options
        ],
    )


def _steps(stages: Iterable[custard.stove.Stage], done: custard.finish.Finishing) -> tuple[str, ...]:
    """The method as sentences, with every addition where it joins."""
    told: list[str] = []
    for stage in stages:
        told.append(stage.say)
        if stage.stage == StageName.FINISH:
            told += [one.say for one in done.additions]
    return tuple(custard.plain_degrees(text) for text in told)


def _json(text: str) -> Any:
    """What stands in a text as JSON; None for what is none. A list of boxes to tick begins with one, too."""
    if text.lstrip()[:1] not in ("{", "["):
        return None
    try:
        return json.loads(text)
    except (ValueError, RecursionError):
        if BOXES.match(text):
            return None
        raise Refusal(
            422,
            "This begins as JSON does, but is not: a part of it may be missing.",
            [("text", "is not JSON")],
        ) from None


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
