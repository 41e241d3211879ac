"""Questions about days."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from datetime import date, timedelta
from typing import Any

from custard import planning
from django.db.models import Count
from django.http import Http404
from kitchen import reads as kitchen
from kitchen.access import Actor
from shelf import reads as shelf

from day import clocks, documents, problem
from day.models import Day, Plan, Want
from day.schemas import (
    Danger,
    DayLine,
    DayOut,
    DaysOut,
    HandsOut,
    HelpOut,
    JobOut,
    NextThing,
    OtherOut,
    PlanOut,
    Promised,
    RoomOut,
    StepOut,
    TemplateLine,
    WantOut,
)

AROUND = timedelta(days=21)
TINTS = 8
COUNTED = ("No", "One", "Two", "Three", "Four", "Five", "Six", "Seven", "Eight", "Nine", "Ten")
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
    found = Day.objects.filter(kitchen=actor.kitchen, date=None, pk=template_id).first()
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
    mine = Day.objects.filter(kitchen=actor.kitchen).annotate(many=Count("wants"))
    rows = mine.filter(date__gte=middle - AROUND, date__lte=middle + AROUND).select_related("plan")
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
            for row in mine.filter(date=None).order_by("name")
        ],
    )


def opened(actor: Actor, when: date) -> DayOut:
    """A day as the board shows it."""
    day = day_of(actor, when)
    promised = _promised(actor, when)
    now = clocks.minute_now(actor.kitchen, when)
    if day is None:
        return DayOut(
            there=False, date=when, template_id=None, name="", now=now, revision=0,
            room=RoomOut(**usual_room(actor)),
            hands=[HandsOut(id=0, revision=0, **one) for one in usual_hands(actor)],
            wants=[], others=[], jobs=[], steps=[], dangers=[], promised=promised, next_things=[], plan=None,
        )  # fmt: skip
    kept = Plan.objects.filter(day=day).first()
    board = _Board(day, kept)
    return DayOut(
        there=True,
        date=day.date,
        template_id=None if day.date else day.pk,
        name=day.name,
        now=now,
        revision=day.revision,
        room=RoomOut(**day.room),
        hands=board.hands(),
        wants=_wants(board.wants, kept),
        others=[
            OtherOut(
                id=one.pk, name=one.name, minutes=one.minutes, hands=one.hands, needs=one.needs,  # type: ignore[arg-type]
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
            past=one.tub.use_by < one.due_at,
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


class _Board:
    """A plan as it is shown: where its steps are, how they go on from now, and what is said of it."""

    def __init__(self, day: Day, kept: Plan | None) -> None:
        self.day, self.kept = day, kept
        self.people = list(day.hands.all())
        self.wants = list(day.wants.select_related("formula", "batch"))
        self.document: Mapping[str, Any] = {} if kept is None else kept.document
        self.of: planning.Day | None = None
        self.planned: planning.Plan | None = None
        if self.document and self.people:
            self.of, people = problem.kept(day, self.document)
            self.planned = documents.plan_of(self.document["steps"], people, self.of.jobs)
        self.ahead: planning.Outlook | None = None
        if self.of is not None and self.planned is not None:
            self.ahead = planning.outlook(self.of, self.planned)

    def hands(self) -> list[HandsOut]:
        return [
            HandsOut(id=one.pk, name=one.name, there=one.there, revision=one.revision) for one in self.people
        ]

    def _risks(self) -> dict[str, Mapping[str, Any]]:
        return {} if self.kept is None else {one["job"]: one for one in self.kept.risks}

    def jobs(self) -> list[JobOut]:
        if self.of is None or self.planned is None:
            return []
        ready, risks = planning.ready(self.planned), self._risks()
        danger = {one.job: one.late_min for one in self.ahead.endangered} if self.ahead else {}
        found = []
        for tint, (job, told) in enumerate(zip(self.of.jobs, self.document["jobs"], strict=True)):
            if job.key not in ready:
                continue
            at, risk = ready[job.key], risks.get(job.key)
            late = max(0, 0 if job.due is None else at - job.due)
            found.append(
                JobOut(
                    key=job.key,
                    name=job.name,
                    short=told["short"],
                    tint=tint % TINTS,
                    due=job.due,
                    ready=at,
                    spare_min=None if job.due is None else job.due - at,
                    late_min=danger.get(job.key, late),
                    chance=None if risk is None else risk["chance"],
                    brittle="" if risk is None else risk["say"],
                    wants=told["wants"],
                    batch_id=told["batch_id"] or self._batch(told["wants"]),
                    formula_id=told["formula_id"],
                    grams=told["grams"],
                )
            )
        return found

    def _batch(self, wants: Sequence[int]) -> int | None:
        rows = self.wants
        return next((one.batch_id for one in rows if one.pk in wants and one.stands), None)

    def steps(self) -> list[StepOut]:
        if self.of is None or self.planned is None or self.ahead is None:
            return []
        ahead = {(one.job, one.place): one for one in self.ahead.steps}
        jobs = {job.key: job for job in self.of.jobs}
        return [self._step(one, jobs[one.job], ahead[one.job, one.place]) for one in self.planned.steps]

    def _step(self, one: planning.Placed, job: planning.Job, ahead: planning.Ahead) -> StepOut:
        step, begun = job.steps[one.place], job.begun.get(one.place)
        over = begun is not None and begun.end is not None
        return StepOut(
            job=one.job,
            place=one.place,
            step=step.step,
            say=step.say,
            start=one.start,
            end=one.end,
            begins=ahead.start,
            ends=ahead.end,
            state="over" if over else "to come" if begun is None else "running",
            late=ahead.late,
            pinned=one.place in job.pinned,
            share=step.hands,
            hands_id=None if one.hands is None else self.people[one.hands].pk,
            at=dict(one.at),
            needs=list(step.needs),
            minutes=round(step.minutes.usual, 1),
            spread_min=round(step.minutes.usual * step.minutes.spread, 1),
            batches=step.minutes.batches,
        )

    def dangers(self) -> list[Danger]:
        if self.of is None or self.ahead is None:
            return []
        jobs = {job.key: job for job in self.of.jobs}
        found = []
        for one in self.ahead.endangered:
            key, place = one.because
            step, whose = jobs[key].steps[place], jobs[key]
            of = "" if key == one.job else f" of {whose.name}"
            due = planning.clock(jobs[one.job].due or 0)
            say = f"{jobs[one.job].name}: {one.late_min} min late for {due}, held up by “{step.say}”{of}."
            found.append(
                Danger(
                    job=one.job,
                    late_min=one.late_min,
                    say=say,
                )
            )
        return found

    def next_things(self) -> list[NextThing]:
        if self.of is None or self.planned is None:
            return []
        shown = {(one.job, one.place): one for one in self.steps()}
        found = []
        for who, hands in enumerate(self.people):
            at, then = planning.next_for(self.of, self.planned, who)
            found.append(
                NextThing(
                    hands_id=hands.pk,
                    name=hands.name,
                    at=None if at is None else shown[at.job, at.place],
                    then=None if then is None else shown[then.job, then.place],
                )
            )
        return found

    def plan(self) -> PlanOut | None:
        if self.kept is None:
            return None
        jobs = self.jobs()
        return PlanOut(
            state=self.kept.state,  # type: ignore[arg-type]
            fresh=self.kept.revision == self.day.revision,
            made_at=self.kept.made_at,
            late_min=self.kept.late_min,
            proven=self.kept.proven,
            gap=round(self.kept.gap, 4),
            why=self.kept.why,
            helps=[
                HelpOut(number=number, kind=one["kind"], say=one["say"], minutes=one["minutes"])
                for number, one in enumerate(self.kept.helps)
            ],
            tightest=_tightest(jobs),
            say=_say(jobs, len(self.people), self.kept),
        )


def _tightest(jobs: Iterable[JobOut]) -> str:
    spare = [one for one in jobs if one.spare_min is not None and one.spare_min >= 0]
    if not spare:
        return ""
    least = min(spare, key=lambda one: (one.spare_min or 0, one.key))
    return f"Tightest: {least.name}, {least.spare_min} min to spare."


def _say(jobs: Sequence[JobOut], hands: int, kept: Plan) -> str:
    if kept.state == "none":
        return "No plan can be made."
    batches = sum(1 for one in jobs if one.wants)
    people = "one pair of hands" if hands == 1 else f"{_counted(hands).lower()} pairs of hands"
    made = f"{_counted(batches)} batch{'' if batches == 1 else 'es'}, {people}"
    late = [one for one in jobs if one.due is not None and one.ready > one.due]
    if late:
        return f"{made}; {_counted(len(late)).lower()} late: {', '.join(one.name for one in late)}."
    return f"{made}, all in time."


def _counted(many: int) -> str:
    return COUNTED[many] if many < len(COUNTED) else str(many)
