"""`./spoon test`: formatting, types, directions, and every test, with a summary of times."""

from __future__ import annotations

import os
import re
import secrets
import subprocess
import sys
import time
from collections.abc import Iterator, Sequence
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from kitchenhand import machine, snapshot
from kitchenhand.cluster import Role
from kitchenhand.places import PYTHON, ROOT, SERVER, TESTS_END, TIME_UP, VENV, WEB
from kitchenhand.say import Trouble

Words = list[str | Path]


@dataclass(frozen=True)
class Check:
    """One thing that must hold. Those that are `light` keep one core busy, and two of them run at once; those
    with a `database` need one."""

    name: str
    command: Words
    cwd: Path = ROOT
    light: bool = True
    database: bool = False


def _checks(words: Sequence[str] = ()) -> list[Check]:
    """All checks; pytest's get `words` as well."""
    return [
        Check("formatting of Python", [VENV / "bin/ruff", "format", "--check", "."]),
        Check("lint of Python", [VENV / "bin/ruff", "check", "."]),
        CORE_TYPES,
        SERVER_TYPES,
        Check(
            "a deployment with HTTPS",
            [PYTHON, "-c", "from kitchenhand.runs import deployment; raise SystemExit(deployment())"],
            ROOT / "tools",
        ),
        Check("import directions", [VENV / "bin/lint-imports", "--no-cache"]),
        *_of_the_web(),
        *_tests(words),
    ]


CORE_TYPES = Check("types of core", [VENV / "bin/mypy"])
SERVER_TYPES = Check("types of the server", [VENV / "bin/mypy", "--config-file", "mypy.ini"], SERVER)


def _of_the_web(related: Sequence[str] = ()) -> list[Check]:
    """The checks of the front end; with `related`, only the tests of some of its files."""
    tests = ["exec", "--", "vitest", "related", "--run", *related] if related else ["run", "--silent", "test"]
    return [
        Check("formatting and lint of the web", machine.npm("run", "--silent", "lint"), WEB),
        Check("types of the web", machine.npm("run", "--silent", "check"), WEB),
        Check("tests of the web", machine.npm(*tests), WEB),
    ]


def _tests(words: Sequence[str] = ()) -> list[Check]:
    pytest: Words = [PYTHON, "-m", "pytest", "-q", *words]
    browser, served, spoon = (ROOT / "tests" / name for name in ("browser", "served", "spoon"))
    two: Words = ["-n", "2"]
    files: Words = [*two, "--dist", "loadfile"]
    return [
        Check("core tests", [*pytest, *two, "--dist", "loadgroup", "core", "--doctest-modules"], light=False),
        Check(
            "server tests",
            [*pytest, *two, "-c", "server/pytest.ini", "server"],
            light=False,
            database=True,
        ),
        Check(
            "tests of the spoon command",
            [*pytest, *files, "-c", spoon / "pytest.ini", spoon],
            light=False,
            database=True,
        ),
        Check(
            "tests of the served application",
            [*pytest, *files, "-c", served / "pytest.ini", served],
            light=False,
            database=True,
        ),
        # Each worker has a server, a database and a browser of its own, which keep a processor busy.
        Check(
            "browser tests",
            [*pytest, *two, "--dist", "worksteal", "-c", browser / "pytest.ini", browser],
            light=False,
            database=True,
        ),
    ]


def run_all(only: list[str], matching: str = "") -> int:
    """Set up, run the checks whose name holds one of `only` (all by default) and print a summary. With
    `matching` only the tests that it names, as pytest's `-k` does."""
    if only == ["quick"]:
        return quick()
    words = ["-k", matching] if matching else []
    chosen = _chosen(only, _tests(words) if matching else _checks())
    machine.ensure(tests=True, node=True)
    return _run_checks(chosen, none_is_fine=bool(matching))


