"""What the command tells the person who typed it."""

from __future__ import annotations

import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager


class Trouble(Exception):
    """Something a person has to mend; its text is one clear sentence."""


def step(text: str) -> None:
    """One line of progress."""
    print(f"· {text}", flush=True)


@contextmanager
def timed(text: str) -> Iterator[None]:
    """A line of progress now, and how long it took when it is done."""
    started = time.monotonic()
    print(f"· {text} …", flush=True)
    yield
    print(f"  done in {time.monotonic() - started:.1f} s", flush=True)


def fail(text: str) -> None:
    """One sentence to standard error."""
    print(text, file=sys.stderr, flush=True)
