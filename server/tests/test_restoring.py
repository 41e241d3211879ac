"""What a backup may do: fill the database and the folder of files, and nothing else."""

from __future__ import annotations

import hashlib
import io
import json
import random
import shutil
import tarfile
from collections.abc import Callable
from pathlib import Path

import psycopg
import pytest
from django.db import connection, transaction
from oldspoon.backup import FORMAT, VERSION, BackupError
from oldspoon.dumped import load
from oldspoon.restoring import _unpack, _unpacked

CONTENT = {"database.dump": b"a dump", "files.tar": b"some files"}


def manifest(**change):
    sums = {name: hashlib.sha256(content).hexdigest() for name, content in CONTENT.items()}
    plain = {
        "format": FORMAT, "version": VERSION, "made_at": "now", "postgres": 15, "migrations": [],
        "tables": {"stove_mark": [1, "0"]}, "parts": sums,
    }  # fmt: skip
    return {**plain, **change}


def backup(*more: tuple[tarfile.TarInfo, bytes], held=CONTENT, **change) -> io.BytesIO:
    """A file like a backup, with what more an attacker puts into it."""
    out = io.BytesIO()
    with tarfile.open(fileobj=out, mode="w") as tar:
        for name, content in {"manifest.json": json.dumps(manifest(**change)).encode(), **held}.items():
            about = tarfile.TarInfo(name)
            about.size = len(content)
            tar.addfile(about, io.BytesIO(content))
        for about, content in more:
            about.size = len(content)
            tar.addfile(about, io.BytesIO(content))
    out.seek(0)
    return out


def named(name: str, kind: bytes = tarfile.REGTYPE, link: str = "") -> tarfile.TarInfo:
    about = tarfile.TarInfo(name)
    about.type, about.linkname = kind, link
    return about


def test_a_plain_backup_is_unpacked(tmp_path):
    assert _unpacked(backup(), tmp_path).tables == {"stove_mark": [1, "0"]}
    assert {path.name for path in tmp_path.iterdir()} == set(CONTENT)


@pytest.mark.parametrize(
    "more",
    [
        (named("../outside"), b"x"),
        (named("/etc/outside"), b"x"),
        (named("more.sql"), b"x"),
        (named("database.dump"), b"again"),
        (named("link", tarfile.SYMTYPE, "/etc/passwd"), b""),
        (named("hard", tarfile.LNKTYPE, "database.dump"), b""),
        (named("device", tarfile.CHRTYPE), b""),
        (named("folder", tarfile.DIRTYPE), b""),
        (named("sparse", tarfile.GNUTYPE_SPARSE), b"x"),
    ],
    ids=lambda more: more[0].name,
)
def test_what_is_no_part_of_a_backup_refuses_all_of_it(tmp_path, more):
    inside = tmp_path / "inside"
    inside.mkdir()
    with pytest.raises(BackupError, match="damaged"):
        _unpacked(backup(more), inside)
    assert {path.name for path in tmp_path.iterdir()} == {"inside"}


@pytest.mark.parametrize(
    "change",
    [
        {"parts": {"database.dump": "0", "files.tar": "0", "../outside": "0"}},
        {"parts": {"database.dump": hashlib.sha256(b"a dump").hexdigest()}},
        {"parts": []},
        {"tables": {}},
        {"tables": {"stove_mark": "all"}},
        {"migrations": "none"},
        {"migrations": [["stove.0001"], {}]},
        {"made_at": 5},
        {"postgres": "15"},
    ],
)
def test_an_odd_manifest_is_refused_before_anything_is_changed(tmp_path, change):
    with pytest.raises(BackupError, match="damaged"):
        _unpacked(backup(**change), tmp_path)


def test_a_manifest_of_nothing_but_depth_is_refused(tmp_path):
    deep = {"manifest.json": b"[" * 100_000, **CONTENT}
    out = io.BytesIO()
    with tarfile.open(fileobj=out, mode="w") as tar:
        for name, content in deep.items():
            about = tarfile.TarInfo(name)
            about.size = len(content)
            tar.addfile(about, io.BytesIO(content))
    out.seek(0)
    with pytest.raises(BackupError, match="damaged"):
        _unpacked(out, tmp_path)


MUTATED, BLOCK = 500, 512
NAMES = (b"../outside", b"/tmp/outside", b"files.tar/../../outside", b"database.dump\0x", b"manifest.json")
TYPES = b"0123456789gxLKSVDNM\0 \xff"


def mutated(plain: bytes, dice: random.Random) -> bytes:
    """A backup with something else in it: bytes, a header's name, size or kind, blocks gone or twice."""
    data = bytearray(plain)
    headers = [at for at in range(0, len(data), BLOCK) if data[at + 257 : at + 262] == b"ustar"]
    at = dice.choice(headers)
    match dice.randrange(7):
        case 0:
            for _ in range(dice.randrange(1, 20)):
                data[dice.randrange(len(data))] = dice.randrange(256)
        case 1:
            data[at : at + 100] = dice.choice(NAMES).ljust(100, b"\0")
        case 2:
            data[at + 124 : at + 136] = f"{dice.choice((0, 7, 10**3, 10**9)):011o}\0".encode()
        case 3:
            data[at + 156] = dice.choice(TYPES)
            data[at + 157 : at + 257] = dice.choice(NAMES).ljust(100, b"\0")
        case 4:
            del data[dice.randrange(len(data)) :]
        case 5:
            block = bytes(data[at : at + BLOCK * dice.randrange(1, 4)])
            data[at:at] = block
        case _:
            del data[at : at + BLOCK * dice.randrange(1, 4)]
    if dice.random() < 0.7 and len(data) > at + BLOCK:
        # Most get a header that adds up, or nothing behind it would ever be read.
        data[at + 148 : at + 156] = b" " * 8
        data[at + 148 : at + 156] = f"{sum(data[at : at + BLOCK]):06o}\0 ".encode()
    return bytes(data)


