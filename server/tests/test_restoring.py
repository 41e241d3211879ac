"""What a backup may do: fill the database and the folder of files, and nothing else."""

from __future__ import annotations

import hashlib
import io
import json
import tarfile
from pathlib import Path

import pytest
from oldspoon.backup import FORMAT, VERSION, BackupError
from oldspoon.dumped import Hostile, look_through
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
        {"postgres": "15"},
    ],
)
def test_an_odd_manifest_is_refused_before_anything_is_changed(tmp_path, change):
    with pytest.raises(BackupError, match="damaged"):
        _unpacked(backup(**change), tmp_path)


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


GOOD = r"""\restrict aB3
SET statement_timeout = 0;
CREATE FUNCTION f() RETURNS text LANGUAGE plpgsql
    AS $_$ BEGIN RETURN regexp_replace('a\b', '\!', ''); END; $_$;
COMMENT ON TABLE a IS 'it''s \! in quotes';
COMMENT ON TABLE b IS E'a \' quote \\ and \! more';
COMMENT ON COLUMN "odd\!name".x IS 'x';
-- a comment with \! in it
/* and one
   of two lines \! */
COPY public.a (id, note) FROM stdin;
1\t\\! rm -rf
\.
SELECT 1;
\unrestrict aB3
"""


def test_what_pg_dump_writes_is_let_through():
    look_through(io.StringIO(GOOD))


@pytest.mark.parametrize(
    "bad",
    [
        "\\! touch /tmp/x\n",
        "SELECT 1; \\! touch /tmp/x\n",
        "  \\copy a from program 'x'\n",
        "COMMENT ON TABLE a IS 'x'; \\o /tmp/x\n",
        "SELECT 'a''b' \\g |sh\n",
        "SELECT $$a$$ \\gexec\n",
        "SELECT E'\\\\' \\! x\n",
        "/* a */ \\! x\n",
        "COPY a FROM stdin;\n1\n\\.\n\\! x\n",
        "\\restrict a\\! x\n\\! y\n",
    ],
)
def test_a_command_for_psql_itself_is_refused(bad):
    with pytest.raises(Hostile):
        look_through(io.StringIO(bad))
