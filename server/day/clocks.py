"""Moments and minutes of a day, by the clock on a kitchen's wall."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from common import clock
from custard import planning
from kitchen import reads as kitchen
from kitchen.models import Kitchen

from day.models import Day

AFTER_MIN = 180
"""How long after the last pair of hands has gone it can still be worked on [min]."""


def today_of(where: Kitchen) -> date:
    """Today by a kitchen's clock."""
    return clock.now().astimezone(kitchen.zone_of(where)).date()


def minute(moment: datetime, day: date, zone: ZoneInfo) -> int:
    """A moment as minutes since that day's midnight, as the wall clock counts them."""
    wall = moment.astimezone(zone).replace(tzinfo=None)
    return int((wall - datetime.combine(day, datetime.min.time())).total_seconds() // 60)


def moment(minute_of: int, day: date, zone: ZoneInfo) -> datetime:
    """The moment at which that wall clock shows such a minute."""
    wall = datetime.combine(day, datetime.min.time()) + timedelta(minutes=minute_of)
    return wall.replace(tzinfo=zone)


def _minute(day: Day) -> int:
    """What minute of a day with a date it is, before it and after it as well."""
    assert day.date is not None  # noqa: S101 - asked only of a day with a date
    return minute(clock.now(), day.date, kitchen.zone_of(day.kitchen))


def is_over(day: Day) -> bool:
    """Whether a day has been: past midnight, and some hours past when the last pair of hands has gone."""
    if day.date is None:
        return False
    gone = max((span[1] for hands in day.hands.all() for span in hands.there), default=planning.DAY_MIN)
    return _minute(day) > max(planning.DAY_MIN, gone + AFTER_MIN)


def now_of(day: Day) -> int | None:
    """What minute of a day it is; None for a template, and for a day that is over."""
    return None if day.date is None or is_over(day) else _minute(day)


def shown_now(where: Kitchen, when: date, day: Day | None) -> int | None:
    """What minute it is for a screen: while the day is there, and nobody has long gone."""
    if day is None:
        return minute(clock.now(), when, kitchen.zone_of(where)) if when == today_of(where) else None
    now = now_of(day)
    return now if now is not None and now >= 0 else None
