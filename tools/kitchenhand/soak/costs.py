"""`./spoon costs`: what a kitchen costs in processor, memory and bytes, measured on this machine, and what
follows from that for many kitchens."""

from __future__ import annotations

import contextlib
import os
import random
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from kitchenhand import machine
from kitchenhand.client import Client
from kitchenhand.crew import LOOPBACK
from kitchenhand.soak import people
from kitchenhand.soak.ledger import Ledger
from kitchenhand.soak.memory import resident_mb
from kitchenhand.soak.soak import House, house

COOKS, SCREENS, SAMPLE_S, SETTLE_S = 5, 10, 60.0, 15.0
TICKS = os.sysconf("SC_CLK_TCK")
BATCHES_A_DAY, READ_S, MARKS, MOVES = 12, 1500, 40, 8
"""A quiet day: its batches, and for each the seconds that its probe reads, its marks and its movements."""
COOKING_AT_ONCE, LOOKED_AT_BY = 3, 4
"""What a kitchen has on at its busiest: live batches, and screens that look at them."""
BUSY_SHARE = 0.6
"""Of a machine's processor so much is used at its busiest; the rest is for what nobody foresaw."""
AT_THEIR_BUSIEST = 0.3
"""Of many kitchens so many are at their busiest at once."""
MANY = 10_000
YEAR = 365


@dataclass(frozen=True)
class Costs:
    """Processor shares of one core, sizes [MB] and bytes [B]."""

    idle: float
    batch: float
    screen: float
    web_mb: float
    worker_mb: float
    database_mb: float
    reading_b: float
    mark_b: float
    move_b: float

    def of_busy_kitchen(self) -> float:
        """The share of a core that a kitchen takes at its busiest."""
        return COOKING_AT_ONCE * self.batch + LOOKED_AT_BY * self.screen

    def of_day_b(self) -> float:
        """The bytes of a quiet day."""
        return BATCHES_A_DAY * (READ_S * self.reading_b + MARKS * self.mark_b + MOVES * self.move_b)


def run() -> int:
    """Measure and print."""
    machine.ensure(tests=False)
    with house() as here:
        _print(_measured(here))
    return 0


def _measured(here: House) -> Costs:
    assert here.crew.door is not None  # noqa: S101 a house has one
    address = f"{LOOPBACK}:{here.crew.door.port}"
    time.sleep(SETTLE_S)
    idle = _share(here)
    readings, marks = _rows(here, "devices_reading"), _rows(here, "stove_mark")
    before = {name: _bytes(here, name) for name in ("devices_reading", "stove_mark", "records_entry")}
    with _at_work(address, "cooks", COOKS, people.cook):
        time.sleep(SETTLE_S)
        cooking = _share(here)
        sizes = [resident_mb(one.running.pid) for one in here.crew.processes]
    with _at_work(address, "screens", SCREENS, people.screen):
        time.sleep(SETTLE_S)
        looking = _share(here)
    new = _rows(here, "devices_reading") - readings, _rows(here, "stove_mark") - marks
    grown = {name: _bytes(here, name) - size for name, size in before.items()}
    entry = grown["records_entry"] / max(1, sum(new))
    return Costs(
        idle=idle,
        batch=max(0.0, cooking - idle) / COOKS,
        screen=max(0.0, looking - idle) / SCREENS,
        web_mb=sizes[0],
        worker_mb=sizes[1],
        database_mb=sum(resident_mb(pid) for pid in _database(here)),
        reading_b=grown["devices_reading"] / max(1, new[0]) + entry,
        mark_b=grown["stove_mark"] / max(1, new[1]) + entry,
        move_b=_bytes(here, "shelf_movement") / max(1, _rows(here, "shelf_movement")) + entry,
    )


@contextlib.contextmanager
def _at_work(address: str, name: str, many: int, work: Callable[[people.Person], None]):  # type: ignore[no-untyped-def]
    """So many at work while the block runs."""
    stop, ledger, threads = threading.Event(), Ledger(), []
    for number in range(many):
        dice = random.Random(number)  # noqa: S311 a rehearsal, not a secret
        one = people.Person(name, Client(address), ledger, stop, dice)
        threads.append(threading.Thread(target=one.run, args=(work,), daemon=True))
        threads[-1].start()
    try:
        yield
    finally:
        stop.set()
        for thread in threads:
            thread.join(30.0)


