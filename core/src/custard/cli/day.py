"""What the command `plan` does: a day in the open format in, its plan out."""

from __future__ import annotations

from typing import Any

from custard import planning
from custard.cli import answers, given
from custard.figures import plain
from custard.larder.eggs import egg_size


def plan(options: Any) -> dict[str, Any]:
    """Steps with whose hands, each deadline with its chance, and, where it cannot be, why and what helps."""
    file = planning.read_day(given.read_json(options.file))
    conditions = given.conditions(options)
    made = planning.Made({}, ovens=max(1, file.room.places.get(planning.OVEN, 0) // planning.SHELVES))
    work = planning.work(file.wanted, file.other, (), conditions, made=made)
    day = planning.Day(file.room, work.jobs)
    found = planning.solve(day, seconds=options.seconds, workers=options.workers)
    found = planning.tidy(day, found)
    paid = planning.cost(day, found)
    because = planning.why(day, options.workers) if paid.late else None
    jobs = {job.key: job for job in day.jobs}
    lists = planning.lists(
        day,
        found,
        {one.job.key: one.result for one in work.batches},
        {},
        {},
        egg_size(conditions.eggs or "EU-M"),
    )
    told: dict[str, Any] = {
        "steps": [
            {
                "of": jobs[one.job].name,
                "step": jobs[one.job].steps[one.place].step,
                "say": jobs[one.job].steps[one.place].say,
                "start": planning.clock(one.start),
                "end": planning.clock(one.end),
                "hands": None if one.hands is None else file.room.hands[one.hands].name,
                "at": dict(one.at),
            }
            for one in found.steps
        ],
        "wanted": _wanted(day, found),
        "late_min": paid.late,
        "proven": found.proven,
        "gap": round(found.gap, 4),
        "why": None if because is None else because.say,
        "helps": [] if because is None else [one.say for one in planning.helps(day, because)],
        "lists": plain(lists),
    }
    shown: dict[str, Any] = answers.in_celsius(told)
    return shown


def _wanted(day: planning.Day, found: planning.Plan) -> list[dict[str, Any]]:
    at, sure = planning.ready(found), {one.job: one for one in planning.risks(day, found)}
    return [
        {
            "name": job.name,
            "at": planning.clock(job.due),
            "ready": planning.clock(at[job.key]),
            "spare_min": job.due - at[job.key],
            "chance": round(sure[job.key].chance, 3),
            "brittle": sure[job.key].say,
        }
        for job in day.jobs
        if job.due is not None
    ]
