"""Jobs and plans as they are kept in a plan's document, and read back without computing anything again."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import asdict, fields
from typing import Any

from custard import planning

VERSION = 1


def step_json(step: planning.Step) -> dict[str, Any]:
    """A step as kept."""
    found = {one.name: getattr(step, one.name) for one in fields(step)}
    return {**found, "minutes": asdict(step.minutes), "needs": dict(step.needs)}


def step_of(kept: Mapping[str, Any]) -> planning.Step:
    """A step as it was kept."""
    return planning.Step(**{**kept, "minutes": planning.Minutes(**kept["minutes"])})


def job_json(job: planning.Job, **beside: Any) -> dict[str, Any]:
    """A job as kept, without what has begun or is pinned: that is in rows. With what else is told of it."""
    return {
        "key": job.key,
        "name": job.name,
        "due": job.due,
        "life": job.life,
        "fades": job.fades,
        "steps": [step_json(step) for step in job.steps],
        **beside,
    }


def job_of(kept: Mapping[str, Any]) -> planning.Job:
    """A job as it was kept."""
    plain = {name: kept[name] for name in ("key", "name", "due", "life", "fades")}
    return planning.Job(steps=tuple(step_of(step) for step in kept["steps"]), **plain)


def placed_json(plan: planning.Plan, people: list[int]) -> list[dict[str, Any]]:
    """Where the steps of a plan are, with the ids of the hands they are in."""
    return [
        {
            "job": one.job,
            "place": one.place,
            "start": one.start,
            "end": one.end,
            "hands": None if one.hands is None else people[one.hands],
            "at": dict(one.at),
        }
        for one in plan.steps
    ]


def plan_of(
    kept: Iterable[Mapping[str, Any]], people: list[int], jobs: Iterable[planning.Job]
) -> planning.Plan | None:
    """The plan as it was kept, for those of its jobs that are still there; None for nothing left."""
    steps = {job.key: len(job.steps) for job in jobs}
    place = {key: number for number, key in enumerate(people)}
    found = tuple(
        planning.Placed(
            one["job"], one["place"], one["start"], one["end"], place.get(one["hands"]), one["at"]
        )
        for one in kept
        if one["place"] < steps.get(one["job"], 0)
    )
    return planning.Plan(found) if found else None
