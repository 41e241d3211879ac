"""A kitchen is kept in a file and comes back the same, in another database; what is not whole does not."""

from __future__ import annotations

import hashlib
import io
import json
import os
import subprocess
import tarfile
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from house import House
from kitchenhand import snapshot
from kitchenhand.cluster import Role
from kitchenhand.places import PYTHON, SERVER


@pytest.fixture(scope="module")
def kept(house: House, tmp_path_factory) -> Path:
    """A backup of the demo kitchen."""
    file = tmp_path_factory.mktemp("backup") / "kitchen.backup"
    with file.open("wb") as out:
        subprocess.run(
            [PYTHON, "manage.py", "backup"],
            cwd=SERVER,
            env=house.environment(Role.OWNER),
            stdout=out,
            check=True,
        )
    return file


@pytest.fixture(scope="module")
def blank(house: House) -> str:
    """A database with nothing in it but tables."""
    return snapshot.MIGRATED


@pytest.fixture
def restore(
    house: House, blank: str, tmp_path: Path
) -> Iterator[Callable[..., subprocess.CompletedProcess[str]]]:
    """Bring a file back into a copy of it."""
    owner = {**house.environment(Role.OWNER, "oldspoon_other"), "OLDSPOON_BACKUPS": str(tmp_path / "backups")}
    made = f"CREATE DATABASE oldspoon_other TEMPLATE {blank} OWNER {Role.OWNER};"
    house.cluster.sql("postgres", made, together=False)

    def bring(file: Path, *words: str) -> subprocess.CompletedProcess[str]:
        with file.open("rb") as saved:
            return subprocess.run(
                [PYTHON, "manage.py", "restore", *words],
                check=False,
                cwd=SERVER,
                env=owner,
                stdin=saved,
                capture_output=True,
                text=True,
            )

    yield bring
    house.cluster.sql("postgres", "DROP DATABASE oldspoon_other WITH (FORCE);", together=False)


def everything(house: House, database: str) -> dict[str, list[str]]:
    """Every row of every table, and where every sequence stands."""
    with house.connect(database=database) as connection:
        names = connection.execute("SELECT tablename FROM pg_tables WHERE schemaname = 'public'").fetchall()
        rows = {
            name: sorted(row for (row,) in connection.execute(f"SELECT one::text FROM {name} one"))  # noqa: S608
            for (name,) in names
        }
        counting = "SELECT sequencename || ' ' || coalesce(last_value, 0) FROM pg_sequences"
        return {**rows, "sequences": sorted(row for (row,) in connection.execute(counting))}


def test_a_kitchen_comes_back_the_same(house, kept, restore):
    done = restore(kept)
    assert done.returncode == 0, done.stderr
    assert "each proven" in done.stdout
    was, came = everything(house, "oldspoon"), everything(house, "oldspoon_other")
    assert len(was["stove_mark"]) > 100
    # Who is logged in, and which workers work, may have changed meanwhile.
    for passing in ("django_session", "procrastinate_workers", "stove_livestate"):
        was.pop(passing), came.pop(passing)
    assert came == was
    with house.connect(Role.SERVING, "oldspoon_other") as connection:
        assert connection.execute("SELECT count(*) FROM stove_mark").fetchone() == (len(was["stove_mark"]),)


def test_what_is_there_is_replaced_only_when_told_and_kept_then(house, kept, restore, tmp_path):
    assert restore(kept).returncode == 0
    refused = restore(kept)
    assert refused.returncode == 1
    assert "There is a kitchen here already" in refused.stderr
    done = restore(kept, "--replace")
    assert done.returncode == 0, done.stderr
    assert len(list((tmp_path / "backups").glob("oldspoon_other-before-*.backup"))) == 1


def altered(kept: Path, into: Path, **change: Any) -> Path:
    """A copy whose manifest says something else."""
    with tarfile.open(kept) as was, tarfile.open(into, "w") as now:
        for part in was:
            content = was.extractfile(part).read()
            if part.name == "manifest.json":
                content = json.dumps({**json.loads(content), **change}).encode()
                part.size = len(content)
            now.addfile(part, io.BytesIO(content))
    return into


