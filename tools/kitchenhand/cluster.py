"""Our own PostgreSQL cluster: made in a folder of the project, loopback only, a generated password.

PostgreSQL refuses to run as root, so for root it runs as the user `postgres` that Debian's package
makes; an ordinary user runs it as itself.
"""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import os
import pwd
import secrets
import shutil
import socket
import subprocess
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import IO

from kitchenhand.machine import postgres_bin
from kitchenhand.places import ROOT, VAR
from kitchenhand.say import Trouble, step, timed

OWNER = "postgres"
DATABASE_USER = "oldspoon"


@dataclass
class Cluster:
    """One PostgreSQL cluster.

    `folder` holds its data, `port` is where it listens once started.
    """

    folder: Path
    password: str
    bin: Path
    port: int = 0
    started_here: bool = False
    users: IO[str] | None = None

    def start(self) -> None:
        """Start it on a free loopback port, unless it runs already; waits until it answers.

        Whoever has started it is one of its users until `stop`, or until their process ends.
        """
        with self._door():
            self.port = self._running_port()
            if not self.port:
                self._start()
            if self.users is None:
                self.users = (self.folder / "users").open("a")
                fcntl.flock(self.users, fcntl.LOCK_SH)

    @contextlib.contextmanager
    def _door(self) -> Iterator[None]:
        """One at a time comes and goes."""
        with (self.folder / "door").open("a") as door:
            fcntl.flock(door, fcntl.LOCK_EX)
            yield

    def _start(self) -> None:
        self.port = free_port()
        options = f"-p {self.port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''"
        log = self.folder / "server.log"
        done = self._as_owner(
            "pg_ctl",
            "-D",
            str(self.folder / "data"),
            "-l",
            str(log),
            "-o",
            options,
            "-w",
            "-t",
            "30",
            "start",
        )
        if done.returncode:
            raise Trouble(f"PostgreSQL did not start; it says why in {log}.")
        self.started_here = True

    def stop(self) -> None:
        """Use it no longer; the last of its users stops it, whoever started it."""
        if not (self.folder / "data").exists():
            return
        with self._door():
            users, self.users = self.users or (self.folder / "users").open("a"), None
            with users, contextlib.suppress(BlockingIOError):
                fcntl.flock(users, fcntl.LOCK_EX | fcntl.LOCK_NB)
                self._as_owner("pg_ctl", "-D", str(self.folder / "data"), "-m", "fast", "-w", "stop")
            self.started_here = False

    def remove(self) -> None:
        """Stop it and delete its data; for throw-away clusters."""
        self.stop()
        shutil.rmtree(self.folder, ignore_errors=True)

    def environment(self, database: str = "oldspoon") -> dict[str, str]:
        """What the server needs to know to reach it."""
        return {
            "OLDSPOON_DB_HOST": "127.0.0.1",
            "OLDSPOON_DB_PORT": str(self.port),
            "OLDSPOON_DB_USER": DATABASE_USER,
            "OLDSPOON_DB_PASSWORD": self.password,
            "OLDSPOON_DB_NAME": database,
        }

    def _running_port(self) -> int:
        status = self._as_owner("pg_ctl", "-D", str(self.folder / "data"), "status")
        if status.returncode:
            return 0
        return int((self.folder / "data" / "postmaster.pid").read_text().splitlines()[3])

    def _as_owner(self, program: str, *words: str) -> subprocess.CompletedProcess[str]:
        command = [str(self.bin / program), *words]
        if os.geteuid() == 0:
            command = ["runuser", "-u", OWNER, "--", *command]
        # A new session, so that Ctrl-C in the terminal reaches us and not the database.
        return subprocess.run(
            command,
            cwd="/",
            stdin=subprocess.DEVNULL,
            stdout=subprocess.DEVNULL,
            stderr=subprocess.DEVNULL,
            text=True,
            check=False,
            start_new_session=True,
        )


def open_cluster(name: str) -> Cluster:
    """The project's cluster of that name, made when it is missing. Not started.

    Raises
    ------
    Trouble
        when its folder cannot be read or made.
    """
    programs = postgres_bin()
    folder = _home() / name
    try:
        made = (folder / "data" / "PG_VERSION").exists()
        password_file = folder / "password"
        if made:
            return Cluster(folder, password_file.read_text().strip(), programs)
        return _make(folder, programs)
    except OSError as error:
        raise Trouble(f"The data folder {folder} cannot be used: {error.strerror}.") from None


def _make(folder: Path, programs: Path) -> Cluster:
    password = secrets.token_urlsafe(24)
    with timed("creating the database cluster"):
        folder.mkdir(parents=True, exist_ok=True)
        _own(folder)
        password_file = folder / "password"
        password_file.write_text(password + "\n")
        password_file.chmod(0o600)
        _own(password_file)
        cluster = Cluster(folder, password, programs)
        # Made aside and moved into place: what was cut off half-way is no cluster, and is made anew.
        making = folder / "making"
        shutil.rmtree(making, ignore_errors=True)
        done = cluster._as_owner(
            "initdb", "-D", str(making), "-U", DATABASE_USER, f"--pwfile={password_file}",
            "--auth=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8", "--no-sync",
        )  # fmt: skip
    if done.returncode:
        shutil.rmtree(folder, ignore_errors=True)
        raise Trouble(f"PostgreSQL could not create its data in {folder}.")
    making.rename(folder / "data")
    return cluster


def _home() -> Path:
    """The folder for clusters: in the project, unless PostgreSQL's user cannot get there."""
    VAR.mkdir(exist_ok=True)
    inside = VAR / "postgres"
    if os.geteuid() != 0:
        return inside
    with contextlib.suppress(KeyError):
        pwd.getpwnam(OWNER)
        inside.mkdir(exist_ok=True)
        reach = subprocess.run(["runuser", "-u", OWNER, "--", "test", "-x", inside], check=False)
        if reach.returncode == 0:
            return inside
    outside = Path("/var/lib") / f"oldspoon-{hashlib.sha256(str(ROOT).encode()).hexdigest()[:10]}"
    step(f"PostgreSQL's user cannot reach {VAR}, so the data are in {outside}")
    return outside


def _own(path: Path) -> None:
    if os.geteuid() == 0:
        shutil.chown(path, OWNER, OWNER)


def free_port(wanted: int = 0) -> int:
    """A free loopback port: the wanted one when it is free.

    Raises
    ------
    Trouble
        when the wanted port is taken.
    """
    with socket.socket(socket.AF_INET, socket.SOCK_STREAM) as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", wanted))
        except OSError:
            raise Trouble(f"Port {wanted} is taken; choose another with --port.") from None
        port: int = probe.getsockname()[1]
        return port
