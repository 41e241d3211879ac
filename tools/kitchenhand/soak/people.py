"""Who uses the kitchen during a soak: cooks with probes, screens, people with heavy questions, a chef."""

from __future__ import annotations

import contextlib
import http.client
import itertools
import random
import select
import threading
import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from kitchenhand.client import DEMO, DEMO_PASSWORD, Answer, Client
from kitchenhand.soak.ledger import Ledger

OK = range(200, 300)
AGAIN_S = 0.5
FROM_C, TOP_C, RISE_S, HELD_S = 60.0, 96.0, 150.0, 90.0
"""A probe rises from one to the other, far past curdling, and stays there until it must have been called."""
DRAWS = 5
LOOK_S, LOOKS = 2.0, 0.3
"""A screen that hears nothing is looked at after that; with this chance it then shows another page."""
REASON = "read by hand, the chef was there"


@dataclass
class Person:
    """Somebody, or something, that goes on until `stop` is set."""

    name: str
    client: Client
    ledger: Ledger
    stop: threading.Event
    dice: random.Random

    def ask(self, method: str, path: str, body: object = None) -> Answer | None:
        """Ask once; no answer is None."""
        began, answer = time.monotonic(), None
        with contextlib.suppress(OSError, http.client.HTTPException, ValueError):
            answer = self.client.call(method, path, body)
        what = f"{method} {'/'.join('…' if part.isdigit() else part for part in path.split('/'))}"
        self.ledger.answered(self.name, what, answer, time.monotonic() - began)
        return answer

    def insist(self, method: str, path: str, body: object = None) -> Answer | None:
        """Ask again until the answer is neither a lost one nor one of a server in trouble; None when the soak
        ends first."""
        while not self.stop.is_set():
            answer = self.ask(method, path, body)
            if answer is not None and answer.status < 500 and answer.status != 429:
                return answer
            self.stop.wait(AGAIN_S if answer is None else answer.retry_s or AGAIN_S)
        return None

    def write(self, kind: str, key: str, method: str, path: str, body: object) -> None:
        """Send something under an id of our own until it is acknowledged."""
        answer = self.insist(method, path, body)
        if answer is not None and answer.status in OK:
            self.ledger.acknowledged(kind, key)

    def get(self, path: str) -> Any:
        """What is there; None when the soak ends first or it is refused."""
        answer = self.insist("GET", path)
        return answer.body if answer is not None and answer.status in OK else None

    def log_in(self, username: str) -> None:
        """Open a session, however long that takes."""
        while not self.stop.is_set():
            self.insist("GET", "/api/session")
            answer = self.insist("POST", "/api/session", {"username": username, "password": DEMO_PASSWORD})
            if answer is not None and answer.status in OK:
                return
            self.stop.wait(AGAIN_S)

    def run(self, work: Callable[[Person], None]) -> None:
        """Work until the end; what comes out of the loop's order (a lost answer) begins the round again."""
        while not self.stop.is_set():
            try:
                work(self)
            except (TypeError, KeyError, IndexError):
                self.stop.wait(AGAIN_S)


def now() -> str:
    """This moment, as it is sent."""
    return datetime.now(UTC).isoformat()


def cook(me: Person) -> None:
    """One batch, from the book to the shelf: its probe reads every second, a moment is marked every five."""
    me.log_in("pastry")
    row = me.get(f"{DEMO}/formulas")["lines"][0]
    formula = me.get(f"{DEMO}/formulas/{row['id']}")
    body = {"formula_id": formula["id"], "version": formula["latest"], "draft": formula["draft"]}
    batch = me.insist("POST", f"{DEMO}/batches", body).body["id"]
    device = {"name": f"probe {uuid.uuid4().hex[:8]}", "kind": "probe"}
    made = me.insist("POST", f"{DEMO}/devices", device).body
    me.insist("PUT", f"{DEMO}/batches/{batch}/setup", {"probe_id": made["id"]})
    probe = Person("probes", Client(me.client.address, made["token"]), me.ledger, me.stop, me.dice)
    for stage in ("weigh", "warm", "temper"):
        _mark(me, batch, stage, "done")
    began = time.monotonic()
    for second in itertools.count():
        passed = time.monotonic() - began
        if passed > RISE_S + HELD_S or me.stop.is_set():
            break
        at = now()
        celsius = FROM_C + (TOP_C - FROM_C) * min(1.0, passed / RISE_S)
        reading = {"at": at, "celsius": round(celsius, 1)}
        probe.write("reading", f"{made['id']} {at}", "POST", "/api/device/readings", {"readings": [reading]})
        if second % 5 == 0:
            _mark(me, batch)
        me.stop.wait(1.0)
    else:
        return
    if not me.stop.is_set():
        me.ledger.cooked(batch)
        _put_away(me, batch)


