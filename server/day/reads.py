"""Questions about days."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, timedelta
from typing import Any

from custard import planning
from django.db.models import Count
from django.http import Http404
from kitchen import reads as kitchen
from kitchen.access import Actor
from shelf import facts
from shelf import reads as shelf

from day import clocks
from day.board import Board
from day.models import Calendar, Day, Plan, Want
from day.schemas import (
    DayLine,
    DayOut,
    DaysOut,
    HandsOut,
    OtherOut,
    Promised,
    RoomOut,
    TemplateLine,
    WantOut,
)

AROUND = timedelta(days=21)
USUAL_THERE = [[8 * 60, 16 * 60]]


def day_of(actor: Actor, when: date) -> Day | None:
    """A day of this kitchen, if anything was written down for it."""
    return Day.objects.select_related("kitchen").filter(kitchen=actor.kitchen, date=when).first()


def template(actor: Actor, template_id: int) -> Day:
    """A template of this kitchen.

    Raises
    ------
    Http404
        when it has no such template.
    """
    found = Day.templates.filter(kitchen=actor.kitchen, pk=template_id).first()
    if found is None:
        raise Http404
    return found


def _last(actor: Actor) -> Day | None:
    return Day.objects.filter(kitchen=actor.kitchen, date__isnull=False).first()


def usual_room(actor: Actor) -> dict[str, Any]:
    """What there is to work with where nobody said: as on the last day, else what the kitchen has."""
    last = _last(actor)
    if last is not None:
        return dict(last.room)
    hearth = kitchen.hearth(actor)
    rings = sum(not hob.over_steam for hob in hearth.hobs)
    steam = sum(hob.over_steam for hob in hearth.hobs)
    room = RoomOut(rings=min(12, rings) or 2, steam=min(12, steam) or 1, ice_g=None, ice_g_h=0.0)
    return room.model_dump()


def usual_hands(actor: Actor) -> list[dict[str, Any]]:
    """Who is there where nobody said: as on the last day, else one pair of hands."""
    last = _last(actor)
    if last is not None and last.hands.exists():
        return [{"name": one.name, "there": one.there} for one in last.hands.all()]
    return [{"name": "First pair of hands", "there": USUAL_THERE}]


def days(actor: Actor, around: date | None = None) -> DaysOut:
    """The days about one, and the templates."""
    today = clocks.today_of(actor.kitchen)
    middle = around or today
    rows = Day.objects.filter(kitchen=actor.kitchen).annotate(many=Count("wants"))
    rows = rows.filter(date__gte=middle - AROUND, date__lte=middle + AROUND).select_related("plan")
    return DaysOut(
        today=today,
        days=[
            DayLine(
                date=row.date, wants=row.many, late_min=row.plan.late_min if hasattr(row, "plan") else None
            )
            for row in rows.order_by("date")
            if row.date is not None
        ],
        templates=[
            TemplateLine(id=row.pk, name=row.name, wants=row.many)
            for row in Day.templates.filter(kitchen=actor.kitchen)
            .annotate(many=Count("wants"))
            .order_by("name")
        ],
    )


def opened(actor: Actor, when: date) -> DayOut:
    """A day as the board shows it."""
    day = day_of(actor, when)
    promised = _promised(actor, when)
    now = clocks.shown_now(actor.kitchen, when, day)
    if day is None:
        return DayOut(
            there=False, over=when < clocks.today_of(actor.kitchen), date=when, now=now, revision=0,
            room=RoomOut(**usual_room(actor)),
            hands=[HandsOut(id=0, revision=0, **one) for one in usual_hands(actor)],
            wants=[], others=[], jobs=[], steps=[], dangers=[], promised=promised, next_things=[], plan=None,
        )  # fmt: skip
    kept = Plan.objects.filter(day=day).first()
    board = Board(day, kept)
    return DayOut(
        there=True,
        over=clocks.is_over(day),
        date=when,
        now=now,
        revision=day.revision,
        room=RoomOut(**day.room),
        hands=board.hands(),
        wants=_wants(board.wants, kept),
        others=[
            OtherOut(
                id=one.pk, name=one.name, minutes=one.minutes, hands=one.hands, needs=one.needs,
                by=one.by, revision=one.revision,
            )
            for one in day.others.all()
        ],
        jobs=board.jobs(),
        steps=board.steps(),
        dangers=board.dangers(),
        promised=promised,
        next_things=board.next_things(),
        plan=board.plan(),
    )  # fmt: skip


def subscription(actor: Actor) -> Calendar | None:
    """The address at which this kitchen's days can be subscribed to, if there is one."""
    return Calendar.objects.filter(kitchen=actor.kitchen).first()


def _promised(actor: Actor, when: date) -> list[Promised]:
    zone = kitchen.zone_of(actor.kitchen)
    start, end = clocks.moment(0, when, zone), clocks.moment(planning.DAY_MIN, when, zone)
    return [
        Promised(
            dish=one.dish,
            grams=shelf.grams(one.grams),
            at=clocks.minute(one.due_at, when, zone),
            tub_id=one.tub_id,
            tub=one.tub.name,
            formula_id=one.tub.batch.version.formula_id,
            past=not facts.judged(one.tub, one.due_at).safe,
        )
        for one in shelf.promises_due(actor, start, end)
        if one.due_at is not None
    ]


def _wants(rows: Iterable[Want], kept: Plan | None) -> list[WantOut]:
    document = {} if kept is None else kept.document
    jobs = {want: job["key"] for job in document.get("jobs", ()) for want in job["wants"]}
    drawn: dict[int, list[dict[str, Any]]] = {}
    for one in document.get("drawn", ()):
        drawn.setdefault(one["want_id"], []).append(one)
    return [
        WantOut(
            id=one.pk,
            name=one.name,
            formula_id=one.formula_id,
            formula=one.formula.name,
            at=one.at,
            covers=one.covers,
            each=one.each,
            batch_id=one.batch_id if one.stands else None,
            batch=one.batch.number if one.batch is not None and one.stands else None,
            revision=one.revision,
            job=jobs.get(one.pk),
            drawn_g=sum(part["grams"] for part in drawn.get(one.pk, ())),
            tubs=[part["tub_id"] for part in drawn.get(one.pk, ())],
        )
        for one in rows
    ]
