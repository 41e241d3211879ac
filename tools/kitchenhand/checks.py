"""`./spoon test`: formatting, types, directions, and every test, with a summary of times."""

from __future__ import annotations

import re
import secrets
import subprocess
import sys
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

from kitchenhand import machine
from kitchenhand.cluster import Role, open_cluster
from kitchenhand.places import PYTHON, ROOT, SERVER, VENV, WEB
from kitchenhand.say import Trouble

Words = list[str | Path]


@dataclass(frozen=True)
class Check:
    """One thing that must hold. Those that are `light` keep one core busy, and two of them run at once."""

    name: str
    command: Words
    cwd: Path = ROOT
    light: bool = True


def _checks() -> list[Check]:
    pytest: Words = [PYTHON, "-m", "pytest", "-q"]
    browser, served, spoon = (ROOT / "tests" / name for name in ("browser", "served", "spoon"))
    two: Words = ["-n", "2"]
    alone: Words = [*two, "--dist", "loadscope"]
    return [
        Check("formatting of Python", [VENV / "bin/ruff", "format", "--check", "."]),
        Check("lint of Python", [VENV / "bin/ruff", "check", "."]),
        Check("types of core", [VENV / "bin/mypy"]),
        Check("types of the server", [VENV / "bin/mypy", "--config-file", "mypy.ini"], SERVER),
        Check(
            "a deployment with HTTPS",
            [PYTHON, "-c", "from kitchenhand.checks import deployment; raise SystemExit(deployment())"],
            ROOT / "tools",
        ),
        Check("import directions", [VENV / "bin/lint-imports", "--no-cache"]),
        Check("formatting and lint of the web", machine.npm("run", "--silent", "lint"), WEB),
        Check("types of the web", machine.npm("run", "--silent", "check"), WEB),
        Check("tests of the web", machine.npm("run", "--silent", "test"), WEB),
        Check("core tests", [*pytest, *two, "--dist", "loadgroup", "core", "--doctest-modules"], light=False),
        Check("server tests", [*pytest, *two, "-c", "server/pytest.ini", "server"], light=False),
        Check(
            "tests of the spoon command", [*pytest, *alone, "-c", spoon / "pytest.ini", spoon], light=False
        ),
        Check(
            "tests of the served application",
            [*pytest, *two, "--dist", "loadgroup", "-c", served / "pytest.ini", served],
            light=False,
        ),
        # Each worker has a server and a database of its own.
        Check(
            "browser tests",
            [*pytest, *two, "--dist", "worksteal", "-c", browser / "pytest.ini", browser],
            light=False,
        ),
    ]


def run_all(only: list[str]) -> int:
    """Set up, run the checks whose name holds one of `only` (all by default), print a summary."""
    chosen = _chosen(only)
    machine.ensure(tests=True, node=True)
    started = time.monotonic()
    cluster = open_cluster(f"test-{secrets.token_hex(3)}")
    try:
        cluster.start()
        environment = machine.environment(
            **cluster.environment(Role.KEEPER), OLDSPOON_SECRET_KEY="only-for-tests"
        )
        with ThreadPoolExecutor(2) as two:
            light = [check for check in chosen if check.light]
            results = list(two.map(lambda check: _run_aside(check, environment), light))
        results += [_run(check, environment) for check in chosen if not check.light]
    finally:
        cluster.remove()
    return _summary(results, time.monotonic() - started)


def _chosen(words: list[str]) -> list[Check]:
    """The checks whose name holds one of `words`, all where there are none. A word that no name holds is
    refused: a slip of the pen must not pass as "nothing failed"."""
    checks = _checks()
    for word in words:
        if not any(word in check.name for check in checks):
            raise Trouble(
                f"No check has “{word}” in its name; there are: {', '.join(c.name for c in checks)}."
            )
    return [check for check in checks if not words or any(word in check.name for word in words)]


@dataclass(frozen=True)
class Result:
    """How a check went; `failed` are the tests that did, as pytest names them."""

    name: str
    passed: bool
    seconds: float
    failed: tuple[str, ...] = ()


