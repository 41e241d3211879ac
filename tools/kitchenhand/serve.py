"""`./spoon start`: everything up, and cleanly down again."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import secrets
import signal
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from pathlib import Path
from typing import IO

from kitchenhand import machine, ordinary
from kitchenhand.cluster import Cluster, Role, free_port, open_cluster
from kitchenhand.places import PYTHON, SERVER, VAR
from kitchenhand.say import Trouble, step

FIRST_PORT = 8000
LOOPBACK = "127.0.0.1"
DEMO = "demo"
EMPTY = "kitchen"
PATIENCE_S = 30.0
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


def start(*, empty: bool, port: int | None, workers: int, listen: str = LOOPBACK) -> int:
    """Set up what is missing, serve and work, until Ctrl-C."""
    chosen = free_port(port) if port else _first_free(FIRST_PORT)
    machine.ensure(tests=False)
    with database(EMPTY if empty else DEMO) as cluster, contextlib.suppress(KeyboardInterrupt):
        _prepare(cluster, empty=empty)
        crew = Crew(_served(cluster, Role.SERVING), cluster)
        try:
            server = crew.take_on(web_command(chosen, listen))
            for _ in range(workers):
                crew.take_on(WORK, again=True)
            _wait_for(chosen, server, needs=("database", "migrations", *(["worker"] if workers else [])))
            _greet(chosen, listen, empty=empty)
            crew.wait_for(server)
        finally:
            crew.end()
            print("\nOld Spoon has stopped; everything is kept.", flush=True)
    return 0


def one(words: list[str], *, empty: bool, port: int | None = None) -> int:
    """Run one of the processes alone, until Ctrl-C: on this machine's database, or on the one that the
    environment names, so that any number of them on any number of machines share one kitchen."""
    machine.ensure(tests=False, web=words != WORK)
    if "OLDSPOON_DB_HOST" in os.environ:
        return _alone(Crew(machine.environment(**ordinary.environment())), words, port)
    with database(EMPTY if empty else DEMO) as cluster:
        _prepare(cluster, empty=empty)
        return _alone(Crew(_served(cluster, Role.SERVING), cluster), words, port)


def _alone(crew: Crew, words: list[str], port: int | None) -> int:
    with contextlib.suppress(KeyboardInterrupt):
        try:
            main = crew.take_on(words)
            if port:
                _wait_for(port, main)
                print(f"Old Spoon is served on port {port}. Ctrl-C stops it.", flush=True)
            crew.wait_for(main)
        finally:
            crew.end()
    return 0


def _served(cluster: Cluster, role: Role) -> dict[str, str]:
    """The environment of the server's code on a cluster of ours."""
    return machine.environment(
        **cluster.environment(role), **ordinary.environment(), OLDSPOON_SECRET_KEY=_secret_key()
    )


WORK = [str(PYTHON), "manage.py", "work"]
"""The process that follows open batches and does jobs."""


def web_command(port: int, listen: str = LOOPBACK) -> list[str]:
    """The process that serves."""
    return [str(PYTHON), "-m", "oldspoon.serve", str(port), listen]


@dataclass
class Crew:
    """Our own processes: those that must not be missing are started again when they die, and so is the
    database."""

    environment: dict[str, str]
    cluster: Cluster | None = None
    on: list[tuple[list[str], subprocess.Popen[bytes], bool]] = field(default_factory=list)

    def take_on(self, command: list[str], *, again: bool = False) -> subprocess.Popen[bytes]:
        """Start one; `again`: whenever it dies."""
        # A session of its own, so that Ctrl-C in the terminal reaches us and we end them in order.
        made = subprocess.Popen(
            ordinary.command(command), cwd=SERVER, env=self.environment, start_new_session=True
        )
        self.on.append((command, made, again))
        return made

    def wait_for(self, main: subprocess.Popen[bytes]) -> None:
        """Until the main one ends; meanwhile those that die are started again."""
        while main.poll() is None:
            if self.cluster is not None and not self.cluster.alive():
                step("the database died; it is started again")
                self.cluster.revive()
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


