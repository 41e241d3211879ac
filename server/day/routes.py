"""Routes of the Day."""

from __future__ import annotations

from typing import Any

from common.refusals import Refusal
from devices.actions import new_token
from django.http import HttpRequest, HttpResponse
from kitchen.access import enter
from ninja import Body, Router, Status
from pydantic import JsonValue

from day import actions, after, beside, editing, helping, lists, reads
from day.requests import (
    CalendarDay,
    Copying,
    Doing,
    HandsIn,
    HelpWanted,
    HouseIn,
    Keeping,
    Moving,
    OtherChange,
    OtherIn,
    RoomChange,
    ToStove,
    WantChange,
    WantIn,
)
from day.schemas import BatchTaken, CalendarOut, DayAfterOut, DayOut, DaysOut, ListsOut, Upcoming
from day.upcoming import upcoming

router = Router()


@router.get("/k/{kitchen}/days", response=DaysOut)
def list_days(request: HttpRequest, kitchen: str, around: CalendarDay | None = None) -> DaysOut:
    """The days about one, and the templates."""
    return reads.days(enter(request, kitchen), around)


@router.get("/k/{kitchen}/upcoming", response=list[Upcoming])
def list_upcoming(request: HttpRequest, kitchen: str) -> list[Upcoming]:
    """What is likely made next, from the day's plan and from habit."""
    return upcoming(enter(request, kitchen))


@router.get("/k/{kitchen}/days/{when}", response=DayOut)
def read_day(request: HttpRequest, kitchen: str, when: CalendarDay) -> DayOut:
    """A day with its plan, and how it goes on from now."""
    return reads.opened(enter(request, kitchen), when)


@router.post("/k/{kitchen}/days/{when}/plan", response=DayOut)
def plan_day(request: HttpRequest, kitchen: str, when: CalendarDay) -> DayOut:
    """Plan it again from now; what has begun stays. The answer holds a plan at once, better ones come."""
    actor = enter(request, kitchen)
    actions.replan(actor, when)
    return reads.opened(actor, when)


@router.patch("/k/{kitchen}/days/{when}/room", response=DayOut)
def change_room(request: HttpRequest, kitchen: str, when: CalendarDay, body: RoomChange) -> DayOut:
    """Say what there is to work with."""
    actor = enter(request, kitchen)
    editing.change_room(actor, when, body)
    return _planned(request, kitchen, when)


@router.post("/k/{kitchen}/days/{when}/hands", response=DayOut)
def add_hands(request: HttpRequest, kitchen: str, when: CalendarDay, body: HandsIn) -> DayOut:
    """One more pair of hands."""
    editing.add_hands(enter(request, kitchen), when, body)
    return _planned(request, kitchen, when)


@router.put("/k/{kitchen}/days/{when}/hands/{hands_id}", response=DayOut)
def change_hands(
    request: HttpRequest, kitchen: str, when: CalendarDay, hands_id: int, body: HandsIn
) -> DayOut:
    """Who they are, and when they are there."""
    editing.change_hands(enter(request, kitchen), when, hands_id, body)
    return _planned(request, kitchen, when)


@router.delete("/k/{kitchen}/days/{when}/hands/{hands_id}", response=DayOut)
def remove_hands(request: HttpRequest, kitchen: str, when: CalendarDay, hands_id: int) -> DayOut:
    """They are not there."""
    editing.remove_hands(enter(request, kitchen), when, hands_id)
    return _planned(request, kitchen, when)


@router.post("/k/{kitchen}/days/{when}/wants", response=DayOut)
def add_want(request: HttpRequest, kitchen: str, when: CalendarDay, body: WantIn) -> DayOut:
    """A dish with covers and a time, or a formula as it is with a time."""
    editing.add_want(enter(request, kitchen), when, body)
    return _planned(request, kitchen, when)


@router.patch("/k/{kitchen}/days/{when}/wants/{want_id}", response=DayOut)
def change_want(
    request: HttpRequest, kitchen: str, when: CalendarDay, want_id: int, body: WantChange
) -> DayOut:
    """Another time, other covers."""
    editing.change_want(enter(request, kitchen), when, want_id, body)
    return _planned(request, kitchen, when)


