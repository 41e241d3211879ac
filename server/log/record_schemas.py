"""The record of a batch or a day as a document."""

from __future__ import annotations

from datetime import date, datetime
from typing import Literal

from ninja import Schema
from shelf.schemas import MovementOut, Signed
from stove.record_schemas import BatchRecord


class Moved(MovementOut):
    """A movement, with the tub it was of."""

    tub_id: int
    tub: str


class Record(Schema):
    """One batch, or all of a day: what was read and done, by whom, and how each limit was kept.

    `records` and `hash` are the number of records the kitchen had when this was made, and the hash of the
    last: `./spoon verify` shows whether they still are what they were.
    """

    format: Literal["old-spoon/record"] = "old-spoon/record"
    version: Literal[1] = 1
    kitchen: str
    zone: str
    made_at: datetime
    day: date | None
    batches: list[BatchRecord]
    movements: list[Moved]
    closings: list[Signed]
    allergens: list[str]
    records: int
    hash: str
    caution: str
