"""Writing in the Book."""

from __future__ import annotations

import custard
from common.refusals import Conflict
from kitchen.access import Actor, action
from kitchen.models import Role

from book import reads
from book.models import Formula, FormulaVersion


@action("formula.add", Role.CHEF)
def add(actor: Actor, formula: custard.Formula, note: str = "") -> FormulaVersion:
    """A new formula, at version 1."""
    entry = Formula.objects.create(kitchen=actor.kitchen, name=formula.name, family=formula.family, latest=1)
    return _write(actor, entry, formula, note)


@action("formula.save", Role.CHEF)
def save_version(
    actor: Actor, formula_id: int, formula: custard.Formula, base: int, note: str = ""
) -> FormulaVersion:
    """A new version of a formula, changed from version `base`.

    Raises
    ------
    Conflict
        when someone saved another version meanwhile; theirs stays, and so does the caller's draft.
    """
    reads.formula(actor, formula_id)
    entry = Formula.objects.select_for_update().get(pk=formula_id)
    if entry.latest != base:
        theirs = entry.versions.select_related("created_by").get(number=entry.latest)
        by = theirs.created_by.shown() if theirs.created_by else "someone"
        raise Conflict(
            f"The {by} saved version {entry.latest} while you worked on version {base}. Yours is still here: "
            "save it on top as the next version, or look at theirs first.",
            kind=f"newer-version:{entry.latest}",
        )
    entry.latest += 1
    entry.name, entry.family = formula.name, formula.family
    entry.save(update_fields=["latest", "name", "family"])
    return _write(actor, entry, formula, note)


def _write(actor: Actor, entry: Formula, formula: custard.Formula, note: str) -> FormulaVersion:
    return FormulaVersion.objects.create(
        formula=entry,
        number=entry.latest,
        content=custard.write_formula(formula),
        note=note,
        created_by=actor.user,
    )