@router.delete("/k/{kitchen}/days/{when}/wants/{want_id}", response=DayOut)
def remove_want(request: HttpRequest, kitchen: str, when: CalendarDay, want_id: int) -> DayOut:
    """It is not wanted any more."""
    editing.remove_want(enter(request, kitchen), when, want_id)
    return _planned(request, kitchen, when)


@router.post("/k/{kitchen}/days/{when}/others", response=DayOut)
def add_other(request: HttpRequest, kitchen: str, when: CalendarDay, body: OtherIn) -> DayOut:
    """Other work: caramel, glaze, a call."""
    editing.add_other(enter(request, kitchen), when, body)
    return _planned(request, kitchen, when)


@router.patch("/k/{kitchen}/days/{when}/others/{other_id}", response=DayOut)
def change_other(
    request: HttpRequest, kitchen: str, when: CalendarDay, other_id: int, body: OtherChange
) -> DayOut:
    """Longer, later, with something else."""
    editing.change_other(enter(request, kitchen), when, other_id, body)
    return _planned(request, kitchen, when)


@router.delete("/k/{kitchen}/days/{when}/others/{other_id}", response=DayOut)
def remove_other(request: HttpRequest, kitchen: str, when: CalendarDay, other_id: int) -> DayOut:
    """It is not to be done any more."""
    editing.remove_other(enter(request, kitchen), when, other_id)
    return _planned(request, kitchen, when)


@router.post("/k/{kitchen}/days/{when}/move", response=DayOut)
def move_step(request: HttpRequest, kitchen: str, when: CalendarDay, body: Moving) -> DayOut:
    """Put a step somewhere; the rest follows, or the answer says why not."""
    actor = enter(request, kitchen)
    actions.move(actor, when, body)
    return reads.opened(actor, when)


@router.post("/k/{kitchen}/days/{when}/steps", response=DayOut)
def do_step(request: HttpRequest, kitchen: str, when: CalendarDay, body: Doing) -> DayOut:
    """A step began, or ended, or neither."""
    actor = enter(request, kitchen)
    actions.step(actor, when, body)
    return reads.opened(actor, when)


@router.post("/k/{kitchen}/days/{when}/stove", response=BatchTaken)
def take_to_stove(request: HttpRequest, kitchen: str, when: CalendarDay, body: ToStove) -> BatchTaken:
    """Take a job's batch to the stove, as large as it is planned."""
    return BatchTaken(batch_id=actions.to_stove(enter(request, kitchen), when, body.job))


@router.post("/k/{kitchen}/days/{when}/help", response=DayOut)
def take_help(request: HttpRequest, kitchen: str, when: CalendarDay, body: HelpWanted) -> DayOut:
    """Make one of the changes with which nothing is late."""
    actor = enter(request, kitchen)
    helping.take_help(actor, when, body)
    return reads.opened(actor, when)


@router.get("/k/{kitchen}/days/{when}/lists", response=ListsOut)
def read_lists(request: HttpRequest, kitchen: str, when: CalendarDay) -> ListsOut:
    """What to pull and buy, eggs, ice, bowls, labels, allergens."""
    return lists.lists(enter(request, kitchen), when)


@router.put("/k/{kitchen}/house", response={204: None})
def say_in_house(request: HttpRequest, kitchen: str, body: HouseIn) -> Status[None]:
    """How much of an ingredient is in the house."""
    beside.in_house(enter(request, kitchen), body.ingredient, body.amount)
    return Status(204, None)


@router.get("/k/{kitchen}/days/{when}/after", response=DayAfterOut)
def read_after(request: HttpRequest, kitchen: str, when: CalendarDay) -> DayAfterOut:
    """What a day really took beside what was planned, and what that teaches."""
    return after.after(enter(request, kitchen), when)


@router.post("/k/{kitchen}/days/{when}/copy", response=DayOut)
def copy_day(request: HttpRequest, kitchen: str, when: CalendarDay, body: Copying) -> DayOut:
    """What another day or a template had, here as well."""
    actor = enter(request, kitchen)
    if body.template_id is not None:
        source = reads.template(actor, body.template_id)
    else:
        found = None if body.date is None else reads.day_of(actor, body.date)
        if found is None:
            sentence = "is no day that anything was written down for"
            raise Refusal(422, f"That {sentence}.", [("date", sentence)])
        source = found
    editing.copy(actor, when, source)
    return _planned(request, kitchen, when)


