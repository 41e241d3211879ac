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

from kitchenhand.places import BASE_PYTHON, DIST, LOGS, PYTHON, ROOT, STAMPS, VENV, WEB
from kitchenhand.say import Trouble, step, timed

LEAST_NODE = (20, 19)
CHROMIUM = Path("/usr/bin/chromium-headless-shell"), Path("/usr/bin/chromium")
"""Either will do. The first has no windows to draw: it takes two thirds of the time for the same tests."""


def postgres_bin() -> Path | None:
    """The folder with the newest PostgreSQL server's programs, as Debian lays it out."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda p: float(p.parts[4]))
    return found[-1].parent if found else None


def ensure_postgres() -> Path:
    """PostgreSQL's programs, installed when they are missing."""
    if postgres_bin() is None:
        _debian("postgresql", "the PostgreSQL server")
    found = postgres_bin()
    if found is None:
        raise Trouble("PostgreSQL was installed but its server programs are not under /usr/lib/postgresql.")
    return found


def ensure_chromium() -> Path:
    """Debian's Chromium for the browser tests."""
    if not any(path.exists() for path in CHROMIUM):
        _debian("chromium-headless-shell", "Chromium for the browser tests")
    found = next((path for path in CHROMIUM if path.exists()), None)
    if found is None:
        raise Trouble(f"Chromium was installed but is neither of {' and '.join(map(str, CHROMIUM))}.")
    return found


def ensure_python(*, tests: bool) -> None:
    """The Python environment from the pinned, hashed requirements, with our packages in it, compiled."""
    _ensure_packages(tests=tests)
    _ensure_kernel()


def _ensure_packages(*, tests: bool) -> None:
    wanted = ROOT / ("requirements-dev.txt" if tests else "requirements.txt")
    parts = [wanted, ROOT / "core/pyproject.toml", ROOT / "server/pyproject.toml"]
    if _unchanged("python-dev", [ROOT / "requirements-dev.txt", *parts[1:]]) or (
        not tests and _unchanged("python", parts)
    ):
        return
    if not PYTHON.exists():
        made = subprocess.run([BASE_PYTHON, "-m", "venv", VENV], capture_output=True, text=True, check=False)
        if made.returncode:
            shutil.rmtree(VENV, ignore_errors=True)
            _debian("python3-venv", "Python's venv module")
            _run([BASE_PYTHON, "-m", "venv", VENV], "making the Python environment")
    with timed("installing Python packages (a minute or two the first time)"):
        pip = [PYTHON, "-m", "pip", "install", "--quiet", "--disable-pip-version-check"]
        _run([*pip, "--require-hashes", "-r", wanted], "installing Python packages")
        ours = ["-e", ROOT / "core", "-e", ROOT / "server"]
        _run([*pip, "--no-deps", "--no-build-isolation", *ours], "installing Old Spoon's own packages")
    _stamp("python-dev" if tests else "python", parts)


def _ensure_kernel() -> None:
    """The compiled kernel, made anew when what it is compiled from has changed."""
    source = ROOT / "core" / "src" / "custard"
    parts = [path for folder in ("process", "physics", "larder") for path in _files(source / folder)]
    parts = [path for path in parts if path.suffix in (".py", ".csv")]
    if _unchanged("kernel", parts):
        return
    with timed("compiling the kernel"):
        _run([PYTHON, "-c", "import custard; custard.warm()"], "compiling the kernel")
    _stamp("kernel", parts)


def ensure_web() -> None:
    """The front end, built once from its sources."""
    sources = [WEB / "package-lock.json", WEB / "vite.config.ts", WEB / "index.html", *_files(WEB / "src")]
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


def _debian(package: str, what: str) -> None:
    if os.geteuid() != 0 or shutil.which("apt-get") is None:
        raise Trouble(f"Old Spoon needs {what}. Install it with: sudo apt-get install {package}")
    quiet = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    with timed(f"installing {what} from Debian's packages"):
        _run(["apt-get", "update", "-qq"], "reading Debian's package lists", env=quiet)
        install = ["apt-get", "install", "-y", "-qq", "--no-install-recommends", package]
        _run(install, f"installing {package}", env=quiet)


def _say_first_page(log: Path) -> None:
    """Repeat what the build measured: how much script the first page loads."""
    measured = re.search(r"first page: .*", log.read_text(errors="replace"))
    if measured:
        step(measured[0])


def _run(
    command: list[str | Path], what: str, *, cwd: Path = ROOT, env: dict[str, str] | None = None
) -> Path:
    """Run a program; its output goes to a log, which is returned, and whose end is shown when it fails."""
    LOGS.mkdir(parents=True, exist_ok=True)
    log = LOGS / f"{re.sub(r'[^a-z]+', '-', what.lower())}.log"
    with log.open("w") as out:
        done = subprocess.run(
            command, cwd=cwd, env=env or environment(), stdout=out, stderr=subprocess.STDOUT, check=False
        )
    if done.returncode:
        tail = "\n".join(log.read_text(errors="replace").splitlines()[-25:])
        raise Trouble(f"{tail}\n{what[0].upper()}{what[1:]} failed; the whole output is in {log}.")
    return log


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
