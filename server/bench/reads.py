"""What the Bench computes of a draft. Nothing here writes."""

from __future__ import annotations

import json
from typing import Any, TypeVar

import custard
from book import reads as book
from book.drafts import draft_of
from common.refusals import Refusal
from kitchen.access import Actor
from kitchen.reads import prices_per_kg

from bench.schemas import (
    BandOut,
    Compared,
    DetailsOut,
    FactsOut,
    FittedOut,
    Fitting,
    FrozenOut,
    HandleOut,
    ImportOut,
    MapOut,
    MeasuresOut,
    QuestionOut,
    SensitivityOut,
    SolutionOut,
    TopUpLine,
    TopUpOut,
    TurnedOut,
    Turning,
    UnsettledOut,
    Wanted,
)

T = TypeVar("T")


def details(actor: Actor, formula: custard.Formula) -> DetailsOut:
    """Handles, what changes if, the schools, the measures and the facts of one mix."""
    altitude = actor.kitchen.altitude_m
    result = custard.assess_as_made(formula, altitude_m=altitude)
    values = custard.handle_values(formula)
    return DetailsOut(
        handles=[
            HandleOut(
                name=name,
                unit=custard.HANDLES[name].unit,
                value=round(value, 2),
                low=custard.HANDLES[name].low,
                high=round(max(custard.HANDLES[name].high, 1.25 * value), 1),
            )
            for name, value in values.items()
        ],
        sensitivities=[SensitivityOut(**one.as_json()) for one in custard.sensitivities(result, altitude)],
        questions=[QuestionOut.from_orm(one) for one in custard.questions(result, altitude)],
        measures=[
            MeasuresOut(
                name=line.ingredient.name,
                mass_g=round(grams, 2),
                **{
                    who: custard.told(grams, line.ingredient, formula.egg_size, who)
                    for who in custard.MEASURES
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
    base = custard.churn(result.whole)
    family = custard.all_families()[result.formula.family]
    return FactsOut(
        cost=None if missing else round(custard.cost(result.formula, prices), 2),
        currency=actor.kitchen.currency,
        no_price=missing,
        whites_left_g=round(result.whites_left_g, 1),
        meringue_sugar_g=round(custard.MERINGUE_SUGAR_SHARE * result.whites_left_g),
        keeps_days=family.keeps_days,
        cooling_text=custard.cooling_rules()[actor.kitchen.cooling_rule].text,
        sweetness_per_100g=round(base.sweetness, 1),
        freezing_point_c=round(base.freezing_point_c, 2),
        frozen=[FrozenOut(at_c=at, share=round(share, 3)) for at, share in base.frozen],
        churned=result.formula.family == "ice-base",
    )


def band(actor: Actor, formula: custard.Formula) -> BandOut:
    """The band of the window."""
    pan = custard.mix(formula.in_the_pan())
    rate = custard.all_families()[formula.family].rate_k_per_min
    bands = custard.window_band(pan, actor.kitchen.altitude_m, rate)
    return BandOut(**{name: None if found is None else list(found) for name, found in bands.items()})


def turned(actor: Actor, formula: custard.Formula, wanted: Turning) -> TurnedOut:
    """The formula with handles turned, what it becomes, and the map on show."""
    changed = custard.turned(formula, wanted.values)
    if wanted.starch_kind is not None:
        changed = custard.with_starch_kind(changed, wanted.starch_kind)
    schools = None if wanted.formula_id is None else book.formula(actor, wanted.formula_id).schools
    axes = wanted.map
    return TurnedOut.model_construct(
        draft=draft_of(changed),
        assessment=book.assessment(changed, actor.kitchen, schools),
        map=None if axes is None else _quick_map(actor, changed, axes.x, axes.y),
    )


def _quick_map(actor: Actor, formula: custard.Formula, x: str, y: str) -> MapOut:
    """The map for a moving hand: fewer points; the whole one is asked for when it rests."""
    found = custard.ratio_map(formula, x, y, actor.kitchen.altitude_m, side=custard.QUICK_SIDE)
    return MapOut.model_construct(**found.as_json())


def ratio_map(actor: Actor, formula: custard.Formula, x: str, y: str, lift_c: float | None) -> MapOut:
    """The ratio map of a formula."""
    found = custard.ratio_map(formula, x, y, actor.kitchen.altitude_m, lift_c)
    return MapOut.model_construct(**found.as_json())


def solve(actor: Actor, formula: custard.Formula, wanted: Wanted) -> list[SolutionOut]:
    """The mix that does what is wanted; two ways on when yolks are missing.

    Raises
    ------
    CustardError
        when it is impossible; the sentence tells the nearest that is not.
    """
    altitude = actor.kitchen.altitude_m
    match wanted.goal:
        case "texture":
            limits = custard.Limits(
                max_yolks=wanted.max_yolks,
                max_starch_g=wanted.max_starch_g,
                max_fat_percent=wanted.max_fat_percent,
                max_cost=wanted.max_cost,
                prices_per_kg=prices_per_kg(actor.kitchen),
            )
            word = _given("texture", wanted.texture)
            found = {
                f"{word} at the plate": custard.for_texture(formula, word, wanted.at_c, limits, altitude)
            }
        case "dairy":
            name = _given("ingredient", wanted.ingredient)
            found = {"the same thickness": custard.swap_dairy(formula, name, wanted.at_c, altitude)}
        case "chocolate":
            name = _given("ingredient", wanted.ingredient)
            found = {"the other chocolate": custard.swap_chocolate(formula, name, altitude)}
        case _:
            smaller, starch = custard.with_missing_yolks(
                formula, _given("yolks", wanted.yolks), altitude_m=altitude
            )
            found = {"a smaller batch": smaller, "starch for the missing yolks": starch}
    before = custard.assess_as_made(formula, altitude_m=altitude)
    return [
        SolutionOut(
            title=title,
            draft=draft_of(one.formula),
            changes=list(one.changes),
            differences=list(custard.differences(before, custard.assess_as_made(one.formula, altitude))),
            reached=one.reached,
        )
        for title, one in found.items()
    ]


def _given(field: str, value: T | None) -> T:
    if value is None:
        raise Refusal(422, f"Say which {field}.", [(field, "must be given")])
    return value


def fitted(formula: custard.Formula, asked: Fitting) -> FittedOut:
    """The formula at the size a dish takes, or in the batches a pan can be stirred in."""
    holds = custard.dish_ml(asked.shape, asked.length_cm, asked.width_cm, asked.height_cm, asked.count)
    if asked.vessel == "dish":
        sized = custard.for_dish(formula, holds, asked.filled)
        say = f"It holds {holds:.0f} ml; this fills {100 * asked.filled:.0f} % of it, finished."
        return FittedOut(holds_ml=round(holds), fills=None, batches=1, draft=draft_of(sized), say=say)
    fit = custard.fit_pan(formula, holds, asked.head_room)
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


def topped_up(formula: custard.Formula, left_g: float) -> TopUpOut:
    """What brings infused dairy back to its weight."""
    found = custard.top_up(formula, left_g)
    names = {line.ingredient.id or line.ingredient.name: line.ingredient.name for line in formula.lines}
    return TopUpOut(
        missing_g=round(found.missing_g, 1),
        add=[TopUpLine(name=names[name], grams=round(grams, 1)) for name, grams in found.add],
    )


def compared(actor: Actor, a: tuple[int, int | None], b: tuple[int, int | None]) -> Compared:
    """Two formulas, or two versions of one, side by side with what differs in words."""
    altitude = actor.kitchen.altitude_m
    formulas = [custard.read_formula(book.version(actor, *which).content) for which in (a, b)]
    results = [custard.assess_as_made(formula, altitude_m=altitude) for formula in formulas]
    return Compared(
        a=book.opened(actor, *a),
        b=book.opened(actor, *b),
        a_is=book.assessment(formulas[0], actor.kitchen),
        b_is=book.assessment(formulas[1], actor.kitchen),
        lines=list(custard.changed_lines(*formulas)),
        differences=list(custard.differences(*results)),
    )


def imported(actor: Actor, text: str) -> ImportOut:
    """What a pasted or chosen file says: our own formula whole, or a recipe's lines to settle.

    Raises
    ------
    Refusal, CustardError
        when it is no JSON, or neither of the two.
    """
    try:
        data: Any = json.loads(text)
    except (ValueError, RecursionError):
        raise Refusal(
            422,
            "This is not JSON. Paste an Old Spoon formula, or the recipe's JSON-LD.",
            [("text", "is not JSON")],
        ) from None
    if isinstance(data, dict) and str(data.get("format", "")).startswith("old-spoon/"):
        formula = custard.read_formula(data)
        formula.weights_g()
        return ImportOut(name=formula.name, draft=draft_of(formula), lines=[], method=[], serves="")
    recipe = custard.read_recipe(data, actor.kitchen.eggs, actor.kitchen.measures)
    return ImportOut(
        name=recipe.name,
        draft=draft_of(recipe.formula) if recipe.formula else None,
        lines=[UnsettledOut(**{**vars(line), "candidates": list(line.candidates)}) for line in recipe.lines],
        method=list(recipe.method),
        serves=recipe.serves,
    )


def exported(actor: Actor, formula_id: int, number: int, kind: str) -> tuple[str, str, str]:
    """A version as a file: its text, its content type and its name."""
    version = book.version(actor, formula_id, number)
    formula = custard.read_formula(version.content)
    stem = "".join(c if c.isalnum() else "-" for c in formula.name.lower()).strip("-")[:60] or "formula"
    if kind == "slip":
        return custard.write_slip(formula), "text/csv; charset=utf-8", f"{stem}-slip.csv"
    if kind == "recipe":
        result = custard.assess_as_made(formula, altitude_m=actor.kitchen.altitude_m)
        stages = custard.plan(result, version.formula.schools, actor.kitchen.cooling_rule)
        steps = tuple(custard.plain_degrees(stage.say) for stage in stages)
        data = custard.write_recipe(formula, steps, f"{result.yield_g:.0f} g")
        text = json.dumps(data, ensure_ascii=False, indent=2)
        return text, "application/ld+json; charset=utf-8", f"{stem}-recipe.json"
    text = json.dumps(custard.write_formula(formula), ensure_ascii=False, indent=2)
    return text, "application/json; charset=utf-8", f"{stem}.json"
