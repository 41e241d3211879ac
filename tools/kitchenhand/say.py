"""What the command prints for the person who typed it."""

from __future__ import annotations

import re
import subprocess
import sys
import threading
import time
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

from kitchenhand.places import LOGS, ROOT

LAST_LINES = 25
"""How much of a failed program's output is shown."""
_printing = threading.Lock()
_running: set[subprocess.Popen[bytes]] = set()


class Trouble(Exception):
    """Something a person has to put right; its text is one clear sentence."""


def step(text: str) -> None:
    """One line of progress; lines of steps that run side by side are never mixed."""
    with _printing:
        print(f"· {text}", flush=True)


@contextmanager
def timed(text: str) -> Iterator[None]:
    """A line of progress now, and one with the time it took when it is done."""
    started = time.monotonic()
    step(f"{text} …")
    yield
    step(f"{text}: done in {time.monotonic() - started:.1f} s")


def fail(text: str) -> None:
    """One sentence to standard error."""
    with _printing:
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
        process = subprocess.Popen(
            command, cwd=cwd, env=env, stdin=subprocess.DEVNULL, stdout=out, stderr=subprocess.STDOUT
        )
        _running.add(process)
        try:
            process.wait()
        except BaseException:
            process.kill()
            process.wait()
            raise
        finally:
            _running.discard(process)
    if process.returncode:
        tail = "\n".join(log.read_text(errors="replace").splitlines()[-LAST_LINES:])
        raise Trouble(f"{tail}\n{what[0].upper()}{what[1:]} failed; the whole output is in {log}.")
    return log


def end_running() -> None:
    """End every program that `logged` is still waiting for."""
    for process in list(_running):
        process.terminate()
