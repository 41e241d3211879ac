"""What the database holds after a soak, against what was acknowledged."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from kitchenhand.cluster import Cluster
from kitchenhand.soak.ledger import Ledger

HELD = {
    "reading": "SELECT device_id || ' ' || to_char(at AT TIME ZONE 'UTC', 'YYYY-MM-DD\"T\"HH24:MI:SS.US') "
    "FROM devices_reading",
    "mark": "SELECT id FROM stove_mark",
    "draw": "SELECT id FROM shelf_movement",
}
ALARMS = (
    "SELECT batch_id, what, count(*) FROM stove_mark WHERE kind = 'alarm' AND by_id IS NULL GROUP BY 1, 2"
)


def lost(cluster: Cluster, ledger: Ledger) -> Iterator[tuple[str, int, int]]:
    """By kind of write: how many were acknowledged, and how many of those are not there."""
    for kind, question in HELD.items():
        there = set(cluster.sql("oldspoon", question).split("\n"))
        sent = {_plain(key) if kind == "reading" else key for key in ledger.written[kind]}
        yield kind, len(sent), len(sent - there)


def _plain(key: str) -> str:
    """A reading's key as the database writes it."""
    device, at = key.split(" ", 1)
    return f"{device} {datetime.fromisoformat(at):%Y-%m-%dT%H:%M:%S.%f}"


def alarms(cluster: Cluster, ledger: Ledger) -> tuple[int, int, int]:
    """How many alarms there are, how many were raised twice, and how many batches that were held far too
    hot have none."""
    rows = [line.split("|") for line in cluster.sql("oldspoon", ALARMS).split("\n") if line]
    called = {int(batch) for batch, _, _ in rows}
    return len(rows), sum(int(count) > 1 for _, _, count in rows), len(ledger.batches - called)
