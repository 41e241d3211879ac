"""What is wanted on a day, written down: rows that several people edit at once without losing a change."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any, TypeVar

import custard
from book import reads as book
from common import clock
from common.refusals import Conflict, Refusal
from custard import planning
from django.db import IntegrityError, transaction
from django.db.models import F
from django.http import Http404
from kitchen.access import Actor, Role, action
from kitchen.soft_delete import UNDONE_WITHIN
from ninja import Schema

from day.models import Day, Edited, Hands, Other, Want
from day.reads import day_of, usual_hands, usual_room
from day.requests import HandsIn, OtherChange, OtherIn, RoomChange, WantChange, WantIn

MOST_WANTS, MOST_OTHERS = 40, 20
Row = TypeVar("Row", bound=Edited)


def here(actor: Actor, when: date) -> Day:
    """A day that is written on, locked; made with the usual hands and room where it was not there yet."""
    rows = Day.objects.select_for_update(of=("self",), no_key=True).filter(kitchen=actor.kitchen)
    found = rows.filter(date=when).first()
    if found is None:
        try:
            with transaction.atomic():
                found = Day.objects.create(kitchen=actor.kitchen, date=when, room=usual_room(actor))
                for one in usual_hands(actor):
                    Hands.objects.create(day=found, **one)
        except IntegrityError:
            # Somebody made it at the same moment: theirs it is.
            found = rows.get(date=when)
    return found


def changed(day: Day) -> Day:
    """What a plan is made of has changed."""
    Day.objects.filter(pk=day.pk).update(revision=F("revision") + 1)
    day.refresh_from_db(fields=["revision"])
    return day


@action("day.room", Role.COOK)
def change_room(actor: Actor, when: date, change: RoomChange) -> Day:
    """What there is to work with; what is not said stays."""
    day = here(actor, when)
    day.room = {**day.room, **_said(change, "ice_g", "bowls")}
    day.save(update_fields=["room"])
    return changed(day)


def _said(change: Schema, *can_be_none: str) -> dict[str, Any]:
    """What was said of a change; nothing said of a field that cannot be nothing leaves it as it is."""
    said = change.dict(exclude_unset=True, exclude={"seen"})
    return {name: value for name, value in said.items() if value is not None or name in can_be_none}


def _checked_hands(new: HandsIn) -> dict[str, Any]:
    planning.Hands(new.name, tuple((span[0], span[1]) for span in new.there))
    return {"name": new.name, "there": [list(span) for span in new.there]}


@action("day.hands", Role.COOK)
def add_hands(actor: Actor, when: date, new: HandsIn) -> Hands:
    """One more pair of hands."""
    values, day = _checked_hands(new), here(actor, when)
    if day.hands.count() >= planning.MOST_HANDS:
        raise Conflict(f"A day is planned for at most {planning.MOST_HANDS} pairs of hands.")
    made = Hands.objects.create(day=day, **values)
    changed(day)
    return made


@action("day.hands", Role.COOK)
def change_hands(actor: Actor, when: date, hands_id: int, new: HandsIn) -> Hands:
    """Who they are, and when they are there."""
    values, day = _checked_hands(new), here(actor, when)
    row = _row(Hands, day, hands_id)
    _must_be_seen(row, new.seen, values)
    _write(row, values)
    changed(day)
    return row


@action("day.hands", Role.COOK)
def remove_hands(actor: Actor, when: date, hands_id: int) -> Hands:
    """They are not there; what they have begun stays done."""
    day = here(actor, when)
    row = _row(Hands, day, hands_id)
    row.delete()
    changed(day)
    return row


@action("day.want", Role.COOK)
def add_want(actor: Actor, when: date, new: WantIn) -> Want:
    """Something more that is wanted."""
    formula = book.formula(actor, new.formula_id)
    values = {"name": new.name or formula.name, "at": new.at, "covers": new.covers, "each": new.each}
    _checked_want(actor, formula.pk, values)
    day = here(actor, when)
    if day.wants.count() >= MOST_WANTS:
        raise Conflict(f"A day is planned for at most {MOST_WANTS} things that are wanted.")
    made = Want.objects.create(day=day, formula=formula, **values)
    changed(day)
    return made


@action("day.want", Role.COOK)
def change_want(actor: Actor, when: date, want_id: int, change: WantChange) -> Want:
    """Another time, other covers; what is not said stays as it is."""
    day = here(actor, when)
    row = _row(Want, day, want_id)
    values = _said(change)
    _must_be_seen(row, change.seen, values)
    whole = {name: values.get(name, getattr(row, name)) for name in ("name", "at", "covers", "each")}
    _checked_want(actor, row.formula_id, whole)
    _write(row, values)
    changed(day)
    return row


@action("day.want", Role.COOK)
def remove_want(actor: Actor, when: date, want_id: int) -> Want:
    """It is not wanted any more; a batch that was begun for it goes on."""
    day = here(actor, when)
    row = _row(Want, day, want_id)
    day.pins.filter(job=f"want-{row.pk}").delete()
    row.delete()
    changed(day)
    return row


@action("day.other", Role.COOK)
def add_other(actor: Actor, when: date, new: OtherIn) -> Other:
    """Other work."""
    _checked_other(new.dict())
    day = here(actor, when)
    if day.others.count() >= MOST_OTHERS:
        raise Conflict(f"A day is planned for at most {MOST_OTHERS} pieces of other work.")
    made = Other.objects.create(day=day, **new.dict())
    changed(day)
    return made


@action("day.other", Role.COOK)
def change_other(actor: Actor, when: date, other_id: int, change: OtherChange) -> Other:
    """Longer, later, with something else; what is not said stays as it is."""
    day = here(actor, when)
    row = _row(Other, day, other_id)
    values = _said(change, "by")
    _must_be_seen(row, change.seen, values)
    names = ("name", "minutes", "hands", "needs", "by")
    _checked_other({name: values.get(name, getattr(row, name)) for name in names})
    _write(row, values)
    changed(day)
    return row


@action("day.other", Role.COOK)
def remove_other(actor: Actor, when: date, other_id: int) -> Other:
    """It is not to be done any more."""
    day = here(actor, when)
    row = _row(Other, day, other_id)
    day.pins.filter(job=f"work-{row.pk}").delete()
    row.delete()
    changed(day)
    return row


def _checked_want(actor: Actor, formula_id: int, values: Mapping[str, Any]) -> None:
    """Refuse what the core would refuse, by its field."""
    formula = custard.read_formula(book.version(actor, formula_id).content)
    name, at = str(values["name"]), int(values["at"])
    planning.Wanted("new", name, "", formula, at, float(values["covers"]), str(values["each"]))


def _checked_other(values: Mapping[str, Any]) -> None:
    planning.OtherWork(values["name"], values["minutes"], values["hands"], values["needs"])


def _row(model: type[Row], day: Day, key: int) -> Row:
    found: Row | None = model._default_manager.filter(day=day, pk=key).first()
    if found is None:
        raise Http404
    return found


def _must_be_seen(row: Edited, seen: int | None, values: Mapping[str, Any]) -> None:
    """Refuse to write over what somebody else changed meanwhile; the same change twice is one.

    Raises
    ------
    Conflict
        with what stands now.
    """
    if seen is None or seen == row.revision:
        return
    other = [name for name, value in values.items() if getattr(row, name) != value]
    if other:
        raise Conflict(
            f"Somebody changed “{getattr(row, 'name', '')}” while you did. Theirs stands; look at it and "
            "change it again if it should be otherwise.",
            kind="changed-meanwhile",
        )


def _write(row: Edited, values: Mapping[str, Any]) -> None:
    for name, value in values.items():
        setattr(row, name, value)
    row.revision += 1
    row.save()


@action("day.copy", Role.COOK)
def copy(actor: Actor, when: date, source: Day) -> Day:
    """What another day, or a template, had: wanted, other work, hands and room; added to what is there."""
    day = here(actor, when)
    if source.pk == day.pk:
        raise Refusal(422, "A day is not copied onto itself.", [("date", "is this day")])
    if not day.wants.exists() and not day.others.exists():
        day.room = source.room
        day.save(update_fields=["room"])
        day.hands.all().delete()
        for hands in source.hands.all():
            Hands.objects.create(day=day, name=hands.name, there=hands.there)
    _copied(source, day)
    return changed(day)


def _copied(source: Day, day: Day) -> None:
    for want in source.wants.filter(formula__archived_at=None):
        values = {name: getattr(want, name) for name in ("name", "at", "covers", "each", "formula_id")}
        Want.objects.create(day=day, **values)
    for other in source.others.all():
        values = {name: getattr(other, name) for name in ("name", "minutes", "hands", "needs", "by")}
        Other.objects.create(day=day, **values)
    if day.wants.count() > MOST_WANTS or day.others.count() > MOST_OTHERS:
        raise Conflict(f"That would be more than {MOST_WANTS} things wanted, or {MOST_OTHERS} of other work.")


@action("day.template", Role.COOK)
def keep_template(actor: Actor, when: date, name: str) -> Day:
    """Keep a day under a name, to begin other days with; one of that name is written again."""
    source = day_of(actor, when)
    if source is None:
        raise Http404
    Day.templates.filter(kitchen=actor.kitchen, name=name).delete()
    try:
        with transaction.atomic():
            made = Day.objects.create(kitchen=actor.kitchen, date=None, name=name, room=source.room)
    except IntegrityError:
        raise Conflict("Somebody keeps a template of that name just now. Try again.") from None
    for hands in source.hands.all():
        Hands.objects.create(day=made, name=hands.name, there=hands.there)
    _copied(source, made)
    return made


@action("day.template", Role.COOK)
def remove_template(actor: Actor, template_id: int) -> Day:
    """Throw a template away; what was thrown away before is then gone for good."""
    found = Day.templates.filter(kitchen=actor.kitchen, pk=template_id).first()
    if found is None:
        raise Http404
    before = clock.now() - UNDONE_WITHIN
    Day.objects.filter(kitchen=actor.kitchen, date=None, thrown_away_at__lt=before).delete()
    found.thrown_away_at = clock.now()
    found.save(update_fields=["thrown_away_at"])
    return found


@action("day.template", Role.COOK)
def template_back(actor: Actor, template_id: int) -> Day:
    """A template that was thrown away is there again.

    Raises
    ------
    Conflict
        when another has its name by now.
    """
    found = Day.objects.filter(kitchen=actor.kitchen, date=None, pk=template_id).first()
    if found is None:
        raise Http404
    found.thrown_away_at = None
    try:
        with transaction.atomic():
            found.save(update_fields=["thrown_away_at"])
    except IntegrityError:
        raise Conflict(f"There is another template “{found.name}” by now.") from None
    return found


@action("day.import", Role.CHEF)
def bring(actor: Actor, when: date, file: planning.DayFile, formulas: Sequence[int]) -> Day:
    """A day out of a file, in addition to what is there; `formulas` says which of the book each want is."""
    day = here(actor, when)
    if file.room.hands and not day.wants.exists() and not day.others.exists():
        day.room = room_json(file.room)
        day.save(update_fields=["room"])
        day.hands.all().delete()
        for hands in file.room.hands:
            Hands.objects.create(day=day, name=hands.name[:80], there=[list(span) for span in hands.there])
    for want, formula_id in zip(file.wanted, formulas, strict=True):
        Want.objects.create(
            day=day, name=want.name[:80], formula_id=formula_id, at=want.at,
            covers=want.covers, each=want.each,
        )  # fmt: skip
    for other in file.other:
        work = other.work
        Other.objects.create(
            day=day, name=work.name, minutes=work.minutes, hands=work.hands, needs=work.needs, by=other.by
        )
    if day.wants.count() > MOST_WANTS or day.others.count() > MOST_OTHERS:
        raise Conflict(f"That would be more than {MOST_WANTS} things wanted, or {MOST_OTHERS} of other work.")
    return changed(day)


def room_json(room: planning.Room) -> dict[str, Any]:
    """A room as a day keeps it."""
    places = {
        "rings": planning.RING, "steam": planning.STEAM, "ice_bath": planning.BATH, "churns": planning.CHURN,
    }  # fmt: skip
    found: dict[str, Any] = {name: room.places.get(place, 0) for name, place in places.items()}
    found["ovens"] = room.places.get(planning.OVEN, 0) // planning.SHELVES
    return {**found, "ice_g": room.ice_g, "ice_g_h": room.ice_g_h, "bowls": room.bowls}
