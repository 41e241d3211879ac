"""The demo kitchen for tests, made once a run: a stopped cluster that every test's database is copied from.

It holds `MIGRATED`, a database with the tables and nothing in them, and `SEEDED`, with the demo kitchen. A
copy of its folder is a cluster of one's own; a copy of one of its databases, in a running copy, takes less
than a second.
"""

from __future__ import annotations

import os
import re
import secrets
import shutil
import subprocess
from pathlib import Path

from kitchenhand import machine
from kitchenhand.cluster import Cluster, Role, open_cluster
from kitchenhand.places import PYTHON, SERVER
from kitchenhand.say import Trouble, timed

MIGRATED, SEEDED = "oldspoon_migrated", "oldspoon"
MEMORY, PREFIX, ROOM = Path("/dev/shm"), "oldspoon-tests-", 4_000_000_000  # noqa: S108 named by its process
"""Where memory is a folder, what a run's folder there is called, and how much must be free for it [bytes]."""
WHERE = "OLDSPOON_SNAPSHOT"
"""The variable that names the snapshot's folder to the tests of a run."""


def made() -> Path:
    """The snapshot of this run; made now where nobody has made one."""
    return Path(os.environ[WHERE]) if WHERE in os.environ else make()


def make(*, filled: bool = True) -> Path:
    """Make a snapshot, `filled` with the demo kitchen or with tables only; whoever asked removes it."""
    cluster = open_cluster(f"snapshot-{secrets.token_hex(3)}", in_memory())
    # Tests kill processes, never the machine: what is written survives in the machine's memory, and a slow
    # disk holds up no commit. Copies have this file, too.
    with (cluster.folder / "data" / "postgresql.conf").open("a", encoding="utf-8") as settings:
        settings.write("fsync = off\n")
    with timed("filling the demo kitchen for the tests" if filled else "making tables for the tests"):
        cluster.start()
        try:
            _prepare(cluster, MIGRATED)
            if not filled:
                cluster.stop()
                return cluster.folder
            owner = f'CREATE DATABASE "{SEEDED}" TEMPLATE "{MIGRATED}" OWNER {Role.OWNER};'
            cluster.sql("postgres", owner, together=False)
            _prepare(cluster, SEEDED, "--demo", "--quiet")
        except BaseException:
            cluster.remove()
            raise
        cluster.stop()
    return cluster.folder


def in_memory() -> Path | None:
    """A folder of this run in the machine's memory, where there is plenty; None where there is not.

    A disk that others use, too, holds tests up for seconds. What a run left that was killed is deleted.
    """
    for left in MEMORY.glob(f"{PREFIX}*"):
        if not Path("/proc", left.name.removeprefix(PREFIX)).exists():
            shutil.rmtree(left, ignore_errors=True)
    if not os.access(MEMORY, os.W_OK) or shutil.disk_usage(MEMORY).free < ROOM:
        return None
    available = re.search(r"MemAvailable:\s+(\d+) kB", Path("/proc/meminfo").read_text(encoding="ascii"))
    if available is None or int(available[1]) * 1024 < ROOM:
        return None
    home = MEMORY / f"{PREFIX}{os.getpid()}"
    home.mkdir(exist_ok=True)
    return home


def clone(snapshot: Path, name: str, home: Path | None = None) -> Cluster:
    """A cluster of one's own, as the snapshot is, next to it or in another folder; not started."""
    folder = (home or snapshot.parent) / name
    # Owners and times are kept: PostgreSQL reads no data that are not its user's.
    copied = subprocess.run(["cp", "-a", "--reflink=auto", snapshot, folder], check=False)
    if copied.returncode:
        shutil.rmtree(folder, ignore_errors=True)
        raise Trouble(f"The snapshot {snapshot} could not be copied.")
    return open_cluster(name, folder.parent)


def remove(snapshot: Path) -> None:
    """Delete a snapshot, and its run's folder in memory with whatever is left there."""
    in_memory_too = snapshot.parent.name.startswith(PREFIX)
    shutil.rmtree(snapshot.parent if in_memory_too else snapshot, ignore_errors=True)


def _prepare(cluster: Cluster, database: str, *words: str) -> None:
    environment = machine.environment(
        **cluster.environment(Role.OWNER, database), OLDSPOON_SECRET_KEY="only-for-tests"
    )
    done = subprocess.run([PYTHON, "manage.py", "prepare", *words], cwd=SERVER, env=environment, check=False)
    if done.returncode:
        raise Trouble("The demo kitchen for the tests could not be made; what it said is above.")
