"""Writing when something has gone wrong: a remedy into its batch, and what to do otherwise next time."""

from __future__ import annotations

from dataclasses import replace
from decimal import Decimal
from typing import Any
from uuid import UUID

import custard
from book import actions as book_actions
from book import reads as book
from common import clock, database
from common.refusals import Conflict
from django.http import Http404
from kitchen.access import Actor, Role, action
from shelf import actions as shelf
from shelf.reads import TubRow
from stove import actions as stove
from stove import locking
from stove import reads as stove_reads
from stove.after import keeping
from stove.batch.cooking import remedies_of
from stove.reads import BatchRow, RemedyRow

from trouble import reads
from trouble.schemas import NextTime, Taking, TroubleTaken

OVERTAKEN = "Somebody has done something about it meanwhile. Look at it again before you go on."


def take(actor: Actor, wanted: Taking) -> TroubleTaken:
    """Write a remedy into its batch, or into a tub of it. Sent again with the same id it changes nothing.

    Raises
    ------
    Conflict
        when somebody else mended it meanwhile, or a closed batch is mended other than tub by tub.
    """
    actor.must(Role.COOK)
    now = clock.now()
    found = reads.known(actor, wanted, now)
    if found.batch is None:
        raise Conflict("A formula is not mended: take it to the stove first, or change it for next time.")
    known = stove_reads.remedy_of_mark(found.batch, wanted.id)
    if known is not None:
        return TroubleTaken(batch_id=found.batch.pk, mark_id=wanted.id)
    if found.batch.closed_at is not None and found.tub is None:
        raise Conflict("This batch is closed: mend the tub of it that you have open, from the shelf.")
    database.release_connection()
    answer = reads.answered(found, wanted)
    if answer.unsafe:
        raise Conflict(f"{answer.unsafe} Throw it away; no remedy makes it safe again.", kind="unsafe")
    after = reads.life_after(found, answer, now)
    told = _told(found, found.batch, answer, after.days)
    if found.tub is not None:
        told |= {"tub": found.tub.part, "life_before": found.tub.life}
    life = custard.plain(after)
    batch = _take(actor, found.batch, found.tub, wanted, told, life)
    return TroubleTaken(batch_id=batch.pk, mark_id=wanted.id)


@action("trouble.take", Role.COOK)
def _take(
    actor: Actor,
    seen: BatchRow,
    tub: TubRow | None,
    wanted: Taking,
    told: dict[str, Any],
    life: dict[str, Any],
) -> BatchRow:
    """Under the lock of the batch: what was computed of it as it was `seen` must still be how it stands."""
    batch = locking.batch(actor, seen.pk)
    if stove_reads.remedy_of_mark(batch, wanted.id) is not None:
        return batch
    stood = {one.mark_id for one in remedies_of(seen)}
    overtaken = {one.mark_id for one in stove_reads.remedies(batch)} != stood
    if overtaken or (batch.closed_at is None) != (seen.closed_at is None):
        raise Conflict(OVERTAKEN, kind="overtaken")
    grams = sum(one["grams"] for one in told["add"] if not one["anew"]) - told["takes_g"]
    stove.remedy(actor, batch, wanted.id, grams, **told)
    if tub is None:
        shelf.contents_changed(actor, batch)
    else:
        change = Decimal(str(round(grams, 1)))
        shelf.mend(actor, tub, wanted.id, change, life, told["allergens"], custard.plain_degrees(told["say"]))
    return batch


def _told(found: reads.Known, batch: BatchRow, answer: custard.trouble.Answer, days: float) -> dict[str, Any]:
    """What is kept of a remedy; `days` are those it keeps afterwards."""
    result, remedy = found.result, answer.now
    lines = custard.write_formula(answer.after.formula)["lines"][len(result.formula.lines) :]
    became = custard.assess(answer.after.formula, result.conditions)
    cause = answer.causes[0]
    before_g = float(found.tub.left_g) if found.tub is not None else keeping.yield_now_g(batch)
    grams = sum(one.grams for one in remedy.add if not one.anew) - remedy.takes_g
    plain = custard.plain(remedy)
    return {
        "fault": answer.fault,
        "cause": f"{cause.say} ({100 * cause.sure:.0f} % sure)"[:500],
        "say": remedy.say[:500],
        "steps": plain["steps"],
        "cautions": plain["cautions"],
        "add": plain["add"],
        # As much as the whole batch would take, so that the mix is right however little of it is left.
        "lines": lines,
        "allergens": list(answer.after.allergens),
        "takes_g": round(remedy.takes_g, 1),
        "heat_to_c": plain["heat_to_c"],
        "warmed_again": remedy.warmed_again[:500],
        "becomes": remedy.becomes,
        "before": _figures(result, before_g),
        "after": _figures(became, max(0.0, before_g + grams), days),
    }


def _figures(result: custard.Assessment, yield_g: float, days: float | None = None) -> dict[str, Any]:
    return {
        "stop_c": round(result.stop.at_c, 1),
        "hot": result.hot.word,
        "cold": result.cold.word,
        "yield_g": round(yield_g, 1),
        "days": result.keeping.days if days is None else days,
    }


@action("trouble.take-back", Role.COOK)
def take_back(actor: Actor, batch_id: int, mark_id: UUID) -> RemedyRow:
    """Take a remedy back: its lines, its grams, and how it keeps; the record shows both."""
    batch = locking.batch(actor, batch_id)
    remedy = stove_reads.remedy_of_mark(batch, mark_id)
    if remedy is None:
        raise Http404
    if batch.closed_at is not None and remedy.tub is None:
        raise Conflict("This batch is closed. Open it again to change its record.", kind="closed")
    later = [one for one in stove_reads.remedies(batch) if one.tub == remedy.tub and one.pk > remedy.pk]
    if remedy.tub is not None and later:
        raise Conflict("Something else was done with that tub since; take that back first.")
    if stove.remedy_back(actor, batch, remedy):
        if remedy.tub is None:
            shelf.contents_changed(actor, batch)
        else:
            shelf.unmend(actor, batch, mark_id, remedy.life_before or {})
    return remedy


def next_time(actor: Actor, formula_id: int, wanted: NextTime) -> tuple[str, int]:
    """Write down what to do otherwise next time: a chef's change goes into the formula, else a reminder.

    Returns
    -------
    What was written ("line", "school" or "reminder"), and the formula's latest version then.
    """
    actor.must(Role.COOK)
    change = None if wanted.change is None else custard.trouble.Change(**wanted.change.dict())
    if change is None or actor.role.rank < Role.CHEF.rank:
        book_actions.remind(actor, formula_id, wanted.say, wanted.batch)
        return "reminder", book.formula(actor, formula_id).latest
    if change.kind == "school":
        book_actions.choose_schools(actor, formula_id, {change.question: change.answer})
        return "school", book.formula(actor, formula_id).latest
    latest = book.version(actor, formula_id)
    formula = custard.read_formula(latest.content)
    if not change.from_g and wanted.of_g:
        change = replace(change, to_g=change.to_g * formula.mass_g() / wanted.of_g)
    after = "" if wanted.batch is None else f" after batch {wanted.batch}"
    made = book_actions.save_version(
        actor,
        formula_id,
        custard.trouble.changed(formula, change),
        latest.number,
        f"{wanted.say}{after}"[:500],
    )
    return "line", made.number
