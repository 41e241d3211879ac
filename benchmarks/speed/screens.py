"""Ten batches with a probe each and thirty live screens: how long a reading takes to every screen.

Two ways in the same run. A worker computes each change once and every screen receives it; and as it was
before, each screen fetches again what a reading changed, which is computed at each request. The second is
offered the same readings by the same senders.
"""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import socket
import statistics
import subprocess
import sys
import threading
import time
import uuid
from collections.abc import Callable
from datetime import UTC, datetime
from typing import Any

from speed.assess import SERVER, Caller, percentile, served

BATCHES, SCREENS, SECONDS, LEAD_S = 10, 30, 20, 4
K = "/api/k/tidemill-house"
AGAIN_S = 0.5
"""As it was: a screen fetched again at most twice a second."""


class Screen(threading.Thread):
    """One that shows a batch: when it first showed each reading."""

    def __init__(self, port: int, cookies: dict[str, str], batch: int) -> None:
        super().__init__(daemon=True)
        self.batch, self.going = batch, True
        self.shown: dict[float, float] = {}
        self.failed = 0
        self.headers = {"Cookie": "; ".join(f"{name}={value}" for name, value in cookies.items())}
        self.connection = http.client.HTTPConnection("127.0.0.1", port, timeout=60)

    def saw(self, celsius: float | None) -> None:
        """What the probe reads is on this screen."""
        if celsius is not None:
            self.shown.setdefault(celsius, time.perf_counter())


class Receiving(Screen):
    """Receives where its batch stands."""

    def run(self) -> None:
        """Listen until the server is done or we are."""
        self.connection.request("GET", f"{K}/events?batch={self.batch}", headers=self.headers)
        answer = self.connection.getresponse()
        with contextlib.suppress(OSError, ValueError, http.client.HTTPException):
            while self.going and (line := answer.readline()):
                if line.startswith(b'data: {"batch": ') and b'"live"' in line:
                    self.saw(json.loads(line[6:])["live"]["probe_c"])


class Fetching(Screen):
    """Fetches again twice a second, as every reading made it do; each time it is computed."""

    def run(self) -> None:
        """Fetch until we are done."""
        while self.going:
            began = time.perf_counter()
            try:
                self.connection.request("GET", f"/computed/{self.batch}", headers=self.headers)
                answer = self.connection.getresponse()
                text = answer.read()
                if answer.status == 200:
                    self.saw(json.loads(text)["probe_c"])
                else:
                    self.failed += 1
            except (OSError, http.client.HTTPException):
                self.failed += 1
                self.connection.close()
            time.sleep(max(0.0, AGAIN_S - (time.perf_counter() - began)))


def at_the_stove(chef: Caller, number: int) -> tuple[int, str]:
    """A batch with its mix in the pan, and the token of its probe."""
    row = chef.ask("GET", f"{K}/formulas")["lines"][0]
    formula = chef.ask("GET", f"{K}/formulas/{row['id']}")
    body = {"formula_id": formula["id"], "version": formula["latest"], "draft": formula["draft"]}
    batch: int = chef.ask("POST", f"{K}/batches", body)["id"]
    name = f"probe {number} {uuid.uuid4().hex[:6]}"
    made = chef.ask("POST", f"{K}/devices", {"name": name, "kind": "probe"})
    chef.ask("PUT", f"{K}/batches/{batch}/setup", {"probe_id": made["id"]})
    for stage in ("weigh", "warm", "temper"):
        at = datetime.now(UTC).isoformat()
        mark = {"id": str(uuid.uuid4()), "stage": stage, "kind": "done", "at": at}
        chef.ask("POST", f"{K}/batches/{batch}/marks", mark)
    return batch, made["token"]


