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

from kitchenhand import machine
from kitchenhand.cluster import Cluster, free_port, open_cluster
from kitchenhand.places import PYTHON, SERVER, VAR
from kitchenhand.say import Trouble, step

FIRST_PORT = 8000
DEMO = "demo"
EMPTY = "kitchen"


@contextmanager
def database(name: str) -> Iterator[Cluster]:
    """The project's cluster, running while the block runs."""
    cluster = open_cluster(name)
    cluster.start()
    try:
        yield cluster
    finally:
        cluster.stop()


def start(*, empty: bool, port: int | None) -> int:
    """Set up what is missing, serve on loopback until Ctrl-C."""
    chosen = free_port(port) if port else _first_free(FIRST_PORT)
    machine.ensure(tests=False)
    for stop in (signal.SIGTERM, signal.SIGINT):
        signal.signal(stop, signal.default_int_handler)
    with database(EMPTY if empty else DEMO) as cluster, contextlib.suppress(KeyboardInterrupt):
        environment = machine.environment(**cluster.environment(), OLDSPOON_SECRET_KEY=_secret_key())
        _prepare(cluster, environment, empty=empty)
        command = [str(PYTHON), "-m", "oldspoon.serve", str(chosen)]
        server = subprocess.Popen(command, cwd=SERVER, env=environment, start_new_session=True)
        try:
            _wait_for(chosen, server)
            _greet(chosen, empty=empty)
            server.wait()
        finally:
            _end(server)
            print("\nOld Spoon has stopped; everything is kept.", flush=True)
    return 0


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
        server.terminate()
        with contextlib.suppress(subprocess.TimeoutExpired):
            server.wait(timeout=8)
    if server.poll() is None:
        os.killpg(server.pid, signal.SIGKILL)
        server.wait()
