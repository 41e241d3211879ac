"""What has to come from Debian's packages: told all at once, installed where we may.

Whatever we start is also asked once whether every shared library it needs is there.
"""

from __future__ import annotations

import ctypes
import importlib.util
import os
import re
import shutil
import subprocess
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from kitchenhand.places import STAMPS
from kitchenhand.say import Trouble, fail, logged, timed

CHROMIUM = Path("/usr/bin/chromium-headless-shell"), Path("/usr/bin/chromium")
"""Either will do. The first has no windows to draw: it takes two thirds of the time for the same tests."""


@dataclass(frozen=True)
class Need:
    """One thing from Debian: its package, what it is to a person, whether it is here."""

    package: str
    what: str
    here: Callable[[], bool]
    for_tests: bool = False
    optional: bool = False
    """Without it one thing cannot be done, which the page for it says; all else can."""


def postgres_bin() -> Path | None:
    """The folder with the newest PostgreSQL server's programs, as Debian lays it out."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda p: float(p.parts[4]))
    return found[-1].parent if found else None


def chromium() -> Path | None:
    """Debian's Chromium, the one without windows when both are there."""
    return next((path for path in CHROMIUM if path.exists()), None)


def _loads(library: str) -> bool:
    try:
        ctypes.CDLL(library)
    except OSError:
        return False
    return True


def _reads(language: str) -> Callable[[], bool]:
    """Whether text in pictures is recognised in a language."""
    return lambda: any(Path("/usr/share").glob(f"tesseract-ocr/*/tessdata/{language}.traineddata"))


def has_venv() -> bool:
    """Whether this Python can make an environment with pip in it."""
    return importlib.util.find_spec("ensurepip") is not None


NEEDS = (
    Need("postgresql", "the PostgreSQL server", lambda: postgres_bin() is not None),
    Need("python3-venv", "Python's venv module", has_venv),
    # What labels and records are set with.
    Need("libpangoft2-1.0-0", "the library Pango", lambda: _loads("libpangoft2-1.0.so.0")),
    Need("libharfbuzz-subset0", "the library HarfBuzz", lambda: _loads("libharfbuzz-subset.so.0")),
    # Photographs of recipes and labels are read by it.
    Need("tesseract-ocr", "the text recognition tesseract", _reads("eng"), optional=True),
    Need("tesseract-ocr-fra", "its French", _reads("fra"), optional=True),
    Need("tesseract-ocr-deu", "its German", _reads("deu"), optional=True),
    Need("chromium-headless-shell", "Chromium for the browser tests", lambda: chromium() is not None, True),
    # What Playwright brings to drive the browser is linked to it, and nothing else installs it.
    Need("libatomic1", "the library libatomic.so.1", lambda: _loads("libatomic.so.1"), True),
)


def lacking(*, tests: bool) -> list[Need]:
    """What this machine has not got and cannot do without."""
    return [need for need in _missing(tests=tests) if not need.optional]


def _missing(*, tests: bool) -> list[Need]:
    return [need for need in NEEDS if (tests or not need.for_tests) and not need.here()]


def install_or_tell(*, tests: bool) -> None:
    """Install all that is missing in one go; without the right to, say all of it at once and go on.

    What is optional comes along when something else is installed, and for the tests: a start on a machine
    without a network does not look for it each time.

    Raises
    ------
    Trouble
        when an installation fails, or when without the missing part nothing else can be set up either.
    """
    missing = _missing(tests=tests) if tests or lacking(tests=tests) else []
    if not missing:
        return
    if os.geteuid() == 0 and shutil.which("apt-get"):
        install([need.package for need in missing], _listed([need.what for need in missing]))
        return
    needed = [need for need in missing if not need.optional]
    if needed and not has_venv():
        raise Trouble(_told(needed))
    if needed:
        fail(_told(needed) + "\nMeanwhile everything else is set up.")


def must_have(*, tests: bool) -> None:
    """Stop here when something is missing.

    Raises
    ------
    Trouble
        naming everything that is missing, and the one line that installs it.
    """
    missing = lacking(tests=tests)
    if missing:
        raise Trouble(_told(missing))


def install(packages: list[str], what: str) -> None:
    """Install packages as root; what the package manager says is shown only when it fails."""
    quiet = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    with timed(f"installing {what} from Debian's packages"):
        logged(["apt-get", "update", "-qq"], "reading Debian's package lists", env=quiet)
        command = ["apt-get", "install", "-y", "-qq", "--no-install-recommends", *packages]
        logged(command, f"installing {' '.join(packages)}", env=quiet)


def _told(missing: list[Need]) -> str:
    whats, packages = [need.what for need in missing], [need.package for need in missing]
    return (
        f"Old Spoon needs {_listed(whats)}, which this machine has not got. "
        f"Install with this line, then start again:\n  sudo apt-get install {' '.join(packages)}"
    )


def _listed(words: list[str]) -> str:
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} and {words[-1]}"


def missing_libraries(program: Path) -> list[str]:
    """The shared libraries a program is linked to and would not find."""
    if not shutil.which("ldd"):
        return []
    said = subprocess.run(["ldd", program], capture_output=True, text=True, check=False).stdout
    return sorted(set(re.findall(r"^\s*(\S+) => not found", said, re.MULTILINE)))


def package_of(library: str) -> str:
    """The package that holds a shared library, by Debian's rule for their names."""
    name, _, version = library.partition(".so")
    version = version.lstrip(".").split(".")[0]
    between = "-" if version and name[-1].isdigit() else ""
    return f"{name}{between}{version}".lower().replace("_", "-")


def ensure_loads(program: Path, what: str) -> None:
    """Whether a program finds all its shared libraries; asked once for each version of it.

    Raises
    ------
    Trouble
        naming the libraries, and the packages that should hold them.
    """
    file = program.resolve()
    stamp = STAMPS / f"loads-{re.sub(r'[^a-z0-9]+', '-', what.lower())}"
    now = f"{file} {file.stat().st_size} {file.stat().st_mtime_ns}"
    if stamp.exists() and stamp.read_text() == now:
        return
    libraries = missing_libraries(file)
    if libraries and os.geteuid() == 0 and shutil.which("apt-get"):
        install([package_of(library) for library in libraries], f"what {what} is linked to")
        libraries = missing_libraries(file)
    if libraries:
        packages = " ".join(package_of(library) for library in libraries)
        raise Trouble(
            f"{what[0].upper()}{what[1:]} does not find {_listed(libraries)}. "
            f"By Debian's naming this installs it:\n  sudo apt-get install {packages}"
        )
    STAMPS.mkdir(parents=True, exist_ok=True)
    stamp.write_text(now)
