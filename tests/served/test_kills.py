"""Server and database are killed again and again; nothing that was acknowledged is lost, nor counted twice.

OLDSPOON_KILLS says how often.
"""

from __future__ import annotations

import contextlib
import http.client
import os
import threading
import time
import uuid
from datetime import UTC, datetime, timedelta

from house import K, Person, now, post_readings

KILLS = int(os.environ.get("OLDSPOON_KILLS", "2"))
ACKNOWLEDGED = 60
"""So many between two kills, so that there is something to lose; half of them may come from one sender."""
PATIENCE_S = 60.0


class Sender(threading.Thread):
    """Sends without pause, and the same again until it is acknowledged."""

    def __init__(self, send) -> None:
        super().__init__(daemon=True)
        self.send, self.going, self.acknowledged = send, True, set()
        self.start()

    def run(self) -> None:
        while self.going:
            one = self.send.make()
            while not self.send(one):
                time.sleep(0.05)
            self.acknowledged.add(one)
            time.sleep(0.002)


class Readings:
    def __init__(self, port: int, token: str) -> None:
        self.port, self.token, self.at = port, token, datetime.now(UTC) - timedelta(hours=2)

    def make(self) -> datetime:
        self.at += timedelta(milliseconds=50)
        return self.at

    def __call__(self, at: datetime) -> bool:
        return post_readings(self.port, self.token, [{"at": at.isoformat(), "celsius": 60.0}])


class Marks:
    def __init__(self, person: Person, batch: int) -> None:
        self.person, self.batch = person, batch

    def make(self) -> str:
        return str(uuid.uuid4())

    def __call__(self, name: str) -> bool:
        body = {"id": name, "stage": "cook", "kind": "moment", "at": now()}
        with contextlib.suppress(OSError, http.client.HTTPException, ValueError):
            return self.person.call("POST", f"{K}/batches/{self.batch}/marks", body)[0] == 200
        return False


def _until(senders: list[Sender], acknowledged: int) -> None:
    ends = time.monotonic() + PATIENCE_S
    while sum(len(sender.acknowledged) for sender in senders) < acknowledged:
        assert time.monotonic() < ends, "nothing is acknowledged any more"
        time.sleep(0.02)


def test_nothing_acknowledged_is_lost_however_often_it_is_killed(house, record_property):
    port = house.serve()
    person = Person(port)
    batch = person.batch()["id"]
    token = person.probe_in(batch)
    senders = [Sender(Readings(port, token)), Sender(Readings(port, token)), Sender(Marks(person, batch))]
    senders[1].send.at -= timedelta(hours=1)
    back_s = 0.0
    for kill in range(KILLS):
        _until(senders, (kill + 1) * ACKNOWLEDGED)
        if kill % 2:
            house.kill_database()
            up, before = time.monotonic(), sum(len(sender.acknowledged) for sender in senders)
            _until(senders, before + 1)
            back_s = max(back_s, time.monotonic() - up)
        else:
            house.kill(port)
            house.serve(port)
    for sender in senders:
        sender.going = False
    for sender in senders:
        sender.join(60)
        assert not sender.is_alive()
    with house.connect() as connection:
        read = [at for (at,) in connection.execute("SELECT at FROM devices_reading")]
        marked = {str(one) for (one,) in connection.execute("SELECT id FROM stove_mark")}
    readings = senders[0].acknowledged | senders[1].acknowledged
    marks = senders[2].acknowledged
    lost = len(readings - set(read)) + len(marks - marked)
    record_property(
        "told",
        f"{lost} lost of {len(readings) + len(marks)} acknowledged over {KILLS} kills; "
        f"served again at most {back_s:.1f} s after the database was back",
    )
    assert lost == 0
    assert len(readings) + len(marks) >= ACKNOWLEDGED * KILLS
    assert len(read) == len(set(read))
