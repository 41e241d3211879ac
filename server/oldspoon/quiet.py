"""Logs that can be read: no loop says the same thing again and again."""

from __future__ import annotations

import logging
import time

EVERY_S = 60.0
MOST_KEPT = 1000


class OncePerMinute(logging.Filter):
    """Lets a sentence of a logger through once a minute; the next one says how often it came meanwhile."""

    def __init__(self) -> None:
        super().__init__()
        self._last: dict[tuple[str, str], tuple[float, int]] = {}

    def filter(self, record: logging.LogRecord) -> bool:
        """Whether this one is written."""
        key, now = (record.name, record.getMessage()), time.monotonic()
        said = self._last.get(key)
        if said is not None and now - said[0] < EVERY_S:
            self._last[key] = (said[0], said[1] + 1)
            return False
        if len(self._last) >= MOST_KEPT:
            self._last.clear()
        self._last[key] = (now, 0)
        if said is not None and said[1]:
            record.msg = f"{record.msg} ({said[1]} times more in the last minute)"
        return True
