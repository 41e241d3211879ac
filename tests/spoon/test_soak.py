"""What a soak counts, and how it breaks things: shown on stand-ins, as an hour is too long for a test."""

from __future__ import annotations

import http.client
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import pytest
from kitchenhand.client import Answer, Client
from kitchenhand.soak import proof
from kitchenhand.soak.ledger import Ledger
from kitchenhand.soak.memory import Memory
from kitchenhand.soak.wire import Wire

BUSY = {"type": "busy"}


class Rows:
    """A database that knows one reading and one mark, and three alarms, one of them twice."""

    def sql(self, database: str, text: str) -> str:
        return {
            proof.HELD["reading"]: "7 2026-12-01T02:00:00.500000\n",
            proof.HELD["mark"]: "a\nb",
            proof.HELD["draw"]: "",
            proof.ALARMS: "1|past|1\n1|lift|2\n2|past|1",
        }[text]


def test_what_was_acknowledged_and_is_not_there_is_lost():
    ledger = Ledger()
    ledger.acknowledged("reading", "7 2026-12-01T02:00:00.500000+00:00")
    ledger.acknowledged("reading", "7 2026-12-01T02:00:01+00:00")
    ledger.acknowledged("mark", "b")
    assert list(proof.lost(Rows(), ledger)) == [("reading", 2, 1), ("mark", 1, 0), ("draw", 0, 0)]


def test_an_alarm_twice_and_one_that_never_came_are_counted():
    ledger = Ledger()
    for batch in (1, 2, 3):
        ledger.cooked(batch)
    assert proof.alarms(Rows(), ledger) == (3, 1, 1)


@pytest.mark.parametrize(
    ("answer", "wrong"),
    [
        (Answer(200, None, None), 0),
        (Answer(422, None, None), 0),
        (Answer(503, BUSY, 1.0), 0),
        (Answer(503, BUSY, None), 1),
        (Answer(500, None, 1.0), 1),
        (None, 0),
    ],
)
def test_of_a_server_in_trouble_only_what_says_when_to_come_back_is_right(answer, wrong):
    ledger = Ledger()
    ledger.answered("cooks", "GET /here", answer, 0.1)
    assert ledger.wrong.total() == wrong
    assert ledger.answers.total() == 1


def test_memory_is_compared_between_the_halves():
    memory = Memory(crew=None, stop=threading.Event())  # type: ignore[arg-type]
    memory.lives["worker"] = {n: (float(n), size) for n, size in enumerate((300, 310, 290, 400, 410))}
    assert memory.medians_mb("worker") == (305, 400)
    assert memory.medians_mb("web server") == (0, 0)


class Here(BaseHTTPRequestHandler):
    def do_GET(self) -> None:
        self.send_response(503)
        for name, value in (
            ("Content-Type", "application/problem+json; charset=utf-8"),
            ("Retry-After", "2"),
            ("Set-Cookie", "csrftoken=abc; Path=/"),
            ("Content-Length", "16"),
        ):
            self.send_header(name, value)
        self.end_headers()
        self.wfile.write(b'{"type": "busy"}')

    def log_message(self, format, *args) -> None:
        pass


def test_a_wire_passes_on_until_it_is_cut_and_again_when_it_is_mended():
    server = ThreadingHTTPServer(("127.0.0.1", 0), Here)
    threading.Thread(target=server.serve_forever, args=(0.02,), daemon=True).start()
    wire = Wire(server.server_port)
    client = Client(f"127.0.0.1:{wire.port}", timeout_s=5)
    try:
        assert client.call("GET", "/here") == Answer(503, BUSY, 2.0)
        assert client.headers()["X-CSRFToken"] == "abc"
        wire.cut()
        with pytest.raises((OSError, http.client.HTTPException)):
            client.call("GET", "/here")
        wire.mend()
        assert client.call("GET", "/here").status == 503
    finally:
        wire.close()
        server.shutdown()
        server.server_close()
