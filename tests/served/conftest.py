"""One house for all tests here."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from house import House


@pytest.fixture(scope="session")
def house() -> Iterator[House]:
    made = House()
    yield made
    made.close()


@pytest.fixture(scope="module")
def port(house: House) -> int:
    """A server process of one file's tests."""
    house.forgive()
    house.clear_the_stove()
    return house.serve()


def pytest_terminal_summary(terminalreporter) -> None:
    """What was tried and what came of it, whichever process tried it."""
    for report in terminalreporter.getreports("passed") + terminalreporter.getreports("failed"):
        for name, told in report.user_properties:
            if name == "told":
                terminalreporter.write_line(told)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """A file's tests share what they set up, so one process runs them; the fuzzing's parts go apart."""
    for item in items:
        group = item.nodeid if "test_fuzz" in item.nodeid else str(item.path)
        item.add_marker(pytest.mark.xdist_group(group))
