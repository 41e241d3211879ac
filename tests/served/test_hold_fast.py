"""What the process that serves cannot do, whatever its code tries."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Iterator
from pathlib import Path
from threading import Thread

import psycopg
import pytest
from house import PATIENCE, House, K, Listener, Person
from kitchenhand.cluster import Role


@pytest.fixture
def serving(house: House) -> Iterator[psycopg.Connection]:
    """The database, as what serves is connected to it."""
    with house.connect(Role.SERVING) as connection:
        yield connection


@pytest.mark.parametrize(
    "statement",
    [
        "CREATE TABLE mine (id int)",
        "DROP TABLE stove_mark",
        "ALTER TABLE stove_mark ADD COLUMN mine int",
        "TRUNCATE stove_mark",
        "DELETE FROM stove_mark",
        "DELETE FROM devices_reading",
        "DELETE FROM stove_batch",
        "DELETE FROM kitchen_kitchen",
        "UPDATE kitchen_auditentry SET action = 'nothing'",
        "DELETE FROM kitchen_auditentry",
        "UPDATE book_formulaversion SET number = 1",
        "UPDATE stove_parameterset SET version = 'x'",
        "INSERT INTO django_migrations (app, name, applied) VALUES ('x', 'x', now())",
        "CREATE ROLE mine",
        "SELECT * FROM pg_authid",
        "COPY stove_mark TO PROGRAM 'cat'",
    ],
)
def test_what_serves_may_not(serving, statement):
    with pytest.raises(psycopg.errors.InsufficientPrivilege):
        serving.execute(statement)


SOMEBODY = """
DELETE FROM kitchen_membership USING people_user u WHERE u.id = user_id AND username = 'listening';
DELETE FROM people_opensession USING people_user u WHERE u.id = user_id AND username = 'listening';
DELETE FROM people_user WHERE username = 'listening';
INSERT INTO people_user (username, password, title, is_active, is_superuser, is_staff, first_name, last_name,
    email, date_joined, habits, pin, wrong_pins)
    SELECT 'listening', password, '', true, false, false, '', '', '', now(), '{}', '', 0
    FROM people_user WHERE username = 'trainee';
INSERT INTO kitchen_membership (user_id, kitchen_id, role) SELECT u.id, k.id, 'cook'
    FROM people_user u, kitchen_kitchen k WHERE username = 'listening' AND slug = 'tidemill-house';
"""
LOSING = {
    "log-out": lambda house, person: person("DELETE", "/api/session"),
    "another password": lambda house, person: _ruled(
        house, "UPDATE people_user SET password = 'x' WHERE username = %s"
    ),
    "sent from the kitchen": lambda house, person: _ruled(
        house, "DELETE FROM kitchen_membership USING people_user u WHERE u.id = user_id AND username = %s"
    ),
    "no longer active": lambda house, person: _ruled(
        house, "UPDATE people_user SET is_active = false WHERE username = %s"
    ),
}


def _ruled(house: House, statement: str) -> None:
    with house.connect() as connection:
        connection.execute(statement, ["listening"])


@pytest.fixture
def somebody(house: House) -> None:
    """A cook of the kitchen, for this test, with the demo's password."""
    with house.connect() as connection:
        connection.execute(SOMEBODY)


@pytest.mark.parametrize("how", LOSING)
def test_who_may_no_longer_listen_is_let_go_and_nobody_else(house, port, somebody, how):
    person, other = Person(port, "listening"), Person(port, "trainee")
    screen, stays = Listener(person), Listener(other)
    LOSING[how](house, person)
    screen.join(timeout=PATIENCE)
    assert not screen.is_alive()
    batch = other.batch()["id"]
    other.mark(batch)
    stays.until({"batch": batch})
    screen.close(), stays.close()


def test_a_screen_that_listens_costs_no_thread(house, port):
    person = Person(port)
    status = Path(f"/proc/{house.servers[port].pid}/status")

    def threads() -> int:
        return int(re.search(r"Threads:\s+(\d+)", status.read_text())[1])

    before = threads()
    screens = [Listener(person) for _ in range(40)]
    assert threads() < before + 10
    for screen in screens:
        screen.close()


def test_much_that_is_asked_at_once_is_answered_in_turn_and_breaks_nothing(house, port, record_property):
    """Sixty heavy questions by one viewer; meanwhile another reads and computes."""
    viewer, cook = Person(port, "guest"), Person(port, "pastry")
    row = cook("GET", f"{K}/formulas")["lines"][0]
    draft = cook("GET", f"{K}/formulas/{row['id']}")["draft"]
    solve = {"draft": draft, "goal": "texture", "texture": "heavy coat", "at_c": 4}
    answers: Counter[int] = Counter()

    def ask(path: str, body: object) -> None:
        answers[viewer.call("POST", f"{K}/{path}", body)[0]] += 1

    asking = [Thread(target=ask, args=("solve", solve) if n % 2 else ("band", draft)) for n in range(60)]
    for one in asking:
        one.start()
    mine = [cook.call("POST", f"{K}/assess", draft)[0] for _ in range(5)]
    mine += [cook.call("GET", f"{K}/batches")[0] for _ in range(5)]
    for one in asking:
        one.join()
    assert mine == [200] * 10
    assert sum(answers.values()) == 60
    assert answers[200] > 0
    assert set(answers) <= {200, 429, 503}
    said = ", ".join(f"{count} × {status}" for status, count in sorted(answers.items()))
    record_property("told", f"sixty heavy questions at once: {said}")
