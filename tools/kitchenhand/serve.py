"""`./spoon start`: everything up, and cleanly down again."""

from __future__ import annotations

import contextlib
import http.client
import json
import os
import secrets
import subprocess
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import IO

from kitchenhand import machine, ordinary
from kitchenhand.cluster import Cluster, Role, open_cluster
from kitchenhand.crew import LOOPBACK, WORK, Crew, web_command
from kitchenhand.places import PYTHON, SERVER, VAR
from kitchenhand.say import Trouble, step
from kitchenhand.steps import Step
from kitchenhand.waiting import Door

FIRST_PORT = 8000
DEMO = "demo"
EMPTY = "kitchen"
PORTS = 50
PATIENCE_S = 120.0
"""How long the server may take to become ready: long, as the machine may be busy with something else."""
DATABASE, KITCHEN = "the database", "the kitchen's data"


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
    """Set up what is missing, serve and work, until Ctrl-C. From the first moment a page says what is still
    being set up."""
    door = _door(listen, port)
    opened: list[Cluster] = []

    def open_database() -> None:
        opened.append(open_cluster(EMPTY if empty else DEMO))
        opened[0].start()

    database_steps = (
        Step(DATABASE, open_database, (machine.DEBIAN,)),
        Step(KITCHEN, lambda: prepare(opened[0], empty=empty), (DATABASE, machine.KERNEL, machine.MODULES)),
    )
    try:
        machine.ensure(tests=False, more=database_steps)
        return _serve(Crew(served(opened[0], Role.SERVING), opened[0], door), workers, listen, empty=empty)
    except KeyboardInterrupt:
        return 0
    finally:
        door.close()
        for cluster in opened:
            cluster.stop()


def _serve(crew: Crew, workers: int, listen: str, *, empty: bool) -> int:
    """Serve and work until Ctrl-C."""
    assert crew.door is not None  # noqa: S101 `start` opened it
    try:
        server = crew.take_on(web_command(crew.door.port, listen), web=True)
        wait_for(crew.door.port, server)
        # Only now: what they find to do would keep people waiting for the first page.
        for _ in range(workers):
            crew.take_on(WORK)
        _greet(crew.door.port, listen, empty=empty)
        crew.watch()
    finally:
        crew.end()
        print("\nOld Spoon has stopped; everything is kept.", flush=True)
    return 0


def one(words: list[str], *, empty: bool, port: int | None = None, listen: str = LOOPBACK) -> int:
    """Run one of the processes alone, until Ctrl-C: on this machine's database, or on the one that the
    environment names, so that any number of them on any number of machines share one kitchen."""
    machine.ensure(tests=False, web=words != WORK)
    with contextlib.ExitStack() as stack:
        door = None
        if port:
            door = Door(listen, port, machine.progress)
            stack.callback(door.close)
        if "OLDSPOON_DB_HOST" in os.environ:
            return _alone(Crew(machine.environment(**ordinary.environment()), None, door), words)
        cluster = stack.enter_context(database(EMPTY if empty else DEMO))
        prepare(cluster, empty=empty)
        return _alone(Crew(served(cluster, Role.SERVING), cluster, door), words)


def _alone(crew: Crew, words: list[str]) -> int:
    with contextlib.suppress(KeyboardInterrupt):
        try:
            main = crew.take_on(words, web=crew.door is not None)
            if crew.door is not None:
                wait_for(crew.door.port, main)
                print(f"Old Spoon is served on port {crew.door.port}. Ctrl-C stops it.", flush=True)
            crew.watch()
        finally:
            crew.end()
    return 0


def served(cluster: Cluster, role: Role) -> dict[str, str]:
    """The environment of the server's code on a cluster of ours; what serves finds its secrets in files."""
    known = cluster.environment(role) | {"OLDSPOON_SECRET_KEY": _secret_key()}
    if role is Role.SERVING:
        for name in ("OLDSPOON_DB_PASSWORD", "OLDSPOON_SECRET_KEY"):
            kept = ordinary.secret_file(f"{cluster.folder.name}-{name.lower()}", known.pop(name))
            known[f"{name}_FILE"] = str(kept)
    return machine.environment(**known, **ordinary.environment())


def _stamp(cluster: Cluster) -> Path:
    """What says which files a cluster was prepared with; without it, it is prepared at the next start."""
    return cluster.folder / "prepared"


