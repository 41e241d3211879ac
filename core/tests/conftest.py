"""Formulas the core tests share: short to write, read through the public door."""

from __future__ import annotations

from collections.abc import Callable

import custard
import pytest
from hypothesis import settings

# The same cases every time: what fails once fails again. `--hypothesis-profile=default` looks further.
settings.register_profile("steady", derandomize=True)
settings.load_profile("steady")

Make = Callable[..., custard.Formula]


def make(family: str, *lines: tuple[str, str | int | float], **keys: str) -> custard.Formula:
    return custard.read_formula(
        {
            "format": "old-spoon/formula",
            "version": 1,
            "name": "test",
            "family": family,
            **keys,
            "lines": [{"ingredient": name, "amount": amount} for name, amount in lines],
        }
    )


@pytest.fixture(name="make")
def make_fixture() -> Make:
    return make


@pytest.fixture
def anglaise() -> custard.Formula:
    return make("anglaise", ("whole-milk", "500 ml"), ("egg-yolk", "6"), ("white-sugar", "90 g"))
