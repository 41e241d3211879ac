"""Eight simulated people at Bench, Stove and probes for a while; what did they get?

Only the public interface is used, from outside: python -m kitchenhand.crowd --url … --seconds 30
"""

from __future__ import annotations

import argparse
import http.client
import random
import sys
import threading
import time
import uuid
from collections import Counter
from collections.abc import Callable, Iterable
from datetime import UTC, datetime
from typing import Any
from urllib.parse import urlsplit

from kitchenhand.client import DEMO, DEMO_PASSWORD, Answer, Client

PEOPLE = 8
AGAIN_AT_MOST, BUSY = 3, (429, 503)
IMPOSSIBLE = 422
"""A solver's honest answer for a mix that cannot become what was asked for."""


class Caller:
    """One person, or one probe; counts what was answered."""

    def __init__(self, address: str, token: str = "") -> None:
        self.client = Client(address, token)
        self.answers: Counter[int] = Counter()
        self.slowest_s = 0.0

    def __call__(self, method: str, path: str, body: object = None) -> Any:
        """The answer's JSON. A lost connection counts as status 0 and gives None. A question that a busy
        server refuses is asked again after the time it names, as the pages do."""
        for _ in range(AGAIN_AT_MOST):
            answer = self._once(method, path, body)
            if answer is None or not _busy(answer):
                break
            time.sleep((answer.retry_s or 1.0) * random.uniform(1.0, 1.5))  # noqa: S311 no secret
        else:
            answer = self._once(method, path, body)
        self.answers[0 if answer is None else answer.status] += 1
        return None if answer is None else answer.body

    def _once(self, method: str, path: str, body: object) -> Answer | None:
        began = time.monotonic()
        try:
            answer = self.client.call(method, path, body)
        except (OSError, http.client.HTTPException):
            return None
        if not _busy(answer):
            self.slowest_s = max(self.slowest_s, time.monotonic() - began)
        return answer


def _busy(answer: Answer) -> bool:
    return answer.status in BUSY and bool(answer.body) and answer.body.get("type") == "busy"


def cook(me: Caller, dice: random.Random, drafts: list[dict[str, Any]]) -> None:
    """One round of what somebody at the Bench asks for, several things at a time as the page does."""
    draft = dice.choice(drafts)
    asks: list[tuple[str, str, object]] = [
        ("POST", f"{DEMO}/assess", draft),
        ("POST", f"{DEMO}/map", {"draft": draft}),
        ("POST", f"{DEMO}/band", draft),
        ("POST", f"{DEMO}/details", draft),
        ("POST", f"{DEMO}/solve", {"draft": draft, "goal": "texture", "texture": "heavy coat", "at_c": 4}),
    ]
    page = [Caller(me.client.address) for _ in asks]
    threads = []
    for tab, ask in zip(page, asks, strict=True):
        tab.client.cookies = me.client.cookies
        threads.append(threading.Thread(target=tab, args=ask))
        threads[-1].start()
    for thread in threads:
        thread.join()
    for tab in page:
        me.answers += tab.answers
        me.slowest_s = max(me.slowest_s, tab.slowest_s)


def stove(me: Caller, batch: int, probe: Caller, celsius: float) -> None:
    """One round at the stove: the probe reads, the screen looks, a moment is marked."""
    reading = {"at": datetime.now(UTC).isoformat(), "celsius": round(celsius, 1)}
    probe("POST", "/api/device/readings", {"readings": [reading]})
    me("GET", f"{DEMO}/batches/{batch}/live")
    me("GET", f"{DEMO}/urgent")
    mark = {"id": str(uuid.uuid4()), "stage": "cook", "kind": "moment", "at": datetime.now(UTC).isoformat()}
    me("POST", f"{DEMO}/batches/{batch}/marks", mark)


def person(address: str, number: int, ends: float) -> list[Caller]:
    """One person's half minute; every second one is at the stove, with a probe."""
    me, dice = Caller(address), random.Random(number)  # noqa: S311 a rehearsal, not a secret
    me.client.log_in("pastry", DEMO_PASSWORD)
    rows = me("GET", f"{DEMO}/formulas")["lines"]
    opened = [me("GET", f"{DEMO}/formulas/{row['id']}") for row in rows]
    if number % 2:
        while time.monotonic() < ends:
            cook(me, dice, [formula["draft"] for formula in opened])
        return [me]
    formula = opened[0]
    body = {"formula_id": formula["id"], "version": formula["latest"], "draft": formula["draft"]}
    batch = me("POST", f"{DEMO}/batches", body)["id"]
    made = me("POST", f"{DEMO}/devices", {"name": f"probe {uuid.uuid4().hex[:6]}", "kind": "probe"})
    me("PUT", f"{DEMO}/batches/{batch}/setup", {"probe_id": made["id"]})
    probe, celsius = Caller(address, made["token"]), 55.0
    while time.monotonic() < ends:
        stove(me, batch, probe, celsius)
        celsius = min(80.0, celsius + dice.uniform(0.0, 0.4))
        time.sleep(0.5)
    return [me, probe]


def run(address: str, seconds: float, people: int = PEOPLE) -> int:
    """Let them; prints what was answered. 0 when every call got the answer it asked for."""
    ends, done = time.monotonic() + seconds, []
    lock, failed = threading.Lock(), []

    def guarded(work: Callable[[], list[Caller]]) -> None:
        try:
            callers = work()
        except (TypeError, KeyError) as error:  # an answer that is none of what was asked for
            with lock:
                failed.append(error)
            return
        with lock:
            done.extend(callers)

    threads = [
        threading.Thread(target=guarded, args=(lambda n=n: person(address, n, ends),)) for n in range(people)
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    answers = sum((caller.answers for caller in done), Counter[int]())
    slowest = max((caller.slowest_s for caller in done), default=0.0)
    bad = {
        status: count
        for status, count in answers.items()
        if not (200 <= status < 400 or status == IMPOSSIBLE)
    }
    said = ", ".join(f"{count} × {status or 'no answer'}" for status, count in sorted(answers.items()))
    print(
        f"{people} people for {seconds:g} s: {said or 'no answer at all'}; the slowest took {slowest:.1f} s"
    )
    if failed:
        print(f"{len(failed)} of them got something other than they asked for")
    return 1 if bad or failed or not answers else 0


def main(argv: Iterable[str]) -> int:
    """The command line."""
    parser = argparse.ArgumentParser(prog="crowd", description=__doc__)
    parser.add_argument("--url", default="http://127.0.0.1:8000", help="where Old Spoon is served")
    parser.add_argument("--seconds", type=float, default=30.0)
    parser.add_argument("--people", type=int, default=PEOPLE)
    options = parser.parse_args(list(argv))
    return run(urlsplit(options.url).netloc, options.seconds, options.people)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
