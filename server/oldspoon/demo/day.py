"""The demo's day: six sauces, two pairs of hands, one oven, and a service."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime, timedelta

from common import clock
from day import actions, editing
from day.asked import HandsIn, OtherIn, RoomChange, WantIn
from kitchen import reads as kitchen
from kitchen.access import Actor

NOON = 12 * 60
SERVICE = NOON + 30
EARLY, MIDDAY = 8 * 60, 13 * 60
HEAD_START = 270
"""So long before service the demo begins when it is looked at in the middle of a morning [min]."""
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


def plan(actors: Mapping[str, Actor], formulas: Mapping[str, int]) -> None:
    """Write the day down, plan it, and keep it as a template. `formulas` are ids by name."""
    chef = actors["section"]
    when, service = begins(clock.now().astimezone(kitchen.zone_of(chef.kitchen)))
    opens = service - 300
    usual = editing.change_room(chef, when, RoomChange.model_validate({})).hands.get()
    for name, start in (("section chef", opens), ("trainee", opens + 30)):
        editing.add_hands(chef, when, HandsIn(name=name, there=[[start, min(service + 150, 1439)]]))
    editing.remove_hands(chef, when, usual.pk)
    room = RoomChange(rings=3, steam=1, ice_bath=2, ovens=1, churns=1, ice_g=9000, ice_g_h=800, bowls=1)
    editing.change_room(chef, when, room)
    for formula, dish, after, covers, each in WANTED:
        wanted = WantIn(
            formula_id=formulas[formula], name=dish, at=min(service + after, 1425), covers=covers, each=each
        )
        editing.add_want(chef, when, wanted)
    for name, minutes, needs, after in OTHERS:
        work = OtherIn(name=name, minutes=minutes, needs=needs, by=service + after)  # type: ignore[arg-type]
        editing.add_other(chef, when, work)
    editing.keep_template(chef, when, "a weekday with apples")
    actions.planned(chef, when)
