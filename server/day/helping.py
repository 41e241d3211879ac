"""Making one of the changes with which nothing is late, as it was found and said."""

from __future__ import annotations

from datetime import date

from common.refusals import Conflict
from custard import planning
from kitchen.access import Actor, Role, action

from day import editing, problem
from day.actions import planned, with_plan
from day.models import Day, Hands, Other, Plan, Want
from day.requests import HelpWanted


def take_help(actor: Actor, when: date, wanted: HelpWanted) -> Plan:
    """Make one of the changes that help, as it was said, and plan again."""
    actor.must(Role.COOK)
    day, kept = with_plan(actor, when)
    if wanted.number >= len(kept.helps) or kept.helps[wanted.number]["say"] != wanted.say:
        raise Conflict("That was said of another plan; look at what helps now.")
    _help(actor, day, kept.helps[wanted.number])
    planned(actor, when)
    return Plan.objects.get(day=day)


@action("day.help", Role.COOK)
def _help(actor: Actor, day: Day, change: dict[str, object]) -> Day:
    day = editing.here(actor, day.date or date.min)
    kind, job = str(change["kind"]), str(change["job"])
    if kind in ("helper", "earlier", "more", "ice", "both"):
        _hands(day, change["hands"])
        places = {place: name for name, place in problem.PLACES.items()}
        for place, many in dict(change["places"]).items():  # type: ignore[call-overload]
            day.room[places[place]] = many // (planning.SHELVES if place == planning.OVEN else 1)
        day.room |= {"ice_g": change["ice_g"], "bowls": change["bowls"]}
        day.save(update_fields=["room"])
    for key, due in dict(change["dues"]).items():  # type: ignore[call-overload]
        _later(day, key, due)
    if kind == "unpin":
        day.pins.filter(job=job).delete()
    if kind == "without":
        Want.objects.filter(day=day, pk__in=_wants(day, job)).delete()
        if job.startswith("work-"):
            Other.objects.filter(day=day, pk=int(job.removeprefix("work-"))).delete()
    return editing.changed(day)


def _hands(day: Day, hands: object) -> None:
    """Those who are there already come earlier; whoever is new is written down."""
    rows = list(day.hands.all())
    for number, one in enumerate(list(hands)):  # type: ignore[call-overload]
        if number >= len(rows):
            Hands.objects.create(day=day, name=one["name"], there=one["there"])
        elif rows[number].there != one["there"]:
            rows[number].there = one["there"]
            rows[number].revision += 1
            rows[number].save()


def _wants(day: Day, key: str) -> list[int]:
    kept = Plan.objects.get(day=day)
    return [want for one in kept.document["jobs"] if one["key"] == key for want in one["wants"]]


def _later(day: Day, key: str, due: int) -> None:
    """A deadline moved: that of other work, or of all the dishes of a batch that are wanted sooner."""
    if key.startswith("work-"):
        Other.objects.filter(day=day, pk=int(key.removeprefix("work-"))).update(by=due)
        return
    for want in Want.objects.filter(day=day, pk__in=_wants(day, key.partition("/")[0]), at__lt=due):
        want.at = due
        want.revision += 1
        want.save()
