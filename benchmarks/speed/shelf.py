"""A large shelf: any page of 2 000 tubs with 100 000 movements, a search, one tub, and a chain to recall."""

from __future__ import annotations

import random
import sys
import uuid
from datetime import timedelta

from speed.assess import Caller, percentile
from speed.lists import K, fill_and_measure

TUBS, MOVEMENTS, LOOKS = 2000, 100_000, 60
GOAL_MS = 100


def fill() -> None:
    """Many tubs of as many batches, drawn from again and again; run in a process of its own."""
    import django  # noqa: PLC0415

    django.setup()
    from common import clock  # noqa: PLC0415
    from kitchen.models import Kitchen  # noqa: PLC0415
    from people.models import User  # noqa: PLC0415
    from shelf.models import Movement, Tub  # noqa: PLC0415
    from stove.models import Batch  # noqa: PLC0415

    kitchen, user = Kitchen.objects.get(slug="tidemill-house"), User.objects.get(username="pastry")
    batch = Batch.objects.filter(kitchen=kitchen, tubs__what="sauce").first()
    if batch is None:
        sys.exit("the demo kitchen has no batch that was put away")
    tub = Tub.objects.filter(batch=batch, what="sauce").first()
    number, now = kitchen.next_batch, clock.now()
    batches = []
    for i in range(TUBS):
        batch.pk, batch.number = None, number + i
        batches.append(Batch(**{one.attname: getattr(batch, one.attname) for one in Batch._meta.fields}))
    made = Batch.objects.bulk_create(batches)
    Kitchen.objects.filter(pk=kitchen.pk).update(next_batch=number + TUBS)
    tubs = []
    for i, one in enumerate(made):
        tub.pk, tub.batch, tub.part, tub.left_g, tub.promised_g = None, one, 1, 0, 0
        tub.use_by = now + timedelta(minutes=i)
        tubs.append(Tub(**{each.attname: getattr(tub, each.attname) for each in Tub._meta.fields}))
    tubs = Tub.objects.bulk_create(tubs)
    dice, each = random.Random(2), MOVEMENTS // TUBS  # noqa: S311 what was drawn
    for begin in range(0, TUBS, 100):
        rows = []
        for place, one in enumerate(tubs[begin : begin + 100], start=begin):
            for turn in range(each):
                into = made[dice.randint(place + 1, TUBS - 1)] if turn == 1 and place + 1 < TUBS else None
                rows.append(
                    Movement(
                        id=uuid.uuid4(),
                        kitchen=kitchen,
                        tub=one,
                        kind="used" if turn else "made",
                        at=now - timedelta(hours=each - turn),
                        by=user,
                        change_g=-dice.randint(1, 9) if turn else 1000,
                        to=f"plate {turn}",
                        into=into,
                    )
                )
        Movement.objects.bulk_create(rows)


def measure(port: int) -> None:
    """Pages at random, searches, tubs and chains."""
    caller = Caller(port)
    caller.log_in()
    page = caller.ask("GET", f"{K}/shelf")
    cursors, ids, batches = [""], [], []
    while page["after"]:
        cursors.append(f"?after={page['after'].replace('+', '%2B')}")
        ids += [tub["id"] for tub in page["tubs"]]
        batches += [tub["batch_id"] for tub in page["tubs"]]
        page = caller.ask("GET", f"{K}/shelf{cursors[-1]}")
    dice = random.Random(3)  # noqa: S311 which pages are looked at
    asked = {
        f"any page of a shelf of {TUBS} tubs": lambda: f"{K}/shelf{dice.choice(cursors)}",
        "its first page": lambda: f"{K}/shelf",
        "a search in it": lambda: f"{K}/shelf?q=milk",
        f"one tub of {MOVEMENTS // TUBS} movements": lambda: f"{K}/tubs/{dice.choice(ids)}",
        f"a chain both ways, over {MOVEMENTS} movements": lambda: f"{K}/batches/{dice.choice(batches)}/trace",
        "the whites of a week": lambda: f"{K}/whites",
    }
    bare = percentile([caller("GET", "/bare") for _ in range(LOOKS)], 0.95)
    for what, path in asked.items():
        took = [caller("GET", path()) for _ in range(LOOKS)]
        p95 = percentile(took, 0.95)
        reached = "" if p95 <= GOAL_MS else f", more than {GOAL_MS}"
        print(f"{what}: p95 {p95:.0f} ms{reached} ({p95 / bare:.0f} times a bare view, {bare:.0f} ms)")


if __name__ == "__main__":
    fill_and_measure("speed.shelf", fill, measure)
