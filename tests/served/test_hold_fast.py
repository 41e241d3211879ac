"""What the process that serves cannot do, whatever its code tries."""

from __future__ import annotations

import psycopg
import pytest
from house import House
from kitchenhand.cluster import Role


@pytest.fixture
def serving(house: House) -> psycopg.Connection:
    """The database, as what serves is connected to it."""
    known = house.environment(Role.SERVING)
    with psycopg.connect(
        host="127.0.0.1",
        port=known["OLDSPOON_DB_PORT"],
        user=known["OLDSPOON_DB_USER"],
        password=known["OLDSPOON_DB_PASSWORD"],
        dbname=known["OLDSPOON_DB_NAME"],
        autocommit=True,
    ) as connection:
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