def _mark(me: Person, batch: int, stage: str = "cook", kind: str = "moment") -> None:
    key = str(uuid.uuid4())
    mark = {"id": key, "stage": stage, "kind": kind, "at": now()}
    me.write("mark", key, "POST", f"{DEMO}/batches/{batch}/marks", mark)


def _put_away(me: Person, batch: int) -> None:
    """Decide, close, and draw from the tub."""
    me.insist("POST", f"{DEMO}/batches/{batch}/decision", {"reason": REASON})
    me.insist("POST", f"{DEMO}/batches/{batch}/close", {"verdict": "good"})
    tubs = [
        tub for tub in me.get(f"{DEMO}/shelf")["tubs"] if tub["batch_id"] == batch and tub["what"] == "sauce"
    ]
    for _ in range(DRAWS):
        key = str(uuid.uuid4())
        move = {"id": key, "kind": "used", "grams": 10, "to": "tart"}
        me.write("draw", key, "POST", f"{DEMO}/tubs/{tubs[0]['id']}/moves", move)


def screen(me: Person) -> None:
    """A screen: it listens to what happens, and asks for a page every few seconds, as a browser does."""
    me.log_in(me.dice.choice(("guest", "trainee", "pastry")))
    while not me.stop.is_set():
        with contextlib.suppress(OSError, http.client.HTTPException):
            _listen(me)
        me.stop.wait(AGAIN_S)


def _listen(me: Person) -> None:
    """Listen until the server ends it; a screen looks at a page now and then meanwhile."""
    connection = http.client.HTTPConnection(me.client.address, timeout=me.client.timeout_s)
    connection.connect()
    stream = connection.sock
    connection.request("GET", f"{DEMO}/events", headers=me.client.headers())
    answer = connection.getresponse()
    try:
        while answer.status in OK and not me.stop.is_set():
            # Asked first: a read that times out is the last one that a socket's file allows.
            heard, _, _ = select.select([stream], [], [], LOOK_S)
            if heard and not answer.read1(1 << 16):
                return
            if me.dice.random() < LOOKS:
                _look(me)
    finally:
        answer.close()
        connection.close()


def _look(me: Person) -> None:
    open_ones = me.ask("GET", f"{DEMO}/batches")
    if open_ones is not None and open_ones.status in OK and open_ones.body:
        me.ask("GET", f"{DEMO}/batches/{me.dice.choice(open_ones.body)['id']}/live")
    me.ask("GET", f"{DEMO}/{me.dice.choice(('urgent', 'shelf', 'log', 'upcoming'))}")


def thinker(me: Person) -> None:
    """Somebody at the Bench, who also prints the record of the day."""
    me.log_in("trainee")
    row = me.get(f"{DEMO}/formulas")["lines"][0]
    draft = me.get(f"{DEMO}/formulas/{row['id']}")["draft"]
    goal = {"draft": draft, "goal": "texture", "texture": "heavy coat", "at_c": 4}
    while not me.stop.is_set():
        me.ask("POST", f"{DEMO}/assess", draft)
        me.ask("POST", f"{DEMO}/map", {"draft": draft})
        me.ask("POST", f"{DEMO}/solve", goal)
        me.ask("GET", f"{DEMO}/day/record.{me.dice.choice(('pdf', 'json', 'csv'))}")
        me.stop.wait(5.0)


def chef(me: Person) -> None:
    """The chef changes the kitchen's height and keeps versions of a formula."""
    me.log_in("pastry")
    row = me.get(f"{DEMO}/formulas")["lines"][-1]
    while not me.stop.is_set():
        me.insist("PATCH", DEMO, {"altitude_m": me.dice.randrange(0, 500)})
        found = me.get(f"{DEMO}/formulas/{row['id']}")
        lines = [dict(line) for line in found["draft"]["lines"]]
        lines[0]["amount"] = f"{me.dice.randrange(480, 520)} g"
        body = {"draft": {**found["draft"], "lines": lines}, "base": found["latest"]}
        me.insist("POST", f"{DEMO}/formulas/{row['id']}/versions", body)
        me.stop.wait(10.0)
