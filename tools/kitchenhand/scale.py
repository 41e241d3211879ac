"""A simulated kitchen scale: a stand-in that speaks to the application only as a real one would.

Type grams and they are put on it, "-50" and they are taken off, "tare" and it shows nothing again. What it
shows swings a little while something is put down, then stands still.
"""

from __future__ import annotations

import json
import queue
import random
import sys
import threading
import time
import urllib.error
import urllib.request
import uuid
from collections.abc import Iterable, Iterator
from datetime import UTC, datetime

from kitchenhand.say import Trouble, fail, step

EVERY_S = 0.5
SETTLES_S = 1.2
SWING = 0.04
STEP_G = 0.5
MOST_G = 20_000.0


class Scale:
    """What lies on it, and what it shows."""

    def __init__(self, seed: int = 0) -> None:
        self.load_g = 0.0
        self.tare_g = 0.0
        self.moved_at = -1e9
        self.moved_g = 0.0
        self.random = random.Random(seed)  # noqa: S311 noise, not a secret

    def put(self, grams: float, now: float) -> None:
        """Put grams on it, or take them off."""
        self.load_g = min(MOST_G, max(0.0, self.load_g + grams))
        self.moved_at, self.moved_g = now, grams

    def tare(self) -> None:
        """From now on this is nothing."""
        self.tare_g = self.load_g

    def shows(self, now: float) -> tuple[float, bool]:
        """Grams on the display, in half grams, and whether they stand still."""
        since = now - self.moved_at
        steady = since >= SETTLES_S
        swing = 0.0 if steady else self.random.uniform(-1, 1) * SWING * abs(self.moved_g)
        return round((self.load_g - self.tare_g + swing) / STEP_G) * STEP_G, steady


def send(url: str, token: str, grams: float, steady: bool) -> bool:
    """Send what it shows; a network that is away for a moment is tried again with the next weight.

    Returns
    -------
    whether the application has it

    Raises
    ------
    Trouble
        when the token opens nothing.
    """
    body = {
        "id": str(uuid.uuid4()),
        "at": datetime.now(UTC).isoformat(),
        "grams": grams,
        "steady": steady,
    }
    request = urllib.request.Request(  # noqa: S310 an address the person typed
        f"{url.rstrip('/')}/api/device/weights",
        data=json.dumps(body).encode(),
        headers={"Content-Type": "application/json", "Authorization": f"Bearer {token}"},
        method="POST",
    )
    try:
        with urllib.request.urlopen(request, timeout=5):  # noqa: S310
            return True
    except urllib.error.HTTPError as error:
        if error.code in (401, 403):
            raise Trouble("The kitchen does not know this token; register the scale again.") from None
        fail(f"The kitchen answered {error.code}; trying again.")
    except OSError:
        fail("The kitchen's server cannot be reached; trying again.")
    return False


def typed(lines: Iterable[str]) -> Iterator[str]:
    """What is typed, a line at a time, without its white space."""
    for line in lines:
        if line.strip():
            yield line.strip().lower()


def obey(scale: Scale, word: str, now: float) -> None:
    """Do what was typed."""
    if word == "tare":
        scale.tare()
        return
    try:
        grams = float(word.removesuffix("g").strip().replace(",", "."))
    except ValueError:
        fail("Type grams, as 90 or -5, or tare.")
        return
    scale.put(grams, now)


def run(url: str, token: str, put: list[float]) -> int:
    """Be a scale until Ctrl-C, or until what was asked for has been put on it, stood still and was sent."""
    scale, words = Scale(), queue.Queue[str]()
    if put:
        threading.Thread(target=_one_by_one, args=(put, words), daemon=True).start()
    else:
        step("type grams to put on the scale, tare to start at nothing; Ctrl-C ends")
        threading.Thread(target=lambda: [words.put(w) for w in typed(sys.stdin)], daemon=True).start()
    ends = time.monotonic() + 4 * len(put) + 2 if put else float("inf")
    sent = False
    while not sent or time.monotonic() < ends:
        while not words.empty():
            obey(scale, words.get(), time.monotonic())
        grams, steady = scale.shows(time.monotonic())
        sent = send(url, token, grams, steady)
        time.sleep(EVERY_S)
    return 0


def _one_by_one(put: list[float], words: queue.Queue[str]) -> None:
    for grams in put:
        words.put(str(grams))
        time.sleep(4)
