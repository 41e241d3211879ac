"""Long lists: any page of a log of 100 000 batches, words found in it, eight laid over one another, and the
first page of a book of 1 000 formulas."""

from __future__ import annotations

import json
import os
import random
import subprocess
import sys
import time
from collections.abc import Callable
from datetime import timedelta

from speed.assess import DRAFT, SERVER, Caller, percentile, served

BATCHES, FORMULAS, LOOKS = 100_000, 1000, 60
K = "/api/k/tidemill-house"


def fill() -> None:
    """Many batches of one, and many formulas; run in a process of its own."""
    import django  # noqa: PLC0415

    django.setup()
    from book import actions as book  # noqa: PLC0415
    from custard import read_formula  # noqa: PLC0415
    from kitchen.access import Actor  # noqa: PLC0415
    from kitchen.models import Kitchen, Role  # noqa: PLC0415
    from people.models import User  # noqa: PLC0415
    from stove.models import Batch  # noqa: PLC0415

    kitchen = Kitchen.objects.get(slug="tidemill-house")
    one = Batch.objects.filter(kitchen=kitchen).exclude(closed_at=None).first()
    if one is None:
        sys.exit("the demo kitchen has no closed batch")
    number, started = kitchen.next_batch, one.started_at
    for begin in range(0, BATCHES, 5000):
        rows = []
        for i in range(begin, begin + 5000):
            one.pk, one.number = None, number + i
            one.name, one.verdict_note = f"Sauce {i % 997} of {i % 31}", f"note {i % 4999} lifted well"
            one.started_at = started - timedelta(minutes=BATCHES - i)
            one.closed_at = one.started_at + timedelta(minutes=40)
            rows.append(Batch(**{field.attname: getattr(one, field.attname) for field in Batch._meta.fields}))
        Batch.objects.bulk_create(rows)
    Kitchen.objects.filter(pk=kitchen.pk).update(next_batch=number + BATCHES)
    actor = Actor(User.objects.get(username="pastry"), kitchen, Role.CHEF)
    for i in range(FORMULAS):
        content = json.loads(json.dumps(DRAFT))
        content["name"] = f"Sauce {i:04}"
        content["lines"][2]["amount"] = f"{60 + i / 10:.1f} g"
        book.add(actor, read_formula(content))


def measure(port: int) -> None:
    """Pages at random, then the book cold and warm."""
    caller = Caller(port)
    caller.log_in()
    dice = random.Random(1)  # noqa: S311 which pages are looked at
    took = [caller("GET", f"{K}/log?before={dice.randint(60, BATCHES)}") for _ in range(LOOKS)]
    found = [
        caller("GET", f"{K}/log?words=note+{dice.randint(0, 4998)}&verdict=good&since=2020-01-01")
        for _ in range(LOOKS)
    ]
    first = caller.ask("GET", f"{K}/log?words=bay")["lines"][:8]
    ids = ",".join(str(line["id"]) for line in first)
    laid = [caller("GET", f"{K}/log/overlay?batches={ids}") for _ in range(LOOKS // 3)]
    bare = [caller("GET", "/bare") for _ in range(LOOKS)]
    print(f"any page of a log of {BATCHES} batches: p95 {percentile(took, 0.95):.0f} ms,", end="")
    print(f" words found in it: p95 {percentile(found, 0.95):.0f} ms,", end="")
    print(f" {len(first)} laid over one another: p95 {percentile(laid, 0.95):.0f} ms", end="")
    print(f" (a bare view {percentile(bare, 0.95):.0f} ms)")
    cold = caller("GET", f"{K}/formulas?words=sauce")
    warm = [caller("GET", f"{K}/formulas?words=sauce") for _ in range(LOOKS)]
    print(f"the book of {FORMULAS} formulas, first page: cold {cold:.0f} ms, ", end="")
    print(f"warm p95 {percentile(warm, 0.95):.0f} ms")
    began = time.perf_counter()
    code = "import django; django.setup(); from book import tasks; tasks.fill_books(0)"
    subprocess.run([sys.executable, "-c", code], cwd=SERVER, env=environment_of(), check=True)
    print(f"  the worker fills the rest in {time.perf_counter() - began:.1f} s")


def environment_of() -> dict[str, str]:
    """The environment of a process of the benchmark."""
    return {**os.environ, "DJANGO_SETTINGS_MODULE": "speed.settings"}


def fill_and_measure(module: str, fill: Callable[[], None], measure: Callable[[int], None]) -> None:
    """Fill a database in a process of its own, which loads Django, and measure the server on it in this one.

    Parameters
    ----------
    module : the benchmark as `python -m` runs it; with the argument `fill` it only fills.
    fill : fills the database.
    measure : measures the server at a port.
    """
    if "fill" in sys.argv:
        fill()
        return
    prepare = [sys.executable, "manage.py", "prepare", "--demo", "--quiet"]
    for command in (prepare, [sys.executable, "-m", module, "fill"]):
        subprocess.run(command, cwd=SERVER, env=environment_of(), check=True)
    served(measure)


if __name__ == "__main__":
    fill_and_measure("speed.lists", fill, measure)
