"""How long the Bench waits for an answer: `assess` beside a bare JSON view, in turn, in one run."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import socket
import statistics
import subprocess
import sys
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

SERVER = Path(__file__).parents[2] / "server"
ROUNDS, WARM = 400, 60
DRAFT = json.loads((SERVER / "demo/formulas.json").read_text(encoding="utf-8"))[0]
BODY = {key: DRAFT[key] for key in ("name", "family", "eggs", "measures", "lines")}


class Caller:
    """One kept-alive connection with its cookies."""

    def __init__(self, port: int) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", port)
        self.cookies: dict[str, str] = {}

    def log_in(self) -> None:
        """As the demo kitchen's chef."""
        self("GET", "/api/session")
        self("POST", "/api/session", {"username": "pastry", "password": "nappe-at-82"})

    def __call__(self, method: str, path: str, body: object = None) -> float:
        """Make the call; returns how long it took [ms]."""
        started = time.perf_counter()
        self.ask(method, path, body)
        return 1000 * (time.perf_counter() - started)

    def ask(self, method: str, path: str, body: object = None) -> Any:
        """Make the call; returns what was answered."""
        headers = {
            "Content-Type": "application/json",
            "Cookie": "; ".join(f"{name}={value}" for name, value in self.cookies.items()),
            "X-CSRFToken": self.cookies.get("csrftoken", ""),
        }
        data = None if body is None else json.dumps(body)
        self.connection.request(method, path, data, headers)
        answer = self.connection.getresponse()
        text = answer.read()
        if answer.status >= 400:
            sys.exit(f"{method} {path} answered {answer.status}")
        for name, value in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.split(";")[0]
        return json.loads(text) if text else None


def percentile(values: list[float], share: float) -> float:
    """The value below which `share` of them lie."""
    return sorted(values)[min(len(values) - 1, int(share * len(values)))]


def served(measure: Callable[[int], None]) -> None:
    """Serve the application with its demo kitchen, and measure at its port."""
    environment = {**os.environ, "DJANGO_SETTINGS_MODULE": "speed.settings"}
    subprocess.run(
        [sys.executable, "manage.py", "prepare", "--demo"], cwd=SERVER, env=environment, check=True
    )
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    command = [sys.executable, "-m", "oldspoon.serve", str(port)]
    server = subprocess.Popen(command, cwd=SERVER, env=environment)
    try:
        for _ in range(100):
            with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port), timeout=1):
                break
            time.sleep(0.1)
        measure(port)
    finally:
        server.terminate()
        server.wait(timeout=15)


def measure(port: int) -> None:
    """Both sides in turn; each draft is a little different, as when someone types."""
    call = Caller(port)
    call.log_in()
    assess, bare = [], []
    for round_ in range(WARM + ROUNDS):
        body = {
            **BODY,
            "lines": [*BODY["lines"][:2], {"ingredient": "white-sugar", "amount": f"{60 + round_} g"}],
        }
        times = call("POST", "/api/k/tidemill-house/assess", body), call("GET", "/bare")
        if round_ >= WARM:
            assess.append(times[0])
            bare.append(times[1])
    print(f"{ROUNDS} calls each, in turn, warm; milliseconds")
    for name, values in (("assess", assess), ("bare JSON view", bare)):
        p95 = percentile(values, 0.95)
        print(f"  {name:15} median {statistics.median(values):6.2f}   p95 {p95:6.2f}")
    ratio = statistics.median(assess) / statistics.median(bare)
    print(f"  assess over bare: {ratio:.1f} at the median")


if __name__ == "__main__":
    served(measure)
