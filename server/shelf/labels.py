"""Labels: the words of one as it is printed, its QR code, and the sheets they are printed on."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo

import custard
import segno
from common import clock, paper
from common.paper import Report
from kitchen import reads as kitchen
from kitchen.access import Actor
from papers.orders import maker
from people.schemas import Habits
from stove.reads import shown

from shelf import facts, reads
from shelf.reads import TubRow
from shelf.schemas import LabelOut

QUIET = 4
"""Light modules round a QR code, without which readers do not find it."""
WRITTEN = {"24": "%a %-d %b %Y, %H:%M", "12": "%a %-d %b %Y, %-I:%M %p"}
"""A time on a label, by a clock of so many hours."""
STORED = {
    "fridge": "Fridge, covered, {5 C} or colder",
    "thawing": "Thawing in the fridge, {5 C} or colder",
    "frozen": "Freezer, {-18 C} or colder; film right on it",
}


def labels(actor: Actor, ids: Sequence[int], root: str) -> list[LabelOut]:
    """The labels of some tubs; `root` is the address of this kitchen, as a phone would open it.

    Degrees, weights and times are as whoever prints them reads them.
    """
    zone, now = kitchen.zone_of(actor.kitchen), clock.now()
    habits = Habits(**actor.user.habits)
    return [_label(row, zone, root, now, habits) for row in reads.chosen(actor, ids)]


def _label(row: TubRow, zone: ZoneInfo, root: str, now: datetime, habits: Habits) -> LabelOut:
    units, hours = habits.units, habits.clock
    url = f"{root}/stove/{row.batch_id}"
    path, size = qr(url)
    part = f" · tub {row.part}" if row.part > 1 else ""
    stored = STORED.get(row.place) or f"Warm, {{{row.warm_c:g} C}} or hotter"
    return LabelOut(
        tub_id=row.pk,
        name=row.name,
        batch=f"batch {row.batch.number}{part}",
        made=written(row.made_at, zone, hours),
        use_by=written(row.use_by, zone, hours),
        use_by_why=custard.plain_degrees(row.use_by_why, units),
        throw_away=custard.plain_degrees(facts.judged(row, now).why, units),
        allergens=", ".join(row.allergens) or "no declared allergen",
        unheated=", ".join(row.unheated),
        changed="; ".join(row.batch.changed),
        undecided=bool(row.life.get("missing")),
        storage=custard.plain_degrees(stored, units),
        grams=custard.weight_text(reads.grams(row.left_g), units),
        who=shown(row.batch.started_by),
        vulnerable=row.batch.vulnerable,
        url=url,
        qr=path,
        size=size,
    )


def written(moment: datetime, zone: ZoneInfo, hours: str = "24") -> str:
    """A time by the kitchen's clock, as it is printed."""
    return moment.astimezone(zone).strftime(WRITTEN[hours])


def qr(text: str) -> tuple[str, int]:
    """A QR code as a path of its dark modules, and how many modules it is wide."""
    code = segno.make(text, error="m", micro=False)
    steps = []
    for y, row in enumerate(code.matrix):
        x = 0
        while x < len(row):
            run = x
            while run < len(row) and row[run]:
                run += 1
            if run > x:
                steps.append(f"M{x + QUIET} {y + QUIET}h{run - x}v1h-{run - x}z")
            x = max(run, x + 1)
    return "".join(steps), len(code.matrix) + 2 * QUIET


@maker("labels")
def sheet(actor: Actor, asked: Mapping[str, Any], report: Report) -> bytes:
    """Labels as PDF: one below the other for a roll of 62 mm, or on sheets of A4."""
    found = labels(actor, asked["tubs"], asked["root"])
    return paper.pdf("shelf/labels.html", {"labels": found, "size": asked["size"]}, report)
