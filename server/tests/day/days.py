"""A day that is tested, and what is asked of it."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

from common import clock

WHEN = "2026-03-05"
MORNING = datetime(2026, 3, 5, 7, 0, tzinfo=UTC)
NOON = 12 * 60
DAY = f"/api/k/here/days/{WHEN}"
COOKS = {"name": "pastry cook", "there": [[480, 960]]}


def at(minute: int):
    """It is that minute of the day."""
    return clock.at(datetime(2026, 3, 5, tzinfo=UTC) + timedelta(minutes=minute))


def ok(answer):
    assert answer.status_code == 200, answer.content
    return answer.json()


def want(version, **more):
    return {"formula_id": version.formula_id, "at": NOON + 30, **more}


def steps(day, name=None):
    return {one["step"]: one for one in day["steps"] if name is None or one["job"] == name}
