"""One PostgreSQL of our own: started, stopped, revived, and who connects to it.

PostgreSQL refuses to run as root, so for root it runs as the user `postgres` that Debian's package
makes; an ordinary user runs it as itself.
"""

from __future__ import annotations

import contextlib
import fcntl
import hashlib
import hmac
import os
import shutil
import socket
import subprocess
import time
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from pathlib import Path
from typing import IO

from kitchenhand.say import Trouble

OWNER = "postgres"
"""The user of the machine that runs PostgreSQL for root."""


REVIVED_S, AGAIN_S = 30.0, 0.2


class Role(StrEnum):
    """Who connects. Only the command itself is `KEEPER`, PostgreSQL's superuser: it makes the other two.
    The tables belong to `OWNER`, who migrates; `SERVING` serves and works, and reads and writes rows."""

    KEEPER = "oldspoon"
    OWNER = "oldspoon_owner"
    SERVING = "oldspoon_serving"


KITCHENS = "SELECT datname FROM pg_database WHERE datname LIKE 'oldspoon%';"
GIVEN = f"""
DO $$
DECLARE one record;
BEGIN
    FOR one IN SELECT format('%s %s', kind, name) AS what FROM (
        SELECT CASE relkind WHEN 'S' THEN 'SEQUENCE' ELSE 'TABLE' END AS kind, oid::regclass::text AS name
        FROM pg_class WHERE relnamespace = 'public'::regnamespace AND (
            relkind = 'r' OR relkind = 'S' AND NOT EXISTS (
                SELECT FROM pg_depend WHERE objid = pg_class.oid AND deptype IN ('a', 'i')))
        UNION ALL SELECT 'FUNCTION', oid::regprocedure::text FROM pg_proc
        WHERE pronamespace = 'public'::regnamespace
        UNION ALL SELECT 'TYPE', oid::regtype::text FROM pg_type
        WHERE typnamespace = 'public'::regnamespace AND (typtype = 'e' OR typrelid IN (
            SELECT oid FROM pg_class WHERE relkind = 'c'))
    ) found LOOP EXECUTE format('ALTER %s OWNER TO {Role.OWNER}', one.what); END LOOP;
END $$;
"""  # noqa: S608 a name of ours
"""All that a database of before there were roles holds, given to the owner."""


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
            self.make_roles()
            if self.users is None:
                self.users = _private(self.folder / "users")
                fcntl.flock(self.users, fcntl.LOCK_SH)

    @contextlib.contextmanager
    def _door(self) -> Iterator[None]:
        """One at a time comes and goes."""
        with _private(self.folder / "door") as door:
            fcntl.flock(door, fcntl.LOCK_EX)
            yield

    def alive(self) -> bool:
        """Whether its main process is there; asks the machine and not the database, as it is asked often."""
        try:
            pid = (self.folder / "data" / "postmaster.pid").read_text().split("\n", 1)[0]
        except OSError:
            return False
        return Path(f"/proc/{pid}").exists()

    def revive(self) -> None:
        """Start it again where it was, after it has died; whoever comes second finds it running.

        Raises
        ------
        Trouble
            when it does not start within half a minute.
        """
        with self._door():
            ends = time.monotonic() + REVIVED_S
            while not self._running_port():
                try:
                    # What is left of the dead one may hold its memory for a moment.
                    self._start(self.port)
                except Trouble:
                    if time.monotonic() > ends:
                        raise
                    time.sleep(AGAIN_S)

    def _start(self, port: int = 0) -> None:
        self.port = port or free_port()
        options = f"-p {self.port} -c listen_addresses=127.0.0.1 -c unix_socket_directories=''"
        log = self.folder / "server.log"
        done = self.as_owner(
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
            users, self.users = self.users or _private(self.folder / "users"), None
            with users, contextlib.suppress(BlockingIOError):
                fcntl.flock(users, fcntl.LOCK_EX | fcntl.LOCK_NB)
                self.as_owner("pg_ctl", "-D", str(self.folder / "data"), "-m", "fast", "-w", "stop")
            self.started_here = False

    def remove(self) -> None:
        """Stop it and delete its data; for throw-away clusters."""
        self.stop()
        shutil.rmtree(self.folder, ignore_errors=True)

    def environment(self, role: Role, database: str = "oldspoon") -> dict[str, str]:
        """What one needs to know to reach it as somebody."""
        return {
            "OLDSPOON_DB_HOST": "127.0.0.1",
            "OLDSPOON_DB_PORT": str(self.port),
            "OLDSPOON_DB_USER": role,
            "OLDSPOON_DB_PASSWORD": self._password_of(role),
            "OLDSPOON_DB_NAME": database,
            "OLDSPOON_DB_SERVING": Role.SERVING,
        }

    def _password_of(self, role: Role) -> str:
        """Each has a password of its own, and none tells another's."""
        if role is Role.KEEPER:
            return self.password
        return hmac.new(self.password.encode(), role.encode(), hashlib.sha256).hexdigest()

    def make_roles(self) -> None:
        """Make those that are missing, once; what an older cluster holds is given to its owner."""
        done = self.folder / "roles"
        if done.exists():
            return
        owner, serving = (self._password_of(role) for role in (Role.OWNER, Role.SERVING))
        self.sql(
            "postgres",
            f"CREATE ROLE {Role.OWNER} LOGIN CREATEDB PASSWORD '{owner}'; "
            f"CREATE ROLE {Role.SERVING} LOGIN PASSWORD '{serving}';",
        )
        for database in self.sql("postgres", KITCHENS).split():
            self.sql("postgres", f'ALTER DATABASE "{database}" OWNER TO {Role.OWNER};')
            self.sql(database, GIVEN)
        done.touch()

    def sql(self, database: str, text: str, *, together: bool = True) -> str:
        """Run a few statements as the keeper, all or none if `together`; returns what they printed."""
        whole = ["--single-transaction"] if together else []
        return self.run("psql", "-qtAX", *whole, "-v", "ON_ERROR_STOP=1", f"--dbname={database}", said=text)

    def run(self, program: str, *words: str, said: str = "") -> str:
        """Run one of PostgreSQL's programs on this cluster as the keeper; returns what it printed.

        Raises
        ------
        Trouble
            when it fails, with what it said.
        """
        reach = {"PGHOST": "127.0.0.1", "PGPORT": str(self.port), "PGUSER": Role.KEEPER.value}
        done = subprocess.run(
            [self.bin / program, *words],
            input=said,
            env={**os.environ, **reach, "PGPASSWORD": self.password},
            capture_output=True,
            text=True,
            check=False,
        )
        if done.returncode:
            raise Trouble(f"PostgreSQL's {program} refused: {done.stderr.strip()}")
        return done.stdout

    def _running_port(self) -> int:
        status = self.as_owner("pg_ctl", "-D", str(self.folder / "data"), "status")
        if status.returncode:
            return 0
        return int((self.folder / "data" / "postmaster.pid").read_text().splitlines()[3])

    def as_owner(self, program: str, *words: str) -> subprocess.CompletedProcess[str]:
        """Run one of PostgreSQL's programs as whoever runs it."""
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


def own(path: Path) -> None:
    """Give a path to whoever runs PostgreSQL."""
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


def _private(path: Path) -> IO[str]:
    """A lock file, opened: whoever else could open it could hold it, and stop every start and backup."""
    handle = os.open(path, os.O_WRONLY | os.O_APPEND | os.O_CREAT, 0o600)
    with contextlib.suppress(PermissionError):
        os.fchmod(handle, 0o600)
    return os.fdopen(handle, "a")
