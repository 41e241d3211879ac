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

from speed.assess import DRAFT, SERVER, Caller, percentile, served

BATCHES, FORMULAS, LOOKS = 100_000, 1000, 60
K = "/api/k/tidemill-house"


def fill() -> None:
    """Many batches and readings like those of one batch, and many formulas; run in a process of its own."""
    import django  # noqa: PLC0415

    django.setup()
    from book import actions as book  # noqa: PLC0415
    from custard import read_formula  # noqa: PLC0415
    from kitchen.access import Actor  # noqa: PLC0415
    from kitchen.models import Kitchen, Role  # noqa: PLC0415
    from people.models import User  # noqa: PLC0415

    _fill_batches()
    kitchen = Kitchen.objects.get(slug="tidemill-house")
    actor = Actor(User.objects.get(username="pastry"), kitchen, Role.CHEF)
    for i in range(FORMULAS):
        content = json.loads(json.dumps(DRAFT))
        content["name"] = f"Sauce {i:04}"
        content["lines"][2]["amount"] = f"{60 + i / 10:.1f} g"
        book.add(actor, read_formula(content))


APART_MIN, READINGS = 40, 100
"""Batches begin so many minutes apart, and each has so many readings."""
INSIDE = {
    "id": "1000000 + i",
    "number": "kitchen_number + i",
    "name": "'Sauce ' || i % 997 || ' of ' || i % 31",
    "verdict_note": "'note ' || i % 4999 || ' lifted well'",
    "started_at": "begun",
    "closed_at": "begun + interval '30 min'",
}
COPIES = (
    (
        "stove_batchlesson",
        {"batch_id": "1000000 + i", "started_at": "begun"},
        "row.batch_id = one.id",
    ),
    (
        "stove_mark",
        {"id": "gen_random_uuid()", "batch_id": "1000000 + i", "at": "begun + (row.at - one.started_at)"},
        "row.batch_id = one.id AND row.kind IN ('spoon', 'off-heat', 'into-ice', 'sieve', 'closed')",
    ),
    (
        "stove_probeuse",
        {
            "id": "1000000 + i",
            "batch_id": "1000000 + i",
            "since": "begun",
            "until": "begun + interval '30 min'",
        },
        "row.id = (SELECT min(id) FROM stove_probeuse WHERE batch_id = one.id)",
    ),
)


def _fill_batches() -> None:
    """By statements of SQL, past the triggers: chaining so many batches is not what is measured."""
    from django.db import connection, transaction  # noqa: PLC0415

    def columns(table: str) -> list[str]:
        cursor.execute(f"SELECT * FROM {table} LIMIT 0")
        return [one[0] for one in cursor.description]

    source = f"""
        SELECT id, started_at, i, {BATCHES} AS kitchen_number,
               started_at - ({BATCHES} + 100 - i) * interval '{APART_MIN} min' AS begun
        FROM (SELECT id, started_at FROM stove_batch
              WHERE closed_at IS NOT NULL
              AND EXISTS (SELECT FROM stove_probeuse WHERE batch_id = stove_batch.id)
              ORDER BY id LIMIT 1) chosen, generate_series(1, {BATCHES}) i"""
    tables = ("stove_batch", "stove_mark", "stove_probeuse", "devices_reading")
    with transaction.atomic(), connection.cursor() as cursor:
        for table in tables:
            cursor.execute(f"ALTER TABLE {table} DISABLE TRIGGER USER")
        cursor.execute(f"SELECT devices_make_months(min(begun), max(begun)) FROM ({source}) one")
        for table, changed, where in (("stove_batch", INSIDE, "row.id = one.id"), *COPIES):
            names = columns(table)
            values = ", ".join(changed.get(name, f'row."{name}"') for name in names)
            listed = ", ".join(f'"{name}"' for name in names)
            cursor.execute(
                f"INSERT INTO {table} ({listed}) SELECT {values} "
                f"FROM ({source}) one JOIN {table} row ON {where}"
            )
        cursor.execute(
            f"""INSERT INTO devices_reading (device_id, at, celsius)
            SELECT probe.device_id, begun + second * interval '15 s', 40 + second / 2.0
            FROM ({source}) one JOIN LATERAL (
                SELECT device_id FROM stove_probeuse WHERE batch_id = one.id LIMIT 1) probe ON true,
            generate_series(1, {READINGS}) second"""
        )
        # What a row refers to is looked at now, not at the end: a table with that pending cannot be altered.
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        for table in tables:
            cursor.execute(f"ALTER TABLE {table} ENABLE TRIGGER USER")
        cursor.execute("UPDATE kitchen_kitchen SET next_batch = %s", [3 * BATCHES])
    with connection.cursor() as cursor:
        cursor.execute("VACUUM ANALYZE stove_batch, stove_mark, stove_probeuse, devices_reading")


def measure(port: int) -> None:
    """Pages at random, then the book cold and warm."""
    caller = Caller(port)
    caller.log_in()
    dice = random.Random(1)  # noqa: S311 which pages are looked at
    took = [caller("GET", f"{K}/log?before={dice.randint(BATCHES + 60, 2 * BATCHES)}") for _ in range(LOOKS)]
    found = [
        caller("GET", f"{K}/log?words=note+{dice.randint(0, 4998)}&verdict=good&since=2020-01-01")
        for _ in range(LOOKS)
    ]
    first = caller.ask("GET", f"{K}/log?words=sauce")["lines"][:8]
    ids = ",".join(str(line["id"]) for line in first)
    laid = [caller("GET", f"{K}/log/overlay?batches={ids}") for _ in range(LOOKS // 3)]
    choices = [caller("GET", f"{K}/log/choices") for _ in range(LOOKS // 3)]
    months = [caller("GET", f"{K}/log/months") for _ in range(LOOKS // 3)]
    bare = [caller("GET", "/bare") for _ in range(LOOKS)]
    print(f"any page of a log of {BATCHES} batches: p95 {percentile(took, 0.95):.0f} ms,", end="")
    print(f" words found in it: p95 {percentile(found, 0.95):.0f} ms,", end="")
    print(f" {len(first)} laid over one another: p95 {percentile(laid, 0.95):.0f} ms", end="")
    print(f" (a bare view {percentile(bare, 0.95):.0f} ms)")
    print(f"what it can be searched by: p95 {percentile(choices, 0.95):.0f} ms,", end="")
    print(f" twelve months at a glance: p95 {percentile(months, 0.95):.0f} ms")
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
