"""Root starts what serves, and gives itself up: whatever the server's code does, it does as an ordinary user
that owns nothing but one folder.

Where the checkout, or the Python it runs on, lies out of an ordinary user's reach (in /root, say), its
processes keep one right of root's, that of reading; where not even that can be given they stay root, and
it is said.
"""

from __future__ import annotations

import functools
import os
import pwd
import shutil
import subprocess
from collections.abc import Sequence
from pathlib import Path

from kitchenhand.places import PYTHON, SERVER, VAR, VENV
from kitchenhand.say import step

USER, GROUP = "nobody", "nogroup"
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


def own_folder() -> Path:
    """The folder that the server's code writes to, and nobody else."""
    folder = VAR / "served"
    folder.mkdir(parents=True, mode=0o700, exist_ok=True)
    if os.geteuid() == 0 and folder.stat().st_uid != pwd.getpwnam(USER).pw_uid:
        for path in (folder, *folder.rglob("*")):
            shutil.chown(path, USER, GROUP)
    return folder


def give(source: Path, target: Path) -> None:
    """Give the ordinary user a copy of a folder, in place of the one it had."""
    shutil.rmtree(target, ignore_errors=True)
    shutil.copytree(source, target)
    for path in (target, *target.rglob("*")):
        shutil.chown(path, USER, GROUP)


@functools.cache
def _given_up() -> tuple[str, ...]:
    """What stands before a command so that it runs as the ordinary user; nothing when we are one."""
    setpriv = shutil.which("setpriv", path="/usr/bin:/bin")
    if os.geteuid() != 0 or setpriv is None:
        return ()
    plain = (setpriv, f"--reuid={USER}", f"--regid={GROUP}", "--clear-groups", "--no-new-privs")
    for rights in (PLAIN, READING):
        if _can_run((*plain, *rights)):
            return (*plain, *rights)
    step(f"what serves stays root, as {USER} cannot read this folder or its Python; /srv is a better place")
    return ()


def _can_run(before: tuple[str, ...]) -> bool:
    """Whether our Python can be run, and what it imports be read, by whoever these words turn us into."""
    quiet = subprocess.DEVNULL
    (packages,) = VENV.glob("lib/python*/site-packages")
    read = (packages / "django" / "http" / "__init__.py", SERVER / "manage.py", Path(os.__file__))
    asked = 'test -x "$0" && for file; do test -r "$file" || exit 1; done'
    tried: list[str | Path] = [*before, "sh", "-c", asked, PYTHON.resolve(), *read]
    return not subprocess.run(tried, cwd=SERVER, check=False, stdout=quiet, stderr=quiet).returncode
