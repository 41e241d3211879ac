"""Several web processes behind a pooler, one worker, one database: as on several machines.

The pooler is Debian's pgbouncer, which hands out connections by transaction; without it this is not tried.
"""

from __future__ import annotations

import getpass
import os
import shutil
import socket
import subprocess
import time
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor

import pytest
from house import House, K, Listener, Person, now, post_readings
from kitchenhand.cluster import free_port
from kitchenhand.postgres import OWNER, own

PGBOUNCER = shutil.which("pgbouncer", path="/usr/sbin:/usr/bin")
WEBS, MOST_CONNECTIONS, BATCHES = 3, 8, 6
CONFIGURATION = """
[databases]
oldspoon = host=127.0.0.1 port={database} dbname=oldspoon
[pgbouncer]
listen_addr = 127.0.0.1
listen_port = {port}
auth_type = scram-sha-256
auth_file = {users}
pool_mode = transaction
default_pool_size = {most}
ignore_startup_parameters = extra_float_digits
unix_socket_dir =
logfile = {log}
"""


@pytest.fixture(scope="module")
def pooler(house: House) -> Iterator[int]:
    """The port of a pooler before the database, run by an ordinary user as poolers must be."""
    if PGBOUNCER is None:
        pytest.skip("pgbouncer is not installed")
    # In the database's folder, where its user may read.
    folder, port = house.cluster.folder / "pooler", free_port()
    folder.mkdir()
    known = house.environment()
    users, configuration = folder / "users", folder / "pgbouncer.ini"
    users.write_text(f'"{known["OLDSPOON_DB_USER"]}" "{known["OLDSPOON_DB_PASSWORD"]}"\n')
    configuration.write_text(
        CONFIGURATION.format(
            database=known["OLDSPOON_DB_PORT"],
            port=port,
            users=users,
            most=MOST_CONNECTIONS,
            log=folder / "log",
        )
    )
    for path in (folder, users, configuration):
        own(path)
    user = OWNER if os.geteuid() == 0 else getpass.getuser()
    running = subprocess.Popen([PGBOUNCER, "-q", "-u", user, configuration])
    _until_it_listens(port)
    yield port
    running.terminate()
    running.wait(timeout=10)


def _until_it_listens(port: int) -> None:
    for _ in range(200):
        with socket.socket() as tried:
            if tried.connect_ex(("127.0.0.1", port)) == 0:
                return
        time.sleep(0.05)
    raise AssertionError("the pooler did not come up")


@pytest.fixture(scope="module")
def webs(house: House, pooler: int) -> list[int]:
    """The ports of web processes that reach the database through the pooler, with a worker that does not."""
    house.clear_the_stove()
    direct = house.environment()
    through = {
        "OLDSPOON_DB_PORT": str(pooler),
        "OLDSPOON_DB_DIRECT_HOST": direct["OLDSPOON_DB_HOST"],
        "OLDSPOON_DB_DIRECT_PORT": direct["OLDSPOON_DB_PORT"],
    }
    house.work()
    return [house.serve(more=through) for _ in range(WEBS)]


def test_what_one_process_is_told_every_other_one_shows(house, webs):
    one, other, third = (Person(port) for port in webs)
    screen = Listener(third)
    batch = one.batch()["id"]
    token = other.probe_in(batch)
    mark = other.mark(batch, "done", "weigh")
    screen.until({"batch": batch})
    assert post_readings(webs[2], token, [{"at": now(), "celsius": 61.5}])
    screen.until(lambda event: event.get("urgent", {}).get("id") == batch)
    screen.close()
    assert mark["id"] in {found["id"] for found in third("GET", f"{K}/batches/{batch}")["marks"]}
    assert one("GET", f"{K}/batches/{batch}/live")["probe_c"] == 61.5


def test_many_at_once_share_few_connections_and_nothing_is_counted_twice(house, webs):
    """Transactions of three processes interleave on the pooler's connections."""
    people = [Person(webs[number % WEBS]) for number in range(BATCHES)]
    with ThreadPoolExecutor(BATCHES) as pool:
        batches = [made["id"] for made in pool.map(lambda person: person.batch(), people)]
        list(
            pool.map(
                lambda pair: [pair[0].mark(pair[1]) for _ in range(5)], zip(people, batches, strict=True)
            )
        )
    assert len(set(batches)) == BATCHES
    numbers = [one["number"] for one in people[0]("GET", f"{K}/batches") if one["id"] in batches]
    assert len(set(numbers)) == BATCHES
    with house.connect() as connection:
        marks = connection.execute(
            "SELECT count(*) FROM stove_mark WHERE kind = 'moment' AND batch_id = ANY(%s)", [batches]
        ).fetchone()
    assert marks == (5 * BATCHES,)


def _mark_five(person: Person, batch: int) -> None:
    for _ in range(5):
        person.mark(batch)
