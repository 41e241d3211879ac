"""What the Bench answers when it is asked backwards. Nothing here writes."""

from __future__ import annotations

from collections.abc import Mapping
from typing import TypeVar

import custard
from book import reads as book
from book.drafts import draft_of, read_draft
from common import database
from common.fair_limiter import Busy, in_turn, time_left
from common.refusals import Refusal
from kitchen.access import Actor
from kitchen.reads import conditions_of, prices_per_kg

from bench.schemas import SolutionOut, Wanted

T = TypeVar("T")


@in_turn
def solve(actor: Actor, formula: custard.Formula, wanted: Wanted) -> list[SolutionOut]:
    """The mix that does what is wanted, or the nearest that can be had, and why; two when yolks are missing.

    Raises
    ------
    CustardError
        when nothing comes near: there is no yolk to adjust, or a limit is passed already.
    Busy
        when the time for it ended before anything was found.
    """
    conditions = conditions_of(actor.kitchen)
    prices = prices_per_kg(actor.kitchen)
    database.release_connection()
    why = ""
    try:
        found = _solved(formula, wanted, conditions, prices)
    except custard.bench.OutOfReach as error:
        found, why = {"the nearest that can be had": error.nearest}, error.sentence()
    except custard.NoTime:
        raise Busy(503, "There was no time to find a mix just now. Ask again in a moment.") from None
    before = custard.assess(formula, conditions)
    return [_told(title, one, why, before) for title, one in found.items()]


def _told(title: str, one: custard.bench.Solution, why: str, before: custard.Assessment) -> SolutionOut:
    """A solution as the Bench would show it: of the amounts as they are written, not as they were found."""
    draft = draft_of(one.formula)
    written = read_draft(draft.content())
    after = custard.assess(written, before.conditions)
    return SolutionOut(
        title=title,
        draft=draft,
        changes=list(one.changes),
        differences=list(custard.bench.differences(before, after)),
        reached=one.reached,
        binds=one.binds,
        why=why,
        lift_c=one.lift_c,
        assessment=book.assessment(written, before.conditions),
    )


def _solved(
    formula: custard.Formula,
    wanted: Wanted,
    conditions: custard.Conditions,
    prices: Mapping[str, float],
) -> dict[str, custard.bench.Solution]:
    """What was found, by what it is called."""
    match wanted.goal:
        case "texture":
            limits = custard.bench.Limits(
                max_yolks=wanted.max_yolks,
                max_starch_g=wanted.max_starch_g,
                max_fat_percent=wanted.max_fat_percent,
                max_cost=wanted.max_cost,
                prices_per_kg=prices,
            )
            word = _given("texture", wanted.texture)
            ways = custard.bench.ways_to_texture(formula, word, wanted.at_c, limits, conditions, time_left)
            return {f"{word} at the plate, {by}": one for by, one in ways.items()}
        case "dairy":
            name = _given("ingredient", wanted.ingredient)
            return {
                "the same thickness": custard.bench.swap_dairy(
                    formula, name, wanted.at_c, conditions, time_left
                )
            }
        case "chocolate":
            name = _given("ingredient", wanted.ingredient)
            return {"the other chocolate": custard.bench.swap_chocolate(formula, name, conditions)}
        case _:
            smaller, starch = custard.bench.with_missing_yolks(
                formula, _given("yolks", wanted.yolks), conditions=conditions, go_on=time_left
            )
            return {"a smaller batch": smaller, "starch for the missing yolks": starch}


def _given(field: str, value: T | None) -> T:
    if value is None:
        raise Refusal(422, f"Say which {field}.", [(field, "must be given")])
    return value