def _run_aside(check: Check, environment: dict[str, str]) -> Result:
    """Run a check beside another; what it says is told in one piece."""
    started = time.monotonic()
    done = subprocess.run(
        check.command, cwd=check.cwd, env=environment, check=False, text=True,
        stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
    )  # fmt: skip
    print(f"\n── {check.name}\n{done.stdout}", end="", flush=True)
    return Result(check.name, done.returncode == 0, time.monotonic() - started)


def _run(check: Check, environment: dict[str, str]) -> Result:
    """Run a check, told as it goes; which tests failed is told once more at the end."""
    print(f"\n── {check.name}", flush=True)
    started = time.monotonic()
    heard = bytearray()
    with subprocess.Popen(
        check.command, cwd=check.cwd, env=environment, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
    ) as going:
        assert going.stdout is not None  # noqa: S101 it is a pipe
        try:
            while said := going.stdout.read1(1 << 16):
                sys.stdout.buffer.write(said)
                sys.stdout.flush()
                heard += said
        except BaseException:
            # Ended in the middle, it is not waited for.
            going.kill()
            raise
    failed = re.findall(r"^(?:FAILED|ERROR) \S+", heard.decode(errors="replace"), re.MULTILINE)
    return Result(check.name, going.returncode == 0, time.monotonic() - started, tuple(failed))


def _summary(results: list[Result], took_s: float) -> int:
    print("\n── summary")
    for one in results:
        print(f"  {'passed' if one.passed else 'FAILED':7} {one.seconds:6.1f} s  {one.name}")
        for test in one.failed:
            print(f"            {test}")
    failed = [one for one in results if not one.passed]
    print(f"  {len(results) - len(failed)} of {len(results)} checks passed in {took_s:.0f} s", flush=True)
    return 1 if failed else 0


def fuzz(calls: int, sequences: int, kills: int) -> int:
    """Try to break it for longer than the tests do."""
    machine.ensure(tests=True)
    served = ROOT / "tests" / "served"
    files = [served / f"test_{name}.py" for name in ("fuzz", "sequences", "kills")]
    longer = {"OLDSPOON_FUZZ": calls, "OLDSPOON_SEQUENCES": sequences, "OLDSPOON_KILLS": kills}
    environment = machine.environment(
        OLDSPOON_SECRET_KEY="only-for-tests", **{name: str(value) for name, value in longer.items()}
    )
    command = [PYTHON, "-m", "pytest", "-q", "-n", "2", "-c", served / "pytest.ini", *files]
    return subprocess.run(command, cwd=ROOT, env=environment, check=False).returncode


def deployment() -> int:
    """Django's own checks of a deployment, as it is behind a proxy with HTTPS."""
    machine.ensure_python(tests=False)
    environment = machine.environment(
        OLDSPOON_SECRET_KEY=secrets.token_urlsafe(48), OLDSPOON_HTTPS="1", OLDSPOON_HOSTS="kitchen.example"
    )
    command = [PYTHON, "manage.py", "check", "--deploy", "--fail-level", "WARNING"]
    return subprocess.run(command, cwd=SERVER, env=environment, check=False).returncode


def pictures() -> int:
    """Take the pictures in docs/screenshots anew."""
    machine.ensure(tests=True)
    return in_the_browser("pictures.py")


def in_the_browser(file: str, *words: str) -> int:
    """Run one file of tests/browser that is not among the tests."""
    browser = ROOT / "tests" / "browser"
    return run_in_environment(
        lambda: [PYTHON, "-m", "pytest", "-q", *words, "-c", browser / "pytest.ini", browser / file]
    )


def run_in_environment(command: Callable[[], Words], cwd: Path = ROOT) -> int:
    """Run one command against a throw-away cluster."""
    cluster = open_cluster(f"bench-{secrets.token_hex(3)}")
    try:
        cluster.start()
        environment = machine.environment(
            **cluster.environment(Role.KEEPER), OLDSPOON_SECRET_KEY="only-for-this-run"
        )
        return subprocess.run(command(), cwd=cwd, env=environment, check=False).returncode
    finally:
        cluster.remove()
