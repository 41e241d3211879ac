"""Every law says what its arguments are and in which unit."""

from __future__ import annotations

import importlib
import inspect
import pkgutil
import re
from typing import get_type_hints

import custard.physics
import pytest

MODULES = [f"custard.physics.{found.name}" for found in pkgutil.iter_modules(custard.physics.__path__)]
LAWS = [
    function
    for module in MODULES
    for name, function in inspect.getmembers(importlib.import_module(module), inspect.isfunction)
    if function.__module__ == module and not name.startswith("_")
]


@pytest.mark.parametrize("law", LAWS, ids=lambda law: f"{law.__module__.rpartition('.')[2]}.{law.__name__}")
def test_every_argument_has_a_unit(law):
    text = inspect.getdoc(law) or ""
    for name in inspect.signature(law).parameters:
        line = re.search(rf"^\s*(?:[\w, ]*\b)?{name}\b[^\n]* : (.+)$", text, re.MULTILINE)
        assert line, f"{name} is not described"
        kind = get_type_hints(law)[name]
        unitless = line[1].startswith("parameters")
        if isinstance(kind, type) and issubclass(kind, tuple):
            # Several arguments in one: its own attributes have the units.
            line, unitless = re.search(r"\[[^\]]+\]", inspect.getdoc(kind) or ""), True
            assert line, f"{kind.__name__} has no unit"
        assert unitless or re.search(r"\[[^\]]+\]", line[1]), f"{name} has no unit"


def test_there_are_laws():
    assert len(LAWS) > 25
