"""`./spoon start --empty`, as a person uses it: up, used, stopped, up again with everything kept."""

from __future__ import annotations

import contextlib
import http.client
import os
import signal
import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pytest
from kitchenhand import cluster, machine, ordinary, places, serve, snapshot
from kitchenhand import crew as crews
from kitchenhand.say import Trouble
from oldspoon import memory

NAME = "spoon-test"


@pytest.fixture(autouse=True, scope="module")
def own_cluster() -> Iterator[None]:
    """A cluster of the tests' own, so that nobody's kitchen is touched: with tables, and nobody in it."""
    made = snapshot.clone(snapshot.made(), NAME, cluster.home_of_clusters())
    made.start()
    for statement in (
        f'DROP DATABASE "{snapshot.SEEDED}";',
        f'ALTER DATABASE "{snapshot.MIGRATED}" RENAME TO "{snapshot.SEEDED}";',
    ):
        made.sql("postgres", statement, together=False)
    made.stop()
    yield
    with contextlib.suppress(Exception):
        cluster.open_cluster(NAME).remove()


@contextmanager
def started(port: int) -> Iterator[subprocess.Popen[str]]:
    """The start command in a process of its own, until it is interrupted."""
    code = (
        f"from kitchenhand import __main__, serve; serve.EMPTY = {NAME!r}; "
        f"raise SystemExit(__main__.main(['start', '--empty', '--port', '{port}']))"
    )
    environment = {**os.environ, "PYTHONPATH": str(places.ROOT / "tools"), "PYTHONUNBUFFERED": "1"}
    process = subprocess.Popen(
        [places.BASE_PYTHON, "-c", code], env=environment, stdout=subprocess.PIPE, text=True
    )
    try:
        assert process.stdout is not None
        for line in process.stdout:
            if line.startswith("Ctrl-C"):
                break
        yield process
    finally:
        process.send_signal(signal.SIGINT)
        process.communicate(timeout=30)


def answer(port: int, path: str, within_s: float = 10) -> tuple[int, str]:
    with contextlib.closing(http.client.HTTPConnection("127.0.0.1", port, timeout=within_s)) as connection:
        connection.request("GET", path)
        with connection.getresponse() as got:
            return got.status, got.read().decode()


def running(folder: Path) -> bool:
    return (folder / "data" / "postmaster.pid").exists()


@pytest.fixture(scope="module")
def kept() -> str:
    """Somebody who was added while it served; then it was stopped."""
    port = cluster.free_port()
    with started(port) as first:
        assert answer(port, "/")[0] == 200
        assert answer(port, "/api/session") == (200, '{"person": null, "first": true}')
        environment = machine.environment(
            **_running_environment(), OLDSPOON_SECRET_KEY="x", OLDSPOON_PASSWORD="a-long-enough-one"
        )
        add = ["manage.py", "add_person", "someone", "--kitchen", "Salt Quay", "--role", "chef"]
        subprocess.run([places.PYTHON, *add], cwd=places.SERVER, env=environment, check=True)
    assert first.returncode == 0
    assert not running(cluster.open_cluster(NAME).folder)
    return "someone"


@pytest.fixture(scope="module")
def up(kept: str) -> Iterator[tuple[int, subprocess.Popen[str]]]:
    """Started once more: its port, and its process."""
    port = cluster.free_port()
    with started(port) as process:
        yield port, process
    assert process.returncode == 0
    assert not running(cluster.open_cluster(NAME).folder)


def test_what_was_made_is_kept_over_a_stop(kept, up):
    known = cluster.open_cluster(NAME)
    known.start()
    try:
        assert known.sql("oldspoon", "SELECT username FROM people_user;").split() == [kept]
    finally:
        known.stop()
    assert running(known.folder), "the kitchen still uses it, so it goes on"
    assert answer(up[0], "/")[0] == 200


def test_a_second_start_on_the_same_port_is_refused(up):
    with pytest.raises(Trouble, match=f"Port {up[0]} is taken"):
        serve.start(empty=True, port=up[0], workers=1)


@pytest.mark.skipif(os.geteuid() != 0, reason="only root has rights to give up")
def test_what_root_starts_is_an_ordinary_user_s_and_reaches_rows_only(up):
    users = {one.stat().st_uid for one in _children(up[1].pid)}
    # A worker that is ready to take another's place may be there already.
    assert len(_children(up[1].pid)) in (2, 3)
    assert 0 not in users


def test_a_database_that_dies_under_it_is_started_again(up):
    folder = cluster.open_cluster(NAME).folder
    dead = _postmaster(folder)
    os.kill(dead, signal.SIGKILL)
    # What is left of it may still answer for a moment.
    while _postmaster(folder) in (0, dead):
        time.sleep(0.05)
    _until(up[0], 200)


def test_a_server_that_dies_is_started_again_and_refuses_nobody_meanwhile(up):
    port, process = up
    (server,) = [one for one in _children(process.pid) if b"oldspoon.serve" in (one / "cmdline").read_bytes()]
    os.kill(int(server.name), signal.SIGKILL)
    # Whoever asks now waits in line for the next one.
    assert answer(port, "/", within_s=30)[0] == 200


def _children(pid: int) -> list[Path]:
    return [one for one in Path("/proc").glob("[0-9]*") if _parent_of(one) == pid]


def _running_environment() -> dict[str, str]:
    found = cluster.open_cluster(NAME)
    found.start()
    assert not found.started_here
    known = found.environment(cluster.Role.OWNER)
    # The kitchen still uses it, so it goes on.
    found.stop()
    assert running(found.folder)
    return known


