"""Runs besides the tests: longer fuzzing, pictures, dishes, benchmarks, settings behind HTTPS."""

from __future__ import annotations

import secrets
import subprocess
from collections.abc import Callable
from pathlib import Path

from kitchenhand import machine
from kitchenhand.checks import Words, environment_of_tests
from kitchenhand.cluster import Role, open_cluster
from kitchenhand.places import PYTHON, ROOT, SERVER


def fuzz(calls: int, sequences: int, kills: int, seed: int | None) -> int:
    """Try to break it for longer than the tests do, with another seed each time."""
    machine.ensure(tests=True)
    seed = secrets.randbelow(1 << 31) if seed is None else seed
    print(f"seed {seed}: ./spoon fuzz --seed {seed} tries the same again", flush=True)
    served = ROOT / "tests" / "served"
    files = [served / f"test_{name}.py" for name in ("fuzz", "sequences", "kills")]
    longer = {
        "OLDSPOON_FUZZ": calls,
        "OLDSPOON_SEQUENCES": sequences,
        "OLDSPOON_KILLS": kills,
        "OLDSPOON_SEED": seed,
    }
    with environment_of_tests(database=True) as environment:
        environment |= {name: str(value) for name, value in longer.items()}
        command = [PYTHON, "-m", "pytest", "-q", "-n", "2", "--dist", "loadfile", "-c", served / "pytest.ini"]
        return subprocess.run([*command, *files], cwd=ROOT, env=environment, check=False).returncode


def deployment() -> int:
    """Django's own checks of a deployment, as it is behind a proxy with HTTPS."""
    machine.ensure_python(tests=False)
    environment = machine.environment(
        OLDSPOON_SECRET_KEY=secrets.token_urlsafe(48), OLDSPOON_HTTPS="1", OLDSPOON_HOSTS="kitchen.example"
    )
    command = [PYTHON, "manage.py", "check", "--deploy", "--fail-level", "WARNING"]
    return subprocess.run(command, cwd=SERVER, env=environment, check=False).returncode


def pictures() -> int:
    """Take the pictures in docs/screenshots again."""
    machine.ensure(tests=True)
    return in_the_browser("pictures.py")


def dishes() -> int:
    """Walk all eighteen dishes from recipe to label, and print the touches and typed characters of each."""
    machine.ensure(tests=True)
    return in_the_browser("test_dishes.py", "-s", OLDSPOON_DISHES="all")


def in_the_browser(file: str, *words: str, **variables: str) -> int:
    """Run one file of tests/browser, with more variables in its environment."""
    browser = ROOT / "tests" / "browser"
    command = [PYTHON, "-m", "pytest", "-q", *words, "-c", browser / "pytest.ini", browser / file]
    with environment_of_tests(database=True) as environment:
        return subprocess.run(command, cwd=ROOT, env=environment | variables, check=False).returncode


def run_in_environment(command: Callable[[], Words], cwd: Path = ROOT) -> int:
    """Run one command against a throw-away cluster; it finds the benchmarks of the server."""
    cluster = open_cluster(f"bench-{secrets.token_hex(3)}")
    try:
        cluster.start()
        environment = machine.environment(
            **cluster.environment(Role.KEEPER),
            OLDSPOON_SECRET_KEY="only-for-this-run",
            PYTHONPATH=str(ROOT / "benchmarks"),
        )
        return subprocess.run(command(), cwd=cwd, env=environment, check=False).returncode
    finally:
        cluster.remove()
