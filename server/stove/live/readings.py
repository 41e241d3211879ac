"""Readings of open batches, fetched once: each look asks only for what came in since the last.

A worker's memory and nothing more: another worker, or the same one after a restart, fetches them again.
"""

from __future__ import annotations

import threading
from collections import OrderedDict
from datetime import datetime

from devices import reads as devices

from stove.batch.cooking import MOST_READINGS
from stove.models import Batch

BATCHES = 200
"""So many batches' readings are kept; those not looked at for longest are let go."""


OVERLAP = 2000
"""Ids are given before they are committed: so many before the newest are asked for again."""


class Kept:
    """What probes read, by use: the newest id fetched, and the readings by time."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._uses: OrderedDict[int, tuple[int, dict[datetime, float]]] = OrderedDict()

    def read(self, batch: Batch, since: datetime, until: datetime | None) -> list[tuple[datetime, float]]:
        """As `cooking.read_by_probes`, fetching only what is new."""
        found: list[tuple[datetime, float]] = []
        for use in batch.probes.all():
            with self._lock:
                last, known = self._uses.pop(use.pk, (0, {}))
            new = devices.readings_after(use.device_id, last - OVERLAP, use.since)
            known = {**known, **{at: celsius - use.reads_high_k for _, at, celsius in new}} if new else known
            with self._lock:
                self._uses[use.pk] = (max(last, new[-1][0]) if new else last, known)
                while len(self._uses) > BATCHES:
                    self._uses.popitem(last=False)
            ends = [end for end in (use.until, until) if end is not None]
            end = min(ends) if ends else None
            begins = max(since, use.since)
            found += [(at, c) for at, c in known.items() if at >= begins and (end is None or at < end)]
        found.sort()
        return found[:: max(1, len(found) // MOST_READINGS)] if len(found) > 2 * MOST_READINGS else found
