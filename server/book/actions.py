"""Writing in the Book."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime
from uuid import UUID

import custard
from common import clock
from common.refusals import Conflict
from django.http import Http404
from kitchen.access import Actor, action
from kitchen.models import Role
from people.models import User

from book import kept, pictures, reads, tasks
from book.models import Formula, FormulaVersion, Reminder


@action("formula.add", Role.CHEF)
def add(
    actor: Actor,
    formula: custard.Formula,
    note: str = "",
    recipe: str = "",
    schools: Mapping[str, str] | None = None,
    picture: UUID | None = None,
) -> FormulaVersion:
    """A new formula, at version 1, with the recipe that it was read from, its picture and its schools."""
    return _write(actor, _entry(actor, formula, recipe, schools or {}, picture), formula, note)


@action("formula.propose", Role.COOK)
def propose(
    actor: Actor,
    formula: custard.Formula,
    recipe: str = "",
    schools: Mapping[str, str] | None = None,
    picture: UUID | None = None,
) -> FormulaVersion:
    """A new formula as a cook's proposal, which a chef takes in or out."""
    entry = _entry(actor, formula, recipe, schools or {}, picture, proposed_by=actor.user)
    return _write(actor, entry, formula, "proposed")


def _entry(
    actor: Actor,
    formula: custard.Formula,
    recipe: str,
    schools: Mapping[str, str],
    picture: UUID | None,
    proposed_by: User | None = None,
) -> Formula:
    """An entry of the book without a version yet.

    Raises
    ------
    CustardError
        when a question or a school is not one.
    Refusal
        when the picture is not of this person, or another formula keeps it.
    """
    if schools:
        custard.bench.answers(formula, schools)
    entry = Formula.objects.create(
        kitchen=actor.kitchen,
        name=formula.name,
        family=formula.family,
        latest=1,
        recipe=recipe,
        schools=dict(schools),
        proposed_by=proposed_by,
    )
    if picture is not None:
        pictures.keep(actor, picture, entry)
    return entry


@action("formula.take-in", Role.CHEF)
def take_in(actor: Actor, formula_id: int) -> Formula:
    """Take a proposal into the book: it is a formula like any other from now on."""
    reads.formula(actor, formula_id)
    entry = Formula.objects.select_for_update(no_key=True).get(pk=formula_id)
    entry.proposed_by = None
    entry.save(update_fields=["proposed_by"])
    return entry


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
    entry = Formula.objects.select_for_update(no_key=True).get(pk=formula_id)
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


@action("formula.duplicate", Role.CHEF)
def duplicate(actor: Actor, formula_id: int, name: str) -> FormulaVersion:
    """A copy of a formula's latest version under another name, at version 1."""
    source = reads.version(actor, formula_id)
    formula = replace(custard.read_formula(source.content), name=name)
    entry = Formula.objects.create(
        kitchen=actor.kitchen,
        name=formula.name,
        family=formula.family,
        latest=1,
        schools=source.formula.schools,
        recipe=source.formula.recipe,
    )
    return _write(actor, entry, formula, f"copied from {source}"[:500])


@action("formula.archive", Role.CHEF)
def archive(actor: Actor, formula_id: int) -> Formula:
    """Take a formula out of the book; its versions and batches stay."""
    return _archived(actor, formula_id, clock.now())


@action("formula.withdraw", Role.COOK)
def withdraw(actor: Actor, formula_id: int) -> Formula:
    """Take one's own proposal out of the book, as long as no chef has taken it in.

    Raises
    ------
    PermissionDenied
        when it is somebody else's, or no proposal.
    """
    entry = reads.formula(actor, formula_id)
    if entry.proposed_by_id != actor.user.pk:
        actor.must(Role.CHEF)
    return _archived(actor, formula_id, clock.now())


@action("formula.restore", Role.CHEF)
def restore(actor: Actor, formula_id: int) -> Formula:
    """Put an archived formula back into the book."""
    return _archived(actor, formula_id, None)


@action("formula.schools", Role.CHEF)
def choose_schools(actor: Actor, formula_id: int, schools: Mapping[str, str]) -> Formula:
    """How this kitchen makes a formula, where good cooks disagree.

    Raises
    ------
    CustardError
        when a question or a school is not one.
    """
    content = reads.version(actor, formula_id).content
    entry = Formula.objects.select_for_update(no_key=True).get(pk=formula_id)
    # Only what was chosen is kept: what we advise may change with the next version.
    custard.bench.answers(custard.read_formula(content), schools)
    entry.schools = {**entry.schools, **schools}
    entry.save(update_fields=["schools"])
    return entry


@action("formula.remind", Role.COOK)
def remind(actor: Actor, formula_id: int, say: str, batch: int | None = None) -> Reminder:
    """Write down what to do otherwise next time a formula is made; what stands already is not said twice."""
    entry = reads.formula(actor, formula_id)
    found, _ = Reminder.objects.get_or_create(
        formula=entry, say=say, done_at=None, defaults={"batch": batch, "by": actor.user}
    )
    return found


@action("formula.reminded", Role.COOK)
def reminded(actor: Actor, formula_id: int, reminder_id: int) -> Reminder:
    """Tick a reminder off."""
    found = reads.reminders_of(actor, formula_id).filter(pk=reminder_id).first()
    if found is None:
        raise Http404
    found.done_at = clock.now()
    found.save(update_fields=["done_at"])
    return found


def _archived(actor: Actor, formula_id: int, at: datetime | None) -> Formula:
    reads.formula(actor, formula_id)
    entry = Formula.objects.select_for_update(no_key=True).get(pk=formula_id)
    entry.archived_at = at
    entry.save(update_fields=["archived_at"])
    return entry


def _write(actor: Actor, entry: Formula, formula: custard.Formula, note: str) -> FormulaVersion:
    content = custard.write_formula(formula)
    tasks.fill_one.defer(kitchen_id=actor.kitchen.pk)
    return FormulaVersion.objects.create(
        formula=entry,
        number=entry.latest,
        content=content,
        content_sum=kept.content_sum(content),
        note=note,
        created_by=actor.user,
    )
