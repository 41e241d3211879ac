"""The demo's day: six sauces, two pairs of hands, one oven, and a service."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime, timedelta
from typing import Any

from book.models import Formula
from common import clock
from day import actions, reads
from day.models import Day, Hands, Other, Want
from day.requests import RoomChange
from kitchen import reads as kitchen
from kitchen.access import Actor

from demo.rows import Rows

NOON = 12 * 60
SERVICE = NOON + 30
HEAD_START = 290
"""So long before service the demo begins at least [min]: in less its ice base is not ready by the evening."""
EARLY, MIDDAY = SERVICE - HEAD_START, 13 * 60
WANTED: tuple[tuple[str, str, int, float, str], ...] = (
    ("Rye pastry cream", "choux", -30, 30, "40 g"),
    ("Bay leaf anglaise", "poached quince", 0, 20, "60 g"),
    ("Hay-milk cup custard", "cup custard", 0, 1, ""),
    ("Burnt honey filling", "hazelnut tartlets", 0, 18, "35 g"),
    ("Perry sabayon", "baked apples, table of nine", 12, 9, "45 g"),
    ("Barley ice base", "malted ice", 330, 14, "70 g"),
)
"""Formula, dish, minutes after service, covers and what each takes."""
OTHERS = (("caramel for the quince", 25.0, "ring", -45), ("call the dairy", 5.0, "", -150))


def begins(now: datetime) -> tuple[date, int]:
    """Which day the demo plans, and when its service is: still ahead whenever the demo is made."""
    minute = now.hour * 60 + now.minute
    if minute <= EARLY:
        return now.date(), SERVICE
    if minute <= MIDDAY:
        return now.date(), (minute + HEAD_START + 29) // 30 * 30
    return now.date() + timedelta(days=1), SERVICE


def plan(rows: Rows, actors: Mapping[str, Actor], formulas: Mapping[str, Formula]) -> None:
    """Write the day down, keep it as a template, and plan it. `formulas` are by name."""
    chef = actors["section"]
    when, service = begins(clock.now().astimezone(kitchen.zone_of(chef.kitchen)))
    change = RoomChange(rings=3, steam=1, ice_bath=3, ovens=1, churns=1, ice_g=9000, ice_g_h=800, bowls=1)
    room = {**reads.usual_room(chef), **change.dict(exclude_unset=True)}
    day = rows.add(Day(kitchen=chef.kitchen, date=when, room=room))
    rows.done(chef, "day.room", day)
    template = rows.add(Day(kitchen=chef.kitchen, name="a weekday with apples", room=room))
    opens = service - 300

    def both(action: str, model: type[Hands | Want | Other], **values: Any) -> None:
        rows.done(chef, action, rows.add(model(day=day, **values)))
        rows.add(model(day=template, **values))

    for name, start in (("section chef", opens), ("trainee", opens + 30)):
        both("day.hands", Hands, name=name, there=[[start, min(service + 150, 1439)]])
    for formula, dish, after, covers, each in WANTED:
        at = min(service + after, 1425)
        both("day.want", Want, formula=formulas[formula], name=dish, at=at, covers=covers, each=each)
    for name, minutes, needs, after in OTHERS:
        both("day.other", Other, name=name, minutes=minutes, needs=needs, by=service + after)
    rows.done(chef, "day.template", template)
    rows.write(Day, Hands, Want, Other)
    actions.planned(chef, when)
