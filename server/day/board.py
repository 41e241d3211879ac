"""A plan as the board shows it: where its steps are, how they go on from now, and what is said of it."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from math import ceil
from typing import Any

import custard
from custard import planning

from day import documents, problem
from day.models import Day, Plan
from day.schemas import Danger, HandsOut, HelpOut, JobOut, NextThing, PlanOut, StepOut

TINTS = 8


class Board:
    """A plan as it is shown: where its steps are, how they go on from now, and what is said of it."""

    def __init__(self, day: Day, kept: Plan | None) -> None:
        self.day, self.kept = day, kept
        self.people = list(day.hands.all())
        self.wants = list(day.wants.select_related("formula", "batch"))
        self.document: Mapping[str, Any] = {} if kept is None else kept.document
        self.of, self.planned = self._laid()
        self.ahead: planning.Outlook | None = None
        if self.of is not None and self.planned is not None:
            self.ahead = planning.outlook(self.of, self.planned)

    def _laid(self) -> tuple[planning.Day | None, planning.Plan | None]:
        """The plan as it was kept; none where its day's room has since become too small for it."""
        if not self.document or not self.people:
            return None, None
        try:
            of, people = problem.kept(self.day, self.document)
        except custard.CustardError:
            return None, None
        return of, documents.plan_of(self.document["steps"], people, of.jobs)

    def hands(self) -> list[HandsOut]:
        """Whose hands there are."""
        return [
            HandsOut(id=one.pk, name=one.name, there=one.there, revision=one.revision) for one in self.people
        ]

    def _risks(self) -> dict[str, Mapping[str, Any]]:
        return {} if self.kept is None else {one["job"]: one for one in self.kept.risks}

    def jobs(self) -> list[JobOut]:
        """Every batch and piece of other work, with when it is ready and how sure that is."""
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
        """Every step, where it is planned and where it is believed to be."""
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
        """The deadlines that will be missed as things are."""
        if self.of is None or self.ahead is None:
            return []
        jobs = {job.key: job for job in self.of.jobs}
        found = []
        for one in self.ahead.endangered:
            key, place = one.because
            step, whose = jobs[key].steps[place], jobs[key]
            of = "" if key == one.job else f" of {whose.name}"
            due = planning.said(jobs[one.job].due or 0)
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
        """What each pair of hands is at, and does next."""
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
        """What is said of the plan as a whole; None where there is none."""
        if self.kept is None:
            return None
        jobs = self.jobs()
        return PlanOut(
            state=self.kept.state,  # type: ignore[arg-type]
            fresh=self.kept.revision == self.day.revision,
            made_at=self.kept.made_at,
            late_min=self.kept.late_min,
            why=self.kept.why,
            helps=[
                HelpOut(number=number, kind=one["kind"], say=one["say"], minutes=one["minutes"])
                for number, one in enumerate(self.kept.helps)
            ],
            tightest=_tightest(jobs),
            say=_say(jobs, len(self.people), self.kept),
            sure=_sure(self.kept, fresh=self.kept.revision == self.day.revision),
        )


def _tightest(jobs: Iterable[JobOut]) -> str:
    spare = [one for one in jobs if one.spare_min is not None and one.spare_min >= 0]
    if not spare:
        return ""
    least = min(spare, key=lambda one: (one.spare_min or 0, one.key))
    return f"Tightest: {least.name}, {least.spare_min} min to spare."


def _sure(kept: Plan, *, fresh: bool) -> str:
    """How far from proven a plan is, while a better one is looked for and afterwards."""
    if not fresh:
        return "Being planned again …"
    if kept.state == "none":
        return ""
    far = f"No plan is better by more than {ceil(100 * kept.gap)} %." if kept.gap < 1 else ""
    if kept.state != "done":
        return f"A better plan is being looked for … {'' if kept.proven else far}".rstrip()
    if kept.proven:
        return "No plan is better."
    return far or "How much better a plan could be is not known."


def _say(jobs: Sequence[JobOut], hands: int, kept: Plan) -> str:
    if kept.state == "none":
        return "No plan can be made."
    batches = sum(1 for one in jobs if one.wants)
    people = "one pair of hands" if hands == 1 else f"{planning.counted(hands)} pairs of hands"
    made = f"{planning.counted(batches).capitalize()} batch{'' if batches == 1 else 'es'}, {people}"
    late = [one for one in jobs if one.due is not None and one.ready > one.due]
    if late:
        return f"{made}; {planning.counted(len(late))} late: {', '.join(one.name for one in late)}."
    return f"{made}, all in time."
