"""What is on the shelf as a file: every tub with something left in it, and what was ever done with it."""

from __future__ import annotations

import csv
import io
from datetime import datetime
from typing import Literal

from common import clock
from common.text import inert
from kitchen import reads as kitchen
from kitchen.access import Actor
from ninja import Schema
from pydantic import Field

from shelf import reads
from shelf.models import Movement
from shelf.schemas import MovementOut, TubLine

COLUMNS = (
    "tub", "batch", "what", "name", "place", "left_g", "of_g", "promised_g", "made", "use_by", "why",
    "allergens", "promised_to",
)  # fmt: skip


class TubMovement(MovementOut):
    """A movement, and whose it is."""

    tub_id: int


class Stock(Schema):
    """A kitchen's shelf at a moment."""

    format: Literal["old-spoon/stock"] = "old-spoon/stock"
    version: Literal[1] = 1
    kitchen: str
    zone: str
    made_at: datetime
    tubs: list[TubLine]
    movements: list[TubMovement] = Field(description="of these tubs, in order")


def stock(actor: Actor) -> Stock:
    """All that is on the shelf, soonest first."""
    now = clock.now()
    tubs = [reads.line(row, now) for row in reads.tubs(actor).filter(left_g__gt=0)]
    moves = reads.standing(Movement.objects.filter(kitchen=actor.kitchen, tub__left_g__gt=0))
    return Stock(
        kitchen=actor.kitchen.name,
        zone=actor.kitchen.zone,
        made_at=now,
        tubs=tubs,
        movements=[TubMovement(**dict(reads.movement(one)), tub_id=one.tub_id) for one in moves],
    )


def as_csv(found: Stock) -> str:
    """The tubs as a table, times by the kitchen's clock; what a spreadsheet would run is made inert."""
    zone = kitchen.zone_named(found.zone)
    out = io.StringIO()
    table = csv.writer(out)
    table.writerow(COLUMNS)
    for tub in found.tubs:
        promised = "; ".join(f"{one.grams:g} g {one.dish}" for one in tub.promises)
        row = (
            tub.id, tub.batch, tub.what, tub.name, tub.place, tub.left_g, tub.made_g, tub.promised_g,
            tub.made_at.astimezone(zone).isoformat(timespec="minutes"),
            tub.use_by.astimezone(zone).isoformat(timespec="minutes"),
            tub.use_by_why, " ".join(tub.allergens), promised,
        )  # fmt: skip
        table.writerow([inert(cell) for cell in row])
    return out.getvalue()
