"""Two server processes on one database: what is done through one is seen from the other; nothing is lost."""

from __future__ import annotations

import contextlib
import socket
import threading
import time
from datetime import UTC, datetime, timedelta

import pytest
from house import PATIENCE, House, K, Listener, Person, post_readings


@pytest.fixture(scope="module")
def ports(house: House) -> tuple[int, int]:
    return house.serve(), house.serve()


def kept(house: House) -> set[datetime]:
    with house.connect() as connection:
        return {at for (at,) in connection.execute("SELECT at FROM devices_reading")}


def test_a_mark_through_one_server_is_heard_from_the_other(ports):
    one, other = Person(ports[0]), Person(ports[1], "trainee")
    batch = one.batch()["id"]
    screen = Listener(other)
    screen.until({"resync": 1})
    for _ in range(5):
        mark = one.mark(batch)
        screen.until({"batch": batch})
        marks = other("GET", f"{K}/batches/{batch}")["marks"]
        assert mark["id"] in {found["id"] for found in marks}
    screen.close()


def test_another_kitchen_s_events_are_not_for_everyone(ports):
    stranger = Person(ports[0])
    status, _ = stranger.call("GET", "/api/k/nowhere/events")
    assert status == 404


def test_a_server_told_to_stop_lets_its_screens_go(house):
    port = house.serve()
    screens = [Listener(Person(port)) for _ in range(3)]
    screens[0].until({"resync": 1})
    assert house.stop(port) == ""
    for screen in screens:
        screen.join(timeout=5)
        assert not screen.is_alive()
        screen.close()


class Probe(threading.Thread):
    """Reads without pause and sends again what was not acknowledged, as a gateway does."""

    def __init__(self, port: int, token: str) -> None:
        super().__init__(daemon=True)
        self.port, self.token = port, token
        self.acknowledged: set[datetime] = set()
        self.going, self.failed = True, 0
        self.start()

    def run(self) -> None:
        waiting: list[datetime] = []
        at = datetime.now(UTC) - timedelta(hours=1)
        while self.going or waiting:
            if self.going:
                at += timedelta(milliseconds=100)
                waiting.append(at)
            readings = [{"at": t.isoformat(), "celsius": 70.0} for t in waiting[:200]]
            if post_readings(self.port, self.token, readings):
                self.acknowledged.update(waiting[:200])
                del waiting[:200]
            else:
                self.failed += 1
                time.sleep(0.1)

    def until_acknowledged(self, count: int) -> None:
        ends = time.monotonic() + PATIENCE
        while len(self.acknowledged) < count:
            assert time.monotonic() < ends
            time.sleep(0.05)

    def end(self) -> None:
        self.going = False
        self.join(timeout=PATIENCE)


def test_killing_a_server_loses_nothing_acknowledged(house, ports):
    person = Person(ports[0])
    batch = person.batch()["id"]
    probe = Probe(house.serve(), person.probe_in(batch))
    probe.until_acknowledged(7)
    before = set(probe.acknowledged)
    house.kill(probe.port)
    assert before <= kept(house)
    marked = [person.mark(batch)["id"]]
    house.serve(probe.port)
    probe.until_acknowledged(21)
    probe.end()
    assert probe.failed > 0
    assert len(probe.acknowledged) > 20
    assert probe.acknowledged <= kept(house)
    assert set(marked) <= {mark["id"] for mark in person("GET", f"{K}/batches/{batch}")["marks"]}


def test_dropped_connections_are_made_again_and_the_screen_goes_on_hearing(house, ports):
    person = Person(ports[0])
    batch = person.batch()["id"]
    screen = Listener(Person(ports[1]))
    screen.until({"resync": 1})
    with house.connect() as connection:
        connection.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity "
            "WHERE pid <> pg_backend_pid() AND backend_type = 'client backend'"
        )
    screen.until({"resync": 1})
    mark = patiently(lambda: person.mark(batch))
    screen.until({"batch": batch})
    assert mark["id"] in {found["id"] for found in person("GET", f"{K}/batches/{batch}")["marks"]}
    screen.close()


def test_killing_the_database_loses_nothing_acknowledged(house, ports):
    person = Person(ports[0])
    batch = person.batch()["id"]
    probe = Probe(ports[0], person.probe_in(batch))
    first = person.mark(batch)["id"]
    probe.until_acknowledged(1)
    before = set(probe.acknowledged)
    house.kill_database()
    mark = patiently(lambda: person.mark(batch))
    time.sleep(0.5)
    probe.end()
    assert before
    assert before <= probe.acknowledged <= kept(house)
    marks = {found["id"] for found in person("GET", f"{K}/batches/{batch}")["marks"]}
    assert {first, mark["id"]} <= marks


def patiently(do):
    """As the outbox of a screen does: again until it is taken."""
    for _ in range(60):
        try:
            return do()
        except (AssertionError, OSError):
            time.sleep(0.25)
    return do()


def test_a_stranger_s_endless_body_is_cut_off(ports):
    """It is sent in chunks of no said length, as one would to fill a disk."""
    with socket.create_connection(("127.0.0.1", ports[0]), timeout=PATIENCE) as stranger:
        head = "POST /api/session HTTP/1.1\r\nHost: x\r\nTransfer-Encoding: chunked\r\n\r\n"
        stranger.sendall(head.encode())
        chunk, sent = b"10000\r\n" + b"x" * 0x10000 + b"\r\n", 0
        with contextlib.suppress(OSError):
            while sent < 400:
                stranger.sendall(chunk)
                sent += 1
        with contextlib.suppress(OSError):
            assert b" 413 " in stranger.recv(200)
    assert sent < 400
    assert Person(ports[0])("GET", "/api/kitchens")


def test_a_forwarded_address_is_nobody_s_word(ports):
    """A new one at each try gave endless tries."""
    statuses = []
    person = Person(ports[0])
    for number in range(6):
        person.client.more["X-Forwarded-For"] = f"9.9.9.{number}"
        wrong = {"username": "guest", "password": "not this one"}
        statuses.append(person.call("POST", "/api/session", wrong)[0])
    assert statuses == [401] * 5 + [429]
