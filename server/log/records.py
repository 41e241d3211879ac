"""The record of a batch or of a day, put together for an inspector; as JSON, CSV or PDF."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Mapping
from datetime import date, datetime, time, timedelta
from typing import Any

from common import clock, paper
from common.fair_limiter import in_turn
from common.paper import Report
from common.text import inert
from kitchen import reads as kitchen
from kitchen.access import Actor
from papers.orders import CSV, JSON, maker
from people.schemas import Habits
from records.reads import head
from shelf import closing
from shelf import reads as shelf
from stove.after import recorded
from stove.record_schemas import BatchRecord

from log.record_schemas import Moved, Record

CAUTION = (
    "What is computed here informs and never clears. Local food law and the kitchen's own plan come first."
)
EACH_MINUTE = timedelta(minutes=1)
COLUMNS = (
    "batch", "name", "at", "what", "stage", "celsius", "limit_c", "grams", "by", "note", "taken_back_at",
    "taken_back_by",
)  # fmt: skip


@in_turn
def of_batch(actor: Actor, batch_id: int) -> Record:
    """The record of one batch, with what was done with its tubs since."""
    return _record(actor, None, [recorded.record(actor, batch_id)], shelf.movements_of_batch(actor, batch_id))


@in_turn
def of_day(actor: Actor, wanted: date | None) -> Record:
    """The record of a day by the kitchen's clock: its batches, its shelf, who closed it."""
    day = closing.day_of(actor, wanted)
    zone = kitchen.zone_of(actor.kitchen)
    since = datetime.combine(day, time(), zone)
    until = datetime.combine(day + timedelta(days=1), time(), zone)
    batches = recorded.records_between(actor, since, until)
    return _record(actor, day, batches, shelf.movements_between(actor, since, until))


def _record(
    actor: Actor, day: date | None, batches: list[BatchRecord], movements: list[shelf.MovementRow]
) -> Record:
    number, last = head(actor.kitchen.pk)
    return Record(
        kitchen=actor.kitchen.name,
        zone=actor.kitchen.zone,
        made_at=clock.now(),
        day=day,
        batches=batches,
        movements=[
            Moved(
                **dict(shelf.movement(one)),
                tub_id=one.tub_id,
                tub=f"{one.tub.name}, batch {one.tub.batch.number}, tub {one.tub.part}",
            )
            for one in movements
        ],
        closings=[] if day is None else closing.signed(actor, day),
        allergens=sorted({word for one in batches for word in one.allergens}),
        records=number,
        hash=last,
        caution=CAUTION,
    )


def as_csv(record: Record) -> str:
    """A record as a table, a line for everything that was read or done, times by the kitchen's clock.

    A cell that a spreadsheet would take for a formula is written as text.
    """
    out = io.StringIO()
    table = csv.writer(out)
    table.writerow(COLUMNS)
    for row in _rows(record):
        table.writerow([inert(row.get(name)) for name in COLUMNS])
    return out.getvalue()


def _rows(record: Record) -> Iterator[dict[str, object]]:
    zone = kitchen.zone_named(record.zone)

    def local(moment: datetime | None) -> str:
        return "" if moment is None else moment.astimezone(zone).isoformat(timespec="seconds")

    for batch in record.batches:
        own: dict[str, object] = {"batch": batch.number, "name": batch.name}
        for read in batch.temperatures:
            what = "read" if read.read_by == "probe" else "typed"
            yield {**own, "at": local(read.at), "what": what, "celsius": read.celsius, "by": read.read_by}
        for limit in batch.limits:
            said = f"limit {limit.state}"
            yield {**own, "at": local(limit.due_at), "what": said, "limit_c": limit.limit_c}
        for mark in batch.marks:
            words = (mark.what, mark.coat, mark.finger_line, mark.sieve, mark.note)
            yield {
                **own,
                "at": local(mark.at),
                "what": mark.kind,
                "stage": mark.stage,
                "celsius": mark.temperature_c,
                "grams": mark.grams,
                "by": mark.by,
                "note": " · ".join(word for word in words if word),
                "taken_back_at": local(mark.taken_back_at),
                "taken_back_by": mark.taken_back_by,
            }
    for move in record.movements:
        told = (move.to, move.into_batch, move.note, "taken back" if move.undone else "")
        yield {
            "name": move.tub,
            "at": local(move.at),
            "what": move.kind,
            "celsius": move.celsius,
            "grams": move.change_g,
            "by": move.by,
            "note": " · ".join(word for word in told if word),
        }


@maker("batch record")
def batch_as_pdf(actor: Actor, asked: Mapping[str, Any], report: Report) -> bytes:
    """The record of a batch as it is printed."""
    return _as_pdf(actor, of_batch(actor, asked["batch"]), report)


@maker("day record", large=True)
def day_as_pdf(actor: Actor, asked: Mapping[str, Any], report: Report) -> bytes:
    """The record of a day as it is printed."""
    return _as_pdf(actor, of_day(actor, date.fromisoformat(asked["day"])), report)


@maker("day record csv", CSV, large=True)
def day_as_csv(actor: Actor, asked: Mapping[str, Any], report: Report) -> bytes:
    """The record of a day as a table; a day of a hundred batches takes longer than a request may."""
    return as_csv(of_day(actor, date.fromisoformat(asked["day"]))).encode()


@maker("day record json", JSON, large=True)
def day_as_json(actor: Actor, asked: Mapping[str, Any], report: Report) -> bytes:
    """The record of a day in the published format."""
    return as_json(of_day(actor, date.fromisoformat(asked["day"]))).encode()


def as_json(record: Record) -> str:
    """A record in the published format."""
    return record.model_dump_json(indent=1)


def _as_pdf(actor: Actor, record: Record, report: Report) -> bytes:
    """A record as it is printed, in the units and by the clock of whoever prints it; of what a probe read, a
    line a minute."""
    zone, habits = kitchen.zone_named(record.zone), Habits(**actor.user.habits)
    return paper.pdf(
        "log/record.html",
        {
            "record": record,
            "batches": [_printed(one) for one in record.batches],
            "zone": zone,
            "made": record.made_at.astimezone(zone),
            "units": habits.units,
            "when": _times(habits.clock),
        },
        report,
    )


def _times(clock: str) -> dict[str, str]:
    """How times are written on a clock of 24 or of 12 hours, as formats of Django's `date`."""
    minute, second = ("H:i", "H:i:s") if clock == "24" else ("g:i A", "g:i:s A")
    return {
        "full": f"D j M Y, {minute}",
        "day": f"D j M, {minute}",
        "weekday": f"D {minute}",
        "short": f"j M {minute}",
        "exact": f"j M {second}",
        "second": second,
        "clock": minute,
    }


def _printed(batch: BatchRecord) -> dict[str, object]:
    """A batch for the page: its temperatures a line a minute, and what the eye needs beside them."""
    shown, last = [], None
    for one in batch.temperatures:
        if one.read_by != "probe" or last is None or one.at - last >= EACH_MINUTE:
            shown.append(one)
            last = one.at if one.read_by == "probe" else last
    return {
        "own": batch,
        "rule": batch.rule,
        "temperatures": shown,
        "left_out": len(batch.temperatures) - len(shown),
        "missed": [one for one in batch.limits if one.state == "missed"],
    }
