"""Workers beside the servers: what changes is computed once and reaches every screen; alarms need none."""

from __future__ import annotations

import signal
import time
from datetime import UTC, datetime
from typing import Any

from house import PATIENCE, K, Listener, Person, post_readings


def at_the_stove(person: Person) -> tuple[int, str]:
    """A batch whose mix is in the pan, and the token of the probe in it."""
    batch = person.batch()["id"]
    token = person.probe_in(batch)
    for stage in ("weigh", "warm", "temper"):
        person.mark(batch, "done", stage)
    return batch, token


def reads(port: int, token: str, celsius: float) -> None:
    assert post_readings(port, token, [{"at": datetime.now(UTC).isoformat(), "celsius": celsius}])


def shows(celsius: float):
    return lambda event: event.get("live", {}).get("probe_c") == celsius


def alarms(person: Person, batch: int) -> list[str]:
    marks = person("GET", f"{K}/batches/{batch}")["marks"]
    return [mark["what"] for mark in marks if mark["kind"] == "alarm"]


def soon(what) -> Any:
    """What comes of it, within our patience."""
    ends = time.monotonic() + PATIENCE
    while not (found := what()) and time.monotonic() < ends:
        time.sleep(0.1)
    return found


def test_a_reading_is_on_the_screens_of_its_batch_and_in_the_strip_of_the_others(house, port):
    house.work()
    person = Person(port)
    batch, token = at_the_stove(person)
    whole, strip = Listener(Person(port), batch), Listener(Person(port, "trainee"))
    for number in range(4):
        reads(port, token, 60.0 + number)
        whole.until(shows(60.0 + number))
    strip.until(lambda event: event.get("urgent", {}).get("id") == batch)
    assert person("GET", f"{K}/batches/{batch}/live")["probe_c"] == 63.0
    assert batch in {row["id"] for row in person("GET", f"{K}/urgent")}
    for screen in (whole, strip):
        screen.close()


def test_an_alarm_comes_though_no_screen_is_open_and_comes_once_from_two_workers(house, port):
    house.work()
    person = Person(port)
    batch, token = at_the_stove(person)
    for celsius in (70.0, 70.5, 71.0, 71.5):
        reads(port, token, celsius)
        time.sleep(0.3)
    # Nobody looks, and the probe falls silent.
    assert soon(lambda: alarms(person, batch)) == ["probe-lost"]
    time.sleep(3)
    assert alarms(person, batch) == ["probe-lost"]


def test_a_worker_killed_at_work_loses_nothing(house, port):
    person = Person(port)
    batches = [at_the_stove(person) for _ in range(2)]
    for worker in list(house.workers):
        worker.send_signal(signal.SIGKILL)
        worker.wait()
        house.workers.remove(worker)
    for _, token in batches:
        reads(port, token, 66.0)
    closed, _ = at_the_stove(person)
    person("POST", f"{K}/batches/{closed}/close", {"verdict": "good", "note": ""})
    assert all(person("GET", f"{K}/batches/{batch}/live")["probe_c"] != 66.0 for batch, _ in batches)
    first = house.work()
    time.sleep(2.0)
    first.send_signal(signal.SIGKILL)
    first.wait()
    house.workers.remove(first)
    house.work()
    for batch, _ in batches:
        live = f"{K}/batches/{batch}/live"
        assert soon(lambda live=live: person("GET", live)["probe_c"] == 66.0)


def test_a_worker_waits_for_the_database_and_goes_on(house, port):
    if not house.workers:
        house.work()
    person = Person(port)
    batch, token = at_the_stove(person)
    house.kill_database()
    assert soon(lambda: post_readings(port, token, [{"at": datetime.now(UTC).isoformat(), "celsius": 67}]))
    live = f"{K}/batches/{batch}/live"
    assert soon(lambda: person.call("GET", live)[1].get("probe_c") == 67.0)
    # Jobs are done again, too: what a closed batch came to is one.
    person("POST", f"{K}/batches/{batch}/close", {"verdict": "good", "note": ""})
    with house.connect() as connection:
        left = "SELECT count(*) FROM procrastinate_jobs WHERE task_name = 'stove.learn'"
        assert soon(lambda: connection.execute(left).fetchone() == (0,))
    assert all(worker.poll() is None for worker in house.workers)
