"""Routes of the Book and the Bench."""

from __future__ import annotations

import custard
from common.refusals import Refusal
from django.http import HttpRequest
from kitchen.access import enter
from ninja import Router, Status

from book import actions, reads
from book.drafts import read_draft
from book.schemas import (
    AssessmentOut,
    Draft,
    FormulaLine,
    FormulaOut,
    LineDraft,
    NewFormula,
    NewVersion,
    Scaling,
)

router = Router()


@router.get("/k/{kitchen}/formulas", response=list[FormulaLine])
def list_formulas(request: HttpRequest, kitchen: str) -> list[FormulaLine]:
    """The Book: every formula with its window and texture."""
    return reads.formulas(enter(request, kitchen))


@router.post("/k/{kitchen}/formulas", response={201: FormulaOut})
def add_formula(request: HttpRequest, kitchen: str, body: NewFormula) -> Status[FormulaOut]:
    """Add a formula."""
    actor = enter(request, kitchen)
    added = actions.add(actor, read_draft(body.draft.content()))
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


@router.post("/k/{kitchen}/assess", response=AssessmentOut)
def assess(request: HttpRequest, kitchen: str, draft: Draft) -> AssessmentOut:
    """What a draft becomes, in this kitchen. Writes nothing."""
    actor = enter(request, kitchen)
    return reads.assessment(read_draft(draft.content()), actor.kitchen.altitude_m)


@router.post("/k/{kitchen}/scale", response=Draft)
def scale(request: HttpRequest, kitchen: str, body: Scaling) -> Draft:
    """The same draft at another size. Writes nothing."""
    enter(request, kitchen)
    formula = read_draft(body.draft.content())
    scaled = custard.write_formula(_scaled(formula, body))
    return Draft(
        **{key: scaled[key] for key in ("name", "family", "eggs", "measures")},
        lines=[LineDraft(**line) for line in scaled["lines"]],
    )


def _scaled(formula: custard.Formula, body: Scaling) -> custard.Formula:
    match body.by:
        case "yolks":
            return formula.for_yolks(body.amount)
        case "dairy":
            return formula.for_dairy(body.amount)
        case "mass":
            return formula.for_mass(body.amount)
        case _:
            if body.portion_g is None:
                raise Refusal(422, "Say how much a portion weighs.", [("portion_g", "must be given")])
            return custard.for_portions(formula, body.amount, body.portion_g)
