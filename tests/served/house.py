"""A whole Old Spoon for tests: a database cluster of its own, and as many server processes as wanted."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import queue
import secrets
import signal
import socket
import subprocess
import threading
import time
import uuid
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import psycopg
from kitchenhand import cluster, machine, snapshot
from kitchenhand.client import DEMO as K
from kitchenhand.client import DEMO_PASSWORD, Client
from kitchenhand.cluster import Role
from kitchenhand.places import PYTHON, SERVER

PATIENCE = 30.0
"""s; what has not come by then does not come. How fast it comes is for the benchmark to say, not for tests
on machines that may have other work."""


class House:
    """The database, copied from the snapshot of the run, and the servers on it."""

    def __init__(self) -> None:
        self.cluster = snapshot.clone(snapshot.made(), f"served-{secrets.token_hex(3)}")
        self.cluster.start()
        self.servers: dict[int, subprocess.Popen[bytes]] = {}
        self.workers: list[subprocess.Popen[bytes]] = []

    def environment(self, role: Role = Role.SERVING, database: str = "oldspoon") -> dict[str, str]:
        """That of what serves and works, unless it is to be another's."""
        return machine.environment(
            **self.cluster.environment(role, database), OLDSPOON_SECRET_KEY="only-for-tests"
        )

    def connect(self, role: Role = Role.KEEPER, database: str = "oldspoon") -> psycopg.Connection:
        """The database, as somebody is connected to it."""
        known = self.environment(role, database)
        return psycopg.connect(
            host="127.0.0.1",
            port=known["OLDSPOON_DB_PORT"],
            user=known["OLDSPOON_DB_USER"],
            password=known["OLDSPOON_DB_PASSWORD"],
            dbname=database,
            autocommit=True,
        )

    def forgive(self) -> None:
        """Forget the wrong passwords that tests have tried, which shut everyone here out."""
        with self.connect() as connection:
            connection.execute("DELETE FROM axes_accessattempt")

    def clear_the_stove(self) -> None:
        """Close what tests have left open: hundreds of batches keep a worker busy for long."""
        with self.connect() as connection:
            connection.execute(
                "UPDATE stove_batch SET closed_at = now(), verdict = 'discarded' WHERE closed_at IS NULL"
            )
            connection.execute("DELETE FROM stove_livestate")

    def serve(self, port: int = 0, more: dict[str, str] | None = None) -> int:
        """Start a server process, with `more` in its environment; returns the port once it answers."""
        port = port or cluster.free_port()
        command = [PYTHON, "-m", "oldspoon.serve", str(port)]
        with self.log(port).open("a") as log:
            known = self.environment() | (more or {})
            self.servers[port] = subprocess.Popen(command, cwd=SERVER, env=known, stderr=log)
        # Long, as a machine that is busy with all the other tests starts one slowly.
        for _ in range(1200):
            with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port), timeout=1):
                return port
            time.sleep(0.05)
        raise AssertionError("the server did not come up")

    def work(self) -> subprocess.Popen[bytes]:
        """Start a worker process."""
        command = [PYTHON, "manage.py", "work"]
        self.workers.append(subprocess.Popen(command, cwd=SERVER, env=self.environment()))
        return self.workers[-1]

    def kill(self, port: int) -> None:
        """kill -9"""
        server = self.servers.pop(port)
        server.send_signal(signal.SIGKILL)
        server.wait()

    def log(self, port: int) -> Path:
        """Where the server on a port complains."""
        return self.cluster.folder / f"served-{port}.log"

    def stop(self, port: int) -> str:
        """Tell a server to stop, as Ctrl-C does; returns what it complained of."""
        server = self.servers.pop(port)
        server.send_signal(signal.SIGINT)
        assert server.wait(timeout=15) == 0
        return self.log(port).read_text()

    def kill_database(self) -> None:
        """kill -9 of PostgreSQL's main process, then up again on the same port, as a supervisor would."""
        pid_file = self.cluster.folder / "data" / "postmaster.pid"
        pid = int(pid_file.read_text().splitlines()[0])
        os.kill(pid, signal.SIGKILL)
        for _ in range(100):
            if not Path(f"/proc/{pid}").exists():
                break
            time.sleep(0.05)
        port, self.cluster.port = self.cluster.port, 0
        data = str(self.cluster.folder / "data")
        options = f"-p {port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''"
        for _ in range(20):
            # Backends of the dead server may still hold its memory for a moment.
            log = str(self.cluster.folder / "again.log")
            done = self.cluster.as_owner("pg_ctl", "-D", data, "-l", log, "-o", options, "-w", "start")
            if done.returncode == 0:
                break
            time.sleep(0.3)
        self.cluster.port = port

    def close(self) -> None:
        everyone = [*self.servers.values(), *self.workers]
        for process in everyone:
            process.terminate()
        for process in everyone:
            process.wait(timeout=15)
        self.cluster.remove()


