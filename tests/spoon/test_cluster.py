"""The project's database: one of many users leaves it, the last stops it; half-made ones are made anew."""

from __future__ import annotations

import secrets
from collections.abc import Iterator

import pytest
from kitchenhand import cluster


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
    half = cluster._home() / name / "making"
    half.mkdir(parents=True)
    (half / "PG_VERSION").write_text("15")
    made = cluster.open_cluster(name)
    made.start()
    assert made._running_port()
    made.stop()