def prepare(cluster: Cluster, *, empty: bool) -> None:
    """Migrate and seed, unless this cluster has been through exactly these files already."""
    stamp = _stamp(cluster)
    folders = [*SERVER.glob("*/migrations"), SERVER / "oldspoon" / "demo"]
    files = [path for folder in sorted(folders) for path in sorted(folder.glob("*.*"))]
    now = machine.digest([*files, SERVER / "oldspoon" / "roles.py"])
    if stamp.exists() and stamp.read_text() == now:
        return
    manage(served(cluster, Role.OWNER), "prepare", *([] if empty else ["--demo"]))
    stamp.write_text(now)


def manage(environment: dict[str, str], *words: str) -> None:
    """Run one of the server's management commands."""
    done = _manage(environment, list(words))
    if done:
        raise Trouble(f"“{' '.join(words)}” failed; what it said is above.")


def _manage(environment: dict[str, str], words: list[str], **files: IO[bytes] | None) -> int:
    command = ordinary.command([PYTHON, "manage.py", *words])
    return subprocess.run(command, cwd=SERVER, env=environment, check=False, **files).returncode


def manage_command(
    words: list[str], *, empty: bool, replaces: bool = False, **files: IO[bytes] | None
) -> int:
    """`./spoon manage …`: any management command against the running or stopped kitchen, as the owner of
    its tables. One that `replaces` everything may be killed before it has given the serving role its rights
    again: the next start does it."""
    machine.ensure(tests=False, web=False)
    if "OLDSPOON_DB_HOST" in os.environ:
        return _manage(machine.environment(**ordinary.environment()), words, **files)
    with database(EMPTY if empty else DEMO) as cluster:
        environment = served(cluster, Role.OWNER)
        manage(environment, "prepare", "--quiet")
        if replaces:
            _stamp(cluster).unlink(missing_ok=True)
        return _manage(environment, words, **files)


def backup(file: Path, *, empty: bool) -> int:
    """All kitchens into one file."""
    return into_file(file, ["backup"], empty=empty)


def into_file(file: Path, words: list[str], *, empty: bool) -> int:
    """What a management command writes, into a file that is there only when it is complete."""
    if file.exists():
        raise Trouble(f"{file} exists already; name another file, or move it away.")
    part = file.with_name(f".{file.name}.part")
    try:
        with part.open("wb") as out:
            part.chmod(0o600)
            status = manage_command(words, empty=empty, stdout=out)
        if status:
            return status
        part.rename(file)
    except OSError as error:
        raise Trouble(f"{file} cannot be written: {error.strerror}.") from None
    finally:
        part.unlink(missing_ok=True)
    step(f"written to {file}, {file.stat().st_size / 1e6:.1f} MB")
    return 0


def restore(file: Path, *, empty: bool, replace: bool) -> int:
    """A kitchen out of such a file."""
    words = ["restore", *(["--replace"] if replace else [])]
    return out_of_file(file, words, empty=empty, replaces=True)


def out_of_file(file: Path, words: list[str], *, empty: bool, replaces: bool = False) -> int:
    """A management command that reads a file."""
    try:
        with file.open("rb") as saved:
            return manage_command(words, empty=empty, replaces=replaces, stdin=saved)
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


def _door(listen: str, port: int | None) -> Door:
    """Our socket, on the wanted port or the first free one from 8000 on.

    Raises
    ------
    Trouble
        when the wanted port, or all of them, are taken.
    """
    if port:
        return Door(listen, port, machine.progress)
    for candidate in range(FIRST_PORT, FIRST_PORT + PORTS):
        with contextlib.suppress(Trouble):
            door = Door(listen, candidate, machine.progress)
            if candidate != FIRST_PORT:
                step(f"port {FIRST_PORT} is taken, so this is on port {candidate}")
            return door
    raise Trouble(f"No port from {FIRST_PORT} to {FIRST_PORT + PORTS - 1} is free; choose one with --port.")


NEEDS = ("database", "migrations")
"""What has to be there before anything can be served."""


def wait_for(port: int, server: subprocess.Popen[bytes]) -> None:
    """Until it answers a real request and says itself that what it needs is there."""
    said = "nothing"
    ends = time.monotonic() + PATIENCE_S
    while time.monotonic() < ends:
        if server.poll() is not None:
            raise Trouble("The server stopped while starting; what it said is above.")
        found = _ready(port)
        if found is not None:
            if all(found.get(need) == "ok" for need in NEEDS):
                return
            said = "; ".join(f"{need}: {found.get(need)}" for need in NEEDS if found.get(need) != "ok")
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