def _until(port: int, status: int) -> None:
    ends = time.monotonic() + 30
    while time.monotonic() < ends:
        with contextlib.suppress(OSError):
            if answer(port, "/")[0] == status:
                return
        time.sleep(0.1)
    raise AssertionError(f"/ was not {status} within 30 s")


def _postmaster(folder: Path) -> int:
    with contextlib.suppress(OSError, ValueError, IndexError):
        return int((folder / "data" / "postmaster.pid").read_text().split()[0])
    return 0


def _parent_of(process: Path) -> int:
    with contextlib.suppress(OSError):
        return int((process / "stat").read_text().rsplit(")", 1)[1].split()[1])
    return 0


def test_what_dies_again_and_again_ends_it_with_a_sentence():
    crew = crews.Crew(dict(os.environ))
    crew.take_on([sys.executable, "-c", "raise SystemExit(3)"])
    try:
        with pytest.raises(Trouble, match=r"worker died with exit status 3.*third death"):
            crew.watch()
    finally:
        crew.end()


WAITS = """
import os, pathlib, sys, time
log = pathlib.Path(sys.argv[1])
spare = "--spare" in sys.argv
if spare and not sys.stdin.readline():
    raise SystemExit(0)
with log.open("a") as out:
    out.write(f"{os.getpid()} {'spare' if spare else 'first'}\\n")
time.sleep(60)
"""


def test_a_worker_that_dies_leaves_its_place_to_one_that_is_ready(monkeypatch):
    log = ordinary.own_folder() / f"worked-{os.getpid()}"
    monkeypatch.setattr(crews, "WORK", [sys.executable, "-c", WAITS, str(log)])
    monkeypatch.setattr(crews, "SPARE_AFTER_S", 0.2)
    monkeypatch.setattr(crews, "SOON_S", 0.05)
    crew = crews.Crew(dict(os.environ))
    first = crew.take_on(crews.WORK)
    watching = threading.Thread(target=crew.watch)
    watching.start()
    try:
        _until_so(lambda: crew.spare is not None and len(_worked(log)) == 1)
        ready = crew.spare
        os.kill(first.pid, signal.SIGKILL)
        _until_so(lambda: len(_worked(log)) == 2)
        assert [kind for _, kind in _worked(log)] == ["first", "spare"]
        assert [one.running for one in crew.processes] == [ready]
        # The next one gets ready, and a spare that dies itself is replaced.
        _until_so(lambda: crew.spare is not None)
        os.kill(crew.spare.pid, signal.SIGKILL)
        dead = crew.spare
        _until_so(lambda: crew.spare is not None and crew.spare is not dead)
    finally:
        crew.end()
        watching.join(10)
        log.unlink(missing_ok=True)
    assert not watching.is_alive()
    assert crew.spare.poll() is not None
    assert ready.poll() is not None


def _worked(log: Path) -> list[list[str]]:
    return [line.split() for line in log.read_text().splitlines()] if log.exists() else []


def _until_so(so) -> None:
    ends = time.monotonic() + 20
    while not so():
        assert time.monotonic() < ends
        time.sleep(0.02)


def test_one_that_gives_way_is_replaced_and_is_no_death():
    count = ordinary.own_folder() / f"begun-{os.getpid()}"
    program = (
        f"import pathlib; p = pathlib.Path({str(count)!r}); n = len(p.read_text()) if p.exists() else 0;"
    )
    program += f"p.write_text('x' * (n + 1)); raise SystemExit({crews.GIVES_WAY} if n < 4 else 3)"
    assert memory.GIVES_WAY == crews.GIVES_WAY
    crew = crews.Crew(dict(os.environ))
    crew.take_on([sys.executable, "-c", program])
    try:
        with pytest.raises(Trouble, match="third death"):
            crew.watch()
    finally:
        crew.end()
    # Four times it gave way, then it died three times.
    assert len(count.read_text()) == 7
    count.unlink()


def test_a_restore_that_was_killed_near_its_end_is_made_good_at_the_next_start(monkeypatch, tmp_path, kept):
    monkeypatch.setattr(serve, "EMPTY", NAME)
    monkeypatch.delenv("OLDSPOON_DB_HOST")
    (tmp_path / "no.backup").write_bytes(b"")
    serving = cluster.Role.SERVING
    with serve.database(NAME) as made:
        serve.prepare(made, empty=True)
        assert serve._stamp(made).exists()
        assert serve.restore(tmp_path / "no.backup", empty=True, replace=True) != 0
        assert not serve._stamp(made).exists()
        # So it stands between the data and the rights.
        made.sql("oldspoon", f"REVOKE ALL ON ALL TABLES IN SCHEMA public FROM {serving};")
        serve.prepare(made, empty=True)
        may = f"SELECT has_table_privilege('{serving}', 'people_user', 'SELECT');"
        assert made.sql("oldspoon", may).strip() == "t"


@pytest.mark.parametrize(
    ("wrong", "said"),
    [
        ({"OLDSPOON_DB_PASSWORD_FILE": "/dev/null"}, "database: the database does not answer"),
        ({"OLDSPOON_SECRET_KEY_FILE": "/nowhere"}, "stopped while starting"),
    ],
)
def test_it_is_up_only_when_it_answers_a_real_request(monkeypatch, wrong, said):
    monkeypatch.setattr(serve, "PATIENCE_S", 15.0)
    port = cluster.free_port()
    with serve.database(NAME) as made:
        serve.prepare(made, empty=True)
        environment = {**serve.served(made, cluster.Role.SERVING), **wrong}
        crew = crews.Crew(environment)
        try:
            server = crew.take_on(crews.web_command(port))
            with pytest.raises(Trouble, match=said):
                serve.wait_for(port, server)
        finally:
            crew.end()
