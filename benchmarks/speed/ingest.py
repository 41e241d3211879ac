"""How many readings a second are taken in without loss: offered steadily, then as fast as they are taken.

Beside it, in the same run, bare JSON views called the same way. A probe's gateway sends what it read in one
go, so a call here holds `IN_ONE_GO` readings.
"""

from __future__ import annotations

import http.client
import json
import threading
import time
from collections.abc import Callable, Sequence
from datetime import UTC, datetime, timedelta

from speed.assess import Caller, percentile, served

PROBES, IN_ONE_GO = 20, 50
WANTED_A_SECOND, STEADY_S, FLAT_OUT_S = 2000, 10.0, 5.0
SENDERS = 4


class Gateway:
    """One probe's connection; every reading has a time of its own."""

    def __init__(self, port: int, token: str, number: int) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", port)
        self.headers = {"Content-Type": "application/json", "Authorization": f"Bearer {token}"}
        self.at = datetime.now(UTC) - timedelta(hours=1, seconds=number)
        self.sent = self.taken = 0

    def send(self) -> float:
        """Send one call's readings; returns how long it took [ms]."""
        readings = []
        for _ in range(IN_ONE_GO):
            self.at += timedelta(milliseconds=1)
            readings.append({"at": self.at.isoformat(), "celsius": 70.0})
        started = time.perf_counter()
        body = json.dumps({"readings": readings})
        self.connection.request("POST", "/api/device/readings", body, self.headers)
        answer = json.load(self.connection.getresponse())
        self.sent += IN_ONE_GO
        self.taken += answer["new"]
        return 1000 * (time.perf_counter() - started)


def steady(gateways: list[Gateway]) -> list[float]:
    """Offer `WANTED_A_SECOND` readings every second, whether or not the last were taken yet."""
    took: list[float] = []
    calls = int(WANTED_A_SECOND * STEADY_S / IN_ONE_GO)
    began, locks = time.perf_counter(), [threading.Lock() for _ in gateways]

    def sender(first: int) -> None:
        for call in range(first, calls, SENDERS):
            due = began + call * IN_ONE_GO / WANTED_A_SECOND
            time.sleep(max(0.0, due - time.perf_counter()))
            with locks[call % PROBES]:
                gateways[call % PROBES].send()
            took.append(1000 * (time.perf_counter() - due))

    _all(sender)
    return took


def flat_out(do: Sequence[Callable[[], object]]) -> float:
    """Calls a second, as fast as they are answered."""
    done, ends = [0] * SENDERS, time.perf_counter() + FLAT_OUT_S

    def sender(number: int) -> None:
        while time.perf_counter() < ends:
            do[number]()
            done[number] += 1

    _all(sender)
    return sum(done) / FLAT_OUT_S


def _all(sender: Callable[[int], None]) -> None:
    threads = [threading.Thread(target=sender, args=(i,)) for i in range(SENDERS)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()


def measure(port: int) -> None:
    """Steady, flat out, and a bare view, in one run."""
    chef = Caller(port)
    chef.log_in()
    tokens = [
        chef.ask("POST", "/api/k/tidemill-house/devices", {"name": f"probe {i}", "kind": "probe"})["token"]
        for i in range(PROBES)
    ]
    gateways = [Gateway(port, token, i) for i, token in enumerate(tokens)]
    for gateway in gateways:
        gateway.send()
    took = steady(gateways)
    sent, taken = (sum(getattr(g, name) for g in gateways) for name in ("sent", "taken"))
    print(f"{WANTED_A_SECOND} readings a second for {STEADY_S:g} s, {IN_ONE_GO} in a call, {PROBES} probes:")
    print(f"  sent {sent}, taken {taken}, lost {sent - taken}; p95 {percentile(took, 0.95):.0f} ms after due")
    most = IN_ONE_GO * flat_out([gateway.send for gateway in gateways[:SENDERS]])
    callers = [Caller(port) for _ in range(SENDERS)]
    bare = flat_out([lambda c=c: c("GET", "/bare") for c in callers])
    calls = most / IN_ONE_GO
    print(f"  flat out {most:.0f} readings a second in {calls:.0f} calls; bare views {bare:.0f} calls")
    print(f"  a call with {IN_ONE_GO} readings takes {bare / calls:.1f} times as long as a bare view")


if __name__ == "__main__":
    served(measure)
