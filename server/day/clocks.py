"""Moments and minutes of a day, by the clock on a kitchen's wall."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from zoneinfo import ZoneInfo

from common import clock
from kitchen import reads as kitchen
from kitchen.models import Kitchen

from day.models import Day


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


def minute_now(where: Kitchen, day: date) -> int | None:
    """What minute of today it is, for a screen; None on another day."""
    return minute(clock.now(), day, kitchen.zone_of(where)) if day == today_of(where) else None


def now_of(day: Day) -> int | None:
    """What minute of a day it is; None for a template, which has no time."""
    if day.date is None:
        return None
    return minute(clock.now(), day.date, kitchen.zone_of(day.kitchen))