def _run_checks(chosen: Sequence[Check], *, none_is_fine: bool = False, tests_s: float | None = None) -> int:
    """Run checks, the light ones two at a time; print a summary, and exit with 1 where one failed. With
    `tests_s` the tests have so long together, after the light ones."""
    started = time.monotonic()
    database = any(check.database for check in chosen)
    with environment_of_tests(database=database, filled=tests_s is None) as environment:
        with ThreadPoolExecutor(2) as two:
            light = [check for check in chosen if check.light]
            results = list(two.map(lambda check: _run_aside(check, environment), light))
        heavy = [check for check in chosen if not check.light]
        for check in heavy:
            if tests_s is not None:
                environment[TESTS_END] = str(time.time() + tests_s / len(heavy))
            results.append(_run(check, environment))
    if none_is_fine:
        results = _some_found(results)
    return _summary(results, time.monotonic() - started)


def _some_found(results: Sequence[Result]) -> list[Result]:
    """Where tests were chosen by words, a check that has none of them is left out.

    Raises
    ------
    Trouble
        when none of them has any.
    """
    found = [one for one in results if one.status != NO_TESTS]
    if not found:
        raise Trouble("No test has a name like that.")
    return found


@contextmanager
def environment_of_tests(*, database: bool, filled: bool = True) -> Iterator[dict[str, str]]:
    """The environment of the tests; with a `database`, a snapshot of the demo kitchen and a running copy."""
    if not database:
        yield machine.environment(OLDSPOON_SECRET_KEY="only-for-tests", **NOWHERE)
        return
    own, cluster = snapshot.WHERE not in os.environ, None
    folder = snapshot.make(filled=filled) if own else snapshot.made()
    try:
        cluster = snapshot.clone(folder, f"test-{secrets.token_hex(3)}")
        cluster.start()
        yield machine.environment(
            **cluster.environment(Role.KEEPER),
            **{snapshot.WHERE: str(folder), "OLDSPOON_TEST_TEMPLATE": snapshot.MIGRATED},
            OLDSPOON_SECRET_KEY="only-for-tests",
        )
    finally:
        if cluster is not None:
            cluster.remove()
        if own:
            snapshot.remove(folder)


NOWHERE = {
    "OLDSPOON_DB_HOST": "127.0.0.1",
    "OLDSPOON_DB_PORT": "1",
    "OLDSPOON_DB_USER": "nobody",
    "OLDSPOON_DB_PASSWORD": "nothing",
    "OLDSPOON_DB_NAME": "nowhere",
}
"""For checks that read the settings and ask no database."""


def _chosen(words: list[str], checks: Sequence[Check]) -> list[Check]:
    """The checks whose name holds one of `words`, all where there are none. A word that no name holds is
    refused: a slip of the pen must not pass as "nothing failed"."""
    for word in words:
        if not any(word in check.name for check in checks):
            names = ", ".join(check.name for check in checks)
            raise Trouble(f"No check has “{word}” in its name; there are: {names}. Also: quick.")
    return [check for check in checks if not words or any(word in check.name for word in words)]


QUICK_TESTS_S = 45.0
"""How long the quick run tests at most; what it does not reach is counted."""


def quick() -> int:
    """Lint, types and contract of what changed since the last commit on main, and the unit tests of that and
    all that imports it, the nearest first, for as long as there is time."""
    machine.ensure(tests=True, node=True, web=False)
    changed = _changed()
    print(f"{len(changed)} files changed since the last commit on main", flush=True)
    python = any(path.suffix == ".py" for path in changed)
    chosen = [
        Check("formatting of Python", [VENV / "bin/ruff", "format", "--check", "."]),
        Check("lint of Python", [VENV / "bin/ruff", "check", "."]),
    ]
    if python:
        chosen += [CORE_TYPES, SERVER_TYPES, Check("import directions", [VENV / "bin/lint-imports"])]
    web = [path for path in changed if path.is_relative_to("web") or path.name == "openapi.json"]
    if web:
        sources = [str(path.relative_to("web")) for path in web if path.suffix in (".ts", ".tsx")]
        chosen += _of_the_web(sources)
    chosen += _related(changed) if python else []
    return _run_checks(chosen, tests_s=QUICK_TESTS_S)