def test_what_is_damaged_or_cut_off_is_noticed_and_nothing_is_changed(house, kept, restore, tmp_path):
    content = bytearray(kept.read_bytes())
    content[len(content) // 2] ^= 1
    (tmp_path / "damaged").write_bytes(content)
    (tmp_path / "half").write_bytes(kept.read_bytes()[: len(content) // 2])
    empty = everything(house, "oldspoon_other")
    for name in ("damaged", "half"):
        done = restore(tmp_path / name)
        assert done.returncode == 1
        assert "damaged" in done.stderr
    assert everything(house, "oldspoon_other") == empty


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"migrations": ["stove.9999_of_tomorrow"]}, "newer Old Spoon"),
        ({"version": 2}, "newer Old Spoon"),
        ({"postgres": 99}, "made with PostgreSQL 99"),
        ({"format": "something/else"}, "no backup of Old Spoon"),
        ({"tables": []}, "no backup of Old Spoon"),
        ({"tables": {"stove_mark": [1, "0"]}}, "not what was kept, in stove_mark"),
    ],
)
def test_what_comes_from_elsewhere_is_refused(kept, restore, tmp_path, change, said):
    done = restore(altered(kept, tmp_path / "altered", **change))
    assert done.returncode == 1
    assert said in done.stderr


WIDE = "x" * 150
"""Room for what is put into a dump in its place: the statement of a view is in it as it stands."""
RAN = Path(tempfile.gettempdir()) / f"oldspoon-hostile-{os.getpid()}"
HOSTILE = {
    "a command for psql": f"1; \n\\! touch {RAN}\nSELECT '",
    "a program by COPY": f"1; CREATE TABLE t (a text); COPY t FROM PROGRAM 'touch {RAN}'; SELECT '",
    "the end of the transaction": "1; COMMIT; SELECT '",
    "an end without a start": "1; DROP TABLE django_migrations; ROLLBACK; SELECT '",
}


@pytest.fixture(scope="module")
def with_a_view(house: House, tmp_path_factory) -> Path:
    """A backup in which a statement can be altered without moving what follows."""
    owner = house.environment(Role.OWNER, "oldspoon_viewed")
    made = f"CREATE DATABASE oldspoon_viewed TEMPLATE {snapshot.MIGRATED} OWNER {Role.OWNER};"
    house.cluster.sql("postgres", made, together=False)
    with house.connect(Role.OWNER, "oldspoon_viewed") as connection:
        connection.execute(f"CREATE VIEW viewed AS SELECT '{WIDE}'::text AS one")
    file = tmp_path_factory.mktemp("viewed") / "kitchen.backup"
    with file.open("wb") as out:
        subprocess.run([PYTHON, "manage.py", "backup"], cwd=SERVER, env=owner, stdout=out, check=True)
    house.cluster.sql("postgres", "DROP DATABASE oldspoon_viewed WITH (FORCE);", together=False)
    return file


@pytest.mark.parametrize("statement", HOSTILE.values(), ids=HOSTILE)
def test_a_hostile_dump_does_nothing_at_all(house, with_a_view, restore, tmp_path, statement):
    with tarfile.open(with_a_view) as was:
        parts = {part.name: was.extractfile(part).read() for part in was}
    there = f"'{WIDE}'".encode()
    assert parts["database.dump"].count(there) == 1
    hostile = statement.encode()
    parts["database.dump"] = parts["database.dump"].replace(
        there, hostile + b"x" * (len(there) - len(hostile) - 1) + b"'"
    )
    manifest = json.loads(parts["manifest.json"])
    manifest["parts"]["database.dump"] = hashlib.sha256(parts["database.dump"]).hexdigest()
    parts["manifest.json"] = json.dumps(manifest).encode()
    with tarfile.open(tmp_path / "hostile", "w") as now:
        for name, content in parts.items():
            about = tarfile.TarInfo(name)
            about.size = len(content)
            now.addfile(about, io.BytesIO(content))
    before = everything(house, "oldspoon_other")
    done = restore(tmp_path / "hostile")
    assert done.returncode == 1
    assert "cannot be brought back" in done.stderr
    assert not RAN.exists()
    assert everything(house, "oldspoon_other") == before


def test_what_works_at_night_can_keep_one_with_the_rights_it_has(house, restore, tmp_path):
    """A worker backs up as the role that serves; what it kept comes back."""
    serving = {**house.environment(Role.SERVING), "OLDSPOON_BACKUPS": str(tmp_path / "nightly")}
    code = "from oldspoon.backup import keep; print(keep('nightly'))"
    done = subprocess.run(
        [PYTHON, "manage.py", "shell", "-v0", "-c", code],
        cwd=SERVER,
        env=serving,
        capture_output=True,
        text=True,
        check=True,
    )
    kept = Path(done.stdout.strip())
    assert kept.stat().st_mode & 0o077 == 0
    assert restore(kept).returncode == 0