def _share(here: House) -> float:
    """The share of a core that everything of ours takes, over a minute."""
    before, began = _spent_s(here), time.monotonic()
    time.sleep(SAMPLE_S)
    return (_spent_s(here) - before) / (time.monotonic() - began)


def _spent_s(here: House) -> float:
    """The processor time of our processes and of PostgreSQL's, those that have ended included [s]."""
    return (
        sum(_ticks(pid) for pid in (*(one.running.pid for one in here.crew.processes), *_database(here)))
        / TICKS
    )


def _database(here: House) -> list[int]:
    main = int((here.cluster.folder / "data" / "postmaster.pid").read_text().split("\n", 1)[0])
    children = Path(f"/proc/{main}/task/{main}/children").read_text().split()
    return [main, *map(int, children)]


def _ticks(pid: int) -> int:
    with contextlib.suppress(OSError):
        fields = Path(f"/proc/{pid}/stat").read_text().rpartition(")")[2].split()
        return sum(map(int, fields[11:15]))
    return 0


def _rows(here: House, table: str) -> int:
    return int(here.cluster.sql("oldspoon", f"SELECT count(*) FROM {table}"))  # noqa: S608 names of ours


def _bytes(here: House, table: str) -> int:
    """With indexes, and with the tables of all months."""
    # A table that is not divided has no tree.
    size = (
        f"SELECT coalesce(sum(pg_total_relation_size(relid)), pg_total_relation_size('{table}')) "  # noqa: S608
        f"FROM pg_partition_tree('{table}')"
    )
    return int(here.cluster.sql("oldspoon", size))


def _print(costs: Costs) -> None:
    cores = os.cpu_count() or 1
    day, busy = costs.of_day_b(), costs.of_busy_kitchen()
    at_once = BUSY_SHARE * (cores - costs.idle) / busy
    print(f"\nmeasured with {COOKS} cooks and {SCREENS} screens, a minute each, on {cores} cores")
    for name, value in (
        ("nothing going on", _core(costs.idle)),
        ("a live batch, its probe read every second", _core(costs.batch)),
        ("a screen that is looked at", _core(costs.screen)),
        ("memory of the web server", f"{costs.web_mb:.0f} MB"),
        ("memory of the worker", f"{costs.worker_mb:.0f} MB"),
        ("memory of PostgreSQL, shared pages counted in each", f"{costs.database_mb:.0f} MB"),
        ("a reading, with its entry in the chain", f"{costs.reading_b:.0f} B"),
        ("a mark, with its entry", f"{costs.mark_b:.0f} B"),
        ("a movement, with its entry", f"{costs.move_b:.0f} B"),
    ):
        print(f"  {name:52} {value}")
    print("what follows")
    for name, value in (
        (f"a quiet day, {BATCHES_A_DAY} batches of {READ_S} readings each", f"{day / 1e6:.1f} MB"),
        ("a year, before old readings are thinned", f"{day * YEAR / 1e9:.1f} GB"),
        (f"a kitchen at its busiest, {COOKING_AT_ONCE} batches, {LOOKED_AT_BY} screens", _core(busy)),
        ("kitchens at their busiest on this machine", f"{at_once:.0f}"),
        ("live batches and screens then", f"{at_once * COOKING_AT_ONCE:.0f}, {at_once * LOOKED_AT_BY:.0f}"),
        (f"kitchens, {AT_THEIR_BUSIEST:.0%} of them at their busiest", f"{at_once / AT_THEIR_BUSIEST:.0f}"),
        (f"cores for {MANY:,} kitchens", f"{MANY * AT_THEIR_BUSIEST * busy / BUSY_SHARE:.0f}"),
        (f"disk for {MANY:,} kitchens, a year", f"{MANY * day * YEAR / 1e12:.1f} TB"),
    ):
        print(f"  {name:52} {value}")


def _core(share: float) -> str:
    return f"{100 * share:.1f} % of a core"
