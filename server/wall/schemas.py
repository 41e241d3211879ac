"""What the API says to a screen on the wall."""

from __future__ import annotations

from datetime import datetime

from custard.vocabulary import AlarmKind
from ninja import Schema
from stove.schemas import BatchLine


class WallAlarm(Schema):
    """Something to be seen across the room, until somebody silences it at the stove."""

    kind: AlarmKind
    say: str


class WallBatch(BatchLine):
    """A batch on the stove, in ice or in the oven, as it was `age_s` ago [s].

    `seconds` is how long until `then`, in the batch's own time; `celsius` is what its probe reads, or what
    it has cooled to [degC], `where` the ring under it.
    """

    where: str
    then: str
    age_s: float
    celsius: float | None
    cools: bool
    alarms: list[WallAlarm]


class WallStove(Schema):
    """What is on; `kitchen` is whose wall it is, `zone` its time zone."""

    at: datetime
    kitchen: str
    zone: str
    batches: list[WallBatch]


class WallStep(Schema):
    """A step of a plan that is still to come: when, what of, and whose it is."""

    at: datetime
    what: str
    of: str
    whose: str
    late: bool


class WallTub(Schema):
    """What must be used up or thrown away today; `past` is what is past its time already."""

    id: int
    what: str
    batch: int
    grams: float
    use_by: datetime
    past: bool


class WallDay(Schema):
    """What comes next, and what must go before today ends; `more_tubs` is how many are not listed."""

    at: datetime
    next: list[WallStep]
    tubs: list[WallTub]
    more_tubs: int
    unlabelled: int
