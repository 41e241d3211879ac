"""What the command tells the person who typed it."""

from __future__ import annotations

import re
import subprocess
import sys
import time
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

from kitchenhand.places import LOGS, ROOT

LAST_LINES = 25
"""How much of a failed program's output is shown."""


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


def logged(
    command: list[str | Path] | list[str],
    what: str,
    *,
    cwd: Path = ROOT,
    env: Mapping[str, str] | None = None,
) -> Path:
    """Run a program; its output goes to a log, which is returned.

    Raises
    ------
    Trouble
        when it fails: the last lines of its output, and where the rest is.
    """
    LOGS.mkdir(parents=True, exist_ok=True)
    log = LOGS / f"{re.sub(r'[^a-z]+', '-', what.lower())}.log"
    with log.open("w") as out:
        done = subprocess.run(command, cwd=cwd, env=env, stdout=out, stderr=subprocess.STDOUT, check=False)
    if done.returncode:
        tail = "\n".join(log.read_text(errors="replace").splitlines()[-LAST_LINES:])
        raise Trouble(f"{tail}\n{what[0].upper()}{what[1:]} failed; the whole output is in {log}.")
    return log