def test_five_hundred_mutated_backups_write_nothing_but_the_two_parts(tmp_path):
    dice, plain = random.Random(29), backup().getvalue()
    inside, sentinel = tmp_path / "inside", tmp_path / "sentinel"
    sentinel.write_text("as it was")
    taken, refused = 0, 0
    for _ in range(MUTATED):
        inside.mkdir()
        try:
            found = _unpacked(io.BytesIO(mutated(plain, dice)), inside)
        except BackupError:
            refused += 1
        else:
            # What was changed lies where no reader looks.
            assert found.parts == manifest()["parts"]
            assert {path.name: path.read_bytes() for path in inside.iterdir()} == CONTENT
            taken += 1
        assert {path.name for path in inside.rglob("*")} <= set(CONTENT)
        assert all(path.is_file() and not path.is_symlink() for path in inside.iterdir())
        assert sum(path.stat().st_size for path in inside.iterdir()) < 10 * len(plain)
        shutil.rmtree(inside)
        assert {path.name for path in tmp_path.iterdir()} == {"sentinel"}
        assert sentinel.read_text() == "as it was"
    assert refused > MUTATED / 2
    assert taken + refused == MUTATED


def test_a_part_that_is_missing_or_another_is_noticed(tmp_path):
    for parts in ({"database.dump": b"a dump"}, {**CONTENT, "files.tar": b"other files"}):
        with pytest.raises(BackupError, match="damaged"):
            _unpacked(backup(held=parts), tmp_path)


def test_files_go_nowhere_but_below_their_folder(tmp_path):
    tar = io.BytesIO()
    with tarfile.open(fileobj=tar, mode="w") as made:
        for name in ("good.txt", "../bad.txt", "/etc/worse.txt"):
            about = tarfile.TarInfo(name)
            about.size = 1
            made.addfile(about, io.BytesIO(b"x"))
        made.addfile(named("link", tarfile.SYMTYPE, "/etc"))
    tar.seek(0)
    with tarfile.open(fileobj=tar) as read:
        _unpack(read, tmp_path / "files")
    assert [path.relative_to(tmp_path) for path in tmp_path.rglob("*.txt")] == [Path("files/good.txt")]
    assert not (tmp_path / "files" / "link").exists()


SCRIPT = b"""\\restrict aB3
SET standard_conforming_strings = on;
CREATE TABLE public.loaded (id integer, note text);
COMMENT ON TABLE public.loaded IS 'it''s \\! in
COPY of quotes; /* and';
CREATE FUNCTION public.loaded_twice(one text) RETURNS text LANGUAGE plpgsql
    AS $_$ BEGIN RETURN one || ';' || one; END; $_$;
COPY public.loaded (id, note) FROM stdin;
1\t\\\\! rm; COMMIT;
2\t\\\\.
\\.

INSERT INTO public.loaded VALUES (3, public.loaded_twice('a'));
\\unrestrict aB3
"""
TO_PSQL = b"\\! touch %s\n"


@pytest.fixture
def bring(db) -> Callable[[bytes], None]:
    """Load a script in the transaction of the test."""

    def of(script: bytes) -> None:
        with transaction.atomic(), connection.cursor():
            load(io.BytesIO(script), connection.connection)

    return of


def test_what_pg_dump_writes_is_loaded_as_it_stands(bring):
    bring(SCRIPT)
    with connection.cursor() as cursor:
        cursor.execute("SELECT note FROM public.loaded ORDER BY id")
        assert [note for (note,) in cursor.fetchall()] == ["\\! rm; COMMIT;", "\\.", "a;a"]


@pytest.mark.parametrize(
    "hostile",
    [
        TO_PSQL,
        b"SELECT 1; " + TO_PSQL,
        b"SELECT $$a$$ " + TO_PSQL,
        b"SELECT a$$ FROM x; " + TO_PSQL + b" $$",
        b"/* /* */ */ " + TO_PSQL,
        b"SET standard_conforming_strings = off;\nSELECT 'it\\'; " + TO_PSQL + b"';\n\\g\n",
        b"SELECT 1 \\g |touch %s\n",
        b"\\restrict a\\! x\n" + TO_PSQL,
        b"COMMIT;\n",
        b"SELECT 1; ROLLBACK;\n",
        b"SELECT '\0';\n",
        b"SELECT '\xff';\n",
    ],
)
def test_a_script_that_wants_more_than_the_database_changes_nothing(bring, tmp_path, hostile):
    ran = tmp_path / "ran"
    with pytest.raises((psycopg.Error, ValueError)):
        bring(SCRIPT + hostile.replace(b"%s", bytes(ran)))
    assert not ran.exists()
    with connection.cursor() as cursor:
        cursor.execute("SELECT to_regclass('public.loaded')")
        assert cursor.fetchone() == (None,)


def test_what_follows_an_odd_end_of_rows_is_not_obeyed(bring, tmp_path):
    odd = b"COPY public.loaded (id, note) FROM stdin;\n\\.\r\n" + TO_PSQL + b"\\.\n"
    bring(SCRIPT + odd.replace(b"%s", bytes(tmp_path / "ran")))
    assert not (tmp_path / "ran").exists()
