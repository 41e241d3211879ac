"""The lists of a day, its calendar and its file."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, datetime, timedelta
from typing import Any

import custard
from book import kept
from book import reads as book
from common import clock
from common.fair_limiter import in_turn
from common.refusals import Refusal
from custard import planning
from django.http import Http404
from icalendar import Calendar as Ical
from icalendar import Event
from kitchen import reads as kitchen
from kitchen.access import Actor, Role
from kitchen.models import Kitchen

from day import beside, clocks, documents, problem
from day.models import Calendar, Day, InHouse, Plan
from day.reads import day_of
from day.schemas import HouseOut, ListsOut

BACK, AHEAD = timedelta(days=14), timedelta(days=60)


@in_turn
def lists(actor: Actor, when: date) -> ListsOut:
    """What to pull and buy, eggs, ice, bowls, labels and allergens of a day."""
    day = day_of(actor, when)
    if day is None:
        raise Http404
    found = problem.build(actor, day)
    standing = Plan.objects.filter(day=day).first()
    plan = None
    if standing is not None and standing.document:
        plan = documents.plan_of(standing.document["steps"], found.people, found.day.jobs)
    house = list(InHouse.objects.filter(kitchen=actor.kitchen).order_by("ingredient"))
    made = planning.lists(
        found.day,
        plan or planning.Plan(()),
        found.results,
        {one.ingredient: one.grams for one in house},
        _prices(actor.kitchen),
        custard.larder.egg_size(actor.kitchen.eggs),
    )
    there = made.ice_house_g
    return ListsOut(
        date=day.date,
        lists=made,
        house=[HouseOut(ingredient=one.ingredient, amount=one.amount, grams=one.grams) for one in house],
        currency=actor.kitchen.currency,
        ice_to_make_g=0.0 if there is None else max(0.0, made.ice_g - there),
        bowl_say=_bowl(made.bowls, made.bowl_by),
    )


def _bowl(bowls: int, by: int | None) -> str:
    if by is None:
        return ""
    one = "The churn bowl goes" if bowls == 1 else f"{bowls} churn bowls go"
    tonight = ": the evening before, when you leave" if by < planning.DAY_MIN // 4 else ""
    return f"{one} into the freezer by {planning.said(by)}{tonight}."


def _prices(where: Kitchen) -> dict[str, planning.Price]:
    return {
        name: planning.Price(
            float(one["price"]), 1000 * float(one["price"]) / float(one["per_kg"]), one["per"]
        )
        for name, one in where.prices.items()
        if float(one["per_kg"]) > 0
    }


def calendar_at(secret: str) -> bytes:
    """The days of the kitchen that a secret belongs to, as iCalendar.

    Raises
    ------
    Http404
        when no kitchen has it, or it holds no more.
    """
    found = Calendar.objects.select_related("kitchen").filter(secret_sum=beside.summed(secret)).first()
    if found is None:
        raise Http404
    today = clocks.today_of(found.kitchen)
    rows = Day.objects.filter(kitchen=found.kitchen, date__gte=today - BACK, date__lte=today + AHEAD)
    return written(found.kitchen, rows.select_related("plan").prefetch_related("hands", "wants__formula"))


def calendar(actor: Actor, when: date) -> bytes:
    """One day as iCalendar."""
    day = day_of(actor, when)
    if day is None:
        raise Http404
    return written(actor.kitchen, [day])


def written(where: Kitchen, days: Iterable[Day]) -> bytes:
    """Days as iCalendar: every step that wants hands, and every time at which something is wanted."""
    made = Ical()
    made.add("prodid", "-//Old Spoon//Day//EN")
    made.add("version", "2.0")
    made.add("x-wr-calname", f"{where.name}: pastry")
    zone = kitchen.zone_of(where)
    for day in days:
        if day.date is None:
            continue

        def at(minute: int, on: date = day.date) -> datetime:
            return clocks.moment(minute, on, zone)

        people = {one.pk: one.name for one in day.hands.all()}
        document = day.plan.document if hasattr(day, "plan") else {}
        jobs = {job["key"]: job for job in document.get("jobs", ())}
        for one in document.get("steps", ()):
            job = jobs[one["job"]]
            step = job["steps"][one["place"]]
            if step["hands"]:
                name = f"{step['say']}: {job['name']}"
                key = f"{one['job']}-{step['step']}"
                made.add_component(
                    _event(day, key, name, at(one["start"]), at(one["end"]), people.get(one["hands"], ""))
                )
        for want in day.wants.all():
            name = (
                f"{want.name} wanted"
                if want.name == want.formula.name
                else f"{want.name}: {want.formula.name}"
            )
            made.add_component(_event(day, f"wanted-{want.pk}", name, at(want.at), at(want.at), ""))
    return bytes(made.to_ical())


def _event(day: Day, key: str, name: str, start: datetime, end: datetime, who: str) -> Event:
    event = Event()
    event.add("uid", f"{day.pk}-{key}@old-spoon")
    event.add("dtstamp", clock.now())
    event.add("summary", f"{who}: {name}" if who else name)
    event.add("dtstart", start)
    event.add("dtend", end)
    return event


def file_of(actor: Actor, when: date) -> dict[str, Any]:
    """A day in the open format."""
    day = day_of(actor, when)
    if day is None:
        raise Http404
    room, _ = problem.room_of(day)
    names = {one.pk: one.name for one in day.hands.all()}
    standing = Plan.objects.filter(day=day).first()
    document = {} if standing is None else standing.document
    jobs = {job["key"]: job for job in document.get("jobs", ())}
    steps = tuple(
        planning.PlannedStep(
            jobs[one["job"]]["name"],
            jobs[one["job"]]["steps"][one["place"]]["step"],
            one["start"],
            one["end"],
            names.get(one["hands"], ""),
        )
        for one in document.get("steps", ())
    )
    wants = list(day.wants.all())
    versions = book.latest_by_formula(actor, (one.formula_id for one in wants))
    wanted = tuple(problem.wanted_of(one, versions[one.formula_id]) for one in wants)
    others = tuple(problem.other_of(one) for one in day.others.all())
    when_text = "" if day.date is None else day.date.isoformat()
    return planning.write_day(planning.DayFile(when_text, day.name, room, wanted, others, steps))


def read_file(actor: Actor, data: object) -> tuple[planning.DayFile, list[int]]:
    """A day out of a file, and which formula of the book each thing wanted is: one made just so, now or
    before; of several that one of its name.

    Raises
    ------
    CustardError, Refusal
        naming what cannot be used, and the formulas that the book has not.
    """
    actor.must(Role.CHEF)
    file = planning.read_day(data)
    contents = [custard.write_formula(want.formula) for want in file.wanted]
    alike = book.made_alike(actor, contents)
    found: list[int] = []
    bad: list[tuple[str, str]] = []
    for number, (want, content) in enumerate(zip(file.wanted, contents, strict=True)):
        name = want.formula.name
        rows = alike.get(kept.content_sum(content), [])
        if rows:
            found.append(max(rows, key=lambda row: row.formula.name == name).formula_id)
        else:
            sentence = f"“{name}” as it is made in this file is not in the book; bring it in there first"
            bad.append((f"wanted[{number}].formula", sentence))
    if bad:
        raise Refusal(422, bad[0][1][0].upper() + bad[0][1][1:] + ".", bad)
    return file, found