class Person:
    """Somebody at one server."""

    def __init__(self, port: int, username: str = "pastry") -> None:
        self.port, self.client = port, Client(f"127.0.0.1:{port}", timeout_s=15)
        self.client.log_in(username, DEMO_PASSWORD)

    def headers(self) -> dict[str, str]:
        return self.client.headers()

    def __call__(self, method: str, path: str, body: object = None) -> Any:
        status, answer = self.call(method, path, body)
        assert status < 400, (method, path, status, answer)
        return answer

    def call(self, method: str, path: str, body: object = None) -> tuple[int, Any]:
        answer = self.client.call(method, path, body)
        return answer.status, answer.body

    def batch(self, **more: Any) -> dict[str, Any]:
        """The first formula of the book, taken to the stove."""
        row = self("GET", f"{K}/formulas")["lines"][0]
        found = self("GET", f"{K}/formulas/{row['id']}")
        body = {"formula_id": found["id"], "version": found["latest"], "draft": found["draft"], **more}
        return self("POST", f"{K}/batches", body)

    def mark(self, batch: int, kind: str = "moment", stage: str = "cook", **more: Any) -> dict[str, Any]:
        body = {"id": str(uuid.uuid4()), "stage": stage, "kind": kind, "at": now(), **more}
        self("POST", f"{K}/batches/{batch}/marks", body)
        return body

    def probe_in(self, batch: int) -> str:
        """A new probe put into a batch; returns its token."""
        name = f"probe {secrets.token_hex(2)}"
        made = self("POST", f"{K}/devices", {"name": name, "kind": "probe"})
        self("PUT", f"{K}/batches/{batch}/setup", {"probe_id": made["id"]})
        return made["token"]


def now() -> str:
    return datetime.now(UTC).isoformat()


def post_readings(port: int, token: str, readings: list[dict[str, Any]]) -> bool:
    """Whether the readings were acknowledged."""
    probe = Client(f"127.0.0.1:{port}", token, timeout_s=10)
    with contextlib.suppress(OSError, http.client.HTTPException):
        return probe.call("POST", "/api/device/readings", {"readings": readings}).status == 200
    return False


class Listener(threading.Thread):
    """A screen that listens to a server's events, and what it heard."""

    def __init__(self, person: Person, batch: int | None = None) -> None:
        super().__init__(daemon=True)
        self.person, self.heard = person, queue.Queue[dict[str, Any]]()
        self.connection = http.client.HTTPConnection("127.0.0.1", person.port, timeout=60)
        self.connection.connect()
        self.socket = self.connection.sock
        self.connection.request(
            "GET", f"{K}/events{f'?batch={batch}' if batch else ''}", headers=person.headers()
        )
        self.answer = self.connection.getresponse()
        assert self.answer.status == 200
        assert self.answer.getheader("Content-Type") == "text/event-stream"
        self.start()

    def run(self) -> None:
        with contextlib.suppress(OSError, ValueError, http.client.HTTPException):
            while line := self.answer.readline():
                if line.startswith(b"data: "):
                    self.heard.put(json.loads(line[6:]))

    def until(self, wanted: dict[str, int] | Callable[[dict[str, Any]], bool]) -> None:
        """Wait until it hears this, or the first thing that is so."""
        ends = time.monotonic() + PATIENCE
        while (left := ends - time.monotonic()) > 0:
            with contextlib.suppress(queue.Empty):
                event = self.heard.get(timeout=left)
                if wanted(event) if callable(wanted) else event == wanted:
                    return
        raise AssertionError(f"{wanted} was not heard within {PATIENCE} s")

    def close(self) -> None:
        with contextlib.suppress(OSError):
            self.socket.shutdown(socket.SHUT_RDWR)
        self.join(timeout=5)
        self.answer.close()
        self.connection.close()