@router.post("/k/{kitchen}/days/{when}/template", response=DaysOut)
def keep_template(request: HttpRequest, kitchen: str, when: CalendarDay, body: Keeping) -> DaysOut:
    """Keep a day under a name, to begin others with."""
    actor = enter(request, kitchen)
    editing.keep_template(actor, when, body.name)
    return reads.days(actor, when)


@router.delete("/k/{kitchen}/templates/{template_id}", response=DaysOut)
def remove_template(request: HttpRequest, kitchen: str, template_id: int) -> DaysOut:
    """Take a template away."""
    actor = enter(request, kitchen)
    editing.remove_template(actor, template_id)
    return reads.days(actor)


@router.post("/k/{kitchen}/templates/{template_id}/back", response=DaysOut)
def template_back(request: HttpRequest, kitchen: str, template_id: int) -> DaysOut:
    """A template that was thrown away is there again."""
    actor = enter(request, kitchen)
    editing.template_back(actor, template_id)
    return reads.days(actor)


@router.get("/k/{kitchen}/days/{when}/day.json", response=dict[str, object])
def export_day(request: HttpRequest, kitchen: str, when: CalendarDay) -> dict[str, Any]:
    """A day in the open format, with its plan."""
    return lists.file_of(enter(request, kitchen), when)


@router.post("/k/{kitchen}/days/{when}/day.json", response=DayOut)
def import_day(
    request: HttpRequest, kitchen: str, when: CalendarDay, body: Body[dict[str, JsonValue]]
) -> DayOut:
    """A day out of the open format, in addition to what is there."""
    actor = enter(request, kitchen)
    file, formulas = lists.read_file(actor, body)
    editing.bring(actor, when, file, formulas)
    return _planned(request, kitchen, when)


@router.get("/k/{kitchen}/days/{when}/day.ics", response={200: None})
def export_calendar(request: HttpRequest, kitchen: str, when: CalendarDay) -> HttpResponse:
    """A day as iCalendar."""
    return _ical(lists.calendar(enter(request, kitchen), when), f"{kitchen}-{when}.ics")


@router.get("/k/{kitchen}/calendar", response=CalendarOut)
def read_calendar(request: HttpRequest, kitchen: str) -> CalendarOut:
    """Whether there is an address to subscribe to."""
    found = reads.subscription(enter(request, kitchen))
    return CalendarOut(there=found is not None, made_at=found.made_at if found else None, address=None)


@router.post("/k/{kitchen}/calendar", response=CalendarOut)
def make_calendar(request: HttpRequest, kitchen: str) -> CalendarOut:
    """Make an address to subscribe to; it is shown only once, and the previous address no longer works."""
    secret = new_token()
    made = beside.make_calendar(enter(request, kitchen, by_password=True), secret)
    address = request.build_absolute_uri(f"/api/calendar/{secret}.ics")
    return CalendarOut(there=True, made_at=made.made_at, address=address)


@router.delete("/k/{kitchen}/calendar", response=CalendarOut)
def remove_calendar(request: HttpRequest, kitchen: str) -> CalendarOut:
    """From now on nothing is to be had at that address."""
    beside.remove_calendar(enter(request, kitchen))
    return CalendarOut(there=False, made_at=None, address=None)


@router.get("/calendar/{secret}.ics", response={200: None}, auth=None)
def subscribed(request: HttpRequest, secret: str) -> HttpResponse:
    """A kitchen's days as iCalendar, for whoever knows the address."""
    return _ical(lists.calendar_at(secret), "pastry.ics")


def _ical(content: bytes, name: str) -> HttpResponse:
    answer = HttpResponse(content, content_type="text/calendar; charset=utf-8")
    answer["Content-Disposition"] = f'inline; filename="{name}"'
    answer["Cache-Control"] = "private, no-store"
    return answer


def _planned(request: HttpRequest, kitchen: str, when: CalendarDay) -> DayOut:
    actor = enter(request, kitchen)
    actions.planned(actor, when)
    return reads.opened(actor, when)
