"""Where our PostgreSQL keeps a kitchen: a folder of the project, made when it is missing, loopback only, a
generated password; carried over when this machine's PostgreSQL is a newer one than it was made by."""

from __future__ import annotations

import contextlib
import hashlib
import os
import pwd
import secrets
import shutil
import subprocess
from pathlib import Path

from kitchenhand.machine import postgres_bin
from kitchenhand.places import ROOT, VAR
from kitchenhand.postgres import KITCHENS, OWNER, Cluster, Role, free_port, own
from kitchenhand.say import Trouble, step, timed

CARRIED = "carried"
"""The folder in which data are made again in the form of a newer PostgreSQL."""

__all__ = ["Cluster", "Role", "free_port", "open_cluster"]


def open_cluster(name: str, home: Path | None = None) -> Cluster:
    """The project's cluster of that name, made when it is missing. Not started.

    `home` is the folder that it is in, where that is not the one for all.

    Raises
    ------
    Trouble
        when its folder cannot be read or made.
    """
    programs = postgres_bin()
    folder = (home or home_of_clusters()) / name
    try:
        made = folder / "data" / "PG_VERSION"
        if not made.exists() and (folder / CARRIED / "data" / "PG_VERSION").exists():
            _take_place(folder)
        if not made.exists():
            return _make(folder, programs)
        found = Cluster(folder, (folder / "password").read_text().strip(), programs)
        older = _made_by(folder, programs)
        return found if older is None else _carried_over(found, older)
    except OSError as error:
        raise Trouble(f"The data folder {folder} cannot be used: {error.strerror}.") from None


def _make(folder: Path, programs: Path) -> Cluster:
    password = secrets.token_urlsafe(24)
    with timed("creating the database cluster"):
        folder.mkdir(parents=True, exist_ok=True)
        own(folder)
        password_file = folder / "password"
        password_file.write_text(password + "\n")
        password_file.chmod(0o600)
        own(password_file)
        cluster = Cluster(folder, password, programs)
        try:
            _init(cluster)
        except Trouble:
            shutil.rmtree(folder, ignore_errors=True)
            raise
    return cluster


def _init(cluster: Cluster) -> None:
    """Its empty data, made aside and moved into place: what was cut off half-way is no cluster."""
    making = cluster.folder / "making"
    shutil.rmtree(making, ignore_errors=True)
    done = cluster.as_owner(
        "initdb", "-D", str(making), "-U", Role.KEEPER, f"--pwfile={cluster.folder / 'password'}",
        "--auth=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8", "--no-sync",
    )  # fmt: skip
    if done.returncode:
        raise Trouble(f"PostgreSQL could not create its data in {cluster.folder}.")
    making.rename(cluster.folder / "data")


def _made_by(folder: Path, programs: Path) -> Path | None:
    """The programs of the PostgreSQL that made these data, when it is older than this machine's newest.

    Raises
    ------
    Trouble
        when this machine has not got it any more, or has only an older one.
    """
    made, ours = (folder / "data" / "PG_VERSION").read_text().strip(), programs.parts[-2]
    if made == ours:
        return None
    older = programs.parents[1] / made / "bin"
    if float(made) > float(ours):
        raise Trouble(
            f"The data in {folder} are PostgreSQL {made}'s, and this machine has only {ours}. "
            f"Install it and start again:\n  sudo apt-get install postgresql-{made}"
        )
    if not (older / "postgres").exists():
        raise Trouble(
            f"The data in {folder} were made by PostgreSQL {made}; this machine has {ours}. To carry them "
            f"over, both are needed once:\n  sudo apt-get install postgresql-{made}\n"
            f"Where that is not to be had, move the folder away, start, and bring back a backup: "
            f"./spoon restore FILE"
        )
    return older


def _carried_over(now: Cluster, older: Path) -> Cluster:
    """The cluster with its data in the form of this machine's PostgreSQL; the old form stays beside it.

    The new data are made in a folder of their own and take the old ones' place when they are whole: cut off
    at any moment, it is begun again or ended at the next start.

    Raises
    ------
    Trouble
        when it fails; then everything is as it was before.
    """
    before = Cluster(now.folder, now.password, older)
    new = Cluster(now.folder / CARRIED, now.password, now.bin)
    aside = now.folder / f"data-{older.parts[-2]}"
    with timed(f"carrying the data over from PostgreSQL {older.parts[-2]} to {now.bin.parts[-2]}"):
        shutil.rmtree(new.folder, ignore_errors=True)
        new.folder.mkdir()
        shutil.copy2(now.folder / "password", new.folder / "password")
        for path in (new.folder, new.folder / "password"):
            own(path)
        _init(new)
        before.start()
        new.start()
        try:
            for kitchen in before.sql("postgres", KITCHENS).split():
                dump = new.folder / f"{kitchen}.dump"
                # The newer programs read the older one's data.
                reading = Cluster(now.folder, now.password, now.bin, before.port)
                reading.run("pg_dump", "--format=custom", f"--file={dump}", kitchen)
                new.sql("postgres", f'CREATE DATABASE "{kitchen}" OWNER {Role.OWNER};', together=False)
                given = ["--no-owner", "--no-privileges", f"--role={Role.OWNER}", "--exit-on-error"]
                new.run("pg_restore", *given, f"--dbname={kitchen}", str(dump))
        finally:
            new.stop()
            before.stop()
        for stamp in ("roles", "prepared"):
            (now.folder / stamp).unlink(missing_ok=True)
        (now.folder / "data").rename(aside)
        _take_place(now.folder)
    step(f"the old data stay in {aside}; delete them when all is well")
    return now


def _take_place(folder: Path) -> None:
    """Put what was carried over, and is whole, in the place of what was there."""
    (folder / CARRIED / "data").rename(folder / "data")
    (folder / CARRIED / "roles").rename(folder / "roles")
    shutil.rmtree(folder / CARRIED)


def home_of_clusters() -> Path:
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
