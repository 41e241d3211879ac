"""What the movements of a tub that stand say of it, written into its columns."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import datetime, timedelta
from typing import Any

import custard
from custard.vocabulary import Place

from shelf.models import Movement, MovementKind, Tub

COLUMNS = (
    "place",
    "opened_at",
    "frozen_at",
    "out_at",
    "warm_at",
    "warm_c",
    "filmed",
    "labelled",
    "use_by",
    "use_by_why",
)
_TIMES = ("opened_at", "frozen_at", "out_at", "warm_at")
_BEGINS = ("place", *_TIMES, "warm_c", "filmed")


def standing(tub: Tub) -> list[Movement]:
    """The movements of a tub that nobody took back, in order."""
    return list(
        tub.movements.filter(corrected_by=None)
        .exclude(kind=MovementKind.UNDONE)
        .select_related("into", "by", "other")
    )


def state_of(tub: Tub) -> dict[str, Any]:
    """The state of a tub as plain data, for one that begins where this one stands."""
    return {
        name: value.isoformat() if isinstance(value, datetime) else value
        for name, value in ((name, getattr(tub, name)) for name in _BEGINS)
    }


def life_of(tub: Tub) -> custard.after.Life:
    """How what is in a tub keeps."""
    return custard.after.Life.of(tub.life)


def write(tub: Tub) -> None:
    """Write what the movements that stand say of a tub, and until when it may be used."""
    read(tub, standing(tub))
    tub.save(update_fields=COLUMNS)


def read(tub: Tub, movements: Iterable[Movement]) -> None:
    """Set the columns of a tub by its movements that stand, in order. Not saved."""
    _begin(tub)
    for one in movements:
        _happened(tub, one)
    dated(tub)


def dated(tub: Tub) -> None:
    """Until when it may be used, by where it is and what happened to it."""
    found = custard.after.use_by(life_of(tub), kept_of(tub))
    tub.use_by, tub.use_by_why = tub.made_at + timedelta(hours=found.hours), found.why[:200]


def judged(tub: Tub, now: datetime) -> custard.after.Judgement:
    """Whether what is in a tub may still be eaten."""
    return custard.after.judge(life_of(tub), kept_of(tub), (now - tub.made_at).total_seconds() / 3600)


def kept_of(tub: Tub) -> custard.after.Kept:
    """What has happened to a tub, as the core counts."""

    def hours(at: datetime | None) -> float | None:
        return None if at is None else (at - tub.made_at).total_seconds() / 3600

    return custard.after.Kept(
        place=tub.place,
        frozen_h=hours(tub.frozen_at),
        out_h=hours(tub.out_at),
        opened_h=hours(tub.opened_at),
        warm_h=hours(tub.warm_at),
        warm_c=tub.warm_c,
    )


def _begin(tub: Tub) -> None:
    for name in _TIMES:
        value = tub.begins.get(name)
        setattr(tub, name, None if value is None else datetime.fromisoformat(value))
    tub.place = tub.begins.get("place", Place.FRIDGE)
    tub.warm_c = tub.begins.get("warm_c")
    tub.filmed, tub.labelled = bool(tub.begins.get("filmed", False)), False


def _happened(tub: Tub, one: Movement) -> None:
    if one.kind in (MovementKind.OPENED, MovementKind.USED, MovementKind.CHURNED):
        tub.opened_at = tub.opened_at or one.at
    elif one.kind == MovementKind.FROZEN:
        tub.place, tub.frozen_at = "frozen", one.at
    elif one.kind == MovementKind.OUT:
        tub.place, tub.out_at = "thawing", one.at
    elif one.kind == MovementKind.THAWED:
        tub.place = "fridge"
    elif one.kind == MovementKind.WARM:
        tub.place, tub.warm_at, tub.warm_c = "warm", one.at, one.celsius
    elif one.kind == MovementKind.FILM:
        tub.filmed = True
    elif one.kind == MovementKind.LABELLED:
        tub.labelled = True
