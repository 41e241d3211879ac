"""Routes of the Book and the Bench."""

from __future__ import annotations

import custard
from common.refusals import Refusal
from common.text import Name, Word
from django.http import HttpRequest
from kitchen.access import Role, enter
from kitchen.reads import conditions_of
from ninja import Router, Status

from book import actions, reads
from book.drafts import draft_of, read_draft
from book.schemas import Draft, FormulaOut, FormulaPage, Named, NewFormula, NewVersion, Scaling, SchoolsChosen

router = Router()


@router.get("/k/{kitchen}/formulas", response=FormulaPage)
def list_formulas(
    request: HttpRequest,
    kitchen: str,
    archived: bool = False,
    words: Name = "",
    family: Word = "",
    word: Word = "",
    after: int | None = None,
) -> FormulaPage:
    """The Book, a page of it: formulas with their window and texture; or what was taken out of it."""
    return reads.page(enter(request, kitchen), reads.BookAsked(archived, words, family, word, after))


@router.get("/k/{kitchen}/patterns", response=list[Draft])
def list_patterns(request: HttpRequest, kitchen: str) -> list[Draft]:
    """A plain formula of each family to start from."""
    return reads.patterns(enter(request, kitchen))


@router.get("/k/{kitchen}/usual", response=list[str])
def list_usual_ingredients(request: HttpRequest, kitchen: str) -> list[str]:
    """What this kitchen's formulas are made of most often."""
    return reads.usual_ingredients(enter(request, kitchen))


@router.post("/k/{kitchen}/formulas", response={201: FormulaOut})
def add_formula(request: HttpRequest, kitchen: str, body: NewFormula) -> Status[FormulaOut]:
    """Add a formula; what a cook brings in is a proposal until a chef takes it in."""
    actor = enter(request, kitchen)
    formula = read_draft(body.draft.content())
    if actor.role is Role.CHEF:
        added = actions.add(actor, formula, recipe=body.recipe, schools=body.schools, picture=body.picture)
    else:
        added = actions.propose(actor, formula, body.recipe, body.schools, body.picture)
    return Status(201, reads.opened(actor, added.formula_id))


@router.get("/k/{kitchen}/formulas/{formula_id}", response=FormulaOut)
def open_formula(request: HttpRequest, kitchen: str, formula_id: int) -> FormulaOut:
    """A formula at its latest version."""
    return reads.opened(enter(request, kitchen), formula_id)


@router.get("/k/{kitchen}/formulas/{formula_id}/versions/{number}", response=FormulaOut)
def open_version(request: HttpRequest, kitchen: str, formula_id: int, number: int) -> FormulaOut:
    """A formula at an earlier version."""
    return reads.opened(enter(request, kitchen), formula_id, number)


@router.post("/k/{kitchen}/formulas/{formula_id}/versions", response={201: FormulaOut})
def save_version(request: HttpRequest, kitchen: str, formula_id: int, body: NewVersion) -> Status[FormulaOut]:
    """Save a changed formula as a new version."""
    actor = enter(request, kitchen)
    actions.save_version(actor, formula_id, read_draft(body.draft.content()), body.base, body.note)
    return Status(201, reads.opened(actor, formula_id))


@router.post("/k/{kitchen}/formulas/{formula_id}/duplicate", response={201: FormulaOut})
def duplicate(request: HttpRequest, kitchen: str, formula_id: int, body: Named) -> Status[FormulaOut]:
    """Copy a formula under another name."""
    actor = enter(request, kitchen)
    copied = actions.duplicate(actor, formula_id, body.name)
    return Status(201, reads.opened(actor, copied.formula_id))


@router.post("/k/{kitchen}/formulas/{formula_id}/archive", response=FormulaOut)
def archive(request: HttpRequest, kitchen: str, formula_id: int) -> FormulaOut:
    """Take a formula out of the book; a cook may take out their own proposal."""
    actor = enter(request, kitchen)
    take_out = actions.archive if actor.role is Role.CHEF else actions.withdraw
    take_out(actor, formula_id)
    return reads.opened(actor, formula_id)


@router.post("/k/{kitchen}/formulas/{formula_id}/take-in", response=FormulaOut)
def take_in(request: HttpRequest, kitchen: str, formula_id: int) -> FormulaOut:
    """Take a cook's proposal into the book."""
    actor = enter(request, kitchen)
    actions.take_in(actor, formula_id)
    return reads.opened(actor, formula_id)


@router.post("/k/{kitchen}/formulas/{formula_id}/restore", response=FormulaOut)
def restore(request: HttpRequest, kitchen: str, formula_id: int) -> FormulaOut:
    """Put it back."""
    actor = enter(request, kitchen)
    actions.restore(actor, formula_id)
    return reads.opened(actor, formula_id)


@router.put("/k/{kitchen}/formulas/{formula_id}/schools", response=FormulaOut)
def choose_schools(request: HttpRequest, kitchen: str, formula_id: int, body: SchoolsChosen) -> FormulaOut:
    """Say how this kitchen makes it, where good cooks disagree."""
    actor = enter(request, kitchen)
    actions.choose_schools(actor, formula_id, body.schools)
    return reads.opened(actor, formula_id)


@router.post("/k/{kitchen}/formulas/{formula_id}/reminders/{reminder_id}/done", response=FormulaOut)
def reminded(request: HttpRequest, kitchen: str, formula_id: int, reminder_id: int) -> FormulaOut:
    """Tick off what was to be done otherwise."""
    actor = enter(request, kitchen)
    actions.reminded(actor, formula_id, reminder_id)
    return reads.opened(actor, formula_id)


@router.post("/k/{kitchen}/assess", response=custard.stove.Overview)
def assess(
    request: HttpRequest, kitchen: str, draft: Draft, formula_id: int | None = None
) -> custard.stove.Overview:
    """What a draft becomes, in this kitchen, made as its formula in the book is. Writes nothing."""
    actor = enter(request, kitchen)
    schools = None if formula_id is None else reads.formula(actor, formula_id).schools
    return reads.assessed(actor, read_draft(draft.content()), schools)


@router.post("/k/{kitchen}/scale", response=Draft)
def scale(request: HttpRequest, kitchen: str, body: Scaling) -> Draft:
    """The same draft at another size. Writes nothing."""
    actor = enter(request, kitchen)
    formula = read_draft(body.draft.content())
    return draft_of(_scaled(formula, body, conditions_of(actor.kitchen)))


def _scaled(formula: custard.Formula, body: Scaling, conditions: custard.Conditions) -> custard.Formula:
    match body.by:
        case "yolks":
            return formula.for_yolks(body.amount)
        case "dairy":
            return formula.for_dairy(body.amount)
        case "mass":
            return formula.for_mass(body.amount)
        case "destinations":
            return custard.bench.for_destinations(formula, conditions)
        case _:
            if body.portion_g is None:
                raise Refusal(422, "Say how much a portion weighs.", [("portion_g", "must be given")])
            return custard.bench.for_portions(formula, body.amount, body.portion_g, conditions)
