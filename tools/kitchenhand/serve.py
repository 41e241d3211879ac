"""`./spoon start`: everything up, and cleanly down again."""

from __future__ import annotations

import contextlib
import os
import secrets
import signal
import socket
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field

from kitchenhand import machine
from kitchenhand.cluster import Cluster, free_port, open_cluster
from kitchenhand.places import PYTHON, SERVER, VAR
from kitchenhand.say import Trouble, step

FIRST_PORT = 8000
DEMO = "demo"
EMPTY = "kitchen"
SOON_S = 0.3
"""How often it is looked whether all still work."""


@contextmanager
def database(name: str) -> Iterator[Cluster]:
    """The project's cluster, running while the block runs."""
    cluster = open_cluster(name)
    cluster.start()
    try:
        yield cluster
    finally:
        cluster.stop()


def start(*, empty: bool, port: int | None, workers: int) -> int:
    """Set up what is missing, serve on loopback and work, until Ctrl-C."""
    chosen = free_port(port) if port else _first_free(FIRST_PORT)
    machine.ensure(tests=False)
    _hear_signals()
    with database(EMPTY if empty else DEMO) as cluster, contextlib.suppress(KeyboardInterrupt):
        environment = machine.environment(**cluster.environment(), OLDSPOON_SECRET_KEY=_secret_key())
        _prepare(cluster, environment, empty=empty)
        crew = Crew(environment)
        try:
            server = crew.take_on(web_command(chosen))
            for _ in range(workers):
                crew.take_on(WORK, again=True)
            _wait_for(chosen, server)
            _greet(chosen, empty=empty)
            crew.wait_for(server)
        finally:
            crew.end()
            print("\nOld Spoon has stopped; everything is kept.", flush=True)
    return 0


def one(words: list[str], *, empty: bool) -> int:
    """Run one of the processes alone, until Ctrl-C: on this machine's database, or on the one that the
    environment names, so that any number of them on any number of machines share one kitchen."""
    machine.ensure(tests=False, web=words != WORK)
    _hear_signals()
    if "OLDSPOON_DB_HOST" in os.environ:
        return _alone(words, machine.environment())
    with database(EMPTY if empty else DEMO) as cluster:
        environment = machine.environment(**cluster.environment(), OLDSPOON_SECRET_KEY=_secret_key())
        _prepare(cluster, environment, empty=empty)
        return _alone(words, environment)


def _alone(words: list[str], environment: dict[str, str]) -> int:
    crew = Crew(environment)
    with contextlib.suppress(KeyboardInterrupt):
        try:
            crew.wait_for(crew.take_on(words))
        finally:
            crew.end()
    return 0


def _hear_signals() -> None:
    for stop in (signal.SIGTERM, signal.SIGINT):
        signal.signal(stop, signal.default_int_handler)


WORK = [str(PYTHON), "manage.py", "work"]
"""The process that follows open batches and does jobs."""


def web_command(port: int) -> list[str]:
    """The process that serves."""
    return [str(PYTHON), "-m", "oldspoon.serve", str(port)]


@dataclass
class Crew:
    """Our own processes: those that must not be missing are started again when they die."""

    environment: dict[str, str]
    on: list[tuple[list[str], subprocess.Popen[bytes], bool]] = field(default_factory=list)

    def take_on(self, command: list[str], *, again: bool = False) -> subprocess.Popen[bytes]:
        """Start one; `again`: whenever it dies."""
        # A session of its own, so that Ctrl-C in the terminal reaches us and we end them in order.
        made = subprocess.Popen(command, cwd=SERVER, env=self.environment, start_new_session=True)
        self.on.append((command, made, again))
        return made

    def wait_for(self, main: subprocess.Popen[bytes]) -> None:
        """Until the main one ends; meanwhile those that die are started again."""
        while main.poll() is None:
            for command, process, again in list(self.on):
                if again and process.poll() is not None:
                    self.on.remove((command, process, again))
                    step("the worker died; another takes its place")
                    self.take_on(command, again=again)
            time.sleep(SOON_S)

    def end(self) -> None:
        """End all of them, gently first."""
        for _, process, _ in self.on:
            if process.poll() is None:
                process.terminate()
        for _, process, _ in self.on:
            _end(process)


def _prepare(cluster: Cluster, environment: dict[str, str], *, empty: bool) -> None:
    """Migrate and seed, unless this cluster has been through exactly these files already."""
    stamp = cluster.folder / "prepared"
    folders = [*SERVER.glob("*/migrations"), SERVER / "oldspoon" / "demo"]
    now = machine.digest(path for folder in sorted(folders) for path in sorted(folder.glob("*.*")))
    if stamp.exists() and stamp.read_text() == now:
        return
    manage(environment, "prepare", *([] if empty else ["--demo"]))
    stamp.write_text(now)


def manage(environment: dict[str, str], *words: str) -> None:
    """Run one of the server's management commands."""
    done = subprocess.run([PYTHON, "manage.py", *words], cwd=SERVER, env=environment, check=False)
    if done.returncode:
        raise Trouble(f"“{' '.join(words)}” failed; what it said is above.")


def manage_command(words: list[str], *, empty: bool) -> int:
    """`./spoon manage …`: any management command against the running or stopped kitchen."""
    machine.ensure(tests=False, web=False)
    with database(EMPTY if empty else DEMO) as cluster:
        environment = machine.environment(**cluster.environment(), OLDSPOON_SECRET_KEY=_secret_key())
        manage(environment, "prepare", "--quiet")
        return subprocess.run(
            [PYTHON, "manage.py", *words], cwd=SERVER, env=environment, check=False
        ).returncode


def _secret_key() -> str:
    path = VAR / "secret_key"
    try:
        if not path.exists():
            VAR.mkdir(exist_ok=True)
            path.touch(mode=0o600)
            path.write_text(secrets.token_urlsafe(48))
        return path.read_text()
    except OSError as error:
        raise Trouble(f"The data folder {VAR} cannot be used: {error.strerror}.") from None


def _first_free(port: int) -> int:
    for candidate in range(port, port + 50):
        with contextlib.suppress(Trouble):
            free_port(candidate)
            if candidate != port:
                step(f"port {port} is taken, so this is on port {candidate}")
            return candidate
    raise Trouble(f"No port from {port} to {port + 49} is free; choose one with --port.")


def _wait_for(port: int, server: subprocess.Popen[bytes]) -> None:
    for _ in range(300):
        if server.poll() is not None:
            raise Trouble("The server stopped while starting; what it said is above.")
        with contextlib.suppress(OSError), socket.create_connection(("127.0.0.1", port), timeout=1):
            return
        time.sleep(0.1)
    raise Trouble("The server did not answer within 30 seconds.")


def _greet(port: int, *, empty: bool) -> None:
    print(f"\nOld Spoon is at http://127.0.0.1:{port}")
    if empty:
        print("An empty kitchen. Make the first person with: ./spoon manage --empty add_person --help")
    else:
        print("Tidemill House, the demo kitchen. Log in with the password “nappe-at-82” as")
        print("  pastry   pastry cook, keeps the book (role chef)")
        print("  trainee  runs batches (role cook)")
        print("  guest    looks only (role viewer)")
    print("Ctrl-C stops it.", flush=True)


def _end(server: subprocess.Popen[bytes]) -> None:
    if server.poll() is None:
        with contextlib.suppress(subprocess.TimeoutExpired):
            server.wait(timeout=8)
    if server.poll() is None:
        os.killpg(server.pid, signal.SIGKILL)
        server.wait()
