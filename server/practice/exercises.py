"""Exercises that a chef makes of the Book and sets for somebody."""

from __future__ import annotations

from common import clock
from common.refusals import Conflict
from custard import practice
from django.http import Http404
from kitchen import reads as kitchen
from kitchen.access import Actor, Role, action

from practice import who
from practice.models import MadeExercise, SetExercise
from practice.schemas import NewExercise, NewSet
from practice.specs import Spec, exercise_of, spec_of


def made(actor: Actor, exercise_id: int) -> MadeExercise:
    """An exercise of this kitchen's.

    Raises
    ------
    Http404
        when it has none such.
    """
    found = MadeExercise.objects.filter(kitchen=actor.kitchen, pk=exercise_id, taken_out_at=None).first()
    if found is None:
        raise Http404
    return found


def make(actor: Actor, wanted: NewExercise) -> MadeExercise:
    """Make an exercise of a formula of the Book."""
    actor.must(Role.CHEF)
    spec = spec_of(actor, wanted.formula_id, wanted, wanted.name, wanted.tell)
    # What cannot be practised is refused before anything is written.
    practice.begin(exercise_of(spec), 0, kitchen.conditions_of(actor.kitchen))
    return _make(actor, wanted.formula_id, spec)


@action("practice.make", Role.CHEF)
def _make(actor: Actor, formula_id: int, spec: Spec) -> MadeExercise:
    return MadeExercise.objects.create(
        kitchen=actor.kitchen,
        formula_id=formula_id,
        name=spec["name"],
        tell=spec["tell"],
        spec=spec,
        made_by=actor.user,
    )


@action("practice.take-out", Role.CHEF)
def take_out(actor: Actor, exercise_id: int) -> MadeExercise:
    """Take an exercise out, and from whoever it is set for; attempts at it stay."""
    found = made(actor, exercise_id)
    found.taken_out_at = clock.now()
    found.save(update_fields=["taken_out_at"])
    SetExercise.objects.filter(made=found, taken_back_at=None).update(taken_back_at=found.taken_out_at)
    return found


@action("practice.put-back", Role.CHEF)
def put_back(actor: Actor, exercise_id: int) -> MadeExercise:
    """An exercise is there again, and set for whom it was set when it was taken out."""
    found = (
        MadeExercise.objects.filter(kitchen=actor.kitchen, pk=exercise_id).exclude(taken_out_at=None).first()
    )
    if found is None:
        raise Http404
    SetExercise.objects.filter(made=found, taken_back_at=found.taken_out_at).update(taken_back_at=None)
    found.taken_out_at = None
    found.save(update_fields=["taken_out_at"])
    return found


@action("practice.set", Role.CHEF)
def set_for(actor: Actor, wanted: NewSet) -> SetExercise:
    """Set an exercise for somebody of this kitchen; what is set for them already is set again."""
    ours = None if wanted.exercise_id is None else made(actor, wanted.exercise_id)
    key = practice.exercise(wanted.key).key if ours is None else ""
    person = who.person(actor, wanted.person_id)
    what = {"kitchen": actor.kitchen, "person": person, "key": key, "made": ours}
    row = SetExercise.objects.filter(**what, taken_back_at=None).first() or SetExercise(**what)
    row.set_by, row.note, row.set_at = actor.user, wanted.note, clock.now()
    row.save()
    return row


@action("practice.take-back", Role.CHEF)
def take_back(actor: Actor, set_id: int) -> SetExercise:
    """Somebody need not do it any more."""
    found = SetExercise.objects.filter(kitchen=actor.kitchen, pk=set_id, taken_back_at=None).first()
    if found is None:
        raise Http404
    found.taken_back_at = clock.now()
    found.save(update_fields=["taken_back_at"])
    return found


@action("practice.set", Role.CHEF)
def set_again(actor: Actor, set_id: int) -> SetExercise:
    """What was taken back is set as it was.

    Raises
    ------
    Conflict
        when the same was set for them meanwhile.
    """
    found = SetExercise.objects.filter(kitchen=actor.kitchen, pk=set_id).exclude(taken_back_at=None).first()
    if found is None or (found.made is not None and found.made.taken_out_at is not None):
        raise Http404
    same = {"kitchen": actor.kitchen, "person": found.person, "key": found.key, "made": found.made}
    if SetExercise.objects.filter(**same, taken_back_at=None).exists():
        raise Conflict("That is set for them again by now.")
    found.taken_back_at = None
    found.save(update_fields=["taken_back_at"])
    return found
