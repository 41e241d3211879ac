"""What was sent, what was acknowledged and how it was answered, by all who take part."""

from __future__ import annotations

import statistics
import threading
from collections import Counter, defaultdict
from dataclasses import dataclass, field

from kitchenhand.client import UNAVAILABLE, Answer

REFUSED, SERVER_ERROR = 400, 500
NO_ANSWER = "no answer"


@dataclass
class Ledger:
    """Filled by many threads at once.

    `written` holds, by kind, the ids of what was acknowledged; `wrong` holds answers that must not be,
    `refused` those that say that the asking was wrong.
    """

    written: dict[str, set[str]] = field(default_factory=lambda: defaultdict(set))
    answers: Counter[str] = field(default_factory=Counter)
    wrong: Counter[str] = field(default_factory=Counter)
    refused: Counter[str] = field(default_factory=Counter)
    seconds: dict[str, list[float]] = field(default_factory=lambda: defaultdict(list))
    batches: set[int] = field(default_factory=set)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def acknowledged(self, kind: str, key: str) -> None:
        """The server has said that it keeps this."""
        with self._lock:
            self.written[kind].add(key)

    def answered(self, who: str, what: str, answer: Answer | None, took_s: float) -> None:
        """An answer, or none, to what somebody asked."""
        with self._lock:
            self.answers[NO_ANSWER if answer is None else str(answer.status)] += 1
            if answer is None:
                return
            self.seconds[who].append(took_s)
            waits = answer.status == UNAVAILABLE and answer.retry_s is not None
            if answer.status >= SERVER_ERROR and not waits:
                self.wrong[f"{answer.status} to {what}"] += 1
            if REFUSED <= answer.status < SERVER_ERROR:
                self.refused[f"{answer.status} to {what}: {answer.body}"] += 1

    def cooked(self, batch: int) -> None:
        """This batch was held well above its stop for long enough to be called."""
        with self._lock:
            self.batches.add(batch)

    def quantiles_s(self, who: str) -> tuple[float, float, float]:
        """Median, 95th percentile and longest time that somebody waited for an answer [s]."""
        with self._lock:
            found = sorted(self.seconds[who])
        if not found:
            return 0.0, 0.0, 0.0
        return statistics.median(found), found[int(0.95 * (len(found) - 1))], found[-1]

    def count(self) -> int:
        """How many writes were acknowledged until now."""
        with self._lock:
            return sum(len(keys) for keys in self.written.values())
