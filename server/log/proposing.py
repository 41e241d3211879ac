"""The next version of a formula, from what its batches taught."""

from __future__ import annotations

import custard
import custard.learning
from book import reads as book
from common import database
from common.fair_limiter import in_turn
from kitchen import learned
from kitchen import reads as kitchen
from kitchen.access import Actor

from log.schemas import ProposedVersion


def proposed(actor: Actor, formula_id: int) -> ProposedVersion | None:
    """What a formula's next version could be; nothing where too little was learned, or it is left out.

    Raises
    ------
    Http404
        when this kitchen has no such formula.
    """
    latest = book.version(actor, formula_id)
    formula = custard.read_formula(latest.content)
    known = learned.of_formula(actor.kitchen, formula.name)
    if known is None:
        return None
    conditions = kitchen.conditions_of(actor.kitchen).for_sauce(formula.name)
    database.release_connection()
    found = _computed(actor, formula, known.set_k, conditions)
    if found is None:
        return None
    return ProposedVersion(
        version=latest.number + 1,
        say=found.say,
        why=found.why,
        batches=found.batches,
        draft=book.draft_of(custard.write_formula(found.formula)),
    )


@in_turn
def _computed(
    actor: Actor, formula: custard.Formula, set_k: custard.learning.Estimate, conditions: custard.Conditions
) -> custard.learning.Proposal | None:
    return custard.learning.proposed(formula, set_k, conditions)
