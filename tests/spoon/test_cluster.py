"""The project's database: one of many users leaves it, the last stops it; half-made ones are made again."""

from __future__ import annotations

import os
import secrets
import signal
import time
from collections.abc import Iterator

import pytest
from kitchenhand import cluster
from kitchenhand.cluster import Role
from kitchenhand.say import Trouble

KITCHEN = """
CREATE TABLE sauces (id bigint GENERATED ALWAYS AS IDENTITY, name text, state mood, more pair);
CREATE FUNCTION one() RETURNS int LANGUAGE sql AS 'SELECT 1';
INSERT INTO sauces (name, state, more) VALUES ('anglaise', 'calm', ROW(1, 2));
"""


@pytest.fixture
def name() -> Iterator[str]:
    chosen = f"users-{secrets.token_hex(3)}"
    yield chosen
    cluster.open_cluster(chosen).remove()


def test_it_stops_with_its_last_user_whoever_started_it(name):
    first, second = cluster.open_cluster(name), cluster.open_cluster(name)
    first.start()
    second.start()
    assert first.port == second.port
    # Whoever could open these could hold them, and so stop every start and backup.
    for lock in ("door", "users"):
        assert (first.folder / lock).stat().st_mode & 0o777 == 0o600
    first.stop()
    assert second._running_port() == second.port
    third = cluster.open_cluster(name)
    third.start()
    second.stop()
    assert third._running_port() == third.port
    third.stop()
    assert third._running_port() == 0


def test_stopping_twice_stops_nobody_else(name):
    first, second = cluster.open_cluster(name), cluster.open_cluster(name)
    first.start()
    second.start()
    first.stop()
    first.stop()
    assert second._running_port() == second.port
    second.stop()


def test_one_that_was_cut_off_while_it_was_made_is_made_anew(name):
    """As a kill -9 in the middle of it leaves it."""
    half = cluster.home_of_clusters() / name / "making"
    half.mkdir(parents=True)
    (half / "PG_VERSION").write_text("15")
    made = cluster.open_cluster(name)
    made.start()
    assert made._running_port()
    made.stop()


def owners(made: cluster.Cluster) -> set[str]:
    """Who owns what the database holds."""
    found = made.sql(
        "oldspoon",
        "SELECT relowner::regrole FROM pg_class WHERE relnamespace = 'public'::regnamespace "
        "UNION SELECT proowner::regrole FROM pg_proc WHERE pronamespace = 'public'::regnamespace "
        "UNION SELECT typowner::regrole FROM pg_type WHERE typnamespace = 'public'::regnamespace;",
    )
    return set(found.split())


@pytest.fixture
def old(name) -> cluster.Cluster:
    """A cluster as they were before there were roles, with a kitchen in it; stopped."""
    made = cluster.open_cluster(name)
    (made.folder / "roles").touch()
    made.start()
    made.sql("postgres", "CREATE DATABASE oldspoon;", together=False)
    types = "CREATE TYPE mood AS ENUM ('calm', 'split'); CREATE TYPE pair AS (a int, b int);"
    made.sql("oldspoon", types + KITCHEN)
    made.stop()
    (made.folder / "roles").unlink()
    return made


def test_what_an_older_cluster_holds_is_given_to_the_owner(old):
    old.start()
    assert owners(old) == {Role.OWNER}
    old.stop()


def test_each_role_has_a_password_of_its_own(name):
    made = cluster.open_cluster(name)
    secrets_ = {made.environment(role)["OLDSPOON_DB_PASSWORD"] for role in Role}
    assert len(secrets_) == len(Role)


def test_a_database_that_dies_is_revived_where_it_was(name):
    made = cluster.open_cluster(name)
    made.start()
    assert made.alive()
    port, pid = made.port, int((made.folder / "data" / "postmaster.pid").read_text().split()[0])
    os.kill(pid, signal.SIGKILL)
    while made.alive():
        time.sleep(0.02)
    made.revive()
    assert made.alive()
    assert made.port == made._running_port() == port
    made.stop()


def test_data_of_an_older_postgresql_are_carried_over(old, capsys):
    """Both are this machine's one version: dumping, making again and bringing back are tried all the same."""
    made = cluster._carried_over(old, old.bin)
    made.start()
    assert (
        made.sql("oldspoon", "SELECT name, state, more, one() FROM sauces;").strip()
        == "anglaise|calm|(1,2)|1"
    )
    assert owners(made) == {Role.OWNER}
    made.stop()
    assert (made.folder / f"data-{old.bin.parts[-2]}" / "PG_VERSION").exists()
    assert "carrying the data over" in capsys.readouterr().out


def test_what_was_cut_off_between_two_names_is_ended_at_the_next_start(old, monkeypatch):
    with monkeypatch.context() as patch:
        patch.setattr(cluster, "_take_place", lambda folder: (_ for _ in ()).throw(KeyboardInterrupt))
        with pytest.raises(KeyboardInterrupt):
            cluster._carried_over(old, old.bin)
    assert not (old.folder / "data").exists()
    made = cluster.open_cluster(old.folder.name)
    made.start()
    assert made.sql("oldspoon", "SELECT name FROM sauces;").strip() == "anglaise"
    made.stop()


def test_what_cannot_be_carried_over_leaves_everything_as_it_was(old, monkeypatch):
    real = cluster.Cluster.run

    def fails(made: cluster.Cluster, program: str, *words: str, said: str = "") -> str:
        if program == "pg_restore":
            raise Trouble("The disk is full.")
        return real(made, program, *words, said=said)

    with monkeypatch.context() as patch:
        patch.setattr(cluster.Cluster, "run", fails)
        with pytest.raises(Trouble, match="disk is full"):
            cluster._carried_over(old, old.bin)
    old.start()
    assert old.sql("oldspoon", "SELECT name FROM sauces;").strip() == "anglaise"
    old.stop()


@pytest.mark.parametrize(
    ("version", "said"),
    [
        ("9.6", "both are needed once:\n  sudo apt-get install postgresql-9.6"),
        ("99", "has only .*postgresql-99"),
    ],
)
def test_data_of_another_postgresql_are_explained(name, version, said):
    made = cluster.open_cluster(name)
    file = made.folder / "data" / "PG_VERSION"
    real = file.read_text()
    file.write_text(version + "\n")
    with pytest.raises(Trouble, match=f"(?s){said}"):
        cluster.open_cluster(name)
    file.write_text(real)
