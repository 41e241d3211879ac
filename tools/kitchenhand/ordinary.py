"""Root starts what serves, and gives itself up: whatever the server's code does, it does as an ordinary user
that owns nothing but one folder.

Where the checkout, or the Python it runs on, lies out of an ordinary user's reach (in /root, say), its
processes keep one right of root's, that of reading; where not even that can be given they stay root, and
it is said.
"""

from __future__ import annotations

import contextlib
import functools
import os
import pwd
import shutil
import subprocess
import time
from collections.abc import Sequence
from pathlib import Path

from kitchenhand.places import PYTHON, SERVER, VAR, VENV
from kitchenhand.say import step

USER, ANYBODY = "oldspoon", "nobody"
"""The service's own user, so that no other service's processes may read what is its; and who stands in where
none can be made."""
TRIES = 5
"""Two that start at once may want to make it at once; only one can at a time."""
READ = "-all,+dac_read_search"
PLAIN = ("--inh-caps=-all", "--bounding-set=-all")
READING = (f"--inh-caps={READ}", f"--ambient-caps={READ}", f"--bounding-set={READ}")

Words = Sequence[str | Path]


def command(words: Words) -> list[str | Path]:
    """A command of the server's, without root's rights."""
    return [*_given_up(), *words]


def environment() -> dict[str, str]:
    """What its environment says about where it may write."""
    mine = own_folder()
    return {"HOME": str(mine), "NUMBA_CACHE_DIR": str(mine / "kernel")} if _given_up() else {}


@functools.cache
def user() -> pwd.struct_passwd:
    """The user that the server's code runs as where root starts it; made once."""
    for _ in range(TRIES):
        with contextlib.suppress(KeyError):
            return pwd.getpwnam(USER)
        make = shutil.which("useradd", path="/usr/sbin:/sbin")
        if make is None:
            break
        words = (make, "--system", "--user-group", "--no-create-home", "--shell", "/usr/sbin/nologin", USER)
        if subprocess.run(words, check=False, capture_output=True).returncode:
            time.sleep(0.2)
    step(f"no user {USER} can be made here: what serves runs as {ANYBODY}, beside whatever else does")
    return pwd.getpwnam(ANYBODY)


def secret_file(name: str, content: str) -> Path:
    """A file that holds a secret, for the server's code alone to read.

    It lies in a folder of whoever starts it: root writes nothing where the server's code could put a link.
    """
    folder = VAR / "secrets"
    folder.mkdir(parents=True, mode=0o711, exist_ok=True)
    path = folder / name
    path.touch(mode=0o600)
    path.write_text(content, encoding="utf-8")
    if os.geteuid() == 0:
        _own(path)
    return path


def _own(path: Path) -> None:
    os.chown(path, user().pw_uid, user().pw_gid, follow_symlinks=False)


def own_folder() -> Path:
    """The folder that the server's code writes to, and nobody else."""
    folder = VAR / "served"
    folder.mkdir(parents=True, mode=0o700, exist_ok=True)
    if os.geteuid() == 0 and folder.stat().st_uid != user().pw_uid:
        for path in (*folder.rglob("*"), folder):
            _own(path)
    return folder


def give(source: Path, target: Path) -> None:
    """Give the ordinary user a copy of a folder, in place of the one it had."""
    shutil.rmtree(target, ignore_errors=True)
    shutil.copytree(source, target)
    for path in (target, *target.rglob("*")):
        _own(path)


@functools.cache
def _given_up() -> tuple[str, ...]:
    """What stands before a command so that it runs as the ordinary user; nothing when we are one."""
    setpriv = shutil.which("setpriv", path="/usr/bin:/bin")
    if os.geteuid() != 0 or setpriv is None:
        return ()
    mine = user()
    plain = (setpriv, f"--reuid={mine.pw_uid}", f"--regid={mine.pw_gid}", "--clear-groups", "--no-new-privs")
    for rights in (PLAIN, READING):
        if _can_run((*plain, *rights)):
            return (*plain, *rights)
    name = mine.pw_name
    step(f"what serves stays root, as {name} cannot read this folder or its Python; /srv is a better place")
    return ()


def _can_run(before: tuple[str, ...]) -> bool:
    """Whether our Python can be run, and what it imports be read, by whoever these words turn us into."""
    quiet = subprocess.DEVNULL
    (packages,) = VENV.glob("lib/python*/site-packages")
    read = (packages / "django" / "http" / "__init__.py", SERVER / "manage.py", Path(os.__file__))
    asked = 'test -x "$0" && for file; do test -r "$file" || exit 1; done'
    tried: list[str | Path] = [*before, "sh", "-c", asked, PYTHON.resolve(), *read]
    return not subprocess.run(tried, cwd=SERVER, check=False, stdout=quiet, stderr=quiet).returncode
