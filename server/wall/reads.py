"""What a kitchen's wall screen shows: a few columns of what workers keep, so that it can ask often."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from common import clock
from day import clocks
from day import reads as day
from day.board import Board
from devices import actions as devices
from devices.models import Device
from django.core.exceptions import PermissionDenied
from django.db.models import F
from kitchen import reads as kitchen
from kitchen.access import Actor, as_member
from shelf import reads as shelf
from stove import reads as stove
from stove.models import LiveState

from wall.schemas import WallAlarm, WallBatch, WallDay, WallStep, WallStove, WallTub

STEPS, TUBS = 4, 4
"""So many lines are read from four metres away."""


def actor_of(screen: Device) -> Actor:
    """A screen sees what the chef who put it up sees.

    Raises
    ------
    PermissionDenied
        when they have left, or the kitchen was thrown away.
    """
    found = None if screen.token_by is None else as_member(screen.token_by, screen.kitchen)
    if found is None:
        raise PermissionDenied("Whoever put this screen up has left; a chef gives it a new code.")
    devices.keep_used(screen)
    return found


def on_the_stove(actor: Actor) -> WallStove:
    """Every open batch, the most urgent first; nothing is computed here."""
    now, live = clock.now(), _live(actor)
    return WallStove(
        at=now,
        kitchen=actor.kitchen.name,
        zone=actor.kitchen.zone,
        batches=[
            WallBatch(
                **line.dict(),
                where=more["batch__hob__name"] or "",
                then=more["then"] or "",
                age_s=max(0.0, (now - (more["at"] or now)).total_seconds()),
                celsius=more["cooled_c"] if more["probe_c"] is None else more["probe_c"],
                cools=more["cooled_c"] is not None,
                alarms=[
                    WallAlarm(kind=one["kind"], say=one["say"])
                    for one in more["alarms"] or ()
                    if not one["silenced"]
                ],
            )
            for line in stove.on_the_stove(actor)
            for more in (live.get(line.id, NOTHING_YET),)
        ],
    )


NOTHING_YET: dict[str, Any] = dict.fromkeys(
    ("batch__hob__name", "at", "then", "probe_c", "cooled_c", "alarms")
)


def _live(actor: Actor) -> dict[int, dict[str, Any]]:
    """What the workers keep of open batches, without the curves."""
    rows = LiveState.objects.filter(kitchen=actor.kitchen, batch__closed_at=None).values(
        "batch_id",
        "at",
        "batch__hob__name",
        then=F("document__then"),
        probe_c=F("document__probe_c"),
        cooled_c=F("document__cooling__core_c"),
        alarms=F("document__alarms"),
    )
    return {one["batch_id"]: dict(one) for one in rows}


def today(actor: Actor) -> WallDay:
    """The next steps of today's plan and whose they are; the tubs that must go before the day ends."""
    now = clock.now()
    tonight = shelf.end_of_day(actor, now)
    due = shelf.tubs(actor).filter(left_g__gt=0, use_by__lt=tonight).order_by("use_by", "id")
    unlabelled = shelf.tubs(actor).filter(left_g__gt=0, labelled=False)
    return WallDay(
        at=now,
        next=_next(actor),
        tubs=[
            WallTub(
                id=one.pk,
                what=one.name,
                batch=one.batch.number,
                grams=shelf.grams(one.left_g),
                use_by=one.use_by,
                past=one.use_by < now,
            )
            for one in due[:TUBS]
        ],
        more_tubs=max(0, due.count() - TUBS),
        unlabelled=unlabelled.count(),
    )


def _next(actor: Actor) -> list[WallStep]:
    """The next steps of today's plan; once that is done, the first of tomorrow's."""
    when = clocks.today_of(actor.kitchen)
    return _next_on(actor, when) or _next_on(actor, when + timedelta(days=1))


def _next_on(actor: Actor, when: date) -> list[WallStep]:
    found = day.day_of(actor, when)
    if found is None or clocks.is_over(found) or not hasattr(found, "plan"):
        return []
    board = Board(found, found.plan)
    jobs = {one.key: one.short for one in board.jobs()}
    whose = {one.id: one.name for one in board.hands()}
    zone = kitchen.zone_of(actor.kitchen)
    coming = sorted(
        (one for one in board.steps() if one.state == "to come" and one.hands_id is not None),
        key=lambda one: one.begins,
    )
    return [
        WallStep(
            at=clocks.moment(one.begins, when, zone),
            what=one.say,
            of=jobs.get(one.job, ""),
            whose=whose.get(one.hands_id or 0, ""),
            late=one.late,
        )
        for one in coming[:STEPS]
    ]
