"""How much memory the processes hold during a soak."""

from __future__ import annotations

import contextlib
import re
import statistics
import threading
import time
from collections import defaultdict
from dataclasses import dataclass, field
from pathlib import Path

from kitchenhand.crew import Crew

EVERY_S = 5.0
SETTLED_S = 600.0
"""Only after that the memory must be flat."""


@dataclass
class Memory:
    """Resident sizes by process: one life of a process after another, each with its largest size [MB]."""

    crew: Crew
    stop: threading.Event
    began: float = field(default_factory=time.monotonic)
    lives: dict[str, dict[int, tuple[float, float]]] = field(default_factory=lambda: defaultdict(dict))

    def watch(self) -> None:
        """Look every few seconds until the end."""
        while not self.stop.wait(EVERY_S):
            for process in list(self.crew.processes):
                size = resident_mb(process.running.pid)
                began, largest = self.lives[process.name].get(process.running.pid, (self._passed(), 0.0))
                self.lives[process.name][process.running.pid] = (began, max(largest, size))

    def _passed(self) -> float:
        return time.monotonic() - self.began

    def medians_mb(self, name: str) -> tuple[float, float]:
        """The median largest size in the first and in the second half of what came after the first minutes.

        A soak shorter than that is halved as a whole.
        """
        lives = sorted(self.lives[name].values())
        later = [one for one in lives if one[0] > SETTLED_S] if self._passed() > 2 * SETTLED_S else lives
        sizes = [largest for _, largest in later if largest] or [0.0]
        half = max(1, len(sizes) // 2)
        return statistics.median(sizes[:half]), statistics.median(sizes[half:] or sizes)


def resident_mb(pid: int) -> float:
    """The memory that a process holds now [MB]; 0 once it is gone."""
    with contextlib.suppress(OSError):
        found = re.search(r"VmRSS:\s+(\d+)", Path(f"/proc/{pid}/status").read_text())
        return int(found[1]) / 1024 if found else 0.0
    return 0.0
