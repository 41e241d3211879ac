"""`./spoon test`: what it runs, and what it leaves behind when it is ended in the middle."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time

import pytest
from kitchenhand import checks, cluster, places, snapshot
from kitchenhand.say import Trouble


def test_a_word_that_names_no_check_is_refused():
    with pytest.raises(Trouble, match=r"nonsense.*browser tests"):
        checks.run_all(["core tests", "nonsense"])


def test_an_ended_run_leaves_no_database_behind():
    """A plain `kill`, as of a build machine that has waited long enough, once its database is up."""
    code = (
        "from kitchenhand import __main__, checks; from kitchenhand.checks import Check; "
        "checks._checks = lambda *_: [Check('wait', ['sleep', '60'], light=False, database=True)]; "
        "raise SystemExit(__main__.main(['test']))"
    )
    before = clusters()
    process = subprocess.Popen(
        [places.BASE_PYTHON, "-c", code],
        env={**os.environ, "PYTHONPATH": str(places.ROOT / "tools"), "PYTHONUNBUFFERED": "1"},
        stdout=subprocess.PIPE,
        text=True,
    )
    assert process.stdout is not None
    for line in process.stdout:
        if line.startswith("── wait"):
            break
    assert clusters() - before
    time.sleep(0.2)
    process.send_signal(signal.SIGTERM)
    process.communicate(timeout=30)
    assert process.returncode == 130
    assert not clusters() - before


def clusters() -> set[str]:
    """The throw-away clusters of test runs."""
    homes = [cluster.home_of_clusters(), *snapshot.MEMORY.glob(f"{snapshot.PREFIX}*")]
    kinds = ("test", "snapshot")
    return {folder.name for home in homes for kind in kinds for folder in home.glob(f"{kind}-*")}


def test_what_failed_is_told_once_more_at_the_end(capfd):
    says = "print('..F'); print('FAILED tests/a.py::test_b - AssertionError: 1'); raise SystemExit(1)"
    result = checks._run(checks.Check("some tests", [sys.executable, "-c", says]), dict(os.environ))
    assert not result.passed
    assert result.failed == ("FAILED tests/a.py::test_b",)
    assert checks._summary([result], 1.0) == 1
    told = capfd.readouterr().out
    assert told.index("..F") < told.index("summary") < told.rindex("tests/a.py::test_b")


SAID = """
SKIPPED [3] server/tests/conftest.py:9: the time of the quick tests is up
SKIPPED [1] tests/a.py:3: needs a C compiler
== 12 passed, {skipped} skipped in 3.00s ==
"""


def test_skipped_tests_are_counted_and_bounded(capfd):
    few = checks._result("some tests", 0, 1.0, SAID.format(skipped=4))
    assert (few.skipped, few.late) == (4, 3)
    assert checks._summary([few], 1.0) == 0
    said = capfd.readouterr().out
    assert "3 tests were not reached" in said
    assert "1 tests were skipped for their own reasons" in said
    assert checks._summary([checks._result("some tests", 0, 1.0, "9 passed, 11 skipped")], 1.0) == 1


def test_a_name_that_no_test_has_is_refused():
    found = [checks.Result("core tests", checks.NO_TESTS, 1.0), checks.Result("server tests", 0, 1.0)]
    assert [one.name for one in checks._some_found(found)] == ["server tests"]
    with pytest.raises(Trouble, match="No test has a name like that"):
        checks._some_found(found[:1])
