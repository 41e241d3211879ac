"""Python packages from pinned, hashed requirements: by uv, set up as this machine's pip is; else by pip.

uv installs the same files in a tenth of the time. It does not read pip's configuration, so what pip is set
to use (index, certificates, constraints, ...) is asked of pip itself each time and handed to uv. Nothing of
it is kept in this repository.
"""

from __future__ import annotations

import ast
import importlib.util
import os
import subprocess
import zipfile
from collections.abc import Mapping, Sequence
from pathlib import Path

from kitchenhand.places import BASE_PYTHON, PYTHON, ROOT, VENV
from kitchenhand.say import Trouble, logged, step

UV = VENV / "bin" / "uv"
DEBIAN_WHEELS = Path("/usr/share/python-wheels")
SECTIONS = ("global", "install", ":env:")
"""Where pip reads a setting from; a later one is stronger."""
LISTS = frozenset({"extra-index-url", "find-links", "constraint", "trusted-host"})
"""Settings with several values."""
FOR_UV: Mapping[str, str] = {
    "index-url": "UV_DEFAULT_INDEX",
    "extra-index-url": "UV_INDEX",
    "find-links": "UV_FIND_LINKS",
    "no-index": "UV_NO_INDEX",
    "constraint": "UV_CONSTRAINT",
    "trusted-host": "UV_INSECURE_HOST",
    "cert": "SSL_CERT_FILE",
    "client-cert": "SSL_CLIENT_CERT",
    "timeout": "UV_HTTP_TIMEOUT",
    "default-timeout": "UV_HTTP_TIMEOUT",
    "retries": "UV_HTTP_RETRIES",
    "proxy": "ALL_PROXY",
    "no-cache-dir": "UV_NO_CACHE",
}
"""pip's settings, and the variable by which uv takes the same."""
SEPARATORS = {"UV_FIND_LINKS": ","}
WITHOUT_EFFECT = frozenset(
    {
        "break-system-packages", "cache-dir", "compile", "disable-pip-version-check", "exists-action",
        "no-color", "no-compile", "no-input", "no-warn-script-location", "prefer-binary", "progress-bar",
        "quiet",
        "require-hashes", "require-virtualenv", "resume-retries", "root-user-action", "verbose",
    }
)  # fmt: skip
"""pip's settings that change nothing about which file of a pinned, hashed package is installed."""
OFF = frozenset({"", "0", "false", "no", "off"})


class NotForUv(Exception):
    """pip has a setting that cannot be handed to uv; its text names it."""


def make_environment() -> None:
    """The Python environment with pip in it, made as by `python -m venv` but without compiling all of pip."""
    wheel = _bundled_pip()
    short = [] if wheel is None else ["--without-pip"]
    logged([BASE_PYTHON, "-m", "venv", *short, VENV], "making the Python environment")
    if wheel is not None:
        with zipfile.ZipFile(wheel) as packed:
            packed.extractall(next(VENV.glob("lib/python*/site-packages")))


def _bundled_pip() -> Path | None:
    """The pip that comes with this Python, as a wheel."""
    found = importlib.util.find_spec("ensurepip")
    own = Path(found.origin).parent / "_bundled" if found and found.origin else DEBIAN_WHEELS
    wheels = [*own.glob("pip-*.whl"), *DEBIAN_WHEELS.glob("pip-*.whl")]
    return wheels[0] if wheels else None


def install(requirements: Path, what: str) -> None:
    """Install pinned, hashed requirements.

    Raises
    ------
    Trouble
        when neither uv nor pip can.
    """
    try:
        # The list is complete, so nothing that has no hash in it can come in.
        run_uv(["--no-deps", "-r", requirements], what)
    except NotForUv as unknown:
        step(f"{unknown}; pip installs instead of uv, which takes a minute or two longer")
    except Trouble:
        step(f"uv could not do it; pip installs instead, which takes a minute or two longer ({what})")
    else:
        return
    run_pip(["--require-hashes", "-r", requirements], what)


def install_editable(folders: Sequence[Path]) -> None:
    """Install packages of ours so that their sources stay where they are."""
    words: list[str | Path] = ["--no-deps", "--no-build-isolation"]
    for folder in folders:
        words += ["-e", folder]
    what = "installing Old Spoon's own packages"
    try:
        run_uv(words, what)
    except (NotForUv, Trouble):
        run_pip(words, what)


def run_uv(words: Sequence[str | Path], what: str) -> None:
    """`uv pip install` into our environment; uv itself is fetched by pip when it is missing.

    Raises
    ------
    NotForUv
        when pip has a setting that uv would not follow.
    Trouble
        when it fails.
    """
    settings = for_uv(pip_settings())
    if not UV.exists():
        run_pip(["--require-hashes", "-r", ROOT / "requirements-uv.txt"], "fetching uv")
    command: list[str | Path] = [UV, "pip", "install", "--quiet", "--python", PYTHON, *words]
    logged(command, what, env={**os.environ, "UV_NO_CONFIG": "1", "UV_NO_PROGRESS": "1", **settings})


def run_pip(words: Sequence[str | Path], what: str) -> None:
    """`pip install` into our environment."""
    command = [PYTHON, "-m", "pip", "install", "--quiet", "--disable-pip-version-check", *words]
    logged(command, what)


def pip_settings() -> dict[str, str]:
    """What pip is set to on this machine, by files and by environment; the strongest of each.

    Raises
    ------
    NotForUv
        when pip does not say.
    """
    command = [PYTHON, "-m", "pip", "--disable-pip-version-check", "config", "list"]
    done = subprocess.run(command, capture_output=True, text=True, check=False)
    if done.returncode:
        raise NotForUv("pip does not tell its configuration")
    return read_settings(done.stdout)


def read_settings(listed: str) -> dict[str, str]:
    """The settings that hold for `pip install`, out of what `pip config list` prints."""
    found: dict[str, str] = {}
    for section in SECTIONS:
        for line in listed.splitlines():
            place, _, rest = line.partition(".")
            name, _, value = rest.partition("=")
            if place == section and value:
                found[name.replace("_", "-")] = str(ast.literal_eval(value))
    return found


def for_uv(settings: Mapping[str, str]) -> dict[str, str]:
    """uv's environment variables that mean what pip's settings mean.

    Raises
    ------
    NotForUv
        when one of them has no counterpart.
    """
    found: dict[str, str] = {}
    for name, given in settings.items():
        value = given
        if name in WITHOUT_EFFECT:
            continue
        variable = FOR_UV.get(name)
        if variable is None:
            raise NotForUv(f"pip is set to “{name}”, which uv does not know")
        if variable in ("UV_NO_INDEX", "UV_NO_CACHE"):
            if value.strip().lower() in OFF:
                continue
            value = "1"
        if name in LISTS:
            value = SEPARATORS.get(variable, " ").join(value.split())
        found[variable] = value
    if "UV_INDEX" in found:
        # pip looks into every index; uv, unless asked, only into the first that knows a name.
        found.setdefault("UV_INDEX_STRATEGY", "unsafe-best-match")
    return found