def _related(changed: Sequence[Path]) -> list[Check]:
    """The unit tests that have to do with some changed files."""
    command = [PYTHON, "-m", "kitchenhand.related", *changed]
    said = subprocess.run(
        command, cwd=ROOT / "tools", env=machine.environment(), capture_output=True, text=True, check=True
    ).stdout
    files = said.split()
    found = []
    for folder, name, words in (
        ("core", "core tests of what changed", []),
        ("server", "server tests of what changed", ["-c", "server/pytest.ini", CONTRACT]),
    ):
        own = [file for file in files if file.startswith(folder) and file != CONTRACT]
        if own or (folder == "server" and any(path.is_relative_to("server") for path in changed)):
            command = [PYTHON, "-m", "pytest", "-q", "-n", "2", "-p", "kitchenhand.deadline", *words, *own]
            found.append(Check(name, command, light=False, database=folder == "server"))
    return found


CONTRACT = "server/tests/test_contract.py"


def _changed() -> list[Path]:
    """The files that differ from the last commit on main, those that are not committed included."""

    def git(*words: str) -> list[str]:
        done = subprocess.run(["git", *words], cwd=ROOT, capture_output=True, text=True, check=False)
        return done.stdout.splitlines() if done.returncode == 0 else []

    base = git("merge-base", "HEAD", "main") or git("merge-base", "HEAD", "origin/main") or ["HEAD"]
    names = {*git("diff", "--name-only", base[0]), *git("ls-files", "--others", "--exclude-standard")}
    return [Path(name) for name in sorted(names)]


@dataclass(frozen=True)
class Result:
    """How a check went; `failed` are the tests that did, as pytest names them, `skipped` and `late` how many
    were skipped, and how many of those because the time was up."""

    name: str
    status: int
    seconds: float
    failed: tuple[str, ...] = ()
    skipped: int = 0
    late: int = 0

    @property
    def passed(self) -> bool:
        """Whether it held."""
        return self.status == 0


def _run_aside(check: Check, environment: dict[str, str]) -> Result:
    """Run a check beside another; its output is printed in one piece."""
    started = time.monotonic()
    done = subprocess.run(
        check.command, cwd=check.cwd, env=environment, check=False, text=True,
        stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
    )  # fmt: skip
    print(f"\n── {check.name}\n{done.stdout}", end="", flush=True)
    return Result(check.name, done.returncode, time.monotonic() - started)


def _run(check: Check, environment: dict[str, str]) -> Result:
    """Run a check and print its output as it comes; the tests that failed are named again at the end."""
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
    return _result(check.name, going.returncode, time.monotonic() - started, heard.decode(errors="replace"))


def _result(name: str, status: int, seconds: float, said: str) -> Result:
    """What pytest's output says of a check: which tests failed, and how many were skipped."""
    failed = re.findall(r"^(?:FAILED|ERROR) \S+", said, re.MULTILINE)
    counted = re.findall(r"(\d+) skipped", said)
    late = sum(int(count) for count in re.findall(rf"^SKIPPED \[(\d+)\] .*{TIME_UP}", said, re.MULTILINE))
    return Result(name, status, seconds, tuple(failed), int(counted[-1]) if counted else 0, late)


NO_TESTS = 5
"""pytest's exit status where no test was chosen."""
MOST_SKIPPED = 10
"""More skipped tests than that in a whole run are a failure: what is skipped proves nothing."""


def _summary(results: list[Result], took_s: float) -> int:
    print("\n── summary")
    for one in results:
        skipped = f", {one.skipped} skipped" if one.skipped else ""
        print(f"  {'passed' if one.passed else 'FAILED':7} {one.seconds:6.1f} s  {one.name}{skipped}")
        for test in one.failed:
            print(f"            {test}")
    failed = [one for one in results if not one.passed]
    late = sum(one.late for one in results)
    skipped = sum(one.skipped for one in results) - late
    if late:
        print(f"  {late} tests were not reached in {QUICK_TESTS_S:.0f} s: ./spoon test runs them all")
    if skipped:
        print(f"  {skipped} tests were skipped for their own reasons; at most {MOST_SKIPPED} may be")
    print(f"  {len(results) - len(failed)} of {len(results)} checks passed in {took_s:.0f} s", flush=True)
    return 1 if failed or skipped > MOST_SKIPPED else 0