def offered(port: int, kind: type[Screen]) -> tuple[list[float], int, int]:
    """Latencies [s] of every reading on every screen, how many never came, failed requests."""
    chef = Caller(port)
    chef.log_in()
    probes = [at_the_stove(chef, number) for number in range(BATCHES)]
    screens = [kind(port, chef.cookies, probes[i % BATCHES][0]) for i in range(SCREENS)]
    for screen in screens:
        screen.start()
    time.sleep(2.0)
    sent: dict[int, dict[float, float]] = {batch: {} for batch, _ in probes}
    began = time.perf_counter()

    def read(number: int, batch: int, token: str) -> None:
        connection = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
        headers = {"Content-Type": "application/json", "Authorization": f"Bearer {token}"}
        for second in range(SECONDS):
            time.sleep(max(0.0, began + second + number / BATCHES - time.perf_counter()))
            # Every reading has a figure of its own, by which it is known on the screens.
            celsius = round(60 + 0.4 * second + number / 1000, 3)
            body = {"readings": [{"at": datetime.now(UTC).isoformat(), "celsius": celsius}]}
            sent[batch][celsius] = time.perf_counter()
            connection.request("POST", "/api/device/readings", json.dumps(body), headers)
            connection.getresponse().read()

    senders = [threading.Thread(target=read, args=(number, *probe)) for number, probe in enumerate(probes)]
    for sender in senders:
        sender.start()
    for sender in senders:
        sender.join()
    time.sleep(LEAD_S)
    for screen in screens:
        screen.going = False
        with contextlib.suppress(OSError, AttributeError):
            screen.connection.sock.shutdown(socket.SHUT_RDWR)
    chef = Caller(port)  # the other connection was let go meanwhile
    chef.log_in()
    for batch, _ in probes:
        chef.ask("POST", f"{K}/batches/{batch}/close", {"verdict": "good", "note": ""})
    late = [
        screen.shown[celsius] - at
        for screen in screens
        for celsius, at in sent[screen.batch].items()
        if celsius in screen.shown
    ]
    wanted = sum(len(sent[screen.batch]) for screen in screens)
    return late, wanted - len(late), sum(screen.failed for screen in screens)


def said(name: str, measured: tuple[list[float], int, int]) -> None:
    """One line."""
    late, never, failed = measured
    p95 = percentile(late, 0.95) if late else float("nan")
    middle = statistics.median(late) if late else float("nan")
    print(
        f"  {name:34} median {1000 * middle:6.0f} ms   p95 {1000 * p95:6.0f} ms   "
        f"readings never shown {never}, requests failed {failed}",
        flush=True,
    )


def small_reads(port: int) -> Callable[[], list[float]]:
    """What a screen's own requests take meanwhile [ms]: they compute nothing."""
    caller, took, going = Caller(port), list[float](), [True]
    caller.log_in()

    def run() -> None:
        while going[0]:
            took.append(caller("GET", f"{K}/urgent"))
            time.sleep(0.1)

    thread = threading.Thread(target=run, daemon=True)
    thread.start()

    def ended() -> list[float]:
        going[0] = False
        thread.join()
        return took

    return ended


def measure(port: int) -> None:
    """Both ways, in turn, in one run."""
    worker = subprocess.Popen(
        [sys.executable, "manage.py", "work"],
        cwd=SERVER,
        env={**os.environ, "DJANGO_SETTINGS_MODULE": "speed.settings"},
    )
    try:
        time.sleep(4.0)
        print(f"{BATCHES} batches, a probe each at a reading a second, {SCREENS} screens, {SECONDS} s:")
        ended = small_reads(port)
        received: Any = offered(port, Receiving)
        took = ended()
        said("computed once, received by all", received)
        print(f"    meanwhile the strip was answered with p95 {percentile(took, 0.95):.0f} ms")
    finally:
        worker.terminate()
        worker.wait(timeout=30)
    fetched = offered(port, Fetching)
    said("as before, computed at each request", fetched)
    if received[0] and fetched[0]:
        ratio = percentile(fetched[0], 0.95) / percentile(received[0], 0.95)
        print(f"  before over now: {ratio:.1f} at p95")


if __name__ == "__main__":
    served(measure)