def _prepare(cluster: Cluster, *, empty: bool) -> None:
    """Migrate and seed, unless this cluster has been through exactly these files already."""
    stamp = cluster.folder / "prepared"
    folders = [*SERVER.glob("*/migrations"), SERVER / "oldspoon" / "demo"]
    files = [path for folder in sorted(folders) for path in sorted(folder.glob("*.*"))]
    now = machine.digest([*files, SERVER / "oldspoon" / "roles.py"])
    if stamp.exists() and stamp.read_text() == now:
        return
    manage(_served(cluster, Role.OWNER), "prepare", *([] if empty else ["--demo"]))
    stamp.write_text(now)


def manage(environment: dict[str, str], *words: str) -> None:
    """Run one of the server's management commands."""
    done = _manage(environment, list(words))
    if done:
        raise Trouble(f"“{' '.join(words)}” failed; what it said is above.")


def _manage(environment: dict[str, str], words: list[str], **files: IO[bytes] | None) -> int:
    command = ordinary.command([PYTHON, "manage.py", *words])
    return subprocess.run(command, cwd=SERVER, env=environment, check=False, **files).returncode


def manage_command(words: list[str], *, empty: bool, **files: IO[bytes] | None) -> int:
    """`./spoon manage …`: any management command against the running or stopped kitchen, as the owner of
    its tables."""
    machine.ensure(tests=False, web=False)
    if "OLDSPOON_DB_HOST" in os.environ:
        return _manage(machine.environment(**ordinary.environment()), words, **files)
    with database(EMPTY if empty else DEMO) as cluster:
        environment = _served(cluster, Role.OWNER)
        manage(environment, "prepare", "--quiet")
        return _manage(environment, words, **files)


def backup(file: Path, *, empty: bool) -> int:
    """A whole kitchen into one file, which is there only when it is complete."""
    if file.exists():
        raise Trouble(f"{file} exists already; name another file, or move it away.")
    part = file.with_name(f".{file.name}.part")
    try:
        with part.open("wb") as out:
            part.chmod(0o600)
            status = manage_command(["backup"], empty=empty, stdout=out)
        if status:
            return status
        part.rename(file)
    except OSError as error:
        raise Trouble(f"{file} cannot be written: {error.strerror}.") from None
    finally:
        part.unlink(missing_ok=True)
    step(f"backed up to {file}, {file.stat().st_size / 1e6:.1f} MB")
    return 0


def restore(file: Path, *, empty: bool, replace: bool) -> int:
    """A kitchen out of such a file."""
    try:
        with file.open("rb") as saved:
            words = ["restore", *(["--replace"] if replace else [])]
            return manage_command(words, empty=empty, stdin=saved)
    except OSError as error:
        raise Trouble(f"{file} cannot be read: {error.strerror}.") from None


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


def _wait_for(
    port: int, server: subprocess.Popen[bytes], needs: tuple[str, ...] = ("database", "migrations")
) -> None:
    """Until it answers a real request and says itself that what it needs is there."""
    said = "nothing"
    ends = time.monotonic() + PATIENCE_S
    while time.monotonic() < ends:
        if server.poll() is not None:
            raise Trouble("The server stopped while starting; what it said is above.")
        found = _ready(port)
        if found is not None:
            if all(found.get(need) == "ok" for need in needs):
                return
            said = "; ".join(f"{need}: {found.get(need)}" for need in needs if found.get(need) != "ok")
        time.sleep(0.1)
    raise Trouble(
        f"The server was not ready within {PATIENCE_S:.0f} seconds. What it says of itself: {said}."
    )


def _ready(port: int) -> dict[str, str] | None:
    """What the server says of what it needs, or None while it does not answer."""
    with contextlib.closing(http.client.HTTPConnection("127.0.0.1", port, timeout=10)) as connection:
        try:
            connection.request("GET", "/health/ready", headers={"Host": "localhost"})
            answer: dict[str, str] = json.loads(connection.getresponse().read())
        except (OSError, http.client.HTTPException, ValueError):
            return None
        return answer


def _greet(port: int, listen: str, *, empty: bool) -> None:
    print(f"\nOld Spoon is at http://127.0.0.1:{port}")
    if listen != LOOPBACK:
        print(f"It listens at {listen} too: docs/operate tells what a kitchen's network needs.")
    if empty:
        print("An empty kitchen. Open it here, on this machine: the first one says who they are.")
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
